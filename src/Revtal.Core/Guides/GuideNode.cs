namespace Revtal.Core.Guides;

/// <summary>A guide file before it is understood: plain values with the line on which each stands.</summary>
/// <param name="Line">From 1.</param>
public abstract record GuideNode(int Line)
{
    public sealed record Scalar(string Text, int Line) : GuideNode(Line);

    public sealed record List(IReadOnlyList<GuideNode> Items, int Line) : GuideNode(Line);

    /// <param name="Fields">In file order; a key stands once.</param>
    public sealed record Map(IReadOnlyList<(string Key, GuideNode Value)> Fields, int Line) : GuideNode(Line);
}

/// <summary>One thing wrong in a guide file, with its line and the mend.</summary>
public sealed record GuideProblem(int Line, string Message)
{
    public override string ToString() => $"line {Line}: {Message}";
}

/// <summary>A guide read from its file, or all that keeps it from being one.</summary>
/// <param name="Guide">Null when there is any problem.</param>
public sealed record GuideResult(Guide? Guide, IReadOnlyList<GuideProblem> Problems);
