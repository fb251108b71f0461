using System.Globalization;
using Revtal.Core.Bench;
using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>
/// Something came off a machine of which the sketch did not know that it does; it is counted as it lies there.
/// </summary>
/// <param name="Fasteners">How many came out and are not captive.</param>
public sealed record PartCameOff(int Run, CameOff What, int Fasteners) : RunEntry(Run)
{
    public override OrderAct Act => OrderAct.TellCameOff;

    private protected override bool MovesToBench => true;

    private protected override string Told(Guide? guide)
    {
        string?[] held =
        [
            .. What.Removal.Fasteners.Select(Held),
            .. What.Removal.Clips.Select(c => Phrases.Counted(c.Count, "clip", "clips")),
            .. What.Removal.Cables.Select(c => $"cable: {c}"),
        ];
        return $"Took off the {What.Removal.Title}, not known before{Phrases.When(held.Length > 0, ": ")}"
            + string.Join(", ", held);
    }

    private protected override Run Apply(Run run, string by, DateTimeOffset at) =>
        run with
        {
            CameOff = run.CameOff.Add(What),
            Done = run.Done.Add(
                new StepConfirmation(
                    StepId.Open(What.Removal.Id),
                    by,
                    at,
                    Fasteners,
                    Groups: What.Removal.Fasteners.Where(f => !f.Captive).ToDictionary(f => f.Group, f => f.Count)
                        is { Count: > 0 } groups
                        ? groups
                        : null
                )
            ),
        };

    private static string Held(FastenerGroup g) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{g.Count} × {g.Driver}{Phrases.When(g.Length, l => $" {l} mm")}{Phrases.When(g.Captive, ", captive")}"
                + $"{Phrases.When(g.Hidden, h => $" ({h})")}"
        );
}

/// <summary>What was seen of one slot or bay of a sketched model.</summary>
public sealed record PositionSeen(SeenPosition Seen) : EntryBody
{
    public override OrderAct Act => OrderAct.TellPosition;

    public override string Line(Guide? guide)
    {
        string?[] told =
        [
            Seen.Label,
            Phrases.When(Seen.Channel, c => $"channel {c}"),
            Phrases.When(Seen.Soldered is true, "soldered"),
            Phrases.When(Seen.Below, b => $"below {b}"),
            Phrases.When(Seen.Max, m => $"up to {m}"),
            Phrases.When(Seen.Notch, n => $"notch {n}"),
            Phrases.When(Seen.Angle, a => $"in at {a}°"),
            Phrases.When(Seen.Latch, l => l.Replace('-', ' ')),
            Phrases.When(Seen.Press, p => p.Replace('-', ' ')),
            Seen.Form,
            Phrases.When(Seen.Key, k => $"key {k}"),
            Seen.Link,
            Seen.Hold,
            Phrases.When(Seen.At, _ => "its place"),
        ];
        return $"Seen of {Seen.Position}: "
            + (
                told.Where(t => t is { Length: > 0 }).ToArray() is { Length: > 0 } said
                    ? string.Join(", ", said)
                    : "it is there"
            );
    }

    internal override Order Apply(Order order, Entry entry) => order with { Seen = order.Seen.Add(Seen) };
}

/// <summary>One kind of fastener that held it.</summary>
/// <param name="Count">1 to 99.</param>
/// <param name="Driver">The bit: <c>PH0</c>, <c>T5</c>, <c>hand</c>.</param>
/// <param name="Length">Under the head, in mm.</param>
/// <param name="Captive">They stay in the part, and are not counted back.</param>
/// <param name="Seal">A warranty seal covered one of them.</param>
/// <param name="Hidden">Where those hide that are not seen.</param>
/// <param name="At">Where each sits, pressed onto the photograph.</param>
public sealed record CameOffFasteners(
    int Count,
    string Driver,
    decimal? Length = null,
    bool Captive = false,
    bool Seal = false,
    string? Hidden = null,
    IReadOnlyList<BoardPoint>? At = null
);

/// <summary>What is said of a thing that came off.</summary>
/// <param name="Name">A word: “bottom cover”.</param>
/// <param name="Clips">How many it still hung on.</param>
/// <param name="Cables">That had to be unplugged.</param>
/// <param name="TakesOut">Bays whose drives left with it.</param>
/// <param name="Isolates">Power stayed on the board until it was off: a battery connector.</param>
/// <param name="How">How it came off.</param>
/// <param name="Pry">With what it was pried, where it was.</param>
/// <param name="Picture">The hash of a photograph, kept before.</param>
public sealed record CameOffWish(
    string Name,
    IReadOnlyList<CameOffFasteners>? Fasteners = null,
    int? Clips = null,
    IReadOnlyList<string>? Cables = null,
    IReadOnlyList<string>? TakesOut = null,
    bool Isolates = false,
    string? How = null,
    string? Pry = null,
    string? Picture = null
);

/// <summary>
/// Writing a sketch at the bench. Each rule gives the entry to append, or refuses with the reason and the way on.
/// </summary>
public static class SketchRules
{
    private const int MostKinds = 12,
        LongestId = 28;

    /// <summary>Something came off. Every gate of opening holds for it as if the guide had known it.</summary>
    /// <param name="by">Who has it in hand.</param>
    /// <param name="now">By the service's clock.</param>
    public static PartCameOff TakeOff(Order order, Guide guide, CameOffWish wish, string by, DateTimeOffset now)
    {
        var name = Words.RequiredLine("What came off", wish.Name);
        var sheet = order.Sheet(guide)!;
        var state = order.RunState;
        // What the sketch knows and is still on is meant by its name: then this is what is true of it.
        var known = guide.Removals.FirstOrDefault(r =>
            string.Equals(r.Title, name, StringComparison.OrdinalIgnoreCase)
            && state.Confirmed(StepId.Open(r.Id)) is null
        );
        var id = known?.Id ?? Free(Id(name), x => guide.Removals.Any(r => r.Id == x));
        var off = order.Run?.Done.LastOrDefault(d => d.Step.Verb == StepVerb.Open)?.Step.Subject;
        var began = order.Run?.Done is [.., var last] ? last.At : now;
        var removal = Removal.Named(id, [.. WasOff(known?.Needs, state).Append(off ?? Reach.Isolated).Distinct()]) with
        {
            Title = known?.Title ?? name,
            Fasteners = Groups(id, guide, wish.Fasteners ?? []),
            Clips = wish.Clips is { } clips ? [new Clips(Between(clips, 1, 99, "Clips"), [], null)] : [],
            Cables = [.. (wish.Cables ?? []).Select(c => Words.RequiredLine("A cable", c))],
            TakesOut = [.. (wish.TakesOut ?? []).Select(b => NeedBay(guide, b))],
            Isolates = wish.Isolates,
            Open = Words.Line("How it came off", wish.How),
            Pry = Words.Line("The tool", wish.Pry) is { } tool ? [new PryPoint(tool, null, null)] : [],
            Pictures = NeedPicture(order, wish.Picture) is { } hash ? new Pictures([hash], []) : Pictures.None,
            Minutes = Math.Clamp((int)Math.Round((now - began).TotalMinutes), 1, 120),
        };
        var what = new CameOff(
            removal,
            [
                .. sheet
                    .Steps.Where(s => s.Id.Verb == StepVerb.Open && s.Id.Subject != id && !sheet.IsSettled(s, state))
                    .Select(s => s.Id.Subject),
            ]
        );

        // The sheet that knows it decides whether it may come off now.
        var told = order.OnRun(order.Run?.Number ?? 1, r => r with { CameOff = r.CameOff.Add(what) });
        var drawn = Sketch.With(guide, what);
        var loose = removal.Fasteners.Where(f => !f.Captive).ToDictionary(f => f.Group, f => f.Count);
        told.Sheet(drawn)!
            .Confirm(
                new StepConfirmation(StepId.Open(id), by, now, Groups: loose.Count > 0 ? loose : null),
                order.RunState
            );
        return new PartCameOff(order.Run?.Number ?? 1, what, loose.Values.Sum());
    }

    /// <summary>What is seen of a slot or bay, or that there is one.</summary>
    public static PositionSeen See(Order order, Guide guide, SeenPosition seen)
    {
        var id = Words.RequiredLine("The position", seen.Position);
        if (Id(id).Length == 0 || id.Any(c => !char.IsAsciiLetterOrDigit(c) && c is not ('-' or '_')) || id.Length > 32)
        {
            throw RefusedException.Invalid(
                "position-name",
                $"“{id}” is no name of a position. Letters, digits and hyphens, as printed on the board: S1, DIMM-A2."
            );
        }

        if ((seen.IsBay ? guide.Slot(id) : guide.Bay(id) as object) is not null)
        {
            throw RefusedException.Invalid(
                "position-kind",
                $"{id} is a {(seen.IsBay ? "slot" : "bay")} of {guide.Model.Code} already."
            );
        }

        if (seen.Below is { } upper && (upper == id || guide.Slot(upper) is null))
        {
            throw RefusedException.Invalid(
                "no-such-slot",
                $"{id} cannot lie below “{upper}”: name another slot of it."
            );
        }

        return new PositionSeen(
            seen with
            {
                Position = id,
                Label = Words.Line("The label", seen.Label),
                Channel = Words.Line("The channel", seen.Channel),
                Latch = seen.Latch is { } latch ? Known("latch", latch, GuideTerms.Latches) : null,
                Press = seen.Press is { } press ? Known("press", press, GuideTerms.Presses) : null,
                Notch = Words.Line("The notch", seen.Notch),
                Angle = seen.Angle is { } angle ? Between(angle, 0, 90, "The angle") : null,
                Turn = seen.Turn is null or 0 or 90
                    ? seen.Turn
                    : throw RefusedException.Invalid("out-of-range", "A slot lies at 0 or at 90 degrees."),
                Form = Words.Line("The form", seen.Form),
                Key = Words.Line("The key", seen.Key),
                Link = Words.Line("The link", seen.Link),
                Hold = Words.Line("What holds it", seen.Hold),
                Pad = seen.Pad is null or (> 0 and <= 20)
                    ? seen.Pad
                    : throw RefusedException.Invalid("out-of-range", "A pad is up to 20 mm thick."),
                At = Inside(seen.At),
            }
        );
    }

    private static IReadOnlyList<FastenerGroup> Groups(
        string id,
        Guide guide,
        IReadOnlyList<CameOffFasteners> fasteners
    )
    {
        if (fasteners.Count > MostKinds)
        {
            throw RefusedException.Invalid("too-many", $"At most {MostKinds} kinds of fasteners hold one thing.");
        }

        var others = guide
            .Removals.Where(r => r.Id != id)
            .SelectMany(r => r.Fasteners)
            .Select(g => g.Group)
            .ToHashSet();
        return
        [
            .. fasteners.Select(f =>
            {
                var group = Free(id, others.Contains);
                others.Add(group);
                return new FastenerGroup(
                    group,
                    Known("driver", Words.RequiredLine("The driver", f.Driver), GuideTerms.Drivers),
                    f.Length is null or (> 0 and <= 200)
                        ? f.Length
                        : throw RefusedException.Invalid("out-of-range", "A fastener is up to 200 mm long."),
                    Between(f.Count, 1, 99, "Fasteners"),
                    f.Captive,
                    f.Seal,
                    f.At is null || f.At.Count == 0 || f.At.Count == f.Count
                        ? [.. (f.At ?? []).Select(p => Inside(p)!)]
                        : throw RefusedException.Invalid(
                            "places-differ",
                            $"{f.Count} fasteners, but {f.At.Count} places. Press each hole once, or none."
                        ),
                    Words.Line("Where they hide", f.Hidden)
                );
            }),
        ];
    }

    // What it was thought to wait for and is still on, it does not wait for.
    private static IEnumerable<string> WasOff(IReadOnlyList<string>? needs, RunState state) =>
        (needs ?? []).Where(n => n == Reach.Isolated || state.Confirmed(StepId.Open(n)) is not null);

    private static string NeedBay(Guide guide, string bay) =>
        guide.Bay(bay)?.Id
        ?? throw RefusedException.Invalid(
            "no-such-position",
            $"{guide.Model.Code} has no bay “{bay}” yet. Say first that there is one."
        );

    private static string? NeedPicture(Order order, string? hash) =>
        hash is null || order.Photos.Any(p => p.Hash == hash)
            ? hash
            : throw RefusedException.Invalid("no-such-picture", "That picture is not on this order. Add it first.");

    private static BoardPoint? Inside(BoardPoint? at) =>
        at is null or { X: >= 0 and <= 1, Y: >= 0 and <= 1 }
            ? at
            : throw RefusedException.Invalid("out-of-range", "A place is 0 to 1 across and down.");

    /// <summary>A sketch of a machine that nobody knows; its code is made here.</summary>
    /// <param name="isTaken">Whether a model of the shop has this code.</param>
    public static Guide Begin(
        string? maker,
        string? name,
        string? kind,
        IReadOnlyList<string> reportsAs,
        Func<string, bool> isTaken
    )
    {
        var (by, called) = (Words.RequiredLine("The maker", maker), Words.RequiredLine("The model's name", name));
        return Sketch.Begin(
            by,
            called,
            Sketch.CodeFor(by, called, isTaken),
            Known("kind of machine", Words.RequiredLine("The kind", kind), GuideTerms.Kinds),
            reportsAs
        );
    }

    private static string Known(string what, string word, IReadOnlyList<string> words) =>
        words.Contains(word)
            ? word
            : throw RefusedException.Invalid(
                "word-unknown",
                $"“{word}” is no {what} that is known here{NearestWord.Hint(word, words)}. Known: "
                    + $"{string.Join(", ", words)}."
            );

    private static int Between(int number, int from, int to, string what) =>
        number >= from && number <= to
            ? number
            : throw RefusedException.Invalid("out-of-range", $"{what}: {from} to {to}, not {number}.");

    // “Bottom cover” is bottom-cover in steps and groups.
    private static string Id(string name)
    {
        var letters = string.Concat(name.ToLowerInvariant().Select(c => char.IsAsciiLetterOrDigit(c) ? c : '-'));
        var id = string.Join('-', letters.Split('-', StringSplitOptions.RemoveEmptyEntries));
        return id.Length > LongestId ? id[..LongestId].Trim('-') : id;
    }

    private static string Free(string wanted, Func<string, bool> isTaken)
    {
        var name = wanted is "" or Reach.Isolated or Reach.Unknown ? "part" : wanted;
        return Enumerable.Range(1, 999).Select(n => n == 1 ? name : $"{name}-{n}").First(n => !isTaken(n));
    }
}
