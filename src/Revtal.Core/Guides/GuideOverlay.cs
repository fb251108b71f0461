namespace Revtal.Core.Guides;

/// <summary>
/// Lays what differs over what is common, and finds what differs. Maps go key by key, lists of named things name by name, all else
/// is replaced; <c>absent: true</c> takes a named thing away, <c>~</c> a key.
/// </summary>
public static class GuideOverlay
{
    private const string Absent = "absent", Nothing = "~";

    public static GuideNode Lay(GuideNode common, GuideNode differs) => (common, differs) switch
    {
        (GuideNode.Map c, GuideNode.Map d) => new GuideNode.Map(
            [
                .. c.Fields.Where(f => !IsNothing(d.Find(f.Key))).Select(f => (f.Key, d.Find(f.Key) is { } other ? Lay(f.Value, other) : f.Value)),
                .. d.Fields.Where(f => c.Find(f.Key) is null && !IsNothing(f.Value)),
            ],
            c.Line),
        (GuideNode.List c, GuideNode.List d) when IsNamed(c) && IsNamed(d) => new GuideNode.List(
            [
                .. c.Items.Select(i => Named(d, Name(i)!) is { } other ? IsAbsent(other) ? null : Lay(i, other) : i).OfType<GuideNode>(),
                .. d.Items.Where(i => Named(c, Name(i)!) is null && !IsAbsent(i)),
            ],
            c.Line),
        _ => differs,
    };

    /// <summary>What laid over the first makes the second; null when they say the same.</summary>
    public static GuideNode? Difference(GuideNode common, GuideNode other)
    {
        if (GuideNode.Same(common, other))
        {
            return null;
        }

        switch (common, other)
        {
            case (GuideNode.Map c, GuideNode.Map o):
                return new GuideNode.Map(
                    [
                        .. c.Fields.Select(f => (f.Key, o.Find(f.Key) is { } value ? Difference(f.Value, value) : new GuideNode.Scalar(Nothing, 0)))
                            .Where(f => f.Item2 is not null).Select(f => (f.Key, f.Item2!)),
                        .. o.Fields.Where(f => c.Find(f.Key) is null),
                    ],
                    0);
            case (GuideNode.List c, GuideNode.List o) when IsNamed(c) && IsNamed(o) && SameOrder(c, o):
                return new GuideNode.List(
                    [
                        .. c.Items.Select(i => Named(o, Name(i)!) is { } value ? WithName(i, Difference(i, value)) : Gone(i)).OfType<GuideNode>(),
                        .. o.Items.Where(i => Named(c, Name(i)!) is null),
                    ],
                    0);
            default:
                return other;
        }
    }

    // What comes new must stand at the end, or laying it over could not put it where it was.
    private static bool SameOrder(GuideNode.List common, GuideNode.List other)
    {
        var kept = common.Items.Select(Name).Where(n => Named(other, n!) is not null).ToArray();
        return other.Items.Select(Name).Take(kept.Length).SequenceEqual(kept);
    }

    private static GuideNode? WithName(GuideNode item, GuideNode? difference) => difference is GuideNode.Map d && item is GuideNode.Map m
        ? new GuideNode.Map([m.Fields.First(f => f.Key is "id" or "group"), .. d.Fields], 0)
        : difference;

    private static GuideNode.Map Gone(GuideNode item) =>
        new([((GuideNode.Map)item).Fields.First(f => f.Key is "id" or "group"), (Absent, new GuideNode.Scalar("true", 0))], 0);

    private static bool IsNamed(GuideNode.List list) => list.Items.All(i => Name(i) is not null);

    private static string? Name(GuideNode item) => (item as GuideNode.Map)?.Name;

    private static GuideNode? Named(GuideNode.List list, string name) => list.Items.FirstOrDefault(i => Name(i) == name);

    private static bool IsAbsent(GuideNode item) => item is GuideNode.Map m && m.Find(Absent) is GuideNode.Scalar { Text: "true" };

    private static bool IsNothing(GuideNode? value) => value is GuideNode.Scalar { Text: Nothing };
}
