using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;

namespace Revtal.Contracts;

/// <summary>Takes a machine in.</summary>
/// <param name="Model">The guide's code.</param>
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
    SealConsent SealConsent = SealConsent.NoSeal);

/// <summary>What was seen by eye. Sizes are bytes or texts like “16 GB”.</summary>
public sealed record SeenReading(
    MemorySize? FirmwareShows = null, MemorySize? SystemShows = null, IReadOnlyList<SeenSlot>? Slots = null, string? Serial = null);

/// <summary>A reading: either a capture or what was seen.</summary>
public sealed record ReadingRequest(Phase Phase, CaptureBundle? Capture = null, SeenReading? Seen = null, string? Note = null);

/// <summary>Slots that are not named stay as they are.</summary>
public sealed record PlanRequest(IReadOnlyList<SlotChange> Changes, string? Note = null);

/// <param name="Customer">Who agreed on the customer's side.</param>
public sealed record AgreeRequest(string Customer, string? Note = null);

/// <param name="Fasteners">How many were counted, for open and close.</param>
/// <param name="Explanation">Why the count differs, if it does.</param>
public sealed record ConfirmRequest(int? Fasteners = null, string? Explanation = null, string? Note = null);

public sealed record ReseatRequest(IReadOnlyList<string> Slots, string? Reason = null);

public sealed record ReasonRequest(string? Reason = null);

public sealed record HandBackRequest(string To, string? OldParts = null);

public sealed record NoteRequest(string Text);

public sealed record PersonRequest(string Name, Role Role);
