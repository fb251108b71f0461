using Revtal.Core.Orders;
using Revtal.Core.Parts;

namespace Revtal.Storage.Shapes;

internal sealed record StoredPlanSet(
    StoredPlan Plan,
    string? Note,
    decimal Discount = 0,
    StoredLaterStage? Later = null
);

internal sealed record StoredPlanMended(StoredPlan Plan, IReadOnlyList<string> Slots, bool Agreed, string Reason);

internal sealed record StoredPlanAgreed(string Customer, string? Note, StoredQuote? Quote = null, bool ByLink = false);

internal sealed record StoredQuoteOffered(
    StoredQuote Quote,
    string LinkHash,
    DateTimeOffset Until,
    IReadOnlyList<int>? With = null
);

internal sealed record StoredQuoteRevoked();

internal sealed record StoredQuoteDeclined(string Customer, string? Reason, bool ByLink = false);

internal sealed record StoredLaterNoted(IReadOnlyList<StoredSlotChange> Changes, string Words, decimal? Price = null);

internal sealed record StoredLaterDropped(string? Reason = null);

internal static partial class StoredMapper
{
    private static partial Quote ToHeart(StoredQuote quote);

    private static partial StoredQuote ToStored(Quote quote);

    public static partial StoredPlanSet ToStored(PlanSet body);

    public static partial PlanSet ToHeart(StoredPlanSet body);

    public static partial StoredLaterNoted ToStored(LaterNoted body);

    public static partial LaterNoted ToHeart(StoredLaterNoted body);

    public static partial StoredPlanMended ToStored(PlanMended body);

    public static partial PlanMended ToHeart(StoredPlanMended body);

    public static partial StoredPlanAgreed ToStored(PlanAgreed body);

    public static partial PlanAgreed ToHeart(StoredPlanAgreed body);

    public static partial StoredQuoteOffered ToStored(QuoteOffered body);

    public static partial QuoteOffered ToHeart(StoredQuoteOffered body);

    public static partial StoredQuoteDeclined ToStored(QuoteDeclined body);

    public static partial QuoteDeclined ToHeart(StoredQuoteDeclined body);
}

internal static class PlanShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<PlanSet, StoredPlanSet>("plan-set/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<LaterNoted, StoredLaterNoted>("later-noted/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<LaterDropped, StoredLaterDropped>("later-dropped/1", b => new(b.Reason), s => new(s.Reason)),
        EntryKind.Of<PlanMended, StoredPlanMended>("plan-mended/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<PlanAgreed, StoredPlanAgreed>("plan-agreed/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<QuoteOffered, StoredQuoteOffered>("quote-offered/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<QuoteRevoked, StoredQuoteRevoked>("quote-revoked/1", _ => new(), _ => new()),
        EntryKind.Of<QuoteDeclined, StoredQuoteDeclined>(
            "quote-declined/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
    ];
}
