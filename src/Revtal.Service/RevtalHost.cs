using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Microsoft.AspNetCore.Connections;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.Extensions.Options;
using Revtal.Core;
using Revtal.Documents;
using Revtal.Service.Arrivals;
using Revtal.Service.Batches;
using Revtal.Service.Board;
using Revtal.Service.Collect;
using Revtal.Service.Console;
using Revtal.Service.Dummies;
using Revtal.Service.Guides;
using Revtal.Service.Health;
using Revtal.Service.Http;
using Revtal.Service.Live;
using Revtal.Service.Machines;
using Revtal.Service.Orders;
using Revtal.Service.Outward;
using Revtal.Service.Parts;
using Revtal.Service.People;
using Revtal.Service.Pictures;
using Revtal.Service.Planning;
using Revtal.Service.Reports;
using Revtal.Service.Shop;
using Revtal.Service.Store;
using Revtal.Service.Telemetry;
using Revtal.Storage;

namespace Revtal.Service;

/// <summary>The service from its arguments to its end. Each capability registers and maps itself.</summary>
public static class RevtalHost
{
    private const int Done = 0,
        WrongUsage = 2;

    /// <summary>The exit code where the store cannot be used.</summary>
    public const int StoreUnusable = 3;

    private const long LargestBody = 1 << 20;

    /// <summary>Runs until it is stopped.</summary>
    /// <param name="fill">What is done once the store is ready, before anybody is answered; null for nothing.</param>
    /// <param name="isDemo">Whether its people sign in with one press.</param>
    /// <returns>The exit code: 0 stopped, 2 a setting that cannot be, 3 a store that cannot be used.</returns>
    public static async Task<int> RunAsync(
        string[] args,
        Func<IServiceProvider, Task>? fill = null,
        bool isDemo = false
    )
    {
        if (args.Any(a => a is "--help" or "-h"))
        {
            System.Console.Write(HostSettings.Help);
            return Done;
        }

        try
        {
            await using var app = await OpenAsync(args, TimeProvider.System, fill, isDemo);
            if (app is null)
            {
                return Done;
            }

            await app.WaitForShutdownAsync();
            return Done;
        }
        catch (SettingException e)
        {
            await System.Console.Error.WriteLineAsync($"revtald: {e.Message}");
            return WrongUsage;
        }
        catch (StoreException e)
        {
            await System.Console.Error.WriteLineAsync($"revtald: {e.Message}");
            return StoreUnusable;
        }
    }

    /// <summary>Started and listening, for whoever runs it inside another program with a clock of its own.</summary>
    /// <returns>Null where the arguments asked for something else than a service, which is done.</returns>
    /// <exception cref="SettingException">A setting cannot be.</exception>
    /// <exception cref="StoreException">The data folder or what is in it cannot be used.</exception>
    public static async Task<WebApplication?> OpenAsync(
        string[] args,
        TimeProvider clock,
        Func<IServiceProvider, Task>? fill = null,
        bool isDemo = false
    )
    {
        var builder = WebApplication.CreateSlimBuilder(args);
        builder.Configuration.AddEnvironmentVariables("REVTAL_").AddCommandLine(args);
        var settings = HostSettings.Read(builder.Configuration);

        if (settings.Prove is { } proved)
        {
            await BackupJobs.ProveAsync(proved);
            return null;
        }

        IStoreEngine engine = settings.Store is { } store
            ? new PostgresEngine(store)
            : new SqliteEngine(StoreFolder.Take(settings.Folder));

        // Runs beside the building of the service, which takes as long.
        var prepared = Task.Run(engine.PrepareAsync);
        Listen(builder, settings);
        Log(builder.Logging, settings);
        var steady = new SteadyClock(clock);
        Register(builder.Services, settings, engine, steady, isDemo);
        builder.Services.AddTelemetry(builder.Logging, settings.Telemetry);
        var app = builder.Build();
        app.Lifetime.ApplicationStopped.Register(engine.Dispose);
        if (settings.Rebuild)
        {
            await prepared;
            Rebuild(app.Services);
            await app.DisposeAsync();
            return null;
        }

        if (settings.Restore is { } backup)
        {
            await prepared;
            await BackupJobs.RestoreAsync(app.Services, backup);
            await app.DisposeAsync();
            return null;
        }

        Map(app, settings);
        await prepared;
        RebuildWhereDue(app);
        NeedClosed(app, settings, isDemo);
        if (app.Services.GetRequiredService<Journal>().LastMoment() is { } written)
        {
            steady.NotBefore(written);
        }

        if (fill is not null)
        {
            await fill(app.Services);
        }

        await StartAsync(app, settings);
        return app;
    }

    // Until somebody has to prove who they are, nobody is asked from afar.
    private static void NeedClosed(WebApplication app, HostSettings settings, bool isDemo)
    {
        if (settings.FirstOpen is { } open && (isDemo || !app.Services.GetRequiredService<SignInStore>().HasLead()))
        {
            throw new SettingException(
                $"{open} can be reached from other machines. "
                    + (isDemo ? "A demo, whose people have no passwords, " : "Until a lead has a password, it ")
                    + $"listens on loopback only: use {LoopbackOnly.DefaultUrl}."
            );
        }
    }

    private static void Listen(WebApplicationBuilder builder, HostSettings settings) =>
        builder
            .WebHost.UseUrls(settings.CollectUrls is { } more ? $"{settings.Urls};{more}" : settings.Urls)
            .UseKestrelHttpsConfiguration()
            .ConfigureKestrel(k =>
            {
                if (settings.Certificate is { } file)
                {
                    k.ConfigureHttpsDefaults(h => h.ServerCertificate = CertificateOf(file, settings.CertificateKey!));
                }

                k.AddServerHeader = false;
                k.Limits.MaxRequestBodySize = LargestBody;
            });

    private static X509Certificate2 CertificateOf(string file, string key)
    {
        try
        {
            return X509Certificate2.CreateFromPemFile(file, key);
        }
        catch (Exception e) when (e is IOException or CryptographicException or UnauthorizedAccessException)
        {
            throw new SettingException($"The certificate {file} with the key {key} cannot be used: {e.Message}");
        }
    }

    private static void Log(ILoggingBuilder logging, HostSettings settings)
    {
        logging.ClearProviders();
        if (settings.PlainLog)
        {
            logging.AddSimpleConsole(o => o.SingleLine = true);
        }
        else
        {
            logging.AddJsonConsole(o => o.UseUtcTimestamp = true);
        }

        logging
            .AddFilter("Microsoft.AspNetCore", LogLevel.Warning)
            .AddFilter("Microsoft.EntityFrameworkCore", LogLevel.Warning)
            // What keeps it from starting is said in one sentence.
            .AddFilter("Microsoft.Extensions.Hosting.Internal.Host", LogLevel.None);
    }

    private static void Register(
        IServiceCollection services,
        HostSettings settings,
        IStoreEngine engine,
        SteadyClock clock,
        bool isDemo
    )
    {
        services.AddSingleton(Options.Create(settings.Shop)).AddSingleton<TimeProvider>(clock).AddSingleton<Press>();
        services.AddSingleton<WireJson>().AddSingleton<IOptions<JsonOptions>>(s => s.GetRequiredService<WireJson>());
        services.AddStorage(engine, GuideYaml.Read, GuideYaml.Write, settings.Shop.SignKey);
        services
            .AddOrders()
            .AddPlanning()
            .AddReports()
            .AddInvoices()
            .AddLive()
            .AddDummies()
            .AddArrivals()
            .AddBatches()
            .AddCollector();
        services.AddSignIn(isDemo).AddRates(settings.Rate);
        services.AddOtherDoor(settings.Oidc);
        services.AddWebhooks().AddMail(settings.Mail).AddStoreKeeping(settings.Backup);
        services.Configure<RouteHandlerOptions>(o => o.ThrowOnBadRequest = true);
        services.AddProblemDetails(o => o.CustomizeProblemDetails = Problems.Complete).AddExceptionHandler<Problems>();
        services.AddResponseCompression(o =>
            o.MimeTypes = ["text/html", "text/css", "text/javascript", "application/javascript"]
        );
        services.Configure<ForwardedHeadersOptions>(o =>
        {
            o.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
            o.KnownIPNetworks.Clear();
            o.KnownProxies.Clear();
            foreach (var proxy in settings.Proxies)
            {
                o.KnownProxies.Add(IPAddress.Parse(proxy));
            }
        });
        services.AddRevtalOpenApi();
    }

    private static void Map(WebApplication app, HostSettings settings)
    {
        if (settings.Proxies.Count > 0)
        {
            app.UseForwardedHeaders();
        }

        app.UseCollectorPort(settings.CollectPort, settings.AllowedHosts);
        if (settings.FirstOpen is not null)
        {
            // Only what came over https is answered so.
            app.UseHsts();
        }

        app.UseExceptionHandler();
        app.UseStatusCodePages();
        app.UseResponseCompression();
        app.UseRouting();
        app.UseUtf8Only();
        app.UseRateLimiter();
        app.UseOtherDoor();
        app.UseDoor();
        app.UseConsole();
        app.MapHealth();
        app.MapMetrics(settings.Telemetry);
        app.MapOpenApi("/openapi/{documentName}.json").AddEndpointFilter(WireJson.DescribeAsync);
        var api = app.MapGroup("/api/v1").AddEndpointFilter(Parameters.CheckAsync).AddEndpointFilter(NoGaps.CheckAsync);
        ((IEndpointConventionBuilder)api).Finally(Door.ByTable);
        api.MapBoard();
        api.MapCalendar();
        api.MapOrders();
        api.MapShared();
        api.MapBench();
        api.MapPlans();
        api.MapQuotes();
        api.MapReports();
        api.MapInvoices();
        api.MapDrives();
        api.MapParts();
        api.MapMachines();
        api.MapArrivals();
        api.MapBatches();
        api.MapReadings();
        api.MapMeasuring();
        api.MapDummies();
        app.MapCollect(api);
        api.MapPictures();
        api.MapGuides();
        api.MapDrafts();
        api.MapLibrary();
        api.MapExchange();
        api.MapShop();
        api.MapSessions();
        api.MapCodes();
        api.MapTablets();
        api.MapLive();
        api.MapHere();
        api.MapNotices();
        api.MapWebhooks();
        api.MapMail();
        api.MapStore();
    }

    private static void Rebuild(IServiceProvider services)
    {
        var (orders, unread) = services.GetRequiredService<Rebuild>().Run();
        System.Console.WriteLine($"Rebuilt the projection of {orders} orders from the journal.");
        if (unread.Count > 0)
        {
            System.Console.WriteLine(
                $"The rows of {Phrases.Listed([.. unread.Select(n => $"{n}")])} stay as they were: their entries do "
                    + "not make an order. See: revtal shop verify."
            );
        }
    }

    // An earlier version said something else of the same entries: its rows go before anybody reads them.
    private static void RebuildWhereDue(WebApplication app)
    {
        var rebuild = app.Services.GetRequiredService<Rebuild>();
        if (rebuild.IsDue())
        {
            var (_, unread) = rebuild.Run(
                all: false,
                made =>
                {
                    if (made > 0)
                    {
                        app.Logger.LogInformation("{Orders} orders have their rows made anew", made);
                    }
                },
                read =>
                {
                    if (read > 0)
                    {
                        app.Logger.LogInformation("What orders are found by is read up to entry {Position}", read);
                    }
                }
            );
            if (unread.Count > 0)
            {
                app.Logger.LogWarning("{Unread} keep the rows that they had: {Orders}", unread.Count, unread);
            }
        }
    }

    private static async Task StartAsync(WebApplication app, HostSettings settings)
    {
        try
        {
            await app.StartAsync();
        }
        catch (IOException e) when (e.InnerException is AddressInUseException)
        {
            throw new SettingException(
                $"{settings.Urls} is in use, maybe by another revtald. Stop that one, or choose another with --urls."
            );
        }

        // The addresses as they came to be: port 0 has the system choose one.
        app.Logger.LogInformation(
            "Revtal {Version} for {Shop} listens on {Urls}, {Place}",
            BuildVersion.Text,
            settings.Shop.Name,
            string.Join(" and ", app.Urls),
            app.Services.GetRequiredService<IStoreEngine>().Place
        );
        SetUp.TellFirst(app);
    }
}
