using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core.Guides;

namespace Revtal.CommandLine.Commands;

internal static class BatchCommands
{
    public static Command Make() =>
        Cli.Noun(
            "batch",
            "Machines of one model and customer that are worked on together",
            List(),
            Show(),
            Plan(),
            Quote(),
            PlanCommands.Link(
                "revtal batch link 125 --as sanne",
                PlanCommands.Answers,
                Number(),
                "batch revoke",
                (client, batch, request, cancel) => client.OfferBatchAsync(batch, request, cancel)
            ),
            Change(
                "revoke",
                "The link of its machines opens nothing any more",
                "revtal batch revoke 125 --as sanne",
                (_, client, batch, cancel) => client.RevokeBatchAsync(batch, cancel)
            ),
            Agree(),
            Decline(),
            Hands(),
            Run(),
            Confirm(),
            Ready(),
            HandBack(),
            Report(),
            Leave(),
            Join()
        );

    private static Argument<int> Number() => new("BATCH") { Description = "The number of its first order" };

    private static Option<int[]> Only() =>
        new("--only")
        {
            Description = "Only these machines, by their orders; left out: all that it is for",
            AllowMultipleArgumentsPerToken = true,
        };

    private static IReadOnlyList<int>? Named(ParseResult p, Option<int[]> only) =>
        p.GetValue(only) is { Length: > 0 } some ? some : null;

    // A change of a batch, and where its machines stand then.
    private static Command Change(
        string name,
        string description,
        string example,
        Func<ParseResult, RevtalClient, int, CancellationToken, Task<BatchReceipt>> change,
        params Symbol[] symbols
    )
    {
        var number = Number();
        return Cli.Command(
            name,
            description,
            example,
            async (p, client, cancel) =>
                Cli.Show(p, await change(p, client, p.GetValue(number), cancel), BatchScreen.Receipt),
            [number, .. symbols]
        );
    }

    private static Command List() =>
        Cli.Command(
            "list",
            "All batches that have open machines",
            "revtal batch list",
            async (p, client, cancel) => Cli.Show(p, (await client.BoardAsync(cancel)).Batches, BatchScreen.Cards)
        );

    private static Command Show()
    {
        var number = Number();
        return Cli.Command(
            "show",
            "Its machines, what tells them apart, and what their plans want",
            "revtal batch show 125",
            async (p, client, cancel) =>
                Cli.Show(p, await client.BatchAsync(p.GetValue(number), cancel), BatchScreen.Batch),
            number
        );
    }

    private static Command Plan()
    {
        var number = Number();
        var changes = PlanCommands.Changes();
        var like = new Option<int?>("--like") { Description = "The machine whose plan the others get" };
        var only = Only();
        var discount = new Option<decimal?>("--discount") { Description = "In percent of parts and labour" };
        var cleans = new Option<bool?>("--cleaning") { Description = "Clean each inside while it is open" };
        var note = new Option<string?>("--note");
        var dry = new Option<bool>("--dry-run") { Description = "Only show what it would lead to on each" };
        return Cli.Command(
            "plan",
            "One plan for its machines: as one of them is planned, or as told",
            "revtal batch plan 125 --like 125 --dry-run",
            async (p, client, cancel) =>
            {
                var told = p.GetValue(changes)!.Select(PlanCommands.Change).ToArray();
                var request = new BatchPlanRequest(
                    told.Length > 0 ? told : null,
                    p.GetValue(like),
                    Named(p, only),
                    p.GetValue(note),
                    p.GetValue(discount),
                    p.GetValue(cleans)
                );
                if (p.GetValue(dry))
                {
                    Cli.Show(
                        p,
                        await client.PreviewBatchAsync(p.GetValue(number), request, cancel),
                        BatchScreen.Preview
                    );
                    return;
                }

                Cli.Show(
                    p,
                    await client.PlanBatchAsync(p.GetValue(number), request, cancel: cancel),
                    BatchScreen.Receipt
                );
            },
            number,
            changes,
            like,
            only,
            discount,
            cleans,
            note,
            dry
        );
    }

    private static Command Quote()
    {
        var number = Number();
        return Cli.Command(
            "quote",
            "What all that are planned cost together",
            "revtal batch quote 125",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    (await client.BatchAsync(p.GetValue(number), cancel)).Quote,
                    quote =>
                    {
                        if (quote is null)
                        {
                            Screen.Line("None of its machines is planned yet.");
                        }
                        else
                        {
                            PlanScreen.Quote(quote);
                        }
                    }
                ),
            number
        );
    }

    private static Command Agree()
    {
        var customer = new Option<string>("--customer") { Required = true, Description = "Who agreed, and how" };
        var note = new Option<string?>("--note");
        var only = Only();
        return Change(
            "agree",
            "The customer agreed for all that are planned: parts are set aside together",
            "revtal batch agree 125 --customer \"K. Brandt, by mail\" --as sanne",
            (p, client, batch, cancel) =>
                client.AgreeBatchAsync(
                    batch,
                    new BatchAgreeRequest(p.GetValue(customer)!, p.GetValue(note), Named(p, only)),
                    cancel: cancel
                ),
            customer,
            note,
            only
        );
    }

    private static Command Decline()
    {
        var customer = new Option<string>("--customer") { Required = true, Description = "Who declined, and how" };
        var reason = new Option<string?>("--reason");
        return Change(
            "decline",
            "The customer does not want them so",
            "revtal batch decline 125 --customer \"K. Brandt\" --reason \"next year\" --as sanne",
            (p, client, batch, cancel) =>
                client.DeclineBatchAsync(batch, new DeclineRequest(p.GetValue(customer)!, p.GetValue(reason)), cancel),
            customer,
            reason
        );
    }

    private static Command Hands()
    {
        var people = new Argument<string[]>("PERSON") { Arity = ArgumentArity.OneOrMore, Description = "Ids" };
        var only = Only();
        return Change(
            "hands",
            "Give its machines out to people, neighbours to one person",
            "revtal batch hands 125 juno mara --as ines",
            (p, client, batch, cancel) =>
                client.SpreadAsync(batch, new BatchSpreadRequest(p.GetValue(people)!, Named(p, only)), cancel),
            people,
            only
        );
    }

    private static Command Run()
    {
        var number = Number();
        return Cli.Command(
            "run",
            "At which steps its machines stand",
            "revtal batch run 125",
            async (p, client, cancel) =>
                Cli.Show(p, await client.BatchRunAsync(p.GetValue(number), cancel), BatchScreen.Run),
            number
        );
    }

    private static Command Confirm()
    {
        var step = new Argument<string>("STEP") { Description = "As batch run names it" };
        var only = Only();
        var note = new Option<string?>("--note");
        return Change(
            "confirm",
            "Confirm a step on all machines that stand at it, where nothing is counted",
            "revtal batch confirm 125 isolate.unplug --as mara",
            async (p, client, batch, cancel) =>
            {
                var id = StepId.Parse(p.GetValue(step)!);
                var there = (await client.BatchRunAsync(batch, cancel))
                    .Steps.Where(s => s.Id == id)
                    .SelectMany(s => s.Orders);
                return await client.ConfirmBatchAsync(
                    batch,
                    id,
                    new BatchConfirmRequest(Named(p, only) ?? [.. there], p.GetValue(note)),
                    cancel
                );
            },
            step,
            only,
            note
        );
    }

    private static Command Ready()
    {
        var reason = new Option<string?>("--reason");
        return Change(
            "ready",
            "Accept the check of all that nothing holds",
            "revtal batch ready 125 --as mara",
            (p, client, batch, cancel) => client.ReadyBatchAsync(batch, new ReasonRequest(p.GetValue(reason)), cancel),
            reason
        );
    }

    private static Command HandBack()
    {
        var to = new Option<string>("--to") { Required = true, Description = "Who takes them" };
        var old = new Option<string?>("--old-parts") { Description = "What goes back with them" };
        return Change(
            "hand-back",
            "Hand back all that are ready",
            "revtal batch hand-back 125 --to \"K. Brandt\" --as sanne",
            (p, client, batch, cancel) =>
                client.HandBackBatchAsync(batch, new HandBackRequest(p.GetValue(to)!, p.GetValue(old)), cancel),
            to,
            old
        );
    }

    private static Command Report()
    {
        var number = Number();
        var csv = new Option<string?>("--csv") { Description = "Write it to this file as a table" };
        return Cli.Command(
            "report",
            "What became of each machine, and of all of them",
            "revtal batch report 125 --csv school.csv",
            async (p, client, cancel) =>
            {
                if (p.GetValue(csv) is { } file)
                {
                    Files.Write(file, await client.BatchReportAsync(p.GetValue(number), cancel));
                    Screen.Line($"Written to {file}.");
                    return;
                }

                Cli.Show(p, await client.BatchAsync(p.GetValue(number), cancel), BatchScreen.Report);
            },
            number,
            csv
        );
    }

    private static Command Leave()
    {
        var number = Cli.Number();
        var reason = new Option<string>("--reason") { Required = true };
        return Cli.Change(
            "leave",
            "A machine goes its own way",
            "revtal batch leave 128 --reason \"its S2 is faulty\" --as mara",
            (p, client, cancel) =>
                client.LeaveBatchAsync(p.GetValue(number), new ReasonRequest(p.GetValue(reason)), cancel),
            number,
            reason
        );
    }

    private static Command Join()
    {
        var number = Cli.Number();
        var batch = new Option<int>("--batch") { Required = true, Description = "The number of its first order" };
        return Cli.Change(
            "join",
            "A machine comes to a batch of its model and customer",
            "revtal batch join 137 --batch 125 --as sanne",
            (p, client, cancel) =>
                client.JoinBatchAsync(p.GetValue(number), new JoinBatchRequest(p.GetValue(batch)), cancel),
            number,
            batch
        );
    }
}
