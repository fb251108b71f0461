using System.Globalization;
using System.Text.Json.Serialization;
using Revtal.Core.Hardware;

namespace Revtal.Core.Bench;

/// <summary>A module of a swap test, called by the slot that it sat in when the test began.</summary>
/// <param name="IsNew">It came with this order; what worked before is suspected less.</param>
public sealed record SwapModule(string Home, MemoryModule Module, bool IsNew)
{
    /// <summary>“the 8 GB of S1”.</summary>
    public string Spoken => $"the {Module.Size} of {Home}";
}

/// <summary>A module in a slot.</summary>
/// <param name="Module">By its home.</param>
public sealed record SwapPlace(string Slot, string Module);

/// <summary>What a start showed.</summary>
/// <param name="Started">Whether it came as far as a picture.</param>
/// <param name="Slots">The slots whose modules were seen; null where only a total, or nothing, is known.</param>
/// <param name="Seen">The total.</param>
/// <param name="Sign">Beeps or lights, as they were.</param>
public sealed record SwapOutcome(
    bool Started,
    IReadOnlyList<string>? Slots = null,
    MemorySize? Seen = null,
    string? Sign = null
)
{
    /// <summary>“it did not start, 3 short beeps”, “seen in S1, S2”.</summary>
    [JsonIgnore]
    public string Spoken =>
        this switch
        {
            { Started: false } => $"it did not start{Phrases.When(Sign, s => $", {s}")}",
            { Slots: { Count: > 0 } slots } => $"seen in {string.Join(", ", slots)}",
            { Seen: { } seen } => $"{seen} seen",
            _ => "it started",
        };
}

/// <summary>What a swap test begins with.</summary>
/// <param name="Modules">One to eight, in the order of their slots.</param>
/// <param name="Preferred">Which slots the guide would fill, by how many modules there are: tried first, and no other
/// is forbidden.</param>
/// <param name="First">What the start showed that began it, every module at home.</param>
/// <param name="ReseatFirst">The guide, or the sign, says that a seat is the likeliest.</param>
/// <param name="Reseated">They were seated anew before: their seats are hardly suspected any more.</param>
/// <param name="NeverEmpty">Slots without whose module the board does not start.</param>
/// <param name="Channels">The slots of each channel that has several.</param>
/// <param name="Way">How hands get there and out again; null in early records.</param>
public sealed record SwapSetup(
    IReadOnlyList<SwapModule> Modules,
    IReadOnlyList<string> Slots,
    IReadOnlyDictionary<int, IReadOnlyList<string>> Preferred,
    SwapOutcome First,
    bool ReseatFirst,
    bool Reseated = false,
    IReadOnlyList<string>? NeverEmpty = null,
    IReadOnlyList<IReadOnlyList<string>>? Channels = null,
    SwapWay? Way = null
)
{
    /// <summary>Slots without whose module the board does not start.</summary>
    public IReadOnlyList<string> NeverEmpty { get; } = NeverEmpty ?? [];

    /// <summary>The slots of each channel that has several.</summary>
    public IReadOnlyList<IReadOnlyList<string>> Channels { get; } = Channels ?? [];
}

/// <summary>One arrangement that was tried; every module in it was seated anew.</summary>
/// <param name="Defaults">The firmware's settings were put to their defaults for it.</param>
public sealed record SwapTrial(IReadOnlyList<SwapPlace> Places, SwapOutcome Outcome, bool Defaults = false);

/// <summary>What may be at fault.</summary>
public enum SuspectKind
{
    /// <summary>Modules were not home; seating them anew mends it.</summary>
    Seat,
    Module,
    Slot,

    /// <summary>Modules of this make do not suit the board.</summary>
    Make,

    /// <summary>Two modules do not work beside each other.</summary>
    Pair,

    /// <summary>A setting of the firmware; its defaults mend it.</summary>
    Setting,

    /// <summary>All slots of one channel, or the processor's seat.</summary>
    Channel,

    /// <summary>Two modules, two slots, or one of each, both at fault.</summary>
    Two,
}

/// <summary>One of them.</summary>
/// <param name="Modules">By their homes.</param>
/// <param name="Chance">From 0 to 1, over all that are still suspected.</param>
public sealed record Suspect(
    SuspectKind Kind,
    IReadOnlyList<string> Modules,
    IReadOnlyList<string> Slots,
    double Chance
)
{
    /// <summary>“the slot S2”.</summary>
    public string Spoken =>
        Kind switch
        {
            SuspectKind.Seat => $"the seat in {string.Join(", ", Slots)}",
            SuspectKind.Module => $"the module of {string.Join(", ", Modules)}",
            SuspectKind.Slot => $"the slot {string.Join(", ", Slots)}",
            SuspectKind.Make => $"the make of the modules of {string.Join(", ", Modules)}",
            SuspectKind.Pair => $"the modules of {Modules[0]} and {Modules[1]} beside each other",
            SuspectKind.Channel => $"the channel of {Phrases.Listed(Slots)}, or the processor's seat",
            SuspectKind.Two => string.Join(
                " and ",
                Modules.Select(m => $"the module of {m}").Concat(Slots.Select(s => $"the slot {s}"))
            ),
            _ => "a setting of the firmware",
        };
}

/// <summary>Where a swap test ends.</summary>
/// <param name="Suspects">Usually one; several where no arrangement that is allowed tells them apart; none where the
/// outcomes contradict each other.</param>
/// <param name="Sentence">As the bench says it.</param>
/// <param name="Do">What follows.</param>
public sealed record SwapConclusion(IReadOnlyList<Suspect> Suspects, string Sentence, string Do)
{
    /// <summary>The search itself mended it, or a setting of the firmware does: nothing is fitted otherwise.</summary>
    [JsonIgnore]
    public bool IsMended => Suspects.All(s => s.Kind is SuspectKind.Seat or SuspectKind.Setting);
}

/// <summary>Where a swap test stands.</summary>
/// <param name="Suspects">Likeliest first.</param>
/// <param name="Next">The arrangement to try; null when there is a conclusion.</param>
/// <param name="Words">What to move for it.</param>
/// <param name="Restarts">Expected from here, of the best way on.</param>
/// <param name="Defaults">The firmware's settings go to their defaults for it.</param>
/// <param name="HandsIn">Modules are moved or seated anew for it: power must be off the board.</param>
/// <param name="Counts">
/// How many fasteners came out, by removal: counted back with the next try, or with the end where nothing is left to
/// try.
/// </param>
public sealed record SwapState(
    IReadOnlyList<Suspect> Suspects,
    IReadOnlyList<SwapPlace>? Next,
    IReadOnlyList<string> Words,
    double Restarts,
    SwapConclusion? Conclusion,
    bool Defaults = false,
    bool HandsIn = true,
    IReadOnlyDictionary<string, int>? Counts = null
)
{
    /// <summary>How many fasteners are to be counted back now, by removal.</summary>
    public IReadOnlyDictionary<string, int> Counts { get; } = Counts ?? new Dictionary<string, int>();
}

/// <summary>What a swap test says in words.</summary>
internal static class SwapWords
{
    /// <summary>What to do with the hands to get from one arrangement to another, in order.</summary>
    public static IReadOnlyList<string> Moves(
        SwapSetup setup,
        IReadOnlyList<SwapPlace> from,
        IReadOnlyList<SwapPlace> to,
        bool defaults,
        bool liesOpen
    )
    {
        const string Settings = "Load the defaults in the firmware setup, and look there for a limit of the memory.";
        const string Tell = "Start it, and tell what is seen.";
        if (!HandsIn(from, to, defaults))
        {
            return ["Leave every module where it is.", Settings, Tell];
        }

        var way = setup.Way;
        var words = new List<string>(way?.Off ?? ["Off, unplugged, any battery out, ten seconds on the power button."]);
        words.AddRange(liesOpen ? [] : way?.In ?? []);
        words.AddRange(
            from.Where(p => to.All(t => t.Module != p.Module))
                .Select(p => $"Take {Of(setup, p.Module)} out of {p.Slot}.")
        );
        words.AddRange(
            to.Select(t =>
                from.FirstOrDefault(p => p.Module == t.Module) switch
                {
                    { } was when was.Slot == t.Slot => $"Seat {Of(setup, t.Module)} anew in {t.Slot}.",
                    { } was => $"Move {Of(setup, t.Module)} from {was.Slot} to {t.Slot}.",
                    null => $"Fit {Of(setup, t.Module)} into {t.Slot}.",
                }
            )
        );
        words.AddRange(way is { StartsOpen: null } ? way.Out : []);
        words.AddRange(defaults ? [Settings] : []);
        words.Add(way?.StartsOpen is { } open ? $"{Tell} {open}" : Tell);
        return words;
    }

    /// <summary>What can be said once nothing more can be told apart.</summary>
    /// <param name="alsoTwo">Two at fault at once that would have shown the same, and of which neither is
    /// named.</param>
    public static SwapConclusion Conclude(IReadOnlyList<Suspect> left, Suspect? alsoTwo)
    {
        var told = Named(left);
        return alsoTwo is null
            ? told
            : told with
            {
                Sentence =
                    $"{told.Sentence} That holds if only one thing is at fault: {alsoTwo.Spoken} together would "
                    + "have shown the same.",
            };
    }

    private static SwapConclusion Named(IReadOnlyList<Suspect> left)
    {
        if (left.Count == 0)
        {
            return new(
                [],
                "The outcomes contradict each other: more than two faults, one that comes and goes, or a limit of the "
                    + "board.",
                "Fit the modules one at a time into the first slot, and note what each start shows."
            );
        }

        if (left.All(s => s.Kind == SuspectKind.Seat))
        {
            return new(
                left,
                $"It was {(left.Count == 1 ? left[0].Spoken : "a seat")}.",
                "It is mended. Put the modules as planned, and take the after reading."
            );
        }

        if (left is [{ Kind: SuspectKind.Setting }])
        {
            return new(
                left,
                "It was a setting of the firmware.",
                "Its defaults mended it. Set again what the customer needs, one at a time, and take the after reading."
            );
        }

        if (left.Count > 1)
        {
            return new(
                left,
                $"It is {string.Join(" or ", left.Select(s => s.Spoken))}; no arrangement that this board allows "
                    + "tells them apart.",
                "Change the likelier one for another and measure again."
            );
        }

        var one = left[0];
        return new(
            left,
            string.Create(CultureInfo.InvariantCulture, $"It is {one.Spoken}."),
            one.Kind switch
            {
                SuspectKind.Module =>
                    $"Set the module of {string.Join(", ", one.Modules)} aside as faulty, and fit another.",
                SuspectKind.Slot =>
                    $"Mark {string.Join(", ", one.Slots)} on the machine; plan without it, or offer a new board.",
                SuspectKind.Make => "Send them back, and plan modules that this board is known to take.",
                SuspectKind.Pair => "Plan modules alike, or one of the two alone.",
                SuspectKind.Channel =>
                    "Where the processor is socketed, seat it and its cooler anew and measure again; else plan "
                        + "without these slots, or offer a new board.",
                _ => string.Join(
                    " ",
                    one.Modules.Select(m => $"Set the module of {m} aside as faulty, and fit another.")
                        .Concat(one.Slots.Select(s => $"Mark {s} on the machine, and plan without it."))
                ),
            }
        );
    }

    /// <summary>Whether anything is moved or seated anew; where settings alone are tried, nothing is.</summary>
    public static bool HandsIn(IReadOnlyList<SwapPlace> from, IReadOnlyList<SwapPlace> to, bool defaults) =>
        !defaults || to.Count != from.Count || !to.All(from.Contains);

    private static string Of(SwapSetup setup, string module) => setup.Modules.First(m => m.Home == module).Spoken;
}
