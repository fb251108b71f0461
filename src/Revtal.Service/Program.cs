using Microsoft.AspNetCore.Connections;
using Microsoft.AspNetCore.HostFiltering;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Revtal.Core;
using Revtal.Documents;
using Revtal.Service;
using Revtal.Service.Board;
using Revtal.Service.Collect;
using Revtal.Service.Console;
using Revtal.Service.Demo;
using Revtal.Service.Dummies;
using Revtal.Service.Guides;
using Revtal.Service.Health;
using Revtal.Service.Http;
using Revtal.Service.Live;
using Revtal.Service.Orders;
using Revtal.Service.Parts;
using Revtal.Service.Pictures;
using Revtal.Service.Planning;
using Revtal.Service.Shop;
using Revtal.Storage;

var builder = WebApplication.CreateSlimBuilder(args);
builder.Configuration.AddEnvironmentVariables("REVTAL_").AddCommandLine(args);
var settings = builder.Configuration;
var urls = settings["Urls"] ?? LoopbackOnly.DefaultUrl;
if (LoopbackOnly.FirstOpen(urls) is { } open)
{
    await System.Console.Error.WriteLineAsync(
        $"revtald: {open} can be reached from other machines. Until people sign in, it listens on loopback only: use "
            + $"{LoopbackOnly.DefaultUrl}."
    );
    return 2;
}

var folder = Path.GetFullPath(
    settings["Data"]
        ?? Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.LocalApplicationData), "revtal")
);
try
{
    Directory.CreateDirectory(folder);
}
catch (Exception e) when (e is IOException or UnauthorizedAccessException)
{
    await System.Console.Error.WriteLineAsync(
        $"revtald: the data folder {folder} cannot be used: {e.Message} Choose another with --data."
    );
    return 2;
}

if (settings["Shop:Zone"] is { } zone && !TimeZoneInfo.TryFindSystemTimeZoneById(zone, out _))
{
    await System.Console.Error.WriteLineAsync(
        $"revtald: there is no time zone “{zone}”. Write an IANA name, like UTC or Etc/GMT-1."
    );
    return 2;
}

var shopOptions = new ShopOptions();
settings.GetSection("Shop").Bind(shopOptions);
if (shopOptions.Problem is { } problem)
{
    await System.Console.Error.WriteLineAsync($"revtald: {problem}");
    return 2;
}

// Machines on the bench's network reach the collector here, and nothing else.
var collectUrls = settings["Collect:Urls"];
var collectPort = collectUrls is null ? (int?)null : CollectorPort.Of(collectUrls);
if (collectUrls is not null && collectPort is null)
{
    await System.Console.Error.WriteLineAsync(
        $"revtald: “{collectUrls}” is no address for the collector. Write one, like http://0.0.0.0:7421."
    );
    return 2;
}

// Runs beside the building of the service, which takes as long.
var prepared = Task.Run(() => SqliteStore.PrepareAsync(folder));

builder
    .WebHost.UseUrls(collectUrls is null ? urls : $"{urls};{collectUrls}")
    .ConfigureKestrel(k =>
    {
        k.AddServerHeader = false;
        k.Limits.MaxRequestBodySize = 1 << 20;
    });
builder.Logging.ClearProviders();
if (settings["Log"] == "plain")
{
    builder.Logging.AddSimpleConsole(o => o.SingleLine = true);
}
else
{
    builder.Logging.AddJsonConsole(o => o.UseUtcTimestamp = true);
}

builder
    .Logging.AddFilter("Microsoft.AspNetCore", LogLevel.Warning)
    .AddFilter("Microsoft.EntityFrameworkCore", LogLevel.Warning);

var services = builder.Services;
services.AddSingleton(Options.Create(shopOptions));
services.ConfigureHttpJsonOptions(o => RevtalJson.Configure(o.SerializerOptions));
services.AddPooledDbContextFactory<RevtalDb>(o => SqliteStore.Use(o, folder));
services.AddSingleton(TimeProvider.System);
services
    .AddSingleton(new Connections(() => SqliteStore.Open(folder)))
    .AddSingleton<Journal>()
    .AddSingleton<JournalWriter>()
    .AddSingleton<PeopleStore>()
    .AddSingleton<PartStore>()
    .AddSingleton<PlanDesk>()
    .AddSingleton<OrderShelf>()
    .AddSingleton<OrderDesk>()
    .AddSingleton<ChangeSignal>()
    .AddSingleton<DummyStore>()
    .AddSingleton<DummyDesk>();
services.AddCollector();
services.AddSingleton(s => new GuideShelf(s.GetRequiredService<IDbContextFactory<RevtalDb>>(), GuideYaml.Read));
services
    .AddSingleton(s => new DraftShelf(
        s.GetRequiredService<IDbContextFactory<RevtalDb>>(),
        s.GetRequiredService<GuideShelf>(),
        GuideYaml.Write
    ))
    .AddSingleton<PictureStore>();
services.Configure<RouteHandlerOptions>(o => o.ThrowOnBadRequest = true);
services.AddProblemDetails().AddExceptionHandler<Problems>();
services.AddResponseCompression(o =>
    o.MimeTypes = ["text/html", "text/css", "text/javascript", "application/javascript"]
);
services.Configure<HostFilteringOptions>(o => o.AllowedHosts = ["localhost", "127.0.0.1", "[::1]"]);
services.AddHostFiltering(_ => { });
services.AddRevtalOpenApi();

await using var app = builder.Build();
if (settings["Rebuild"] is not null)
{
    await prepared;
    var count = await ProjectionRows.RebuildAsync(
        app.Services.GetRequiredService<IDbContextFactory<RevtalDb>>(),
        app.Services.GetRequiredService<Journal>(),
        app.Services.GetRequiredService<GuideShelf>()
    );
    System.Console.WriteLine($"Rebuilt the projection of {count} orders from the journal.");
    return 0;
}

app.Services.GetRequiredService<JournalWriter>().Committed += _ =>
    app.Services.GetRequiredService<ChangeSignal>().Raise();
app.UseCollectorPort(collectPort);
app.UseExceptionHandler();
app.UseStatusCodePages();
app.UseResponseCompression();
app.UseRouting();
app.UseRateLimiter();
app.UseConsole();
app.MapHealth();
app.MapOpenApi("/openapi/{documentName}.json");
var api = app.MapGroup("/api/v1");
api.MapBoard();
api.MapOrders();
api.MapBench();
api.MapPlans();
api.MapQuotes();
api.MapDrives();
api.MapParts();
api.MapMachines();
api.MapReadings();
api.MapMeasuring();
api.MapDummies();
app.MapCollect(api);
api.MapPictures();
api.MapGuides();
api.MapDrafts();
api.MapLibrary();
api.MapShop();
api.MapLive();

await prepared;
if (settings["Demo"] is not null)
{
    await DemoShop.FillAsync(app.Services, Path.Combine(AppContext.BaseDirectory, "demo"));
}

try
{
    await app.StartAsync();
}
catch (IOException e) when (e.InnerException is AddressInUseException)
{
    await System.Console.Error.WriteLineAsync(
        $"revtald: {urls} is in use, maybe by another revtald. Stop that one, or choose another with --urls."
    );
    return 2;
}

app.Logger.LogInformation(
    "Revtal {Version} for {Shop} listens on {Urls}, data in {Folder}",
    BuildVersion.Text,
    app.Services.GetRequiredService<IOptions<ShopOptions>>().Value.Name,
    urls,
    folder
);
await app.WaitForShutdownAsync();
return 0;
