using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core.Parts;

namespace Revtal.CommandLine.Commands;

/// <summary>What an order costs, what is paid of it, and all of the shop's invoices.</summary>
internal static class InvoiceCommands
{
    /// <summary>Those of an order.</summary>
    public static Command[] OfOrder() => [Show(), Make(), Reverse(), Pay(), Extra()];

    /// <summary>All of the shop's.</summary>
    public static Command List()
    {
        var after = new Option<string?>("--after") { Description = "Go on behind this number" };
        var file = new Option<string?>("--out") { Description = "Write all of them to this file, as JSON Lines" };
        return Cli.Command(
            "invoices",
            "Every number of the shop's invoices, oldest first",
            "revtal shop invoices --out invoices.jsonl",
            async (p, client, cancel) =>
            {
                if (p.GetValue(file) is { } path)
                {
                    Files.Write(path, await client.InvoicesFileAsync(cancel));
                    Screen.Line(path);
                    return;
                }

                Cli.Show(p, await client.InvoicesAsync(p.GetValue(after), cancel: cancel), InvoiceScreen.List);
            },
            after,
            file
        );
    }

    private static Command Show()
    {
        var number = Cli.Number();
        var pdf = new Option<string?>("--pdf") { Description = "Write the one that stands as a PDF to this file" };
        return Cli.Command(
            "invoice",
            "What it costs: the invoice that stands, else as it would be made now",
            "revtal order invoice 107 --pdf invoice.pdf",
            async (p, client, cancel) =>
            {
                var view = await client.InvoiceAsync(p.GetValue(number), cancel);
                Cli.Show(p, view, v => InvoiceScreen.Show(p.GetValue(number), v));
                if (p.GetValue(pdf) is { } path)
                {
                    Files.Write(
                        path,
                        await client.InvoicePaperAsync(
                            view.Number ?? throw Core.Orders.WhenMayWhat.NoInvoice(p.GetValue(number)),
                            cancel
                        )
                    );
                    Screen.Line(path);
                }
            },
            number,
            pdf
        );
    }

    private static Command Make()
    {
        var number = Cli.Number();
        return Cli.Change(
            "charge",
            "Make the invoice as the order stands; it takes the shop's next number",
            "revtal order charge 107 --as sanne",
            (p, client, cancel) => client.MakeInvoiceAsync(p.GetValue(number), cancel),
            number
        );
    }

    private static Command Reverse()
    {
        var number = Cli.Number();
        var reason = new Option<string>("--reason") { Required = true, Description = "Why" };
        return Cli.Change(
            "reverse",
            "Take the invoice back as a whole, with a number of its own",
            "revtal order reverse 107 --reason \"the discount was forgotten\" --as sanne",
            (p, client, cancel) =>
                client.ReverseInvoiceAsync(p.GetValue(number), new ReverseRequest(p.GetValue(reason)!), cancel),
            number,
            reason
        );
    }

    private static Command Pay()
    {
        var number = Cli.Number();
        var amount = new Argument<decimal>("AMOUNT") { Description = "Below 0 what the shop pays out" };
        var way = new Option<PaymentWay>("--way") { Required = true, Description = "cash, card, transfer or other" };
        var note = new Option<string?>("--note") { Description = "A receipt's number, or how else" };
        return Cli.Change(
            "pay",
            "Money changed hands: what is open of the invoice, or a part of it",
            "revtal order pay 107 142.50 --way card --as sanne",
            (p, client, cancel) =>
                client.TakePaymentAsync(
                    p.GetValue(number),
                    new PaymentRequest(p.GetValue(amount), p.GetValue(way), p.GetValue(note)),
                    cancel
                ),
            number,
            amount,
            way,
            note
        );
    }

    private static Command Extra()
    {
        var number = Cli.Number();
        var text = new Argument<string?>("TEXT") { Description = "What is done", Arity = ArgumentArity.ZeroOrOne };
        var price = new Option<decimal>("--price") { Description = "Without tax" };
        var customer = new Option<string?>("--agreed-by") { Description = "Who agreed" };
        var drop = new Option<int?>("--drop") { Description = "Charge this one not after all: its number in the list" };
        return Cli.Change(
            "extra",
            "The customer agreed to extra work beside the quote",
            "revtal order extra 107 \"New rubber feet\" --price 8.50 --agreed-by \"M. Alto\" --as sanne",
            (p, client, cancel) =>
                p.GetValue(drop) is { } sequence
                    ? client.DropExtraAsync(p.GetValue(number), sequence, cancel)
                    : client.AgreeExtraAsync(
                        p.GetValue(number),
                        new ExtraRequest(p.GetValue(text) ?? "", p.GetValue(price), p.GetValue(customer) ?? ""),
                        cancel
                    ),
            number,
            text,
            price,
            customer,
            drop
        );
    }
}
