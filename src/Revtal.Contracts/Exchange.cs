using Revtal.Core.Guides;
using Revtal.Core.Orders;

namespace Revtal.Contracts;

/// <summary>A guide for another shop (<c>revtal-exchange/1</c>): what is known, and what it rests on.</summary>
/// <param name="Format"><c>revtal-exchange/1</c>.</param>
/// <param name="Shop">Whose guide it is.</param>
/// <param name="Revisions">Guide files, oldest first, without what orders proved.</param>
/// <param name="Pictures">Those that the newest revision names.</param>
[Example(
    """
        {
          "format": "revtal-exchange/1",
          "shop": "Saltmarsh Road",
          "at": "2026-11-02T08:00:00Z",
          "code": "FJ14",
          "revisions": ["format: revtal-guide/1"],
          "evidence": {"runs": 0, "ways": [], "starts": 0, "signs": [], "proved": null, "provedBy": 0},
          "pictures": []
        }
        """
)]
public sealed record ExchangeFile(
    string Format,
    string Shop,
    DateTimeOffset At,
    string Code,
    IReadOnlyList<string> Revisions,
    GuideEvidence Evidence,
    IReadOnlyList<ExchangePicture> Pictures
)
{
    /// <summary>The format that is written and read.</summary>
    public const string Known = "revtal-exchange/1";

    /// <summary>The largest file, in bytes as it is sent.</summary>
    public const int Largest = 32 << 20;
}

/// <param name="Hash">By which the guide names it.</param>
/// <param name="Jpeg">Base64 (RFC 4648, section 4).</param>
public sealed record ExchangePicture(string Hash, string Jpeg);

/// <summary>What another shop's guide would change in ours; nothing is recorded.</summary>
/// <param name="Common">Our newest revision that they have too; null for none, or where the model is new here.</param>
/// <param name="Ours">Our newest revision; null where the model is new here.</param>
/// <param name="Facts">What the two tell differently.</param>
public sealed record ExchangeView(
    string Code,
    string Shop,
    DateTimeOffset At,
    int? Common,
    int? Ours,
    IReadOnlyList<MergeFact> Facts,
    GuideEvidence Evidence
);

/// <summary>Makes a draft of both.</summary>
/// <param name="TakeTheirs">Paths that are taken from theirs beyond what they alone changed.</param>
/// <param name="KeepOurs">Paths that stay ours though they alone changed them.</param>
[Example(
    """
        {
          "file": {
            "format": "revtal-exchange/1",
            "shop": "Saltmarsh Road",
            "at": "2026-11-02T08:00:00Z",
            "code": "FJ14",
            "revisions": ["format: revtal-guide/1"],
            "evidence": {"runs": 0, "ways": [], "starts": 0, "signs": [], "proved": null, "provedBy": 0},
            "pictures": []
          },
          "takeTheirs": ["memory.slots[S1].max"]
        }
        """
)]
public sealed record MergeRequest(
    ExchangeFile File,
    IReadOnlyList<string>? TakeTheirs = null,
    IReadOnlyList<string>? KeepOurs = null
);
