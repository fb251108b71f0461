using CsCheck;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>
/// Whatever is done in whatever order: a machine that was handed back without a lead's word has all that was promised.
/// </summary>
public sealed class PromiseTests
{
    private static readonly Guide Guide = Repository.Guide("QT40");
    private static readonly string[] Acts =
    [
        "step",
        "step",
        "step",
        "step",
        "step",
        "step",
        "step",
        "lose",
        "skip",
        "found",
        "found",
        "sign",
        "normal-start",
        "normal-start",
        "copy",
        "copy",
        "copy-differs",
        "read-good",
        "read-good",
        "read-raw",
        "read-short",
        "watch",
        "note-freeze",
        "came-back",
        "gone",
        "gone",
        "fate",
        "fate-drive",
        "reseat",
        "mend",
        "ready",
        "ready",
        "back",
        "back-told",
    ];

    // 8 GB goes for 16; the drive of D2 is copied, then replaced, and grown.
    private static readonly Reading Before = With([0, 8, 0, 0], "OLD-D2", 1000, false);

    [Fact]
    public void No_sequence_of_accepted_actions_ends_in_a_hand_back_with_a_promise_undone()
    {
        var handedBack = 0;
        Gen.Int[0, Acts.Length - 1]
            .Array[100, 260]
            .Sample(
                picks =>
                {
                    var told = new Told();
                    var bodies = Agreed();
                    foreach (var act in picks.Select(p => Acts[p]))
                    {
                        var order = Make.Order([.. bodies]);
                        if (order.Stage == Stage.HandedBack)
                        {
                            break;
                        }

                        if (Try(act, order) is { } body)
                        {
                            bodies.Add(body);
                            told = told.After(act, body);
                        }
                    }

                    if (Make.Order([.. bodies]).Stage == Stage.HandedBack)
                    {
                        handedBack++;
                        Assert.Equal(new Told(0, true, true, true, false, false, true, true, null, true), told);
                    }
                },
                iter: 600,
                threads: 1
            );
        // Most sequences go astray; some must come to the end, or nothing was tried.
        Assert.True(handedBack > 10, $"{handedBack}");
    }

    /// <summary>What was really done, kept beside the order and never asked of it.</summary>
    private sealed record Told(
        int Lost = 0,
        bool IsCopied = false,
        bool IsGrown = false,
        bool IsRead = false,
        bool IsWatched = false,
        bool CameBack = false,
        bool ModuleSettled = false,
        bool DriveSettled = false,
        int? SignIn = null,
        bool IsCleaned = false
    )
    {
        public Told After(string act, EntryBody body) =>
            (act, body) switch
            {
                ("lose", StepConfirmed) => this with { Lost = Lost + 1 },
                ("found", _) => this with { Lost = Lost - 1 },
                ("copy", CopyVerified) => this with { IsCopied = true },
                ("copy-differs", CopyVerified) => this with { IsCopied = false },
                ("step", StepConfirmed { Step.Work: "grow" }) => this with { IsGrown = true },
                ("step", StepConfirmed { Step.Verb: StepVerb.Clean }) => this with { IsCleaned = true },
                ("sign", FoundInside { Run: var run }) => this with { SignIn = run },
                ("normal-start", _) => this with { SignIn = null },
                // It was started again after other work, and nothing was told of it.
                ("step", StepConfirmed { Step: var step, Run: var run }) when step == StepId.PowerOn && run > SignIn =>
                    this with
                    {
                        SignIn = null,
                    },
                ("read-good", _) => this with { IsRead = true },
                ("read-raw" or "read-short", _) => this with { IsRead = false },
                // Another module sits there now: what was read is of the one before.
                ("mend", _) => this with { IsRead = false },
                ("watch", _) => this with { IsWatched = true },
                ("gone", _) => this with { IsWatched = false },
                ("came-back", _) => this with { IsWatched = false, CameBack = true },
                ("fate", _) => this with { ModuleSettled = true },
                ("back-told", _) => this with { ModuleSettled = true },
                ("fate-drive", _) => this with { DriveSettled = true },
                _ => this,
            };
    }

    private static EntryBody? Try(string act, Order order)
    {
        try
        {
            // The desk asks the table before any rule, and so does this.
            WhenMayWhat.NeedRole(ActOf(act, order), order, Role.Technician);
            WhenMayWhat.Need(ActOf(act, order), order, Guide);
            return Wish(act, order);
        }
        catch (RefusedException)
        {
            return null;
        }
    }

    private static OrderAct ActOf(string act, Order order) =>
        act switch
        {
            "step" or "lose" or "skip" => OrderAct.ConfirmStep,
            "found" or "sign" or "normal-start" => OrderAct.AddFind,
            "copy" or "copy-differs" when order.Copies.IsEmpty => OrderAct.BeginCopy,
            "copy" or "copy-differs" => OrderAct.VerifyCopy,
            "read-good" or "read-raw" or "read-short" => OrderAct.ReadAfter,
            "watch" => OrderAct.BeginWatch,
            "note-freeze" => OrderAct.NoteWatch,
            "came-back" or "gone" => OrderAct.EndWatch,
            "fate" or "fate-drive" => OrderAct.SettleOldPart,
            "reseat" => OrderAct.BeginReseat,
            "mend" => OrderAct.MendPlan,
            "ready" => OrderAct.MarkReady,
            _ => OrderAct.HandBack,
        };

    private static EntryBody? Wish(string act, Order order)
    {
        var now = order.ChangedAt.AddHours(1);
        var (on, day) = (order.RunState, DateOnly.FromDateTime(now.UtcDateTime));
        return act switch
        {
            "step" => Step(order, 0),
            "skip"
                when order.Sheet(Guide)!.Next(on) is { } next
                    && (next.Part == RunPart.SetUp || next.Id == StepId.Clean) => BenchRules.Confirm(
                order,
                Guide,
                new StepConfirmation(next.Id, "mara", now, Explanation: "no time", Deviation: Deviation.Skipped)
            ),
            "skip" => null,
            "lose" => order.Sheet(Guide)!.Next(on) is { Part: RunPart.Close, LooseFasteners: > 0 }
                ? Step(order, 1)
                : null,
            "found" => on.Loose is [var lost, ..]
                ? BenchRules.Find(order, Guide, FindKind.LostFastener, StepId.Close(lost.Removal), null)
                : null,
            "sign" => BenchRules.Find(order, Guide, FindKind.Sign, null, "a smell"),
            "normal-start" => BenchRules.Find(order, Guide, FindKind.NormalStart, null, null),
            "copy" or "copy-differs" when order.Copies.IsEmpty => DriveRules.BeginCopy(
                order,
                "D2",
                "OLD-D2",
                "NEW-D2",
                "image",
                DriveSize.Parse("300 GB")
            ),
            "copy" => DriveRules.VerifyCopy(order, "D2", 900, 900, 20, 20),
            "copy-differs" => DriveRules.VerifyCopy(order, "D2", 900, 900, 20, 19),
            "read-good" => Read(order, With([0, 16, 0, 0], "NEW-D2", 2000, false)),
            "read-raw" => Read(order, With([0, 16, 0, 0], "NEW-D2", 2000, true)),
            "read-short" => Read(order, With([0, 0, 0, 0], "NEW-D2", 2000, false)),
            "mend" => MendRules.Mend(order, Guide, [], ["A2"], "another one", Role.Technician),
            "watch" => WatchRules.BeginWatch(order, "freezes", now, now.AddDays(3), 1),
            "note-freeze" => WatchRules.NoteWatch(order, WatchSign.Freeze, day, now, null),
            "came-back" => WatchRules.EndWatch(order, Role.Technician, WatchOutcome.CameBack, now, "twice"),
            "gone" => WatchRules.EndWatch(order, Role.Technician, WatchOutcome.Gone, now.AddDays(9), null),
            "fate" => DriveRules.Settle(order, Guide, "A2", PartFate.Kept, null, null),
            "fate-drive" => DriveRules.Settle(order, Guide, "D2", PartFate.Kept, null, null),
            "reseat" => BenchRules.Reseat(order, Guide, ["A2"], null),
            "ready" => CloseRules.MarkReady(order, Guide, Role.Technician, "it will do"),
            "back" => CloseRules.HandBack(order, Guide, "M. Alto", null),
            _ => CloseRules.HandBack(order, Guide, "M. Alto", "the module in the bag"),
        };
    }

    private static StepConfirmed? Step(Order order, int fewer) =>
        order.Sheet(Guide)!.Next(order.RunState) is { } step
            ? BenchRules.Confirm(
                order,
                Guide,
                new StepConfirmation(
                    step.Id,
                    "mara",
                    order.ChangedAt.AddHours(1),
                    step.LooseFasteners > 0 ? step.LooseFasteners - fewer : null,
                    fewer > 0 ? "rolled off" : null,
                    Occupants: step.Records.Count > 0 && step.Id != StepId.RecordModules
                        ? step.Records.ToDictionary(p => p, p => $"OLD-{p}")
                        : null,
                    Seen: step.Part == RunPart.Measure ? MemorySize.Gigabytes(16) : null
                )
            )
            : null;

    private static ReadingTaken Read(Order order, Reading reading) =>
        MeasureRules.TakeReading(order, Guide, Phase.After, reading, null, null);

    private static List<EntryBody> Agreed()
    {
        SlotChange[] changes =
        [
            new("A2", new MemoryModule(MemorySize.Gigabytes(16), "DDR4", "DIMM")),
            new(
                "D2",
                Drive: new DriveWish(
                    new Drive(DriveSize.Sold(2000), Serial: "NEW-D2"),
                    DataPath.CopyFirst,
                    Setup: new DriveSetup(Grow: true)
                )
            ),
        ];
        return
        [
            Make.TakenIn("QT40"),
            new ReadingTaken(Phase.Before, Before, null, null),
            new PlanSet(Planner.Make(Guide, Before, changes) with { Cleans = true }, null),
            new PlanAgreed("M. Alto", null),
        ];
    }

    // The boot drive and one of data, as a system lists them.
    private static Reading With(int[] gigabytes, string serial, int sold, bool isRaw)
    {
        var memory = Make.Reading(Guide, gigabytes);
        return memory with
        {
            Drives =
            [
                new(
                    "D1",
                    new Drive(DriveSize.Sold(512), Serial: "BOOT"),
                    Boots: true,
                    Device: "nvme0n1",
                    Transport: "nvme",
                    Initialised: true
                ),
                new(
                    "D2",
                    new Drive(DriveSize.Sold(sold), Serial: serial),
                    Device: "sda",
                    Transport: "sata",
                    Initialised: !isRaw
                ),
            ],
        };
    }
}
