namespace Revtal.Core.Guides;

/// <summary>A new model's guide, begun from that of a like one: “as FJ14, but”.</summary>
public static class LikeModel
{
    /// <summary>
    /// What is of the machine's build is taken over; what names, tells apart or proves the other model is not. Its name
    /// is left open, so that nobody publishes it unread.
    /// </summary>
    /// <param name="code">Of the new model.</param>
    public static Guide Begin(Guide like, string code) =>
        like with
        {
            Model = like.Model with
            {
                Code = code,
                Name = "",
                Built = null,
                TellApart = null,
                ReportsAs = [],
                Sketch = false,
            },
            Memory = like.Memory with { ConfirmedMax = null },
            Variants = [],
        };
}
