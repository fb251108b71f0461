using Revtal.Demo;
using Revtal.Service;

// The service with the Saltmarsh Road shop in it; all of the service's settings are its own too.
return await RevtalHost.RunAsync(
    args,
    services => DemoShop.FillAsync(services, Path.Combine(AppContext.BaseDirectory, "demo"))
);
