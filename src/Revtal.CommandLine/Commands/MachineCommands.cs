using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Documents;

namespace Revtal.CommandLine.Commands;

internal static class MachineCommands
{
    public static Command Make() =>
        Cli.Noun("machine", "Machines over all of their visits", Show(), Invite(), Tell(), Waiting(), Match());

    private static Command Invite()
    {
        var minutes = new Option<int>("--minutes")
        {
            Description = "How long the code stays open",
            DefaultValueFactory = _ => 60,
        };
        return Cli.Command(
            "invite",
            "A one-time code by which a machine tells of itself before there is an order",
            "revtal machine invite --as sanne",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.InviteArrivalAsync(new ArrivalInviteRequest(p.GetValue(minutes)), cancel),
                    i => MeasureScreen.Code(i.Code, i.Until, i.Lines, i.HereOnly)
                ),
            minutes
        );
    }

    private static Command Tell()
    {
        var path = new Argument<string>("PATH") { Description = "A capture: a folder, a dump or a bundle" };
        return Cli.Command(
            "tell",
            "Keep a capture of a machine for which there is no order yet",
            "revtal machine tell /mnt/stick/capture --as sanne",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.TakeArrivalAsync(CaptureBundle.Of(CaptureFolder.Read(p.GetValue(path)!)), cancel),
                    Arrival
                ),
            path
        );
    }

    private static Command Waiting() =>
        Cli.Command(
            "waiting",
            "Machines that told of themselves and wait to be taken in",
            "revtal machine waiting",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.ArrivalsAsync(cancel),
                    all =>
                    {
                        foreach (var arrival in all)
                        {
                            Arrival(arrival);
                        }

                        if (all.Count == 0)
                        {
                            Screen.Marked("[grey]None waits.[/]");
                        }
                    }
                )
        );

    private static Command Match()
    {
        var product = new Argument<string>("PRODUCT") { Description = "As it stands on it, or as firmware tells it" };
        return Cli.Command(
            "match",
            "Which of the shop's models a machine may be that calls itself so",
            "revtal machine match \"Fjell 14\"",
            async (p, client, cancel) => Cli.Show(p, await client.MatchesAsync(p.GetValue(product)!, cancel), Models),
            product
        );
    }

    private static void Arrival(ArrivalView arrival)
    {
        if (arrival.Told is not { } told)
        {
            Screen.Marked($"[grey]{arrival.Id}  a code by {Screen.Safe(arrival.By)}, nothing told yet[/]");
            return;
        }

        Screen.Marked(
            $"[bold]{Screen.Safe($"{told.Maker ?? "unknown maker"} {told.Product ?? "unknown product"}")}[/]  "
                + $"{Screen.Safe(told.Serial ?? "no serial told")}  [grey]{arrival.Id}[/]"
        );
        foreach (var line in told.Lines)
        {
            Screen.Marked($"  {Screen.Safe(line)}");
        }

        Models(told.Models);
        foreach (var doubt in told.Doubts)
        {
            Screen.Marked($"  [yellow]![/] {Screen.Safe(doubt)}");
        }

        if (told.Machine is { } machine)
        {
            Screen.Marked($"  was here before: {string.Join(", ", machine.Orders.Select(o => o.Number))}");
            Left(machine);
        }
    }

    private static void Models(IReadOnlyList<ModelMatch> models)
    {
        foreach (var m in models)
        {
            Screen.Marked(
                $"  {(m.Reported ? "is a" : "may be a")} [bold]{Screen.Safe(m.Build ?? m.Code)}[/] "
                    + $"{Screen.Safe($"{m.Maker} {m.Name}")}{(m.Sketch ? " [grey](sketch)[/]" : "")}"
                    + $"{Screen.Safe(Phrases.When(m.TellApart, t => $": {t}"))}"
            );
        }

        if (models.Count == 0)
        {
            Screen.Marked("  [grey]no guide knows it: take it in with --maker, --name and --kind[/]");
        }
    }

    // What its earlier visits left for this one.
    private static void Left(MachineView machine)
    {
        foreach (var mark in machine.Marks)
        {
            Screen.Marked(
                $"[red]{Screen.Safe(mark.Slot)}[/] marked by order {mark.Order}: {Screen.Safe(mark.Sentence)}"
            );
        }

        if (machine.SealBroken is { } broken)
        {
            Screen.Marked($"[yellow]seal broken[/] by order {broken}");
        }

        if (machine.Noted is { } noted)
        {
            Screen.Marked($"[yellow]noted[/] by order {noted.Order} for this visit: {Screen.Safe(noted.Visit.Words)}");
        }
    }

    private static Command Show()
    {
        var serial = new Argument<string>("SERIAL");
        return Cli.Command(
            "show",
            "A machine's visits, and what was noted for the next",
            "revtal machine show NF14-0417",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.MachineAsync(p.GetValue(serial)!, cancel),
                    machine =>
                    {
                        OrderScreen.Cards(machine.Orders);
                        Left(machine);
                    }
                ),
            serial
        );
    }
}
