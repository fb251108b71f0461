using Revtal.Core.Hardware;
using Revtal.Core.Parts;

namespace Revtal.Core.Orders;

/// <summary>A part that came out of a machine becomes used stock.</summary>
public static class BuyIn
{
    /// <summary>Its catalogue line, for a catalogue that has none yet, and the part itself.</summary>
    public static (PartKind Kind, PartItem Item) Of(Order order, OldPartSettled settled)
    {
        var plan = order.Plan!.Value;
        var module = plan.Slots.FirstOrDefault(s => s.Slot == settled.Position)?.Before.Module;
        var drive = plan.Bay(settled.Position)?.Before;
        var name =
            (module?.ToString() ?? drive?.ToString())
            ?? throw RefusedException.Rule(
                "part-unknown",
                $"Nobody read what came out of {settled.Position}: it cannot be bought in."
            );
        var number = module?.PartNumber ?? drive?.PartNumber ?? new PartNumber($"USED {name}");
        return (
            new PartKind(
                number,
                $"{name}, used",
                module is null ? null : module with { PartNumber = number, Serial = null },
                drive is null ? null : drive with { PartNumber = number, Serial = null },
                1,
                settled.Price ?? 0
            ),
            new PartItem(
                0,
                number,
                module?.Serial ?? drive?.Serial,
                PartState.InStock,
                settled.Price,
                order.Intake.Customer,
                null,
                order.Number,
                settled.Position,
                null,
                settled.Grade,
                settled.Tested
            )
        );
    }
}
