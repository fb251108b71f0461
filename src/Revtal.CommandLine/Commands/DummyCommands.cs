using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;

namespace Revtal.CommandLine.Commands;

internal static class DummyCommands
{
    public static Command Make() =>
        Cli.Noun(
            "dummy",
            "Simulated machines: open, refit, start and read them like real ones",
            List(),
            MakeOne(),
            Show(),
            Act("open", "Open it", DummyAct.Open),
            Act("close", "Close it", DummyAct.Close),
            Act("start", "Switch it on, and see what it shows", DummyAct.Start),
            Act("off", "Switch it off", DummyAct.Off),
            Fit(),
            Pull(),
            Move(),
            Seat(),
            Spoil(),
            Mend(),
            Set(),
            Capture(),
            Send()
        );

    private static Command List() =>
        Cli.Command(
            "list",
            "The simulated machines",
            "revtal dummy list",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.DummiesAsync(cancel),
                    all =>
                        Screen.Table(
                            ["name", "model", "serial", "state", "holds"],
                            all.Select(d =>
                                new[]
                                {
                                    d.Name,
                                    Screen.Safe(d.Model),
                                    Screen.Safe(d.Serial),
                                    State(d),
                                    Screen.Safe(
                                        string.Join(
                                            ", ",
                                            d.Positions.Where(x => x.Occupant is not null)
                                                .Select(x => $"{x.Position} {x.Occupant}")
                                        )
                                    ),
                                }
                            )
                        )
                )
        );

    private static Command MakeOne()
    {
        var (name, model) = (Name(), new Argument<string>("MODEL") { Description = "The guide's code" });
        var (variant, serial) = (new Option<string?>("--variant"), new Option<string?>("--serial"));
        return Cli.Command(
            "make",
            "Make one of a model",
            "revtal dummy make spare QT40 --as mara",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.MakeDummyAsync(
                        new DummyRequest(
                            p.GetValue(name)!,
                            p.GetValue(model)!,
                            p.GetValue(variant),
                            p.GetValue(serial)
                        ),
                        cancel
                    ),
                    Draw
                ),
            name,
            model,
            variant,
            serial
        );
    }

    private static Command Show()
    {
        var name = Name();
        return Cli.Command(
            "show",
            "What sits in it, and how",
            "revtal dummy show fj14",
            async (p, client, cancel) => Cli.Show(p, await client.DummyAsync(p.GetValue(name)!, cancel), Draw),
            name
        );
    }

    // Every act is one request, and shows the machine as it is afterwards.
    private static Command Act(
        string verb,
        string what,
        string example,
        Func<ParseResult, DummyActRequest> request,
        params Symbol[] symbols
    )
    {
        var name = Name();
        return Cli.Command(
            verb,
            what,
            example,
            async (p, client, cancel) =>
                Cli.Show(p, await client.ActOnDummyAsync(p.GetValue(name)!, request(p), cancel), Draw),
            [name, .. symbols]
        );
    }

    private static Command Act(string verb, string what, DummyAct act) =>
        Act(verb, what, $"revtal dummy {verb} fj14 --as mara", _ => new(act));

    private static Command Fit()
    {
        var (position, size) = (
            Position(),
            new Argument<string>("SIZE") { Description = "8GB for a slot, 1TB for a bay" }
        );
        var (speed, part, serial) = (
            new Option<int?>("--speed") { Description = "MT/s" },
            new Option<string?>("--part"),
            new Option<string?>("--serial")
        );
        var raw = new Option<bool>("--raw") { Description = "A drive without a partition table" };
        return Act(
            "fit",
            "Fit a module or a drive",
            "revtal dummy fit fj14 S1 16GB --as mara",
            p =>
                new(
                    DummyAct.Fit,
                    p.GetValue(position),
                    null,
                    Gigabytes(p.GetValue(size)!),
                    p.GetValue(speed),
                    p.GetValue(part),
                    p.GetValue(serial),
                    Raw: p.GetValue(raw)
                ),
            position,
            size,
            speed,
            part,
            serial,
            raw
        );
    }

    private static Command Pull()
    {
        var position = Position();
        return Act(
            "pull",
            "Take a module or a drive out",
            "revtal dummy pull fj14 S2 --as mara",
            p => new(DummyAct.Pull, p.GetValue(position)),
            position
        );
    }

    private static Command Move()
    {
        var (from, to) = (new Argument<string>("FROM"), new Argument<string>("TO"));
        return Act(
            "move",
            "Move a module; two change places",
            "revtal dummy move fj14 S2 S1 --as mara",
            p => new(DummyAct.Move, p.GetValue(to), p.GetValue(from)),
            from,
            to
        );
    }

    private static Command Seat()
    {
        var (position, how) = (
            Position(),
            new Argument<string>("HOW") { Description = "home, half (not seen) or askew (no start)" }
        );
        return Act(
            "seat",
            "Seat what is there well or badly",
            "revtal dummy seat fj14 S1 half --as mara",
            p => new(DummyAct.Seat, p.GetValue(position), How: p.GetValue(how)),
            position,
            how
        );
    }

    private static Command Spoil()
    {
        var (position, how) = (
            Position(),
            new Argument<string>("HOW")
            {
                Description =
                    "silent (module not seen), stops (no start), slot (the slot itself), worn or lanes (a drive)",
            }
        );
        return Act(
            "spoil",
            "Make a part or a slot faulty",
            "revtal dummy spoil fj14 S1 silent --as mara",
            p => new(DummyAct.Spoil, p.GetValue(position), How: p.GetValue(how)),
            position,
            how
        );
    }

    private static Command Mend()
    {
        var position = Position();
        return Act(
            "mend",
            "Take the faults of a position away",
            "revtal dummy mend fj14 S1 --as mara",
            p => new(DummyAct.Mend, p.GetValue(position)),
            position
        );
    }

    private static Command Set()
    {
        var what = new Argument<string>("WHAT") { Description = "profile-off, profile-on, limit or boots" };
        var value = new Argument<string?>("VALUE")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "mem=4G for limit, a bay for boots; nothing takes it away",
        };
        return Act(
            "set",
            "Change a setting",
            "revtal dummy set fj14 limit mem=4G --as mara",
            p => new(DummyAct.Set, How: p.GetValue(what), Value: p.GetValue(value)),
            what,
            value
        );
    }

    private static Command Capture()
    {
        var (name, file) = (Name(), new Argument<string>("FILE") { Description = "Where the bundle goes" });
        return Cli.Command(
            "capture",
            "Write what its collector would write on a stick",
            "revtal dummy capture fj14 fj14.revtal",
            async (p, client, cancel) =>
                Files.Write(
                    p.GetValue(file)!,
                    System.Text.Json.JsonSerializer.SerializeToUtf8Bytes(
                        await client.CaptureDummyAsync(p.GetValue(name)!, cancel),
                        WireTypes.Of<CaptureBundle>()
                    )
                ),
            name,
            file
        );
    }

    private static Command Send()
    {
        var (name, code) = (Name(), new Argument<string>("CODE") { Description = "From revtal reading invite" });
        return Cli.Command(
            "send",
            "Let its collector send a reading by a code",
            "revtal dummy send fj14 104-7K3M-Q2XD --as mara",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.SendDummyAsync(p.GetValue(name)!, p.GetValue(code)!, cancel),
                    c => Screen.Line(c.Text)
                ),
            name,
            code
        );
    }

    private static void Draw(DummyView d)
    {
        Screen.Marked(
            $"[bold]{d.Name}[/]  {Screen.Safe(d.Model)}{Phrases.When(d.Variant, v => $" {Screen.Safe(v)}")} "
                + $"[grey]serial[/] {Screen.Safe(d.Serial)}  "
                + $"{State(d)}{string.Concat(d.Settings.Select(s => $"  [yellow]{Screen.Safe(s)}[/]"))}"
        );
        Screen.Table(
            ["position", "holds", "serial", "seat", "fault"],
            d.Positions.Select(x =>
                new[]
                {
                    x.Position,
                    Screen.Safe(x.Occupant ?? "empty"),
                    Screen.Safe(x.Serial),
                    x.Occupant is null ? ""
                    : x.Seat == "home" ? "home"
                    : $"[yellow]{x.Seat}[/]",
                    x.Fault is { } f ? $"[red]{f}[/]" : "",
                }
            )
        );
        if (d.Shown is { } s)
        {
            Screen.Marked(
                s.Started
                    ? "[green]■[/] It starts: "
                        + $"{(s.FirmwareShows is { } bytes ? new MemorySize(bytes) : MemorySize.Zero)} in "
                        + $"{string.Join(", ", s.SlotsSeen)}"
                        + $"{string.Concat(s.Notices.Select(n => $"; {Screen.Safe(n)}"))}"
                        + $"{(s.SystemRuns ? "" : "; [red]no system is found[/]")}"
                    : $"[red]□[/] It does not start{Phrases.When(s.Sign, sign => $": {Screen.Safe(sign)}")}"
            );
        }
    }

    private static string State(DummyView d) => $"{(d.IsOpen ? "open" : "closed")}, {(d.IsOn ? "on" : "off")}";

    private static int Gigabytes(string text) =>
        DriveSize.TryParse(text, out var size) && size.Bytes >= 1_000_000_000
            ? (int)Math.Min(size.Bytes / 1_000_000_000, 1_000_000)
            : throw RefusedException.Invalid("size-unreadable", $"“{text}” is no size: write 8GB or 1TB.");

    private static Argument<string> Name() => new("NAME") { Description = "The dummy's name" };

    private static Argument<string> Position() => new("POSITION") { Description = "A slot or a bay" };
}
