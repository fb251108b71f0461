using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>Who asks for a change outside the journal, and when.</summary>
/// <param name="Key">Made by the sender; the same key again changes nothing twice.</param>
/// <param name="Print">Hash of what is asked, so that one key cannot stand for two things; null where the sender gave
/// no key, and so cannot ask again.</param>
public sealed record Hand(string By, DateTimeOffset At, Guid Key, string? Print = null);

/// <summary>
/// The road that every change outside the journal travels: key → rule → one transaction → live
/// change. A retry is told what the first
/// try was told, also when both come at once.
/// </summary>
public sealed class Road(IDbContextFactory<RevtalDb> databases, Connections connections, Changes changes)
{
    /// <summary>How long a key is remembered; a retry after that is a new request.</summary>
    public static readonly TimeSpan Remembered = TimeSpan.FromDays(30);
    private static readonly TimeSpan BetweenClearings = TimeSpan.FromHours(1);
    private DateTimeOffset cleared;

    /// <param name="change">Decides and changes; all that it saves is kept, or none of it.</param>
    /// <exception cref="RefusedException">The key stood for something else, or the change refused.</exception>
    public async Task<T> TakeAsync<T>(
        ShopTopic topic,
        Hand hand,
        Func<RevtalDb, Task<T>> change,
        CancellationToken cancel = default
    )
    {
        connections.Prove();
        await using var db = await databases.CreateDbContextAsync(cancel);

        // The store lets one writer in at a time: who comes second under a key waits here, and then finds the first.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (connections.Dialect.Pen is { } pen)
        {
            await db.Database.ExecuteSqlRawAsync(pen, cancel);
        }

        if (
            hand.Print is { } print
            && await db.Requests.AsNoTracking().FirstOrDefaultAsync(r => r.Key == hand.Key, cancel) is { } earlier
        )
        {
            return earlier.Print == print
                ? JsonSerializer.Deserialize<T>(earlier.Answer, RevtalJson.Options)!
                : throw RefusedException.Invalid(
                    "key-reused",
                    "This Idempotency-Key has changed something else. Make a new one for each change."
                );
        }

        var answer = await change(db);
        if (hand.Print is not null)
        {
            db.Requests.Add(
                new RequestRow
                {
                    Key = hand.Key,
                    Print = hand.Print,
                    Answer = JsonSerializer.Serialize(answer, RevtalJson.Options),
                    At = hand.At.ToUnixTimeMilliseconds(),
                }
            );
        }

        await ForgetAsync(db, hand.At, cancel);
        await db.SaveChangesAsync(cancel);
        if (connections.Dialect.Call is { } call)
        {
            await db.Database.ExecuteSqlRawAsync(call, [Changes.Written(topic, hand)], cancel);
        }

        await transaction.CommitAsync(cancel);
        changes.Tell(topic, hand);
        return answer;
    }

    private async Task ForgetAsync(RevtalDb db, DateTimeOffset now, CancellationToken cancel)
    {
        if (now - cleared < BetweenClearings)
        {
            return;
        }

        cleared = now;
        var old = (now - Remembered).ToUnixTimeMilliseconds();
        await db.Requests.Where(r => r.At < old).ExecuteDeleteAsync(cancel);
    }
}
