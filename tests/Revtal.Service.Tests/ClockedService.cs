using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.Time.Testing;
using Revtal.Client;
using Revtal.Service;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>The service within the tests' own process, with staff, in a folder of its own, by a clock that the test
/// turns.</summary>
internal sealed class ClockedService : IAsyncDisposable
{
    /// <summary>When its clock begins.</summary>
    public static readonly DateTimeOffset Monday = new(2026, 3, 2, 9, 30, 0, TimeSpan.Zero);

    private readonly string folder = Directory.CreateTempSubdirectory("revtal-clock-").FullName;
    private IReadOnlyDictionary<string, string> tokens = new Dictionary<string, string>();
    private WebApplication? service;

    public FakeTimeProvider Clock { get; } = new(Monday);

    public HttpClient Http { get; private set; } = new();

    public static async Task<ClockedService> OpenAsync(params string[] settings)
    {
        var made = new ClockedService { tokens = await Staff.TokensAsync() };
        await Staff.CopyToAsync(made.folder);
        await made.StartAsync(settings);
        return made;
    }

    public RevtalClient As(string person) => new(Http, tokens[person]);

    /// <summary>Starts it on what it left in its folder; clients that were made before are gone.</summary>
    public async Task StartAsync(params string[] settings)
    {
        service = await RevtalHost.OpenAsync(
            ["--urls", "http://127.0.0.1:0", .. Stores.Of(folder), "--Logging:LogLevel:Default", "None", .. settings],
            Clock
        );
        Http = new HttpClient { BaseAddress = new Uri(service!.Urls.First()) };
    }

    public async Task StopAsync()
    {
        Http.Dispose();
        await service!.StopAsync();
        await service.DisposeAsync();
    }

    /// <summary>Lets time go on in small steps, so that whoever waits by the clock comes to its turn.</summary>
    public async Task PassAsync(TimeSpan time)
    {
        for (var steps = 0; steps < 40; steps++)
        {
            Clock.Advance(time / 40);
            await Task.Delay(25);
        }
    }

    /// <summary>The same until something is so.</summary>
    public async Task UntilAsync(TimeSpan step, Func<Task<bool>> isSo)
    {
        for (var look = 0; !await isSo(); look++)
        {
            Assert.True(look < 200, "It did not come to it.");
            Clock.Advance(step);
            await Task.Delay(25);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await StopAsync();
        Directory.Delete(folder, recursive: true);
    }
}
