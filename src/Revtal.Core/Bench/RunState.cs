using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Bench;

/// <summary>What a step may wait for that a lead can waive with a reason. Named as the refusal is.</summary>
public enum Gate
{
    /// <summary>One step of power isolation cannot be done.</summary>
    PowerNotIsolated,
    StillCooling,
    SealConsentMissing,
    BootCopyMissing,

    /// <summary>Fasteners do not add up.</summary>
    TallyOpen,

    /// <summary>A fastener may lie inside; only a lead says that it is out of the machine.</summary>
    LooseMetal,

    /// <summary>A drive does not come back into its own bay.</summary>
    WrongBay,

    /// <summary>Something was found that stops all work.</summary>
    RunStopped,

    /// <summary>Somebody found the step impossible.</summary>
    StepImpossible,
}

/// <summary>A lead's word that one gate does not hold for one step.</summary>
/// <param name="Step">The step; null for what stops the whole run.</param>
public sealed record GateWaiver(Gate Gate, StepId? Step, string Reason, string By, DateTimeOffset At);

/// <summary>What somebody may come upon inside.</summary>
public enum FindKind
{
    HiddenFastener,

    /// <summary>Missing already on arrival.</summary>
    MissingFastener,

    /// <summary>One that was lost is found again, and out of the machine.</summary>
    LostFastener,
    BrokenClip,
    Dust,

    /// <summary>Stops the run: it may burn.</summary>
    SwollenBattery,
    LiquidMark,
    Other,

    /// <summary>What a start showed: beeps, a light, a notice. The guide tells what it means.</summary>
    Sign,

    /// <summary>A start like any other, after a sign that was not normal.</summary>
    NormalStart,

    // Noticed once it runs again.
    LoudFan,
    Heat,
    Noise,
    Freeze,

    /// <summary>A drive or another part was looked at, and left as it is: with why.</summary>
    LeftAlone,
}

/// <summary>Something found on the bench.</summary>
public sealed record BenchFind(FindKind Kind, StepId? Step, string? Text, string By, DateTimeOffset At)
{
    /// <summary>“a swollen battery”.</summary>
    public string Spoken => Kind.Spoken();

    /// <summary>“found a swollen battery”, “looked at and left”: without what of it.</summary>
    public string Told => Kind.Told();
}

/// <summary>A step that somebody could not do.</summary>
public sealed record StepBlocked(StepId Step, string Reason, string By, DateTimeOffset At);

/// <summary>What was said and found of the copies of drives.</summary>
/// <param name="IsWaived">The customer goes without, and said so of the copy itself.</param>
/// <param name="IsTold">Somebody said that the copy was verified, in words.</param>
/// <param name="Compared">By bay: whether the last comparison was good.</param>
public sealed record CopyWord(bool IsWaived, bool IsTold, IReadOnlyDictionary<string, bool> Compared)
{
    /// <summary>Nothing.</summary>
    public static CopyWord None { get; } = new(false, false, new Dictionary<string, bool>());

    /// <summary>
    /// Whether the drive of this bay may leave. Where copies were compared, each answers for its own bay, and the last
    /// comparison counts.
    /// </summary>
    public bool Secures(string bay) => IsWaived || (Compared.Count > 0 ? Compared.GetValueOrDefault(bay) : IsTold);
}

/// <summary>All that the gates look at.</summary>
/// <param name="SealMayBreak">The customer allows a broken warranty seal.</param>
/// <param name="Copies">What is known of the copies that the plan promised.</param>
/// <param name="Earlier">The runs before this one, oldest first.</param>
/// <param name="SeenOpen">What was read with the case open since hands were in last; null where nothing was.</param>
public sealed record RunState(
    IReadOnlyList<StepConfirmation> Done,
    IReadOnlyList<GateWaiver> Waivers,
    IReadOnlyList<BenchFind> Found,
    IReadOnlyList<StepBlocked> Blocked,
    bool SealMayBreak,
    CopyWord Copies,
    IReadOnlyList<RunState>? Earlier = null,
    MemorySize? SeenOpen = null
)
{
    /// <summary>Fasteners that may lie in the machine, lost in this run or before it.</summary>
    public IReadOnlyList<LooseMetal> Loose => LooseMetal.Of([.. Earlier ?? [], this]);

    /// <summary>A run in which nothing but these confirmations was said.</summary>
    public static RunState Of(IReadOnlyList<StepConfirmation> done) => new(done, [], [], [], false, CopyWord.None);

    /// <summary>What was said of this step; null while it is to do.</summary>
    public StepConfirmation? Confirmed(StepId step) => Done.FirstOrDefault(d => d.Step == step);

    /// <summary>Whether this gate was waived at this step; null is a gate that belongs to no step.</summary>
    public bool IsWaived(Gate gate, StepId? step) => Waivers.Any(w => w.Gate == gate && w.Step == step);

    /// <summary>What stops all work; null when nothing does.</summary>
    public BenchFind? Stop =>
        IsWaived(Gate.RunStopped, null) ? null : Found.FirstOrDefault(f => f.Kind == FindKind.SwollenBattery);

    /// <summary>Whether the step need not be done any more: confirmed, or waived by a lead.</summary>
    public bool Settled(StepId step) =>
        Confirmed(step) is not null || IsWaived(Gate.PowerNotIsolated, step) || IsWaived(Gate.StepImpossible, step);
}

/// <summary>Gates and finds as they are said.</summary>
public static class BenchWords
{
    /// <summary>“still cooling”, “seal consent missing”.</summary>
    public static string Spoken(this Gate gate) => Phrases.Words(gate);

    /// <summary>“a swollen battery”.</summary>
    public static string Spoken(this FindKind kind) =>
        kind switch
        {
            FindKind.HiddenFastener => "a hidden fastener",
            FindKind.MissingFastener => "a fastener missing",
            FindKind.LostFastener => "the lost fastener, out of the machine",
            FindKind.BrokenClip => "a broken clip",
            FindKind.Dust => "dust",
            FindKind.SwollenBattery => "a swollen battery",
            FindKind.LiquidMark => "marks of liquid",
            FindKind.Sign => "a sign at its start",
            FindKind.NormalStart => "a normal start",
            FindKind.LoudFan => "a loud fan",
            FindKind.Heat => "heat",
            FindKind.Noise => "a noise",
            FindKind.Freeze => "that it froze",
            FindKind.LeftAlone => "a part that was looked at and left",
            _ => "something",
        };

    /// <summary>As what was done about it: “found dust”, “looked at and left”.</summary>
    public static string Told(this FindKind kind) =>
        kind == FindKind.LeftAlone ? "looked at and left" : $"found {kind.Spoken()}";
}
