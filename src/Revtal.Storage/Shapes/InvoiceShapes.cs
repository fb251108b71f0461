using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Riok.Mapperly.Abstractions;

namespace Revtal.Storage.Shapes;

internal sealed record StoredInvoice(
    string Customer,
    string Machine,
    string? Serial,
    IReadOnlyList<StoredQuoteLine> Lines,
    IReadOnlyList<StoredQuoteLine> Later,
    IReadOnlyList<string> Uncharged,
    decimal DiscountPercent,
    decimal Discount,
    decimal Net,
    decimal TaxPercent,
    decimal Tax,
    decimal Total,
    string Currency,
    IReadOnlyList<StoredQuoteLine> Credits
);

internal sealed record StoredExtraAgreed(string Text, decimal Price, string Customer);

internal sealed record StoredExtraDropped(int Extra, string Text);

internal sealed record StoredInvoiceMade(StoredInvoice Invoice, int Number);

internal sealed record StoredInvoiceReversed(int Of, string Reason, int Number);

internal sealed record StoredPaymentTaken(decimal Amount, string Way, string? Note = null);

internal static partial class StoredMapper
{
    [MapperIgnoreSource(nameof(Invoice.ToPay))]
    private static partial StoredInvoice ToStored(Invoice invoice);

    private static partial Invoice ToHeart(StoredInvoice invoice);

    public static partial StoredExtraAgreed ToStored(ExtraAgreed body);

    public static partial ExtraAgreed ToHeart(StoredExtraAgreed body);

    public static partial StoredExtraDropped ToStored(ExtraDropped body);

    public static partial ExtraDropped ToHeart(StoredExtraDropped body);

    public static partial StoredInvoiceMade ToStored(InvoiceMade body);

    public static partial InvoiceMade ToHeart(StoredInvoiceMade body);

    public static partial StoredInvoiceReversed ToStored(InvoiceReversed body);

    public static partial InvoiceReversed ToHeart(StoredInvoiceReversed body);

    public static partial StoredPaymentTaken ToStored(PaymentTaken body);

    public static partial PaymentTaken ToHeart(StoredPaymentTaken body);
}

internal static class InvoiceShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<ExtraAgreed, StoredExtraAgreed>("extra-agreed/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<ExtraDropped, StoredExtraDropped>("extra-dropped/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<InvoiceMade, StoredInvoiceMade>("invoice-made/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<InvoiceReversed, StoredInvoiceReversed>(
            "invoice-reversed/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
        EntryKind.Of<PaymentTaken, StoredPaymentTaken>("payment-taken/1", StoredMapper.ToStored, StoredMapper.ToHeart),
    ];
}
