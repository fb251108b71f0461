using System.Globalization;
using System.Net;
using Revtal.Service.Collect;
using Revtal.Service.Http;
using Revtal.Service.Outward;
using Revtal.Service.People;
using Revtal.Service.Shop;
using Revtal.Service.Store;
using Revtal.Service.Telemetry;

namespace Revtal.Service;

/// <summary>What the service is started with, read and proved before anything is built.</summary>
/// <param name="Urls">Where it listens; on loopback only until a lead has a password.</param>
/// <param name="Folder">Its data, where no server holds them.</param>
/// <param name="Store">The PostgreSQL database that holds them; null for the folder.</param>
/// <param name="CollectUrls">Where machines on the bench's network reach the collector; null where they do not.</param>
/// <param name="Rate">How many requests a second one sign-in may send; 0 for any.</param>
/// <param name="PlainLog">Lines for people instead of JSON.</param>
/// <param name="Rebuild">Make the projection anew and end.</param>
/// <param name="Restore">A backup to fill an empty store from, and end; null for none.</param>
/// <param name="Prove">A backup to prove, and end; null for none.</param>
/// <param name="Certificate">A file in PEM, for https; null where none is spoken here.</param>
/// <param name="CertificateKey">Its key, in PEM.</param>
/// <param name="Hosts">Further names by which it is called.</param>
/// <param name="Proxies">Addresses whose word for where a request came from is taken.</param>
internal sealed record HostSettings(
    string Urls,
    string Folder,
    string? Store,
    string? CollectUrls,
    int? CollectPort,
    ShopOptions Shop,
    OidcOptions Oidc,
    MailOptions Mail,
    BackupOptions Backup,
    TelemetryOptions Telemetry,
    int Rate,
    bool PlainLog,
    bool Rebuild,
    string? Restore,
    string? Prove,
    string? Certificate,
    string? CertificateKey,
    IReadOnlyList<string> Hosts,
    IReadOnlyList<string> Proxies
)
{
    /// <summary>The first of the addresses that others could reach; null when there is none.</summary>
    public string? FirstOpen => LoopbackOnly.FirstOpen(Urls);

    /// <summary>The names by which the console and the API are called; the collector answers to any.</summary>
    public IReadOnlyList<string> AllowedHosts =>
        [
            "localhost",
            "127.0.0.1",
            "[::1]",
            .. Hosts,
            .. Parts(Urls)
                .Select(u => BindingAddress.Parse(u).Host)
                .Where(h => h is not ("*" or "+" or "0.0.0.0" or "[::]")),
            .. Shop.Url is { } url ? [new Uri(url).Host] : Array.Empty<string>(),
        ];

    /// <summary>What is printed for <c>--help</c>.</summary>
    public const string Help = """
        revtald: the bench's service.

          --urls ADDRESS           where it listens; loopback only until
                                   a lead has a password                (http://127.0.0.1:7420)
          --data FOLDER            its data                             (~/.local/share/revtal)
          --store CONNECTION       a PostgreSQL database instead, for any number of
                                   instances: Host=db;Database=revtal;Username=revtal
          --shop:name NAME         what the shop is called              (Repair bench)
          --shop:url ADDRESS       where customers open their links     (where you are)
          --shop:zone ZONE         its time zone, an IANA name          (UTC)
          --shop:currency CODE     of its quotes, ISO 4217              (EUR)
          --shop:hourRate PRICE    of an hour's work, without tax       (60)
          --shop:taxPercent SHARE                                       (0)
          --shop:tabletLocksAfter MINUTES  a bench tablet asks again    (10)
          --shop:signKey FILE      by which it signs each day's head    (one that the store keeps)
          --certificate FILE       for https://, in PEM, with --certificateKey FILE
          --hosts NAME;NAME        names by which it is called          (those of --urls and --shop:url)
          --proxies IP;IP          proxies whose forwarded headers are taken
          --oidc:authority ADDRESS a service (OpenID Connect) by which people sign in
                                   too, with --oidc:clientId and --oidc:clientSecret
          --oidc:name NAME         what people call it                  (the shop's account)
          --oidc:claim CLAIM       which claim is a person's id here    (preferred_username)
          --smtp:host NAME         a mail server, by which people hear of
                                   notices that lie unread              (no mail)
          --smtp:from ADDRESS      whom mail comes from
          --smtp:port PORT                                              (587)
          --smtp:security WAY      start-tls, tls or none               (start-tls)
          --smtp:user NAME         with its password in REVTAL_Smtp__Password
          --smtp:after MINUTES     how long a notice lies unread        (5)
          --collect:urls ADDRESS   where machines reach the collector   (nowhere)
          --rate NUMBER            requests a second that one sign-in
                                   may send; 0 for any                  (100)
          --metrics true           answers /metrics, for Prometheus     (off)
          --otlp:endpoint ADDRESS  where traces, metrics and logs go by
                                   OTLP: http://127.0.0.1:4317          (nowhere)
          --log plain              lines for people instead of JSON
          --backup:folder FOLDER   where it puts a backup by itself     (none is made)
          --backup:every HOURS                                          (24)
          --backup:keep NUMBER     how many stay                        (14)
          --rebuild true           makes the projection anew, and ends
          --restore FILE           fills an empty store from a backup, and ends
          --prove FILE             tells whether a backup is whole and true, and ends

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
        var oidc = new OidcOptions();
        from.GetSection("Oidc").Bind(oidc);
        var mail = new MailOptions();
        from.GetSection("Smtp").Bind(mail);
        var backup = new BackupOptions();
        from.GetSection("Backup").Bind(backup);
        var collectUrls = from["Collect:Urls"];
        var settings = new HostSettings(
            from["Urls"] ?? LoopbackOnly.DefaultUrl,
            Path.GetFullPath(from["Data"] ?? DefaultFolder),
            from["Store"],
            collectUrls,
            collectUrls is null ? null : CollectorPort.Of(collectUrls),
            shop,
            oidc,
            mail,
            backup,
            TelemetryOptions.Read(from),
            RateOf(from["Rate"]),
            from["Log"] == "plain",
            from["Rebuild"] is not null,
            from["Restore"],
            from["Prove"],
            from["Certificate"],
            from["CertificateKey"],
            Parts(from["Hosts"]),
            Parts(from["Proxies"])
        );
        return settings.WhyImpossible() is { } why ? throw new SettingException(why) : settings;
    }

    private static int RateOf(string? text) =>
        text is null ? Rates.Usual
        : int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var rate) && rate <= 100_000 ? rate
        : throw new SettingException($"“{text}” is no number of requests a second. Write one like 100, or 0 for any.");

    private static string[] Parts(string? list) =>
        list?.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries) ?? [];

    private static string DefaultFolder =>
        Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.LocalApplicationData), "revtal");

    private string? WhyImpossible()
    {
        if (Parts(Urls).FirstOrDefault(u => !LoopbackOnly.IsAddress(u)) is { } none)
        {
            return $"“{none}” is no address to listen on. Write one like {LoopbackOnly.DefaultUrl}.";
        }

        if (Certificate is null && Urls.Contains("https://", StringComparison.OrdinalIgnoreCase))
        {
            return "An address with https:// wants a certificate: give --certificate FILE and --certificateKey FILE.";
        }

        if (Certificate is not null && CertificateKey is null)
        {
            return "A certificate wants its key: give --certificateKey FILE, in PEM.";
        }

        if (Proxies.FirstOrDefault(p => !IPAddress.TryParse(p, out _)) is { } proxy)
        {
            return $"“{proxy}” is no address of a proxy. Write it like 10.0.0.2.";
        }

        if (CollectUrls is not null && CollectPort is null)
        {
            return $"“{CollectUrls}” is no address for the collector. Write one with its port: http://0.0.0.0:7421.";
        }

        return Shop.Problem ?? Oidc.Problem ?? Mail.Problem ?? Backup.Problem ?? Telemetry.Problem;
    }
}

/// <summary>A setting with which the service cannot start; the message says which, and what to give instead.</summary>
public sealed class SettingException(string message) : Exception(message);
