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
    [
        "--shop:cleaningPrice=18",
        "--shop:trials:0=a whole plate, opened and turned",
        "--shop:trials:1=thirty browser pages and a call",
        "--shop:trials:2=a recording of an hour, cut and saved",
        .. args,
    ],
    async services =>
    {
        await DemoShop.FillAsync(services, Path.Combine(AppContext.BaseDirectory, "demo"));
        await ManyOrders.FillAsync(services, args);
    },
    isDemo: true
);
