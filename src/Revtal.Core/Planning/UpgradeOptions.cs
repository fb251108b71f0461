using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>
/// The upgrades that no other beats on capacity, price, interleaved share, opening effort and value thrown away. What
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

        var worth = Worth(platform, present, offers);
        if (worth.Count == 0)
        {
            return new OptionsAnswer(
                [],
                [],
                $"Nothing on the shelf or in the catalogue fits a {guide.Model.Code}: it takes {platform.Generation} "
                    + $"{guide.Memory.Module}."
            );
        }

        var fixedBytes = guide
            .Memory.Slots.Zip(present)
            .Where(p => p.First.Soldered)
            .Sum(p => p.Second.Module?.Size.Bytes ?? 0);
        var most =
            guide.Memory.ConfirmedMax?.Size is { } proved && proved > guide.Memory.StatedMax
                ? proved
                : guide.Memory.StatedMax;
        most = platform.FirmwareMax is { } claim && claim > most ? claim : most;
        // Who wants 32 GB is not asked about more than twice as much.
        var installed = present.Sum(p => p.Module?.Size.Bytes ?? 0);
        var ceiling = Math.Min(most.Bytes, Math.Max(wanted.Target.Bytes * 2, installed));
        var trials = (
            from kept in KeptChoices(present, keepable)
            from buys in Purchases(worth, free - kept.Slots.Count, free <= MostSlotsForTwoKinds)
            from stage in Stages(buys, wanted.Stages)
            let bytes = fixedBytes + kept.Bytes + stage.Now.Sum(b => b.Modules * b.Offer.Module.Size.Bytes)
            let later = bytes + (stage.Later is { } l ? l.Modules * l.Offer.Module.Size.Bytes : 0)
            where later >= wanted.Target.Bytes && later <= ceiling && (stage.Later is null || bytes > installed)
            let price = stage.Now.Sum(b => b.Price)
            where wanted.Budget is not { } budget || price <= budget
            orderby price
                + (stage.Later?.Price ?? 0), kept.Thrown, later descending, kept.Slots.Count descending, stage.Later
                is not null
            select new Trial(kept, stage.Now, stage.Later, bytes, later, price)
        ).ToArray();

        var least = guide
            .Memory.Slots.Where(x => !x.Soldered)
            .Min(x => Reach.To(guide, [x.Id], handsIn: true).Sum(r => r.Minutes));
        var weighing = new Weighing(guide, before);
        var options = new List<UpgradeOption>();
        var beaten = new List<UpgradeOption>();
        var spare = new List<Trial>();
        foreach (var trial in trials)
        {
            // What has as much for as little, all of it interleaved and opened in the least time, is not beaten by any
            // layout of this one.
            if (options.Any(o => trial.CannotBeat(o) && o.InterleavedShare >= 1 && o.Layout.Worth.OpenMinutes <= least))
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

    private static string Why(Guide guide, Wanted wanted, MemorySize most) =>
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
            a.Layout.Share.Interleaved,
            a.Layout.Worth.OpenMinutes
        )
        == (
            b.Capacity,
            b.CapacityLater,
            b.Price,
            b.PriceLater,
            b.Thrown,
            b.Layout.Share.Interleaved,
            b.Layout.Worth.OpenMinutes
        );

    // Of parts of one size the cheapest counts that slows nothing down; where all would, the fastest.
    private static List<Offer> Worth(Platform platform, IReadOnlyList<SlotContent> present, IReadOnlyList<Offer> offers)
    {
        var slots = platform.Guide.Memory.Slots;
        var enough = present.Min(p => p.Module?.RatedSpeed) is { } slowest
            ? Math.Min(slowest, platform.TopSpeed(1) ?? slowest)
            : platform.TopSpeed(1);
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
                .Where(g => slots.Any(s => FitRules.WhyNot(platform, s, g.First().Module) is null))
                .Select(g =>
                    g.OrderByDescending(o => Math.Min(o.Module.RatedSpeed ?? int.MaxValue, enough ?? int.MaxValue))
                        .ThenBy(o => o.Price)
                        .ThenByDescending(o => o.OnShelf)
                        .ThenBy(o => o.Number)
                        .First()
                )
                .OrderBy(o => o.Price)
                .ThenBy(o => o.Number),
        ];
    }

    private sealed record Trial(
        Kept Kept,
        IReadOnlyList<Bought> Now,
        Bought? Later,
        long Bytes,
        long BytesLater,
        decimal Price
    )
    {
        public bool CannotBeat(UpgradeOption o) =>
            o.CapacityLater.Bytes >= BytesLater
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

    // How many of each kind stay, not which: alike ones are as good as each other.
    private static IEnumerable<Kept> KeptChoices(IReadOnlyList<SlotContent> present, IReadOnlyList<Keepable> keepable)
    {
        var groups = keepable
            .Select(k => (k, Module: present.First(p => p.Slot == k.Slot).Module!))
            .GroupBy(p => (p.Module with { Serial = null }, p.k.Value))
            .ToArray();
        return Choose(0, []);

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
    private sealed class Weighing(Guide guide, Reading before)
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
                    Words(t.Kept, t.Now, t.Later)
                );
        }

        private Layout? Best(Trial t)
        {
            try
            {
                return Layouts
                    .Best(
                        guide,
                        before,
                        t.Kept.Slots,
                        [.. t.Now.SelectMany(b => Enumerable.Repeat(b.Offer.Module, b.Modules))],
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
            var changes = option.Layout.Changes(present);
            return option with
            {
                Changes = changes,
                Expectation = Expectation.Of(guide, before, Planner.Make(guide, before, changes)),
            };
        }
        catch (RefusedException)
        {
            // A mixture that does not run.
            return null;
        }
    }

    private static string Words(Kept kept, IReadOnlyList<Bought> now, Bought? later)
    {
        var adds = Phrases.Listed(
            now.Select(b => $"{b.Modules} × {b.Offer.Module.Size}{Phrases.When(b.Offer.Pieces > 1, " (kit)")}")
        );
        var leaves = kept.Leaving.GroupBy(l => l).OrderBy(g => g.Key).Select(g => $"{g.Count()} × {g.Key}").ToArray();
        var does =
            leaves.Length == 0 ? $"Add {adds}"
            : kept.Slots.Count == 0 ? $"Replace all by {adds}"
            : $"Replace {Phrases.Listed(leaves)} by {adds}";
        return $"{does}{Phrases.When(later, l => $" now, {l.Modules} × {l.Offer.Module.Size} at the next visit")}";
    }
}
