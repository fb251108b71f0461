using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Riok.Mapperly.Abstractions;

namespace Revtal.Storage.Shapes;

/// <summary>
/// Between what the heart works with and what the journal keeps. A member that the one wants and the other lacks does
/// not compile; a word of a choice is written in kebab case.
/// </summary>
[Mapper(
    EnumNamingStrategy = EnumNamingStrategy.KebabCase,
    RequiredMappingStrategy = RequiredMappingStrategy.Target,
    ThrowOnMappingNullMismatch = true,
    ThrowOnPropertyMappingNullMismatch = true
)]
internal static partial class StoredMapper
{
    public static partial StoredTakenIn ToStored(TakenIn body);

    public static partial TakenIn ToHeart(StoredTakenIn body);

    public static partial StoredReadingTaken ToStored(ReadingTaken body);

    public static partial ReadingTaken ToHeart(StoredReadingTaken body);

    public static partial StoredPlanSet ToStored(PlanSet body);

    public static partial PlanSet ToHeart(StoredPlanSet body);

    public static partial StoredPlanAgreed ToStored(PlanAgreed body);

    public static partial PlanAgreed ToHeart(StoredPlanAgreed body);

    public static partial StoredStepConfirmed ToStored(StepConfirmed body);

    public static partial StepConfirmed ToHeart(StoredStepConfirmed body);

    public static partial StoredReseatBegun ToStored(ReseatBegun body);

    public static partial ReseatBegun ToHeart(StoredReseatBegun body);

    public static partial StoredMarkedReady ToStored(MarkedReady body);

    public static partial MarkedReady ToHeart(StoredMarkedReady body);

    public static partial StoredHandedBack ToStored(HandedBack body);

    public static partial HandedBack ToHeart(StoredHandedBack body);

    public static partial StoredParked ToStored(Parked body);

    public static partial Parked ToHeart(StoredParked body);

    public static partial StoredCancelled ToStored(Cancelled body);

    public static partial Cancelled ToHeart(StoredCancelled body);

    public static partial StoredNoteAdded ToStored(NoteAdded body);

    public static partial NoteAdded ToHeart(StoredNoteAdded body);

    public static partial StoredVariantTold ToStored(VariantTold body);

    public static partial VariantTold ToHeart(StoredVariantTold body);

    public static partial StoredSealTold ToStored(SealTold body);

    public static partial SealTold ToHeart(StoredSealTold body);

    public static partial StoredCopyTold ToStored(CopyTold body);

    public static partial CopyTold ToHeart(StoredCopyTold body);

    public static partial StoredStepTakenBack ToStored(StepTakenBack body);

    public static partial StepTakenBack ToHeart(StoredStepTakenBack body);

    public static partial StoredGateWaived ToStored(GateWaived body);

    public static partial GateWaived ToHeart(StoredGateWaived body);

    public static partial StoredStepImpossible ToStored(StepImpossible body);

    public static partial StepImpossible ToHeart(StoredStepImpossible body);

    public static partial StoredFoundInside ToStored(FoundInside body);

    public static partial FoundInside ToHeart(StoredFoundInside body);

    public static partial StoredPhotoTaken ToStored(PhotoTaken body);

    public static partial PhotoTaken ToHeart(StoredPhotoTaken body);

    public static partial StoredGuideSuggested ToStored(GuideSuggested body);

    public static partial GuideSuggested ToHeart(StoredGuideSuggested body);

    public static partial StoredQuoteOffered ToStored(QuoteOffered body);

    public static partial QuoteOffered ToHeart(StoredQuoteOffered body);

    public static partial StoredQuoteDeclined ToStored(QuoteDeclined body);

    public static partial QuoteDeclined ToHeart(StoredQuoteDeclined body);

    public static partial StoredCopyBegun ToStored(CopyBegun body);

    public static partial CopyBegun ToHeart(StoredCopyBegun body);

    public static partial StoredCopyAdvanced ToStored(CopyAdvanced body);

    public static partial CopyAdvanced ToHeart(StoredCopyAdvanced body);

    public static partial StoredCopyVerified ToStored(CopyVerified body);

    public static partial CopyVerified ToHeart(StoredCopyVerified body);

    public static partial StoredOldPartSettled ToStored(OldPartSettled body);

    public static partial OldPartSettled ToHeart(StoredOldPartSettled body);

    public static partial StoredReadingInvited ToStored(ReadingInvited body);

    public static partial ReadingInvited ToHeart(StoredReadingInvited body);

    public static partial StoredScoresTaken ToStored(ScoresTaken body);

    public static partial ScoresTaken ToHeart(StoredScoresTaken body);

    public static partial StoredSwapTestBegun ToStored(SwapTestBegun body);

    public static partial SwapTestBegun ToHeart(StoredSwapTestBegun body);

    public static partial StoredSwapTried ToStored(SwapTried body);

    public static partial SwapTried ToHeart(StoredSwapTried body);

    public static partial StoredSwapTestEnded ToStored(SwapTestEnded body);

    public static partial SwapTestEnded ToHeart(StoredSwapTestEnded body);

    public static partial StoredWatchBegun ToStored(WatchBegun body);

    public static partial WatchBegun ToHeart(StoredWatchBegun body);

    public static partial StoredWatchNoted ToStored(WatchNoted body);

    public static partial WatchNoted ToHeart(StoredWatchNoted body);

    public static partial StoredWatchEnded ToStored(WatchEnded body);

    public static partial WatchEnded ToHeart(StoredWatchEnded body);

    private static long Bytes(MemorySize size) => size.Bytes;

    private static MemorySize MemorySize(long bytes) => new(bytes);

    private static long Bytes(DriveSize size) => size.Bytes;

    private static DriveSize DriveSize(long bytes) => new(bytes);

    private static string Text(StepId step) => step.ToString();

    private static StepId StepId(string text) => Core.Guides.StepId.Parse(text);

    private static string Text(PartNumber number) => number.ToString();

    private static PartNumber PartNumber(string text) => new(text);
}
