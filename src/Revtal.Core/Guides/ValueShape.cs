namespace Revtal.Core.Guides;

/// <summary>One key of a map of a guide file, as the schema and the format's page tell it.</summary>
/// <param name="Says">What it holds; empty where the key says it.</param>
public sealed record FieldFact(string Key, bool Needed, string Says, ValueShape Shape);

/// <summary>What a value of a guide file looks like.</summary>
/// <param name="Wants">What is said to whom wrote something else: “a length in mm, like “5 mm””.</param>
public abstract record ValueShape(string Wants)
{
    /// <param name="Pattern">A regular expression that it keeps to; null for any text.</param>
    public sealed record Text(string Wants, string? Pattern = null) : ValueShape(Wants)
    {
        /// <summary>The longest text of a guide, in characters.</summary>
        public const int Longest = 500;
    }

    /// <summary>This and nothing else.</summary>
    public sealed record Exactly(string Value) : ValueShape($"“{Value}”");

    /// <param name="From">The least, inclusive.</param>
    /// <param name="To">The most, inclusive.</param>
    public sealed record Whole(string Wants, int From, int To) : ValueShape(Wants);

    /// <summary>True or false.</summary>
    public sealed record Flag() : ValueShape("true or false");

    /// <summary>One of these words.</summary>
    public sealed record Word(IReadOnlyList<string> Words) : ValueShape($"one of {string.Join(", ", Words)}");

    /// <summary>Two shares from 0 to 1.</summary>
    public sealed record Point() : ValueShape("places from 0 to 1, across and down, like [0.62, 0.71]");

    /// <summary>So many at most, all of one shape.</summary>
    public sealed record List(ValueShape Item, int Most) : ValueShape($"a list of at most {Most}");

    /// <summary>These keys and no others.</summary>
    public sealed record Map(IReadOnlyList<FieldFact> Fields) : ValueShape("keys and values");

    /// <summary>A map whose keys are numbers of modules.</summary>
    public sealed record ByCount(string Wants, string KeyPattern, ValueShape Item) : ValueShape(Wants);

    /// <summary>One of these shapes.</summary>
    public sealed record Either(string Wants, IReadOnlyList<ValueShape> Shapes) : ValueShape(Wants);

    /// <summary>Keys of the guide itself, with other values.</summary>
    public sealed record Overlay() : ValueShape("keys and values, laid out as in the guide itself");
}
