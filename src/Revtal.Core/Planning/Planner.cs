using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>Wishes to a whole plan.</summary>
public static class Planner
{
    // From so many bays on a machine keeps its drives as an array.
    private const int BaysOfAnArray = 4;

    /// <summary>
    /// Whether the machine keeps its drives as an array, whose state is written down before a bay changes.
    /// </summary>
    public static bool KeepsArray(Guide guide) => guide.Drives.Count >= BaysOfAnArray;

    /// <summary>Whether the reading found nothing in the bay; a drive whose bay nobody told may sit there.</summary>
    /// <param name="placed">Its drives, as <see cref="DrivePlaces"/> has them.</param>
    public static bool IsEmpty(string bay, Reading before, IReadOnlyList<DriveReading> placed) =>
        before.EmptyBays.Contains(bay) || (before.ListsDrives && placed.All(d => d.Bay is not null && d.Bay != bay));

    /// <summary>
    /// How the data comes onto a new drive in this bay, where nothing else is said; null where there is none.
    /// </summary>
    /// <param name="was">The drive that is there, as far as it was read.</param>
    public static DataPath? DefaultPath(DriveBay bay, Drive? was) => HasData(bay, was) ? DataPath.CopyFirst : null;

    // A drive that is there may hold data, and so may one that the machine starts from.
    private static bool HasData(DriveBay bay, Drive? was) => was is not null || bay.Boots;

    /// <summary>Whether a plan made for one build can be carried out on another.</summary>
    public static bool Suits(Guide guide, Reading before, Plan plan)
    {
        var platform = Platform.Of(guide, before);
        return plan.Slots.Select(s => s.Slot).SequenceEqual(guide.Memory.Slots.Select(s => s.Id))
            && plan.Bays.All(b =>
                guide.Bay(b.Bay) is not null && !FitRules.Bay(guide, before, b).Any(n => n.Weight == FitWeight.Refusal)
            )
            && plan.Slots.Zip(guide.Memory.Slots)
                .All(p =>
                    p.First.Stays
                    || (
                        !p.Second.Soldered
                        && (p.First.Module is null || FitRules.WhyNot(platform, p.Second, p.First.Module) is null)
                    )
                );
    }

    /// <summary>Completes the wishes with what stays, refusing what cannot be.</summary>
    /// <exception cref="RefusedException">Unknown or doubled position, a move from an empty one, a part that does not
    /// fit, or no change at all.</exception>
    public static Plan Make(Guide guide, Reading before, IReadOnlyList<SlotChange> changes)
    {
        foreach (var change in changes)
        {
            if (changes.Count(c => c.Slot == change.Slot) > 1 || change.Wishes != 1)
            {
                throw RefusedException.Invalid(
                    "slot-planned-twice",
                    $"{change.Slot} has no single plan. Say once what it gets: a part, another position's, nothing, a "
                        + "reseat or a look."
                );
            }

            if (change.From is { } from && changes.Count(c => c.From == from) > 1)
            {
                throw RefusedException.Invalid("moved-twice", $"What sits in {from} cannot move to two positions.");
            }
        }

        var bays = changes.Where(c => guide.Bay(c.Slot) is not null).ToArray();
        var plan = new Plan(Slots(guide, before, [.. changes.Except(bays)]), Bays(guide, before, bays));
        if (plan.Touched.Count == 0)
        {
            throw RefusedException.Invalid(
                "plan-changes-nothing",
                "The plan touches nothing. Name at least one position to fit, move, take out, reseat or inspect."
            );
        }

        return FitRules.Of(guide, before, plan).FirstOrDefault(n => n.Weight == FitWeight.Refusal) is { } no
            ? throw no.Refuse()
            : plan;
    }

    private static PlannedSlot[] Slots(Guide guide, Reading before, IReadOnlyList<SlotChange> changes)
    {
        var platform = Platform.Of(guide, before);
        var present = Occupancy.Of(guide, before).ToDictionary(c => c.Slot);
        foreach (var change in changes)
        {
            Check(change);
        }

        var moved = changes.Select(c => c.From).OfType<string>().ToHashSet();
        return [.. guide.Memory.Slots.Select(slot => Settle(slot.Id))];

        PlannedSlot Settle(string id)
        {
            var was = present[id];
            return changes.FirstOrDefault(c => c.Slot == id) switch
            {
                { Fit: { } module } => new PlannedSlot(id, SlotUse.Fit, was, module, null),
                { From: { } from } => new PlannedSlot(id, SlotUse.Move, was, present[from].Module, from),
                { Empty: true } => new PlannedSlot(id, SlotUse.Empty, was, null, null),
                { Reseat: true } => new PlannedSlot(id, SlotUse.Reseat, was, was.Module, null),
                { Inspect: true } => new PlannedSlot(id, SlotUse.Inspect, was, was.Module, null),
                _ when moved.Contains(id) => new PlannedSlot(id, SlotUse.Empty, was, null, null),
                _ => new PlannedSlot(id, SlotUse.Keep, was, was.Module, null),
            };
        }

        void Check(SlotChange change)
        {
            var slot = guide.NeedSlot(change.Slot);
            if (change.Drive is not null)
            {
                throw RefusedException.Invalid(
                    "slot-not-bay",
                    $"{change.Slot} is a memory slot: a drive does not go there. {Bays(guide)}"
                );
            }

            if (change.Inspect)
            {
                return;
            }

            if (change.Reseat && present[change.Slot] is { Known: true, Module: null })
            {
                throw RefusedException.Invalid(
                    "nothing-to-reseat",
                    $"{change.Slot} holds no module that could be seated anew."
                );
            }

            if (slot.Soldered || guide.Slot(change.From ?? change.Slot) is { Soldered: true })
            {
                throw RefusedException.Invalid("slot-soldered", Soldered(guide, change.From ?? change.Slot));
            }

            if (change.From == change.Slot)
            {
                throw RefusedException.Invalid(
                    "moves-nowhere",
                    $"What sits in {change.Slot} is there already. Leave it out of the plan to keep it, or reseat it."
                );
            }

            if (change.From is { } from && (!present.TryGetValue(from, out var source) || source.Module is null))
            {
                guide.NeedSlot(from);
                throw RefusedException.Invalid(
                    "nothing-to-move",
                    $"{from} holds no module that could move to {change.Slot}. The before reading says: "
                        + $"{present[from].Spoken}."
                );
            }

            if (
                (change.Fit ?? (change.From is { } f ? present[f].Module : null)) is { } module
                && FitRules.WhyNot(platform, slot, module) is { } no
            )
            {
                throw no.Refuse();
            }
        }
    }

    private static PlannedBay[] Bays(Guide guide, Reading before, IReadOnlyList<SlotChange> changes)
    {
        var placed = DrivePlaces.Of(guide, before);
        var moved = changes.Select(c => c.From).OfType<string>().Where(f => changes.All(c => c.Slot != f));
        return [.. changes.Select(Settle), .. moved.Select(f => new PlannedBay(f, BayUse.Empty, Was(f)))];

        Drive? Was(string bay) => placed.FirstOrDefault(d => d.Bay == bay)?.Drive;

        // What was read counts more than what is usual for the model.
        bool IsSystem(string bay) =>
            placed.Any(d => d.Boots == true)
                ? placed.Any(d => d.Boots == true && d.Bay == bay)
                : guide.Bay(bay)?.Boots == true;

        void CheckSystem(DriveBay bay, Drive? was, DriveWish wish)
        {
            if (wish.SystemFrom is not { } from)
            {
                return;
            }

            if (from == bay.Id || guide.Bay(from) is null || (before.Drives.Count > 0 && Was(from) is null))
            {
                throw RefusedException.Invalid(
                    "system-from",
                    $"The system comes to {bay.Id} from another bay that holds a drive. The bays are "
                        + $"{string.Join(", ", guide.Drives.Select(d => d.Id))}."
                );
            }

            if (was is not null)
            {
                throw RefusedException.Invalid(
                    "system-bay-full",
                    $"{bay.Id} holds a drive with data of its own. The system moves to an empty bay; or replace the "
                        + $"drive of {from} where it is."
                );
            }

            if (wish.Path is not (DataPath.CopyFirst or DataPath.CleanInstall))
            {
                throw RefusedException.Invalid(
                    "system-path",
                    $"Say how the system comes onto the drive in {bay.Id}: copy-first or clean-install."
                );
            }
        }

        PlannedBay Settle(SlotChange change)
        {
            var bay = guide.Bay(change.Slot)!;
            var was = Was(bay.Id);
            var empty = IsEmpty(bay.Id, before, placed);
            switch (change)
            {
                case { Drive: { } wish }:
                    CheckData(guide, bay, was, wish);
                    CheckSystem(bay, was, wish);
                    return new PlannedBay(bay.Id, BayUse.Fit, was, empty, wish, null, wish.SystemFrom is not null);
                case { From: { } from }:
                    return
                        guide.Bay(from) is not null
                        && from != bay.Id
                        && (before.Drives.Count == 0 || Was(from) is not null)
                        ? new PlannedBay(bay.Id, BayUse.Move, was, empty, null, from, IsSystem(from))
                        : throw RefusedException.Invalid(
                            "nothing-to-move",
                            $"A drive moves to {bay.Id} from another bay that holds one. The bays are "
                                + $"{string.Join(", ", guide.Drives.Select(d => d.Id))}."
                        );
                case { Empty: true } or { Reseat: true } when empty:
                    throw RefusedException.Invalid("bay-empty", $"{bay.Id} holds no drive, says the before reading.");
                case { Empty: true }:
                    return new PlannedBay(bay.Id, BayUse.Empty, was);
                case { Fit: not null }:
                    throw RefusedException.Invalid(
                        "bay-not-memory",
                        $"{bay.Id} is a drive bay: a memory module does not go there."
                    );
                default:
                    return new PlannedBay(bay.Id, change.Reseat ? BayUse.Reseat : BayUse.Inspect, was);
            }
        }
    }

    // Data is never lost by leaving it unsaid.
    private static void CheckData(Guide guide, DriveBay bay, Drive? was, DriveWish wish)
    {
        if (HasData(bay, was) && wish.Path is null)
        {
            throw RefusedException.Invalid(
                "data-path-missing",
                $"Say how the data comes onto the drive in {bay.Id}: copy-first, clean-install, or left-behind with "
                    + "the customer's word."
            );
        }

        if (
            wish is
            {
                Path: DataPath.CopyFirst,
                Setup: { Initialise: true } or { Partition: not null } or { FileSystem: not null }
            }
        )
        {
            throw RefusedException.Invalid(
                "copy-and-format",
                $"The data is copied onto the drive for {bay.Id}: what formats or initialises it would take it away "
                    + "again. Beside a copy there is its label, its mount, and grow."
            );
        }

        if (wish.Path == DataPath.LeftBehind && string.IsNullOrWhiteSpace(wish.Word))
        {
            throw RefusedException.Invalid(
                "word-missing",
                $"Data that stays behind on the drive of {bay.Id} wants the customer's word: who said so, and how."
            );
        }

        if (KeepsArray(guide) && string.IsNullOrWhiteSpace(wish.ArrayState))
        {
            throw RefusedException.Invalid(
                "array-state-missing",
                $"{guide.Model.Code} keeps its drives as an array. Write down what it says of itself before {bay.Id} "
                    + "is changed, like “healthy, 5 of 5”."
            );
        }
    }

    private static string Bays(Guide guide) =>
        guide.Drives.Count > 0
            ? $"Its bays: {string.Join(", ", guide.Drives.Select(d => d.Id))}."
            : "This model has no drive bay.";

    internal static string Soldered(Guide guide, string slot)
    {
        var free = guide.Memory.Slots.Where(s => !s.Soldered).Select(s => s.Id).ToArray();
        var others = free.Length > 0 ? $"{string.Join(", ", free)} can be." : "This model has no slot at all.";
        return $"{slot} of {guide.Model.Code} is soldered: its memory cannot be changed. {others}";
    }
}
