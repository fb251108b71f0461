using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>
/// One hash a day of all that was recorded before, signed by the shop. Whoever writes a whole new chain into the files
/// changes it too; a head that was kept elsewhere tells so. <c>docs/journal-format.md</c> fixes its form.
/// </summary>
public sealed class DayHeads(Connections connections, ShopKey key)
{
    private const string Form = "revtal-day/1";
    private const int AtOnce = 2_000;

    /// <summary>Newest first.</summary>
    public IReadOnlyList<DayHead> Newest(int most) =>
        [.. Rows(newestFirst: true, most).Select(r => new DayHead(r.Day, r.Position, Hex(r.Hash), r.Key))];

    /// <summary>Makes the head of the last day that has one to be made.</summary>
    /// <returns>Whether there was something to count.</returns>
    public bool Make(DateTimeOffset now, CancellationToken cancel = default)
    {
        var midnight = new DateTimeOffset(now.UtcDateTime.Date, TimeSpan.Zero);
        var day = midnight.AddDays(-1).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        var before = Rows(newestFirst: true, 1) is [var last] ? last : null;
        if (string.CompareOrdinal(before?.Day, day) >= 0)
        {
            return false;
        }

        var position = connections.Read(db =>
            db.Number(
                """SELECT max("Position") FROM entries WHERE "Position" > @p0 AND "At" < @p1""",
                null,
                before?.Position ?? 0,
                midnight.ToUnixTimeMilliseconds()
            )
        );
        if (position is not { } to)
        {
            return false;
        }

        var hash = HashOf(before, day, to, cancel);
        var signed = key.Sign(Signed(day, to, hash));
        connections.Change(
            """
            INSERT INTO day_heads ("Day", "Position", "Hash", "Key", "Signature") VALUES (@p0, @p1, @p2, @p3, @p4)
            ON CONFLICT DO NOTHING
            """,
            day,
            to,
            hash,
            signed.Id,
            signed.Signature
        );
        return true;
    }

    /// <summary>Tells of heads that what stands in the store now does not have.</summary>
    public void Verify(Action<StoreFault> found, CancellationToken cancel)
    {
        DayHeadRow? before = null;
        foreach (var head in Rows(newestFirst: false, int.MaxValue))
        {
            cancel.ThrowIfCancellationRequested();
            if (!key.IsSigned(Signed(head.Day, head.Position, head.Hash), head.Signature, head.Key))
            {
                found(new StoreFault(null, null, $"The head of {head.Day} is not signed by this shop."));
            }

            if (!HashOf(before, head.Day, head.Position, cancel).AsSpan().SequenceEqual(head.Hash))
            {
                found(
                    new StoreFault(
                        null,
                        null,
                        $"What was recorded until the end of {head.Day} is not what its head was made of: entries were "
                            + "changed, put in or taken out, and what proves them with them. Look at a backup for what "
                            + "was."
                    )
                );
            }

            before = head;
        }
    }

    private byte[] HashOf(DayHeadRow? before, string day, long to, CancellationToken cancel)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        Add($"{Form}\n{Hex(before?.Hash ?? EntryChain.None)}\n{day}\n");
        var from = before?.Position ?? 0;
        for (var more = true; more; )
        {
            cancel.ThrowIfCancellationRequested();
            var rows = connections.Read(db => ChainRows.Between(db, from, to, AtOnce));
            foreach (var row in rows)
            {
                Add($"{row.Position} {Hex(EntryChain.HashOf(row))}\n");
                from = row.Position;
            }

            more = rows.Count == AtOnce;
        }

        return hash.GetHashAndReset();

        void Add(FormattableString text) =>
            hash.AppendData(Encoding.UTF8.GetBytes(text.ToString(CultureInfo.InvariantCulture)));
    }

    private static string Signed(string day, long position, byte[] hash) =>
        string.Create(CultureInfo.InvariantCulture, $"{Form}\n{day}\n{position}\n{Hex(hash)}");

    private static string Hex(byte[] hash) => Convert.ToHexStringLower(hash);

    private IReadOnlyList<DayHeadRow> Rows(bool newestFirst, int most) =>
        connections.Read(db =>
            db.All(
                $"""
                SELECT "Day", "Position", "Hash", "Key", "Signature" FROM day_heads
                ORDER BY "Day" {(newestFirst ? "DESC" : "")} LIMIT @p0
                """,
                row => new DayHeadRow
                {
                    Day = row.GetString(0),
                    Position = row.GetInt64(1),
                    Hash = (byte[])row.GetValue(2),
                    Key = row.GetString(3),
                    Signature = (byte[])row.GetValue(4),
                },
                most
            )
        );
}
