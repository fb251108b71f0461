using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Service.Orders;
using Revtal.Service.Planning;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Reports;

/// <summary>Invoices: as they would be made now, as they were made, and all of the shop's by number.</summary>
public sealed class InvoiceDesk(
    OrderShelf shelf,
    QuoteDesk quotes,
    Journal journal,
    PeopleStore people,
    IOptions<ShopOptions> shop
)
{
    /// <summary>The one that stands, else as it would be made now.</summary>
    /// <exception cref="RefusedException">None was made, and no price is agreed.</exception>
    public async Task<InvoiceView> ShowAsync(int number, CancellationToken cancel)
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var order = snapshot.Order;
        var made = order.Invoice;
        var invoice =
            made?.Invoice ?? (order.Agreed?.Quote is null ? throw WhenMayWhat.NothingAgreed(order) : Of(snapshot));
        return new InvoiceView(
            invoice,
            made?.Number,
            made?.At,
            made is null ? null : Person.Called(people.List(), made.By),
            invoice.ToPay - order.Payments.Sum(p => p.Amount),
            order.Payments,
            order.Extras,
            [
                .. order
                    .Invoices.Where(i => i.Reversed is not null)
                    .Select(i => new ReversedView(
                        i.Number,
                        i.Reversed!.Number,
                        i.Reversed.Reason,
                        i.Reversed.At,
                        i.Invoice.ToPay
                    )),
            ]
        );
    }

    /// <summary>As it would be made now.</summary>
    public Invoice Of(OrderSnapshot snapshot) =>
        Invoices.Of(snapshot.Order, snapshot.Guide, quotes.Kinds(snapshot.Order), shop.Value.TimeZone);

    /// <summary>The shop's invoices and what took them back, by number.</summary>
    /// <param name="above">Only numbers above this one.</param>
    public async Task<Page<InvoiceLine>> ListAsync(int above, int most, CancellationToken cancel)
    {
        var page = await journal.InvoicesAsync(above, most, cancel);
        var orders = new Dictionary<int, Order>();
        foreach (var number in page.Items.Select(i => i.Order).Distinct())
        {
            orders[number] = (await shelf.LoadAsync(number, cancel)).Order;
        }

        return page.Select(i => Line(orders[i.Order], i.Number));
    }

    /// <summary>One number of the shop's invoices.</summary>
    /// <exception cref="RefusedException">No invoice has it.</exception>
    public async Task<InvoiceLine> FindAsync(int number, CancellationToken cancel) =>
        number > 0 && (await ListAsync(number - 1, 1, cancel)).Items is [var line] && line.Number == number
            ? line
            : throw RefusedException.NotFound("no-such-invoice", $"No invoice has the number {number}.");

    private static InvoiceLine Line(Order order, int number)
    {
        var made = order.Invoices.First(i => i.Number == number || i.Reversed?.Number == number);
        var back = made.Number == number ? null : made.Reversed;
        var sign = back is null ? 1 : -1;
        var invoice = made.Invoice;
        return new InvoiceLine(
            number,
            order.Number,
            back?.At ?? made.At,
            back?.By ?? made.By,
            invoice.Customer,
            sign * invoice.Net,
            sign * invoice.Tax,
            sign * invoice.Total,
            sign * (invoice.Total - invoice.ToPay),
            sign * invoice.ToPay,
            made.Reversed is null ? order.Payments.Sum(p => p.Amount) : 0,
            invoice.Currency,
            back is null ? null : made.Number,
            back is null ? made.Reversed?.Number : null,
            back?.Reason,
            invoice
        );
    }
}
