using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Storage.Shapes;

namespace Revtal.Service.Orders;

/// <summary>An order with everything that follows from it, as its page is sent.</summary>
internal static class OrderViews
{
    /// <param name="newer">The guide's newest revision, if it is newer than the order's.</param>
    /// <param name="nearlyFull">From how many percent on a drive is nearly full.</param>
    /// <param name="people">Everybody of the shop.</param>
    public static OrderView Of(OrderSnapshot snapshot, int? newer, int nearlyFull, IReadOnlyList<Person> people)
    {
        var (order, guide) = (snapshot.Order, snapshot.Guide);
        var assessment = snapshot.Assessment;
        return new OrderView
        {
            Number = order.Number,
            Head = order.Head,
            Stage = order.Stage,
            Next = assessment.Next,
            Actions = WhenMayWhat.Of(order, guide),
            Intake = order.Intake,
            TakenInAt = order.TakenInAt,
            ChangedAt = order.ChangedAt,
            Reason = order.Reason,
            Model = guide.Model,
            Revision = order.Revision,
            NewerRevision = newer,
            Variant = order.Variant,
            Batch = order.Batch,
            Owner = order.Owner,
            HandOver = order.HandOver,
            Place = order.Place,
            PromisedAt = order.PromisedAt,
            Waiting = assessment.Waiting,
            Parking = order.Parking,
            Variants = [.. snapshot.Model.Variants.Select(v => new VariantLine(v.Id, v.TellApart))],
            Positions = Positions(snapshot, assessment.Check),
            Bays = guide.Drives,
            BayStates = Bays(snapshot),
            KeepsArray = Planner.KeepsArray(guide),
            Advice = order.Advice,
            Trial = order.Trial,
            Before = Reading(snapshot, order.Before),
            Doubts = order.Doubts(guide),
            After = Reading(snapshot, order.Checked),
            Readings =
            [
                .. snapshot.Entries.Where(e => e.Body is ReadingTaken).Select(e => Line(e, (ReadingTaken)e.Body)),
            ],
            Invites = [.. order.Invites.Select(i => new InviteLine(i.Phase, i.Until, i.By))],
            Plan = order.Plan is { } plan
                ? new PlanView(
                    plan.Value,
                    assessment.Expectation!,
                    [.. assessment.Notes, .. NearlyFull.Notes(order, guide, nearlyFull)],
                    order.Discount,
                    order.Later?.Stage
                )
                : null,
            NearlyFull = NearlyFull.Of(order, guide, nearlyFull),
            Later = order.Later,
            AgreedBy = order.AgreedBy,
            Agreed = order.Agreed?.Quote,
            Offered = order.Offered is { } o ? new OfferedView(o.Quote.Total, o.Quote.Currency, o.Until) : null,
            Declined = order.Declined,
            Copy = order.Copy,
            CopyBays = [.. (order.Plan?.Value.Bays ?? []).Where(b => b.CopiesFirst).Select(b => b.Bay)],
            Copies = [.. order.Copies.Select(CopyView.Of)],
            ComesOut = Leaving(order, guide),
            Run = Run(snapshot, assessment),
            Photos = order.Photos,
            Check = assessment.Check,
            Holds = assessment.Holds,
            ParkedUntil = order.ParkedUntil,
            Swap = order.Swap is { } swap ? new SwapView(swap.Setup, swap.Trials, swap.State, swap.LeftOpen) : null,
            SwapResults = order.SwapResults,
            Watch = order.Watch,
            Journal = Journal(snapshot, people),
        };
    }

    private static PositionView[] Positions(OrderSnapshot snapshot, CheckResult? check)
    {
        var (order, guide) = (snapshot.Order, snapshot.Guide);
        var before = order.Before is { } b ? Occupancy.Of(guide, b.Value) : null;
        var after = order.Checked is { } c ? Occupancy.Of(guide, c.Value) : null;
        return
        [
            .. guide.Memory.Slots.Select(
                (s, i) => new PositionView(s, before?[i], order.Plan?.Value.Slots[i], after?[i], check?.Rows[i].Match)
            ),
        ];
    }

    private static BayView[] Bays(OrderSnapshot snapshot)
    {
        var drives = snapshot.Order.Before is { Value: var read } ? DrivePlaces.Of(snapshot.Guide, read) : [];
        return
        [
            .. snapshot.Guide.Drives.Select(bay =>
            {
                var drive = drives.FirstOrDefault(d => d.Bay == bay.Id);
                return new BayView(
                    bay.Id,
                    drive is null ? null : new DriveReadingView(drive.Drive, drive.UsedBytes),
                    snapshot.Order.Before is { } before && Planner.IsEmpty(bay.Id, before.Value, drives),
                    Planner.DefaultPath(bay, drive?.Drive)
                );
            }),
        ];
    }

    private static LeavingView[] Leaving(Order order, Guide guide)
    {
        var bags = Bags.Of(order, guide).ToDictionary(b => b.Position);
        return
        [
            .. (order.Plan?.Value.ComesOut ?? []).Select(o =>
            {
                var settled = order.Settled.FirstOrDefault(s => s.Position == o.Position);
                return new LeavingView(
                    o.Position,
                    o.Name,
                    o.IsDrive,
                    bags.GetValueOrDefault(o.Position),
                    settled,
                    settled?.Words,
                    Choices(o)
                );
            }),
        ];
    }

    private static FateChoice[] Choices(LeavingPart part) =>
        [
            .. Enum.GetValues<PartFate>()
                .Where(f => part.IsDrive || f != PartFate.Wiped)
                .Select(f => new FateChoice(
                    f,
                    f.Spoken(),
                    part.IsDrive && f.WantsWipe(),
                    f.WantsClaim(),
                    f.WantsOrder()
                )),
        ];

    private static RunView? Run(OrderSnapshot snapshot, Assessment assessment)
    {
        if (assessment.Sheet is not { } sheet)
        {
            return null;
        }

        var order = snapshot.Order;
        var state = order.RunState;
        return new RunView(
            order.Run?.Number ?? 1,
            order.Run?.Reseat ?? [],
            order.Run?.Mends == true,
            [
                .. sheet.Steps.Select(s => new StepView(
                    s,
                    state.Confirmed(s.Id),
                    sheet.IsSettled(s, state),
                    state.Blocked.FirstOrDefault(b => b.Step == s.Id),
                    !sheet.IsSettled(s, state) && RunSheet.Closed(s, state) is { } closed
                        ? new StepClosed(closed.Code, closed.Message, RefusalAnswers.To(closed.Code))
                        : null
                )),
            ],
            assessment.NextStep?.Id,
            WhenMayWhat.WhyNot(OrderAct.TakeStepBack, order, snapshot.Guide) is null ? order.Run?.Done[^1].Step : null,
            assessment.Tally!,
            sheet.Timers(state),
            state.Stop,
            state.Found,
            SignAnswers.Of(snapshot.Guide, order.Plan!.Value, state),
            state.Waivers,
            Remarks(state, snapshot.Guide)
        );
    }

    private static RunRemark[] Remarks(RunState state, Guide guide)
    {
        var found = state.Found.Select(f => new RunRemark(
            Phrases.Sentence($"{f.Told}{StepWords.At(f.Step, guide)}{Phrases.Added(f.Text)}"),
            f.By,
            f.At
        ));
        var waived = state.Waivers.Select(w => new RunRemark(
            $"Waived, {w.Gate.Spoken()}{StepWords.At(w.Step, guide)} – {w.Reason}",
            w.By,
            w.At
        ));
        return [.. found.Concat(waived).OrderBy(r => r.At)];
    }

    private static JournalLine[] Journal(OrderSnapshot snapshot, IReadOnlyList<Person> people) =>
        [
            .. snapshot.Entries.Select(e => new JournalLine(
                e.Sequence,
                e.At,
                e.By,
                EntryKinds.NameOf(e.Body),
                e.Body.Line(snapshot.Guide, people),
                OrderActs.Topic(e.Body.Act),
                e.Said,
                snapshot.Order.Notes.GetValueOrDefault(e.Sequence)?.Begun
            )),
        ];

    private static ReadingLine Line(Entry entry, ReadingTaken taken) =>
        new(
            entry.Sequence,
            taken.Phase,
            entry.At,
            entry.By,
            taken.Reading.Sources,
            taken.Reading.Memory.InstalledBytes,
            taken.Reading.Memory.UsableBytes,
            taken.Reading.Conflicts,
            taken.Reading.Missing,
            taken.Photo,
            taken.Invite is not null,
            taken.Note
        );

    private static ReadingView? Reading(OrderSnapshot snapshot, Recorded<Reading>? recorded) =>
        recorded is { Sequence: var s, Value: var reading }
        && snapshot.Entries[s - 1] is { Body: ReadingTaken taken } entry
            // The load is long, and asked for by itself.
            ? new ReadingView(s, entry.At, entry.By, taken.Capture, reading with { Load = null })
            : null;
}
