using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Revtal.Documents;
using Revtal.Service.Machines;
using Revtal.Service.Orders;
using Revtal.Service.Planning;
using Revtal.Storage;

namespace Revtal.Service.Batches;

/// <summary>Orders of a batch brought together: what they hold, want and cost.</summary>
public sealed class BatchDesk(
    OrderDesk orders,
    OrderShelf shelf,
    PlanDesk plans,
    QuoteDesk quotes,
    PartStore parts,
    MachineDesk machines
)
{
    // What a batch can be told as a whole.
    private static readonly OrderAct[] Acts =
    [
        OrderAct.SetPlan,
        OrderAct.OfferQuote,
        OrderAct.RevokeQuote,
        OrderAct.Agree,
        OrderAct.Decline,
        OrderAct.ConfirmStep,
        OrderAct.MarkReady,
        OrderAct.HandBack,
    ];

    /// <summary>A list of machines before anything is taken in.</summary>
    public async Task<BatchListView> ReadAsync(string text, CancellationToken cancel)
    {
        var list = BatchTable.Read(text);
        if (list.Count > BatchRules.Most)
        {
            BatchRules.NeedSound(list);
        }

        var troubles = BatchRules.Troubles(list).ToDictionary(t => t.Line, t => t.Why);
        var lines = new List<BatchListLine>();
        foreach (var (i, machine) in list.Index())
        {
            var known = machine.Serial.Length > 0 ? await machines.FindAsync(machine.Serial, cancel) : null;
            lines.Add(
                new BatchListLine(
                    i + 1,
                    machine,
                    troubles.GetValueOrDefault(i + 1),
                    [
                        .. (known?.Orders ?? [])
                            .Where(o => o.Stage is not (Stage.HandedBack or Stage.Cancelled))
                            .Select(o => o.Number),
                    ],
                    known?.Orders.Count ?? 0,
                    known?.Noted
                )
            );
        }

        return new BatchListView(lines);
    }

    /// <summary>The batch as its page shows it.</summary>
    /// <exception cref="RefusedException">There is none.</exception>
    public async Task<BatchView> ViewAsync(int batch, CancellationToken cancel)
    {
        var members = await orders.MembersAsync(batch, cancel);
        var priced = await QuotesAsync([.. members.Where(m => m.Order.Plan is not null)], cancel);
        var first = members[0];
        return new BatchView(
            batch,
            first.Order.Intake.Customer,
            first.Order.Model,
            $"{first.Guide.Model.Maker} {first.Guide.Model.Name}",
            [.. members.Select(m => Machine(m, priced.GetValueOrDefault(m.Order.Number)))],
            await GoneAsync(batch, members, cancel),
            BatchStanding.Likenesses([.. members.Select(Member)]),
            Parts([.. members.Select(m => m.Order)]),
            priced.Count == 0 ? null : BatchStanding.Together([.. priced.Values]),
            Offered(members),
            BatchStanding.Totals([.. members.Select(m => (m.Order, m.Assessment.Check))]),
            priced.Values.FirstOrDefault()?.Currency,
            [
                .. Acts.Select(act => new BatchAct(
                        act,
                        [.. members.Where(m => IsFor(act, m)).Select(m => m.Order.Number)]
                    ))
                    .Where(a => a.Orders.Count > 0),
            ]
        );
    }

    /// <summary>Whether an act is for this machine now, without a lead's word.</summary>
    public static bool IsFor(OrderAct act, OrderSnapshot m) =>
        m.Order.IsOpen
        && WhenMayWhat.WhyNot(act, m.Order, m.Guide) is null
        && act switch
        {
            // What waits for its plan; one that is agreed is planned anew by itself.
            OrderAct.SetPlan => WaitsForPlan(m),
            OrderAct.ConfirmStep => m.Order.Stage is Stage.Agreed or Stage.OnBench,
            OrderAct.MarkReady => m.Assessment.Next.Kind == NextKind.MarkReady,
            OrderAct.HandBack => m.Assessment.Next.Kind == NextKind.HandBack,
            _ => true,
        };

    /// <summary>At which steps its machines stand.</summary>
    public async Task<BatchRunView> RunAsync(int batch, CancellationToken cancel)
    {
        var members = await orders.MembersAsync(batch, cancel);
        var steps = BatchStanding.Steps([.. members.Select(Member)]);
        return new BatchRunView(
            batch,
            [
                .. steps.Select(s => new BatchStepView(
                    s.Step.Id,
                    Phrases.Words(s.Step.Part),
                    s.Step.Title,
                    [.. s.Step.Lines],
                    s.Step.Precautions,
                    s.Together,
                    s.Orders
                )),
            ],
            [.. members.Select(m => Machine(m, null))],
            [.. members.Select(m => m.Order.Number).Except(steps.SelectMany(s => s.Orders))]
        );
    }

    /// <summary>What became of each machine.</summary>
    public async Task<IReadOnlyList<BatchLine>> LinesAsync(int batch, CancellationToken cancel) =>
        [
            .. (await orders.MembersAsync(batch, cancel)).Select(m => new BatchLine(
                m.Order.Number,
                m.Order.Intake.Serial,
                m.Order.Stage.Spoken(),
                m.Order.InstalledAt(Core.Captures.Phase.Before),
                m.Assessment.Check?.Installed.After,
                m.Assessment.Check?.Verdict,
                m.Assessment.Check?.Sentence ?? m.Assessment.Next.Text,
                m.Order.Plan is { } plan ? PlanWords.Short(plan.Value) : "",
                BatchStanding.Ran(m.Order),
                m.Order.Agreed?.Quote?.Total
            )),
        ];

    /// <summary>What one plan would lead to on each machine; nothing is recorded.</summary>
    public async Task<BatchPreview> PreviewAsync(
        int batch,
        BatchPlanRequest request,
        Role role,
        CancellationToken cancel
    )
    {
        var members = await orders.MembersAsync(batch, cancel);
        var set = await DeciderAsync(batch, request, members, role, cancel);
        var planned = new List<OrderSnapshot>();
        var refused = new Dictionary<int, string>();
        foreach (var member in members.Where(m => IsMeant(request, m)))
        {
            try
            {
                WhenMayWhat.Need(OrderAct.SetPlan, member.Order, member.Guide);
                planned.Add(Planned(member, set(member)));
            }
            catch (RefusedException e)
            {
                refused[member.Order.Number] = e.Message;
            }
        }

        var priced = await QuotesAsync(planned, cancel);
        // Told against the machine whose plan the others get, or against most of them.
        var pattern = members.FirstOrDefault(m => m.Order.Number == request.Like)?.Order;
        var usual =
            request.Changes is null && pattern is not null
                ? Leaves(pattern)
                : planned
                    .Select(p => Leaves(p.Order))
                    .CountBy(l => l)
                    .OrderByDescending(l => l.Value)
                    .Select(l => l.Key)
                    .FirstOrDefault();
        return new BatchPreview(
            [
                .. members
                    .Where(m => IsMeant(request, m))
                    .Select(m =>
                        planned.FirstOrDefault(p => p.Order.Number == m.Order.Number) is { Order: var order } p
                            ? new BatchPlanLine(
                                order.Number,
                                order.Intake.Serial,
                                null,
                                Leaves(order) is var leaves && leaves == usual ? null : leaves,
                                PlanWords.Short(order.Plan!.Value),
                                priced[order.Number].Total,
                                p.Assessment.Notes
                            )
                            : new BatchPlanLine(
                                m.Order.Number,
                                m.Order.Intake.Serial,
                                refused[m.Order.Number],
                                null,
                                null,
                                null,
                                []
                            )
                    ),
            ],
            Parts([.. planned.Select(p => p.Order)]),
            priced.Count == 0 ? null : BatchStanding.Together([.. priced.Values])
        );
    }

    /// <summary>Which machines a plan is for.</summary>
    public static bool IsMeant(BatchPlanRequest request, OrderSnapshot m) =>
        request.Only is { } only ? only.Contains(m.Order.Number) : WaitsForPlan(m) && m.Order.Number != request.Like;

    private static bool WaitsForPlan(OrderSnapshot m) => m.Order.Stage is Stage.Measured or Stage.Planned;

    /// <summary>The rule that plans each machine so.</summary>
    /// <exception cref="RefusedException">Neither changes nor a planned machine is told, or a machine is meant that is
    /// not of the batch.</exception>
    public async Task<Func<OrderSnapshot, PlanSet>> DeciderAsync(
        int batch,
        BatchPlanRequest request,
        IReadOnlyList<OrderSnapshot> members,
        Role role,
        CancellationToken cancel
    )
    {
        NeedMembers(batch, request.Only, members);
        var like = request.Like is { } number
            ? members.FirstOrDefault(m => m.Order.Number == number)?.Order ?? throw NotOf(batch, number)
            : null;
        var changes =
            request.Changes
            ?? (
                like?.Plan is { } pattern
                    ? PlanWishes.Of(pattern.Value)
                    : throw RefusedException.Invalid(
                        "plan-missing",
                        "Name the machine whose plan the others get, once it has one; or tell what goes where."
                    )
            );
        if (changes.Any(c => c.Fit?.Serial is not null || c.Drive?.Drive.Serial is not null))
        {
            throw RefusedException.Invalid(
                "batch-serial",
                "A part with a serial goes into one machine. Leave the serial out for a batch."
            );
        }

        var cleans = request.Cleans ?? like?.Plan?.Value.Cleans ?? false;
        var whole = plans.Complete(batch, new PlanRequest(changes, Cleans: cleans));
        return m =>
            PlanRules.SetPlan(
                m.Order,
                m.Guide,
                whole.Changes,
                request.Note,
                role,
                request.Discount ?? like?.Discount ?? 0,
                cleans: cleans
            );
    }

    /// <summary>Proves that all that are named are of the batch.</summary>
    /// <exception cref="RefusedException">One is not.</exception>
    public static void NeedMembers(int batch, IReadOnlyList<int>? only, IReadOnlyList<OrderSnapshot> members)
    {
        if (only?.Except(members.Select(m => m.Order.Number)).ToArray() is [var stranger, ..])
        {
            throw NotOf(batch, stranger);
        }
    }

    private static RefusedException NotOf(int batch, int order) =>
        RefusedException.NotFound("not-of-batch", $"Order {order} is not of batch {batch}.");

    /// <summary>What each planned machine costs: as agreed, as offered, or at today's prices.</summary>
    public async Task<IReadOnlyDictionary<int, Quote>> QuotesAsync(
        IReadOnlyList<OrderSnapshot> planned,
        CancellationToken cancel
    )
    {
        var today = await TodayAsync(
            planned.Where(m => (m.Order.Agreed?.Quote ?? m.Order.Offered?.Quote) is null),
            cancel
        );
        return planned.ToDictionary(
            m => m.Order.Number,
            m => m.Order.Agreed?.Quote ?? m.Order.Offered?.Quote ?? today[m.Order.Number]
        );
    }

    /// <summary>What each planned machine costs at today's prices.</summary>
    public async Task<IReadOnlyDictionary<int, Quote>> TodayAsync(
        IEnumerable<OrderSnapshot> planned,
        CancellationToken cancel
    )
    {
        var priced = new Dictionary<int, Quote>();
        foreach (var m in planned)
        {
            priced[m.Order.Number] = await quotes.QuoteAsync(m.Order, m.Guide, cancel);
        }

        return priced;
    }

    private IReadOnlyList<BatchPart> Parts(IReadOnlyList<Order> planned)
    {
        var numbers = planned
            .Where(o => o.Plan is not null)
            .SelectMany(o => StockEffects.Wishes(o.Plan!.Value))
            .Select(w => w.Number)
            .Distinct()
            .ToArray();
        return numbers.Length == 0 ? [] : BatchStanding.Parts(planned, parts.Here(numbers), parts.Kinds(numbers));
    }

    private async Task<IReadOnlyList<BatchGone>> GoneAsync(
        int batch,
        IReadOnlyList<OrderSnapshot> members,
        CancellationToken cancel
    )
    {
        var came = members.Select(m => m.Order).FirstOrDefault(o => o.Intake.Batch?.Batch(o.Number) == batch);
        var gone = new List<BatchGone>();
        foreach (
            var number in Enumerable
                .Range(batch, came?.Intake.Batch?.Of ?? 0)
                .Except(members.Select(m => m.Order.Number))
        )
        {
            var snapshot = await shelf.LoadAsync(number, cancel);
            gone.Add(
                new BatchGone(
                    number,
                    snapshot.Order.Intake.Serial,
                    snapshot.Entries.Select(e => e.Body).OfType<BatchLeft>().LastOrDefault()?.Reason ?? ""
                )
            );
        }

        return gone;
    }

    private static OfferedView? Offered(IReadOnlyList<OrderSnapshot> members)
    {
        QuoteOffered[] open = [.. members.Select(m => m.Order.Offered).OfType<QuoteOffered>()];
        // Where one of those that it offers moved on, the link opens nothing any more.
        return
            open.FirstOrDefault(o => o.With is not null) is { } link
            && open.Where(o => o.LinkHash == link.LinkHash).ToArray() is var same
            && same.Length == link.With!.Count
            ? new OfferedView(same.Sum(o => o.Quote.Total), link.Quote.Currency, link.Until)
            : null;
    }

    private static BatchMachineView Machine(OrderSnapshot m, Quote? quote) =>
        new(
            OrderCard.Of(m.Order, m.Guide, m.Assessment),
            m.Order.Intake.Serial,
            m.Order.Intake.Condition,
            m.Order.Plan is { } plan ? PlanWords.Short(plan.Value) : null,
            quote?.Total,
            m.Order.InstalledAt(Core.Captures.Phase.Before),
            m.Assessment.Check?.Installed.After,
            BatchStanding.Ran(m.Order)
        );

    private static BatchMember Member(OrderSnapshot m) => new(m.Order, m.Guide);

    // As it would be with the plan; nothing is recorded.
    private static OrderSnapshot Planned(OrderSnapshot m, PlanSet set) =>
        new(m.Order.With(set), m.Model, m.Entries, m.Proved);

    private static string Leaves(Order order) =>
        order.Plan!.Value.ComesOut is { Count: > 0 } out_
            ? $"comes out: {Phrases.Listed(out_.Select(o => $"{o.Name} from {o.Position}"))}"
            : "nothing comes out";
}
