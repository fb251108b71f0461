using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Documents;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Service.Shop;

namespace Revtal.Service.Planning;

/// <summary>The quote: at the desk, on paper, and behind a link that the customer opens without an account.</summary>
public static class QuoteEndpoints
{
    private const int SecretBytes = 32;

    public static void MapQuotes(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}").WithTags("quote");
        order
            .MapGet(
                "/quote",
                async (int number, QuoteDesk quotes, OrderShelf shelf, CancellationToken cancel) =>
                {
                    var snapshot = await shelf.LoadAsync(number, cancel);
                    return Quotes.Credited(
                        snapshot.Order,
                        snapshot.Order.Agreed?.Quote ?? await quotes.QuoteAsync(snapshot.Order, snapshot.Guide, cancel)
                    );
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
                    return View(await OpenAsync(link, shelf, clock, cancel), shop.Value.Name);
                }
            )
            .WithName("readQuote")
            .WithSummary("What the customer sees behind a link");
        customer
            .MapPost("/answer", AnswerAsync)
            .WithMetadata(new ApiFacts(IsChange: true, NeedsNobody: true))
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
        var secret = RandomNumberGenerator.GetBytes(SecretBytes);
        var now = clock.GetUtcNow();
        var until = now.AddDays(request.Days);
        var receipt = await desk.RecordAsync(
            number,
            OrderAct.OfferQuote,
            request,
            sender,
            (o, _) =>
                SamePlan(o, snapshot.Order) ? PlanRules.Offer(quote, Hash(secret), now, until) : throw Moved(number),
            cancel
        );
        // A retry is answered with what was recorded first, and that link's secret is kept nowhere.
        return
            (await shelf.LoadAsync(number, cancel)).Entries[receipt.Sequence - 1].Body
                is not QuoteOffered { LinkHash: var kept }
            || kept != Hash(secret)
            ? throw RefusedException.Rule(
                "link-shown-once",
                "This link was made before, and it is shown once. Make another; it closes the first."
            )
            : new OfferView(
                receipt,
                $"{Address(shop.Value, context)}/quote/{number}-{Base64Url.EncodeToString(secret)}",
                until,
                shop.Value.Url is null
            );
    }

    private static string Address(ShopOptions shop, HttpContext context) =>
        shop.Url?.TrimEnd('/') ?? $"{context.Request.Scheme}://{context.Request.Host}";

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
        var snapshot = await OpenAsync(link, shelf, clock, cancel);
        // The customer has no account: the link is what proves who this is.
        var (id, given) = Sender.Key(context.Request.Headers[Sender.KeyHeader]);
        var sender = new Sender(new Person("customer", request.Name, Role.Desk), id, given, null);
        try
        {
            return await desk.RecordAsync(
                snapshot.Order.Number,
                request.Agree ? OrderAct.Agree : OrderAct.Decline,
                request,
                sender,
                (o, _) =>
                    o.Offered is not { } offered || offered.LinkHash != snapshot.Order.Offered?.LinkHash
                        ? throw Answered()
                    : request.Agree ? PlanRules.Agree(request.Name, request.Note, offered.Quote, byLink: true)
                    : PlanRules.Decline(request.Name, request.Note, byLink: true),
                cancel
            );
        }
        catch (RefusedException e) when (e.Code == WhenMayWhat.WrongStage)
        {
            throw Answered();
        }

        static RefusedException Answered() =>
            RefusedException.Rule(
                "quote-answered",
                "This quote was answered or taken back already. Call the shop to change it."
            );
    }

    // One answer for all that is wrong with a link, so that guessing teaches nothing.
    private static async Task<OrderSnapshot> OpenAsync(
        string link,
        OrderShelf shelf,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var parts = link.Split('-', 2);
        var secret = new byte[SecretBytes];
        if (
            parts.Length == 2
            && int.TryParse(parts[0], System.Globalization.NumberStyles.None, null, out var number)
            && Base64Url.IsValid(parts[1], out var length)
            && length == SecretBytes
            && Base64Url.TryDecodeFromChars(parts[1], secret, out _)
        )
        {
            try
            {
                var snapshot = await shelf.LoadAsync(number, cancel);
                var hash = Encoding.ASCII.GetBytes(Hash(secret));
                var last = snapshot.Entries.Select(e => e.Body).OfType<QuoteOffered>().LastOrDefault();
                var open =
                    snapshot.Order.Offered
                    ?? (
                        snapshot.Order.Agreed is { ByLink: true } || snapshot.Order.Declined is { ByLink: true }
                            ? last
                            : null
                    );
                if (
                    open is not null
                    && open.Until > clock.GetUtcNow()
                    && CryptographicOperations.FixedTimeEquals(hash, Encoding.ASCII.GetBytes(open.LinkHash))
                )
                {
                    return snapshot;
                }
            }
            catch (RefusedException)
            {
                // No such order: the same answer.
            }
        }

        throw RefusedException.NotFound(
            "no-such-quote",
            "This link opens no quote: it is mistyped, too old, or was taken back. Ask the shop for a new one."
        );
    }

    private static CustomerQuote View(OrderSnapshot snapshot, string shop)
    {
        var order = snapshot.Order;
        var quote =
            order.Offered?.Quote
            ?? order.Agreed?.Quote
            ?? snapshot.Entries.Select(e => e.Body).OfType<QuoteOffered>().Last().Quote;
        var until = snapshot.Entries.Select(e => e.Body).OfType<QuoteOffered>().Last().Until;
        return new CustomerQuote(
            shop,
            order.Number,
            $"{snapshot.Guide.Model.Maker} {snapshot.Guide.Model.Name}",
            order.Intake.Customer,
            quote,
            order.Intake.SealConsent,
            order.Intake.Backup,
            until,
            order.Agreed is not null ? "agreed"
                : order.Declined is not null ? "declined"
                : null
        );
    }

    private static async Task<IResult> PaperAsync(
        int number,
        QuoteDesk quotes,
        OrderShelf shelf,
        IOptions<ShopOptions> shop,
        TimeProvider clock,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var quote = Quotes.Credited(
            snapshot.Order,
            snapshot.Order.Agreed?.Quote ?? await quotes.QuoteAsync(snapshot.Order, snapshot.Guide, cancel)
        );
        BenchEndpoints.AsPage(response, $"quote-{number}.pdf");
        return Results.Bytes(
            QuotePaper.Write(
                snapshot.Order,
                snapshot.Guide,
                quote,
                shop.Value.Name,
                clock.GetUtcNow(),
                TimeZoneInfo.FindSystemTimeZoneById(shop.Value.Zone)
            ),
            "application/pdf"
        );
    }

    private static string Hash(byte[] secret) => Convert.ToHexStringLower(SHA256.HashData(secret));

    private static bool SamePlan(Order now, Order seen) => now.Plan?.Sequence == seen.Plan?.Sequence;

    private static RefusedException Moved(int number) =>
        new(
            RefusalKind.Conflict,
            "plan-moved",
            $"The plan of order {number} was changed at the same moment. Look at the quote again."
        );
}
