using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;

namespace Revtal.Contracts;

/// <summary>Takes a machine in.</summary>
/// <param name="Model">The guide's code.</param>
/// <param name="Variant">Which build, where that is known.</param>
public sealed record TakeInRequest(
    string Model,
    string Customer,
    string Complaint,
    string? Contact = null,
    string? Serial = null,
    string? Goal = null,
    string? Accessories = null,
    string? Condition = null,
    Backup Backup = Backup.Unknown,
    SealConsent SealConsent = SealConsent.NoSeal,
    string? Variant = null
);

/// <summary>What was seen by eye. Sizes are bytes or texts like “16 GB”.</summary>
public sealed record SeenReading(
    MemorySize? FirmwareShows = null,
    MemorySize? SystemShows = null,
    IReadOnlyList<SeenSlot>? Slots = null,
    string? Serial = null,
    IReadOnlyList<SeenDrive>? Drives = null
);

/// <summary>A reading: a capture, or what was seen, or both.</summary>
/// <param name="Photo">The hash of a picture of what was seen, kept before.</param>
public sealed record ReadingRequest(
    Phase Phase,
    CaptureBundle? Capture = null,
    SeenReading? Seen = null,
    string? Note = null,
    string? Photo = null
);

/// <summary>Positions that are not named stay as they are.</summary>
/// <param name="Discount">In percent of parts and labour.</param>
/// <param name="Later">What the next visit is to add.</param>
public sealed record PlanRequest(
    IReadOnlyList<SlotChange> Changes,
    string? Note = null,
    decimal Discount = 0,
    LaterStage? Later = null
);

/// <param name="Customer">Who agreed on the customer's side.</param>
public sealed record AgreeRequest(string Customer, string? Note = null);

/// <param name="Fasteners">How many were counted, for open and close.</param>
/// <param name="Explanation">Why the count differs, or why the step was done otherwise or skipped.</param>
/// <param name="Holes">Which fasteners, as <c>group/number</c> from 1.</param>
/// <param name="Groups">How many of each group.</param>
/// <param name="Occupants">What sits in each position: a serial, or “empty”.</param>
/// <param name="Seen">What the firmware showed with the case open.</param>
public sealed record ConfirmRequest(
    int? Fasteners = null,
    string? Explanation = null,
    string? Note = null,
    IReadOnlyList<string>? Holes = null,
    IReadOnlyDictionary<string, int>? Groups = null,
    IReadOnlyDictionary<string, string>? Occupants = null,
    MemorySize? Seen = null,
    Deviation? Deviation = null
);

/// <param name="Step">Null for what stops the whole run.</param>
public sealed record WaiveRequest(Gate Gate, StepId? Step, string Reason);

public sealed record FindRequest(FindKind Kind, StepId? Step = null, string? Text = null);

public sealed record VariantRequest(string Variant);

/// <param name="Customer">Who said so on the customer's side.</param>
public sealed record SealRequest(SealConsent Consent, string Customer);

/// <param name="Text">How it was verified, or who goes without.</param>
public sealed record CopyRequest(CopyState Copy, string Text);

public sealed record SuggestRequest(GuideChange Change, StepId? Step = null);

public sealed record ReseatRequest(IReadOnlyList<string> Slots, string? Reason = null);

public sealed record ReasonRequest(string? Reason = null);

public sealed record HandBackRequest(string To, string? OldParts = null);

public sealed record NoteRequest(string Text, StepId? Step = null);

public sealed record PersonRequest(string Name, Role Role);
