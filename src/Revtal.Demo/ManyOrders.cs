using System.Diagnostics;
using System.Globalization;
using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using Revtal.Service;
using Revtal.Storage;

namespace Revtal.Demo;

/// <summary><c>--fill NUMBER</c>: a demo shop of so many orders, to see how a large one feels.</summary>
internal static class ManyOrders
{
    private const int Most = 10_000_000;

    /// <exception cref="SettingException">The number cannot be.</exception>
    public static async Task FillAsync(IServiceProvider services, string[] args)
    {
        var told = new ConfigurationBuilder().AddEnvironmentVariables("REVTAL_").AddCommandLine(args).Build()["Fill"];
        if (told is null)
        {
            return;
        }

        if (!int.TryParse(told, NumberStyles.None, CultureInfo.InvariantCulture, out var orders) || orders > Most)
        {
            throw new SettingException($"“{told}” is no number of orders: write one up to {Most:N0}.");
        }

        var watch = Stopwatch.StartNew();
        await services
            .GetRequiredService<Histories>()
            .MakeAsync(
                orders,
                TimeProvider.System.GetUtcNow(),
                so => Console.WriteLine($"{so:N0} of {orders:N0} orders, {watch.Elapsed.TotalSeconds:N0} s")
            );
        Console.WriteLine($"{orders:N0} orders in {watch.Elapsed.TotalSeconds:N0} s.");
    }
}
