using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Options;
using Microsoft.Net.Http.Headers;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Orders;
using Revtal.Service.Arrivals;
using Revtal.Service.Board;
using Revtal.Service.Http;
using Revtal.Service.Shop;
using Revtal.Storage;
using Revtal.Storage.Shapes;

namespace Revtal.Service.Orders;

/// <summary><c>/api/v1/orders</c>: the order from take-in to hand-back.</summary>
public static class OrderEndpoints
{
    /// <summary>The one road of an order's changes.</summary>
    public static IServiceCollection AddOrders(this IServiceCollection services) =>
        services
            .AddSingleton<OrderShelf>()
            .AddSingleton<OrderDesk>()
            .AddSingleton<OpenOrders>()
            .AddHostedService<AlarmClock>()
            .AddHostedService<TraceClerk>();

    public static void MapOrders(this IEndpointRouteBuilder api)
    {
        var orders = api.MapGroup("/orders").WithTags("orders");

        orders.MapGet("/", SearchAsync).WithName("searchOrders").WithSummary("Orders, newest first, open or not");
        orders.MapPost("/", TakeInAsync).WithName("takeIn").WithSummary("Take a machine in");
        orders
            .MapGet("/{number:int}", GetAsync)
            .WithName("getOrder")
            .Produces<OrderView>()
            .WithSummary("The order with everything that follows from it");
        orders
            .MapGet("/{number:int}/entries", EntriesAsync)
            .WithName("getEntries")
            .WithSummary("The journal of the order, whole");
        orders
            .MapGet("/{number:int}/check", CheckAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getCheck")
            .WithSummary("Before, planned and after, with verdict and findings");
        orders
            .MapGet("/{number:int}/captures/{sequence:int}", CaptureAsync)
            .Produces<CaptureBundle>()
            .WithName("getCapture")
            .WithSummary("The capture of a reading, as it was sent");

        orders
            .MapPost(
                "/{number:int}/ready",
                (int number, ReasonRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.MarkReady,
                        request,
                        sender,
                        (o, g) => CloseRules.MarkReady(o, g, sender.Person.Role, request.Reason),
                        cancel
                    )
            )
            .WithName("markReady")
            .WithSummary("Accept the check");
        orders
            .MapPost(
                "/{number:int}/hand-back",
                (int number, HandBackRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.HandBack,
                        request,
                        sender,
                        (o, g) => CloseRules.HandBack(o, g, request.To, request.OldParts),
                        cancel
                    )
            )
            .WithName("handBack")
            .WithSummary("Hand the machine back");
        orders
            .MapPost(
                "/{number:int}/park",
                (
                    int number,
                    ParkRequest request,
                    Sender sender,
                    OrderDesk desk,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.Park,
                        request,
                        sender,
                        (o, _) => CloseRules.Park(o, request.Reason, clock.GetUtcNow(), request.Until, request.Wakes),
                        cancel
                    )
            )
            .WithName("park")
            .WithSummary("Park the order, with a reason, until a time or an event if one is known");
        orders
            .MapPost(
                "/{number:int}/intake",
                (int number, CorrectRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.CorrectIntake,
                        request,
                        sender,
                        (o, _) => IntakeRules.Correct(request.Serial, request.Contact, request.Backup, request.Reason),
                        cancel
                    )
            )
            .WithName("correctIntake")
            .WithSummary("Correct the serial, the contact or the backup, with a reason");
        orders
            .MapPost(
                "/{number:int}/vouch",
                (int number, ReasonRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.VouchReading,
                        request,
                        sender,
                        (o, _) => MeasureRules.Vouch(o, request.Reason),
                        cancel
                    )
            )
            .WithName("vouchReading")
            .WithSummary("Say why a doubted before reading is of this machine");
        orders
            .MapPost(
                "/{number:int}/release",
                (int number, ReleaseRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.ReleaseHold,
                        request,
                        sender,
                        (o, g) => CloseRules.Release(o, g, sender.Person.Role, request.Hold, request.Reason),
                        cancel
                    )
            )
            .WithName("releaseHold")
            .WithSummary("Let one hold be, with a reason (leads)");
        orders
            .MapPost(
                "/{number:int}/resume",
                (int number, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(number, OrderAct.Resume, null, sender, (o, _) => new Resumed(), cancel)
            )
            .WithName("resume")
            .WithSummary("Take a parked order up again");
        orders
            .MapPost(
                "/{number:int}/cancel",
                (int number, ReasonRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.Cancel,
                        request,
                        sender,
                        (o, g) => CloseRules.Cancel(request.Reason),
                        cancel
                    )
            )
            .WithName("cancel")
            .WithSummary("Cancel the order, with a reason");
        orders
            .MapPost(
                "/{number:int}/notes",
                (int number, NoteRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.AddNote,
                        request,
                        sender,
                        (o, g) => NoteRules.AddNote(o, g, request.Text, request.Step, request.Answers),
                        cancel
                    )
            )
            .WithName("addNote")
            .WithSummary("Add a note");
    }

    private static async Task<Created<Receipt>> TakeInAsync(
        TakeInRequest request,
        Sender sender,
        OrderDesk desk,
        ArrivalDesk arrivals,
        CancellationToken cancel
    )
    {
        var told = request.Arrival is { } id ? await arrivals.ReadAsync(id, cancel) : null;
        var receipt = await desk.TakeInAsync(request, told, sender, cancel);
        return Made.At($"orders/{receipt.Order}", receipt);
    }

    private static async Task<IResult> GetAsync(
        int number,
        OrderShelf shelf,
        GuideShelf guides,
        PeopleStore people,
        IOptions<ShopOptions> shop,
        HttpContext context
    )
    {
        var snapshot = await shelf.LoadAsync(number, context.RequestAborted);
        var newest = guides.Newest(snapshot.Order.Model);
        int? newer = newest > snapshot.Order.Revision ? newest : null;

        // The page also tells of a newer guide, so the tag does; If-Match looks at the head alone.
        var tag = newer is null ? $"\"{snapshot.Order.Head}\"" : $"\"{snapshot.Order.Head}-{newer}\"";
        return Results.Bytes(
            snapshot.Json(newer, shop.Value.NearlyFullPercent, people.List()),
            "application/json; charset=utf-8",
            entityTag: new EntityTagHeaderValue(tag)
        );
    }

    private static async Task<Page<OrderCard>> SearchAsync(
        Journal journal,
        CancellationToken cancel,
        string? text = null,
        Word<Stage>? stage = null,
        bool later = false,
        string? after = null,
        int limit = Paging.Usual
    ) =>
        (
            await journal.SearchAsync(text, stage?.Value, later, Paging.Number(after), Paging.Checked(limit), cancel)
        ).Select(c => JsonSerializer.Deserialize<OrderCard>(c.Card, RevtalJson.Options)! with { Found = c.Where });

    private static async Task<Page<EntryView>> EntriesAsync(
        int number,
        OrderShelf shelf,
        Journal journal,
        CancellationToken cancel,
        string? after = null,
        int limit = Paging.Usual
    )
    {
        var head = (await shelf.LoadAsync(number, cancel)).Order.Head;
        var most = Paging.Checked(limit);
        var from = (int)Math.Min(Paging.Number(after) ?? 0, head);
        var entries = journal.Entries(number, from, most + 1);
        return Page.Of(entries, most, head, s => $"{s.Entry.Sequence}")
            .Select(s => new EntryView(
                s.Position,
                number,
                s.Entry.Sequence,
                s.Entry.Id,
                s.Entry.At,
                s.Entry.By,
                EntryKinds.NameOf(s.Entry.Body),
                JsonElement.Parse(EntryKinds.Write(WithoutSecrets(s.Entry.Body))),
                s.Entry.Said
            ));
    }

    // What opens a code or a link stays in the store, its hash too.
    private static EntryBody WithoutSecrets(EntryBody body) =>
        body switch
        {
            ReadingInvited invited => invited with { CodeHash = "" },
            QuoteOffered offered => offered with { LinkHash = "" },
            ReportOffered offered => offered with { LinkHash = "" },
            _ => body,
        };

    private static async Task<CheckResult> CheckAsync(int number, OrderShelf shelf, CancellationToken cancel)
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        return snapshot.Assessment.Check
            ?? throw RefusedException.Rule(
                "nothing-to-check",
                $"Order {number} has no after reading yet. Next: " + $"{snapshot.Assessment.Next.Text}."
            );
    }

    private static async Task<IResult> CaptureAsync(
        int number,
        int sequence,
        OrderShelf shelf,
        Journal journal,
        CancellationToken cancel
    )
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        return
            snapshot.Entries.FirstOrDefault(e => e.Sequence == sequence)?.Body is ReadingTaken { Capture: { } hash }
            && await journal.CaptureAsync(hash, cancel) is { } bytes
            ? Results.Bytes(bytes, "application/json", $"capture-{number}-{sequence}.json")
            : throw RefusedException.NotFound(
                "no-such-capture",
                $"Entry {sequence} of order {number} is no reading with a capture."
            );
    }
}
