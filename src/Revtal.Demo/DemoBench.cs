using Revtal.Core.Orders;

namespace Revtal.Demo;

/// <summary>Who has what in hand at Saltmarsh Road, where it lies and for when it was promised.</summary>
internal sealed partial class DemoShop
{
    private static readonly (int Order, string? Owner, string? Place, double? Hours)[] Lying =
    [
        (102, null, "Hand-back shelf", -2),
        (103, "mara", "Bench 1", -0.7),
        (104, "tobi", "Bench 2", 3),
        (105, "mara", "Shelf A", 0.3),
        (110, "pell", "Bench 3", 20),
        (111, "mara", "Tray table", 26),
        (114, null, "Hand-back shelf", null),
        (119, "juno", "Bench 4", 5),
        (121, "pell", "Server corner", 90),
        (123, "juno", "Shelf A", null),
        (124, "tobi", "Bench 5", 48),
    ];

    private async Task Bench()
    {
        var now = TimeProvider.System.GetUtcNow();
        foreach (var (number, owner, place, hours) in Lying)
        {
            order = number;
            if (owner is not null)
            {
                await Do(owner, (_, _) => SharedRules.NameOwner(owner, Staff));
            }

            await Do("sanne", (_, _) => SharedRules.TellPlace(place));
            if (hours is { } from)
            {
                await Do("sanne", (_, _) => new Promised(now.AddHours(from)));
            }
        }

        order = 122;
        await Do(
            "juno",
            (_, _) =>
                SharedRules.NameOwner("pell", Staff, "The cable of D2 is stiff: hold the board while you press it")
        );
    }
}
