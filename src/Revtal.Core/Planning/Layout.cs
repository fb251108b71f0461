using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>One module in one slot of a layout.</summary>
/// <param name="From">The slot where it sat before; null for a new one. The same slot when it stays.</param>
public sealed record Seat(string Slot, MemoryModule Module, string? From)
{
    /// <summary>It is where it was before.</summary>
    public bool Stays => From == Slot;
}

/// <summary>How good a layout is; compared from the first value on, as <see cref="Layouts"/> tells.</summary>
/// <param name="FollowsOrder">Whether the slots are filled as the board would have it; see <see
/// cref="Population"/>.</param>
/// <param name="Shared">What pairs of channels hold alike, in bytes; see <see cref="ChannelShare"/>.</param>
/// <param name="Speed">In MT/s; null where nothing is known.</param>
/// <param name="Unlike">Pairs that the guide wants alike and are not, and kits whose pieces sit in no one
/// pair.</param>
/// <param name="OpenMinutes">To open what must be opened, by the guide.</param>
/// <param name="Moved">Kept modules that change their slot.</param>
public sealed record LayoutWorth(bool FollowsOrder, long Shared, int? Speed, int Unlike, int OpenMinutes, int Moved)
{
    private (bool, long, int, int, int, int) Key => (FollowsOrder, Shared, Speed ?? 0, -Unlike, -OpenMinutes, -Moved);

    /// <summary>Whether it comes before the other; anything comes before nothing.</summary>
    public bool Beats(LayoutWorth? other) => other is null || Key.CompareTo(other.Key) > 0;
}

/// <summary>A module that comes into the machine.</summary>
/// <param name="KitOf">Pieces that are sold together and belong in one pair; 1 for a single one.</param>
public sealed record NewModule(MemoryModule Module, int KitOf = 1)
{
    public static implicit operator NewModule(MemoryModule module) => new(module);
}

/// <summary>One that is to be seated.</summary>
/// <param name="From">Its slot; null for a new one.</param>
internal sealed record Seated(MemoryModule Module, string? From, int KitOf);

/// <summary>An assignment of modules to slots.</summary>
/// <param name="Removals">What comes off for it, by title, in order.</param>
public sealed record Layout(
    IReadOnlyList<Seat> Seats,
    LayoutWorth Worth,
    ChannelShare Share,
    IReadOnlyList<string> Removals
)
{
    /// <summary>
    /// The wishes that make this layout out of what is there; slots that keep their module have none.
    /// </summary>
    /// <param name="present">What sits where before.</param>
    public IReadOnlyList<SlotChange> Changes(Guide guide, IReadOnlyList<SlotContent> present)
    {
        var bySlot = Seats.ToDictionary(s => s.Slot);
        var sources = Seats.Select(s => s.From).OfType<string>().ToHashSet();
        return
        [
            .. Seats
                .Where(s => !s.Stays)
                .Select(s =>
                    s.From is { } from ? new SlotChange(s.Slot, From: from) : new SlotChange(s.Slot, s.Module)
                ),
            .. present
                .Where(p => p.Module is not null && !guide.NeedSlot(p.Slot).Soldered)
                .Where(p => !bySlot.ContainsKey(p.Slot) && !sources.Contains(p.Slot))
                .Select(p => new SlotChange(p.Slot, Empty: true)),
        ];
    }
}

/// <summary>The best layout, what comes next, and why the first was taken.</summary>
/// <param name="RunnerUp">Null when there is no other.</param>
/// <param name="Because">Why it beats the runner-up, in one sentence.</param>
/// <param name="IsProved">Whether no layout can be better. If not, <paramref name="Bound"/> says how far it may be from
/// the best.</param>
/// <param name="Bound">No better one shares more than this among its channels, in bytes.</param>
public sealed record LayoutAnswer(Layout Best, Layout? RunnerUp, string Because, bool IsProved, long Bound);

/// <summary>
/// Which module goes where, exactly. Of all assignments in which every module fits its slot, the best follows the
/// guide's population order, then shares most among its channels, then runs fastest, then has most pairs alike, then
/// opens least, then moves fewest kept modules; the guide's slot order breaks what ties are left. What the board does
/// not start with is no layout.
/// </summary>
public static class Layouts
{
    /// <param name="kept">Slots whose modules stay in the machine, wherever; soldered ones stay in any case.</param>
    /// <param name="added">Modules from outside, all of which are seated.</param>
    /// <param name="effort">How many partial assignments may be looked at before the best so far is taken, with an
    /// honest bound.</param>
    /// <param name="runnerUp">Whether the next best is looked for too.</param>
    /// <exception cref="RefusedException">There are more modules than slots, or no assignment fits.</exception>
    public static LayoutAnswer Best(
        Guide guide,
        Reading before,
        IReadOnlyList<string> kept,
        IReadOnlyList<NewModule> added,
        int effort = 60_000,
        bool runnerUp = true
    ) => Best(new LayoutBoard(guide, before), kept, added, effort, runnerUp);

    /// <summary>The same of a board that is asked many times.</summary>
    internal static LayoutAnswer Best(
        LayoutBoard board,
        IReadOnlyList<string> kept,
        IReadOnlyList<NewModule> added,
        int effort,
        bool runnerUp
    )
    {
        var (guide, present) = (board.Platform.Guide, board.Present);
        foreach (var slot in kept.Where(k => present.FirstOrDefault(p => p.Slot == k)?.Module is null))
        {
            guide.NeedSlot(slot);
            throw RefusedException.Invalid("nothing-to-keep", $"{slot} holds no module that could stay.");
        }

        var pool = new List<Seated>();
        pool.AddRange(
            present
                .Where(p => p.Module is not null && kept.Contains(p.Slot) && !guide.NeedSlot(p.Slot).Soldered)
                .Select(p => new Seated(p.Module!, p.Slot, 1))
        );
        pool.AddRange(added.Select(m => new Seated(m.Module, null, m.KitOf)));
        var search = new LayoutSearch(board, pool, effort, runnerUp);
        if (pool.Count > search.FreeSlots)
        {
            throw RefusedException.Invalid(
                "no-free-slot",
                $"{pool.Count} modules, but {guide.Model.Code} has {search.FreeSlots} slots to put them in. Leave out "
                    + $"{pool.Count - search.FreeSlots}."
            );
        }

        search.Run();
        var best = search.Best ?? throw NoneFits(search.Platform, pool);
        return new LayoutAnswer(best, search.RunnerUp, Because(best, search.RunnerUp), search.IsProved, search.Bound);
    }

    private static RefusedException NoneFits(Platform platform, List<Seated> pool)
    {
        var memory = platform.Guide.Memory;
        var slots = memory.Slots;
        foreach (var (module, _, _) in pool)
        {
            var reasons = slots.Select(s => FitRules.WhyNot(platform, s, module)).ToArray();
            if (reasons.All(r => r is not null))
            {
                return (reasons.FirstOrDefault(r => r!.Code != "slot-soldered") ?? reasons[0]!).Refuse();
            }
        }

        var soldered = slots.Where(s => s.Soldered).Select(s => s.Id).ToArray();
        if (memory.NeverEmpty.Except(soldered).Count() > pool.Count)
        {
            return RefusedException.Invalid("slot-never-empty", Population.WhyNoStart(memory, soldered)!);
        }

        return RefusedException.Invalid(
            "no-layout",
            "Each module fits somewhere, but not all at once: the slots with room for the large ones are too few."
        );
    }

    private static string Because(Layout best, Layout? next) =>
        (best.Worth, next?.Worth) switch
        {
            (_, null) => "No other way to seat them differs in what counts.",
            ({ FollowsOrder: true }, { FollowsOrder: false }) =>
                "It follows the guide's population order; the next best does not.",
            var (a, b) when a.Shared != b!.Shared => best.Share.Interleaved != next!.Share.Interleaved
                ? $"{new MemorySize(best.Share.Interleaved)} interleave; of the next best "
                    + $"{new MemorySize(next.Share.Interleaved)}."
                : $"It spreads more evenly ({Loads(best)}) than the next best ({Loads(next)}).",
            var (a, b) when a.Speed != b!.Speed => $"It runs at {a.Speed} MT/s; the next best at {b.Speed}.",
            var (a, b) when a.Unlike != b!.Unlike =>
                $"It leaves {Phrases.Counted(a.Unlike, "pair", "pairs")} of modules that do not belong together; "
                    + $"the next best {b.Unlike}.",
            var (a, b) when a.OpenMinutes != b!.OpenMinutes =>
                $"It takes {a.OpenMinutes} min to open; the next best {b.OpenMinutes}.",
            var (a, b) when a.Moved != b!.Moved =>
                $"It moves {a.Moved} kept {Phrases.Plural(a.Moved, "module", "modules")}; the next best {b.Moved}.",
            _ => "Others are as good; this one takes the slots in the guide's order.",
        };

    private static string Loads(Layout layout) =>
        string.Join(", ", layout.Share.Loads.Select(l => $"{l.Channel} {new MemorySize(l.Bytes)}"));
}
