using Revtal.Service.Collect;
using Revtal.Service.Http;
using Revtal.Service.Shop;

namespace Revtal.Service;

/// <summary>What the service is started with, read and proved before anything is built.</summary>
/// <param name="Urls">Where it listens; loopback only.</param>
/// <param name="Folder">Its data.</param>
/// <param name="CollectUrls">Where machines on the bench's network reach the collector; null where they do not.</param>
/// <param name="PlainLog">Lines for people instead of JSON.</param>
/// <param name="Rebuild">Make the projection anew and end.</param>
internal sealed record HostSettings(
    string Urls,
    string Folder,
    string? CollectUrls,
    int? CollectPort,
    ShopOptions Shop,
    bool PlainLog,
    bool Rebuild
)
{
    /// <summary>Reads and proves them.</summary>
    /// <exception cref="SettingException">One cannot be.</exception>
    public static HostSettings Read(IConfiguration from)
    {
        var shop = new ShopOptions();
        from.GetSection("Shop").Bind(shop);
        var collectUrls = from["Collect:Urls"];
        var settings = new HostSettings(
            from["Urls"] ?? LoopbackOnly.DefaultUrl,
            Path.GetFullPath(from["Data"] ?? DefaultFolder),
            collectUrls,
            collectUrls is null ? null : CollectorPort.Of(collectUrls),
            shop,
            from["Log"] == "plain",
            from["Rebuild"] is not null
        );
        return settings.WhyImpossible() is { } why ? throw new SettingException(why) : settings;
    }

    private static string DefaultFolder =>
        Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.LocalApplicationData), "revtal");

    private string? WhyImpossible()
    {
        if (LoopbackOnly.FirstOpen(Urls) is { } open)
        {
            return $"{open} can be reached from other machines. Until people sign in, it listens on loopback only: "
                + $"use {LoopbackOnly.DefaultUrl}.";
        }

        if (CollectUrls is not null && CollectPort is null)
        {
            return $"“{CollectUrls}” is no address for the collector. Write one, like http://0.0.0.0:7421.";
        }

        return Shop.Problem;
    }
}

/// <summary>A setting with which the service cannot start; the message says which, and what to give instead.</summary>
public sealed class SettingException(string message) : Exception(message);
