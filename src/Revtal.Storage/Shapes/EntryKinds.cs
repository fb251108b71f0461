using System.Text.Json;
using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

/// <summary>
/// Name → shape → heart: what each kind of entry is called in the journal, and how it is written and read. A name,
/// once written, is read for ever. A changed shape gets a new version: its line here writes it, and the old name's
/// line reads the old shape and brings it up to date.
/// </summary>
public static class EntryKinds
{
    private static readonly Kind[] Table =
    [
        Kind.Of<TakenIn, StoredTakenIn>("taken-in/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<ReadingTaken, StoredReadingTaken>("reading-taken/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<PlanSet, StoredPlanSet>("plan-set/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<PlanAgreed, StoredPlanAgreed>("plan-agreed/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<StepConfirmed, StoredStepConfirmed>("step-confirmed/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<ReseatBegun, StoredReseatBegun>("reseat-begun/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<MarkedReady, StoredMarkedReady>("marked-ready/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<HandedBack, StoredHandedBack>("handed-back/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<Parked, StoredParked>("parked/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<Resumed, StoredResumed>("resumed/1", _ => new(), _ => new()),
        Kind.Of<Cancelled, StoredCancelled>("cancelled/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<NoteAdded, StoredNoteAdded>("note-added/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<VariantTold, StoredVariantTold>("variant-told/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<SealTold, StoredSealTold>("seal-told/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<CopyTold, StoredCopyTold>("copy-told/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<StepTakenBack, StoredStepTakenBack>("step-taken-back/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<GateWaived, StoredGateWaived>("gate-waived/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<StepImpossible, StoredStepImpossible>("step-impossible/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<FoundInside, StoredFoundInside>("found-inside/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<PhotoTaken, StoredPhotoTaken>("photo-taken/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<GuideSuggested, StoredGuideSuggested>("guide-suggested/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<QuoteOffered, StoredQuoteOffered>("quote-offered/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<QuoteRevoked, StoredQuoteRevoked>("quote-revoked/1", _ => new(), _ => new()),
        Kind.Of<QuoteDeclined, StoredQuoteDeclined>("quote-declined/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<CopyBegun, StoredCopyBegun>("copy-begun/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<CopyAdvanced, StoredCopyAdvanced>("copy-advanced/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<CopyVerified, StoredCopyVerified>("copy-verified/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<OldPartSettled, StoredOldPartSettled>(
            "old-part-settled/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        Kind.Of<ReadingInvited, StoredReadingInvited>("reading-invited/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<ScoresTaken, StoredScoresTaken>("scores-taken/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<SwapTestBegun, StoredSwapTestBegun>("swap-test-begun/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<SwapTried, StoredSwapTried>("swap-tried/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<SwapTestEnded, StoredSwapTestEnded>("swap-test-ended/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<WatchBegun, StoredWatchBegun>("watch-begun/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<WatchNoted, StoredWatchNoted>("watch-noted/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        Kind.Of<WatchEnded, StoredWatchEnded>("watch-ended/1", StoredMapper.ToStored, StoredMapper.ToHeart),
    ];

    // Texts of choices and steps are the shapes' own business; nothing of the wire's conventions reaches the journal.
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.Strict,
        AllowDuplicateProperties = false,
    };

    private static readonly Dictionary<string, Kind> ByName = Table.ToDictionary(k => k.Name);

    // The last line of a type is the one that writes it.
    private static readonly Dictionary<Type, Kind> ByType = Table
        .GroupBy(k => k.Body)
        .ToDictionary(g => g.Key, g => g.Last());

    /// <summary>All names that are read.</summary>
    public static IReadOnlyCollection<string> Names => ByName.Keys;

    /// <summary>The name under which a body is written: <c>step-confirmed/1</c>.</summary>
    public static string NameOf(EntryBody body) => ByType[body.GetType()].Name;

    /// <summary>The body as the journal keeps it, JSON.</summary>
    public static string Write(EntryBody body) => ByType[body.GetType()].Write(body);

    /// <exception cref="InvalidDataException">The kind is of a newer Revtal, or the body is not of its
    /// kind.</exception>
    public static EntryBody Read(string name, string body)
    {
        if (!ByName.TryGetValue(name, out var kind))
        {
            throw new InvalidDataException(
                $"The journal holds entries of kind “{name}”, which this version does not know. Run the version that "
                    + "wrote them, or a newer one."
            );
        }

        try
        {
            return kind.Read(body);
        }
        catch (Exception e) when (e is JsonException or ArgumentException or FormatException or NullReferenceException)
        {
            throw new InvalidDataException($"An entry of kind “{name}” cannot be read: {e.Message}", e);
        }
    }

    private sealed record Kind(string Name, Type Body, Func<EntryBody, string> Write, Func<string, EntryBody> Read)
    {
        public static Kind Of<TBody, TStored>(string name, Func<TBody, TStored> write, Func<TStored, TBody> read)
            where TBody : EntryBody =>
            new(
                name,
                typeof(TBody),
                body => JsonSerializer.Serialize(write((TBody)body), Json),
                text =>
                    read(
                        JsonSerializer.Deserialize<TStored>(text, Json)
                            ?? throw new InvalidDataException($"An entry of kind “{name}” is empty.")
                    )
            );
    }
}
