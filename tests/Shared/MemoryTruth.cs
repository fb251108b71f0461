using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Revtal.Dummies;

namespace Revtal.Tests;

/// <summary>
/// Every model × whatever can happen to its modules × how the machine was read. The truth is written down from what was
/// done to the machine.
/// </summary>
internal static class MemoryTruth
{
    private static readonly DateTimeOffset Noon = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);
    private static readonly string[] Ways = ["capture", "tables alone", "eyes", "total alone"];

    // What is told of channels, and of drives that were not read, is no matter of the modules themselves.
    private static readonly string[] Beside = ["balance-lost", "array-not-told", "drives-not-read"];

    public static TruthOutcome Judge(TruthCase truth)
    {
        var check = truth.Check();
        var told = check.Findings.Where(f => f.Severity != Severity.Note && !Beside.Contains(f.Code)).ToArray();
        var codes = told.Select(f => f.Code).Distinct().Order().ToArray();
        var place = told.FirstOrDefault(f => f.Code == truth.Codes.FirstOrDefault())?.Action.Slots ?? [];
        var isElsewhere = truth.Bay is { } slot && place.Count > 0 && !place.Contains(slot);
        // Less than the truth is unsure, as long as the verdict does not deny it.
        return Truths.IsBetter(check.Verdict, truth.Worst) || isElsewhere ? TruthOutcome.Wrong
            : codes.SequenceEqual(truth.Codes.Order()) ? TruthOutcome.Right
            : truth.ReadBy == "total alone" || codes.All(truth.Codes.Contains) ? TruthOutcome.Unsure
            : TruthOutcome.Wrong;
    }

    public static IEnumerable<TruthCase> Cases(IEnumerable<Guide> guides) =>
        from guide in guides
        let free = guide.Memory.Slots.Where(s => !s.Soldered && s.Max?.Bytes >= 16L << 30).ToArray()
        where free.Length > 1
        from way in Ways
        from truth in Added(guide, free, way).Concat(Both(guide, free, way))
        select truth;

    // The 8 GB that is there stays; 16 GB come beside it.
    private static IEnumerable<TruthCase> Added(Guide guide, MemorySlot[] free, string way)
    {
        var (kept, empty) = (free[0].Id, free[1].Id);
        var before = Machine(guide, (kept, Module(guide, 8, "OLD")));
        var added = Module(guide, 16, "NEW");
        var right = With(before, empty, added);
        yield return Case("done", right, []);
        yield return Case("forgotten", before, ["nothing-changed"], empty, Verdict.NotSeen);
        yield return Case(
            "not seated",
            With(before, empty, added with { Seat = DummySeat.Half }),
            ["nothing-changed"],
            empty,
            Verdict.NotSeen
        );
        yield return Case(
            "in a dead slot",
            right with
            {
                FaultySlots = [empty],
            },
            ["nothing-changed"],
            empty,
            Verdict.NotSeen
        );
        yield return Case(
            "a larger one",
            With(before, empty, Module(guide, 32, "BIG")),
            ["more-than-expected"],
            empty,
            Verdict.WithRemarks
        );
        yield return Case("the kept one loose", Loose(right, kept), ["kept-module-missing"], kept);
        yield return Case(
            "the kept one is a stranger's",
            With(right, kept, Module(guide, 8, "STRANGER")),
            ["kept-module-gone"],
            kept
        );
        yield return Case(
            "another piece",
            With(before, empty, Module(guide, 16, "OTHER")),
            ["module-not-booked"],
            empty,
            Verdict.WithRemarks
        );
        yield return Case(
            "changed over",
            With(With(before, kept, added), empty, Module(guide, 8, "OLD")),
            ["in-other-slot"],
            empty,
            Verdict.WithRemarks
        );
        yield return Case(
            "a larger one, and the kept one is a stranger's",
            With(With(before, empty, Module(guide, 32, "BIG")), kept, Module(guide, 8, "STRANGER")),
            ["kept-module-gone", "more-than-expected"],
            kept
        );
        yield return Case(
            "the kept one loose, and another piece",
            Loose(With(before, empty, Module(guide, 16, "OTHER")), kept),
            ["kept-module-missing", "module-not-booked"],
            kept
        );
        if (guide.Memory.Speeds is [var slow, _, ..])
        {
            yield return Case(
                "the kept one loose, and a slower one",
                Loose(With(before, empty, Module(guide, 16, "SLOW", slow, "OX-16")), kept),
                ["kept-module-missing", "module-slower", "module-not-booked"],
                kept
            );
            yield return Case(
                "a slower one",
                With(before, empty, Module(guide, 16, "SLOW", slow, "OX-16")),
                ["module-slower", "module-not-booked"],
                empty,
                Verdict.WithRemarks
            );
        }

        TruthCase Case(
            string done,
            DummyMachine after,
            string[] codes,
            string? slot = null,
            Verdict worst = Verdict.Short
        ) => Make(guide, way, $"16 GB added: {done}", before, right, after, [empty], codes, slot, worst);
    }

    // The 8 GB goes, and 16 GB come into two slots.
    private static IEnumerable<TruthCase> Both(Guide guide, MemorySlot[] free, string way)
    {
        var (first, second) = (free[0].Id, free[1].Id);
        var old = Module(guide, 8, "OLD");
        var before = Machine(guide, (first, old));
        var right = With(With(before, first, Module(guide, 16, "N1")), second, Module(guide, 16, "N2"));
        yield return Case("done", right, []);
        yield return Case("the old one still in", With(right, first, old), ["module-not-changed"], first);
        yield return Case("the second loose", Loose(right, second), ["module-not-seen"], second);
        yield return Case("a smaller one", With(right, second, Module(guide, 8, "SMALL")), ["module-smaller"], second);
        yield return Case(
            "the old one still in, and a smaller one",
            With(With(right, first, old), second, Module(guide, 8, "SMALL")),
            ["module-not-changed", "module-smaller"],
            first
        );
        yield return Case(
            "a smaller one, and the second loose",
            Loose(With(right, first, Module(guide, 8, "SMALL")), second),
            ["module-not-seen", "module-smaller"],
            second
        );
        yield return Case(
            "two smaller ones",
            With(With(right, first, Module(guide, 8, "S1")), second, Module(guide, 8, "S2")),
            ["module-smaller"],
            first
        );
        yield return Case(
            "changed over",
            With(With(before, first, Module(guide, 16, "N2")), second, Module(guide, 16, "N1")),
            ["in-other-slot"],
            first,
            Verdict.WithRemarks
        );

        TruthCase Case(
            string done,
            DummyMachine after,
            string[] codes,
            string? slot = null,
            Verdict worst = Verdict.Short
        ) => Make(guide, way, $"16 GB twice: {done}", before, right, after, [first, second], codes, slot, worst);
    }

    private static TruthCase Make(
        Guide guide,
        string way,
        string done,
        DummyMachine before,
        DummyMachine right,
        DummyMachine after,
        string[] fitted,
        string[] codes,
        string? slot,
        Verdict worst
    ) =>
        new(
            guide.Model.Code,
            done,
            way,
            () => Check(guide, way, before, right, after, fitted),
            codes,
            slot,
            codes.Length == 0 ? Verdict.AsPlanned
                : way == "total alone" && worst == Verdict.WithRemarks ? Verdict.AsPlanned
                : way == "total alone" && codes.Contains("kept-module-gone") ? Verdict.AsPlanned
                : worst
        );

    private static CheckResult Check(
        Guide guide,
        string way,
        DummyMachine before,
        DummyMachine right,
        DummyMachine after,
        string[] fitted
    )
    {
        var was = Read(guide, "capture", before);
        // The piece of the catalogue with the label that the bench read on it.
        var parts = Occupancy.Of(guide, Read(guide, "capture", right)).ToDictionary(c => c.Slot, c => c.Module!);
        var plan = Planner.Make(guide, was, [.. fitted.Select(s => new SlotChange(s, parts[s]))]);
        return Checker.Check(
            guide,
            new Recorded<Reading>(was, 2),
            new Recorded<Plan>(plan, 3),
            new Recorded<Reading>(Read(guide, way, after), 5)
        );
    }

    private static Reading Read(Guide guide, string way, DummyMachine machine)
    {
        var on = DummyStart.Of(guide, machine, Noon).Machine with { StartedAt = Noon };
        var bundle = way == "capture" ? DummyReport.All(guide, on, Noon.AddMinutes(5)) : DummyReport.Memory(guide, on);
        var reading = CaptureDecoder.Decode(bundle.ToFiles());
        return way switch
        {
            "total alone" => EyeReading.Make(new MemorySize(reading.Memory.InstalledBytes!.Value), null, [], null),
            "eyes" => EyeReading.Make(
                null,
                null,
                [.. Occupancy.Of(guide, reading).Select(c => new SeenSlot(c.Slot, c.Module, c.RunningSpeed))],
                null
            ),
            _ => reading,
        };
    }

    private static DummyMachine Machine(Guide guide, params (string Slot, DummyFitted Module)[] fitted)
    {
        var made = DummyMachine.Make(guide, "one", null, $"{guide.Model.Code}-1");
        var soldered = made.Slots.Where(s => guide.Slot(s.Key)!.Soldered);
        return made with
        {
            Slots = soldered.Select(s => (s.Key, s.Value)).Concat(fitted).ToDictionary(s => s.Item1, s => s.Item2),
        };
    }

    private static DummyMachine With(DummyMachine machine, string slot, DummyFitted module) =>
        machine with
        {
            Slots = new Dictionary<string, DummyFitted>(machine.Slots) { [slot] = module },
        };

    private static DummyMachine Loose(DummyMachine machine, string slot) =>
        With(machine, slot, machine.Slots[slot] with { Seat = DummySeat.Half });

    private static DummyFitted Module(
        Guide guide,
        int gigabytes,
        string serial,
        int? speed = null,
        string? part = null
    ) => DummyParts.Module(guide, gigabytes, speed, $"{guide.Model.Code}-{serial}", part);
}
