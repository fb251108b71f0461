using System.Globalization;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Screens;

/// <summary>Batches: one line a machine, the same order of columns everywhere.</summary>
internal static class BatchScreen
{
    public static void Cards(IReadOnlyList<BatchCard> batches) =>
        Screen.Table(
            ["batch", "machines", "model", "customer", "stands", "verdict", "held"],
            batches.Select(b =>
                new[]
                {
                    Text(b.Number),
                    Text(b.Orders.Count),
                    Screen.Safe(b.Model),
                    Screen.Safe(b.Customer),
                    Stages(b.Stages),
                    b.Verdict is { } v
                        ? $"{OrderScreen.Told(v)} [grey]({b.Checked} of {b.Orders.Count} checked)[/]"
                        : "",
                    b.Holds == 0 ? "" : Text(b.Holds),
                }
            )
        );

    public static void Receipt(BatchReceipt receipt)
    {
        var stages = BatchStanding.Stages(receipt.Orders.Select(o => o.Stage));
        Screen.Marked(
            $"[green]■[/] batch [bold]{receipt.Batch}[/]: {Counted(receipt.Orders.Count)}, {Stages(stages)} "
                + $"[grey]({Numbers(receipt.Orders.Select(o => o.Order))})[/]"
        );
        foreach (var taken in receipt.Orders.Where(o => o.OpenToo is not null))
        {
            Screen.Marked(
                $"[yellow]![/] The serial of {taken.Order} has another order open: {string.Join(", ", taken.OpenToo!)}."
            );
        }
    }

    public static void Batch(BatchView batch)
    {
        Head(batch);
        Screen.Table(
            ["order", "serial", "stage", "slots", "verdict", "hands", "planned", "total", "waits for"],
            batch.Machines.Select(m =>
                new[]
                {
                    Text(m.Card.Number),
                    Screen.Safe(m.Serial),
                    m.Card.Stage.Spoken(),
                    OrderScreen.Miniature(m.Card),
                    m.Card.Verdict is { } v ? OrderScreen.Told(v) : "",
                    Screen.Safe(m.Card.Owner),
                    Screen.Safe(m.Plan),
                    m.Total is { } total ? PlanScreen.Number(total) : "",
                    Screen.Safe(m.Card.WaitsFor),
                }
            )
        );
        Likenesses(batch.Likenesses);
        Parts(batch.Parts);
        if (batch.Quote is { } quote)
        {
            Screen.Marked($"[grey]quote[/]       {Phrases.Amount(quote.Total, quote.Currency)} for all planned");
        }

        if (batch.Offered is { } offered)
        {
            Screen.Marked(
                $"[grey]link[/]        {Phrases.Amount(offered.Total, offered.Currency)}, open until "
                    + $"{offered.Until.ToLocalTime():d MMM HH:mm}"
            );
        }

        foreach (var gone in batch.Gone)
        {
            Screen.Marked(
                $"[grey]left[/]        {gone.Order}, " + Screen.Safe($"{gone.Serial}{Phrases.Added(gone.Reason)}")
            );
        }
    }

    public static void Preview(BatchPreview preview)
    {
        Screen.Table(
            ["order", "serial", "planned", "total", "otherwise"],
            preview.Machines.Select(m =>
                new[]
                {
                    Text(m.Order),
                    Screen.Safe(m.Serial),
                    Screen.Safe(m.Plan ?? "not so"),
                    m.Total is { } total ? PlanScreen.Number(total) : "",
                    string.Join(
                        '\n',
                        new[] { m.WhyNot, m.Differs }
                            .Concat(m.Notes.Select(n => n.Sentence))
                            .Where(t => t is not null)
                            .Select(t => Screen.Safe(t))
                    ),
                }
            )
        );
        Parts(preview.Parts);
        if (preview.Quote is { } quote)
        {
            Screen.Marked($"[grey]quote[/]       {Phrases.Amount(quote.Total, quote.Currency)}");
        }
    }

    public static void Run(BatchRunView run)
    {
        if (run.Steps.Count == 0)
        {
            Screen.Line("None of its machines stands at a step.");
        }

        foreach (var step in run.Steps)
        {
            Screen.Marked(
                $"[bold]{Screen.Safe(step.Title)}[/]  [grey]{Screen.Safe(step.Id.ToString())}, {step.Part}[/]"
            );
            foreach (var precaution in step.Precautions)
            {
                Screen.Marked($"  [yellow]{Phrases.Words(precaution.Kind)}[/] {Screen.Safe(precaution.Text)}");
            }

            Screen.Marked($"  {Counted(step.Orders.Count)}: {Numbers(step.Orders)}");
            Screen.Marked(
                step.Together
                    ? $"  [grey]on all of them: revtal batch confirm {run.Batch} {Screen.Safe(step.Id.ToString())}[/]"
                    : "  [grey]machine by machine: revtal run work ORDER[/]"
            );
        }

        if (run.Waiting.Count > 0)
        {
            Screen.Marked($"[grey]at no step: {Numbers(run.Waiting)}[/]");
        }
    }

    public static void Report(BatchView batch)
    {
        Head(batch);
        Screen.Table(
            ["order", "serial", "stage", "before", "after", "verdict", "min", "total", "planned"],
            batch.Machines.Select(m =>
                new[]
                {
                    Text(m.Card.Number),
                    Screen.Safe(m.Serial),
                    m.Card.Stage.Spoken(),
                    Size(m.Before),
                    Size(m.After),
                    m.Card.Verdict is { } v ? OrderScreen.Told(v) : "",
                    m.Minutes is { } minutes ? Text(minutes) : "",
                    m.Total is { } total ? PlanScreen.Number(total) : "",
                    Screen.Safe(m.Plan),
                }
            )
        );
        var all = batch.Totals;
        Screen.Marked(
            $"[bold]{Counted(all.Machines)}[/]: {Stages(all.Stages)}. {all.Good} as planned, {all.Bad} short or not "
                + $"seen, {all.Machines - all.Good - all.Bad} not checked or unknown."
        );
        Screen.Marked(
            $"memory {Size(all.Before, "not all measured")} before, {Size(all.After, "not all measured")} after; "
                + $"{all.Minutes} min on the bench"
                + (batch.Currency is { } c ? $"; {Phrases.Amount(all.Total, c)} agreed" : "")
        );
    }

    private static void Head(BatchView batch) =>
        Screen.Marked(
            $"[bold]batch {batch.Number}[/]  {Counted(batch.Machines.Count)} {Screen.Safe(batch.Machine)}, "
                + $"{Screen.Safe(batch.Customer)}  [grey]{Stages(batch.Totals.Stages)}[/]"
        );

    private static void Likenesses(IReadOnlyList<BatchLikeness> likenesses)
    {
        foreach (var (i, alike) in likenesses.Index())
        {
            var who = Counted(alike.Orders.Count) + Phrases.When(i > 0, $": {Numbers(alike.Orders)}");
            Screen.Marked(
                $"[grey]{(i == 0 ? "held before" : "otherwise  ")}[/] {Screen.Safe(alike.Holds)}  [grey]{who}[/]"
            );
        }
    }

    private static void Parts(IReadOnlyList<BatchPart> parts)
    {
        foreach (var part in parts)
        {
            Screen.Marked(
                $"[grey]wants[/]       {part.Wanted} × {Screen.Safe(part.Number.ToString())} {Screen.Safe(part.Name)}"
                    + (part.SetAside > 0 ? $", {part.SetAside} set aside" : "")
                    + (
                        part.Short > 0
                            ? $", [red]{part.Short} short: {Numbers(part.Lack)} go without until it comes[/]"
                            : ""
                    )
            );
        }
    }

    private static string Stages(IReadOnlyList<BatchStage> stages) =>
        string.Join(", ", stages.Select(s => $"{s.Count} {s.Stage.Spoken()}"));

    // 125–131, 133: neighbours are one span.
    private static string Numbers(IEnumerable<int> orders)
    {
        var spans = new List<(int First, int Last)>();
        foreach (var order in orders.Order())
        {
            if (spans is [.., var (first, last)] && last == order - 1)
            {
                spans[^1] = (first, order);
            }
            else
            {
                spans.Add((order, order));
            }
        }

        return string.Join(", ", spans.Select(s => s.First == s.Last ? Text(s.First) : $"{s.First}–{s.Last}"));
    }

    private static string Counted(int machines) => Phrases.Counted(machines, "machine", "machines");

    private static string Size(long? bytes, string none = "") => bytes is { } b ? new MemorySize(b).ToString() : none;

    private static string Text(int number) => number.ToString(CultureInfo.InvariantCulture);
}
