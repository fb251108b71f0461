using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using Revtal.Contracts;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>A disk on which the service may write no more for a while, and then again.</summary>
public sealed class FullDiskTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-full-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task It_says_so_goes_on_reading_and_goes_on_writing_by_itself_when_there_is_room()
    {
        await using var service = await ServiceProcess.StartAsync(
            arguments: ["--rate", "0", "--backup:folder", Path.Combine(folder, "backups")],
            program: await LimitableAsync()
        );
        var ines = service.As("ines");
        var (told, refused) = (new ConcurrentBag<(int Order, string Text)>(), new ConcurrentBag<(int, string)>());
        var over = false;
        var writers = Enumerable
            .Range(0, 8)
            .Select(_ => PostgresInstancesTests.WriteAsync(ines, told, refused, () => over))
            .ToArray();
        await PostgresInstancesTests.UntilAsync(() => told.Count > 100);

        // No file may be longer than this: what a quota does, or a full disk.
        await LimitAsync(service.Id, "65536");
        await PostgresInstancesTests.UntilAsync(() => refused.Count > 16);
        var order = told.First().Order;
        Assert.NotEmpty((await ines.OrderAsync(order)).Journal);
        Assert.NotEmpty((await ines.BoardAsync()).Cards);
        Assert.Equal(HttpStatusCode.OK, (await service.Http.GetAsync("healthz")).StatusCode);
        Assert.False((await service.Http.GetAsync("readyz")).IsSuccessStatusCode);

        var before = told.Count;
        await LimitAsync(service.Id, "unlimited");
        await PostgresInstancesTests.UntilAsync(() => told.Count > before + 100);
        over = true;
        await Task.WhenAll(writers);
        Assert.All(refused, r => Assert.Equal((503, "store-failed"), r));
        await PostgresInstancesTests.NeedAllOnceAsync(ines, told);
        Assert.Equal("ready\n", await service.Http.GetStringAsync("readyz"));
        await ines.VerifyStoreAsync();
        VerifyView look;
        do
        {
            await Task.Delay(50);
            look = await ines.VerificationAsync();
        } while (look.EndedAt is null);
        Assert.Empty(look.First);
    }

    // What writes beyond a limit is told so instead of ended.
    private async Task<string> LimitableAsync()
    {
        var script = Path.Combine(folder, "revtald");
        await File.WriteAllTextAsync(
            script,
            $"""
            #!/bin/sh
            trap '' XFSZ
            exec {Repository.At("bin", "revtald")} "$@"
            """
        );
        File.SetUnixFileMode(script, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        return script;
    }

    private static async Task LimitAsync(int process, string bytes)
    {
        using var limit = Process.Start("prlimit", ["--pid", $"{process}", $"--fsize={bytes}:unlimited"]);
        await limit.WaitForExitAsync();
        Assert.Equal(0, limit.ExitCode);
    }
}
