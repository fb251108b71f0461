using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>What every finding looks at.</summary>
/// <param name="Evidence">Sequences of before, plan and after.</param>
internal sealed record CheckFacts(
    Guide Guide,
    Reading Before,
    Plan Plan,
    Reading After,
    Expectation Expectation,
    IReadOnlyList<CheckRow> Rows,
    DriveComparison Drives,
    CheckHistory History,
    IReadOnlyList<int> Evidence
)
{
    /// <summary>What firmware counts after, in bytes; the sum of the slots where it gives no total.</summary>
    public long? Installed =>
        After.Memory.InstalledBytes
        ?? (Rows.All(r => r.After.Known) ? Rows.Sum(r => r.After.Module?.Size.Bytes ?? 0) : null);

    public bool SlotsKnown => Rows.All(r => r.After.Known);

    public Finding Finding(
        string code,
        Severity severity,
        string sentence,
        string seen,
        string expected,
        string[] causes,
        NextAction action
    ) => new(code, severity, sentence, seen, expected, causes, action, Evidence, CustomerSentences.Of(code));

    /// <summary>Seat them anew; where that was done already, search for the part at fault.</summary>
    public NextAction Reseat(IReadOnlyList<string> slots)
    {
        var names = Phrases.Listed(slots);
        if (History.Found is { } found)
        {
            return new(ActionKind.Compare, found, slots);
        }

        if (slots.All(History.Reseated.Contains) && slots.Any(s => Guide.Slot(s) is not null))
        {
            var were = Phrases.Plural(slots.Count, "was", "were");
            return new(ActionKind.SwapTest, $"{names} {were} seated anew already: begin the swap test.", slots);
        }

        if (slots.All(s => Guide.Bay(s) is not null))
        {
            return new(ActionKind.Reseat, $"Off, and reseat {names}: drive, contacts, cable.", slots);
        }

        var click = slots.Any(s => Guide.Slot(s)?.Latch is "one-side") ? "the latch clicks" : "both latches click";
        return new(ActionKind.Reseat, $"Reseat {names}: lift, check the notch, press until {click}.", slots);
    }

    public static NextAction Nothing { get; } = new(ActionKind.None, "Nothing to do.", []);

    /// <summary>“16 GB”, or “unknown”.</summary>
    public static string Size(long? bytes) => bytes is >= 0 ? new MemorySize(bytes.Value).ToString() : "unknown";
}
