using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.CommandLine.Commands;

internal static class RunCommands
{
    public static Command Make() => Cli.Noun("run", "Doing the plan on the bench", Show(), Done(), Reseat());

    private static Command Show()
    {
        var number = Cli.Number();
        return Cli.Command(
            "show", "Show the steps, what is done and what is next", "revtal run show 104",
            async (p, client, cancel) =>
            {
                var order = await client.OrderAsync(p.GetValue(number), cancel);
                var run = order.Run ?? throw RefusedException.Rule("no-plan", $"Order {order.Number} has no run before it has a plan. Next: {order.Next.Text}.");
                Cli.Show(p, run, _ => OrderScreen.Run(order));
            },
            number);
    }

    private static Command Done()
    {
        var number = Cli.Number();
        var step = new Argument<string>("STEP") { Description = "The step's id, or “next”" };
        var count = new Option<int?>("--count") { Description = "How many fasteners came out, or went back" };
        var explain = new Option<string?>("--explain") { Description = "Why the count differs" };
        var note = new Option<string?>("--note");
        return Cli.Command(
            "done", "Confirm a step", "revtal run done 104 close.keyboard --count 2 --as pell",
            async (p, client, cancel) =>
            {
                var id = p.GetValue(step)!;
                if (id == "next")
                {
                    var order = await client.OrderAsync(p.GetValue(number), cancel);
                    id = order.Run?.NextStep ?? throw RefusedException.Rule("no-next-step", $"Order {order.Number} has no step to do now. Next: {order.Next.Text}.");
                }

                Cli.Show(p, await client.ConfirmAsync(p.GetValue(number), id, new ConfirmRequest(p.GetValue(count), p.GetValue(explain), p.GetValue(note)), cancel: cancel), OrderScreen.Receipt);
            },
            number, step, count, explain, note);
    }

    private static Command Reseat()
    {
        var number = Cli.Number();
        var slots = new Argument<string[]>("SLOT") { Arity = ArgumentArity.OneOrMore };
        var reason = new Option<string?>("--reason");
        return Cli.Command(
            "reseat", "Begin another run that seats modules anew", "revtal run reseat 103 S3 --as juno",
            async (p, client, cancel) => Cli.Show(p, await client.ReseatAsync(p.GetValue(number), new ReseatRequest(p.GetValue(slots)!, p.GetValue(reason)), cancel), OrderScreen.Receipt),
            number, slots, reason);
    }
}
