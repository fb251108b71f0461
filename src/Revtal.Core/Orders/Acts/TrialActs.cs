using System.Globalization;
using Revtal.Core.Captures;
using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>A machine was watched at its work for some minutes.</summary>
/// <param name="Capture">SHA-256 of the bytes as they were sent.</param>
public sealed record LoadWatched(Phase Phase, LoadSeries Series, string? Capture, string? Note) : EntryBody
{
    public override OrderAct Act => OrderAct.TakeScores;

    public override string Line(Guide? guide) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"Load {Phase.Spoken()} watched for {Series.Peaks.Minutes} min{Phrases.Added(Note)}"
        );

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Loads = order.Loads.Add(new WatchedLoad(entry.Sequence, Phase, entry.At, Series, Note)),
        };
}

/// <summary>The customer wants their own kind of work tried, or no longer.</summary>
/// <param name="Work">Null where no trial is asked for any more.</param>
public sealed record TrialAsked(string? Work, int? Minutes) : EntryBody
{
    public override OrderAct Act => OrderAct.AskTrial;

    public override string Line(Guide? guide) =>
        Work is null
            ? "No trial is asked for any more"
            : string.Create(
                CultureInfo.InvariantCulture,
                $"Trial asked for: {Work}{Phrases.When(Minutes, m => $", {m} min")}"
            );

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Trial = order.Trial with { Asked = Work, Minutes = Minutes },
        };
}

/// <summary>The customer's own kind of work was run.</summary>
/// <param name="Load">The sequence of the load that was watched meanwhile.</param>
public sealed record TrialDone(
    string Work,
    int Minutes,
    int? Displays,
    TrialOutcome Outcome,
    string? Note,
    int? Load = null
) : EntryBody
{
    public override OrderAct Act => OrderAct.RunTrial;

    public override string Line(Guide? guide) =>
        string.Create(CultureInfo.InvariantCulture, $"Trial, {Work}, {Minutes} min")
        + Phrases.When(Displays, d => $", {Phrases.Counted(d, "display", "displays")}")
        + $": {Outcome.Spoken()}{Phrases.Added(Note)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Trial = order.Trial with
            {
                Runs =
                [
                    .. order.Trial.Runs,
                    new TrialRun(Work, Minutes, Displays, Outcome, Note, Load, entry.By, entry.At),
                ],
            },
        };
}

/// <summary>
/// Load over time and the trial. Each rule gives the entry to append, or refuses with the reason and the way on.
/// </summary>
public static class TrialRules
{
    private const int MostMinutes = 1440,
        MostDisplays = 16;

    /// <summary>A load that came without a reading of the machine.</summary>
    public static LoadWatched TakeLoad(Phase phase, LoadSeries series, string? capture, string? note) =>
        phase == Phase.During
            ? throw RefusedException.Invalid("load-phase", "A load is of before or after.")
            : new LoadWatched(phase, series, capture, Words.Text("The note", note));

    /// <param name="work">Null or blank: none is asked for any more.</param>
    /// <exception cref="RefusedException">The minutes cannot be.</exception>
    public static TrialAsked Ask(string? work, int? minutes)
    {
        NeedMinutes(minutes ?? 1);
        var told = Words.Line("The work", work);
        return new TrialAsked(told, told is null ? null : minutes);
    }

    /// <summary>The work was run; the newest load of after that no other trial has stands beside it.</summary>
    /// <exception cref="RefusedException">Minutes or displays cannot be, or it ran shorter than was asked
    /// for.</exception>
    public static TrialDone Run(
        Order order,
        string? work,
        int minutes,
        int? displays,
        TrialOutcome outcome,
        string? note
    )
    {
        NeedMinutes(minutes);
        if (displays is < 0 or > MostDisplays)
        {
            throw RefusedException.Invalid("trial-displays", $"A machine has 0 to {MostDisplays} displays.");
        }

        if (outcome != TrialOutcome.Failed && minutes < order.Trial.Minutes)
        {
            throw RefusedException.Rule(
                "trial-too-short",
                $"The customer asked for {order.Trial.Minutes} min of it; {minutes} min prove less."
            );
        }

        return new TrialDone(
            Words.RequiredLine("The work", string.IsNullOrWhiteSpace(work) ? order.Trial.Asked : work),
            minutes,
            displays,
            outcome,
            outcome == TrialOutcome.AsWished
                ? Words.Text("The note", note)
                : Words.RequiredText("What was not as wished", note),
            order
                .Loads.LastOrDefault(l => l.Phase == Phase.After && order.Trial.Runs.All(r => r.Load != l.Sequence))
                ?.Sequence
        );
    }

    private static void NeedMinutes(int minutes)
    {
        if (minutes is < 1 or > MostMinutes)
        {
            throw RefusedException.Invalid("trial-minutes", $"A trial runs 1 to {MostMinutes} min.");
        }
    }
}
