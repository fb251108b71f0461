namespace Revtal.Storage.Shapes;

// Everything else that entries hold; see EntryKinds.

internal sealed record StoredWipe(string Category, string Method, string Verified);

internal sealed record StoredIntake(
    string Customer,
    string? Contact,
    string? Serial,
    string Complaint,
    string? Goal,
    string? Accessories,
    string? Condition,
    string Backup,
    string SealConsent,
    string? Trial = null,
    StoredBatchPlace? Batch = null
);

internal sealed record StoredBatchPlace(int Place, int Of);

internal sealed record StoredScore(string Name, string Unit, decimal Value, bool HigherIsBetter);

internal sealed record StoredGuideChange(
    string Kind,
    string? Target = null,
    string? Text = null,
    string? Word = null,
    int? Number = null,
    long? Size = null
);

internal sealed record StoredSwapSetup(
    IReadOnlyList<StoredSwapModule> Modules,
    IReadOnlyList<string> Slots,
    IReadOnlyDictionary<int, IReadOnlyList<string>> Allowed,
    StoredSwapOutcome First,
    bool ReseatFirst,
    bool Reseated = false,
    IReadOnlyList<string>? NeverEmpty = null,
    IReadOnlyList<IReadOnlyList<string>>? Channels = null,
    StoredSwapWay? Way = null
);

internal sealed record StoredSwapTrial(
    IReadOnlyList<StoredSwapPlace> Places,
    StoredSwapOutcome Outcome,
    bool Defaults = false
);

internal sealed record StoredSwapConclusion(IReadOnlyList<StoredSuspect> Suspects, string Sentence, string Do);

internal sealed record StoredSwapModule(string Home, StoredMemoryModule Module, bool IsNew);

internal sealed record StoredSwapOutcome(
    bool Started,
    IReadOnlyList<string>? Slots = null,
    long? Seen = null,
    string? Sign = null
);

internal sealed record StoredSwapPlace(string Slot, string Module);

internal sealed record StoredSuspect(
    string Kind,
    IReadOnlyList<string> Modules,
    IReadOnlyList<string> Slots,
    double Chance
);
