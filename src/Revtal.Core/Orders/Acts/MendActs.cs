using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>
/// What was fitted is changed in the same order: another part, another slot, or a slot given up. Another run begins,
/// on these slots alone.
/// </summary>
/// <param name="Plan">As it is to be in the end, from the before reading on.</param>
/// <param name="Slots">Where hands go in.</param>
/// <param name="Agreed">The plan stays what the customer agreed to: only a part is changed for its like.</param>
public sealed record PlanMended(Plan Plan, IReadOnlyList<string> Slots, bool Agreed, string Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.MendPlan;

    public override string Line(Guide? guide) => $"To be changed: {string.Join("; ", Slots.Select(Short))} – {Reason}";

    internal override Order Apply(Order order, Entry entry)
    {
        var standing = order.Fitted;
        var run = Run.Begin(order.MendWaits ? order.Runs.Count : order.Runs.Count + 1, Slots, Reason) with
        {
            Sat = [.. standing.Slots.Where(s => Slots.Contains(s.Slot) && MendRules.IsFull(s))],
        };
        return order with
        {
            Stage =
                !Agreed ? Stage.Planned
                : order.Stage == Stage.Planned ? Stage.Agreed
                : Stage.OnBench,
            Plan = new Recorded<Plan>(Plan, entry.Sequence),
            Carried = standing,
            Agreed = Agreed ? order.Agreed ?? order.AgreedBefore : null,
            AgreedBefore = order.Agreed ?? order.AgreedBefore,
            Offered = null,
            Declined = null,
            // What was read is of what sat there then.
            After = null,
            Runs = order.MendWaits ? order.Runs.SetItem(order.Runs.Count - 1, run) : order.Runs.Add(run),
        };
    }

    private string Short(string id) =>
        Plan.Slots.First(s => s.Slot == id).Module is { } module ? $"{module.Size} into {id}" : $"{id} left empty";
}

/// <summary>
/// Changing what was fitted, after a check or a search has shown what is at fault. The rule gives the entry to append,
/// or refuses with the reason and the way on.
/// </summary>
public static class MendRules
{
    /// <param name="wishes">
    /// What is to be otherwise than it was planned; positions without a wish stay as planned.
    /// </param>
    /// <param name="again">Slots whose module is changed for one of the same kind.</param>
    public static PlanMended Mend(
        Order order,
        Guide guide,
        IReadOnlyList<SlotChange> wishes,
        IReadOnlyList<string> again,
        string? reason,
        Role role
    )
    {
        var fitted = order.Fitted;
        if (wishes.FirstOrDefault(w => guide.Bay(w.Slot) is not null) is { } bay)
        {
            throw RefusedException.Invalid(
                "mend-slots-only",
                $"{bay.Slot} is a drive bay: only memory is changed in the same order. Take the machine in again."
            );
        }

        foreach (var id in again)
        {
            guide.NeedSlot(id);
            if (fitted.Slots.First(s => s.Slot == id) is not { Use: SlotUse.Fit })
            {
                throw RefusedException.Invalid(
                    "nothing-to-change",
                    $"{id} holds no module that this order fitted. Name the part that is to go there."
                );
            }
        }

        var changes = fitted
            .Slots.Where(s => wishes.All(w => w.Slot != s.Slot))
            .Select(Wish)
            .OfType<SlotChange>()
            .Concat(
                wishes.Select(w => w.Empty && WasEmpty(fitted, w.Slot) ? new SlotChange(w.Slot, Inspect: true) : w)
            );
        var set = PlanRules.SetPlan(order, guide, [.. changes], null, role);
        // Drives stay as they were planned.
        var plan = new Plan(set.Plan.Slots, fitted.Bays) { Cleans = fitted.Cleans };
        string[] slots =
        [
            .. plan
                .Slots.Zip(fitted.Slots)
                .Where(p => again.Contains(p.First.Slot) || p.First.Module != p.Second.Module)
                .Select(p => p.First.Slot),
        ];
        if (slots.Length == 0)
        {
            throw RefusedException.Invalid(
                "nothing-to-change",
                "That is what sits in the machine. Name a slot and what is to be there, or what is to be changed for "
                    + "its like."
            );
        }

        var alike = plan
            .Slots.Zip(fitted.Slots)
            .All(p => p.First.Module is { } m ? p.Second.Module?.IsLike(m) == true : p.Second.Module is null);
        return new PlanMended(plan, slots, alike, Words.RequiredText("Why it is changed", reason));
    }

    /// <summary>Whether something sits there once the plan is carried out, or may.</summary>
    internal static bool IsFull(PlannedSlot slot) => slot.Module is not null || (slot.Stays && !slot.Before.Known);

    private static bool WasEmpty(Plan plan, string slot) =>
        plan.Slots.FirstOrDefault(s => s.Slot == slot) is { Before: { Known: true, Module: null } };

    private static SlotChange? Wish(PlannedSlot s) =>
        s.Use switch
        {
            SlotUse.Fit => new SlotChange(s.Slot, Fit: s.Module),
            SlotUse.Move => new SlotChange(s.Slot, From: s.From),
            SlotUse.Empty => new SlotChange(s.Slot, Empty: true),
            _ => null,
        };
}
