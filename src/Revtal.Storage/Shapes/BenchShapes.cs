using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredStepConfirmed(
    int Run,
    string Step,
    int? Fasteners,
    string? Explanation,
    string? Note,
    IReadOnlyList<string>? Holes = null,
    IReadOnlyDictionary<string, int>? Groups = null,
    IReadOnlyDictionary<string, string>? Occupants = null,
    long? Seen = null,
    string? Deviation = null
);

internal sealed record StoredReseatBegun(IReadOnlyList<string> Slots, string? Reason);

internal sealed record StoredStepTakenBack(int Run, string Step, string? Reason);

internal sealed record StoredGateWaived(int Run, string Gate, string? Step, string Reason);

internal sealed record StoredStepImpossible(int Run, string Step, string Reason);

internal sealed record StoredFoundInside(int Run, string Kind, string? Step, string? Text);

internal static partial class StoredMapper
{
    public static partial StoredStepConfirmed ToStored(StepConfirmed body);

    public static partial StepConfirmed ToHeart(StoredStepConfirmed body);

    public static partial StoredReseatBegun ToStored(ReseatBegun body);

    public static partial ReseatBegun ToHeart(StoredReseatBegun body);

    public static partial StoredStepTakenBack ToStored(StepTakenBack body);

    public static partial StepTakenBack ToHeart(StoredStepTakenBack body);

    public static partial StoredGateWaived ToStored(GateWaived body);

    public static partial GateWaived ToHeart(StoredGateWaived body);

    public static partial StoredStepImpossible ToStored(StepImpossible body);

    public static partial StepImpossible ToHeart(StoredStepImpossible body);

    public static partial StoredFoundInside ToStored(FoundInside body);

    public static partial FoundInside ToHeart(StoredFoundInside body);
}

internal static class BenchShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<StepConfirmed, StoredStepConfirmed>(
            "step-confirmed/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        EntryKind.Of<ReseatBegun, StoredReseatBegun>("reseat-begun/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<StepTakenBack, StoredStepTakenBack>(
            "step-taken-back/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        EntryKind.Of<GateWaived, StoredGateWaived>("gate-waived/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<StepImpossible, StoredStepImpossible>(
            "step-impossible/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        EntryKind.Of<FoundInside, StoredFoundInside>("found-inside/1", StoredMapper.ToStored, StoredMapper.ToHeart),
    ];
}
