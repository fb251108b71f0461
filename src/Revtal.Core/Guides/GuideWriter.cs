using System.Globalization;
using Revtal.Core.Hardware;

namespace Revtal.Core.Guides;

/// <summary>A guide back to the nodes of its file; read again they give the same guide.</summary>
public static class GuideWriter
{
    public static GuideNode.Map Write(Guide guide)
    {
        var common = Facts(guide);
        return Map([
            ("format", Text(GuideReader.Format)),
            .. common.Fields,
            ("variants", List(guide.Variants, v => Variant(v, common))),
        ]);
    }

    private static GuideNode.Map Variant(Variant v, GuideNode common) =>
        Map([
            ("id", Text(v.Id)),
            ("tell-apart", Text(v.TellApart)),
            ("built", Text(v.Built)),
            ("label", Text(v.Label)),
            ("board", Text(v.Board)),
            ("differs", GuideOverlay.Difference(common, Facts(v.Guide))),
        ]);

    private static GuideNode.Map Facts(Guide guide) =>
        Map([
            (
                "model",
                Map([
                    ("maker", Text(guide.Model.Maker)),
                    ("name", Text(guide.Model.Name)),
                    ("code", Text(guide.Model.Code)),
                    ("kind", Text(guide.Model.Kind)),
                    ("built", Text(guide.Model.Built)),
                    ("tell-apart", Text(guide.Model.TellApart)),
                ])
            ),
            ("memory", Memory(guide.Memory)),
            ("drives", List(guide.Drives, Bay)),
            ("isolate", List(guide.Isolate, Isolate)),
            ("removals", List(guide.Removals, Removal)),
            (
                "first-start",
                List(
                    guide.FirstStart,
                    s =>
                        Map([
                            ("sees", Text(s.Sees)),
                            ("kind", Text(s.Kind)),
                            ("means", Text(s.Means)),
                            ("lasts", Time(s.Lasts)),
                            ("do", Text(s.Do)),
                        ])
                )
            ),
            (
                "firmware",
                guide.Firmware is { } f ? Map([("enter", Text(f.Enter)), ("rated-speed", Text(f.RatedSpeed))]) : null
            ),
            ("measure-open", Text(guide.MeasureOpen)),
            ("traps", List(guide.Traps, t => Map([("at", Text(t.At)), ("text", Text(t.Text))]))),
        ]);

    private static GuideNode.Map Memory(MemoryFacts m) =>
        Map([
            ("generation", Text(m.Generation)),
            ("module", Text(m.Module)),
            ("speeds", List(m.Speeds, s => Number(s))),
            ("stated-max", Size(m.StatedMax)),
            (
                "confirmed-max",
                m.ConfirmedMax is { } c
                    ? Map([("size", Size(c.Size)), ("orders", List(c.Orders, o => Number(o)))])
                    : null
            ),
            ("shared-graphics", Size(m.SharedGraphics)),
            ("pairing", Text(m.Pairing)),
            ("ecc", Text(m.Ecc)),
            ("buffering", Text(m.Buffering)),
            ("voltage", Amount(m.Voltage, "V")),
            (
                "per-channel",
                m.PerChannel.Count == 0
                    ? null
                    : Map([
                        .. m
                            .PerChannel.OrderBy(p => p.Key)
                            .Select(p => (p.Key.ToString(CultureInfo.InvariantCulture), (GuideNode?)Number(p.Value))),
                    ])
            ),
            ("slots", List(m.Slots, Slot)),
            (
                "populate",
                m.Populate.Count == 0
                    ? null
                    : Map([
                        .. m
                            .Populate.OrderBy(p => p.Key)
                            .Select(p => (p.Key.ToString(CultureInfo.InvariantCulture), List(p.Value, s => Text(s)!))),
                    ])
            ),
        ]);

    private static GuideNode.Map Slot(MemorySlot s) =>
        Map([
            ("id", Text(s.Id)),
            ("channel", Text(s.Channel)),
            ("reports-as", Text(s.ReportsAs)),
            ("label", Text(s.Label)),
            ("below", Text(s.Below)),
            ("reach", Text(s.Reach)),
            ("max", Size(s.Max)),
            ("soldered", Flag(s.Soldered)),
            ("angle", Number(s.Angle)),
            ("latch", Text(s.Latch)),
            ("press", Text(s.Press)),
            ("notch", Text(s.Notch)),
            ("seated", Text(s.Seated)),
            ("at", Point(s.At)),
            ("turn", s.Turn == 0 ? null : Number(s.Turn)),
        ]);

    private static GuideNode.Map Bay(DriveBay b) =>
        Map([
            ("id", Text(b.Id)),
            ("form", Text(b.Form)),
            ("key", Text(b.Key)),
            ("link", Text(b.Link)),
            ("height", Millimetres(b.Height)),
            ("boots", Flag(b.Boots)),
            ("reach", Text(b.Reach)),
            ("standoff", Text(b.Standoff)),
            ("pad", Millimetres(b.Pad)),
            ("hold", Text(b.Hold)),
            ("at", Point(b.At)),
        ]);

    private static GuideNode Isolate(IsolationStep step) =>
        (step.Duration, step.Note) switch
        {
            (null, null) => Text(step.Kind)!,
            (null, { } note) => Map([(step.Kind, Text(note))]),
            ({ } time, { } note) => Map([(step.Kind, Time(time)), ("note", Text(note))]),
            ({ } time, null) => Map([(step.Kind, Time(time))]),
        };

    private static GuideNode.Map Removal(Removal r) =>
        Map([
            ("id", Text(r.Id)),
            ("title", Text(r.Title)),
            ("needs", List(r.Needs, n => Text(n)!)),
            ("isolates", Flag(r.Isolates)),
            ("takes-out", List(r.TakesOut, b => Text(b)!)),
            ("face", Text(r.Face)),
            ("fasteners", List(r.Fasteners, Fasteners)),
            (
                "clips",
                List(
                    r.Clips,
                    c => Map([("count", Number(c.Count)), ("at", List(c.At, p => Point(p)!)), ("text", Text(c.Text))])
                )
            ),
            ("pry", List(r.Pry, p => Map([("tool", Text(p.Tool)), ("at", Point(p.At)), ("text", Text(p.Text))]))),
            ("cables", List(r.Cables, c => Text(c)!)),
            ("pads-stay", Text(r.PadsStay)),
            ("precautions", List(r.Precautions, p => Map([("kind", Text(p.Kind)), ("text", Text(p.Text))]))),
            ("open", Text(r.Open)),
            ("close", Text(r.Close)),
            ("orient", Text(r.Orient)),
            ("sits-right", Text(r.SitsRight)),
            (
                "pictures",
                r.Pictures.Open.Count + r.Pictures.Close.Count == 0
                    ? null
                    : Map([
                        ("open", List(r.Pictures.Open, p => Text(p)!)),
                        ("close", List(r.Pictures.Close, p => Text(p)!)),
                    ])
            ),
            ("minutes", r.Minutes == 0 ? null : Number(r.Minutes)),
        ]);

    private static GuideNode.Map Fasteners(FastenerGroup g) =>
        Map([
            ("group", Text(g.Group)),
            ("driver", Text(g.Driver)),
            ("length", Millimetres(g.Length)),
            ("count", Number(g.Count)),
            ("captive", Flag(g.Captive)),
            ("seal", Flag(g.Seal)),
            ("at", List(g.At, p => Point(p)!)),
            ("hidden", Text(g.Hidden)),
        ]);

    private static GuideNode.Map Map((string Key, GuideNode? Value)[] fields) =>
        new([.. fields.Where(f => f.Value is not null).Select(f => (f.Key, f.Value!))], 0);

    private static GuideNode.List? List<T>(IReadOnlyList<T> items, Func<T, GuideNode> write) =>
        items.Count == 0 ? null : new([.. items.Select(write)], 0);

    private static GuideNode.Scalar? Text(string? text) => text is null ? null : new(text, 0);

    // The spoken form rounds; where it would lose something the bytes are written.
    private static GuideNode.Scalar? Size(MemorySize? size) =>
        size is { } s
            ? Text(
                MemorySize.TryParse(s.ToString(), out var again) && again == s
                    ? s.ToString()
                    : string.Create(CultureInfo.InvariantCulture, $"{s.Bytes} B")
            )
            : null;

    private static GuideNode.Scalar? Time(TimeSpan? time) => time is { } t ? Text(Durations.Text(t)) : null;

    private static GuideNode.Scalar Number(int number) => new(number.ToString(CultureInfo.InvariantCulture), 0);

    private static GuideNode.Scalar? Number(int? number) => number is { } n ? Number(n) : null;

    private static GuideNode.Scalar? Millimetres(decimal? mm) => Amount(mm, "mm");

    private static GuideNode.Scalar? Amount(decimal? amount, string unit) =>
        amount is { } a ? Text(string.Create(CultureInfo.InvariantCulture, $"{a} {unit}")) : null;

    private static GuideNode.Scalar? Flag(bool flag) => flag ? Text("true") : null;

    private static GuideNode.List? Point(BoardPoint? p) => p is null ? null : new([Share(p.X), Share(p.Y)], 0);

    private static GuideNode.Scalar Share(double share) =>
        new(share.ToString("0.####", CultureInfo.InvariantCulture), 0);
}
