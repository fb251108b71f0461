using System.Text.Json;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Documents.Papers;
using Revtal.Service.Http;
using Revtal.Service.Orders;

namespace Revtal.Service.Reports;

/// <summary>Invoices at the desk, and all of them for the shop's book-keeping.</summary>
public static class InvoiceEndpoints
{
    private const string JsonLines = "application/jsonl";
    private const int AtOnce = 200;

    public static IServiceCollection AddInvoices(this IServiceCollection services) =>
        services.AddSingleton<InvoiceDesk>();

    public static void MapInvoices(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}").WithTags("invoice");
        order
            .MapGet(
                "/invoice",
                (int number, InvoiceDesk invoices, CancellationToken cancel) => invoices.ShowAsync(number, cancel)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getInvoice")
            .WithSummary("The invoice that stands, else as it would be made now");
        order
            .MapPost(
                "/invoice",
                (int number, Sender sender, InvoiceDesk invoices, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.MakeInvoice,
                        null,
                        sender,
                        snapshot => new InvoiceMade(invoices.Of(snapshot)),
                        cancel
                    )
            )
            .WithName("makeInvoice")
            .WithSummary("Make the invoice as the order stands; it takes the shop's next number");
        order
            .MapPost(
                "/invoice/reverse",
                (int number, ReverseRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.ReverseInvoice,
                        request,
                        sender,
                        (o, _) => InvoiceRules.Reverse(o, request.Reason),
                        cancel
                    )
            )
            .WithName("reverseInvoice")
            .WithSummary("Take the invoice back as a whole, with a reason and a number of its own");
        order
            .MapPost(
                "/payments",
                (int number, PaymentRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TakePayment,
                        request,
                        sender,
                        (o, _) => InvoiceRules.Pay(o, request.Amount, request.Way, request.Note),
                        cancel
                    )
            )
            .WithName("takePayment")
            .WithSummary("Money changed hands: what is open, or a part of it");
        order
            .MapPost(
                "/extras",
                (int number, ExtraRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.AgreeExtra,
                        request,
                        sender,
                        (o, _) => InvoiceRules.Agree(o, request.Text, request.Price, request.Customer),
                        cancel
                    )
            )
            .WithName("agreeExtra")
            .WithSummary("The customer agreed to extra work beside the quote");
        order
            .MapPost(
                "/extras/{sequence:int}/drop",
                (int number, int sequence, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.DropExtra,
                        sequence,
                        sender,
                        (o, _) => InvoiceRules.Drop(o, sequence),
                        cancel
                    )
            )
            .WithName("dropExtra")
            .WithSummary("Extra work is not charged after all");

        var shop = api.MapGroup("/invoices").WithTags("invoice");
        shop.MapGet(
                "/",
                (InvoiceDesk invoices, CancellationToken cancel, string? after = null, int limit = Paging.Usual) =>
                    invoices.ListAsync(Above(Paging.Number(after)), Paging.Checked(limit), cancel)
            )
            .WithName("listInvoices")
            .WithSummary("Every number of the shop's invoices, oldest first");
        shop.MapGet("/invoices.jsonl", Export)
            .WithName("exportInvoices")
            .Produces<string>(contentType: JsonLines)
            .WithSummary("The same as JSON Lines, a number each");
        shop.MapGet(
                "/{invoice:int}",
                (int invoice, InvoiceDesk invoices, CancellationToken cancel) => invoices.FindAsync(invoice, cancel)
            )
            .WithName("findInvoice")
            .WithSummary("One number of the shop's invoices");
        shop.MapGet(
                "/{invoice:int}/invoice.pdf",
                async (
                    int invoice,
                    InvoiceDesk invoices,
                    OrderShelf shelf,
                    Press press,
                    HttpResponse response,
                    CancellationToken cancel
                ) =>
                {
                    var line = await invoices.FindAsync(invoice, cancel);
                    var order = (await shelf.LoadAsync(line.Order, cancel)).Order;
                    return press.Print(
                        response,
                        $"invoice-{invoice}.pdf",
                        printing => InvoicePaper.Write(order, invoice, printing)
                    );
                }
            )
            .WithName("getInvoicePaper")
            .Produces<byte[]>(contentType: "application/pdf")
            .WithSummary("It on paper, with what is paid of it");
    }

    // Page after page: however many there are, few are held.
    private static IResult Export(InvoiceDesk invoices) =>
        Results.Stream(
            async body =>
            {
                string? next = "0";
                while (next is not null)
                {
                    var page = await invoices.ListAsync(Above(Paging.Number(next)), AtOnce, CancellationToken.None);
                    foreach (var line in page.Items)
                    {
                        await JsonSerializer.SerializeAsync(body, line, RevtalJson.Options);
                        await body.WriteAsync("\n"u8.ToArray());
                    }

                    await body.FlushAsync();
                    next = page.Next;
                }
            },
            JsonLines,
            "invoices.jsonl"
        );

    private static int Above(long? after) => (int)Math.Min(after ?? 0, int.MaxValue);
}
