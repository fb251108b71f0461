using Microsoft.EntityFrameworkCore;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>Machines that told of themselves before there was an order.</summary>
public sealed class ArrivalStore(IDbContextFactory<RevtalDb> databases, Road road)
{
    /// <summary>How many a list shows at most.</summary>
    public const int MostListed = 50;

    /// <summary>Those that wait to be taken in, newest first: what was sent, and codes that still open.</summary>
    /// <param name="since">Older ones are not told.</param>
    public async Task<IReadOnlyList<ArrivalRow>> WaitingAsync(
        DateTimeOffset since,
        DateTimeOffset now,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (from, at) = (since.ToUnixTimeMilliseconds(), now.ToUnixTimeMilliseconds());
        return await db
            .Arrivals.AsNoTracking()
            .Where(a => a.Order == null && a.At >= from && (a.Capture != null || a.Until > at))
            .OrderByDescending(a => a.At)
            .Take(MostListed)
            .ToListAsync(cancel);
    }

    /// <exception cref="RefusedException">There is none.</exception>
    public async Task<ArrivalRow> GetAsync(string id, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Arrivals.AsNoTracking().FirstOrDefaultAsync(a => a.Id == id, cancel)
            ?? throw RefusedException.NotFound("no-such-arrival", "No machine told of itself under that name.");
    }

    /// <summary>The one that this code opens now; null where it opens none.</summary>
    public async Task<ArrivalRow?> OpenedByAsync(
        string codeHash,
        DateTimeOffset now,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var at = now.ToUnixTimeMilliseconds();
        return await db
            .Arrivals.AsNoTracking()
            .FirstOrDefaultAsync(a => a.CodeHash == codeHash && a.Until > at && a.Capture == null, cancel);
    }

    /// <summary>A code by which a machine may tell of itself.</summary>
    public Task<ArrivalRow> InviteAsync(
        string codeHash,
        DateTimeOffset until,
        Hand hand,
        CancellationToken cancel = default
    )
    {
        var row = New(hand);
        (row.CodeHash, row.Until) = (codeHash, until.ToUnixTimeMilliseconds());
        return AddAsync(row, null, hand, cancel);
    }

    /// <summary>What a machine told, carried here.</summary>
    public Task<ArrivalRow> PutAsync(CaptureRow capture, Hand hand, CancellationToken cancel = default)
    {
        var row = New(hand);
        (row.Capture, row.CameAt) = (capture.Hash, hand.At.ToUnixTimeMilliseconds());
        return AddAsync(row, capture, hand, cancel);
    }

    /// <summary>What a machine sent by its code; the code is used up with it.</summary>
    /// <returns>False where somebody sent by it already.</returns>
    public Task<bool> SendAsync(string id, CaptureRow capture, Hand hand, CancellationToken cancel = default) =>
        road.TakeAsync(
            ShopTopic.Arrivals,
            hand,
            async db =>
            {
                var row = await db.Arrivals.FirstOrDefaultAsync(a => a.Id == id && a.Capture == null, cancel);
                if (row is null)
                {
                    return false;
                }

                (row.Capture, row.CameAt) = (capture.Hash, hand.At.ToUnixTimeMilliseconds());
                await KeepAsync(db, capture, cancel);
                return true;
            },
            cancel
        );

    private Task<ArrivalRow> AddAsync(ArrivalRow row, CaptureRow? capture, Hand hand, CancellationToken cancel) =>
        road.TakeAsync(
            ShopTopic.Arrivals,
            hand,
            async db =>
            {
                db.Arrivals.Add(row);
                if (capture is not null)
                {
                    await KeepAsync(db, capture, cancel);
                }

                return row;
            },
            cancel
        );

    private static async Task KeepAsync(RevtalDb db, CaptureRow capture, CancellationToken cancel)
    {
        if (!await db.Captures.AnyAsync(c => c.Hash == capture.Hash, cancel))
        {
            db.Captures.Add(capture);
        }
    }

    private static ArrivalRow New(Hand hand) =>
        new()
        {
            Id = Guid.CreateVersion7().ToString("N"),
            By = hand.By,
            At = hand.At.ToUnixTimeMilliseconds(),
        };
}
