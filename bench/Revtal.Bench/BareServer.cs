using System.Diagnostics;

namespace Revtal.Bench;

/// <summary>The floor for reading: the same server with one endpoint that returns the same bytes from memory.</summary>
internal static class BareServer
{
    public static async Task RunAsync(string url, string file)
    {
        var bytes = await File.ReadAllBytesAsync(file);
        var builder = WebApplication.CreateSlimBuilder();
        builder.WebHost.UseUrls(url);
        builder.Logging.ClearProviders();
        await using var app = builder.Build();
        app.MapGet("/bytes", () => Results.Bytes(bytes, "application/json; charset=utf-8"));
        await app.RunAsync();
    }

    public static Process Start(Uri address, string file) =>
        Process.Start(
            new ProcessStartInfo(Environment.ProcessPath!, ["bare", address.ToString(), file])
            {
                RedirectStandardOutput = true,
            }
        )!;
}
