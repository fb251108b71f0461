using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Service.Arrivals;
using Revtal.Service.Batches;

namespace Revtal.Demo;

internal sealed partial class DemoShop
{
    private const int Machines = 12;

    // What sits in each: most are alike, two are not, and one has all that is wanted already.
    private static int[] Held(int place) =>
        place switch
        {
            5 or 11 => [16, 0],
            8 => [8, 8],
            _ => [8, 0],
        };

    // Twelve of the lab's mini PCs: four done, three in hand, the rest agreed; parts for two are missing.
    private async Task SchoolBatch()
    {
        string[] serials = [.. Enumerable.Range(1, Machines).Select(i => $"NM2-61{i:00}")];
        var taken = await desk.TakeInBatchAsync(
            [
                .. serials.Select(s =>
                    (
                        new TakeInRequest(
                            "NM2",
                            "School chemistry lab",
                            "The new measuring program swaps all lesson long",
                            "Dr. Kolb",
                            s,
                            "16 GB in each, before the term begins",
                            "Adapters in one box",
                            "Good",
                            Backup.Made
                        ),
                        (ToldArrival?)null
                    )
                ),
            ],
            serials,
            By("sanne"),
            CancellationToken.None
        );
        int[] orders = [.. taken.Select(t => t.Order)];
        var batch = orders[0];
        foreach (var (i, number) in orders.Index())
        {
            order = number;
            await Read(Phase.Before, serials[i], Held(i + 1), "tobi");
        }

        order = orders[7];
        await Do("tobi", (o, _) => BatchRules.Leave(o, "It has 16 GB already: the lab wants it left as it is"));
        await Do("sanne", (_, _) => CloseRules.Cancel("Nothing to do; it goes back with the others"));
        order = batch;
        await Plan("tobi", new SlotChange("S2", Ddr5(8) with { Maker = "Tarnmoor", PartNumber = new("TM-8S5") }));
        var pattern = PlanWishes.Of((await shelf.LoadAsync(batch)).Order.Plan!.Value);
        await Together(
            "tobi",
            batch,
            OrderAct.SetPlan,
            m => m.Order.Stage == Stage.Measured,
            m => PlanRules.SetPlan(m.Order, m.Guide, pattern, "As the first")
        );
        var priced = new Dictionary<int, Core.Parts.Quote>();
        foreach (var number in orders.Where(n => n != orders[7]))
        {
            order = number;
            priced[number] = await QuoteAsync();
        }

        await Together(
            "sanne",
            batch,
            OrderAct.Agree,
            m => BatchDesk.IsFor(OrderAct.Agree, m),
            m => PlanRules.Agree("Dr. Kolb, by mail", null, priced[m.Order.Number])
        );
        int[] hands = [.. orders.Where(n => n != orders[7])];
        var given = BatchRules.Spread(hands, ["juno", "tobi"]);
        await Together(
            "ines",
            batch,
            OrderAct.NameOwner,
            m => given.ContainsKey(m.Order.Number),
            m => new OwnerNamed(given[m.Order.Number])
        );
        foreach (var (i, number) in orders.Take(4).Index())
        {
            order = number;
            await RunAll("juno", serial: _ => $"BS25-{61 + i}");
            await Read(Phase.After, serials[i], [8, 8], "juno");
            await Do("juno", (o, g) => CloseRules.MarkReady(o, g, Role.Technician, null));
        }

        foreach (var number in orders[8..11])
        {
            order = number;
            await RunUntil("tobi", StepId.Open("bottom"));
        }
    }
}
