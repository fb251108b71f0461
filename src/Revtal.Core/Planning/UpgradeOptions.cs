using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>
/// The upgrades that no other beats on capacity, price, share of the bandwidth, speed, opening effort and value thrown
/// away. What
/// is bought is of one kind, or of two in a machine of up to four slots; kits stay together. Which old modules stay
/// is tried in all ways that differ.
/// </summary>
public static class UpgradeOptions
{
    private const int MostSlotsForTwoKinds = 4,
        MostLeftOut = 12,
        LayoutEffort = 300;

    /// <param name="keepable">The modules of the machine with their value; soldered ones stay in any case.</param>
    /// <param name="offers">The catalogue and the shelf.</param>
    public static OptionsAnswer Find(
        Guide guide,
        Reading before,
        IReadOnlyList<Keepable> keepable,
        IReadOnlyList<Offer> offers,
        Wanted wanted
    )
    {
        var platform = Platform.Of(guide, before);
        var present = Occupancy.Of(guide, before);
        var free = guide.Memory.Slots.Count(s => !s.Soldered);
        if (free == 0)
        {
            return new OptionsAnswer([], [], $"{guide.Model.Code} has its memory soldered: nothing can be added.");
        }

        var top = platform.TopSpeed(1) ?? int.MaxValue;
        var worth = new Dictionary<int, List<Offer>>();
        if (Buyable(top).Count == 0)
        {
            return new OptionsAnswer(
                [],
                [],
                $"Nothing on the shelf or in the catalogue fits a {guide.Model.Code}: it takes "
                    + $"{platform.Generation ?? "an unknown generation"}"
                    + $"{Phrases.When(guide.Memory.Module, m => $" {m}")}."
            );
        }

        var fixedBytes = guide
            .Memory.Slots.Zip(present)
            .Where(p => p.First.Soldered)
            .Sum(p => p.Second.Module?.Size.Bytes ?? 0);
        MemorySize?[] maxima = [guide.Memory.StatedMax, guide.Memory.ConfirmedMax?.Size, platform.FirmwareMax];
        var most = maxima.Max();
        // Who wants 32 GB is not asked about more than twice as much.
        var installed = present.Sum(p => p.Module?.Size.Bytes ?? 0);
        var ceiling = Math.Min(most?.Bytes ?? long.MaxValue, Math.Max(wanted.Target.Bytes * 2, installed));
        var trials = (
            from kept in KeptChoices(guide, present, keepable)
            let cap = Cap(kept)
            from buys in Purchases(Buyable(cap), free - kept.Slots.Count, free <= MostSlotsForTwoKinds)
            from stage in Stages(buys, wanted.Stages)
            let bytes = fixedBytes + kept.Bytes + stage.Now.Sum(b => b.Modules * b.Offer.Module.Size.Bytes)
            let later = bytes + (stage.Later is { } l ? l.Modules * l.Offer.Module.Size.Bytes : 0)
            where later >= wanted.Target.Bytes && later <= ceiling && (stage.Later is null || bytes > installed)
            let price = stage.Now.Sum(b => b.Price)
            where wanted.Budget is not { } budget || price <= budget
            orderby price
                + (stage.Later?.Price ?? 0), kept.Thrown, later descending, kept.Slots.Count descending, stage.Later
                is not null
            select new Trial(kept, stage.Now, stage.Later, bytes, later, price, Slowest(stage.Now, cap))
        ).ToArray();

        var least = guide
            .Memory.Slots.Where(x => !x.Soldered)
            .Min(x => Reach.To(guide, [x.Id], handsIn: true).Sum(r => r.Minutes));
        var weighing = new Weighing(new LayoutBoard(guide, before));
        var options = new List<UpgradeOption>();
        var beaten = new List<UpgradeOption>();
        var spare = new List<Trial>();
        foreach (var trial in trials)
        {
            // What has as much for as little, with all the bandwidth at the top speed and opened in the least time, is
            // not beaten by any layout of this one.
            if (options.Any(o => o.Layout.Worth.OpenMinutes <= least && trial.CannotBeat(o)))
            {
                spare.Add(trial);
            }
            else if (weighing.Of(trial) is not { } option)
            {
                continue;
            }
            else if (options.Any(o => o.Beats(option)))
            {
                beaten.Add(option);
            }
            else if (!options.Any(o => Same(o, option)))
            {
                beaten.AddRange(options.Where(option.Beats));
                options.RemoveAll(option.Beats);
                options.Add(option);
            }
        }

        var list = options
            .Select(o => Finish(guide, before, present, o))
            .OfType<UpgradeOption>()
            .OrderBy(o => o.Price)
            .ThenByDescending(o => o.Capacity)
            .ToArray();
        beaten.AddRange(
            spare.Take(MostLeftOut - Math.Min(MostLeftOut, beaten.Count)).Select(weighing.Of).OfType<UpgradeOption>()
        );
        static int Slowest(IReadOnlyList<Bought> now, int cap) =>
            Math.Min(cap, now.Min(b => b.Offer.Module.RatedSpeed) ?? cap);

        // No faster than the slowest that stays.
        int Cap(Kept kept) =>
            present
                .Where(p => kept.Slots.Contains(p.Slot) || guide.NeedSlot(p.Slot).Soldered)
                .Min(p => p.Module?.RatedSpeed)
                is { } slowest
                ? Math.Min(slowest, top)
                : top;

        List<Offer> Buyable(int cap) =>
            worth.TryGetValue(cap, out var known) ? known : worth[cap] = Worth(platform, present, cap, offers);

        return new OptionsAnswer(
            list,
            [
                .. beaten
                    .Select(b => new Beaten(b, Array.FindIndex(list, o => o.Beats(b))))
                    .Where(b => b.By >= 0)
                    .Take(MostLeftOut),
            ],
            list.Length > 0 ? null : Why(guide, wanted, most)
        );
    }

    private static string Why(Guide guide, Wanted wanted, MemorySize? most) =>
        wanted.Target > most ? $"{wanted.Target} is more than a {guide.Model.Code} takes: {most}."
        : wanted.Budget is { } budget
            ? $"No part that fits reaches {wanted.Target} for {budget}. Raise the budget, lower the target, or allow "
                + "two stages."
        : $"No part that fits reaches {wanted.Target}.";

    private static bool Same(UpgradeOption a, UpgradeOption b) =>
        (
            a.Capacity,
            a.CapacityLater,
            a.Price,
            a.PriceLater,
            a.Thrown,
            a.BandwidthShare,
            a.Layout.Worth.Speed,
            a.Layout.Worth.OpenMinutes
        )
        == (
            b.Capacity,
            b.CapacityLater,
            b.Price,
            b.PriceLater,
            b.Thrown,
            b.BandwidthShare,
            b.Layout.Worth.Speed,
            b.Layout.Worth.OpenMinutes
        );

    // Of parts of one size and speed the cheapest counts, and none that is slower at the same price. What slows the
    // machine down is left out where a part of its size does not.
    private static List<Offer> Worth(
        Platform platform,
        IReadOnlyList<SlotContent> present,
        int cap,
        IReadOnlyList<Offer> offers
    )
    {
        var now = Math.Min(cap, present.Min(p => p.Module?.RatedSpeed) ?? cap);
        return
        [
            .. offers
                .GroupBy(o =>
                    (
                        o.Module.Size,
                        o.Module.Generation,
                        o.Module.Form,
                        o.Module.Ecc,
                        o.Module.Registered,
                        o.Module.Voltage,
                        o.Pieces
                    )
                )
                .Where(g =>
                    platform.Guide.Memory.Slots.Any(s => FitRules.WhyNot(platform, s, g.First().Module) is null)
                )
                .SelectMany(g => Front([.. g]))
                .OrderBy(o => o.Price)
                .ThenBy(o => o.Number),
        ];

        // Each faster than all that cost no more.
        IEnumerable<Offer> Front(Offer[] alike)
        {
            var fastest = -1;
            var least = Math.Min(now, alike.Max(Speed));
            return alike
                .Where(o => Speed(o) >= least)
                .OrderBy(o => o.Price)
                .ThenByDescending(Speed)
                .ThenByDescending(o => o.OnShelf)
                .ThenBy(o => o.Number)
                .Where(o => Speed(o) > fastest && (fastest = Speed(o)) >= 0);
        }

        int Speed(Offer o) => Math.Min(o.Module.RatedSpeed ?? int.MaxValue, cap);
    }

    private sealed record Trial(
        Kept Kept,
        IReadOnlyList<Bought> Now,
        Bought? Later,
        long Bytes,
        long BytesLater,
        decimal Price,
        int Cap
    )
    {
        /// <summary>Not by any layout: it runs no faster than its slowest module.</summary>
        public bool CannotBeat(UpgradeOption o) =>
            o.BandwidthShare >= 1
            && o.Layout.Worth.Speed >= Cap
            && o.CapacityLater.Bytes >= BytesLater
            && o.Capacity.Bytes >= Bytes
            && o.Price <= Price
            && o.Price + o.PriceLater <= Price + (Later?.Price ?? 0)
            && o.Thrown <= Kept.Thrown;
    }

    private sealed record Kept(
        IReadOnlyList<string> Slots,
        long Bytes,
        decimal Thrown,
        IReadOnlyList<MemorySize> Leaving
    );

    // How many of each kind stay, not which, unless the ways to their slots differ: alike ones are as good as each
    // other.
    private static IEnumerable<Kept> KeptChoices(
        Guide guide,
        IReadOnlyList<SlotContent> present,
        IReadOnlyList<Keepable> keepable
    )
    {
        var groups = keepable
            .Select(k => (k, Module: present.First(p => p.Slot == k.Slot).Module!))
            .GroupBy(p => (p.Module with { Serial = null }, p.k.Value, Way(guide.NeedSlot(p.k.Slot))))
            .ToArray();
        return Choose(0, []);

        (string?, string, string) Way(MemorySlot slot) =>
            (
                // Where there are few each is its own way: which channel is left, and in which order, counts too.
                keepable.Count <= MostSlotsForTwoKinds
                    ? slot.Id
                    : $"{slot.Channel} {slot.Reach}",
                string.Join(' ', Layers.Over(guide, slot)),
                string.Join(
                    ' ',
                    guide.Memory.Slots.Where(s => Layers.Over(guide, s).Contains(slot.Id)).Select(s => s.Id)
                )
            );

        IEnumerable<Kept> Choose(int group, IReadOnlyList<(Keepable Keep, MemoryModule Module)> stay)
        {
            if (group == groups.Length)
            {
                var slots = stay.Select(s => s.Keep.Slot).ToArray();
                var leaving = keepable.Where(k => !slots.Contains(k.Slot)).ToArray();
                yield return new Kept(
                    slots,
                    stay.Sum(s => s.Module.Size.Bytes),
                    leaving.Sum(l => l.Value),
                    [.. leaving.Select(l => present.First(p => p.Slot == l.Slot).Module!.Size)]
                );
                yield break;
            }

            var members = groups[group].ToArray();
            for (var n = members.Length; n >= 0; n--)
            {
                foreach (var choice in Choose(group + 1, [.. stay, .. members.Take(n)]))
                {
                    yield return choice;
                }
            }
        }
    }

    private static IEnumerable<IReadOnlyList<Bought>> Purchases(List<Offer> offers, int room, bool twoKinds)
    {
        for (var i = 0; i < offers.Count; i++)
        {
            for (var n = 1; n * offers[i].Pieces <= room; n++)
            {
                var first = new Bought(offers[i], n);
                yield return [first];
                for (var j = i + 1; twoKinds && j < offers.Count; j++)
                {
                    for (var m = 1; (m * offers[j].Pieces) + first.Modules <= room; m++)
                    {
                        yield return [first, new Bought(offers[j], m)];
                    }
                }
            }
        }
    }

    // All now, or a part of one kind now and the rest at the next visit.
    private static IEnumerable<(IReadOnlyList<Bought> Now, Bought? Later)> Stages(
        IReadOnlyList<Bought> buys,
        int stages
    )
    {
        yield return (buys, null);
        if (stages > 1 && buys is [{ Count: > 1 } only])
        {
            for (var now = 1; now < only.Count; now++)
            {
                yield return ([only with { Count = now }], only with { Count = only.Count - now });
            }
        }
    }

    // What is bought now decides the layout, whatever comes later.
    private sealed class Weighing(LayoutBoard board)
    {
        private readonly Dictionary<string, Layout?> known = [];

        /// <summary>
        /// The option without its plan yet, since most are beaten by their layout alone; null where the modules do not
        /// go in.
        /// </summary>
        public UpgradeOption? Of(Trial t)
        {
            var key =
                $"{string.Join(' ', t.Kept.Slots)}"
                + $"|{string.Join(' ', t.Now.Select(b => $"{b.Count} {b.Offer.Number}"))}";
            if (!known.TryGetValue(key, out var layout))
            {
                known[key] = layout = Best(t);
            }

            return layout is null
                ? null
                : new UpgradeOption(
                    t.Kept.Slots,
                    t.Now,
                    t.Later,
                    new MemorySize(t.Bytes),
                    new MemorySize(t.BytesLater),
                    t.Price,
                    t.Later?.Price ?? 0,
                    t.Kept.Thrown,
                    layout,
                    [],
                    null,
                    Words(t, layout),
                    []
                );
        }

        private Layout? Best(Trial t)
        {
            try
            {
                return Layouts
                    .Best(
                        board,
                        t.Kept.Slots,
                        [
                            .. t.Now.SelectMany(b =>
                                Enumerable.Repeat(new NewModule(b.Offer.Module, b.Offer.Pieces), b.Modules)
                            ),
                        ],
                        LayoutEffort,
                        runnerUp: false
                    )
                    .Best;
            }
            catch (RefusedException)
            {
                // Too large for the slots that are left.
                return null;
            }
        }
    }

    private static UpgradeOption? Finish(
        Guide guide,
        Reading before,
        IReadOnlyList<SlotContent> present,
        UpgradeOption option
    )
    {
        try
        {
            var changes = option.Layout.Changes(guide, present);
            var plan = Planner.Make(guide, before, changes);
            return option with
            {
                Changes = changes,
                Expectation = Expectation.Of(guide, before, plan),
                Notes = FitRules.Of(guide, before, plan),
            };
        }
        catch (RefusedException)
        {
            // A mixture that does not run.
            return null;
        }
    }

    private static string Words(Trial trial, Layout layout)
    {
        var (kept, now, later) = (trial.Kept, trial.Now, trial.Later);
        var adds = Phrases.Listed(now.Select(b => Counted(b)));
        var leaves = kept.Leaving.GroupBy(l => l).OrderBy(g => g.Key).Select(g => $"{g.Count()} × {g.Key}").ToArray();
        var does =
            leaves.Length == 0 ? $"Add {adds}"
            : kept.Slots.Count == 0 ? $"Replace all by {adds}"
            : $"Replace {Phrases.Listed(leaves)} by {adds}";
        var slots = Phrases.Listed(layout.Seats.Where(s => s.From is null).Select(s => s.Slot));
        var moves = layout.Seats.Where(s => s is { Stays: false, From: not null }).Select(s => $"{s.From} to {s.Slot}");
        return $"{does} in {slots}{string.Concat(moves.Select(m => $", {m}"))}"
            + Phrases.When(later, l => $" now, {Counted(l)} at the next visit");
    }

    // “2 × 16 GB (OS4-K32, a kit)”: by the catalogue's number, since a size alone is not what is taken from the shelf.
    private static string Counted(Bought b) =>
        $"{b.Modules} × {b.Offer.Module.Size} ({b.Offer.Number}{Phrases.When(b.Offer.Pieces > 1, ", a kit")})";
}
