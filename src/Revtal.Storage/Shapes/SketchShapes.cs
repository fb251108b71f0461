using Revtal.Core.Guides;
using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredPartCameOff(int Run, StoredCameOff What, int Fasteners);

internal sealed record StoredCameOff(
    string Id,
    string Title,
    IReadOnlyList<string> Needs,
    IReadOnlyList<string> Before,
    IReadOnlyList<StoredFasteners> Fasteners,
    int Clips,
    IReadOnlyList<string> Cables,
    IReadOnlyList<string> TakesOut,
    bool Isolates,
    string? How,
    string? Pry,
    string? Picture,
    int Minutes
);

internal sealed record StoredFasteners(
    string Group,
    string Driver,
    decimal? Length,
    int Count,
    bool Captive,
    bool Seal,
    string? Hidden,
    IReadOnlyList<StoredPoint> At,
    bool ByHand = false,
    bool ExactFit = false,
    string? Order = null
);

internal sealed record StoredPoint(double X, double Y);

internal sealed record StoredPositionSeen(
    string Position,
    bool IsBay,
    string? Label,
    string? Channel,
    bool? Soldered,
    string? Below,
    long? Max,
    int? Angle,
    string? Latch,
    string? Press,
    string? Notch,
    string? Form,
    string? Key,
    string? Link,
    decimal? Pad,
    string? Hold,
    bool? Boots,
    StoredPoint? At,
    int? Turn
);

internal sealed record StoredGuideAdopted(int Revision, bool PlanDropped);

internal static partial class StoredMapper
{
    public static partial StoredPositionSeen ToStored(SeenPosition seen);

    public static partial SeenPosition ToHeart(StoredPositionSeen seen);

    public static partial StoredGuideAdopted ToStored(GuideAdopted body);

    public static partial GuideAdopted ToHeart(StoredGuideAdopted body);

    public static partial StoredFasteners ToStored(FastenerGroup group);

    public static partial FastenerGroup ToHeart(StoredFasteners group);

    public static StoredPartCameOff ToStored(PartCameOff body) => new(body.Run, ToStored(body.What), body.Fasteners);

    public static PartCameOff ToHeart(StoredPartCameOff body) => new(body.Run, ToHeart(body.What), body.Fasteners);

    // Of a removal only what the bench can say of one that nobody had written down.
    private static StoredCameOff ToStored(CameOff what)
    {
        var r = what.Removal;
        return new(
            r.Id,
            r.Title,
            r.Needs,
            what.Before,
            [.. r.Fasteners.Select(ToStored)],
            r.Clips.Sum(c => c.Count),
            r.Cables,
            r.TakesOut,
            r.Isolates,
            r.Open,
            r.Pry is [{ Tool: var tool }, ..] ? tool : null,
            r.Pictures.Open is [var hash, ..] ? hash : null,
            r.Minutes
        );
    }

    private static CameOff ToHeart(StoredCameOff what) =>
        new(
            Removal.Named(what.Id, what.Needs, what.Minutes) with
            {
                Title = what.Title,
                Fasteners = [.. what.Fasteners.Select(ToHeart)],
                Clips = what.Clips > 0 ? [new Clips(what.Clips, [], null)] : [],
                Cables = what.Cables,
                TakesOut = what.TakesOut,
                Isolates = what.Isolates,
                Open = what.How,
                Pry = what.Pry is { } tool ? [new PryPoint(tool, null, null)] : [],
                Pictures = what.Picture is { } hash ? new Pictures([hash], []) : Pictures.None,
            },
            what.Before
        );
}

internal static class SketchShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<PartCameOff, StoredPartCameOff>("part-came-off/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<PositionSeen, StoredPositionSeen>(
            "position-seen/1",
            p => StoredMapper.ToStored(p.Seen),
            s => new PositionSeen(StoredMapper.ToHeart(s))
        ),
        EntryKind.Of<GuideAdopted, StoredGuideAdopted>("guide-adopted/1", StoredMapper.ToStored, StoredMapper.ToHeart),
    ];
}
