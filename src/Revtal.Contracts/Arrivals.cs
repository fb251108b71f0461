using Revtal.Core.Captures;
using Revtal.Core.Orders;

namespace Revtal.Contracts;

/// <summary>A model that nobody in the shop wrote a guide for: it is taken in under a sketch.</summary>
/// <param name="Name">As it stands on the machine: “Fjell 16”.</param>
/// <param name="Kind">In the trade's words: laptop, tower, all-in-one ….</param>
public sealed record NewModel(string Maker, string Name, string Kind);

/// <summary>A capture of a machine for which there is no order yet.</summary>
[Example(
    """
        {
          "capture": {
            "format": "revtal-capture/1",
            "files": [{"name": "meminfo", "content": "TWVtVG90YWw6IDgwMDAwMDAga0IK"}]
          }
        }
        """
)]
public sealed record ArrivalRequest(CaptureBundle Capture);

/// <param name="Minutes">How long the code opens, 1 to 1440.</param>
[Example("""{"minutes": 60}""")]
public sealed record ArrivalInviteRequest(int Minutes = 60);

/// <summary>A code by which a machine tells of itself before there is an order; it is shown once.</summary>
/// <param name="Lines">What is typed on the machine, by system: <c>linux</c>, <c>windows</c>, <c>macos</c>.</param>
/// <param name="HereOnly">Whether the lines lead every other machine to itself: no address was set.</param>
public sealed record ArrivalInvite(
    string Id,
    string Code,
    DateTimeOffset Until,
    IReadOnlyDictionary<string, string> Lines,
    bool HereOnly
);

/// <summary>A machine that told of itself, or a code by which one may, and that waits to be taken in.</summary>
/// <param name="Until">How long its code opens; null where it opens no more.</param>
/// <param name="Told">What it told; null before it did.</param>
public sealed record ArrivalView(string Id, string By, DateTimeOffset At, DateTimeOffset? Until, ArrivalTold? Told);

/// <summary>What a machine told of itself.</summary>
/// <param name="Lines">What is in it, one sentence each.</param>
/// <param name="Models">Which of the shop's models it may be, the likeliest first; none where it is unknown.</param>
/// <param name="Doubts">What in it contradicts the model or the serial that were asked about.</param>
/// <param name="Machine">Earlier visits of its serial; null where there was none.</param>
public sealed record ArrivalTold(
    DateTimeOffset At,
    string? Maker,
    string? Product,
    string? Serial,
    IReadOnlyList<string> Lines,
    IReadOnlyList<ModelMatch> Models,
    IReadOnlyList<string> Doubts,
    MachineView? Machine
);

/// <summary>A model of the shop that a machine may be.</summary>
/// <param name="Build">The build that reports so; null for the model.</param>
/// <param name="Reported">Its guide says that its firmware reports exactly this; else its name is only alike.</param>
/// <param name="TellApart">What tells it from the others.</param>
/// <param name="Sketch">Its guide is a sketch.</param>
public sealed record ModelMatch(
    string Code,
    string Maker,
    string Name,
    string Kind,
    string? Build,
    bool Reported,
    string? TellApart,
    bool Sketch
);

/// <summary>Something came off that the sketch did not know.</summary>
[Example(
    """
        {
          "what": {
            "name": "bottom cover",
            "fasteners": [
              {"count": 8, "driver": "PH0", "length": 5},
              {"count": 1, "driver": "PH0", "hidden": "under the foot"}
            ],
            "clips": 6
          }
        }
        """
)]
public sealed record CameOffRequest(CameOffWish What);

/// <summary>What was seen of one slot or bay.</summary>
[Example("""{"seen": {"position": "S1", "notch": "short side to the hinge", "angle": 30, "latch": "spread-both"}}""")]
public sealed record PositionRequest(Core.Guides.SeenPosition Seen);

/// <param name="Revision">The newest where none is named.</param>
[Example("""{"revision": 2}""")]
public sealed record AdoptRequest(int? Revision = null);
