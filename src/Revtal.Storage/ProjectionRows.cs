using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>The projection, and how it is made anew from the journal.</summary>
public static class ProjectionRows
{
    // Bytes.
    private const int Step = 64;

    public static Projection Project(Order order, Guide guide, Assessment? assessment = null) =>
        new(
            order,
            Whole(
                JsonSerializer.Serialize(
                    OrderCard.Of(order, guide, assessment ?? Assessment.Of(order, guide)),
                    RevtalJson.Options
                )
            ),
            // A cleaning has its own price: such a run is no measure of the work's time.
            order.Stage
                is Stage.Ready
                    or Stage.HandedBack
            && order.Plan is { Value.Cleans: false }
                ? order.WayIn(guide)
                : null
        );

    // A row that keeps its length is written over in its place; one that does not has its neighbours moved.
    private static string Whole(string card) =>
        card + new string(' ', Step - 1 - (Encoding.UTF8.GetByteCount(card) - 1) % Step);

    /// <summary>Makes every projection row anew; the journal is only read.</summary>
    /// <returns>How many orders there are.</returns>
    public static async Task<int> RebuildAsync(
        IDbContextFactory<RevtalDb> databases,
        Journal journal,
        GuideShelf guides,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Orders.ExecuteDeleteAsync(cancel);
        var numbers = await db.Entries.Select(e => e.Order).Distinct().OrderBy(n => n).ToListAsync(cancel);
        foreach (var number in numbers)
        {
            var order = Order.Fold((journal.Entries(number)).Select(s => s.Entry));
            db.Orders.Add(Of(Project(order, guides.Of(order))));
            if (number % 500 == 0)
            {
                await db.SaveChangesAsync(cancel);
                db.ChangeTracker.Clear();
            }
        }

        await db.SaveChangesAsync(cancel);
        using var prepared = new Prepared(db.Database.GetDbConnection(), owns: false);
        var one = transaction.GetDbTransaction();
        TraceRows.Forget(prepared, one);
        while (TraceRows.ReadOn(prepared, one, 10_000)) { }
        await transaction.CommitAsync(cancel);
        return numbers.Count;
    }

    /// <summary>
    /// What an entry suggests for the guide: said by somebody, or proved by a machine that works beyond what its guide
    /// states.
    /// </summary>
    internal static GuideChange? Suggestion(Entry entry) =>
        entry.Body switch
        {
            GuideSuggested s => s.Change,
            MarkedReady { Proves: { } size } => new GuideChange(
                GuideChangeKind.ConfirmedMax,
                Size: size,
                Number: entry.Order
            ),
            _ => null,
        };

    internal static OrderRow Of(Projection after) =>
        new()
        {
            Number = after.Order.Number,
            Head = after.Order.Head,
            Open = after.Order.IsOpen,
            Stage = after.Order.Stage.ToString(),
            Model = after.Order.Model,
            Customer = after.Order.Intake.Customer,
            Serial = after.Order.Intake.Serial,
            ChangedAt = after.Order.ChangedAt.ToUnixTimeMilliseconds(),
            Card = after.CardJson,
            Way = after.Way,
            RunMinutes = after.Way is null ? null : after.Order.RunMinutes,
            Scores = after.Order.Scores(Phase.After) is { Count: > 0 } scores
                ? JsonSerializer.Serialize(scores, RevtalJson.Options)
                : null,
            Later = after.Order.Later?.Words,
            Batch = after.Order.Batch,
            Wants = after.Order.PartsWanted is { Count: > 0 } wishes
                ? JsonSerializer.Serialize(wishes.Select(w => w.Number))
                : null,
        };
}
