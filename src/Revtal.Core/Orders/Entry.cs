using System.Text.Json.Serialization;
using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>One fact on an order, never changed once written.</summary>
/// <param name="Order">The order's number.</param>
/// <param name="Sequence">From 1 within the order, without gaps.</param>
/// <param name="Id">Made by the sender, so that a retry records once.</param>
/// <param name="At">When it was recorded, UTC.</param>
/// <param name="By">The person's id.</param>
/// <param name="Said">When it was said, where it waited for a network; null where that is the same.</param>
public sealed record Entry(
    int Order,
    int Sequence,
    Guid Id,
    DateTimeOffset At,
    string By,
    EntryBody Body,
    Said? Said = null
)
{
    /// <summary>When it happened, as far as that can be believed.</summary>
    public DateTimeOffset HappenedAt => Said is { ClockOff: false, At: var said } ? said : At;
}

/// <summary>
/// What an entry says; one record a kind, which knows what act it records, what it does to the order and how the
/// journal tells it. When it may be recorded stands in <see cref="WhenMayWhat"/>; how it is stored is the storage's
/// business.
/// </summary>
public abstract record EntryBody
{
    /// <summary>The act that it records.</summary>
    [JsonIgnore]
    public abstract OrderAct Act { get; }

    /// <summary>One line of the journal, in people's words.</summary>
    /// <param name="guide">Names steps as the bench calls them; null where no guide is at hand.</param>
    public abstract string Line(Guide? guide);

    /// <summary>The line with people called as the bench calls them.</summary>
    /// <param name="people">Everybody of the shop.</param>
    public virtual string Line(Guide? guide, IReadOnlyList<Person> people) => Line(guide);

    /// <summary>The order after it. It decides nothing: what was recorded happened.</summary>
    /// <param name="order">As it stood before; <see cref="Order.Apply"/> moves its head.</param>
    /// <param name="entry">The entry whose body this is.</param>
    internal virtual Order Apply(Order order, Entry entry) => order;
}
