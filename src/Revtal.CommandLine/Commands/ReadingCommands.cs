using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Captures.Systems;
using Revtal.Core.Hardware;
using Revtal.Documents;

namespace Revtal.CommandLine.Commands;

internal static class ReadingCommands
{
    public static Command Make() =>
        Cli.Noun("reading", "Readings of a machine", Decode(), Take(), Type(), Vouch(), Invite(), Collector());

    private static Command Decode()
    {
        var path = new Argument<string>("PATH")
        {
            Description = "A folder with smbios_entry_point, DMI and meminfo; one of them; a dump; or a bundle",
        };
        return Cli.Command(
            "decode",
            "Decode a capture; needs no service",
            "revtal reading decode /mnt/stick/capture",
            (p, _, _) =>
            {
                Cli.Show(p, CaptureDecoder.Decode(CaptureFolder.Read(p.GetValue(path)!)), Show);
                return Task.CompletedTask;
            },
            path
        );
    }

    private static Command Vouch()
    {
        var number = Cli.Number();
        var reason = new Option<string>("--reason") { Required = true };
        return Cli.Change(
            "vouch",
            "Say why a doubted before reading is of this machine",
            "revtal reading vouch 104 --reason \"the board was changed last year\" --as mara",
            (p, client, cancel) => client.VouchAsync(p.GetValue(number), new ReasonRequest(p.GetValue(reason)), cancel),
            number,
            reason
        );
    }

    private static Command Invite()
    {
        var (number, phase) = (Cli.Number(), PhaseOption());
        var minutes = new Option<int>("--minutes")
        {
            Description = "How long the code stays open",
            DefaultValueFactory = _ => 60,
        };
        var watch = new Option<int?>("--watch")
        {
            Description = "So many minutes the machine watches what it has to do before it sends",
        };
        return Cli.Command(
            "invite",
            "A one-time code by which the machine itself sends a reading",
            "revtal reading invite 104 --phase after --as mara",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.InviteAsync(
                        p.GetValue(number),
                        new InviteRequest(p.GetValue(phase), p.GetValue(minutes), p.GetValue(watch)),
                        cancel
                    ),
                    i => MeasureScreen.Code(i.Code, i.Until, i.Lines, i.HereOnly)
                ),
            number,
            phase,
            minutes,
            watch
        );
    }

    private static Command Collector()
    {
        var system = new Argument<string>("SYSTEM") { Description = "linux, windows or macos" };
        system.AcceptOnlyFromAmong("linux", "windows", "macos");
        var file = new Option<string?>("--to")
        {
            Description = "A file on the stick; without it, the script is printed",
        };
        return Cli.Command(
            "collector",
            "The collector's script, for a machine without a network; its file is for reading take",
            "revtal reading collector linux --to /mnt/stick/collect.sh",
            async (p, client, cancel) =>
            {
                var script = await client.CollectorAsync(p.GetValue(system)!, cancel);
                if (p.GetValue(file) is { } path)
                {
                    Files.Write(path, script);
                }
                else
                {
                    Console.Write(System.Text.Encoding.UTF8.GetString(script));
                }
            },
            system,
            file
        );
    }

    private static Command Take()
    {
        var number = Cli.Number();
        var path = new Argument<string>("PATH") { Description = "As for decode" };
        var (phase, note) = (PhaseOption(), new Option<string?>("--note"));
        var drives = new Option<string[]>("--drive")
        {
            Description =
                "A drive that the capture does not tell: D1=drive:500GB,form=M.2 2280,serial=BN-1,used=212GB; "
                + "D2=drive:empty",
        };
        return Cli.Command(
            "take",
            "Take a reading from a capture",
            "revtal reading take 104 /mnt/stick/capture --phase before --as mara",
            async (p, client, cancel) =>
            {
                var bundle = CaptureBundle.Of(CaptureFolder.Read(p.GetValue(path)!));
                var send = client.TakeReadingAsync(
                    p.GetValue(number),
                    new ReadingRequest(
                        p.GetValue(phase),
                        bundle,
                        p.GetValue(drives) is { Length: > 0 } d
                            ? new SeenReading(Drives: [.. d.Select(SeenDrive)])
                            : null,
                        p.GetValue(note)
                    ),
                    cancel: cancel
                );
                Cli.Show(p, await Screen.Wait("Sending the capture", send), OrderScreen.Receipt);
            },
            number,
            path,
            phase,
            note,
            drives
        );
    }

    private static Command Type()
    {
        var number = Cli.Number();
        var (phase, note) = (PhaseOption(), new Option<string?>("--note"));
        var firmware = new Option<string?>("--firmware-shows")
        {
            Description = "What the firmware's setup shows: “16 GB”",
        };
        var system = new Option<string?>("--system-shows") { Description = "What the system shows: “15.6 GB”" };
        var serial = new Option<string?>("--serial");
        var photo = new Option<string?>("--photo") { Description = "A picture of what is seen" };
        var slots = new Argument<string[]>("POSITION=WHAT")
        {
            Arity = ArgumentArity.ZeroOrMore,
            Description =
                "What sits in a slot or bay: S1=8GB,DDR4-3200, S2=empty, "
                + "D1=drive:500GB,form=M.2 2280,serial=BN-1,used=212GB, D2=empty",
        };
        return Cli.Command(
            "type",
            "Type in what was seen by eye",
            "revtal reading type 104 S1=8GB S2=empty --phase before --system-shows \"7.7 GB\" --as mara",
            async (p, client, cancel) =>
            {
                var (told, empty) = (p.GetValue(slots)!, "=empty");
                // “D2=empty” is said of a slot and of a bay: the machine knows which it is.
                var bays = told.Any(s => s.EndsWith(empty, StringComparison.Ordinal))
                    ? (await client.OrderAsync(p.GetValue(number), cancel)).Bays.Select(b => b.Id + empty).ToArray()
                    : [];
                var drives = told.Where(s => s.Contains("=drive:", StringComparison.Ordinal) || bays.Contains(s))
                    .ToArray();
                var seen = new SeenReading(
                    Size(p.GetValue(firmware)),
                    Size(p.GetValue(system)),
                    [.. told.Except(drives).Select(SeenSlot)],
                    p.GetValue(serial),
                    [.. drives.Select(SeenDrive)]
                );
                var picture = p.GetValue(photo) is { } file
                    ? (await client.KeepPictureAsync(Files.Bytes(file, 12 << 20), cancel)).Hash
                    : null;
                Cli.Show(
                    p,
                    await client.TakeReadingAsync(
                        p.GetValue(number),
                        new ReadingRequest(p.GetValue(phase), Seen: seen, Note: p.GetValue(note), Photo: picture),
                        cancel: cancel
                    ),
                    OrderScreen.Receipt
                );
            },
            number,
            slots,
            phase,
            firmware,
            system,
            serial,
            photo,
            note
        );
    }

    private static Option<Phase> PhaseOption() =>
        new("--phase") { Required = true, Description = "before, during (case open) or after" };

    private static MemorySize? Size(string? text) => text is null ? null : MemorySize.Parse(text);

    private static SeenSlot SeenSlot(string text) =>
        text.Split('=', 2) switch
        {
            [var slot, "empty"] => new SeenSlot(slot, null),
            [var slot, var size] => new SeenSlot(slot, ModuleText.Read(size)),
            _ => throw RefusedException.Invalid("slot-form", $"“{text}” is not like S1=8GB or S1=empty."),
        };

    private static SeenDrive SeenDrive(string text)
    {
        var parts = text.Replace("=empty", "=drive:empty", StringComparison.Ordinal).Split("=drive:", 2);
        if (parts.Length < 2)
        {
            throw RefusedException.Invalid(
                "drive-form",
                $"“{text}” is not like D1=drive:500GB,form=M.2 2280,serial=BN-1,used=212GB or D1=drive:empty."
            );
        }

        if (parts[1].Trim() == "empty")
        {
            return new SeenDrive(parts[0], null);
        }

        var used = parts[1].Split(',').FirstOrDefault(p => p.Trim().StartsWith("used=", StringComparison.Ordinal));
        var rest = string.Join(',', parts[1].Split(',').Where(p => p != used));
        return new SeenDrive(
            parts[0],
            DriveText.Wish(rest).Drive,
            used is null ? null : DriveSize.Parse(used.Trim()[5..])
        );
    }

    // The machine's own estimate, as a time of day: nobody counts minutes by thousands.
    private static string Progress(ArrayReading a, DateTimeOffset? taken) =>
        a.Waits is { } why ? $" {Phrases.Words(why)}"
        : a is { Percent: { } percent, MinutesLeft: { } minutes } && taken is { } at && minutes < 100_000
            ? $" {percent} %, done about {at.AddMinutes((double)minutes).ToLocalTime():ddd d MMM HH:mm}"
        : $" {a.Percent} %";

    private static void Show(Reading reading)
    {
        var m = reading.Memory;
        Screen.Marked(
            $"[bold]{Screen.Safe($"{reading.System.Manufacturer} {reading.System.Product}".Trim())}[/]  "
                + $"[grey]serial[/] {Screen.Safe(reading.System.Serial ?? "unknown")}  [grey]firmware[/] "
                + $"{Screen.Safe(reading.Firmware.Version ?? "unknown")}"
        );
        Screen.Marked(
            $"[grey]installed[/] {InWords(m.InstalledBytes)}   [grey]usable[/] {InWords(m.UsableBytes)}   "
                + $"[grey]at most[/] {InWords(m.MaxCapacityBytes)}   [grey]slots[/] "
                + $"{m.SlotCount?.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "unknown"}"
        );
        if (m.Slots.Count > 0)
        {
            Screen.Table(
                ["slot", "bank", "size", "type", "form", "rated", "running", "maker", "part", "serial"],
                m.Slots.Select(s =>
                    new[]
                    {
                        Screen.Safe(s.Locator),
                        Screen.Safe(s.Bank),
                        s.SizeBytes == 0 ? "empty" : InWords(s.SizeBytes),
                        s.Type ?? "",
                        s.FormFactor ?? "",
                        $"{s.RatedSpeed}",
                        $"{s.RunningSpeed}",
                        Screen.Safe(s.Manufacturer),
                        Screen.Safe(s.PartNumber),
                        Screen.Safe(s.Serial),
                    }
                )
            );
        }

        if (reading.Drives.Count > 0)
        {
            Screen.Table(
                ["drive", "size", "used", "model", "serial", "by", "state", "health"],
                reading.Drives.Select(d =>
                    new[]
                    {
                        Screen.Safe(d.Bay ?? d.Device),
                        d.Drive.Size.WithBinary,
                        d.UsedBytes is { } used ? new DriveSize(used).ToString() : "",
                        Screen.Safe(d.Drive.PartNumber?.ToString()),
                        Screen.Safe(d.Drive.Serial),
                        Screen.Safe(d.Transport),
                        d.Boots == true ? "boots"
                        : d.Initialised == false ? "[yellow]raw[/]"
                        : d.SpareBytes > d.Drive.Size.Bytes / 10 ? $"{new DriveSize(d.SpareBytes.Value)} not in use"
                        : "",
                        Health(d.Health),
                    }
                )
            );
        }

        if (reading.Host is { } host)
        {
            Screen.Marked(
                "[grey]system[/] "
                    + Screen.Safe(host.Name ?? "unknown")
                    + $"{Phrases.When(host.Is64Bit == false, " [yellow]32-bit[/]")}"
                    + $"{Phrases.When(host.Limit, limit => $" [yellow]{Screen.Safe(limit)}[/]")}"
                    + $"{Phrases.When(host.UpSeconds, up => $" [grey]up {up / 60} min[/]")}"
            );
        }

        foreach (var c in reading.Conflicts)
        {
            Screen.Marked(
                $"[yellow]![/] Sources disagree on the {Screen.Safe(c.What)}: {Screen.Safe(c.First)}, "
                    + $"{Screen.Safe(c.Other)}"
            );
        }

        foreach (var missing in reading.Missing)
        {
            Screen.Marked($"[grey]left out[/] {Screen.Safe(missing)}");
        }

        foreach (var a in reading.Arrays)
        {
            Screen.Marked(
                $"[grey]array[/] {Screen.Safe(a.Name)} {a.Level}, {a.Present} of "
                    + $"{a.Wanted}{Phrases.When(a.IsDegraded, " [red]degraded[/]")}"
                    + Phrases.When(a.Level is not null && !a.Active, " [red]not running[/]")
                    + Phrases.When(a.Doing, doing => $", {doing}{Progress(a, reading.Host?.TakenAt)}")
                    + Phrases.When(a.UsedBytes, used => $", {new DriveSize(used)} used")
            );
        }

        if (reading.Modules.Count > 0)
        {
            Screen.Table(
                [
                    "module",
                    "size",
                    "form",
                    "ranks",
                    "chips",
                    "speed",
                    "volts",
                    "part",
                    "serial",
                    "made",
                    "maker",
                    "checksum",
                ],
                reading.Modules.Select(e =>
                    new[]
                    {
                        e.Type,
                        InWords(e.SizeBytes),
                        e.Form ?? "",
                        $"{e.Ranks}",
                        e.DeviceWidth is { } w ? $"x{w}{Phrases.When(e.Ecc, ", ECC")}" : "",
                        $"{e.SpeedMTs}",
                        $"{e.Voltage}",
                        Screen.Safe(e.PartNumber),
                        e.Serial ?? "",
                        e.Made ?? "",
                        e.MakerCode is { } code
                            ? string.Create(
                                System.Globalization.CultureInfo.InvariantCulture,
                                $"{e.MakerBank}/{code:X2}"
                            )
                            : "",
                        e.CrcValid ? "right" : "[red]wrong[/]",
                    }
                )
            );
        }
    }

    private static string Health(DriveHealth? h) =>
        h is null
            ? ""
            : string.Join(
                ", ",
                new[]
                {
                    h.Passed switch
                    {
                        true => "passed",
                        false => "[red]failed[/]",
                        _ => null,
                    },
                    h.Hours is { } hours ? $"{hours} h" : null,
                    h.WearPercent is { } wear ? $"{wear} % worn" : null,
                    h.Reallocated is > 0 and var moved ? $"{moved} reallocated" : null,
                    h.Errors is > 0 and var errors ? $"{errors} errors" : null,
                    h.Pending is > 0 and var pending ? $"{pending} pending" : null,
                    h.LinkNow is { } now && h.LinkMost is { } most && now != most
                        ? $"[yellow]{now} of {most}[/]"
                        : null,
                }.OfType<string>()
            );

    private static string InWords(long? bytes) => bytes is { } b ? new MemorySize(b).ToString() : "unknown";
}
