using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Service.Shop;

namespace Revtal.Service.Planning;

/// <summary>What a link opens.</summary>
/// <param name="Orders">One, or the machines of a batch that it offers together.</param>
internal sealed record OpenedQuote(IReadOnlyList<OrderSnapshot> Orders, QuoteOffered Offer);

/// <summary>The links of quotes.</summary>
internal static class QuoteLink
{
    /// <summary>The link, once it is recorded.</summary>
    /// <exception cref="RefusedException">A retry is answered with what was recorded first, and that link's secret is
    /// kept nowhere.</exception>
    public static async Task<OfferView> ShowAsync(
        CustomerLink link,
        Receipt receipt,
        OrderShelf shelf,
        ShopOptions shop,
        HttpContext context,
        CancellationToken cancel
    ) =>
        (await shelf.LoadAsync(receipt.Order, cancel)).Entries[receipt.Sequence - 1].Body
            is QuoteOffered { LinkHash: var kept }
            ? PublicAddress.Offer(link, kept, "quote", receipt, shop, context)
            : throw new InvalidOperationException("What was recorded is no quote.");

    /// <summary>What a link opens now, or was answered by.</summary>
    /// <exception cref="RefusedException">One answer for all that is wrong with a link, so that guessing teaches
    /// nothing.</exception>
    public static async Task<OpenedQuote> OpenAsync(
        string link,
        OrderShelf shelf,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (CustomerLink.Read(link) is { Order: var number, Hash: var hash })
        {
            try
            {
                var first = await shelf.LoadAsync(number, cancel);
                if (OpenedBy(first, hash, clock) is { } offer)
                {
                    var all = new List<OrderSnapshot>();
                    foreach (var other in offer.With ?? [number])
                    {
                        all.Add(await shelf.LoadAsync(other, cancel));
                    }

                    // Where one machine moved on, the sum that was told is no more.
                    if (
                        all.All(o => o.Order.Stage != Stage.Cancelled && OpenedBy(o, offer.LinkHash, clock) is not null)
                    )
                    {
                        return new OpenedQuote(all, offer);
                    }
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

    /// <summary>The offer that was made last; null where none was.</summary>
    public static QuoteOffered? LastOffer(OrderSnapshot snapshot) =>
        snapshot.Entries.Select(e => e.Body).OfType<QuoteOffered>().LastOrDefault();

    private static QuoteOffered? OpenedBy(OrderSnapshot snapshot, string hash, TimeProvider clock)
    {
        var open =
            snapshot.Order.Offered
            ?? (
                snapshot.Order.Agreed is { ByLink: true } || snapshot.Order.Declined is { ByLink: true }
                    ? LastOffer(snapshot)
                    : null
            );
        return open is not null && open.Until > clock.GetUtcNow() && CustomerLink.Opens(hash, open.LinkHash)
            ? open
            : null;
    }
}
