using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredTakenIn(StoredIntake Intake, string Model, int Revision, string? Variant = null);

internal sealed record StoredVariantTold(string? Variant, bool PlanDropped);

internal sealed record StoredSealTold(string Consent, string Customer);

internal sealed record StoredIntakeCorrected(string? Serial, string? Contact, string? Backup, string Reason);

internal static partial class StoredMapper
{
    public static partial StoredIntakeCorrected ToStored(IntakeCorrected body);

    public static partial IntakeCorrected ToHeart(StoredIntakeCorrected body);

    public static partial StoredTakenIn ToStored(TakenIn body);

    public static partial TakenIn ToHeart(StoredTakenIn body);

    public static partial StoredVariantTold ToStored(VariantTold body);

    public static partial VariantTold ToHeart(StoredVariantTold body);

    public static partial StoredSealTold ToStored(SealTold body);

    public static partial SealTold ToHeart(StoredSealTold body);
}

internal static class IntakeShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<TakenIn, StoredTakenIn>("taken-in/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<VariantTold, StoredVariantTold>("variant-told/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<IntakeCorrected, StoredIntakeCorrected>(
            "intake-corrected/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        EntryKind.Of<SealTold, StoredSealTold>("seal-told/1", StoredMapper.ToStored, StoredMapper.ToHeart),
    ];
}
