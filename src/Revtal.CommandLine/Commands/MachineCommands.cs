using System.CommandLine;
using Revtal.CommandLine.Screens;

namespace Revtal.CommandLine.Commands;

internal static class MachineCommands
{
    public static Command Make() => Cli.Noun("machine", "Machines over all of their visits", Show());

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
                        foreach (var mark in machine.Marks)
                        {
                            Screen.Marked(
                                $"[red]{Screen.Safe(mark.Slot)}[/] marked by order {mark.Order}: "
                                    + $"{Screen.Safe(mark.Sentence)}"
                            );
                        }

                        if (machine.Noted is { } noted)
                        {
                            Screen.Marked(
                                $"[yellow]noted[/] by order {noted.Order} for this visit: "
                                    + $"{Screen.Safe(noted.Stage.Words)}"
                            );
                        }
                    }
                ),
            serial
        );
    }
}
