using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
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
    SealConsent SealConsent);

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
public sealed record ReadingTaken(Phase Phase, Reading Reading, string? Capture, string? Note) : EntryBody;

public sealed record PlanSet(Plan Plan, string? Note) : EntryBody;

/// <param name="Customer">Who agreed on the customer's side.</param>
public sealed record PlanAgreed(string Customer, string? Note) : EntryBody;

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
    Deviation? Deviation = null) : EntryBody;

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
