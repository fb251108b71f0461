namespace Revtal.Core.Guides;

/// <summary>A guide file before it is understood: plain values with the line on which each stands.</summary>
/// <param name="Line">From 1; 0 where it comes from no file.</param>
public abstract record GuideNode(int Line)
{
    /// <summary>One text.</summary>
    public sealed record Scalar(string Text, int Line) : GuideNode(Line);

    /// <summary>A list, in file order.</summary>
    public sealed record List(IReadOnlyList<GuideNode> Items, int Line) : GuideNode(Line);

    /// <param name="Fields">In file order; a key stands once.</param>
    public sealed record Map(IReadOnlyList<(string Key, GuideNode Value)> Fields, int Line) : GuideNode(Line)
    {
        /// <summary>Null where the key does not stand.</summary>
        public GuideNode? Find(string key) => Fields.FirstOrDefault(f => f.Key == key).Value;

        /// <summary>What names a map among its neighbours in a list: its <c>id</c>, or its <c>group</c>.</summary>
        public string? Name => (Find("id") ?? Find("group")) is Scalar s ? s.Text : null;
    }

    /// <summary>Whether two say the same, wherever they stand.</summary>
    public static bool Same(GuideNode? a, GuideNode? b) =>
        (a, b) switch
        {
            (null, null) => true,
            (Scalar x, Scalar y) => x.Text == y.Text,
            (List x, List y) => x.Items.Count == y.Items.Count
                && x.Items.Zip(y.Items).All(p => Same(p.First, p.Second)),
            (Map x, Map y) => x.Fields.Count == y.Fields.Count
                && x.Fields.All(f => y.Find(f.Key) is { } other && Same(f.Value, other)),
            _ => false,
        };
}

/// <summary>One thing wrong in a guide file, with its line and the mend.</summary>
public sealed record GuideProblem(int Line, string Message)
{
    public override string ToString() => $"line {Line}: {Message}";
}

/// <summary>A guide read from its file, or all that keeps it from being one.</summary>
/// <param name="Guide">Null when there is any problem.</param>
public sealed record GuideResult(Guide? Guide, IReadOnlyList<GuideProblem> Problems);

/// <summary>On which line of the file each thing of a guide stands.</summary>
public sealed class GuideLines
{
    private readonly Dictionary<object, int> lines = new(ReferenceEqualityComparer.Instance);

    /// <summary>Keeps the line on which it stands.</summary>
    public T Put<T>(T thing, int line)
        where T : class
    {
        lines[thing] = line;
        return thing;
    }

    /// <summary>Its line; 1 for what came from no file.</summary>
    public int Of(object thing) => lines.GetValueOrDefault(thing, 1);
}
