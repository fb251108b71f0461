using System.CommandLine;
using System.Globalization;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.CommandLine.Commands;

internal static class RunCommands
{
    public static Command Make() =>
        Cli.Noun(
            "run",
            "Doing the plan on the bench",
            Show(),
            Work(),
            Done(),
            TakeBack(),
            Skip(),
            Impossible(),
            Waive(),
            Found(),
            SketchCommands.CameOff(),
            SketchCommands.Seen(),
            Note(),
            Photo(),
            Stuck(),
            Paper(),
            Reseat()
        );

    private static Command Show()
    {
        var number = Cli.Number();
        return Cli.Command(
            "show",
            "Show the steps, what is done and what is next",
            "revtal run show 104",
            async (p, client, cancel) =>
            {
                var order = await client.OrderAsync(p.GetValue(number), cancel);
                Cli.Show(p, NeedRun(order), _ => RunScreen.Show(order));
            },
            number
        );
    }

    private static Command Work()
    {
        var number = Cli.Number();
        return Cli.Command(
            "work",
            "Go through the run step by step; stop and go on as you like",
            "revtal run work 104 --as pell",
            (p, client, cancel) => RunWalk.GoAsync(client, p.GetValue(number), cancel),
            number
        );
    }

    private static Command Done()
    {
        var number = Cli.Number();
        var step = new Argument<string>("STEP") { Description = "The step's id, or “next”" };
        var count = new Option<string[]>("--count")
        {
            Description = "How many fasteners came out, or went back: 2, or GROUP=2 for each group",
            AllowMultipleArgumentsPerToken = true,
        };
        var bay = new Option<string[]>("--bay")
        {
            Description = "What sits in a bay: B1=SERIAL, or B1=empty",
            AllowMultipleArgumentsPerToken = true,
        };
        var asRead = new Option<bool>("--as-read")
        {
            Description = "The labels are as they were read before; --bay tells what differs",
        };
        var seen = new Option<string?>("--seen") { Description = "What the firmware showed with the case open" };
        var otherwise = new Option<bool>("--otherwise")
        {
            Description = "It was done in another way; say how with --explain",
        };
        var explain = new Option<string?>("--explain") { Description = "Why the count differs, or how it was done" };
        var note = new Option<string?>("--note");
        return Cli.Command(
            "done",
            "Confirm a step",
            "revtal run done 104 close.keyboard --count 2 --as pell",
            async (p, client, cancel) =>
            {
                var id = await StepAsync(client, p.GetValue(number), p.GetValue(step)!, cancel);
                var (total, groups) = Counts(p.GetValue(count) ?? []);
                var request = new ConfirmRequest(
                    total,
                    p.GetValue(explain),
                    p.GetValue(note),
                    null,
                    groups,
                    await SitsAsync(),
                    p.GetValue(seen) is { } s ? MemorySize.Parse(s) : null,
                    p.GetValue(otherwise) ? Deviation.Otherwise : null
                );
                Cli.Show(
                    p,
                    await client.ConfirmAsync(p.GetValue(number), id, request, cancel: cancel),
                    OrderScreen.Receipt
                );

                async Task<IReadOnlyDictionary<string, string>?> SitsAsync()
                {
                    var told = Pairs(p.GetValue(bay) ?? [], "--bay wants BAY=SERIAL");
                    if (!p.GetValue(asRead))
                    {
                        return told;
                    }

                    var order = await client.OrderAsync(p.GetValue(number), cancel);
                    var offers = order.Run?.Steps.First(s => s.Step.Id == id).Step.Offers ?? Nothing;
                    return offers.Where(o => told?.ContainsKey(o.Key) != true).Concat(told ?? Nothing).ToDictionary();
                }
            },
            number,
            step,
            count,
            bay,
            asRead,
            seen,
            otherwise,
            explain,
            note
        );
    }

    private static readonly Dictionary<string, string> Nothing = [];

    private static Command TakeBack()
    {
        var number = Cli.Number();
        var step = new Argument<string>("STEP") { Description = "The step confirmed last" };
        var reason = new Option<string?>("--reason");
        return Cli.Change(
            "take-back",
            "Take the step confirmed last back: a press too much",
            "revtal run take-back 104 open.side-panel --as pell",
            (p, client, cancel) =>
                client.TakeBackAsync(
                    p.GetValue(number),
                    Step(p.GetValue(step)!),
                    new ReasonRequest(p.GetValue(reason)),
                    cancel
                ),
            number,
            step,
            reason
        );
    }

    private static Command Skip()
    {
        var number = Cli.Number();
        var step = new Argument<string>("STEP") { Description = "The step's id, or “next”" };
        var reason = new Option<string>("--reason") { Required = true };
        return Cli.Change(
            "skip",
            "Leave a step out, with a reason",
            "revtal run skip 104 record.modules --reason \"labels read at take-in\" --as pell",
            async (p, client, cancel) =>
                await client.ConfirmAsync(
                    p.GetValue(number),
                    await StepAsync(client, p.GetValue(number), p.GetValue(step)!, cancel),
                    new ConfirmRequest(Explanation: p.GetValue(reason), Deviation: Deviation.Skipped),
                    cancel: cancel
                ),
            number,
            step,
            reason
        );
    }

    private static Command Impossible()
    {
        var number = Cli.Number();
        var step = new Argument<string>("STEP");
        var reason = new Option<string>("--reason") { Required = true };
        return Cli.Change(
            "impossible",
            "Say that a step cannot be done; somebody else tries, or a lead waives it",
            "revtal run impossible 104 open.side-panel --reason \"screw head torn\" --as pell",
            (p, client, cancel) =>
                client.BlockAsync(
                    p.GetValue(number),
                    Step(p.GetValue(step)!),
                    new ReasonRequest(p.GetValue(reason)),
                    cancel
                ),
            number,
            step,
            reason
        );
    }

    private static Command Waive()
    {
        var number = Cli.Number();
        var gate = new Argument<string>("GATE")
        {
            Description =
                "As the refusal is called: still-cooling, seal-consent-missing, boot-copy-missing, tally-open, "
                + "wrong-bay, power-not-isolated, step-impossible, run-stopped",
        };
        gate.AcceptOnlyFromAmong([.. Enum.GetValues<Gate>().Select(Word)]);
        var step = new Option<string?>("--step") { Description = "The step that waits; none for run-stopped" };
        var reason = new Option<string>("--reason") { Required = true };
        return Cli.Change(
            "waive",
            "Let one gate be, with a reason (leads)",
            "revtal run waive 105 still-cooling --step isolate.cool-down --reason \"came in cold\" --as ines",
            (p, client, cancel) =>
                client.WaiveAsync(
                    p.GetValue(number),
                    new WaiveRequest(
                        Enum.GetValues<Gate>().First(g => Word(g) == p.GetValue(gate)),
                        p.GetValue(step) is { } at ? Step(at) : null,
                        p.GetValue(reason)!
                    ),
                    cancel
                ),
            number,
            gate,
            step,
            reason
        );
    }

    private static Command Found()
    {
        var number = Cli.Number();
        var kind = new Argument<string>("WHAT")
        {
            Description =
                "hidden-fastener, missing-fastener, lost-fastener, broken-clip, dust, swollen-battery (stops the run), "
                + "liquid-mark, sign (what a start showed, in --text), normal-start, loud-fan, heat, noise, "
                + "freeze or other",
        };
        kind.AcceptOnlyFromAmong([.. Enum.GetValues<FindKind>().Select(Word)]);
        var text = new Option<string?>("--text");
        var step = new Option<string?>("--step");
        return Cli.Change(
            "found",
            "Record what was found inside",
            "revtal run found 104 broken-clip --step open.side-panel --text \"upper rail\" --as pell",
            (p, client, cancel) =>
                client.FindAsync(
                    p.GetValue(number),
                    new FindRequest(
                        Enum.GetValues<FindKind>().First(k => Word(k) == p.GetValue(kind)),
                        p.GetValue(step) is { } at ? Step(at) : null,
                        p.GetValue(text)
                    ),
                    cancel
                ),
            number,
            kind,
            text,
            step
        );
    }

    private static Command Note()
    {
        var number = Cli.Number();
        var step = new Argument<string>("STEP") { Description = "The step's id, or “next”" };
        var text = new Argument<string>("TEXT");
        return Cli.Change(
            "note",
            "Add a note to a step",
            "revtal run note 104 next \"stripped head, drilled\" --as pell",
            async (p, client, cancel) =>
                await client.NoteAsync(
                    p.GetValue(number),
                    new NoteRequest(
                        p.GetValue(text)!,
                        await StepAsync(client, p.GetValue(number), p.GetValue(step)!, cancel)
                    ),
                    cancel: cancel
                ),
            number,
            step,
            text
        );
    }

    private static Command Photo()
    {
        var number = Cli.Number();
        var file = new Argument<string>("FILE") { Description = "JPEG, PNG or WebP, at most 12 MB" };
        var step = new Option<string?>("--step");
        var caption = new Option<string?>("--caption");
        return Cli.Change(
            "photo",
            "Add a photo to an order, or to one step",
            "revtal run photo 104 dust.jpg --step open.side-panel --as pell",
            (p, client, cancel) =>
                Screen.Wait(
                    "Sending",
                    client.PhotoAsync(
                        p.GetValue(number),
                        Files.Bytes(p.GetValue(file)!, Documents.Pictures.Largest),
                        p.GetValue(step) is { } at ? Step(at) : null,
                        p.GetValue(caption),
                        cancel
                    )
                ),
            number,
            file,
            step,
            caption
        );
    }

    private static Command Stuck()
    {
        var number = Cli.Number();
        var step = new Argument<string>("STEP")
        {
            Description = "The step's id, or “next”",
            DefaultValueFactory = _ => "next",
        };
        return Cli.Command(
            "stuck",
            "What usually holds this part",
            "revtal run stuck 104 open.keyboard",
            async (p, client, cancel) =>
            {
                var order = await client.OrderAsync(p.GetValue(number), cancel);
                var id = p.GetValue(step) == Next ? NextOf(order) : Step(p.GetValue(step)!);
                var found =
                    NeedRun(order).Steps.FirstOrDefault(s => s.Step.Id == id)?.Step
                    ?? throw RefusedException.NotFound("no-such-step", $"This run has no step “{id}”.");
                Cli.Show(p, found.Stuck, RunScreen.Stuck);
            },
            number,
            step
        );
    }

    private static Command Paper()
    {
        var number = Cli.Number();
        var output = new Option<string?>("--output", "-o")
        {
            Description = "The file to write; run-NUMBER.pdf by default",
        };
        return Cli.Command(
            "paper",
            "Write the run sheet as a PDF, A4, with boxes to tick",
            "revtal run paper 104 -o sheet.pdf",
            async (p, client, cancel) =>
            {
                var path = p.GetValue(output) ?? $"run-{p.GetValue(number)}.pdf";
                Files.Write(path, await client.RunPaperAsync(p.GetValue(number), cancel));
                Cli.Show(p, new FileWritten(path), w => Screen.Line(w.Path));
            },
            number,
            output
        );
    }

    private static Command Reseat()
    {
        var number = Cli.Number();
        var slots = new Argument<string[]>("SLOT") { Arity = ArgumentArity.OneOrMore };
        var reason = new Option<string?>("--reason");
        return Cli.Change(
            "reseat",
            "Begin another run that seats modules anew",
            "revtal run reseat 103 S3 --as juno",
            (p, client, cancel) =>
                client.ReseatAsync(
                    p.GetValue(number),
                    new ReseatRequest(p.GetValue(slots)!, p.GetValue(reason)),
                    cancel
                ),
            number,
            slots,
            reason
        );
    }

    internal static RunView NeedRun(OrderView order) =>
        order.Run
        ?? throw RefusedException.Rule(
            "no-plan",
            $"Order {order.Number} has no run before it has a plan. Next: {order.Next.Text}."
        );

    /// <summary>One number, or one a group.</summary>
    internal static (int? Total, IReadOnlyDictionary<string, int>? Groups) Counts(IReadOnlyList<string> words)
    {
        if (words is [var one] && int.TryParse(one, NumberStyles.None, CultureInfo.InvariantCulture, out var total))
        {
            return (total, null);
        }

        return (
            null,
            Pairs(words, "--count wants a number, or GROUP=NUMBER for each group")
                ?.ToDictionary(
                    p => p.Key,
                    p =>
                        int.TryParse(p.Value, NumberStyles.None, CultureInfo.InvariantCulture, out var n)
                            ? n
                            : throw RefusedException.Invalid("count-form", $"“{p.Value}” is no number of fasteners.")
                )
        );
    }

    internal static Dictionary<string, string>? Pairs(IReadOnlyList<string> words, string wants) =>
        words.Count == 0
            ? null
            : words
                .Select(w =>
                    w.Split('=', 2) is [{ Length: > 0 } key, { Length: > 0 } value]
                        ? (key, value)
                        : throw RefusedException.Invalid("pair-form", $"“{w}” cannot be read: {wants}.")
                )
                .GroupBy(p => p.key)
                .ToDictionary(g => g.Key, g => g.Last().value);

    private static string Word<T>(T value)
        where T : struct, Enum => System.Text.Json.JsonNamingPolicy.KebabCaseLower.ConvertName(value.ToString());

    private const string Next = "next";

    private static StepId Step(string text) =>
        StepId.TryParse(text, out var id)
            ? id
            : throw RefusedException.NotFound(
                "no-such-step",
                $"“{text}” is no step. A step is like open.hatch, or next."
            );

    private static StepId NextOf(OrderView order) =>
        order.Run?.NextStep
        ?? throw RefusedException.Rule(
            "no-next-step",
            $"Order {order.Number} has no step to do now. Next: {order.Next.Text}."
        );

    private static async Task<StepId> StepAsync(
        RevtalClient client,
        int number,
        string step,
        CancellationToken cancel
    ) => step == Next ? NextOf(await client.OrderAsync(number, cancel)) : Step(step);
}
