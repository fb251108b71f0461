using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>The fault is waited for, to see whether it comes back.</summary>
/// <param name="EveryDays">How often somebody asks.</param>
public sealed record WatchBegun(string For, DateTimeOffset Until, int EveryDays) : EntryBody
{
    public override OrderAct Act => OrderAct.BeginWatch;

    public override string Line(Guide? guide) =>
        $"Watched until {Phrases.Day(DateOnly.FromDateTime(Until.UtcDateTime))}, "
        + $"asked every {Phrases.Counted(EveryDays, "day", "days")}: {For}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.Watching,
            Watch = new Watch(For, entry.At, Until, EveryDays, [], order.Stage, null, null),
        };
}

/// <summary>What somebody saw on a day.</summary>
/// <param name="On">The day that it is about.</param>
public sealed record WatchNoted(WatchSign Sign, DateOnly On, string? Text) : EntryBody
{
    public override OrderAct Act => OrderAct.NoteWatch;

    public override string Line(Guide? guide) => $"Watch, {Phrases.Day(On)}: {Sign.Spoken()}{Phrases.Added(Text)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Watch = order.Watch! with
            {
                Notes = order.Watch.Notes.Add(new WatchNote(Sign, On, Text, entry.By, entry.At)),
            },
        };
}

/// <summary>The watch is over.</summary>
public sealed record WatchEnded(WatchOutcome Outcome, string? Text) : EntryBody
{
    public override OrderAct Act => OrderAct.EndWatch;

    public override string Line(Guide? guide) => $"Watch ended: {Phrases.Words(Outcome)}{Phrases.Added(Text)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage =
                order.Stage != Stage.Watching ? order.Stage
                : Outcome == WatchOutcome.CameBack && order.After is not null ? Stage.Checking
                : order.Watch!.From,
            Accepted = Outcome == WatchOutcome.CameBack ? null : order.Accepted,
            Watch = order.Watch! with { Outcome = Outcome, Text = Text, EndedAt = entry.At },
        };
}

/// <summary>
/// Waiting whether a fault comes back. Each rule gives the entry to append, or refuses with the reason and the way
/// on.
/// </summary>
public static class WatchRules
{
    private const int LongestWatchDays = 365;

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

    /// <summary>What was seen on a day of the watch.</summary>
    /// <exception cref="RefusedException">The day is not one of the watch, or is yet to come.</exception>
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

    /// <summary>
    /// Gone or unclear: the order goes on where it stood. Came back: it is checked anew. That the fault is gone before
    /// the watch is over, or after it was noted, is a lead's word.
    /// </summary>
    public static WatchEnded EndWatch(Order order, Role role, WatchOutcome outcome, DateTimeOffset now, string? text)
    {
        var watch = order.Watch!;
        if (outcome != WatchOutcome.Gone)
        {
            return new WatchEnded(outcome, Words.RequiredText("What was seen", text));
        }

        if (watch.Notes.Count == 0)
        {
            throw RefusedException.Rule(
                "nothing-observed",
                "Nobody has asked yet. Note at least one day, even that there was nothing."
            );
        }

        var noted = watch.Notes.FirstOrDefault(n => n.Sign != WatchSign.None);
        if (role != Role.Lead && (noted is not null || now < watch.Until))
        {
            throw new RefusedException(
                RefusalKind.Role,
                "lead-ends-watch",
                (
                    noted is not null
                        ? $"{Phrases.Sentence(noted.Spoken)} on {Phrases.Day(noted.On)}"
                        : $"The watch runs until {Phrases.Day(DateOnly.FromDateTime(watch.Until.UtcDateTime))}"
                ) + ": that the fault is gone is a lead's word."
            );
        }

        return new WatchEnded(outcome, Words.Text("The text", text));
    }

    private static string FirstLine(string text)
    {
        var line = text.Split('\n')[0];
        return line[..Math.Min(Words.LongestLine, line.Length)];
    }
}
