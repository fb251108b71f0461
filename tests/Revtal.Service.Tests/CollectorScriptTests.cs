using System.Diagnostics;
using System.Text;
using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>
/// The collectors of the other systems, run for real over stand-ins of what they ask: a PowerShell for one, the shell
/// for the other. What they pack is read, and must be what the stand-ins tell.
/// </summary>
public sealed class CollectorScriptTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>, IDisposable
{
    private static readonly string StandIns = Repository.At("tests", "data", "collect");
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-script-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task A_PowerShell_packs_what_its_classes_tell()
    {
        var script = Path.Combine(folder, "collect.ps1");
        await File.WriteAllBytesAsync(script, await fixture.Service.As("mara").CollectorAsync("windows"));
        await RunAsync(
            "dotnet",
            Repository.At(),
            "pwsh",
            "-NoLogo",
            "-NoProfile",
            "-NonInteractive",
            "-Command",
            $"Set-Location '{folder}'; . '{StandIns}/windows.ps1'; . '{script}' -For 2s -Every 1"
        );
        var (reading, text) = await PackedAsync("windows.json");

        Assert.Equal(("Quillon", "QT40", "QT40-5521"), Named(reading));
        Assert.Equal((24L << 30, 24984320L << 10, 4), Sizes(reading.Memory));
        Assert.Equal(
            [("A2", "BANK 1", 16L << 30, "OST4-16G", "00C0FFEE"), ("B2", "BANK 3", 8L << 30, "OST4-8G", "0BADF00D")],
            reading.Memory.Slots.Select(s => (s.Locator!, s.Bank!, s.SizeBytes!.Value, s.PartNumber!, s.Serial!))
        );
        Assert.All(
            reading.Memory.Slots,
            s => Assert.Equal(("DDR4", "DIMM", 3200, 2666), (s.Type, s.FormFactor, s.RatedSpeed, s.RunningSpeed))
        );
        var (stick, disk) = (reading.Drives[0], reading.Drives[1]);
        Assert.Equal((512110190592, "nvme", true), (stick.Drive.Size.Bytes, stick.Transport, stick.Boots));
        // An identifier of eight pairs is no serial that a label shows.
        Assert.Null(SerialNumber.Same(stick.Drive.Serial, "S4EVNX0M123456"));
        Assert.Equal((true, 8123, 4, 41), Health(stick.Health!));
        Assert.Equal([], stick.Labels!);
        Assert.Equal(["C:"], stick.Mounts!);
        Assert.True(SerialNumber.Same(disk.Drive.Serial, "BD4T-0093"));
        Assert.Equal((4000787030016, 1_500_000_000_000L, false), (disk.Drive.Size.Bytes, disk.UsedBytes, disk.Boots));
        Assert.Equal("Integrated : Bus 0 : Device 23 : Function 0 : Port 2", disk.Path);
        Assert.False(disk.Health!.Passed);
        Assert.Equal([DriveReading.HiddenLabel], disk.Labels!);
        Assert.InRange(reading.Host!.UpSeconds!.Value, 7190, 7300);
        Assert.Empty(reading.Missing);
        // By the stand-ins: what is visible less what is free, half a gigabyte moved out, a fifth of the processors,
        // 30 MB/s of the drives, and two cards of 1 and 2 MB/s.
        Assert.Equal(0, reading.Load!.Seconds[0]);
        Assert.InRange(reading.Load.Seconds.Count, 2, 4);
        Assert.Equal(
            ((24984320L - 15546368L) << 10, 524288L << 10, 20, 30L << 20, 3L << 20),
            (
                reading.Load.InUseBytes[0]!.Value,
                reading.Load.PagedOutBytes[0]!.Value,
                reading.Load.CpuPercent[0]!.Value,
                reading.Load.DiskBytes[0]!.Value,
                reading.Load.NetBytes[0]!.Value
            )
        );
        Assert.DoesNotContain("Reimer", text, StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_shell_packs_what_the_system_report_tells()
    {
        var script = Path.Combine(folder, "collect.sh");
        await File.WriteAllBytesAsync(script, await fixture.Service.As("mara").CollectorAsync("macos"));
        await RunAsync("dash", folder, script, "--for", "2s", "--every", "1");
        var (reading, text) = await PackedAsync("profiler.json");

        Assert.Equal((null, "PW24", "PW24-3310"), Named(reading));
        Assert.Equal((24L << 30, 24L << 30, 4), Sizes(reading.Memory));
        Assert.Equal(
            [("BANK 0/S1", 16L << 30), ("BANK 0/S2", 0), ("BANK 1/S3", 8L << 30), ("BANK 1/S4", 0)],
            reading.Memory.Slots.Select(s => (s.Locator!, s.SizeBytes!.Value))
        );
        Assert.Equal(
            ("Tarnmoor", "TM4-16", "0A1B2C3D"),
            (reading.Memory.Slots[0].Manufacturer, reading.Memory.Slots[0].PartNumber, reading.Memory.Slots[0].Serial)
        );
        var (stick, disk) = (reading.Drives[0], reading.Drives[1]);
        Assert.Equal((1000204886016, "BN1T-0771", true), (stick.Drive.Size.Bytes, stick.Drive.Serial, stick.Boots));
        Assert.Equal((true, "PCIe 3.0 x4"), (stick.Health!.Passed, stick.Health.LinkNow));
        Assert.Equal(("SATA Bay 1", false), (disk.Path, disk.Health!.Passed));
        Assert.Equal(("SATA 3 Gb/s", "SATA 6 Gb/s"), (disk.Health.LinkNow, disk.Health.LinkMost));
        Assert.Equal([DriveReading.HiddenLabel], disk.Labels!);
        Assert.Equal([DriveReading.HiddenMount], disk.Mounts!);
        Assert.InRange(reading.Host!.UpSeconds!.Value, 7190, 7300);
        // By the stand-ins: 400,000 of its pages of 16 KiB are in use, 1.5 GB are moved out, four cores do a tenth;
        // of drives it tells nothing.
        Assert.Equal(400_000L * 16 << 10, reading.Load!.InUseBytes[0]);
        Assert.Equal(1536L << 20, reading.Load.PagedOutBytes[0]);
        Assert.All(reading.Load.DiskBytes, d => Assert.Null(d));
        Assert.All(reading.Load.CpuPercent, c => Assert.Equal(10, c));
        Assert.DoesNotContain("Edda", text, StringComparison.Ordinal);
    }

    private static (string?, string?, string?) Named(Reading r) =>
        (r.System?.Manufacturer, r.System?.Product, r.System?.Serial);

    private static (long?, long?, int?) Sizes(MemoryReading m) => (m.InstalledBytes, m.UsableBytes, m.SlotCount);

    private static (bool?, int?, int?, int?) Health(DriveHealth h) => (h.Passed, h.Hours, h.WearPercent, h.Celsius);

    // The file for the stick, read by the decoder, and the report inside it as it was sent.
    private async Task<(Reading Reading, string Text)> PackedAsync(string report)
    {
        var file = Assert.Single(Directory.GetFiles(folder, "*.revtal"));
        var bundle = JsonSerializer.Deserialize<CaptureBundle>(await File.ReadAllBytesAsync(file), RevtalJson.Options)!;
        return (
            CaptureDecoder.Decode(bundle.ToFiles()),
            Encoding.UTF8.GetString(bundle.Files.Single(f => f.Name == report).Content)
        );
    }

    private static async Task RunAsync(string command, string folder, params string[] arguments)
    {
        var start = new ProcessStartInfo(command, arguments)
        {
            WorkingDirectory = folder,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["PATH"] = $"{StandIns}:{start.Environment["PATH"]}";
        using var process = Process.Start(start)!;
        var output = process.StandardOutput.ReadToEndAsync();
        var error = await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        Assert.True(process.ExitCode == 0, $"{await output}{error}");
    }
}
