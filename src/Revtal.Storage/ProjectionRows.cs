using System.Text;
using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>What is kept of an order for the board and for what is asked of many.</summary>
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
