using System.Numerics;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>
/// Branch and bound over modules, largest first. Alike modules are interchangeable, so are slots alike in all that
/// counts; a branch whose best possible outcome is no better than the second best so far is cut.
/// </summary>
internal sealed class LayoutSearch
{
    private const int TieEffort = 20_000;

    private readonly LayoutBoard board;
    private readonly IReadOnlyList<SlotContent> present;
    private readonly MemorySlot[] slots;
    private readonly MemoryModule[] modules;
    private readonly int[] kinds;
    private readonly int[] occupantKind;
    private readonly ulong[] fits;
    private readonly ulong takes;
    private readonly int[] channelOf;
    private readonly int[] slotClass;
    private readonly int[][] slotsOf;
    private readonly int[] kindAt;
    private readonly int channels;
    private readonly int keptCount;
    private readonly int[] keptOfKind;
    private readonly ulong must;
    private readonly ulong may;
    private readonly ulong[] before;
    private readonly ulong neverEmpty;
    private readonly PairRule pairs;
    private readonly int[] placeOf;
    private readonly ulong occupied;
    private readonly ulong[] over;
    private readonly ulong overAny;
    private readonly long[] load;
    private readonly int[] used;
    private readonly int[] seatOf;
    private readonly ChannelBound bound;
    private readonly int slowest;
    private readonly bool hasSpeed;
    private readonly bool wantsRunnerUp;
    private int left;
    private bool cut;

    // Among equally good ones, earlier slots are looked for; how early the best so far fills them.
    private bool isTie;
    private ulong earliest;
    private LayoutWorth? bestWorth;
    private LayoutWorth? secondWorth;

    /// <param name="pool">Kept modules first.</param>
    public LayoutSearch(LayoutBoard board, List<Seated> pool, int effort, bool wantsRunnerUp)
    {
        this.board = board;
        var platform = board.Platform;
        this.wantsRunnerUp = wantsRunnerUp;
        present = board.Present;
        left = effort;
        slots = [.. platform.Guide.Memory.Slots];
        var names = slots.Where(s => s.Channel is not null).Select(s => s.Channel!).Distinct().ToList();
        channels = names.Count;
        channelOf = [.. slots.Select(s => s.Channel is { } c ? names.IndexOf(c) : -1)];
        load = new long[channels];
        used = new int[Math.Max(1, channels)];

        // Largest first: what is hard to place is placed while there is room.
        var ordered = pool.Select((p, i) => (p.Module, p.From, p.KitOf, Index: i))
            .OrderByDescending(p => p.Module.Size)
            .ThenBy(p => p.Index)
            .ToArray();
        var makes = new List<MemoryModule>();
        var soldered = slots.Select((s, i) => s.Soldered ? present[i].Module : null).OfType<MemoryModule>().ToArray();
        foreach (var module in ordered.Select(o => o.Module).Concat(soldered))
        {
            if (!makes.Any(m => m.IsLike(module)))
            {
                makes.Add(module);
            }
        }

        // Alike ones stand together.
        ordered =
        [
            .. ordered.OrderByDescending(o => o.Module.Size).ThenBy(o => makes.FindIndex(m => m.IsLike(o.Module))),
        ];
        modules = [.. ordered.Select(o => o.Module)];
        kinds = [.. modules.Select(m => makes.FindIndex(k => k.IsLike(m)))];
        keptOfKind = new int[makes.Count];
        foreach (var o in ordered.Where(o => o.From is not null))
        {
            keptOfKind[makes.FindIndex(k => k.IsLike(o.Module))]++;
            keptCount++;
        }

        var keptSlots = pool.Select(p => p.From).OfType<string>().ToHashSet();
        occupantKind =
        [
            .. slots.Select(
                (s, i) => keptSlots.Contains(s.Id) ? makes.FindIndex(k => k.IsLike(present[i].Module!)) : -1
            ),
        ];
        for (var i = 0; i < slots.Length; i++)
        {
            if (present[i].Module is not null || !present[i].Known)
            {
                occupied |= 1UL << i;
            }

            if (slots[i].Soldered && present[i].Module is { } fixedModule)
            {
                Put(i, fixedModule.Size.Bytes, 1);
            }
        }

        fits =
        [
            .. makes.Select(m =>
                Mask(i =>
                    !slots[i].Soldered && (Stays(i, m, keptSlots) || FitRules.WhyNot(platform, slots[i], m) is null)
                )
            ),
        ];
        takes = fits.Aggregate(0UL, (all, fit) => all | fit);
        FreeSlots = slots.Count(s => !s.Soldered);
        var memory = platform.Guide.Memory;
        var wish = Population.Wanted(memory, modules.Length + slots.Count(s => s.Soldered));
        must = wish is null ? 0 : Mask(i => wish.Filled.Contains(slots[i].Id) && !slots[i].Soldered);
        may = wish is null ? ulong.MaxValue : must | Mask(i => wish.Rest.Contains(slots[i].Id) && !slots[i].Soldered);
        before =
        [
            .. slots.Select(s =>
            {
                var first = wish?.Rest.Contains(s.Id) == true ? Population.Before(memory, wish, s.Id).ToHashSet() : [];
                return Mask(i => first.Contains(slots[i].Id));
            }),
        ];
        neverEmpty = Mask(i => memory.NeverEmpty.Contains(slots[i].Id) && !slots[i].Soldered);
        over =
        [
            .. slots.Select(s =>
            {
                var above = Layers.Over(platform.Guide, s).ToHashSet();
                return Mask(i => above.Contains(slots[i].Id));
            }),
        ];
        overAny = Mask(i => over[i] != 0);
        var classes = slots
            .Select(
                (s, i) =>
                    (
                        s.Reach,
                        over[i],
                        Under: Mask(o => (over[o] >> i & 1) == 1),
                        occupantKind[i],
                        (occupied >> i) & 1,
                        Wish: (
                            (must >> i) & 1,
                            (may >> i) & 1,
                            (neverEmpty >> i) & 1,
                            BitOperations.PopCount(before[i])
                        ),
                        Fits: string.Join(',', fits.Select(f => (f >> i) & 1)),
                        s.Soldered ? present[i].Module?.Size : null,
                        s.Soldered
                    )
            )
            .ToList();
        var distinct = classes.Distinct().ToList();
        slotClass = [.. classes.Select(c => distinct.IndexOf(c))];
        slotsOf =
        [
            .. Enumerable
                .Range(0, channels)
                .Select(c => slots.Select((_, i) => i).Where(i => channelOf[i] == c).ToArray()),
        ];
        kindAt =
        [
            .. slots.Select(
                (s, i) => s.Soldered && present[i].Module is { } m ? makes.FindIndex(k => k.IsLike(m)) : -1
            ),
        ];
        placeOf = [.. slots.Select((_, i) => channelOf[i] < 0 ? -1 : Array.IndexOf(slotsOf[channelOf[i]], i))];
        pairs = new PairRule(memory, slotsOf, makes, ordered.Select(o => (Kind(o.Module), o.KitOf)));
        var all = modules.Concat(soldered).ToArray();
        hasSpeed = all.Any(m => m.RatedSpeed is not null);
        slowest = all.Select(m => m.RatedSpeed ?? int.MaxValue).DefaultIfEmpty(int.MaxValue).Min();
        seatOf = new int[modules.Length];
        bound = new ChannelBound(
            [.. modules.Select(m => m.Size.Bytes)],
            [.. load],
            slots
                .Where(s => s.Channel is not null)
                .GroupBy(s => s.Channel)
                .Select(g => g.Count())
                .DefaultIfEmpty(0)
                .Max()
        );
        Bound = bound.Of(load, 0);

        int Kind(MemoryModule module) => makes.FindIndex(k => k.IsLike(module));

        bool Stays(int i, MemoryModule make, HashSet<string> kept) =>
            kept.Contains(slots[i].Id) && present[i].Module!.IsLike(make);
    }

    public Platform Platform => board.Platform;

    public int FreeSlots { get; }

    public Layout? Best { get; private set; }

    public Layout? RunnerUp { get; private set; }

    public bool IsProved { get; private set; }

    public long Bound { get; private set; }

    public void Run()
    {
        Place(0, 0, 0, 0);
        IsProved = !cut;
        if (IsProved && Best is not null)
        {
            Bound = Best.Worth.Shared;
        }

        if (wantsRunnerUp && Best is not null)
        {
            (isTie, left, cut) = (true, TieEffort, false);
            earliest = Early(Best.Seats.Aggregate(0UL, (bits, s) => bits | Bit(s.Slot)));
            Place(0, 0, 0, 0);
        }
    }

    private void Place(int level, ulong taken, ulong banned, int stays)
    {
        if (left-- <= 0)
        {
            cut = true;
            return;
        }

        if (BitOperations.PopCount(neverEmpty & ~taken) > modules.Length - level)
        {
            return;
        }

        if (level == modules.Length)
        {
            Weigh(taken, stays);
            return;
        }

        if (
            isTie
                ? Early(WithEarliest(taken, modules.Length - level)) <= earliest
                    || bestWorth!.Beats(Optimist(level, taken, stays))
                : (wantsRunnerUp ? secondWorth : bestWorth) is { } toBeat
                    && !Optimist(level, taken, stays).Beats(toBeat)
        )
        {
            return;
        }

        var kind = kinds[level];
        if (level > 0 && kinds[level - 1] != kind)
        {
            banned = 0;
        }

        var tried = 0UL;
        for (var free = fits[kind] & ~taken & ~banned; free != 0; )
        {
            var slot = isTie ? BitOperations.TrailingZeroCount(free) : Choose(free, kind);
            free &= ~(1UL << slot);
            // Of slots alike in all that counts only the first is tried.
            if (IsLikeOneOf(tried, slot))
            {
                continue;
            }

            tried |= 1UL << slot;
            Put(slot, modules[level].Size.Bytes, 1);
            seatOf[level] = slot;
            kindAt[slot] = kind;
            Place(level + 1, taken | (1UL << slot), banned, stays + (occupantKind[slot] == kind ? 1 : 0));
            Put(slot, -modules[level].Size.Bytes, -1);
            kindAt[slot] = -1;
            // What follows alike need not take this slot: that was tried below it.
            banned |= 1UL << slot;
            if (cut)
            {
                return;
            }
        }
    }

    private bool IsLikeOneOf(ulong tried, int slot)
    {
        for (; tried != 0; tried &= tried - 1)
        {
            var other = BitOperations.TrailingZeroCount(tried);
            if (
                slotClass[other] == slotClass[slot]
                && (channelOf[other] == channelOf[slot] || AreAlike(channelOf[other], channelOf[slot]))
                && (!pairs.Matters || placeOf[other] == placeOf[slot] || ArePlacesAlike(placeOf[other], placeOf[slot]))
            )
            {
                return true;
            }
        }

        return false;
    }

    // Channels of the same slots with the same modules in them so far can change places.
    private bool AreAlike(int a, int b)
    {
        if (a < 0 || b < 0 || load[a] != load[b] || slotsOf[a].Length != slotsOf[b].Length)
        {
            return false;
        }

        for (var i = 0; i < slotsOf[a].Length; i++)
        {
            if (!Same(slotsOf[a][i], slotsOf[b][i]))
            {
                return false;
            }
        }

        return true;
    }

    // So can the first and the second slot of every channel.
    private bool ArePlacesAlike(int a, int b)
    {
        if (a < 0 || b < 0)
        {
            return false;
        }

        foreach (var channel in slotsOf)
        {
            var (hasA, hasB) = (a < channel.Length, b < channel.Length);
            if (hasA != hasB || (hasA && !Same(channel[a], channel[b])))
            {
                return false;
            }
        }

        return true;
    }

    private bool Same(int x, int y) => slotClass[x] == slotClass[y] && kindAt[x] == kindAt[y];

    // As the board would have it, not where another one stays; then the emptiest channel, then where it sits already.
    private int Choose(ulong free, int kind)
    {
        var best = -1;
        (int, int, int, long, int, int) bestKey = default;
        for (var rest = free; rest != 0; rest &= rest - 1)
        {
            var i = BitOperations.TrailingZeroCount(rest);
            var key = (
                (may >> i & 1) == 1 ? 0 : 1,
                occupantKind[i] >= 0 && occupantKind[i] != kind ? 1 : 0,
                (must >> i & 1) == 1 ? 0 : 1 + BitOperations.PopCount(before[i]),
                channelOf[i] < 0 ? 0 : load[channelOf[i]],
                occupantKind[i] == kind ? 0 : 1,
                i
            );
            if (best < 0 || key.CompareTo(bestKey) < 0)
            {
                (best, bestKey) = (i, key);
            }
        }

        return best;
    }

    private void Put(int slot, long bytes, int count)
    {
        if (channelOf[slot] is >= 0 and var c)
        {
            load[c] += bytes;
            used[c] += count;
        }
    }

    // The most that any completion can reach.
    private LayoutWorth Optimist(int level, ulong taken, int stays) =>
        new(
            (taken & ~may) == 0 && BitOperations.PopCount(must & ~taken) <= modules.Length - level,
            bound.Of(load, level),
            Speed(Fullest()),
            pairs.Unlike(kindAt, level == 0 ? 0 : kinds[level - 1]),
            board.ReachOf(Touched(taken, level)).Minutes,
            Math.Max(0, keptCount - stays - (modules.Length - level))
        );

    private int Fullest()
    {
        var most = 1;
        foreach (var count in used)
        {
            most = Math.Max(most, count);
        }

        return most;
    }

    private int? Speed(int fullest) => hasSpeed ? Math.Min(slowest, Platform.TopSpeed(fullest) ?? int.MaxValue) : null;

    // Slots where something is pulled or fitted so far: whatever changes, and what is left behind at the end.
    private ulong Touched(ulong taken, int level)
    {
        var touched = 0UL;
        for (var i = 0; i < level; i++)
        {
            if (occupantKind[seatOf[i]] != kinds[i])
            {
                touched |= 1UL << seatOf[i];
            }
        }

        // A slot whose module does not stay in the machine is emptied in any case.
        for (var rest = occupied; rest != 0; rest &= rest - 1)
        {
            var i = BitOperations.TrailingZeroCount(rest);
            if (
                !slots[i].Soldered
                && present[i].Module is not null
                && (occupantKind[i] < 0 || (level == modules.Length && (taken >> i & 1) == 0))
            )
            {
                touched |= 1UL << i;
            }
        }

        return touched;
    }

    private void Weigh(ulong taken, int stays)
    {
        var touched = Touched(taken, modules.Length);
        var way = board.ReachOf(touched);
        var worth = new LayoutWorth(
            Follows(taken),
            bound.Of(load, modules.Length),
            Speed(Fullest()),
            pairs.Unlike(kindAt, int.MaxValue),
            way.Minutes,
            keptCount - stays + Lifted(touched)
        );
        if (isTie)
        {
            if (Early(taken) > earliest && !bestWorth!.Beats(worth))
            {
                (RunnerUp, Best, earliest) = (Best, Settle(worth, way.Removals), Early(taken));
            }
        }
        else if (worth.Beats(bestWorth))
        {
            (RunnerUp, secondWorth) = (Best, bestWorth);
            (Best, bestWorth) = (Settle(worth, way.Removals), worth);
        }
        else if (wantsRunnerUp && worth.Beats(secondWorth))
        {
            (RunnerUp, secondWorth) = (Settle(worth, way.Removals), worth);
        }
    }

    // A number that is larger the earlier the slots are.
    private ulong Early(ulong taken)
    {
        var early = 0UL;
        for (var i = 0; i < slots.Length; i++)
        {
            early = (early << 1) | (taken >> i & 1);
        }

        return early;
    }

    private ulong WithEarliest(ulong taken, int more)
    {
        for (var free = takes & ~taken; more > 0 && free != 0; free &= free - 1)
        {
            taken |= free & ~(free - 1);
            more--;
        }

        return taken;
    }

    private ulong Bit(string slot) => 1UL << Array.FindIndex(slots, s => s.Id == slot);

    // As Population.Missed has it, in bits.
    private bool Follows(ulong taken)
    {
        var ok = (taken & ~may) == 0 && (must & ~taken) == 0;
        for (var rest = taken & ~must; ok && rest != 0; rest &= rest - 1)
        {
            ok = (before[BitOperations.TrailingZeroCount(rest)] & ~taken) == 0;
        }

        return ok;
    }

    // Kept modules that only lie over one that is worked at: they come out and go back all the same.
    private int Lifted(ulong touched)
    {
        var lifted = 0UL;
        for (var rest = touched & overAny; rest != 0; rest &= rest - 1)
        {
            lifted |= over[BitOperations.TrailingZeroCount(rest)];
        }

        return BitOperations.PopCount(lifted & occupied & ~touched);
    }

    private Layout Settle(LayoutWorth worth, IReadOnlyList<string> removals) =>
        new(Seats(), worth, ChannelShare.Of(slots.Select((s, i) => (s.Channel, BytesIn(i)))), removals);

    private long BytesIn(int slot)
    {
        var at = Array.IndexOf(seatOf, slot);
        return at >= 0 ? modules[at].Size.Bytes
            : slots[slot].Soldered ? present[slot].Module?.Size.Bytes ?? 0
            : 0;
    }

    // Alike modules: those that sit right stay, the rest of the kept ones move, then the new ones come.
    private Seat[] Seats()
    {
        var movers = new Dictionary<int, Queue<string>>();
        for (var kind = 0; kind < keptOfKind.Length; kind++)
        {
            var staying = seatOf.Where((s, i) => kinds[i] == kind && occupantKind[s] == kind).ToHashSet();
            movers[kind] = new Queue<string>(
                slots
                    .Select((s, i) => (s.Id, i))
                    .Where(s => occupantKind[s.i] == kind && !staying.Contains(s.i))
                    .Select(s => s.Id)
            );
        }

        var fresh = new Dictionary<int, Queue<MemoryModule>>();
        var seats = new List<Seat>();
        foreach (var (slot, level) in seatOf.Select((s, i) => (s, i)).OrderBy(p => p.s))
        {
            var kind = kinds[level];
            var id = slots[slot].Id;
            var from =
                occupantKind[slot] == kind ? id
                : movers[kind].TryDequeue(out var source) ? source
                : null;
            var module = from is null ? Fresh(kind) : present[slots.TakeWhile(s => s.Id != from).Count()].Module!;
            seats.Add(new Seat(id, module, from));
        }

        return [.. seats];

        // New ones of a kind may differ by serial: each comes once.
        MemoryModule Fresh(int kind)
        {
            if (!fresh.TryGetValue(kind, out var queue))
            {
                var keptSerials = slots
                    .Select((_, i) => occupantKind[i] == kind ? present[i].Module : null)
                    .OfType<MemoryModule>()
                    .ToList();
                fresh[kind] = queue = new Queue<MemoryModule>(
                    modules.Where((m, i) => kinds[i] == kind && !keptSerials.Remove(m))
                );
            }

            return queue.Dequeue();
        }
    }

    private ulong Mask(Func<int, bool> take)
    {
        var mask = 0UL;
        for (var i = 0; i < slots.Length; i++)
        {
            mask |= take(i) ? 1UL << i : 0;
        }

        return mask;
    }
}
