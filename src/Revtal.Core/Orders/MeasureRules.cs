using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>Invitations, scores, the swap test and the watch; see <see cref="OrderRules"/>.</summary>
public static class MeasureRules
{
    /// <summary>The longest that a code stays open.</summary>
    public static readonly TimeSpan LongestInvite = TimeSpan.FromHours(24);

    private const int MostScores = 50,
        LongestWatchDays = 365;

    /// <summary>
    /// A machine may send one reading of this phase; an earlier code of the phase opens nothing any more.
    /// </summary>
    public static ReadingInvited Invite(Phase phase, string codeHash, DateTimeOffset now, TimeSpan open)
    {
        return open > TimeSpan.Zero && open <= LongestInvite
            ? new ReadingInvited(phase, codeHash, now + open)
            : throw RefusedException.Invalid("invite-time", "A code is open from one minute to 24 hours.");
    }

    /// <summary>The machine's own reading, by a code that fits.</summary>
    public static ReadingTaken TakeInvited(Order order, Guide guide, Invite invite, Reading reading, string capture) =>
        order.Invites.Contains(invite)
            ? OrderRules.TakeReading(order, guide, invite.Phase, reading, capture, null) with
            {
                Invite = invite.Sequence,
            }
            : throw RefusedException.Rule("invite-used", "This code was used already. Ask for another.");

    public static ScoresTaken TakeScores(Order order, Phase phase, IReadOnlyList<Score> scores, string? note)
    {
        if (phase == Phase.During)
        {
            throw RefusedException.Invalid("score-phase", "Scores are of before or after.");
        }

        var told = scores
            .Select(s =>
                s with
                {
                    Name = Words.RequiredLine("The score's name", s.Name),
                    Unit = Words.RequiredLine("The unit", s.Unit),
                }
            )
            .ToArray();
        if (
            told.Length is 0 or > MostScores
            || told.DistinctBy(s => (s.Name, s.Unit)).Count() < told.Length
            || told.Any(s => Math.Abs(s.Value) > 1_000_000_000_000m)
        )
        {
            throw RefusedException.Invalid(
                "scores-impossible",
                $"Give 1 to {MostScores} scores, each name and unit once, within a million millions."
            );
        }

        if (
            told.FirstOrDefault(s =>
                order
                    .Scores(Phase.Before)
                    .Concat(order.Scores(Phase.After))
                    .Any(o => (o.Name, o.Unit) == (s.Name, s.Unit) && o.HigherIsBetter != s.HigherIsBetter)
            ) is
            { } turned
        )
        {
            throw RefusedException.Invalid(
                "score-turned",
                $"{turned.Name} was told the other way round before: is higher better, or lower?"
            );
        }

        return new ScoresTaken(phase, told, Words.Text("The note", note));
    }

    /// <summary>The search for what is at fault begins, from what the last start showed.</summary>
    /// <param name="seen">Null: as the last reading has it.</param>
    public static SwapTestBegun BeginSwapTest(Order order, Guide guide, SwapOutcome? seen)
    {
        var check = order.Check(guide);
        var rows = order
            .Plan!.Value.Slots.Where(s => s.Module is not null && guide.Slot(s.Slot) is { Soldered: false })
            .ToArray();
        if (rows.Length is 0 or > SwapTest.Most)
        {
            throw RefusedException.Rule(
                "swap-test-size",
                $"A swap test takes one to {SwapTest.Most} modules that can be moved; this plan has {rows.Length}."
            );
        }

        var modules = rows.Select(s => new SwapModule(s.Slot, s.Module!, s.Use == SlotUse.Fit)).ToArray();
        var first = seen is null ? Shown(check, modules) : Cleaned(seen, guide);
        var all = first.Slots is { } slots
            ? modules.All(m => slots.Contains(m.Home))
            : first.Seen?.Bytes >= modules.Sum(m => m.Module.Size.Bytes);
        if (first.Started && (all || first is { Slots: null, Seen: null }))
        {
            throw RefusedException.Rule(
                "nothing-short",
                "Every module is seen: there is nothing to search for. Say what is not seen, or that it does not start."
            );
        }

        var reseated = order.Runs.SelectMany(r => r.Reseat).ToHashSet();
        return new SwapTestBegun(
            new SwapSetup(
                modules,
                [.. guide.Memory.Slots.Where(s => !s.Soldered).Select(s => s.Id)],
                guide
                    .Memory.Populate.Where(p => p.Value.All(id => guide.Slot(id) is { Soldered: false }))
                    .ToDictionary(p => p.Key, p => p.Value),
                first,
                reseated.Count == 0,
                Reseated(first, modules, reseated)
            )
        );
    }

    /// <summary>The arrangement was started, and showed this.</summary>
    /// <param name="places">Null for the arrangement that was asked for.</param>
    /// <param name="isolated">Power was off the board before hands went in.</param>
    public static SwapTried Try(
        Order order,
        Guide guide,
        IReadOnlyList<SwapPlace>? places,
        SwapOutcome outcome,
        bool isolated
    )
    {
        var swap = order.Swap!;
        if (!isolated)
        {
            throw RefusedException.Rule(
                "not-isolated",
                "Say that power was off the board before hands went in: off, unplugged, any battery out."
            );
        }

        var tried =
            places
            ?? swap.State.Next
            ?? throw RefusedException.Rule("swap-test-done", $"{swap.State.Conclusion?.Sentence} End the swap test.");
        if (
            tried.Count == 0
            || tried.DistinctBy(p => p.Slot).Count() < tried.Count
            || tried.DistinctBy(p => p.Module).Count() < tried.Count
            || tried.Any(p => !swap.Setup.Slots.Contains(p.Slot) || swap.Setup.Modules.All(m => m.Home != p.Module))
        )
        {
            throw RefusedException.Invalid(
                "arrangement-impossible",
                $"An arrangement puts each module once: slots {string.Join(", ", swap.Setup.Slots)}, modules by the "
                    + $"slot they came from, {string.Join(", ", swap.Setup.Modules.Select(m => m.Home))}."
            );
        }

        var told = Cleaned(outcome, guide);
        return told.Slots?.Except(tried.Select(p => p.Slot)).FirstOrDefault() is { } strange
            ? throw RefusedException.Invalid(
                "seen-in-empty-slot",
                $"{strange} holds no module in this arrangement, so none can be seen there."
            )
            : new SwapTried(new SwapTrial(tried, told));
    }

    /// <summary>The search ends: with its conclusion, or given up with a reason.</summary>
    public static SwapTestEnded EndSwapTest(Order order, string? note)
    {
        var conclusion = order.Swap!.State.Conclusion;
        return new SwapTestEnded(
            conclusion,
            conclusion is null ? Words.RequiredText("Why it is given up", note) : Words.Text("The note", note)
        );
    }

    /// <summary>The machine is watched before it goes back, or after.</summary>
    public static WatchBegun BeginWatch(
        Order order,
        string? fault,
        DateTimeOffset now,
        DateTimeOffset until,
        int everyDays
    )
    {
        return until > now && until <= now.AddDays(LongestWatchDays) && everyDays is >= 1 and <= LongestWatchDays
            ? new WatchBegun(
                Words.RequiredLine("What is watched for", fault ?? FirstLine(order.Intake.Complaint)),
                until,
                everyDays
            )
            : throw RefusedException.Invalid(
                "watch-time",
                "A watch ends within a year from now, and asks every 1 to 365 days."
            );
    }

    public static WatchNoted NoteWatch(Order order, WatchSign sign, DateOnly on, DateTimeOffset now, string? text)
    {
        // A day ahead somewhere on earth is still today.
        return
            on >= DateOnly.FromDateTime(order.Watch!.BeganAt.UtcDateTime).AddDays(-1)
            && on <= DateOnly.FromDateTime(now.UtcDateTime).AddDays(1)
            ? new WatchNoted(
                sign,
                on,
                sign == WatchSign.Other ? Words.RequiredText("What was seen", text) : Words.Text("The text", text)
            )
            : throw RefusedException.Invalid("watch-day", "The day lies between the beginning of the watch and today.");
    }

    /// <summary>Gone or unclear: the order goes on where it stood. Came back: it is checked anew.</summary>
    public static WatchEnded EndWatch(Order order, WatchOutcome outcome, string? text)
    {
        return order.Watch!.Notes.Count == 0 && outcome == WatchOutcome.Gone
            ? throw RefusedException.Rule(
                "nothing-observed",
                "Nobody has asked yet. Note at least one day, even that there was nothing."
            )
            : new WatchEnded(
                outcome,
                outcome == WatchOutcome.Gone ? Words.Text("The text", text) : Words.RequiredText("What was seen", text)
            );
    }

    // All that may be badly seated was out and in already.
    private static bool Reseated(SwapOutcome first, SwapModule[] modules, HashSet<string> reseated) =>
        modules
            .Select(m => m.Home)
            .Where(h => first is { Started: false } or { Slots: null } || !first.Slots.Contains(h))
            .All(reseated.Contains);

    private static string FirstLine(string text)
    {
        var line = text.Split('\n')[0];
        return line[..Math.Min(Words.LongestLine, line.Length)];
    }

    private static SwapOutcome Shown(CheckResult? check, SwapModule[] modules) =>
        check is null
            ? throw RefusedException.Rule(
                "nothing-seen",
                "No reading tells what is seen. Say which slots are seen, or that it does not start."
            )
        : check.Rows.All(r => r.After.Known || modules.All(m => m.Home != r.Slot))
            ? new SwapOutcome(
                true,
                [
                    .. check
                        .Rows.Where(r => r.After.Module is not null && modules.Any(m => m.Home == r.Slot))
                        .Select(r => r.Slot),
                ],
                check.Installed.After is { } seen ? new(seen) : null
            )
        : new SwapOutcome(true, null, check.Installed.After is { } total ? new(total) : null);

    private static SwapOutcome Cleaned(SwapOutcome outcome, Guide guide)
    {
        foreach (var slot in outcome.Slots ?? [])
        {
            guide.NeedSlot(slot);
        }

        return outcome with
        {
            Sign = Words.Line("The sign", outcome.Sign),
            Slots = outcome.Started ? outcome.Slots : null,
            Seen = outcome.Started ? outcome.Seen : null,
        };
    }
}
