using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;

namespace Revtal.Contracts;

/// <summary>Takes a machine in.</summary>
/// <param name="Model">The guide's code; null where nobody wrote one for it.</param>
/// <param name="Variant">Which build, where that is known.</param>
/// <param name="NewModel">What it is, where the shop has no guide for it.</param>
/// <param name="Arrival">The machine that told of itself before.</param>
/// <param name="Trial">The customer's own kind of work that is to be tried after the upgrade.</param>
[Example(
    """
        {
          "model": "FJ14",
          "customer": "Choir's archive",
          "complaint": "slow with large scores",
          "serial": "NF14-77",
          "backup": "made",
          "sealConsent": "no-seal"
        }
        """
)]
public sealed record TakeInRequest(
    string? Model,
    string Customer,
    string Complaint,
    string? Contact = null,
    string? Serial = null,
    string? Goal = null,
    string? Accessories = null,
    string? Condition = null,
    Backup Backup = Backup.Unknown,
    SealConsent SealConsent = SealConsent.NoSeal,
    string? Variant = null,
    NewModel? NewModel = null,
    string? Arrival = null,
    string? Trial = null
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
[Example(
    """
        {
          "phase": "before",
          "seen": {
            "firmwareShows": 8589934592,
            "systemShows": 8482560410,
            "slots": [
              {
                "slot": "S1",
                "module": {
                  "size": 8589934592
                }
              }
            ]
          }
        }
        """
)]
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
/// <param name="Cleans">Whether it is cleaned inside while it is open, at the shop's price.</param>
[Example(
    """
        {
          "changes": [
            {
              "slot": "S1",
              "fit": {
                "size": 17179869184,
                "generation": "DDR4",
                "form": "SO-DIMM",
                "partNumber": "OS4S-16G"
              }
            }
          ],
          "discount": 5
        }
        """
)]
public sealed record PlanRequest(
    IReadOnlyList<SlotChange> Changes,
    string? Note = null,
    decimal Discount = 0,
    LaterStage? Later = null,
    bool Cleans = false
);

/// <param name="Changes">What is to be otherwise than it was planned.</param>
/// <param name="Again">Slots whose module is changed for one of the same kind.</param>
[Example("""{"changes": [{"slot": "S2", "empty": true}], "again": ["S1"], "reason": "the swap test named it"}""")]
public sealed record MendRequest(
    string Reason,
    IReadOnlyList<SlotChange>? Changes = null,
    IReadOnlyList<string>? Again = null
);

/// <param name="Customer">Who agreed on the customer's side.</param>
[Example("""{"customer": "M. Alto", "note": "by telephone"}""")]
public sealed record AgreeRequest(string Customer, string? Note = null);

/// <param name="Fasteners">How many were counted, for open and close.</param>
/// <param name="Explanation">Why the count differs, or why the step was done otherwise or skipped.</param>
/// <param name="Holes">Which fasteners, as <c>group/number</c> from 1.</param>
/// <param name="Groups">How many of each group.</param>
/// <param name="Occupants">What sits in each position: a serial, or “empty”.</param>
/// <param name="Seen">What the firmware showed with the case open.</param>
[Example("""{"groups": {"hatch": 1}, "note": "dry thread"}""")]
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
[Example("""{"gate": "still-cooling", "step": "isolate.cool-down", "reason": "came in cold"}""")]
public sealed record WaiveRequest(Gate Gate, StepId? Step, string Reason);

[Example("""{"kind": "broken-clip", "step": "open.hatch", "text": "upper rail"}""")]
public sealed record FindRequest(FindKind Kind, StepId? Step = null, string? Text = null);

/// <param name="Variant">Null where it is not known after all.</param>
[Example("""{"variant": "FJ14-1"}""")]
public sealed record VariantRequest(string? Variant);

/// <param name="Customer">Who said so on the customer's side.</param>
[Example("""{"consent": "given", "customer": "M. Alto"}""")]
public sealed record SealRequest(SealConsent Consent, string Customer);

/// <param name="Text">How it was verified, or who goes without.</param>
/// <param name="Sampled">How many files were compared by hash; at least one where it is called verified.</param>
[Example("""{"copy": "verified", "text": "image, files counted", "sampled": 200}""")]
public sealed record CopyRequest(CopyState Copy, string Text, int? Sampled = null);

[Example("""{"change": {"kind": "trap", "target": "fit.S1", "text": "the upper latch hides under the foil"}}""")]
public sealed record SuggestRequest(GuideChange Change, StepId? Step = null);

[Example("""{"slots": ["S2"], "reason": "not seen"}""")]
public sealed record ReseatRequest(IReadOnlyList<string> Slots, string? Reason = null);

[Example("""{"reason": "the customer keeps the smaller module"}""")]
public sealed record ReasonRequest(string? Reason = null);

/// <param name="Serial">Null where that stays; likewise the others.</param>
[Example("""{"serial": "NF14-0417", "reason": "one digit was mistyped"}""")]
public sealed record CorrectRequest(
    string? Serial = null,
    string? Contact = null,
    Backup? Backup = null,
    string? Reason = null
);

/// <param name="Until">When it is to be taken up again; null where nobody knows.</param>
/// <param name="Wakes">What takes it up again before that; null for nothing.</param>
[Example("""{"reason": "the array rebuilds", "until": "2026-12-04T06:30:00Z"}""")]
public sealed record ParkRequest(string? Reason = null, DateTimeOffset? Until = null, WakeOn? Wakes = null);

/// <param name="Owner">The person's id; null for nobody.</param>
/// <param name="Word">What the next one must read before the run goes on; null for nothing.</param>
[Example("""{"owner": "juno", "word": "the left clip of S1 is worn: seat it by hand"}""")]
public sealed record OwnerRequest(string? Owner, string? Word = null);

/// <param name="UpTo">A notice's position.</param>
[Example("""{"upTo": 12}""")]
public sealed record NoticesReadRequest(long UpTo);

/// <param name="Place">As it is written there, or as its label is scanned; null where nobody knows.</param>
[Example("""{"place": "Bench 2"}""")]
public sealed record PlaceRequest(string? Place);

/// <param name="At">To come, within a year; null to promise nothing any more.</param>
[Example("""{"at": "2026-12-04T15:00:00Z"}""")]
public sealed record PromiseRequest(DateTimeOffset? At);

[Example("""{"hold": "array-resync.md0", "reason": "it rebuilds at the customer's, who knows"}""")]
public sealed record ReleaseRequest(string Hold, string? Reason = null);

[Example("""{"to": "M. Alto", "oldParts": "both modules in the bag"}""")]
public sealed record HandBackRequest(string To, string? OldParts = null);

/// <param name="Answers">Sequence of the note that it answers; null for none.</param>
[Example("""{"text": "one clip was broken before", "step": "open.hatch"}""")]
public sealed record NoteRequest(string Text, StepId? Step = null, int? Answers = null);

[Example("""{"name": "Mara Lind", "role": "technician"}""")]
public sealed record PersonRequest(string Name, Role Role);
