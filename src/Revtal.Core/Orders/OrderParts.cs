using System.Collections.Immutable;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>One time at the bench: the plan carried out, or modules seated anew.</summary>
/// <param name="Number">From 1.</param>
/// <param name="Reseat">The slots to work at; empty for the run of the plan.</param>
/// <param name="Sat">Of a run that changes what was fitted: those of its slots that hold something before it, as they
/// were planned. Null where modules are only seated anew.</param>
public sealed record Run(
    int Number,
    IReadOnlyList<string> Reseat,
    string? Reason,
    ImmutableList<StepConfirmation> Done,
    ImmutableList<GateWaiver> Waivers,
    ImmutableList<BenchFind> Found,
    ImmutableList<StepBlocked> Blocked,
    IReadOnlyList<PlannedSlot>? Sat = null
)
{
    /// <summary>What came off of which nobody had written that it does, in that order.</summary>
    public ImmutableList<CameOff> CameOff { get; init; } = [];

    /// <summary>What was found out on the way in, and keeps its steps in this run's sheet.</summary>
    public FoundWay Way =>
        new(
            [.. CameOff.Select(c => c.Removal.Id)],
            [.. Done.Select(d => d.Step).Where(s => s.Verb == StepVerb.Uncover).Select(s => s.Subject)]
        );

    /// <summary>Whether it changes what was fitted.</summary>
    public bool Mends => Sat is not null;

    /// <summary>A run in which nothing was said yet.</summary>
    public static Run Begin(int number, IReadOnlyList<string> reseat, string? reason) =>
        new(number, reseat, reason, [], [], [], []);
}

/// <summary>A picture that was taken of the machine.</summary>
/// <param name="Hash">Under which it is kept.</param>
public sealed record Photo(
    string Hash,
    int Width,
    int Height,
    StepId? Step,
    string? Caption,
    string By,
    DateTimeOffset At
);

/// <summary>A code by which the machine itself may send one reading.</summary>
/// <param name="Sequence">Of the entry that made it.</param>
/// <param name="By">Who asked for it.</param>
public sealed record Invite(int Sequence, Phase Phase, string CodeHash, DateTimeOffset Until, string By);

/// <summary>A swap test that runs.</summary>
/// <param name="From">The stage to which the order goes back at its end.</param>
public sealed record SwapProgress(SwapSetup Setup, ImmutableList<SwapTrial> Trials, Stage From)
{
    private SwapState? state;

    /// <summary>Where it stands, and what to try next.</summary>
    public SwapState State => state ??= SwapTest.Of(Setup, Trials);

    /// <summary>Fasteners that are out until the search ends, by removal.</summary>
    public IReadOnlyDictionary<string, int> LeftOpen =>
        Setup.Way is { StartsOpen: not null } way && Trials.Count > 0 ? way.Fasteners : new Dictionary<string, int>();
}

/// <summary>A swap test that ended.</summary>
/// <param name="Restarts">How many arrangements it took.</param>
public sealed record SwapResult(
    int Sequence,
    SwapConclusion? Conclusion,
    string? Note,
    int Restarts,
    string By,
    DateTimeOffset At
);

/// <summary>A report that was made.</summary>
/// <param name="Id">Of its proof.</param>
/// <param name="Proof">The report in a JSON Web Signature (RFC 7515), compact.</param>
/// <param name="Sequence">Of the entry that made it.</param>
/// <param name="By">Who made it, by id.</param>
public sealed record MadeReport(string Id, string Proof, int Sequence, DateTimeOffset At, string By);
