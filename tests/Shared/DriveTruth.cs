using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Revtal.Dummies;

namespace Revtal.Tests;

/// <summary>
/// Every model × whatever can happen to its drives × how the machine was read. The truth is written down from what was
/// done to the machine.
/// </summary>
internal static class DriveTruth
{
    private const long Old = 1_000_204_886_016,
        New = 2_000_398_934_016;
    private static readonly DateTimeOffset Noon = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);
    private static readonly string[] Ways = ["capture", "capture without paths", "eyes"];

    // What only explains, or tells what is to be done with a new drive that is there.
    private static readonly string[] Beside = ["drive-size-explained", "drive-space-unused"];

    public static TruthOutcome Judge(TruthCase truth)
    {
        var check = truth.Check();
        var told = check
            .Findings.Where(f => f.Code.Split('-')[0] is "drive" or "drives" or "bay" or "array" or "boots")
            .Where(f => !Beside.Contains(f.Code))
            .ToArray();
        var codes = told.Select(f => f.Code).Distinct().Order().ToArray();
        if (codes.SequenceEqual(truth.Codes.Order()))
        {
            var slots = told.FirstOrDefault(f => f.Code == truth.Codes.FirstOrDefault())?.Action.Slots ?? [];
            var isElsewhere = truth.Bay is { } bay && slots.Count > 0 && !slots.Contains(bay);
            return Truths.IsBetter(check.Verdict, truth.Worst) || isElsewhere ? TruthOutcome.Wrong
                : truth.Bay is null || slots.Count > 0 ? TruthOutcome.Right
                : TruthOutcome.Unsure;
        }

        // Less than the truth is unsure, as long as nothing else is said and the verdict does not deny it.
        return
            codes.All(c => truth.Codes.Contains(Known(c))) && !Truths.IsBetter(check.Verdict, truth.Worst)
            || (truth.ReadBy != "capture" && codes.Length == 0 && check.Verdict == Verdict.Unknown)
            || (truth is { ReadBy: "capture without paths", Codes: ["bay-order-changed"] } && codes.Length == 0)
            ? TruthOutcome.Unsure
            : TruthOutcome.Wrong;
    }

    // Where no place is read, it cannot be known whose place the stranger took.
    private static string Known(string code) => code == "drive-stranger" ? "drive-foreign" : code;

    public static IEnumerable<TruthCase> Cases(IEnumerable<Guide> guides) =>
        from guide in guides
        where guide.Drives.Count > 0
        from way in Ways
        from truth in Left(guide, way).Concat(Changed(guide, way)).Concat(Added(guide, way))
        select truth;

    // Memory is all that was planned: every drive was to stay.
    private static IEnumerable<TruthCase> Left(Guide guide, string way)
    {
        var full = Full(guide);
        yield return Case("nothing", full, [], null);
        foreach (var bay in guide.Drives.Where(b => !b.Boots))
        {
            yield return Case($"{bay.Id} left off", Without(full, bay.Id), ["drive-gone"], bay.Id);
        }

        foreach (var bay in guide.Drives)
        {
            yield return Case(
                $"{bay.Id} holds a stranger's drive",
                With(full, bay, Drive(bay, Old, "STRANGER")),
                ["drive-foreign"],
                bay.Id
            );
        }

        var alike = guide.Drives.GroupBy(b => b.Link).FirstOrDefault(g => g.Count() > 1)?.ToArray();
        if (alike is [var one, .., var other])
        {
            yield return Case(
                $"{one.Id} and {other.Id} changed over",
                full with
                {
                    Bays = new Dictionary<string, DummyDrive>(full.Bays)
                    {
                        [one.Id] = full.Bays[other.Id],
                        [other.Id] = full.Bays[one.Id],
                    },
                },
                ["bay-order-changed"],
                one.Id
            );
        }

        TruthCase Case(string done, DummyMachine after, string[] codes, string? bay) =>
            Make(guide, way, done, full, after, [], codes, bay);
    }

    // One drive was to be replaced by a larger one.
    private static IEnumerable<TruthCase> Changed(Guide guide, string way)
    {
        var full = Full(guide);
        foreach (var bay in guide.Drives)
        {
            var (part, serial) = ("BX-2T", $"NEW-{bay.Id}");
            var right = With(full, bay, Drive(bay, New, serial, part));
            var change = Change(guide, bay, part, serial);
            yield return Case("done", right, [], null);
            yield return Case("nothing done", full, ["drive-not-changed", "drive-missing"], bay.Id);
            if (!bay.Boots)
            {
                // Without its boot drive it has no system that could be asked.
                yield return Case(
                    "done, raw",
                    With(full, bay, Drive(bay, New, serial, part, true)),
                    ["drive-raw"],
                    bay.Id
                );
                yield return Case("not seated", Without(full, bay.Id), ["drive-missing"], bay.Id);
            }

            yield return Case(
                "a smaller one",
                With(full, bay, Drive(bay, 512_110_190_592, "SMALL")),
                ["drive-smaller"],
                bay.Id
            );
            yield return Case(
                "another model",
                With(full, bay, Drive(bay, New, serial, "BZ-2T")),
                ["drive-other"],
                bay.Id
            );
            yield return Case(
                "another piece",
                With(full, bay, Drive(bay, New, "OTHER", part)),
                ["drive-other"],
                bay.Id
            );
            if (guide.Drives.FirstOrDefault(b => b.Id != bay.Id && !b.Boots) is { } kept)
            {
                yield return Case($"done, {kept.Id} left off", Without(right, kept.Id), ["drive-gone"], kept.Id);
            }

            TruthCase Case(string done, DummyMachine after, string[] codes, string? where) =>
                Make(guide, way, $"{bay.Id} to be replaced: {done}", full, after, [change], codes, where);
        }
    }

    // A drive was to come into an empty bay.
    private static IEnumerable<TruthCase> Added(Guide guide, string way)
    {
        foreach (var bay in guide.Drives.Where(b => !b.Boots))
        {
            var before = Without(Full(guide), bay.Id);
            var (part, serial) = ("BX-2T", $"NEW-{bay.Id}");
            var change = Change(guide, bay, part, serial);
            var right = With(before, bay, Drive(bay, New, serial, part));
            yield return Case("done", right, [], null);
            yield return Case("not seated", before, ["drive-missing"], bay.Id);
            if (guide.Drives.FirstOrDefault(b => b.Id != bay.Id && !b.Boots) is { } kept)
            {
                yield return Case(
                    $"done, {kept.Id} holds a stranger's",
                    With(right, kept, Drive(kept, Old, "STRANGER")),
                    ["drive-foreign"],
                    kept.Id
                );
            }

            TruthCase Case(string done, DummyMachine after, string[] codes, string? where) =>
                Make(guide, way, $"{bay.Id} to be filled: {done}", before, after, [change], codes, where);
        }
    }

    private static TruthCase Make(
        Guide guide,
        string way,
        string done,
        DummyMachine before,
        DummyMachine after,
        SlotChange[] changes,
        string[] codes,
        string? bay
    )
    {
        // A box is an array over all of its bays: whoever is missing is missing there too.
        var isArray = guide.Drives.Count >= 4 && way != "eyes";
        var degraded = isArray && after.Bays.Count < guide.Drives.Count;
        string[] due = [.. codes, .. degraded ? ["array-degraded"] : Array.Empty<string>()];
        var isShort = due.Any(c => c is not ("drive-other" or "drive-raw"));
        return new TruthCase(
            guide.Model.Code,
            done,
            way,
            () => Check(guide, way, before, after, changes),
            due,
            bay,
            due.Length == 0 ? Verdict.AsPlanned
                : isShort ? Verdict.Short
                : Verdict.WithRemarks
        );
    }

    private static CheckResult Check(
        Guide guide,
        string way,
        DummyMachine before,
        DummyMachine after,
        SlotChange[] changes
    )
    {
        var was = Read(guide, way, before);
        var first = guide.Memory.Slots.First(s => before.Slots.ContainsKey(s.Id));
        var plan = Planner.Make(guide, was, [new SlotChange(first.Id, Inspect: true), .. changes]);
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
        var files = DummyReport.All(guide, on, Noon.AddMinutes(5)).ToFiles();
        var capture = CaptureDecoder.Decode([.. files.Where(f => way == "capture" || f.Name != "by-path.txt")]);
        return way == "eyes"
            ? capture with
            {
                Arrays = [],
                Drives =
                [
                    .. machine.Bays.Select(b => new DriveReading(
                        b.Key,
                        new Drive(
                            new DriveSize(b.Value.Bytes),
                            PartNumber: PartNumber.Of(b.Value.Model),
                            Serial: b.Value.Serial
                        ),
                        Initialised: b.Value.PartitionBytes > 0 ? null : false
                    )),
                ],
                EmptyBays = [.. guide.Drives.Select(b => b.Id).Where(b => !machine.Bays.ContainsKey(b))],
            }
            : capture;
    }

    private static DummyMachine Full(Guide guide)
    {
        var made = DummyMachine.Make(guide, "one", null, $"{guide.Model.Code}-1");
        return made with
        {
            Bays = guide.Drives.ToDictionary(b => b.Id, b => Drive(b, Old, $"{guide.Model.Code}-{b.Id}")),
        };
    }

    private static DummyMachine With(DummyMachine machine, DriveBay bay, DummyDrive drive) =>
        machine with
        {
            Bays = new Dictionary<string, DummyDrive>(machine.Bays) { [bay.Id] = drive },
        };

    private static DummyMachine Without(DummyMachine machine, string bay) =>
        machine with
        {
            Bays = machine.Bays.Where(b => b.Key != bay).ToDictionary(),
        };

    private static DummyDrive Drive(DriveBay bay, long bytes, string serial, string? model = null, bool raw = false)
    {
        var drive = DummyParts.Drive(bay, bytes, serial, initialised: !raw);
        return model is null ? drive : drive with { Model = $"Basaltine {model}" };
    }

    private static SlotChange Change(Guide guide, DriveBay bay, string part, string serial) =>
        new(
            bay.Id,
            Drive: new DriveWish(
                new Drive(
                    new DriveSize(New),
                    bay.Form!.Replace(" SATA", "", StringComparison.Ordinal),
                    bay.Key,
                    bay.Link,
                    PartNumber: PartNumber.Of(part),
                    Serial: serial
                ),
                DataPath.CleanInstall,
                ArrayState: guide.Drives.Count >= 4 ? "clean" : null
            )
        );
}
