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
            Stage = Outcome == WatchOutcome.CameBack ? Stage.Checking : order.Watch!.From,
            Watch = order.Watch! with { Outcome = Outcome, Text = Text },
        };
}
