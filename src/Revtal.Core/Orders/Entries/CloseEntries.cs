using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>The check was accepted.</summary>
/// <param name="Reason">Why it goes out although it is not as planned; null when it is.</param>
/// <param name="Proves">What works here although the guide does not say so; null when nothing new was proved.</param>
public sealed record MarkedReady(Verdict Verdict, string? Reason, MemorySize? Proves = null) : EntryBody
{
    public override OrderAct Act => OrderAct.MarkReady;

    public override string Line(Guide? guide) =>
        $"Ready, {Verdict.Spoken()}{Phrases.When(Proves, size => $", {size} proved to work")}{Phrases.Added(Reason)}";

    internal override Order Apply(Order order, Entry entry) => order with { Stage = Stage.Ready };
}

/// <summary>The machine went back to the customer.</summary>
public sealed record HandedBack(string To, string? OldParts) : EntryBody
{
    public override OrderAct Act => OrderAct.HandBack;

    public override string Line(Guide? guide) =>
        $"Handed back to {To}{Phrases.When(OldParts, old => $". Old parts: {old}")}";

    internal override Order Apply(Order order, Entry entry) => order with { Stage = Stage.HandedBack };
}

/// <summary>Nothing is done on it for now.</summary>
public sealed record Parked(string Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.Park;

    public override string Line(Guide? guide) => $"Parked: {Reason}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.Parked,
            Resting = order.Stage,
            Reason = Reason,
        };
}

/// <summary>It goes on where it was parked.</summary>
public sealed record Resumed : EntryBody
{
    public override OrderAct Act => OrderAct.Resume;

    public override string Line(Guide? guide) => "Resumed";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = order.WorkStage,
            Resting = null,
            Reason = null,
        };
}

/// <summary>It ended without a hand-back.</summary>
public sealed record Cancelled(string Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.Cancel;

    public override string Line(Guide? guide) => $"Cancelled: {Reason}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Stage = Stage.Cancelled,
            Resting = null,
            Reason = Reason,
        };
}
