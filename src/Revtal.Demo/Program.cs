using Revtal.Demo;
using Revtal.Service;
using Revtal.Storage;

// The service with the Saltmarsh Road shop in it; all of the service's settings are its own too.
try
{
    Filling.Clear(args);
}
catch (StoreException e)
{
    await Console.Error.WriteLineAsync($"revtal-demo: {e.Message}");
    return RevtalHost.StoreUnusable;
}

return await RevtalHost.RunAsync(
    ["--shop:cleaningPrice=18", .. args],
    services => DemoShop.FillAsync(services, Path.Combine(AppContext.BaseDirectory, "demo"))
);
