using Revtal.Core.Planning;

namespace Revtal.Core.Checks;

/// <summary>Whether the readings can be trusted: of this change, and at one with each other.</summary>
internal static class ReadingFindings
{
    // Clocks of machines are right to a minute at best.
    private static readonly TimeSpan Tolerance = TimeSpan.FromMinutes(1);

    /// <summary>A reading from before the change proves nothing.</summary>
    public static Finding? Older(CheckFacts f)
    {
        if (f.History.ChangedAt is not { } changed || f.After.Host is not { TakenAt: { } taken } host)
        {
            return null;
        }

        var started = taken - TimeSpan.FromSeconds(Math.Clamp(host.UpSeconds ?? 0, 0, 1L << 32));
        return taken >= changed - Tolerance && started >= changed - Tolerance
            ? null
            : f.Finding(
                "reading-older",
                Severity.Short,
                taken < changed - Tolerance
                    ? $"This reading is older than the change: {Phrases.Minute(taken)}, changed "
                        + $"{Phrases.Minute(changed)}."
                    : $"The system runs since {Phrases.Minute(started)}, before the change at "
                        + $"{Phrases.Minute(changed)}.",
                Phrases.Minute(taken < changed ? taken : started),
                $"after {Phrases.Minute(changed)}",
                ["A file from before the work was taken.", "The machine's clock is wrong."],
                new NextAction(ActionKind.ReadAgain, "Start the machine anew, and take the after reading again.", [])
            ) with
            {
                Effect = FindingEffect.ProvesNothing,
            };
    }

    public static IEnumerable<Finding> Of(CheckFacts f)
    {
        foreach (var conflict in f.After.Conflicts)
        {
            yield return f.Finding(
                "sources-disagree",
                Severity.Remark,
                $"Two sources disagree on the {conflict.What}: {conflict.First}, {conflict.Other}.",
                conflict.Other,
                conflict.First,
                ["The sources are of different starts.", "One of them is mistyped, or of another machine."],
                new NextAction(ActionKind.ReadAgain, "Take both again, from one start.", [])
            );
        }

        var listed = f.After.Memory.Slots.Select(s => s.Locator).OfType<string>().ToArray();
        if (listed.Length > 0 && Occupancy.NamingOf(f.Guide, f.After) is var naming and not SlotNaming.Named)
        {
            yield return f.Finding(
                "slots-named-otherwise",
                Severity.Note,
                naming == SlotNaming.ByOrder
                    ? "The firmware names its slots otherwise than the guide: they were laid on by their order."
                    : "The firmware's slots cannot be laid onto the guide's: only the total was compared.",
                string.Join(", ", listed),
                string.Join(", ", f.Guide.Memory.Slots.Select(s => s.ReportsAs ?? s.Id)),
                ["The guide does not say what this firmware calls them.", "It is another build, or another machine."],
                CheckFacts.Nothing
            );
        }

        if (f.After.Missing.Count > 0)
        {
            yield return f.Finding(
                "sources-missing",
                Severity.Note,
                $"Not asked: {string.Join("; ", f.After.Missing)}.",
                $"{f.After.Missing.Count} left out",
                "all that the collector asks",
                [
                    "The system does not show it without the rights of the administrator.",
                    "The tool is not on the machine.",
                ],
                CheckFacts.Nothing
            );
        }
    }
}
