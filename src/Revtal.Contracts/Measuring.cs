using System.Text.Json.Serialization;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;

namespace Revtal.Contracts;

/// <param name="Minutes">How long the code stays open: 1 to 1440.</param>
/// <param name="Watch">So many minutes the machine watches what it has to do before it sends, 1 to 120; the code stays
/// open for as much longer.</param>
[Example("""{"phase": "before", "minutes": 30, "watch": 10}""")]
public sealed record InviteRequest(Phase Phase, int Minutes = 60, int? Watch = null);

/// <summary>A code by which the machine itself sends one reading; it is shown once.</summary>
/// <param name="Lines">What is typed on the machine, by system: <c>linux</c>, <c>windows</c>, <c>macos</c>.</param>
/// <param name="HereOnly">Whether the lines lead every other machine to itself: no address was set.</param>
public sealed record InviteView(
    Receipt Receipt,
    string Code,
    DateTimeOffset Until,
    IReadOnlyDictionary<string, string> Lines,
    bool HereOnly
);

/// <summary>A code that is open.</summary>
public sealed record InviteLine(Phase Phase, DateTimeOffset Until, string By);

/// <summary>What the collector is answered.</summary>
public sealed record CollectedView(string Text);

/// <summary>One reading of an order, in a line.</summary>
/// <param name="Photo">A picture of what was seen by eye.</param>
/// <param name="ByMachine">Sent by the machine itself.</param>
public sealed record ReadingLine(
    int Sequence,
    Phase Phase,
    DateTimeOffset At,
    string By,
    IReadOnlyList<Source> Sources,
    long? InstalledBytes,
    long? UsableBytes,
    IReadOnlyList<SourceConflict> Conflicts,
    IReadOnlyList<string> Missing,
    string? Photo,
    bool ByMachine,
    string? Note
);

[Example(
    """
        {
          "phase": "before",
          "scores": [
            {
              "name": "export",
              "unit": "s",
              "value": 412,
              "higherIsBetter": false
            }
          ]
        }
        """
)]
public sealed record ScoresRequest(Phase Phase, IReadOnlyList<Score> Scores, string? Note = null);

/// <summary>Figures before and after, and load.</summary>
public sealed record ScoresView(
    IReadOnlyList<ScoreLine> Scores,
    LoadChange? Load,
    IReadOnlyList<WatchedView> Watched,
    IReadOnlyList<ScoreTake> Takes
);

/// <summary>A load that was watched, with what it comes to.</summary>
/// <param name="InstalledBytes">What was installed then, in bytes; null where that was not read.</param>
public sealed record WatchedView(WatchedLoad Load, LoadPeaks Peaks, long? InstalledBytes);

/// <summary>Scores as they were told at one time.</summary>
public sealed record ScoreTake(Phase Phase, IReadOnlyList<Score> Scores, string? Note);

/// <param name="Work">The customer's kind of work; null where none is to be tried any more.</param>
/// <param name="Minutes">The least that it is to run, 1 to 1440.</param>
[Example("""{"work": "surge model over the whole coast", "minutes": 20}""")]
public sealed record TrialAskRequest(string? Work = null, int? Minutes = null);

/// <param name="Minutes">How long it ran, 1 to 1440.</param>
/// <param name="Work">Null for what was asked for.</param>
/// <param name="Displays">How many were joined, 0 to 16.</param>
/// <param name="Note">Wanted where it was not as wished.</param>
[Example("""{"minutes": 25, "outcome": "as-wished", "displays": 2}""")]
public sealed record TrialRequest(
    int Minutes,
    TrialOutcome Outcome,
    string? Work = null,
    int? Displays = null,
    string? Note = null
);

/// <summary>What a start showed. Sizes are bytes or texts like “16 GB”.</summary>
/// <param name="Slots">The slots whose modules were seen; null where only a total is known.</param>
public sealed record StartShown(
    bool Started,
    IReadOnlyList<string>? Slots = null,
    MemorySize? Seen = null,
    string? Sign = null
)
{
    [JsonIgnore]
    public SwapOutcome Outcome => new(Started, Slots, Seen, Sign);
}

/// <param name="Shown">Null: as the last reading has it.</param>
[Example("""{"shown": {"started": true, "slots": ["A1"], "seen": 17179869184}}""")]
public sealed record SwapBeginRequest(StartShown? Shown = null);

/// <param name="Isolated">Power was off the board before hands went in.</param>
/// <param name="Places">Null for the arrangement that was asked for.</param>
/// <param name="Defaults">The firmware's settings were put to their defaults; null as it was asked for.</param>
/// <param name="Back">Fasteners that went back, by removal, where the case was closed for the start.</param>
/// <param name="Explanation">Why fewer went back than came out.</param>
[Example(
    """
        {
          "shown": {
            "started": true,
            "slots": [
              "A1"
            ],
            "seen": 17179869184
          },
          "isolated": true,
          "places": [
            {
              "slot": "A1",
              "module": "new 16 GB"
            }
          ]
        }
        """
)]
public sealed record SwapTryRequest(
    StartShown Shown,
    bool Isolated,
    IReadOnlyList<SwapPlace>? Places = null,
    bool? Defaults = null,
    IReadOnlyDictionary<string, int>? Back = null,
    string? Explanation = null
);

/// <param name="Reason">Why it is given up; null where it has a conclusion.</param>
/// <param name="Back">Fasteners that went back, by removal, where the case lay open until now.</param>
/// <param name="Explanation">Why fewer went back than came out.</param>
[Example("""{"reason": "the customer wants it back", "back": {"hatch": 2}}""")]
public sealed record SwapEndRequest(
    string? Reason = null,
    IReadOnlyDictionary<string, int>? Back = null,
    string? Explanation = null
);

/// <summary>A swap test that runs.</summary>
/// <param name="Open">Parts that are off until the search ends, with how many fasteners came out of each.</param>
public sealed record SwapView(
    SwapSetup Setup,
    IReadOnlyList<SwapTrial> Trials,
    SwapState State,
    IReadOnlyDictionary<string, int> Open
);

/// <param name="Days">How long it is watched.</param>
/// <param name="For">Null: the complaint.</param>
[Example("""{"days": 7, "everyDays": 2, "for": "restarts by itself"}""")]
public sealed record WatchRequest(int Days = 14, int EveryDays = 3, string? For = null);

[Example("""{"sign": "restart", "on": "2026-03-04", "text": "once, at noon"}""")]
public sealed record WatchNoteRequest(WatchSign Sign, DateOnly On, string? Text = null);

[Example("""{"outcome": "gone", "text": "seven quiet days"}""")]
public sealed record WatchEndRequest(WatchOutcome Outcome, string? Text = null);

/// <summary>What is done to a simulated machine.</summary>
public enum DummyAct
{
    Open,
    Close,
    Start,
    Off,
    Fit,
    Pull,
    Move,
    Seat,
    Spoil,
    Mend,
    Set,
}

/// <param name="Serial">Null: one of its own.</param>
[Example("""{"name": "fj14-b", "model": "FJ14"}""")]
public sealed record DummyRequest(string Name, string Model, string? Variant = null, string? Serial = null);

/// <param name="Position">Slot or bay.</param>
/// <param name="From">For a move.</param>
/// <param name="Gigabytes">Of a module; of a drive for a bay.</param>
/// <param name="How">For seat: home, half or askew. For spoil: silent, stops (the part), slot (the slot itself), worn
/// (a drive). For set: profile-off, profile-on, limit, boots; of a bay label, mounted, unmounted.</param>
/// <param name="Value">For set limit: “mem=4G”, or nothing. For set boots: the bay. For set label: it, or
/// nothing.</param>
[Example("""{"act": "fit", "position": "S1", "gigabytes": 16}""")]
public sealed record DummyActRequest(
    DummyAct Act,
    string? Position = null,
    string? From = null,
    int? Gigabytes = null,
    int? Speed = null,
    string? Part = null,
    string? Serial = null,
    string? How = null,
    string? Value = null,
    bool Raw = false
);

/// <param name="Code">Of an invitation.</param>
[Example("""{"code": "104-8QW2-71PT"}""")]
public sealed record DummySendRequest(string Code);

/// <summary>What sits in one position of a simulated machine.</summary>
/// <param name="IsSlot">Of memory; a drive bay otherwise.</param>
public sealed record DummyPosition(
    string Position,
    bool IsSlot,
    string? Occupant,
    string? Serial,
    string Seat,
    string? Fault
);

/// <summary>A simulated machine.</summary>
/// <param name="Shown">What its last start showed, where it was started by this call.</param>
public sealed record DummyView(
    string Name,
    string Model,
    string? Variant,
    string Serial,
    bool IsOpen,
    bool IsOn,
    IReadOnlyList<DummyPosition> Positions,
    IReadOnlyList<string> Settings,
    DummyStartView? Shown = null
);

/// <summary>What somebody before a simulated machine sees and hears.</summary>
public sealed record DummyStartView(
    bool Started,
    string? Sign,
    IReadOnlyList<string> Notices,
    long? FirmwareShows,
    IReadOnlyList<string> SlotsSeen,
    bool SystemRuns
);
