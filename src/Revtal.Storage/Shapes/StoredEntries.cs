namespace Revtal.Storage.Shapes;

// One shape a kind. A shape that was written once is never changed: what is new is optional, anything else is a new
// version beside it with a function that brings the old one up to date (see EntryKinds). Words of choices are texts
// here, sizes are bytes, steps and part numbers are texts, so that the heart may be rebuilt without touching a journal.

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

internal sealed record StoredStepTakenBack(int Run, string Step, string? Reason);

internal sealed record StoredGateWaived(int Run, string Gate, string? Step, string Reason);

internal sealed record StoredStepImpossible(int Run, string Step, string Reason);

internal sealed record StoredFoundInside(int Run, string Kind, string? Step, string? Text);

internal sealed record StoredReseatBegun(IReadOnlyList<string> Slots, string? Reason);

internal sealed record StoredMarkedReady(string Verdict, string? Reason, long? Proves = null);

internal sealed record StoredHandedBack(string To, string? OldParts);

internal sealed record StoredParked(string Reason);

internal sealed record StoredResumed();

internal sealed record StoredCancelled(string Reason);

internal sealed record StoredCopyTold(string Copy, string Text);

internal sealed record StoredCopyBegun(string Bay, string Source, string Target, string Method, long Size);

internal sealed record StoredCopyAdvanced(string Bay, long Done);

internal sealed record StoredCopyVerified(string Bay, int FilesSource, int FilesTarget, int Sampled, int Matched);

internal sealed record StoredOldPartSettled(
    string Position,
    string Fate,
    StoredWipe? Wipe,
    string? Note,
    string? Grade = null,
    string? Tested = null,
    decimal? Price = null
);

internal sealed record StoredTakenIn(StoredIntake Intake, string Model, int Revision, string? Variant = null);

internal sealed record StoredVariantTold(string Variant, bool PlanDropped);

internal sealed record StoredSealTold(string Consent, string Customer);

internal sealed record StoredReadingTaken(
    string Phase,
    StoredReading Reading,
    string? Capture,
    string? Note,
    string? Photo = null,
    int? Invite = null
);

internal sealed record StoredReadingInvited(string Phase, string CodeHash, DateTimeOffset Until);

internal sealed record StoredScoresTaken(string Phase, IReadOnlyList<StoredScore> Scores, string? Note);

internal sealed record StoredNoteAdded(string Text, string? Step = null);

internal sealed record StoredPhotoTaken(string Photo, int Width, int Height, string? Step, string? Caption);

internal sealed record StoredGuideSuggested(StoredGuideChange Change, string? Step);

internal sealed record StoredPlanSet(
    StoredPlan Plan,
    string? Note,
    decimal Discount = 0,
    StoredLaterStage? Later = null
);

internal sealed record StoredPlanAgreed(string Customer, string? Note, StoredQuote? Quote = null, bool ByLink = false);

internal sealed record StoredQuoteOffered(StoredQuote Quote, string LinkHash, DateTimeOffset Until);

internal sealed record StoredQuoteRevoked();

internal sealed record StoredQuoteDeclined(string Customer, string? Reason, bool ByLink = false);

internal sealed record StoredSwapTestBegun(StoredSwapSetup Setup);

internal sealed record StoredSwapTried(StoredSwapTrial Trial);

internal sealed record StoredSwapTestEnded(StoredSwapConclusion? Conclusion, string? Note);

internal sealed record StoredWatchBegun(string For, DateTimeOffset Until, int EveryDays);

internal sealed record StoredWatchNoted(string Sign, DateOnly On, string? Text);

internal sealed record StoredWatchEnded(string Outcome, string? Text);
