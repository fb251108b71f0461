using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>What somebody at the bench may decide.</summary>
public enum Role
{
    Desk,
    Technician,
    Lead,
}

/// <summary>Somebody at the bench.</summary>
/// <param name="Id">Short, lower case, unique in the shop.</param>
public sealed record Person(string Id, string Name, Role Role);

/// <summary>When a reading was taken.</summary>
public enum Phase
{
    Before,
    After,

    /// <summary>During the run, the case open.</summary>
    During,
}

/// <summary>What was noticed while an order is watched.</summary>
public enum WatchSign
{
    /// <summary>Nothing of the fault.</summary>
    None,
    Restart,
    Freeze,
    Other,
}

/// <summary>How a watch ended.</summary>
public enum WatchOutcome
{
    Gone,
    CameBack,
    Unclear,
}

/// <summary>Whether the customer's data is safe elsewhere.</summary>
public enum Backup
{
    Unknown,
    Made,

    /// <summary>The customer goes without and said so.</summary>
    Waived,
}

/// <summary>Whether a warranty seal may be broken.</summary>
public enum SealConsent
{
    NoSeal,
    Given,
    Refused,
}

/// <summary>What becomes of a part that came out.</summary>
public enum PartFate
{
    /// <summary>The customer keeps it.</summary>
    Kept,

    /// <summary>Back to who sold it.</summary>
    Returned,

    /// <summary>Cleared of its data, then the customer keeps it.</summary>
    Wiped,
    Recycled,

    /// <summary>The shop takes it as used stock.</summary>
    BoughtIn,
}

/// <summary>How thoroughly a drive was cleared (NIST SP 800-88 Rev. 1, section 2.5).</summary>
public enum WipeCategory
{
    Clear,
    Purge,
    Destroy,
}

/// <summary>A drive cleared of its data.</summary>
/// <param name="Method">The command or tool.</param>
/// <param name="Verified">How it was seen that nothing is left.</param>
public sealed record Wipe(WipeCategory Category, string Method, string Verified);

/// <summary>The second stage of an upgrade, for the machine's next visit.</summary>
/// <param name="Part">The part number.</param>
public sealed record LaterStage(string Part, int Count, decimal Price, string Words);

/// <summary>What became of the boot drive's data before the drive may leave.</summary>
public enum CopyState
{
    Verified,

    /// <summary>The customer goes without and said so.</summary>
    Waived,
}

/// <summary>What the desk wrote down at take-in.</summary>
public sealed record Intake(
    string Customer,
    string? Contact,
    string? Serial,
    string Complaint,
    string? Goal,
    string? Accessories,
    string? Condition,
    Backup Backup,
    SealConsent SealConsent
);

/// <summary>One fact on an order, never changed once written.</summary>
/// <param name="Order">The order's number.</param>
/// <param name="Sequence">From 1 within the order, without gaps.</param>
/// <param name="Id">Made by the sender, so that a retry records once.</param>
/// <param name="At">UTC.</param>
/// <param name="By">The person's id.</param>
public sealed record Entry(int Order, int Sequence, Guid Id, DateTimeOffset At, string By, EntryBody Body);

/// <summary>What an entry says; one record a kind. The stored names stand in <see cref="EntryKinds"/>.</summary>
public abstract record EntryBody;

/// <param name="Model">The guide's code.</param>
/// <param name="Revision">The guide's revision that this order keeps.</param>
/// <param name="Variant">Which build it is; null when it is not known or there is but one.</param>
public sealed record TakenIn(Intake Intake, string Model, int Revision, string? Variant = null) : EntryBody;

/// <summary>Somebody looked which build it is.</summary>
/// <param name="PlanDropped">The plan does not suit this build: it is to be made anew.</param>
public sealed record VariantTold(string Variant, bool PlanDropped) : EntryBody;

/// <param name="Customer">Who said so on the customer's side.</param>
public sealed record SealTold(SealConsent Consent, string Customer) : EntryBody;

/// <summary>The boot drive's copy is verified, or the customer goes without.</summary>
/// <param name="Text">How it was verified, or who waived it.</param>
public sealed record CopyTold(CopyState Copy, string Text) : EntryBody;

/// <param name="Capture">The SHA-256 of the stored capture; null for a reading typed in.</param>
/// <param name="Photo">The hash of a picture of what was seen by eye.</param>
/// <param name="Invite">The sequence of the invitation by which the machine sent it.</param>
public sealed record ReadingTaken(
    Phase Phase,
    Reading Reading,
    string? Capture,
    string? Note,
    string? Photo = null,
    int? Invite = null
) : EntryBody;

/// <summary>A machine may send one reading by a code.</summary>
/// <param name="CodeHash">SHA-256 of the code's secret, hexadecimal; the secret itself is kept nowhere.</param>
public sealed record ReadingInvited(Phase Phase, string CodeHash, DateTimeOffset Until) : EntryBody;

/// <summary>What a benchmark said.</summary>
public sealed record ScoresTaken(Phase Phase, IReadOnlyList<Score> Scores, string? Note) : EntryBody;

/// <summary>The search for what is at fault begins.</summary>
public sealed record SwapTestBegun(SwapSetup Setup) : EntryBody;

/// <summary>An arrangement was tried.</summary>
public sealed record SwapTried(SwapTrial Trial) : EntryBody;

/// <summary>The search ended.</summary>
/// <param name="Conclusion">Null where it was given up.</param>
public sealed record SwapTestEnded(SwapConclusion? Conclusion, string? Note) : EntryBody;

/// <summary>The fault is waited for, to see whether it comes back.</summary>
/// <param name="EveryDays">How often somebody asks.</param>
public sealed record WatchBegun(string For, DateTimeOffset Until, int EveryDays) : EntryBody;

/// <param name="On">The day that it is about.</param>
public sealed record WatchNoted(WatchSign Sign, DateOnly On, string? Text) : EntryBody;

public sealed record WatchEnded(WatchOutcome Outcome, string? Text) : EntryBody;

/// <param name="Discount">In percent of parts and labour; 0 to 100.</param>
/// <param name="Later">What the next visit is to add.</param>
public sealed record PlanSet(Plan Plan, string? Note, decimal Discount = 0, LaterStage? Later = null) : EntryBody;

/// <param name="Customer">Who agreed on the customer's side.</param>
/// <param name="Quote">What was agreed to, frozen; null where there was none.</param>
/// <param name="ByLink">The customer pressed it, on the page that the link opens.</param>
public sealed record PlanAgreed(string Customer, string? Note, Quote? Quote = null, bool ByLink = false) : EntryBody;

/// <summary>A link was made that the customer opens without an account.</summary>
/// <param name="LinkHash">SHA-256 of the link's secret, hexadecimal; the secret itself is kept nowhere.</param>
public sealed record QuoteOffered(Quote Quote, string LinkHash, DateTimeOffset Until) : EntryBody;

/// <summary>The link opens nothing any more.</summary>
public sealed record QuoteRevoked : EntryBody;

/// <summary>The customer does not want it so.</summary>
public sealed record QuoteDeclined(string Customer, string? Reason, bool ByLink = false) : EntryBody;

/// <summary>A drive's data begins to be copied.</summary>
/// <param name="Bay">The bay whose drive is replaced.</param>
/// <param name="Size">What is to be copied.</param>
public sealed record CopyBegun(string Bay, string Source, string Target, string Method, DriveSize Size) : EntryBody;

/// <summary>So much is copied.</summary>
public sealed record CopyAdvanced(string Bay, DriveSize Done) : EntryBody;

/// <summary>Source and target were compared.</summary>
/// <param name="FilesSource">Files counted there.</param>
/// <param name="Sampled">How many files were compared by hash.</param>
/// <param name="Matched">How many of those are alike.</param>
public sealed record CopyVerified(string Bay, int FilesSource, int FilesTarget, int Sampled, int Matched) : EntryBody
{
    public bool IsGood => FilesSource == FilesTarget && Sampled > 0 && Matched == Sampled;
}

/// <summary>What became of a part that came out.</summary>
/// <param name="Grade">Of a part bought in: A, B or C.</param>
/// <param name="Tested">How a part bought in was tested, and what came out.</param>
/// <param name="Price">What the shop paid for it.</param>
public sealed record OldPartSettled(
    string Position,
    PartFate Fate,
    Wipe? Wipe,
    string? Note,
    string? Grade = null,
    string? Tested = null,
    decimal? Price = null
) : EntryBody;

/// <param name="Run">Which run of the order, from 1.</param>
public sealed record StepConfirmed(
    int Run,
    string Step,
    int? Fasteners,
    string? Explanation,
    string? Note,
    IReadOnlyList<string>? Holes = null,
    IReadOnlyDictionary<string, int>? Groups = null,
    IReadOnlyDictionary<string, string>? Occupants = null,
    MemorySize? Seen = null,
    Deviation? Deviation = null
) : EntryBody;

/// <summary>The step confirmed last was not done after all.</summary>
public sealed record StepTakenBack(int Run, string Step, string? Reason) : EntryBody;

/// <summary>A lead lets one gate be.</summary>
/// <param name="Step">Null for what stops the whole run.</param>
public sealed record GateWaived(int Run, Gate Gate, string? Step, string Reason) : EntryBody;

/// <summary>A step could not be done; it waits for somebody else, or for a lead.</summary>
public sealed record StepImpossible(int Run, string Step, string Reason) : EntryBody;

/// <summary>Something was found inside.</summary>
public sealed record FoundInside(int Run, FindKind Kind, string? Step, string? Text) : EntryBody;

/// <param name="Photo">The hash under which it is kept.</param>
/// <param name="Width">In pixels, upright.</param>
public sealed record PhotoTaken(string Photo, int Width, int Height, string? Step, string? Caption) : EntryBody;

/// <summary>Somebody learned something that the guide should tell.</summary>
public sealed record GuideSuggested(GuideChange Change, string? Step) : EntryBody;

/// <summary>The modules of these slots are to come out and go back in: another run begins.</summary>
public sealed record ReseatBegun(IReadOnlyList<string> Slots, string? Reason) : EntryBody;

/// <param name="Reason">Why it goes out although it is not as planned; null when it is.</param>
/// <param name="Proves">What works here although the guide does not say so; null when nothing new was proved.</param>
public sealed record MarkedReady(Verdict Verdict, string? Reason, MemorySize? Proves = null) : EntryBody;

public sealed record HandedBack(string To, string? OldParts) : EntryBody;

public sealed record Parked(string Reason) : EntryBody;

public sealed record Resumed : EntryBody;

public sealed record Cancelled(string Reason) : EntryBody;

public sealed record NoteAdded(string Text, string? Step = null) : EntryBody;
