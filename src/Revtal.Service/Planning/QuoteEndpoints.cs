using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Documents.Papers;
using Revtal.Service.Batches;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Service.Shop;

namespace Revtal.Service.Planning;

/// <summary>The quote: at the desk, on paper, and behind a link that the customer opens without an account.</summary>
public static class QuoteEndpoints
{
    public static void MapQuotes(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}").WithTags("quote");
        order
            .MapGet(
                "/quote",
                async (int number, QuoteDesk quotes, OrderShelf shelf, CancellationToken cancel) =>
                {
                    var snapshot = await shelf.LoadAsync(number, cancel);
                    return await TodayAsync(snapshot, quotes, cancel);
                }
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getQuote")
            .WithSummary("The quote: frozen once agreed, until then at today's prices");
        order
            .MapGet("/quote.pdf", PaperAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getQuotePaper")
            .Produces<byte[]>(contentType: "application/pdf")
            .WithSummary("The quote on A4");
        order
            .MapPost("/agreement", AgreeAsync)
            .WithName("agreePlan")
            .WithSummary("The customer agreed to the plan; the quote is frozen, the parts are set aside");
        order
            .MapPost(
                "/decline",
                (int number, DeclineRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.Decline,
                        request,
                        sender,
                        (o, _) => PlanRules.Decline(request.Customer, request.Reason),
                        cancel
                    )
            )
            .WithName("declinePlan")
            .WithSummary("The customer does not want it so");
        order
            .MapPost("/quote/link", OfferAsync)
            .WithName("offerQuote")
            .WithSummary("Make a link for the customer; it is shown once");
        order
            .MapPost(
                "/quote/revoke",
                (int number, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(number, OrderAct.RevokeQuote, null, sender, (_, _) => new QuoteRevoked(), cancel)
            )
            .WithName("revokeQuote")
            .WithSummary("The link opens nothing any more");

        api.MapPost("/batches/{batch:int}/quote/link", OfferBatchAsync)
            .WithTags("batches")
            .WithName("offerBatchQuote")
            .WithSummary("Make one link for all that are planned; it is shown once");

        var customer = api.MapGroup("/quotes/{link}").WithTags("customer");
        customer
            .MapGet(
                "/",
                async (
                    string link,
                    OrderShelf shelf,
                    IOptions<ShopOptions> shop,
                    TimeProvider clock,
                    HttpResponse response,
                    CancellationToken cancel
                ) =>
                {
                    // The link is all that guards it: nothing on the way may keep it.
                    response.Headers.CacheControl = "no-store";
                    return View(await QuoteLink.OpenAsync(link, shelf, clock, cancel), shop.Value.Name);
                }
            )
            .WithName("readQuote")
            .WithSummary("What the customer sees behind a link");
        customer
            .MapPost("/answer", AnswerAsync)
            .WithMetadata(new ApiFacts(IsChange: true))
            .WithName("answerQuote")
            .WithSummary("The customer agrees or declines, by name");
    }

    private static async Task<Receipt> AgreeAsync(
        int number,
        AgreeRequest request,
        Sender sender,
        QuoteDesk quotes,
        OrderShelf shelf,
        OrderDesk desk,
        CancellationToken cancel
    )
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var quote = snapshot.Order.Plan is null
            ? null
            : snapshot.Order.Offered?.Quote ?? await quotes.QuoteAsync(snapshot.Order, snapshot.Guide, cancel);
        return await desk.RecordAsync(
            number,
            OrderAct.Agree,
            request,
            sender,
            (o, _) =>
                PlanRules.Agree(
                    request.Customer,
                    request.Note,
                    SamePlan(o, snapshot.Order) ? quote : throw Moved(number)
                ),
            cancel
        );
    }

    private static async Task<OfferView> OfferAsync(
        int number,
        OfferRequest request,
        Sender sender,
        QuoteDesk quotes,
        OrderShelf shelf,
        OrderDesk desk,
        IOptions<ShopOptions> shop,
        TimeProvider clock,
        HttpContext context,
        CancellationToken cancel
    )
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        WhenMayWhat.Need(OrderAct.OfferQuote, snapshot.Order, snapshot.Guide);
        var quote = await quotes.QuoteAsync(snapshot.Order, snapshot.Guide, cancel);
        var link = CustomerLink.New(clock.GetUtcNow(), request.Days);
        var receipt = await desk.RecordAsync(
            number,
            OrderAct.OfferQuote,
            request,
            sender,
            (o, _) =>
                SamePlan(o, snapshot.Order)
                    ? PlanRules.Offer(quote, link.Hash, link.Now, link.Until)
                    : throw Moved(number),
            cancel
        );
        return await QuoteLink.ShowAsync(link, receipt, shelf, shop.Value, context, cancel);
    }

    private static async Task<OfferView> OfferBatchAsync(
        int batch,
        OfferRequest request,
        Sender sender,
        BatchDesk batches,
        OrderShelf shelf,
        OrderDesk desk,
        IOptions<ShopOptions> shop,
        TimeProvider clock,
        HttpContext context,
        CancellationToken cancel
    )
    {
        OrderSnapshot[] offered =
        [
            .. (await desk.MembersAsync(batch, cancel)).Where(m => BatchDesk.IsFor(OrderAct.OfferQuote, m)),
        ];
        var priced = await batches.TodayAsync(offered, cancel);
        var link = CustomerLink.New(clock.GetUtcNow(), request.Days);
        int[] with = [.. offered.Select(m => m.Order.Number)];
        var receipts = await BatchEndpoints.RecordAsync(
            desk,
            batch,
            OrderAct.OfferQuote,
            request,
            sender,
            null,
            m =>
                offered.Any(o => o.Order.Number == m.Order.Number && SamePlan(o.Order, m.Order))
                    ? PlanRules.Offer(priced[m.Order.Number], link.Hash, link.Now, link.Until, with)
                    : throw Moved(m.Order.Number),
            cancel
        );
        return await QuoteLink.ShowAsync(link, receipts.Orders[0], shelf, shop.Value, context, cancel);
    }

    private static async Task<Receipt> AnswerAsync(
        string link,
        AnswerRequest request,
        OrderShelf shelf,
        OrderDesk desk,
        TimeProvider clock,
        HttpContext context,
        CancellationToken cancel
    )
    {
        var opened = await QuoteLink.OpenAsync(link, shelf, clock, cancel);
        var first = opened.Orders[0].Order;
        // The customer has no account: the link is what proves who this is.
        var (id, given) = Sender.Key(context.Request.Headers[Sender.KeyHeader]);
        var sender = new Sender(new Person("customer", request.Name, Role.Desk), id, given, null);
        var act = request.Agree ? OrderAct.Agree : OrderAct.Decline;
        try
        {
            return opened.Offer.With is not { } with
                    ? await desk.RecordAsync(first.Number, act, request, sender, Answer, cancel)
                : first.Batch is { } batch
                    ? (
                        await BatchEndpoints.RecordAsync(desk, batch, act, request, sender, with, Answer, cancel)
                    ).Orders[0]
                : throw Answered();
        }
        catch (RefusedException e) when (e.Code is WhenMayWhat.WrongStage or AnsweredCode)
        {
            throw Answered();
        }

        EntryBody Answer(OrderSnapshot m) =>
            m.Order.Offered is not { } offered || offered.LinkHash != opened.Offer.LinkHash ? throw Answered()
            : request.Agree ? PlanRules.Agree(request.Name, request.Note, offered.Quote, byLink: true)
            : PlanRules.Decline(request.Name, request.Note, byLink: true);

        static RefusedException Answered() =>
            RefusedException.Rule(
                AnsweredCode,
                "This quote was answered or taken back already. Call the shop to change it."
            );
    }

    private const string AnsweredCode = "quote-answered";

    private static CustomerQuote View(OpenedQuote opened, string shop)
    {
        var order = opened.Orders[0].Order;
        var guide = opened.Orders[0].Guide;
        return new CustomerQuote(
            shop,
            order.Number,
            $"{guide.Model.Maker} {guide.Model.Name}",
            order.Intake.Customer,
            BatchStanding.Together([.. opened.Orders.Select(o => Told(o))]),
            order.Intake.SealConsent,
            order.Intake.Backup,
            opened.Offer.Until,
            order.Agreed is not null ? "agreed"
                : order.Declined is not null ? "declined"
                : null,
            opened.Offer.With is null
                ? null
                : [.. opened.Orders.Select(o => o.Order.Intake.Serial ?? $"order {o.Order.Number}")]
        );

        static Quote Told(OrderSnapshot o) =>
            o.Order.Offered?.Quote ?? o.Order.Agreed?.Quote ?? QuoteLink.LastOffer(o)!.Quote;
    }

    private static async Task<IResult> PaperAsync(
        int number,
        QuoteDesk quotes,
        OrderShelf shelf,
        Press press,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var quote = await TodayAsync(snapshot, quotes, cancel);
        return press.Print(
            response,
            $"quote-{number}.pdf",
            printing => QuotePaper.Write(snapshot.Order, snapshot.Guide, quote, printing)
        );
    }

    private static async Task<Quote> TodayAsync(OrderSnapshot snapshot, QuoteDesk quotes, CancellationToken cancel) =>
        snapshot.Order.Agreed?.Quote ?? await quotes.QuoteAsync(snapshot.Order, snapshot.Guide, cancel);

    private static bool SamePlan(Order now, Order seen) => now.Plan?.Sequence == seen.Plan?.Sequence;

    internal static RefusedException Moved(int number) =>
        new(
            RefusalKind.Conflict,
            "plan-moved",
            $"The plan of order {number} was changed at the same moment. Look at the quote again."
        );
}
