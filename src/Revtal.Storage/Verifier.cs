using System.Security.Cryptography;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Storage.Shapes;

namespace Revtal.Storage;

/// <summary>How far a look through the store is.</summary>
/// <param name="Orders">Looked through so far.</param>
/// <param name="Of">Orders that there are.</param>
public sealed record Verified(int Orders, int Of, int Entries, int Pictures, int Captures);

/// <summary>
/// Looks through the whole store: follows the chain of each order, reads and folds its entries, compares what the board
/// keeps of it with what they say, compares what was recorded with the signed head of each day, and hashes each picture
/// and capture. It only reads, beside whoever writes.
/// </summary>
public sealed class Verifier(Connections connections, GuideShelf guides, DayHeads heads)
{
    private const int AtOnce = 500;

    // Whoever goes on with an order while it is read is read again.
    private const int MostTries = 5;

    /// <param name="found">Each fault as it is found; of an order the first of its chain.</param>
    /// <param name="progress">From time to time.</param>
    public Verified Run(Action<StoreFault> found, Action<Verified> progress, CancellationToken cancel = default)
    {
        var so = new Verified(0, connections.Read(db => Number(db, """SELECT count(*) FROM orders""")), 0, 0, 0);
        int? last = null;
        for (var more = true; more; )
        {
            var numbers = Numbers(last ?? 0);
            foreach (var number in numbers)
            {
                cancel.ThrowIfCancellationRequested();
                for (var missing = (last ?? number - 1) + 1; missing < number; missing++)
                {
                    found(
                        new StoreFault(missing, null, $"Order {missing} is gone: those before and after it are there.")
                    );
                }

                so = so with { Orders = so.Orders + 1, Entries = so.Entries + VerifyOrder(number, found) };
                last = number;
            }

            progress(so);
            more = numbers.Count == AtOnce;
        }

        if (connections.Read(InvoiceRows.Gap) is { } gap)
        {
            found(new StoreFault(null, null, $"Invoice {gap} is gone: there are later ones."));
        }

        heads.Verify(found, cancel);
        foreach (var damage in connections.Read(connections.Dialect.Damage))
        {
            found(new StoreFault(null, null, $"The file is damaged: {damage}. Restore a backup."));
        }

        so = so with { Pictures = Blobs("pictures", "picture", found, cancel) };
        return so with { Captures = Blobs("captures", "capture", found, cancel) };
    }

    private IReadOnlyList<int> Numbers(int after) =>
        connections.Read(db =>
            db.All(
                """
                SELECT "Order" FROM entries WHERE "Order" > @p0
                UNION SELECT "Number" FROM orders WHERE "Number" > @p0
                ORDER BY 1 LIMIT @p1
                """,
                row => row.GetInt32(0),
                after,
                AtOnce
            )
        );

    /// <returns>How many entries it has.</returns>
    private int VerifyOrder(int number, Action<StoreFault> found)
    {
        var (kept, entries) = connections.Read(db => Still(db, number));
        if (ChainCheck.Of(number, entries, kept?.Head, kept?.Hash) is { } broken)
        {
            found(broken);
        }

        var read = new List<Entry>();
        foreach (var row in entries)
        {
            try
            {
                read.Add(EntryOf(row));
            }
            catch (InvalidDataException e)
            {
                found(new StoreFault(number, row.Sequence, $"Entry {row.Sequence} cannot be read: {e.Message}"));
            }
        }

        if (read.Count == entries.Count && entries.Count > 0 && WhatDiffers(number, read, kept) is { } fault)
        {
            found(fault);
        }

        return entries.Count;
    }

    private StoreFault? WhatDiffers(int number, List<Entry> entries, OrderRow? kept)
    {
        try
        {
            var order = Order.Fold(entries);
            var says = ProjectionRows.Of(ProjectionRows.Project(order, guides.Of(order)));
            int[] numbers = [.. entries.Select(e => e.Body).OfType<InvoiceEntry>().Select(i => i.Number)];
            if (!numbers.SequenceEqual(connections.Read(db => InvoiceRows.Of(db, number, entries.Count))))
            {
                return new StoreFault(
                    number,
                    null,
                    $"The list of invoices has others of order {number} than its entries. Restore a backup."
                );
            }

            return kept is not null && Same(says, kept)
                ? null
                : new StoreFault(
                    number,
                    null,
                    $"The board keeps of order {number} something else than its entries say. Have its rows made anew: "
                        + "revtald --rebuild true."
                );
        }
        // Whatever a spoiled guide or entry makes the heart fail at; only the store's own failures end the look.
        catch (Exception e) when (StoreException.Of(e) is null)
        {
            return new StoreFault(
                number,
                null,
                $"The entries of order {number} do not make an order with its guide: {e.Message}"
            );
        }
    }

    private static bool Same(OrderRow a, OrderRow b) =>
        (a.Head, a.Open, a.Stage, a.Model, a.Customer, a.Serial, a.ChangedAt, a.Card)
            == (b.Head, b.Open, b.Stage, b.Model, b.Customer, b.Serial, b.ChangedAt, b.Card)
        && (a.Way, a.RunMinutes, a.Scores, a.Later, a.Batch, a.Wants)
            == (b.Way, b.RunMinutes, b.Scores, b.Later, b.Batch, b.Wants);

    // An order's row and its entries as they stood at one moment.
    private static (OrderRow?, IReadOnlyList<EntryRow>) Still(Prepared db, int number)
    {
        for (var i = 1; ; i++)
        {
            var before = OrderRows.Of(db, number);
            var entries = ChainRows.Of(db, null, number);
            if (i == MostTries || OrderRows.Of(db, number)?.Head == before?.Head)
            {
                return (before, entries);
            }
        }
    }

    private static Entry EntryOf(EntryRow row) =>
        new(
            row.Order,
            row.Sequence,
            row.Id,
            DateTimeOffset.FromUnixTimeMilliseconds(row.At),
            row.By,
            EntryKinds.Read(row.Kind, row.Body),
            row.SaidAt is { } said
                ? new Said(DateTimeOffset.FromUnixTimeMilliseconds(said), row.ClockOff ?? false)
                : null
        );

    // The name of each is the hash of what it holds.
    private int Blobs(string table, string noun, Action<StoreFault> found, CancellationToken cancel)
    {
        var hashes = connections.Read(db => db.All($"""SELECT "Hash" FROM {table}""", row => row.GetString(0)));
        foreach (var hash in hashes)
        {
            cancel.ThrowIfCancellationRequested();
            var content = connections.Read(db =>
                db.Command($"""SELECT "Content" FROM {table} WHERE "Hash" = @p0""", null, hash).ExecuteScalar()
            );
            if (content is byte[] bytes && Convert.ToHexStringLower(SHA256.HashData(bytes)) != hash)
            {
                found(new StoreFault(null, null, $"The {noun} {hash[..12]}… is not what was kept under that hash."));
            }
        }

        return hashes.Count;
    }

    private static int Number(Prepared db, string sql) => (int)(db.Number(sql, null) ?? 0);
}
