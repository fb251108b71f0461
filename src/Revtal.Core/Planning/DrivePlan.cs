using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>What becomes of one drive bay.</summary>
public enum BayUse
{
    /// <summary>Its drive comes out and goes back in.</summary>
    Reseat,

    /// <summary>It is only looked at.</summary>
    Inspect,

    /// <summary>A drive from outside is fitted; one that is there leaves.</summary>
    Fit,

    /// <summary>A drive that is in the machine comes here from another bay.</summary>
    Move,

    /// <summary>Its drive leaves and none follows.</summary>
    Empty,
}

/// <summary>How the data comes onto a new drive.</summary>
public enum DataPath
{
    /// <summary>Copied and verified before the old drive leaves.</summary>
    CopyFirst,

    /// <summary>The system is set up anew.</summary>
    CleanInstall,

    /// <summary>It stays behind, and the customer said so.</summary>
    LeftBehind,
}

/// <summary>What is done to a drive once the system runs.</summary>
/// <param name="Partition">The kind of partition table: <c>GPT</c>, <c>MBR</c>.</param>
/// <param name="Mount">The mount name or letter under which the customer finds it.</param>
/// <param name="Grow">The copied file system is grown to the drive's full size.</param>
public sealed record DriveSetup(
    bool Initialise = false,
    string? Partition = null,
    string? FileSystem = null,
    string? Label = null,
    string? Mount = null,
    bool Grow = false
);

/// <summary>A drive that is to be fitted, and what becomes of the data.</summary>
/// <param name="Path">Wanted where a drive leaves, or where the machine starts from the bay.</param>
/// <param name="Word">The customer's word, where data stays behind.</param>
/// <param name="Pad">The thermal pad that goes on it, in mm; null for the one that the guide names.</param>
/// <param name="ArrayState">What the array said of itself before, in a box of several bays.</param>
/// <param name="SystemFrom">The bay whose drive the machine starts from until now, where the system comes from another
/// bay than this one.</param>
public sealed record DriveWish(
    Drive Drive,
    DataPath? Path = null,
    string? Word = null,
    DriveSetup? Setup = null,
    decimal? Pad = null,
    string? ArrayState = null,
    string? SystemFrom = null
)
{
    /// <summary>The bay whose data comes onto it, where any does.</summary>
    public string DataFrom(string bay) => SystemFrom ?? bay;
}

/// <summary>One bay of a plan; bays that are not named stay as they are.</summary>
/// <param name="Before">What sat there, where the before reading tells.</param>
/// <param name="WasEmpty">Whether the before reading found nothing there; false where nobody looked.</param>
/// <param name="Wish">The drive that is fitted.</param>
/// <param name="From">Where a moved drive comes from.</param>
/// <param name="StartsHere">The machine started from another bay, and is to start from this one.</param>
public sealed record PlannedBay(
    string Bay,
    BayUse Use,
    Drive? Before = null,
    bool WasEmpty = false,
    DriveWish? Wish = null,
    string? From = null,
    bool StartsHere = false
)
{
    /// <summary>Whether a drive must come out: one that is there, or may be.</summary>
    public bool Pulls => Use != BayUse.Inspect && !WasEmpty;

    /// <summary>Whether a drive goes in.</summary>
    public bool Fits => Use is BayUse.Fit or BayUse.Move or BayUse.Reseat;

    /// <summary>Whether its data is copied and verified before the old drive leaves.</summary>
    public bool CopiesFirst => Wish?.Path == DataPath.CopyFirst;

    /// <summary>Whether the bay holds another drive afterwards than before.</summary>
    public bool Changes => Use is BayUse.Fit or BayUse.Move or BayUse.Empty;
}
