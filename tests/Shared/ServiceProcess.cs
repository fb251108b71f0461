using System.Diagnostics;
using System.Text;
using System.Text.RegularExpressions;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Orders;

namespace Revtal.Tests;

/// <summary>
/// The built service as a process of its own, on a free port of the loopback, with a folder of its own.
/// </summary>
internal sealed partial class ServiceProcess : IAsyncDisposable
{
    private readonly string folder;
    private readonly bool ownsFolder;
    private readonly string program;
    private readonly StringBuilder log = new();
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

    /// <summary>A client that sends changes as this person.</summary>
    public RevtalClient As(string? person) => new(Http, person);

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
    public static async Task<ServiceProcess> StartAsync(
        string? folder = null,
        string ready = "/readyz",
        int patience = 50,
        string[]? arguments = null,
        string program = "revtald"
    )
    {
        var service = new ServiceProcess(
            folder ?? Directory.CreateTempSubdirectory("revtal-test-").FullName,
            folder is null,
            program
        );
        service.Launch(arguments ?? []);
        await service.ReadyAsync(ready, patience);
        if (folder is null)
        {
            var ines = service.As("ines");
            await ines.PutPersonAsync("ines", new PersonRequest("Ines Havgard", Role.Lead));
            await ines.PutPersonAsync("mara", new PersonRequest("Mara Lind", Role.Technician));
            await ines.PutPersonAsync("tobi", new PersonRequest("Tobi Quist", Role.Technician));
            await ines.PutPersonAsync("sanne", new PersonRequest("Sanne Dyk", Role.Desk));
            foreach (var code in new[] { "FJ14", "PW24" })
            {
                await ines.PublishGuideAsync(await File.ReadAllTextAsync(Repository.At("guides", $"{code}.yaml")));
            }
        }

        return service;
    }

    /// <summary>Ends it as a power cut would: no signal that it could handle.</summary>
    public async Task KillAsync()
    {
        process!.Kill(entireProcessTree: true);
        await process.WaitForExitAsync();
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
        foreach (var argument in (string[])["--urls", "http://127.0.0.1:0", "--data", folder, .. more])
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
        Http.BaseAddress = await listens.Task.WaitAsync(TimeSpan.FromSeconds(20));
        var watch = Stopwatch.StartNew();
        while (watch.Elapsed < TimeSpan.FromSeconds(20))
        {
            try
            {
                if ((await Http.GetAsync(path)).IsSuccessStatusCode)
                {
                    return;
                }
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }

            await Task.Delay(patience);
        }

        throw new TimeoutException("The service did not become ready. Build it first: make build.");
    }

    [GeneratedRegex("listens on (http://[^ ,\"]+)")]
    private static partial Regex ListensOn();

    /// <summary>Started, and left to itself.</summary>
    public static Process Launch(string folder, string program = "revtald", params string[] more) =>
        Process.Start(
            new ProcessStartInfo(
                Repository.At("bin", program),
                ["--urls", "http://127.0.0.1:0", "--data", folder, .. more]
            )
            {
                RedirectStandardError = true,
                RedirectStandardOutput = true,
            }
        )!;
}
