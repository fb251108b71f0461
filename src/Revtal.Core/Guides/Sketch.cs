using Revtal.Core.Hardware;

namespace Revtal.Core.Guides;

/// <summary>One thing that came off a machine of which nobody had written that it does.</summary>
/// <param name="Removal">What it is and what held it; what had come off before it stands in its needs.</param>
/// <param name="Before">Removals that were known, still on, and so come off after it.</param>
public sealed record CameOff(Removal Removal, IReadOnlyList<string> Before);

/// <summary>What was seen of one slot or bay. What is null was not looked at.</summary>
/// <param name="Position">A name as on the board, or the bench's own: <c>S1</c>, <c>D2</c>.</param>
/// <param name="IsBay">A bay for a drive, else a slot for a module.</param>
/// <param name="Label">What the board has printed beside it, or its colour.</param>
/// <param name="Soldered">Its module cannot be changed.</param>
/// <param name="Below">The slot that lies over this one.</param>
/// <param name="Max">The largest module.</param>
/// <param name="Angle">0 to 90, from the board.</param>
/// <param name="Latch">One of <see cref="GuideTerms.Latches"/>.</param>
/// <param name="Press">One of <see cref="GuideTerms.Presses"/>.</param>
/// <param name="Channel">As the board is lettered: <c>A</c>.</param>
/// <param name="Notch">Where the notch points.</param>
/// <param name="Form">A bay's: <c>M.2 2280</c>.</param>
/// <param name="Key">Of an M.2 socket: <c>M</c>.</param>
/// <param name="Link">A bay's: <c>PCIe 3.0 x4</c>.</param>
/// <param name="Hold">The cable, tray or cage that holds the drive.</param>
/// <param name="Boots">The machine starts from it.</param>
/// <param name="At">Its middle on the drawing of the board.</param>
/// <param name="Pad">Thickness of its thermal pad, in mm.</param>
/// <param name="Turn">How its long side lies, in degrees clockwise from across; 0 or 90.</param>
public sealed record SeenPosition(
    string Position,
    bool IsBay = false,
    string? Label = null,
    string? Channel = null,
    bool? Soldered = null,
    string? Below = null,
    MemorySize? Max = null,
    int? Angle = null,
    string? Latch = null,
    string? Press = null,
    string? Notch = null,
    string? Form = null,
    string? Key = null,
    string? Link = null,
    decimal? Pad = null,
    string? Hold = null,
    bool? Boots = null,
    BoardPoint? At = null,
    int? Turn = null
);

/// <summary>
/// A guide in the making: what is not known of it is left open, and what the bench does writes it. Each of these gives
/// the sketch with one thing more.
/// </summary>
public static class Sketch
{
    /// <summary>Of a machine of which nothing is known but what stands on it.</summary>
    public static Guide Begin(string maker, string name, string code, string kind, IReadOnlyList<string> reportsAs) =>
        new(
            new ModelFacts(maker, name, code, kind, null, null, reportsAs, Sketch: true),
            new MemoryFacts(null, null, [], null, null, [], FillOrder.Unsaid, null, null),
            [],
            [],
            [],
            [],
            null,
            null,
            [],
            []
        );

    /// <summary>A code for it that no model of the shop has yet: <c>NF16</c> for a Fjell 16 by Norrland.</summary>
    /// <param name="isTaken">Whether a model has this code.</param>
    public static string CodeFor(string maker, string name, Func<string, bool> isTaken)
    {
        var words = $"{maker} {name}".Split([' ', '-', '_', '.', '/'], StringSplitOptions.RemoveEmptyEntries);
        var letters = string.Concat(words.Select(w => w.All(char.IsAsciiDigit) ? w : w[..1]))
            .ToUpperInvariant()
            .Where(char.IsAsciiLetterOrDigit)
            .Take(8)
            .ToArray();
        var code = letters.Length >= 2 ? new string(letters) : "MODEL";
        return Enumerable.Range(1, 9999).Select(n => n == 1 ? code : $"{code}-{n}").First(c => !isTaken(c));
    }

    /// <summary>
    /// With one thing more that comes off; one of this id is replaced. What that was thought to wait for and comes off
    /// after it is now what gives access in its stead.
    /// </summary>
    public static Guide With(Guide sketch, CameOff told)
    {
        var id = told.Removal.Id;
        var known = sketch.Removals.FirstOrDefault(r => r.Id == id);
        var turned = known?.Needs.LastOrDefault(told.Before.Contains);
        var with = sketch with
        {
            Removals =
            [
                .. sketch
                    .Removals.Where(r => r.Id != id)
                    .Select(r =>
                        told.Before.Contains(r.Id) ? r with { Needs = [.. r.Needs.Append(id).Distinct()] } : r
                    ),
                told.Removal,
            ],
        };
        return turned is null
            ? with
            : Reached(with, [.. with.Positions.Where(p => (with.Slot(p)?.Reach ?? with.Bay(p)?.Reach) == id)], turned);
    }

    /// <summary>With what was seen of one position; one that it did not have comes last.</summary>
    public static Guide With(Guide sketch, SeenPosition seen) =>
        seen.IsBay
            ? sketch with
            {
                Drives = Put(sketch.Drives, b => b.Id == seen.Position, NewBay(seen.Position), b => Bay(b, seen)),
            }
            : sketch with
            {
                Memory = sketch.Memory with
                {
                    Slots = Put(
                        sketch.Memory.Slots,
                        s => s.Id == seen.Position,
                        NewSlot(seen.Position),
                        s => Slot(s, seen)
                    ),
                },
            };

    /// <summary>With what was found to give access to these positions; null where nothing need come off.</summary>
    public static Guide Reached(Guide sketch, IReadOnlyCollection<string> positions, string? removal) =>
        sketch with
        {
            Memory = sketch.Memory with
            {
                Slots = [.. sketch.Memory.Slots.Select(s => positions.Contains(s.Id) ? s with { Reach = removal } : s)],
            },
            Drives = [.. sketch.Drives.Select(b => positions.Contains(b.Id) ? b with { Reach = removal } : b)],
        };

    /// <summary>A slot that nobody has got at.</summary>
    public static MemorySlot NewSlot(string id) => MemorySlot.Named(id) with { Reach = Reach.Unknown };

    /// <summary>A bay that nobody has got at.</summary>
    public static DriveBay NewBay(string id) =>
        new(id, null, null, null, null, false, Reach.Unknown, null, null, null, null, null);

    private static IReadOnlyList<T> Put<T>(IReadOnlyList<T> all, Func<T, bool> isIt, T blank, Func<T, T> change) =>
        all.Any(isIt) ? [.. all.Select(x => isIt(x) ? change(x) : x)] : [.. all, change(blank)];

    private static MemorySlot Slot(MemorySlot s, SeenPosition seen) =>
        s with
        {
            Label = seen.Label ?? s.Label,
            Channel = seen.Channel ?? s.Channel,
            Soldered = seen.Soldered ?? s.Soldered,
            Below = seen.Below ?? s.Below,
            Max = seen.Max ?? s.Max,
            Angle = seen.Angle ?? s.Angle,
            Latch = seen.Latch ?? s.Latch,
            Press = seen.Press ?? s.Press,
            Notch = seen.Notch ?? s.Notch,
            At = seen.At ?? s.At,
            Turn = seen.Turn ?? s.Turn,
        };

    private static DriveBay Bay(DriveBay b, SeenPosition seen) =>
        b with
        {
            Form = seen.Form ?? b.Form,
            Key = seen.Key ?? b.Key,
            Link = seen.Link ?? b.Link,
            Pad = seen.Pad ?? b.Pad,
            Hold = seen.Hold ?? b.Hold,
            Boots = seen.Boots ?? b.Boots,
            At = seen.At ?? b.At,
        };
}
