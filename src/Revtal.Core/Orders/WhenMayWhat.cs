using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>One act, and what keeps it from being done now.</summary>
/// <param name="WhyNot">What to do first; null where it may be done now.</param>
public sealed record Allowance(OrderAct Act, string? WhyNot);

/// <summary>
/// When may what: the one table of acts and stages, and what an act waits for beyond its stage. The desk asks it before
/// any rule, and every face takes its buttons and hints from it.
/// </summary>
public static class WhenMayWhat
{
    // The columns of the table. A swap test that runs is one of its own: it stands before the stage that it was begun
    // in.
    private static readonly string[] Columns =
    [
        nameof(Stage.TakenIn),
        nameof(Stage.Measured),
        nameof(Stage.Planned),
        nameof(Stage.Agreed),
        nameof(Stage.OnBench),
        nameof(Stage.Checking),
        nameof(Order.Swap),
        nameof(Stage.Watching),
        nameof(Stage.Ready),
        nameof(Stage.HandedBack),
        nameof(Stage.Parked),
        nameof(Stage.Cancelled),
    ];

    // csharpier-ignore-start
    private static readonly Dictionary<OrderAct, string> Table = new()
    {
        //                           taken in measured planned agreed bench checking swap watch ready back parked closed
        [OrderAct.ReadBefore] =      "x        x        x       .      .     .        .    .     .     .    .      .",
        [OrderAct.VouchReading] =    ".        x        .       .      .     .        .    .     .     .    .      .",
        [OrderAct.SetPlan] =         ".        x        x       x      x     .        .    .     .     .    .      .",
        [OrderAct.NoteLater] =       "x        x        x       x      x     x        x    x     x     x    x      .",
        [OrderAct.DropLater] =       "x        x        x       x      x     x        x    x     x     x    x      .",
        [OrderAct.MendPlan] =        ".        .        x       x      .     x        .    .     .     .    .      .",
        [OrderAct.OfferQuote] =      ".        .        x       .      .     .        .    .     .     .    .      .",
        [OrderAct.RevokeQuote] =     ".        .        x       .      .     .        .    .     .     .    x      x",
        [OrderAct.Agree] =           ".        .        x       .      .     .        .    .     .     .    x      .",
        [OrderAct.Decline] =         ".        .        x       .      .     .        .    .     .     .    x      .",
        [OrderAct.BeginCopy] =       ".        .        x       x      x     x        x    .     .     .    .      .",
        [OrderAct.AdvanceCopy] =     ".        .        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.VerifyCopy] =      ".        .        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.ConfirmStep] =     ".        .        .       x      x     x        .    .     .     .    .      .",
        [OrderAct.TakeStepBack] =    ".        .        .       .      x     .        .    .     .     .    .      .",
        [OrderAct.BlockStep] =       ".        .        .       x      x     .        .    .     .     .    .      .",
        [OrderAct.WaiveGate] =       ".        .        .       x      x     .        .    .     .     .    .      .",
        [OrderAct.AddFind] =         ".        .        .       x      x     x        x    x     x     .    .      .",
        [OrderAct.TellCameOff] =     ".        .        .       x      x     .        .    .     .     .    .      .",
        [OrderAct.TellPosition] =    "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.AdoptGuide] =      "x        x        x       x      x     .        .    .     .     .    x      .",
        [OrderAct.ReadOpen] =        ".        .        .       .      x     .        .    .     .     .    .      .",
        [OrderAct.ReadAfter] =       ".        .        .       .      x     x        .    x     .     .    .      .",
        [OrderAct.BeginReseat] =     ".        .        .       .      x     x        .    x     .     .    .      .",
        [OrderAct.BeginSwapTest] =   ".        .        .       .      x     x        .    x     .     .    .      .",
        [OrderAct.TrySwap] =         ".        .        .       .      .     .        x    .     .     .    .      .",
        [OrderAct.EndSwapTest] =     ".        .        .       .      .     .        x    .     .     .    .      .",
        [OrderAct.BeginWatch] =      ".        x        .       .      .     x        .    .     x     .    .      .",
        [OrderAct.NoteWatch] =       ".        .        .       .      x     x        .    x     .     .    .      .",
        [OrderAct.EndWatch] =        ".        .        .       .      x     x        .    x     .     .    .      .",
        [OrderAct.MarkReady] =       ".        .        .       .      .     x        .    .     .     .    .      .",
        [OrderAct.ReleaseHold] =     ".        .        .       x      x     x        x    x     x     .    x      .",
        [OrderAct.HandBack] =        ".        .        .       .      .     .        .    .     x     .    .      .",
        [OrderAct.MakeReport] =      ".        .        .       .      .     .        .    .     x     x    .      .",
        [OrderAct.OfferReport] =     ".        .        .       .      .     .        .    .     x     x    .      .",
        [OrderAct.AgreeExtra] =      ".        .        .       x      x     x        x    x     x     x    x      .",
        [OrderAct.DropExtra] =       ".        .        .       x      x     x        x    x     x     x    x      .",
        [OrderAct.MakeInvoice] =     ".        .        .       .      .     .        .    .     x     x    .      .",
        [OrderAct.ReverseInvoice] =  ".        .        .       .      .     .        .    .     x     x    .      .",
        [OrderAct.TakePayment] =     ".        .        .       .      .     .        .    .     x     x    .      .",
        [OrderAct.SettleOldPart] =   ".        .        .       .      x     x        x    x     x     .    x      .",
        [OrderAct.BagOldPart] =      ".        .        .       .      x     x        x    x     x     .    x      .",
        [OrderAct.TakeScores] =      "x        x        x       x      x     x        x    x     x     .    .      .",
        [OrderAct.AskTrial] =        "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.RunTrial] =        ".        .        .       .      .     x        .    x     x     .    .      .",
        [OrderAct.TellVariant] =     "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.TellSeal] =        "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.CorrectIntake] =   "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.TellCopy] =        "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.Park] =            "x        x        x       x      x     x        x    x     x     .    .      .",
        [OrderAct.Resume] =          ".        .        .       .      .     .        .    .     .     .    x      .",
        [OrderAct.Cancel] =          "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.AddNote] =         "x        x        x       x      x     x        x    x     x     x    x      x",
        [OrderAct.AddPhoto] =        "x        x        x       x      x     x        x    x     x     x    x      x",
        [OrderAct.SuggestChange] =   "x        x        x       x      x     x        x    x     x     x    x      x",
        [OrderAct.LeaveBatch] =      "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.JoinBatch] =       "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.NameOwner] =       "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.ReadHandOver] =    "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.TellPlace] =       "x        x        x       x      x     x        x    x     x     .    x      .",
        [OrderAct.Promise] =         "x        x        x       x      x     x        x    x     x     .    x      .",
    };
    // csharpier-ignore-end

    private static readonly Dictionary<OrderAct, bool[]> Grid = Table.ToDictionary(r => r.Key, r => Read(r.Value));

    /// <summary>The code of a refusal that the stage alone makes.</summary>
    public const string WrongStage = "wrong-stage";

    private const string PlanStands = "Its plan is being carried out: what comes later is for a new order.";
    private const string WorkDone = "The work on the bench is done.";
    private const string PastThat = "It is past that.";

    // Said where the order is past the act.
    private static readonly Dictionary<OrderAct, string> Past = new()
    {
        [OrderAct.ReadBefore] = "The customer agreed to a plan that rests on the before reading.",
        [OrderAct.SetPlan] = PlanStands,
        [OrderAct.OfferQuote] = "The customer agreed already.",
        [OrderAct.Agree] = "The customer agreed already.",
        [OrderAct.Decline] = "The customer agreed already: change the plan instead.",
        [OrderAct.BeginCopy] = WorkDone,
        [OrderAct.ConfirmStep] = WorkDone,
        [OrderAct.TakeStepBack] = WorkDone,
        [OrderAct.BlockStep] = WorkDone,
        [OrderAct.WaiveGate] = WorkDone,
        [OrderAct.TellCameOff] = WorkDone,
        [OrderAct.MendPlan] = "The check is accepted.",
        [OrderAct.ReadOpen] = "The machine is closed again.",
        [OrderAct.ReadAfter] = "The check is accepted.",
        [OrderAct.BeginReseat] = "The check is accepted.",
        [OrderAct.BeginSwapTest] = "The check is accepted.",
        [OrderAct.MarkReady] = "It is ready already.",
    };

    // What a person looks for, and so is told why it cannot be done now.
    private static readonly HashSet<OrderAct> LookedFor =
    [
        OrderAct.ReadBefore,
        OrderAct.SetPlan,
        OrderAct.OfferQuote,
        OrderAct.Agree,
        OrderAct.BeginCopy,
        OrderAct.ConfirmStep,
        OrderAct.ReadOpen,
        OrderAct.ReadAfter,
        OrderAct.BeginReseat,
        OrderAct.BeginSwapTest,
        OrderAct.BeginWatch,
        OrderAct.MarkReady,
        OrderAct.HandBack,
        OrderAct.SettleOldPart,
        OrderAct.TakeScores,
        OrderAct.TellVariant,
        OrderAct.Park,
        OrderAct.Cancel,
    ];

    /// <summary>Proves that the act may be done now.</summary>
    /// <exception cref="RefusedException">It may not; the message says what to do first.</exception>
    public static void Need(OrderAct act, Order order, Guide guide)
    {
        if (WhyNot(act, order, guide) is { } no)
        {
            throw no;
        }
    }

    // The desk's hands stay off the machine, and off a plan that the customer agreed to.
    private static readonly HashSet<OrderAct> Hands =
    [
        OrderAct.ConfirmStep,
        OrderAct.TakeStepBack,
        OrderAct.BlockStep,
        OrderAct.AddFind,
        OrderAct.TellCameOff,
        OrderAct.TellPosition,
        OrderAct.ReadOpen,
        OrderAct.ReadAfter,
        OrderAct.BeginReseat,
        OrderAct.BeginSwapTest,
        OrderAct.TrySwap,
        OrderAct.EndSwapTest,
        OrderAct.MendPlan,
        OrderAct.RunTrial,
        OrderAct.BeginCopy,
        OrderAct.AdvanceCopy,
        OrderAct.VerifyCopy,
        OrderAct.MarkReady,
        OrderAct.ReadHandOver,
    ];

    /// <summary>Proves that a person of this role may do it at all.</summary>
    /// <exception cref="RefusedException">It is for somebody else; the message says for whom.</exception>
    public static void NeedRole(OrderAct act, Order order, Role role)
    {
        if (role == Role.Desk && (Hands.Contains(act) || (act == OrderAct.SetPlan && order.WorkStage >= Stage.Agreed)))
        {
            throw new RefusedException(
                RefusalKind.Role,
                "technician-does",
                act == OrderAct.SetPlan
                    ? "An agreed plan is changed by a technician; the customer is asked again."
                    : "That is a technician's: it is told by who has the machine in hand."
            );
        }
    }

    /// <summary>Why the act cannot be done now; null where it can.</summary>
    public static RefusedException? WhyNot(OrderAct act, Order order, Guide guide) =>
        IsAllowed(act, order) ? Waits(act, order, guide) : NotAtThisStage(act, order);

    /// <summary>
    /// Every act that may be done now, and of the others those that a person would look for, with what to do first.
    /// </summary>
    public static IReadOnlyList<Allowance> Of(Order order, Guide guide) =>
        [
            .. Table
                .Keys.Select(act => new Allowance(act, WhyNot(act, order, guide)?.Message))
                .Where(a => a.WhyNot is null || LookedFor.Contains(a.Act)),
        ];

    /// <summary>
    /// Whether the table has a cross where the order stands; what the act waits for beyond that is not asked.
    /// </summary>
    public static bool IsAllowed(OrderAct act, Order order) =>
        Grid.TryGetValue(act, out var cells) && cells[Column(order)];

    private static int Column(Order order) =>
        order.Swap is not null && order.Stage != Stage.Parked && order.IsOpen
            ? Array.IndexOf(Columns, nameof(Order.Swap))
            : Array.IndexOf(Columns, order.Stage.ToString());

    private static RefusedException NotAtThisStage(OrderAct act, Order order) =>
        order switch
        {
            { IsOpen: false } => Refuse(order, "It is closed; take the machine in again."),
            { Stage: Stage.Parked } => Refuse(order, "Resume it first."),
            _ when act == OrderAct.Resume => Refuse(order, "It is not parked."),
            { Swap: not null } => RefusedException.Rule(
                "swap-test-runs",
                "A swap test runs: tell it what the start showed, or end it first."
            ),
            _ when act is OrderAct.TrySwap or OrderAct.EndSwapTest => RefusedException.Rule(
                "no-swap-test",
                $"No swap test runs on order {order.Number}. Begin one."
            ),
            { Stage: Stage.Watching } => Refuse(order, "It is watched: end the watch first."),
            _ when act is OrderAct.NoteWatch or OrderAct.EndWatch => Refuse(order, "Begin a watch first."),
            _ when IsPast(act, order.Stage) => Refuse(order, Past.GetValueOrDefault(act, PastThat)),
            _ => Refuse(order, $"{First(order.Stage)} first."),
        };

    private static bool IsPast(OrderAct act, Stage stage) =>
        !Grid[act]
            .AsSpan()[Array.IndexOf(Columns, stage.ToString())..Array.IndexOf(Columns, nameof(Stage.HandedBack))]
            .Contains(true);

    // What moves an order on from where it stands.
    private static string First(Stage stage) =>
        stage switch
        {
            Stage.TakenIn => "Take the before reading",
            Stage.Measured => "Plan which module goes where",
            Stage.Planned => "Get the customer's word on the plan",
            Stage.Agreed => "Begin the run",
            Stage.OnBench => "Finish the run and take the after reading",
            Stage.Checking => "Mark it ready",
            _ => "Hand it back",
        };

    // What the act wants beyond the stage; only what can be said without the wish itself.
    private static RefusedException? Waits(OrderAct act, Order order, Guide guide) =>
        act switch
        {
            OrderAct.ReadAfter when order.StepsLeft(guide) is { Left: > 0 } left => RefusedException.Rule(
                "run-not-done",
                $"The run is not done: {Phrases.Counted(left.Left, "step is", "steps are")} not confirmed. "
                    + $"Next: “{left.Next}”."
            ),
            OrderAct.SetPlan when order.Doubts(guide) is [var doubt, ..] => RefusedException.Rule(
                "reading-doubted",
                $"{doubt} Is the before reading of this machine? Take it again, correct what was written down, or say "
                    + "why it is right."
            ),
            OrderAct.TellCameOff or OrderAct.TellPosition when !guide.IsSketch => RefusedException.Rule(
                "guide-published",
                $"The guide of {guide.Model.Code} is published: suggest a change of it instead."
            ),
            OrderAct.VouchReading when order.Doubts(guide).Count == 0 => RefusedException.Rule(
                "nothing-doubted",
                "Nothing speaks against the before reading."
            ),
            OrderAct.SetPlan when order.Runs.Count > 1 || BenchRules.HandsWereIn(order, guide) => RefusedException.Rule(
                "plan-too-late",
                "Modules have been pulled or fitted by this plan already. End this run and measure, then change "
                    + "what was fitted."
            ),
            OrderAct.MendPlan when order.Runs.IsEmpty || (order.Stage != Stage.Checking && !order.MendWaits) =>
                RefusedException.Rule("nothing-fitted", "Nothing was fitted yet: set the plan instead."),
            OrderAct.Agree or OrderAct.Decline when order.WorkStage != Stage.Planned => Refuse(
                order,
                "Resume it first."
            ),
            OrderAct.ReadHandOver when order.HandOver is null => RefusedException.Rule(
                "nothing-handed-over",
                "Nothing was handed over in words, or it was read already."
            ),
            OrderAct.ConfirmStep when order.HandOver is { } over => RefusedException.Rule(
                "hand-over-unread",
                $"{over.By} says of it: “{over.Word}” Say that you have read that, then go on."
            ),
            OrderAct.OfferQuote
            or OrderAct.Agree
                when PlanRules.Sealed(order, guide, order.Plan!.Value) is { Weight: FitWeight.Refusal } seal =>
                seal.Refuse(),
            OrderAct.ConfirmStep when order.Stage == Stage.Checking && order.SetUpLeft(guide).Count == 0 => Refuse(
                order,
                WorkDone
            ),
            OrderAct.DropLater when order.Later is null => RefusedException.Rule(
                "nothing-noted",
                "Nothing is noted for a later visit."
            ),
            OrderAct.LeaveBatch when order.Batch is null => RefusedException.Rule(
                "no-batch",
                $"Order {order.Number} is of no batch."
            ),
            OrderAct.JoinBatch when order.Batch is { } batch => RefusedException.Rule(
                "in-batch",
                $"Order {order.Number} is of batch {batch} already. Let it leave that first."
            ),
            OrderAct.RevokeQuote when order.Offered is null => RefusedException.Rule(
                "no-link",
                "No link of a quote is open on this order."
            ),
            OrderAct.BeginCopy when order.Plan?.Value.Bays.Any(b => b.CopiesFirst) != true => RefusedException.Rule(
                "no-copy-planned",
                "The plan copies no drive's data. Plan a drive whose data is copied first."
            ),
            OrderAct.AdvanceCopy or OrderAct.VerifyCopy when order.Copies.IsEmpty => RefusedException.Rule(
                "no-copy",
                "No copy was begun."
            ),
            OrderAct.SettleOldPart or OrderAct.BagOldPart when order.Plan?.Value.ComesOut.Count is null or 0 =>
                RefusedException.Rule("nothing-comes-out", "By the plan nothing comes out for good."),
            OrderAct.SettleOldPart or OrderAct.BagOldPart when order.CameOut(guide).Count == 0 => RefusedException.Rule(
                "not-out-yet",
                "Nothing came out yet: confirm the step that takes it out, then say what becomes of it."
            ),
            OrderAct.TakeStepBack when order.Run is not { Done.IsEmpty: false } => RefusedException.Rule(
                "nothing-to-take-back",
                "Nothing is confirmed in this run yet."
            ),
            OrderAct.BeginWatch when order.Watches => RefusedException.Rule("watch-runs", "It is watched already."),
            OrderAct.NoteWatch or OrderAct.EndWatch when !order.Watches => Refuse(order, "Begin a watch first."),
            OrderAct.ReadAfter
            or OrderAct.BeginReseat
            or OrderAct.BeginSwapTest when order.Stage == Stage.Watching && order.Plan is null => RefusedException.Rule(
                "no-plan",
                "Nothing was planned on it: end the watch, then plan."
            ),
            OrderAct.BeginReseat when order.Stage == Stage.OnBench && !order.IsClosed(guide) => Refuse(
                order,
                "The machine lies open: take the step back that fitted it, and fit it anew in this run."
            ),
            OrderAct.BeginSwapTest when order.Stage == Stage.OnBench && !BenchRules.HandsWereIn(order, guide) => Refuse(
                order,
                "Nothing was pulled or fitted yet: finish the run and take the after reading first."
            ),
            OrderAct.MarkReady when order.After is null => RefusedException.Rule(
                "nothing-to-check",
                "No reading was taken after the work. Take it first."
            ),
            OrderAct.HandBack
                when order.FatesOpen(guide).Where(o => o.IsDrive).Select(o => o.Position).ToArray()
                    is { Length: > 0 } open => RefusedException.Rule(
                "old-drive-open",
                $"Say first what becomes of the drive from {Phrases.Listed(open)}: {PartFates.Choices}."
            ),
            OrderAct.HandBack when Holds.Open(order, guide).Where(h => h.StopsReady).ToArray() is [var hold, ..] =>
                RefusedException.Rule("held", $"{hold.Sentence} {hold.Ends} A lead may release it with a reason."),
            OrderAct.OfferReport when order.Reports.IsEmpty => NoReport(order.Number),
            OrderAct.AgreeExtra or OrderAct.MakeInvoice when order.Agreed?.Quote is null => NothingAgreed(order),
            OrderAct.AgreeExtra
            or OrderAct.DropExtra
            or OrderAct.MakeInvoice when order.Invoice is { Number: var number } => RefusedException.Rule(
                "invoice-stands",
                $"Invoice {number} stands. Reverse it with a reason, then make another."
            ),
            OrderAct.DropExtra when order.Extras.IsEmpty => RefusedException.Rule(
                "no-extra",
                $"No extra work was agreed on order {order.Number}."
            ),
            OrderAct.ReverseInvoice when order.Invoice is null => NoInvoice(order.Number),
            OrderAct.TakePayment when order.Invoices.IsEmpty => NoInvoice(order.Number),
            OrderAct.ReleaseHold when Holds.Open(order, guide).Count == 0 => RefusedException.Rule(
                "nothing-held",
                "Nothing holds this order."
            ),
            OrderAct.Cancel when order.Sheet(guide) is { } sheet && Tally.Of(sheet, order.RunState).IsOpen =>
                RefusedException.Rule(
                    "tally-open",
                    "The machine lies open. Close it and count the fasteners back, then cancel."
                ),
            _ => null,
        };

    /// <summary>What is said where no report was made.</summary>
    public static RefusedException NoReport(int order) =>
        RefusedException.Rule("no-report", $"No report of order {order} was made yet. Make it first.");

    /// <summary>What is said where no price was agreed.</summary>
    public static RefusedException NothingAgreed(Order order) =>
        RefusedException.Rule(
            "nothing-agreed",
            $"No price was agreed on order {order.Number}. Plan the work and get the customer's word on its quote."
        );

    /// <summary>What is said where no invoice stands.</summary>
    public static RefusedException NoInvoice(int order) =>
        RefusedException.Rule("no-invoice", $"No invoice of order {order} stands. Make it first.");

    private static RefusedException Refuse(Order order, string way) =>
        RefusedException.Rule(WrongStage, $"Order {order.Number} is {order.Stage.Spoken()}. {way}");

    private static bool[] Read(string cells) =>
        [.. cells.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(c => c == "x")];
}
