using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Contracts;

/// <summary>What a plan would lead to.</summary>
/// <param name="Quote">At today's prices.</param>
/// <param name="Removals">What comes off for it, by title, in order.</param>
public sealed record PlanPreview(PlanView Plan, Quote Quote, IReadOnlyList<string> Removals);

/// <summary>A line of the catalogue beside an order.</summary>
/// <param name="WhyUnsuited">Why it suits nothing of this machine; null where it goes somewhere.</param>
public sealed record ShelfLine(PartLine Line, string? WhyUnsuited);

/// <summary>Which modules are to be seated; the answer says where.</summary>
/// <param name="Kept">Slots whose modules stay in the machine; null for all.</param>
/// <param name="Parts">Part numbers or modules from outside.</param>
[Example("""{"kept": ["S1"], "parts": [{"size": 17179869184, "generation": "DDR4", "form": "SO-DIMM"}]}""")]
public sealed record LayoutRequest(IReadOnlyList<string>? Kept = null, IReadOnlyList<MemoryModule>? Parts = null);

/// <param name="Changes">The wishes that make the best layout.</param>
public sealed record LayoutView(LayoutAnswer Answer, IReadOnlyList<SlotChange> Changes);

/// <summary>What is worth offering for an order.</summary>
/// <param name="Target">What was looked for.</param>
/// <param name="Because">Where the target comes from.</param>
public sealed record OptionsView(
    MemorySize Target,
    string Because,
    IReadOnlyList<OptionLine> Options,
    IReadOnlyList<LeftOut> LeftOut,
    string? Why
);

/// <summary>One option with its time and its price to the customer.</summary>
/// <param name="Later">For the plan that takes it.</param>
/// <param name="Elsewhere">What its parts cost elsewhere, without tax; null unless that is known of each.</param>
public sealed record OptionLine(
    UpgradeOption Option,
    double BandwidthShare,
    bool OnShelf,
    int Minutes,
    decimal Total,
    LaterStage? Later,
    decimal? Elsewhere
);

/// <summary>What is worth offering for the drives of an order's machine.</summary>
/// <param name="Rooms">How full its drives are, fullest first, where that was read.</param>
/// <param name="Closed">Why a bay has no offer, a sentence each.</param>
/// <param name="LeftOut">How many more fit, and are beaten by these.</param>
public sealed record DriveOptionsView(
    IReadOnlyList<DriveRoom> Rooms,
    IReadOnlyList<DriveOptionLine> Options,
    int LeftOut,
    IReadOnlyList<string> Closed
);

/// <summary>One option with its time and its price to the customer, planned by itself.</summary>
/// <param name="Elsewhere">What its drive costs elsewhere, without tax; null where that is not known.</param>
public sealed record DriveOptionLine(DriveOption Option, bool OnShelf, int Minutes, decimal Total, decimal? Elsewhere);

/// <param name="Changes">A plan on the machine as the order leaves it; none where words are all there is.</param>
/// <param name="Words">What comes later, where there is no plan; a note beside it, where there is one.</param>
[Example(
    """{"changes": [{"slot": "S2", "fit": {"size": 17179869184, "partNumber": "OS4S-16G"}}], "words": "in spring"}"""
)]
public sealed record LaterRequest(IReadOnlyList<SlotChange>? Changes = null, string? Words = null);

[Example("""{"reason": "bought another machine"}""")]
public sealed record LaterDropRequest(string? Reason = null);

/// <summary>An option that was left out.</summary>
/// <param name="By">The better one's place in the list, from 1.</param>
public sealed record LeftOut(string Words, MemorySize Capacity, decimal Price, int By);

/// <param name="Days">How long the link is open; 14 where nothing is said.</param>
[Example("""{"days": 14}""")]
public sealed record OfferRequest(int Days = 14);

/// <summary>A link that the customer opens without an account. It is shown once: only its hash is kept.</summary>
/// <param name="WhereYouAre">The shop has said no address for customers, so the link names the one by which this was
/// asked; it may open on no other machine.</param>
public sealed record OfferView(Receipt Receipt, string Link, DateTimeOffset Until, bool WhereYouAre);

[Example("""{"customer": "M. Alto", "reason": "too dear"}""")]
public sealed record DeclineRequest(string Customer, string? Reason = null);

/// <summary>What the customer sees behind the link.</summary>
/// <param name="Answered">“agreed” or “declined” once that was said.</param>
/// <param name="Serials">Of the machines that it is for, where they are several.</param>
public sealed record CustomerQuote(
    string Shop,
    int Order,
    string Machine,
    string Customer,
    Quote Quote,
    SealConsent SealConsent,
    Backup Backup,
    DateTimeOffset Until,
    string? Answered,
    IReadOnlyList<string>? Serials = null
);

/// <param name="Name">Who answers.</param>
[Example("""{"agree": true, "name": "M. Alto"}""")]
public sealed record AnswerRequest(bool Agree, string Name, string? Note = null);

/// <param name="Size">What is to be copied.</param>
[Example("""{"source": "D1", "target": "BN-1T, by adapter", "method": "block by block", "size": 512110190592}""")]
public sealed record CopyBeginRequest(string Source, string Target, string Method, DriveSize Size);

[Example("""{"done": 128000000000}""")]
public sealed record CopyDoneRequest(DriveSize Done);

/// <summary>A comparison of source and target: hashes as counts, or as two lists.</summary>
/// <param name="SourceHashes">As <c>sha256sum</c> writes them.</param>
[Example("""{"filesSource": 41200, "filesTarget": 41200, "sampled": 200, "matched": 200}""")]
public sealed record CopyVerifyRequest(
    int FilesSource,
    int FilesTarget,
    int? Sampled = null,
    int? Matched = null,
    string? SourceHashes = null,
    string? TargetHashes = null
);

/// <summary>What becomes of what came out of a position.</summary>
/// <param name="Price">What the shop pays for a part bought in.</param>
/// <param name="Claim">Of a part that goes back to who sold it.</param>
/// <param name="UsedIn">The order in whose machine it goes on.</param>
[Example("""{"fate": "kept", "note": "in the bag"}""")]
public sealed record OldPartRequest(
    PartFate Fate,
    Wipe? Wipe = null,
    string? Note = null,
    string? Grade = null,
    string? Tested = null,
    decimal? Price = null,
    Claim? Claim = null,
    int? UsedIn = null
);

/// <param name="Place">Where the bag lies.</param>
[Example("""{"place": "shelf 3, box of the choir"}""")]
public sealed record BagRequest(string Place);

/// <summary>The copy of a drive, with when it will be done.</summary>
public sealed record CopyView(
    string Bay,
    string Source,
    string Target,
    string Method,
    DriveSize Size,
    DriveSize Done,
    DateTimeOffset BeganAt,
    DateTimeOffset? EstimatedEnd,
    CopyVerified? Verified,
    DateTimeOffset? VerifiedAt
)
{
    public static CopyView Of(DriveCopy c) =>
        new(
            c.Bay,
            c.Source,
            c.Target,
            c.Method,
            c.Size,
            c.Points[^1].Done,
            c.Points[0].At,
            c.EstimatedEnd,
            c.Verified,
            c.VerifiedAt
        );
}
