using System.CommandLine;
using System.Globalization;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.CommandLine.Commands;

internal static class PlanCommands
{
    public static Command Make() => Cli.Noun("plan", "Which module goes where", Set(), Show(), Agree());

    private static Command Set()
    {
        var number = Cli.Number();
        var changes = new Argument<string[]>("SLOT=WHAT")
        {
            Arity = ArgumentArity.OneOrMore,
            Description = "S2=16GB fits a module (S2=16GB,DDR4-3200,Ostrava,OS4S-16G32,SERIAL says more); S1=from:S2 moves one; S3=empty takes one out; S1=reseat or D1=inspect changes nothing",
        };
        var note = new Option<string?>("--note");
        var dry = new Option<bool>("--dry-run") { Description = "Only show what it would lead to" };
        return Cli.Command(
            "set", "Set the plan; slots that are not named stay as they are", "revtal plan set 104 S1=from:S2 S2=16GB --as mara",
            async (p, client, cancel) =>
            {
                var request = new PlanRequest([.. p.GetValue(changes)!.Select(Change)], p.GetValue(note));
                if (p.GetValue(dry))
                {
                    Cli.Show(p, await client.PreviewAsync(p.GetValue(number), request, cancel), OrderScreen.Expected);
                    return;
                }

                var receipt = await client.SetPlanAsync(p.GetValue(number), request, cancel: cancel);
                if (p.GetValue(Cli.Json))
                {
                    Cli.Show(p, receipt, _ => { });
                    return;
                }

                var order = await client.OrderAsync(p.GetValue(number), cancel);
                PositionDrawing.Draw(order.Positions);
                OrderScreen.Expected(order.Plan!);
                OrderScreen.Receipt(receipt);
            },
            number, changes, note, dry);
    }

    private static Command Show()
    {
        var number = Cli.Number();
        return Cli.Command(
            "show", "Show the plan and what is expected of it", "revtal plan show 104",
            async (p, client, cancel) =>
            {
                var order = await client.OrderAsync(p.GetValue(number), cancel);
                var plan = order.Plan ?? throw RefusedException.Rule("no-plan", $"Order {order.Number} has no plan yet. Next: {order.Next.Text}.");
                Cli.Show(p, plan, shown =>
                {
                    PositionDrawing.Draw(order.Positions);
                    OrderScreen.Expected(shown);
                });
            },
            number);
    }

    private static Command Agree()
    {
        var number = Cli.Number();
        var customer = new Option<string>("--customer") { Required = true, Description = "Who agreed, and how" };
        var note = new Option<string?>("--note");
        return Cli.Command(
            "agree", "The customer agreed to the plan", "revtal plan agree 104 --customer \"R. Fahr, by mail\" --as sanne",
            async (p, client, cancel) => Cli.Show(p, await client.AgreeAsync(p.GetValue(number), new AgreeRequest(p.GetValue(customer)!, p.GetValue(note)), cancel), OrderScreen.Receipt),
            number, customer, note);
    }

    internal static SlotChange Change(string text) => text.Split('=', 2) switch
    {
        [var slot, "empty"] => new SlotChange(slot, Empty: true),
        [var slot, "reseat"] => new SlotChange(slot, Reseat: true),
        [var slot, "inspect"] => new SlotChange(slot, Inspect: true),
        [var slot, var from] when from.StartsWith("from:", StringComparison.Ordinal) => new SlotChange(slot, From: from[5..]),
        [var slot, var module] => new SlotChange(slot, Module(module.Split(','))),
        _ => throw RefusedException.Invalid("change-form", $"“{text}” is not like S2=16GB, S1=from:S2, S3=empty, S1=reseat or D1=inspect."),
    };

    // 16GB,DDR4-3200,maker,part number,serial; what is left out is unknown.
    private static MemoryModule Module(string[] parts)
    {
        var grade = At(1)?.Split('-');
        var speed = grade is [_, var s] && int.TryParse(s, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : (int?)null;
        return new MemoryModule(MemorySize.Parse(parts[0]), grade?[0], null, speed, At(2), At(3), At(4));

        string? At(int i) => i < parts.Length && parts[i].Trim() is { Length: > 0 } text ? text : null;
    }
}
