using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>Somebody has the machine in hand.</summary>
/// <param name="Owner">The person's id; null for nobody.</param>
/// <param name="Word">What they must know before they go on; null for nothing.</param>
public sealed record OwnerNamed(string? Owner, string? Word = null) : EntryBody
{
    public override OrderAct Act => OrderAct.NameOwner;

    public override string Line(Guide? guide) => In(Owner);

    public override string Line(Guide? guide, IReadOnlyList<Person> people) =>
        In(Owner is null ? null : Person.Called(people, Owner));

    private string In(string? hands) => $"In {hands ?? "nobody"}'s hands{Phrases.When(Word, w => $": {w}")}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Owner = Owner,
            HandOver = Word is null ? Unread(order, entry) : Said(Unread(order, entry), entry, Word),
        };

    // What nobody has read goes on with the machine; who said it and takes the machine back knows it.
    private HandOver? Unread(Order order, Entry entry) =>
        order.HandOver is { } over && over.By == entry.By && Owner == entry.By ? null : order.HandOver;

    private HandOver Said(HandOver? unread, Entry entry, string word) =>
        new(entry.By, Owner, unread is null ? word : $"{unread.Word}\n{word}", entry.At);
}

/// <summary>What was handed over in words was read.</summary>
public sealed record HandOverRead : EntryBody
{
    public override OrderAct Act => OrderAct.ReadHandOver;

    public override string Line(Guide? guide) => "Read what was handed over";

    internal override Order Apply(Order order, Entry entry) => order with { HandOver = null };
}

/// <summary>Where the machine lies.</summary>
/// <param name="Place">As it is written there; null where nobody knows.</param>
public sealed record PlaceTold(string? Place) : EntryBody
{
    public override OrderAct Act => OrderAct.TellPlace;

    public override string Line(Guide? guide) => Place is null ? "Where it lies is not known" : $"Lies at {Place}";

    internal override Order Apply(Order order, Entry entry) => order with { Place = Place };
}

/// <summary>By when the customer was promised the machine.</summary>
/// <param name="At">Null: nothing is promised any more.</param>
public sealed record Promised(DateTimeOffset? At) : EntryBody
{
    public override OrderAct Act => OrderAct.Promise;

    public override string Line(Guide? guide) =>
        At is { } at ? $"Promised for {Phrases.Minute(at)}" : "Nothing is promised any more";

    internal override Order Apply(Order order, Entry entry) => order with { PromisedAt = At };
}

/// <summary>
/// Whose it is, where it lies and for when it was promised. Each rule gives the entry to append, or refuses with the
/// reason and the way on.
/// </summary>
public static class SharedRules
{
    private const int LongestPlace = 40,
        LongestPromiseDays = 365;

    /// <summary>What a place's label says before its name.</summary>
    public const string PlaceCode = "revtal:place:";

    /// <summary>Who has the machine in hand from now on.</summary>
    /// <param name="owner">Null: nobody.</param>
    /// <param name="word">What the next one must read before the run goes on.</param>
    /// <exception cref="RefusedException">The shop has nobody called so, or who is at the desk.</exception>
    public static OwnerNamed NameOwner(string? owner, IReadOnlyList<Person> people, string? word = null) =>
        owner is null ? new OwnerNamed(null, Words.Text("The word", word))
        : people.FirstOrDefault(p => p.Id == owner) is { Role: not (Role.Desk or Role.Wall) } hands
            ? new OwnerNamed(hands.Id, Words.Text("The word", word))
        : throw RefusedException.Invalid(
            "no-such-hands",
            $"“{owner}” has no machine in hand here. Name one of "
                + $"{Phrases.Either(people.Where(p => p.Role is not (Role.Desk or Role.Wall)).Select(p => p.Id))}."
        );

    /// <param name="place">As it is written there, or as its label is scanned; null where nobody knows.</param>
    public static PlaceTold TellPlace(string? place)
    {
        var named = Words.Line("The place", place);
        var plain =
            named?.StartsWith(PlaceCode, StringComparison.OrdinalIgnoreCase) == true
                ? Words.RequiredLine("The place", named[PlaceCode.Length..])
                : named;
        return plain?.Length > LongestPlace
            ? throw RefusedException.Invalid("place-long", $"A place's name has at most {LongestPlace} characters.")
            : new PlaceTold(plain);
    }

    /// <param name="at">To come, within a year; null to promise nothing any more.</param>
    public static Promised Promise(DateTimeOffset? at, DateTimeOffset now) =>
        at is null || (at > now && at <= now.AddDays(LongestPromiseDays))
            ? new Promised(at)
            : throw RefusedException.Invalid(
                "promise-time",
                "A machine is promised for a time to come, within a year."
            );
}
