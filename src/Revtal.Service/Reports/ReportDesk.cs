using System.Security.Cryptography;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Core.Reports;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Service.Planning;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Reports;

/// <summary>Reports of orders: as they would be made now, as they were made, and by whom they may be read.</summary>
public sealed class ReportDesk(
    OrderShelf shelf,
    OrderDesk desk,
    QuoteDesk quotes,
    PeopleStore people,
    Proofs proofs,
    IOptions<ShopOptions> shop,
    TimeProvider clock
)
{
    // What says nothing that a report would tell.
    private static readonly HashSet<OrderAct> Aside =
    [
        OrderAct.MakeReport,
        OrderAct.OfferReport,
        OrderAct.AgreeExtra,
        OrderAct.DropExtra,
        OrderAct.MakeInvoice,
        OrderAct.ReverseInvoice,
        OrderAct.TakePayment,
    ];

    /// <summary>The last that was made, else as it would be made now.</summary>
    /// <exception cref="RefusedException">It was never made, and cannot be yet.</exception>
    public async Task<ReportView> ShowAsync(int number, CancellationToken cancel)
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var order = snapshot.Order;
        if (order.Reports is not [.., var made])
        {
            WhenMayWhat.Need(OrderAct.MakeReport, order, snapshot.Guide);
            return new ReportView(Of(snapshot, order.ChangedAt), null, null, null, false, null);
        }

        return new ReportView(
            Proofs.Report(made.Proof),
            made.Id,
            made.At,
            Person.Called(people.List(), made.By),
            snapshot.Entries.Skip(made.Sequence).All(e => !Tells(e.Body.Act)),
            order.ReportLink?.Until
        );
    }

    /// <summary>Makes it as the order stands, and signs it.</summary>
    public Task<Receipt> MakeAsync(int number, Sender sender, CancellationToken cancel) =>
        desk.RecordAsync(
            number,
            OrderAct.MakeReport,
            null,
            sender,
            snapshot =>
            {
                var id = ProofId.Of(number, RandomNumberGenerator.GetBytes(ProofId.Bytes));
                return new ReportMade(id.ToString(), proofs.Sign(id, Of(snapshot, clock.GetUtcNow())));
            },
            cancel
        );

    /// <summary>Makes a link by which the customer reads the last that was made.</summary>
    public async Task<OfferView> OfferAsync(
        int number,
        OfferRequest request,
        Sender sender,
        HttpContext context,
        CancellationToken cancel
    )
    {
        var link = CustomerLink.New(clock.GetUtcNow(), request.Days);
        var receipt = await desk.RecordAsync(
            number,
            OrderAct.OfferReport,
            request,
            sender,
            (_, _) => ReportRules.Offer(link.Hash, link.Now, link.Until),
            cancel
        );
        var body = (await shelf.LoadAsync(number, cancel)).Entries[receipt.Sequence - 1].Body;
        return PublicAddress.Offer(link, ((ReportOffered)body).LinkHash, "report", receipt, shop.Value, context);
    }

    /// <summary>The last report that was made of an order.</summary>
    /// <exception cref="RefusedException">None was made yet.</exception>
    public async Task<MadeReport> LastAsync(int number, CancellationToken cancel) =>
        (await shelf.LoadAsync(number, cancel)).Order.Reports is [.., var made]
            ? made
            : throw WhenMayWhat.NoReport(number);

    /// <summary>What a customer's link opens.</summary>
    /// <exception cref="RefusedException">One answer for all that is wrong with a link, so that guessing teaches
    /// nothing.</exception>
    public async Task<(CustomerReport View, MadeReport Made)> OpenAsync(string link, CancellationToken cancel)
    {
        if (
            CustomerLink.Read(link) is { Order: var number, Hash: var hash }
            && await FindAsync(number, cancel) is { Reports: [.., var made], ReportLink: { } offered }
            && offered.Until > clock.GetUtcNow()
            && CustomerLink.Opens(hash, offered.LinkHash)
        )
        {
            return (new CustomerReport(Proofs.Report(made.Proof), made.Id, offered.Until), made);
        }

        throw RefusedException.NotFound(
            "no-such-report",
            "This link opens no report: it is mistyped, too old, or another took its place. Ask the shop for a new one."
        );
    }

    /// <summary>What is told of a proof by its id alone.</summary>
    /// <exception cref="RefusedException">There is no such proof.</exception>
    public async Task<ProofMark> MarkAsync(string text, CancellationToken cancel)
    {
        if (
            ProofId.TryParse(text, out var id)
            && await FindAsync(id.Order, cancel) is { Reports: var all }
            && all.Find(r => r.Id == id.ToString()) is { } made
        )
        {
            var report = Proofs.Report(made.Proof);
            return new ProofMark(
                made.Id,
                report.Shop,
                report.Order,
                report.Machine,
                report.Verdict,
                report.Sentence,
                made.At,
                made == all[^1]
            );
        }

        throw RefusedException.NotFound(
            "no-such-proof",
            $"This shop made no proof “{text}”. Compare it with the paper."
        );
    }

    /// <summary>Whether a proof is what this shop signed.</summary>
    public async Task<ProofView> CheckAsync(string proof, CancellationToken cancel) =>
        await proofs.ReadAsync(proof) is not { } read
            ? new ProofView(
                false,
                "This is no proof of this shop, or it was changed since it was signed: believe nothing of it."
            )
            : new ProofView(
                true,
                $"Signed by {read.Report.Shop}, and unchanged since.",
                read.Id.ToString(),
                read.At,
                read.Key,
                (await FindAsync(read.Id.Order, cancel))?.Reports is not [.., var last]
                    || last.Id == read.Id.ToString(),
                read.Report
            );

    private async Task<Order?> FindAsync(int number, CancellationToken cancel)
    {
        try
        {
            return (await shelf.LoadAsync(number, cancel)).Order;
        }
        catch (RefusedException)
        {
            return null;
        }
    }

    private Report Of(OrderSnapshot snapshot, DateTimeOffset at) =>
        ReportOf.Order(
            snapshot.Order,
            snapshot.Guide,
            quotes.Kinds(snapshot.Order),
            people.List(),
            shop.Value.Name,
            shop.Value.Terms,
            shop.Value.TimeZone,
            at
        );

    private static bool Tells(OrderAct act) => !Aside.Contains(act) && OrderActs.Topic(act) != JournalTopic.Words;
}
