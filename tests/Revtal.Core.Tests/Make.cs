using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;

namespace Revtal.Tests.Core;

/// <summary>Short ways to readings, plans and orders.</summary>
internal static class Make
{
    public static readonly Guide Fjell = Repository.Guide("FJ14");
    public static readonly Guide Kliff = Repository.Guide("PW24");
    public static readonly Person Mara = new("mara", "Mara Lind", Role.Technician);
    private static readonly DateTimeOffset Start = new(2026, 3, 2, 8, 0, 0, TimeSpan.Zero);

    public static MemoryModule Module(int gigabytes, string? serial = null, string? part = null, int? speed = null) =>
        new(MemorySize.Gigabytes(gigabytes), "DDR4", "SO-DIMM", speed, null, PartNumber.Of(part), serial);

    /// <summary>A firmware reading of the guide's slots in order, in GB; 0 empty, -1 unknown.</summary>
    public static Reading Reading(
        Guide guide,
        int[] gigabytes,
        double? usableGigabytes = null,
        string? machine = null,
        int? speed = null,
        string?[]? serials = null,
        int? rated = null
    )
    {
        var slots = guide
            .Memory.Slots.Select(
                (s, i) =>
                    new SlotReading(
                        s.ReportsAs,
                        null,
                        gigabytes[i] < 0 ? null : MemorySize.Gigabytes(gigabytes[i]).Bytes,
                        guide.Memory.Module,
                        guide.Memory.Generation,
                        rated ?? speed,
                        speed,
                        null,
                        serials?[i]
                    )
            )
            .ToArray();
        return new Reading(
            [Source.FirmwareTables],
            new SystemIdentity(null, null, machine),
            FirmwareIdentity.Unknown,
            new MemoryReading(
                gigabytes.Contains(-1) ? null : MemorySize.Gigabytes(gigabytes.Sum()).Bytes,
                usableGigabytes is { } u ? (long)(u * (1L << 30)) : null,
                null,
                slots.Length,
                slots
            )
        );
    }

    public static CheckResult Check(Guide guide, Reading before, Reading after, params SlotChange[] changes) =>
        Checker.Check(guide, new(before, 2), new(Planner.Make(guide, before, changes), 3), new(after, 9));

    /// <summary>The code by which the table refuses an act now; null where it may be done.</summary>
    public static string? WhyNot(OrderAct act, Order order, Guide? guide = null) =>
        WhenMayWhat.WhyNot(act, order, guide ?? Fjell)?.Code;

    public static Order Order(params EntryBody[] bodies) =>
        Revtal.Core.Orders.Order.Fold(
            bodies.Select((b, i) => new Entry(101, i + 1, Guid.NewGuid(), Start.AddMinutes(i), "mara", b))
        );

    public static TakenIn TakenIn(string model = "FJ14") =>
        new(
            new Intake("Choir's archive", null, null, "slow", null, null, null, Backup.Made, SealConsent.NoSeal),
            model,
            1
        );

    /// <summary>An order that is agreed: one 8 GB module in S2, a second goes into S1 under the keyboard.</summary>
    public static EntryBody[] Agreed()
    {
        var before = Reading(Fjell, [0, 8]);
        return
        [
            TakenIn(),
            new ReadingTaken(Phase.Before, before, null, null),
            new PlanSet(Planner.Make(Fjell, before, [new SlotChange("S1", Module(8))]), null),
            new PlanAgreed("M. Alto", null),
        ];
    }

    /// <summary>The same with every step confirmed.</summary>
    public static EntryBody[] Run()
    {
        var bodies = Agreed();
        var order = Order(bodies);
        foreach (var step in order.Sheet(Fjell)!.Steps)
        {
            var body = BenchRules.Confirm(
                order,
                Fjell,
                new StepConfirmation(
                    step.Id,
                    "mara",
                    Start.AddDays(1),
                    step.LooseFasteners > 0 ? step.LooseFasteners : null,
                    Seen: step.Part == RunPart.Measure ? MemorySize.Gigabytes(16) : null
                )
            );
            bodies = [.. bodies, body];
            order = Order(bodies);
        }

        return bodies;
    }
}
