using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>Whether what is planned can work, and what should be known of it before.</summary>
public static class FitRules
{
    /// <summary>All that is to be said of one module in one slot, heaviest first.</summary>
    public static IReadOnlyList<FitNote> Of(Platform platform, MemorySlot slot, MemoryModule module) =>
        [.. ModuleFit.Of(platform, slot, module).OrderByDescending(n => n.Weight)];

    /// <summary>
    /// All that is to be said of a plan, heaviest first. A plan that <see cref="Planner"/> made holds no refusal of a
    /// single part.
    /// </summary>
    public static IReadOnlyList<FitNote> Of(Guide guide, Reading before, Plan plan)
    {
        var platform = Platform.Of(guide, before);
        var seated = guide
            .Memory.Slots.Zip(plan.Slots)
            .Where(p => p.Second.Module is not null)
            .Select(p => (p.First, p.Second.Module!))
            .ToArray();
        var fitted = guide.Memory.Slots.Zip(plan.Slots).Where(p => p.Second.Use == SlotUse.Fit);
        return
        [
            .. Joined([
                    .. platform.Corrections,
                    .. fitted.SelectMany(p => ModuleFit.Of(platform, p.First, p.Second.Module!)),
                    .. plan.Slots.All(s => s.Stays) ? [] : MixFit.Of(platform, seated),
                    .. plan.Bays.SelectMany(b => Bay(guide, before, b)),
                ])
                .OrderByDescending(n => n.Weight),
        ];
    }

    /// <summary>The first reason why a module does not fit, or null when it does.</summary>
    internal static FitNote? WhyNot(Platform platform, MemorySlot slot, MemoryModule module) =>
        ModuleFit.Of(platform, slot, module).FirstOrDefault(n => n.Weight == FitWeight.Refusal);

    /// <summary>The first reason why a drive does not fit a bay, or null when it does.</summary>
    internal static FitNote? WhyNot(DriveBay bay, Drive drive) =>
        DriveFit.Of(bay, new DriveWish(drive), null).FirstOrDefault(n => n.Weight == FitWeight.Refusal);

    internal static IEnumerable<FitNote> Bay(Guide guide, Reading before, PlannedBay planned)
    {
        var bay = guide.Bay(planned.Bay)!;
        var placed = DrivePlaces.Of(guide, before);
        var notes = planned switch
        {
            { Use: BayUse.Fit, Wish: { } wish } => DriveFit.Of(bay, wish, In(wish.DataFrom(planned.Bay))),
            { Use: BayUse.Move, From: { } from } when In(from) is { } moved => DriveFit.Of(
                bay,
                new DriveWish(moved.Drive),
                null
            ),
            _ => [],
        };
        foreach (var note in notes)
        {
            yield return note;
        }

        if (planned.StartsHere && !bay.Boots)
        {
            var from = planned.From ?? planned.Wish!.SystemFrom;
            yield return new FitNote(
                "boot-bay",
                FitWeight.Remark,
                bay.Id,
                $"The machine starts from {from}; the guide does not say that it starts from {bay.Id}. Set "
                    + "the start order in the firmware, and try before closing.",
                $"{from} boots",
                $"{bay.Id}",
                "guide"
            );
        }

        DriveReading? In(string id) => placed.FirstOrDefault(d => d.Bay == id);
    }

    // The same remark on several positions is said once, with all of them.
    private static IEnumerable<FitNote> Joined(IReadOnlyList<FitNote> notes) =>
        notes.GroupBy(n => (n.Code, n.Takes, n.Has, n.Position is null)).Select(g => FitNote.Joined([.. g]));
}
