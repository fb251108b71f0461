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
    /// <summary>What is printed for <c>--help</c>.</summary>
    public const string Help = """
        revtald: the bench's service.

          --urls ADDRESS           where it listens; loopback only      (http://127.0.0.1:7420)
          --data FOLDER            its data                             (~/.local/share/revtal)
          --shop:name NAME         what the shop is called              (Repair bench)
          --shop:url ADDRESS       where customers open their links     (where you are)
          --shop:zone ZONE         its time zone, an IANA name          (UTC)
          --shop:currency CODE     of its quotes, ISO 4217              (EUR)
          --shop:hourRate PRICE    of an hour's work, without tax       (60)
          --shop:taxPercent SHARE                                       (0)
          --collect:urls ADDRESS   where machines reach the collector   (nowhere)
          --log plain              lines for people instead of JSON
          --rebuild true           makes the projection anew, and ends

        Each may also be set in the environment: REVTAL_Data, REVTAL_Shop__Name.
        It ends with 0 when stopped, 2 for a setting and 3 for a store that cannot be used.

        """;

    /// <summary>Reads and proves them.</summary>
    /// <exception cref="SettingException">One cannot be.</exception>
    public static HostSettings Read(IConfiguration from)
    {
        // They would listen beside what is proved here.
        if (from.GetSection("Kestrel:Endpoints").Exists())
        {
            throw new SettingException("Kestrel endpoints are not taken: say where to listen with --urls.");
        }

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
            return $"“{CollectUrls}” is no address for the collector. Write one with its port: http://0.0.0.0:7421.";
        }

        return Shop.Problem;
    }
}

/// <summary>A setting with which the service cannot start; the message says which, and what to give instead.</summary>
public sealed class SettingException(string message) : Exception(message);
