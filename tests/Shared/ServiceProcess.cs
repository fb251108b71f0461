using System.Diagnostics;
using System.Net.Http.Headers;
using System.Text;
using System.Text.RegularExpressions;
using Revtal.Client;
using Revtal.Contracts;

namespace Revtal.Tests;

/// <summary>
/// The built service as a process of its own, on a free port of the loopback, with a folder of its own.
/// </summary>
internal sealed partial class ServiceProcess : IAsyncDisposable
{
    // A demo fills its shop first, and others start beside it.
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(1);

    private readonly string folder;
    private readonly bool ownsFolder;
    private readonly string program;
    private readonly StringBuilder log = new();
    private IReadOnlyDictionary<string, string> tokens = new Dictionary<string, string>();
    private readonly TaskCompletionSource<Uri> listens = new();
    private Process? process;

    private ServiceProcess(string folder, bool ownsFolder, string program)
    {
        (this.folder, this.ownsFolder, this.program) = (folder, ownsFolder, program);
    }

    /// <summary>Where it listens; the system chose the port.</summary>
    public Uri Address => Http.BaseAddress!;

    public HttpClient Http { get; } = new();

    public string Folder => folder;

    /// <summary>A client that is signed in as this person; null for whoever only looks.</summary>
    public RevtalClient As(string? person) => new(Http, person is null ? null : Token(person));

    /// <summary>What proves that it is this person; the same on every service that began with staff.</summary>
    public string Token(string person) => tokens.GetValueOrDefault(person, $"revtal-of-nobody-called-{person}");

    /// <summary>Whose tokens are known.</summary>
    public IEnumerable<string> People => tokens.Keys;

    /// <summary>For another instance of the same shop.</summary>
    public IReadOnlyDictionary<string, string> Tokens => tokens;

    /// <summary>The same as a header.</summary>
    public AuthenticationHeaderValue Bearer(string person) => new("Bearer", Token(person));

    /// <summary>What opens a shop without people, as the log tells it.</summary>
    public string SetUpLink => SetsUp().Match(Log).Groups[1].Value;

    /// <summary>What it has logged so far.</summary>
    public string Log
    {
        get
        {
            lock (log)
            {
                return log.ToString();
            }
        }
    }

    /// <summary>Of the process.</summary>
    public int Id => process!.Id;

    /// <summary>What the process holds in memory now.</summary>
    public long ResidentBytes
    {
        get
        {
            process!.Refresh();
            return process.WorkingSet64;
        }
    }

    /// <param name="folder">Its data; null for a new folder with staff and two guides.</param>
    /// <param name="ready">The path whose answer means that it is up.</param>
    /// <param name="program"><c>revtal-demo</c> for the one with the demo shop in it.</param>
    /// <param name="patience">Milliseconds between two looks.</param>
    /// <param name="tokens">Of its people, where the folder is not one that began with the staff; none for a folder
    /// without people.</param>
    public static async Task<ServiceProcess> StartAsync(
        string? folder = null,
        string ready = "/readyz",
        int patience = 50,
        string[]? arguments = null,
        string program = "revtald",
        IReadOnlyDictionary<string, string>? tokens = null
    )
    {
        var service = new ServiceProcess(
            folder ?? Directory.CreateTempSubdirectory("revtal-test-").FullName,
            folder is null,
            program
        );
        if (program != "revtal-demo")
        {
            service.SignIn(tokens ?? await Staff.TokensAsync());
        }

        if (folder is null && program != "revtal-demo")
        {
            await Staff.CopyToAsync(service.folder);
        }

        service.Launch(arguments ?? []);
        await service.ReadyAsync(ready, patience);
        if (program == "revtal-demo")
        {
            service.SignIn(await Staff.OfDemoAsync(service.As(null)));
        }

        return service;
    }

    /// <summary>Whose tokens are asked for by name; somebody of them looks where nobody is named.</summary>
    public void SignIn(IReadOnlyDictionary<string, string> people)
    {
        tokens = people;
        Http.DefaultRequestHeaders.Authorization = people.ContainsKey("sanne") ? Bearer("sanne") : null;
    }

    /// <summary>Opens a shop that nobody can sign in to, as its first lead.</summary>
    public async Task SetUpAsync()
    {
        var first = new SetUpRequest(Staff.Password, "ines", "Ines Havgard", "tests");
        var ines = await As(null).UseSetUpAsync(SetUpLink, first);
        SignIn(new Dictionary<string, string> { ["ines"] = ines.Token!, ["sanne"] = ines.Token! });
    }

    /// <summary>Ends it as a power cut would: no signal that it could handle.</summary>
    public async Task KillAsync()
    {
        process!.Kill(entireProcessTree: true);
        await process.WaitForExitAsync();
    }

    /// <summary>Asks it to end, as a system does.</summary>
    /// <returns>Its exit code.</returns>
    public async Task<int> StopAsync()
    {
        using var ask = Process.Start("kill", ["-TERM", $"{process!.Id}"]);
        await process.WaitForExitAsync().WaitAsync(TimeSpan.FromSeconds(30));
        return process.ExitCode;
    }

    public async ValueTask DisposeAsync()
    {
        Http.Dispose();
        if (process is { HasExited: false })
        {
            await KillAsync();
        }

        process?.Dispose();
        if (ownsFolder)
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private void Launch(string[] more)
    {
        var start = new ProcessStartInfo(Repository.At("bin", program)) { RedirectStandardOutput = true };
        foreach (var argument in (string[])["--urls", "http://127.0.0.1:0", .. Stores.Of(folder), .. more])
        {
            start.ArgumentList.Add(argument);
        }

        process = Process.Start(start)!;
        process.OutputDataReceived += (_, line) =>
        {
            lock (log)
            {
                log.AppendLine(line.Data);
            }

            if (ListensOn().Match(line.Data ?? "") is { Success: true } said)
            {
                listens.TrySetResult(new Uri(said.Groups[1].Value));
            }
        };
        process.BeginOutputReadLine();
    }

    private async Task ReadyAsync(string path, int patience)
    {
        var watch = Stopwatch.StartNew();
        while (watch.Elapsed < Patience)
        {
            try
            {
                if (listens.Task.IsCompleted)
                {
                    Http.BaseAddress ??= await listens.Task;
                    if ((await Http.GetAsync(path)).IsSuccessStatusCode)
                    {
                        return;
                    }
                }
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }

            await Task.Delay(patience);
        }

        await KillAsync();
        throw new TimeoutException("The service did not become ready. Build it first: make build.");
    }

    [GeneratedRegex("listens on (http://[^ ,\"]+)")]
    private static partial Regex ListensOn();

    [GeneratedRegex("/set-up#([0-9a-f]{64})")]
    private static partial Regex SetsUp();

    /// <summary>Started, and left to itself.</summary>
    public static Process Launch(string folder, string program = "revtald", params string[] more) =>
        Process.Start(
            new ProcessStartInfo(
                Repository.At("bin", program),
                ["--urls", "http://127.0.0.1:0", .. Stores.Of(folder), .. more]
            )
            {
                RedirectStandardError = true,
                RedirectStandardOutput = true,
            }
        )!;
}
