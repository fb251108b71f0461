using System.Text.Json;

namespace Revtal.Core.Orders;

/// <summary>
/// The stored name of each entry kind, with its version. A name, once written, is read for ever: a changed shape gets a
/// new version
/// beside the old one.
/// </summary>
public static class EntryKinds
{
    private static readonly Dictionary<string, Type> ByName = new()
    {
        ["taken-in/1"] = typeof(TakenIn),
        ["reading-taken/1"] = typeof(ReadingTaken),
        ["plan-set/1"] = typeof(PlanSet),
        ["plan-agreed/1"] = typeof(PlanAgreed),
        ["step-confirmed/1"] = typeof(StepConfirmed),
        ["reseat-begun/1"] = typeof(ReseatBegun),
        ["marked-ready/1"] = typeof(MarkedReady),
        ["handed-back/1"] = typeof(HandedBack),
        ["parked/1"] = typeof(Parked),
        ["resumed/1"] = typeof(Resumed),
        ["cancelled/1"] = typeof(Cancelled),
        ["note-added/1"] = typeof(NoteAdded),
        ["variant-told/1"] = typeof(VariantTold),
        ["seal-told/1"] = typeof(SealTold),
        ["copy-told/1"] = typeof(CopyTold),
        ["step-taken-back/1"] = typeof(StepTakenBack),
        ["gate-waived/1"] = typeof(GateWaived),
        ["step-impossible/1"] = typeof(StepImpossible),
        ["found-inside/1"] = typeof(FoundInside),
        ["photo-taken/1"] = typeof(PhotoTaken),
        ["guide-suggested/1"] = typeof(GuideSuggested),
        ["quote-offered/1"] = typeof(QuoteOffered),
        ["quote-revoked/1"] = typeof(QuoteRevoked),
        ["quote-declined/1"] = typeof(QuoteDeclined),
        ["copy-begun/1"] = typeof(CopyBegun),
        ["copy-advanced/1"] = typeof(CopyAdvanced),
        ["copy-verified/1"] = typeof(CopyVerified),
        ["old-part-settled/1"] = typeof(OldPartSettled),
        ["reading-invited/1"] = typeof(ReadingInvited),
        ["scores-taken/1"] = typeof(ScoresTaken),
        ["swap-test-begun/1"] = typeof(SwapTestBegun),
        ["swap-tried/1"] = typeof(SwapTried),
        ["swap-test-ended/1"] = typeof(SwapTestEnded),
        ["watch-begun/1"] = typeof(WatchBegun),
        ["watch-noted/1"] = typeof(WatchNoted),
        ["watch-ended/1"] = typeof(WatchEnded),
    };

    private static readonly Dictionary<Type, string> ByType = ByName.ToDictionary(p => p.Value, p => p.Key);

    public static string NameOf(EntryBody body) => ByType[body.GetType()];

    public static string Write(EntryBody body) => JsonSerializer.Serialize(body, body.GetType(), RevtalJson.Options);

    /// <exception cref="InvalidDataException">The kind is of a newer Revtal, or the body is not of its
    /// kind.</exception>
    public static EntryBody Read(string kind, string body)
    {
        if (!ByName.TryGetValue(kind, out var type))
        {
            throw new InvalidDataException(
                $"The journal holds entries of kind “{kind}”, which this version does not know. Run the version that "
                    + "wrote them, or a newer one."
            );
        }

        return (EntryBody?)JsonSerializer.Deserialize(body, type, RevtalJson.Options)
            ?? throw new InvalidDataException($"An entry of kind “{kind}” is empty.");
    }
}
