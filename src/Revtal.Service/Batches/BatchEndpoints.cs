using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Documents;
using Revtal.Service.Arrivals;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Service.Planning;
using Revtal.Storage;

namespace Revtal.Service.Batches;

/// <summary><c>/api/v1/batches</c>: machines of one model and customer that are worked on together.</summary>
public static class BatchEndpoints
{
    public static IServiceCollection AddBatches(this IServiceCollection services) => services.AddSingleton<BatchDesk>();

    public static void MapBatches(this IEndpointRouteBuilder api)
    {
        var batches = api.MapGroup("/batches").WithTags("batches");
        batches.MapPost("/", TakeInAsync).WithName("takeInBatch").WithSummary("Take machines in together, all or none");
        batches
            .MapPost(
                "/list",
                (BatchListRequest request, BatchDesk desk, CancellationToken cancel) =>
                    desk.ReadAsync(request.Text, cancel)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("readBatchList")
            .WithSummary("A list of serials as it would be taken in; nothing is recorded");

        var batch = batches.MapGroup("/{batch:int}");
        batch
            .MapGet("/", (int batch, BatchDesk desk, CancellationToken cancel) => desk.ViewAsync(batch, cancel))
            .WithName("getBatch")
            .WithSummary("A batch with its machines, parts, quote and totals");
        batch
            .MapGet("/run", (int batch, BatchDesk desk, CancellationToken cancel) => desk.RunAsync(batch, cancel))
            .WithName("getBatchRun")
            .WithSummary("At which steps its machines stand");
        batch
            .MapGet(
                "/report.csv",
                async (int batch, BatchDesk desk, CancellationToken cancel) =>
                    Results.Bytes(
                        BatchTable.Write(await desk.LinesAsync(batch, cancel)),
                        "text/csv; charset=utf-8",
                        $"batch-{batch}.csv"
                    )
            )
            .WithName("getBatchReport")
            .Produces<byte[]>(contentType: "text/csv")
            .WithSummary("What became of each machine, as CSV");
        batch
            .MapPost(
                "/plan/preview",
                (int batch, BatchPlanRequest request, BatchDesk desk, CancellationToken cancel) =>
                    desk.PreviewAsync(batch, request, Role.Lead, cancel)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("previewBatchPlan")
            .WithSummary("What one plan would lead to on each machine; nothing is recorded");
        batch.MapPost("/plan", PlanAsync).WithName("planBatch").WithSummary("Plan its machines alike, all or none");
        batch
            .MapPost("/agreement", AgreeAsync)
            .WithName("agreeBatch")
            .WithSummary("The customer agreed for all; the quotes are frozen, the parts set aside together");
        batch
            .MapPost(
                "/decline",
                (int batch, DeclineRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    RecordAsync(
                        desk,
                        batch,
                        OrderAct.Decline,
                        request,
                        sender,
                        null,
                        _ => PlanRules.Decline(request.Customer, request.Reason),
                        cancel
                    )
            )
            .WithName("declineBatch")
            .WithSummary("The customer does not want it so");
        batch
            .MapPost(
                "/quote/revoke",
                (int batch, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    RecordAsync(desk, batch, OrderAct.RevokeQuote, null, sender, null, _ => new QuoteRevoked(), cancel)
            )
            .WithName("revokeBatchQuote")
            .WithSummary("The link of its machines opens nothing any more");
        batch
            .MapPost("/hands", SpreadAsync)
            .WithName("spreadBatch")
            .WithSummary("Give its machines out to people, neighbours to one person");
        batch
            .MapPost("/run/steps/{step}", ConfirmAsync)
            .WithName("confirmBatchStep")
            .WithSummary("Confirm a step on several machines at once, on all of them or none");
        batch
            .MapPost(
                "/ready",
                (int batch, ReasonRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    RecordAsync(
                        desk,
                        batch,
                        OrderAct.MarkReady,
                        request,
                        sender,
                        null,
                        m => CloseRules.MarkReady(m.Order, m.Guide, sender.Person.Role, request.Reason),
                        cancel
                    )
            )
            .WithName("readyBatch")
            .WithSummary("Accept the check of all that nothing holds");
        batch
            .MapPost(
                "/hand-back",
                (int batch, HandBackRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    RecordAsync(
                        desk,
                        batch,
                        OrderAct.HandBack,
                        request,
                        sender,
                        null,
                        m => CloseRules.HandBack(m.Order, m.Guide, request.To, request.OldParts),
                        cancel
                    )
            )
            .WithName("handBackBatch")
            .WithSummary("Hand back all that are ready");

        var order = api.MapGroup("/orders/{number:int}").WithTags("batches");
        order
            .MapPost(
                "/leave-batch",
                (int number, ReasonRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.LeaveBatch,
                        request,
                        sender,
                        (o, _) => BatchRules.Leave(o, request.Reason),
                        cancel
                    )
            )
            .WithName("leaveBatch")
            .WithSummary("The machine goes its own way, with a reason");
        order
            .MapPost("/join-batch", JoinAsync)
            .WithName("joinBatch")
            .WithSummary("The machine comes to a batch of its model and customer");
    }

    private static async Task<Microsoft.AspNetCore.Http.HttpResults.Created<BatchReceipt>> TakeInAsync(
        BatchRequest request,
        Sender sender,
        OrderDesk desk,
        ArrivalDesk arrivals,
        CancellationToken cancel
    )
    {
        BatchRules.NeedSound(request.Machines);
        var machines = new List<(TakeInRequest, ToldArrival?)>();
        foreach (var machine in request.Machines)
        {
            machines.Add(
                (
                    new TakeInRequest(
                        request.Model,
                        request.Customer,
                        request.Complaint,
                        request.Contact,
                        machine.Serial,
                        request.Goal,
                        machine.Accessories,
                        machine.Condition,
                        request.Backup,
                        request.SealConsent,
                        machine.Variant,
                        request.NewModel,
                        machine.Arrival,
                        request.Trial
                    ),
                    machine.Arrival is { } id ? await arrivals.ReadAsync(id, cancel) : null
                )
            );
        }

        var receipts = await desk.TakeInBatchAsync(machines, request, sender, cancel);
        return Made.At($"batches/{receipts[0].Order}", new BatchReceipt(receipts[0].Order, receipts));
    }

    private static async Task<BatchReceipt> PlanAsync(
        int batch,
        BatchPlanRequest request,
        Sender sender,
        BatchDesk batches,
        OrderDesk desk,
        CancellationToken cancel
    )
    {
        var set = await batches.DeciderAsync(
            batch,
            request,
            await desk.MembersAsync(batch, cancel),
            sender.Person.Role,
            cancel
        );
        return new BatchReceipt(
            batch,
            await desk.RecordBatchAsync(
                batch,
                OrderAct.SetPlan,
                request,
                sender,
                m => BatchDesk.IsMeant(request, m),
                set,
                cancel
            )
        );
    }

    private static async Task<BatchReceipt> AgreeAsync(
        int batch,
        BatchAgreeRequest request,
        Sender sender,
        BatchDesk batches,
        OrderDesk desk,
        CancellationToken cancel
    )
    {
        var members = await desk.MembersAsync(batch, cancel);
        BatchDesk.NeedMembers(batch, request.Only, members);
        var seen = members.ToDictionary(m => m.Order.Number, m => m.Order.Plan?.Sequence);
        var priced = await batches.QuotesAsync([.. members.Where(m => BatchDesk.IsFor(OrderAct.Agree, m))], cancel);
        return await RecordAsync(
            desk,
            batch,
            OrderAct.Agree,
            request,
            sender,
            request.Only,
            m =>
                priced.TryGetValue(m.Order.Number, out var quote) && seen[m.Order.Number] == m.Order.Plan?.Sequence
                    ? PlanRules.Agree(request.Customer, request.Note, quote)
                    : throw QuoteEndpoints.Moved(m.Order.Number),
            cancel
        );
    }

    private static async Task<BatchReceipt> SpreadAsync(
        int batch,
        BatchSpreadRequest request,
        Sender sender,
        OrderDesk desk,
        PeopleStore people,
        CancellationToken cancel
    )
    {
        var members = await desk.MembersAsync(batch, cancel);
        BatchDesk.NeedMembers(batch, request.Only, members);
        OwnerNamed[] hands = [.. request.People.Select(p => SharedRules.NameOwner(p, people.List()))];
        if (hands.Length == 0)
        {
            throw RefusedException.Invalid("no-such-hands", "Name the people who share the work.");
        }

        var meant = request.Only ?? [.. members.Where(m => m.Order.IsOpen).Select(m => m.Order.Number)];
        var given = BatchRules.Spread(meant, [.. hands.Select(h => h.Owner!)]);
        return await RecordAsync(
            desk,
            batch,
            OrderAct.NameOwner,
            request,
            sender,
            meant,
            m => new OwnerNamed(given[m.Order.Number]),
            cancel
        );
    }

    private static async Task<BatchReceipt> ConfirmAsync(
        int batch,
        StepId step,
        BatchConfirmRequest request,
        Sender sender,
        OrderDesk desk,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        BatchDesk.NeedMembers(batch, request.Orders, await desk.MembersAsync(batch, cancel));
        return await RecordAsync(
            desk,
            batch,
            OrderAct.ConfirmStep,
            new { step = step.ToString(), request },
            sender,
            request.Orders,
            m =>
            {
                BatchStanding.NeedTogether(new BatchMember(m.Order, m.Guide), step);
                return BenchRules.Confirm(
                    m.Order,
                    m.Guide,
                    new StepConfirmation(step, sender.Person.Id, clock.GetUtcNow(), Note: request.Note)
                );
            },
            cancel
        );
    }

    private static async Task<Receipt> JoinAsync(
        int number,
        JoinBatchRequest request,
        Sender sender,
        OrderDesk desk,
        CancellationToken cancel
    )
    {
        var members = await desk.MembersAsync(request.Batch, cancel);
        return await desk.RecordAsync(
            number,
            OrderAct.JoinBatch,
            request,
            sender,
            (o, _) => BatchRules.Join(o, request.Batch, [.. members.Where(m => m.Order.IsOpen).Select(m => m.Order)]),
            cancel
        );
    }

    /// <summary>One change of all machines that it is for.</summary>
    /// <param name="only">The machines that are meant; null for all that it is for.</param>
    internal static async Task<BatchReceipt> RecordAsync(
        OrderDesk desk,
        int batch,
        OrderAct act,
        object? request,
        Sender sender,
        IReadOnlyList<int>? only,
        Func<OrderSnapshot, EntryBody> decide,
        CancellationToken cancel
    ) =>
        new(
            batch,
            await desk.RecordBatchAsync(
                batch,
                act,
                request,
                sender,
                m => only is null ? BatchDesk.IsFor(act, m) : only.Contains(m.Order.Number),
                decide,
                cancel
            )
        );
}
