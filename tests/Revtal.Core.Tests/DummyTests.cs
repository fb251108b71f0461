using System.Diagnostics;
using System.Text;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Revtal.Dummies;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class DummyTests
{
    private static readonly DateTimeOffset Noon = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);

    public static TheoryData<string> Models => [.. FuzzTests.Models];

    [Theory]
    [MemberData(nameof(Models))]
    public void A_dummy_of_every_model_starts_and_is_read_for_what_it_holds(string code)
    {
        var guide = Repository.Guide(code);
        var made = DummyMachine.Make(guide, "one", null, $"{code}-1");
        var (on, shown) = DummyStart.Of(guide, made, Noon);
        var reading = CaptureDecoder.Decode(DummyReport.All(guide, on, Noon.AddMinutes(5)).ToFiles());
        var occupancy = Occupancy.Of(guide, reading);

        Assert.True(shown is { Started: true, SystemRuns: true });
        Assert.Equal(shown.FirmwareShows, reading.Memory.InstalledBytes);
        Assert.Equal(shown.SlotsSeen, occupancy.Where(o => o.Module is not null).Select(o => o.Slot));
        Assert.Equal(($"{code}-1", 300L), (reading.System.Serial, reading.Host?.UpSeconds));
        Assert.Equal(made.Bays.Count, reading.Drives.Count);
        Assert.All(reading.Modules, m => Assert.True(m.CrcValid));
        Assert.Empty(reading.Conflicts);
    }

    [Fact]
    public void Debians_decoders_accept_the_tables_and_EEPROMs_of_every_model()
    {
        foreach (var code in FuzzTests.Models)
        {
            var guide = Repository.Guide(code);
            var on = DummyStart.Of(guide, DummyMachine.Make(guide, "one", null, $"{code}-1"), Noon).Machine;
            foreach (var file in DummyReport.All(guide, on, Noon).ToFiles())
            {
                var path = Path.GetTempFileName();
                var isRom = file.Name.StartsWith("spd-", StringComparison.Ordinal);
                File.WriteAllBytes(
                    path,
                    isRom
                        ? Encoding.ASCII.GetBytes(
                            string.Concat(
                                file.Content.ToArray()
                                    .Chunk(16)
                                    .Select(
                                        (row, i) => $"{i * 16:x8}  {string.Join(' ', row.Select(b => $"{b:x2}"))}\n"
                                    )
                            )
                        )
                        : file.Content.ToArray()
                );
                if (file.Name == "firmware.bin")
                {
                    var told = Run("/usr/sbin/dmidecode", "--from-dump", path);
                    Assert.Contains($"Serial Number: {code}-1", told, StringComparison.Ordinal);
                    Assert.DoesNotContain("TRUNCATED", told, StringComparison.OrdinalIgnoreCase);
                }
                else if (isRom && guide.Memory.Generation == "DDR4")
                {
                    Assert.Contains("OK (0x", Run("decode-dimms", "-x", path), StringComparison.Ordinal);
                }

                File.Delete(path);
            }
        }
    }

    // What goes wrong on a bench, and the finding that it leads to: dummies, decoders and check together.
    [Theory]
    [InlineData("half", "nothing-changed")]
    [InlineData("silent", "nothing-changed")]
    [InlineData("slot", "nothing-changed")]
    [InlineData("moved", "in-other-slot")]
    [InlineData("profile", "speed-below-rated")]
    [InlineData("limit", "system-below-firmware")]
    public void Every_way_of_refitting_badly_is_found_by_the_check(string how, string code)
    {
        var guide = Repository.Guide("QT40");
        var machine = DummyMachine.Make(guide, "one", null, "QT40-1");
        var before = Read(guide, machine);
        var plan = Planner.Make(
            guide,
            before,
            [
                new SlotChange(
                    "B2",
                    new MemoryModule(
                        MemorySize.Gigabytes(16),
                        "DDR4",
                        "DIMM",
                        3200,
                        PartNumber: new PartNumber("OS4U-16G")
                    )
                ),
            ]
        );
        var module = DummyParts.Module(guide, 16, null, "NEW");
        machine = DummyHands.Fit(
            DummyHands.Open(machine),
            guide,
            "B2",
            how switch
            {
                "half" => module with { Seat = DummySeat.Half },
                "silent" => module with { Fault = PartFault.Silent },
                _ => module,
            }
        );
        machine = how switch
        {
            "slot" => machine with { FaultySlots = ["B2"] },
            "moved" => DummyHands.Move(machine, guide, "A2", "B2"),
            "profile" => machine with { ProfileOff = true },
            "limit" => machine with { Limit = "mem=4G" },
            _ => machine,
        };
        var check = Checker.Check(guide, new(before, 1), new(plan, 2), new(Read(guide, machine), 3));
        Assert.Contains(check.Findings, f => f.Code == code);
        Assert.DoesNotContain(
            Checker.Check(guide, new(before, 1), new(plan, 2), new(Read(guide, Healthy(guide, module)), 3)).Findings,
            f => f.Severity != Severity.Note
        );
    }

    [Fact]
    public void A_module_askew_keeps_it_from_starting_with_the_guide_s_own_sign()
    {
        var guide = Repository.Guide("FJ14");
        var open = DummyHands.Open(DummyMachine.Make(guide, "one", null, "FJ14-1"));
        var (after, shown) = DummyStart.Of(guide, DummyHands.SeatAs(open, "S2", DummySeat.Askew), Noon);
        Assert.Equal((false, "3 short beeps", false), (shown.Started, shown.Sign, after.IsOn));
        Assert.Equal("dummy-off", Assert.Throws<RefusedException>(() => DummyReport.All(guide, after, Noon)).Code);

        var (_, again) = DummyStart.Of(
            guide,
            DummyHands.Fit(open, guide, "S1", DummyParts.Module(guide, 8, null, "X")),
            Noon
        );
        Assert.Contains("notice that memory size changed", again.Notices);
    }

    [Fact]
    public void Hands_go_in_only_while_it_is_open_and_off()
    {
        var guide = Repository.Guide("FJ14");
        var closed = DummyMachine.Make(guide, "one", null, "FJ14-1");
        Assert.Equal("dummy-closed", Assert.Throws<RefusedException>(() => DummyHands.Pull(closed, guide, "S2")).Code);
        Assert.Equal(
            "dummy-on",
            Assert
                .Throws<RefusedException>(() =>
                    DummyHands.Pull(DummyStart.Of(guide, DummyHands.Open(closed), Noon).Machine, guide, "S2")
                )
                .Code
        );
        Assert.Equal(
            "slot-full",
            Assert
                .Throws<RefusedException>(() =>
                    DummyHands.Fit(DummyHands.Open(closed), guide, "S2", DummyParts.Module(guide, 8, null, "X"))
                )
                .Code
        );
        Assert.Equal(
            "no-such-module",
            Assert.Throws<RefusedException>(() => DummyParts.Module(guide, 7, null, "X")).Code
        );
    }

    // No encoding code is shared: the dummies know readings only as what they write to, never how they are read.
    [Fact]
    public void Dummies_share_no_code_with_the_decoders()
    {
        foreach (var file in Directory.GetFiles(Repository.At("src", "Revtal.Dummies"), "*.cs"))
        {
            Assert.DoesNotMatch(
                "Captures\\.(Smbios|Spd|Systems)|CaptureDecoder|SmbiosDecoder|SpdDecoder",
                File.ReadAllText(file)
            );
        }
    }

    private static DummyMachine Healthy(Guide guide, DummyFitted module) =>
        DummyHands.Fit(DummyHands.Open(DummyMachine.Make(guide, "one", null, "QT40-1")), guide, "B2", module);

    private static Reading Read(Guide guide, DummyMachine machine) =>
        CaptureDecoder.Decode(
            DummyReport.All(guide, DummyStart.Of(guide, machine, Noon).Machine, Noon.AddHours(1)).ToFiles()
        );

    private static string Run(string tool, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(tool, arguments) { RedirectStandardOutput = true })!;
        return process.StandardOutput.ReadToEnd();
    }
}
