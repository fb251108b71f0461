namespace Revtal.Core.Guides;

/// <summary>
/// Lays what differs over what is common, and finds what differs. Maps go key by key, lists of named things name by
/// name, all else is replaced; <c>absent: true</c> takes a named thing away, <c>~</c> a key. Named things keep their
/// order, new ones come last; a list that names all that stay sets the order itself.
/// </summary>
public static class GuideOverlay
{
    private const string Absent = "absent",
        Nothing = "~";

    /// <summary>What is common, with what differs in its place.</summary>
    public static GuideNode Lay(GuideNode common, GuideNode differs) =>
        (common, differs) switch
        {
            (GuideNode.Map c, GuideNode.Map d) => new GuideNode.Map(
                [
                    .. c
                        .Fields.Where(f => !IsNothing(d.Find(f.Key)))
                        .Select(f => (f.Key, d.Find(f.Key) is { } other ? Lay(f.Value, other) : f.Value)),
                    .. d.Fields.Where(f => c.Find(f.Key) is null && !IsNothing(f.Value)),
                ],
                c.Line
            ),
            (GuideNode.List c, GuideNode.List d) when IsNamed(c) && IsNamed(d) => new GuideNode.List(
                [.. Things(c, d)],
                c.Line
            ),
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
                        .. c
                            .Fields.Select(f =>
                                (
                                    f.Key,
                                    o.Find(f.Key) is { } value
                                        ? Difference(f.Value, value)
                                        : new GuideNode.Scalar(Nothing, 0)
                                )
                            )
                            .Where(f => f.Item2 is not null)
                            .Select(f => (f.Key, f.Item2!)),
                        .. o.Fields.Where(f => c.Find(f.Key) is null),
                    ],
                    0
                );
            case (GuideNode.List c, GuideNode.List o) when IsNamed(c) && IsNamed(o):
                var gone = c
                    .Items.Where(i => Named(o, Name(i)!) is null)
                    .Select(i => Just(i, (Absent, new GuideNode.Scalar("true", 0))));
                return SameOrder(c, o)
                    ? new GuideNode.List([.. o.Items.Select(Changed).OfType<GuideNode>(), .. gone], 0)
                    : new GuideNode.List([.. o.Items.Select(i => Changed(i) ?? Just(i)), .. gone], 0);

                GuideNode? Changed(GuideNode item) =>
                    Named(c, Name(item)!) switch
                    {
                        null => item,
                        { } was => Difference(was, item) is GuideNode.Map d ? Just(item, [.. d.Fields]) : null,
                    };

            default:
                return other;
        }
    }

    private static IEnumerable<GuideNode> Things(GuideNode.List common, GuideNode.List differs)
    {
        var news = differs
            .Items.Where(i => !IsAbsent(i))
            .Select(i => Named(common, Name(i)!) is { } was ? Lay(was, i) : i)
            .ToArray();
        var staying = common.Items.Where(i => Named(differs, Name(i)!) is not { } other || !IsAbsent(other)).ToArray();
        return staying.All(i => news.Any(n => Name(n) == Name(i)))
            ? news
            :
            [
                .. staying.Select(i => news.FirstOrDefault(n => Name(n) == Name(i)) ?? i),
                .. news.Where(n => Named(common, Name(n)!) is null),
            ];
    }

    // What comes new stands at the end, and what stays has kept its order.
    private static bool SameOrder(GuideNode.List common, GuideNode.List other)
    {
        var kept = common.Items.Select(Name).Where(n => Named(other, n!) is not null).ToArray();
        return other.Items.Select(Name).Take(kept.Length).SequenceEqual(kept);
    }

    // Its name and these fields.
    private static GuideNode.Map Just(GuideNode item, params (string, GuideNode)[] fields) =>
        new([((GuideNode.Map)item).Fields.First(f => f.Key is "id" or "group"), .. fields], 0);

    private static bool IsNamed(GuideNode.List list) => list.Items.All(i => Name(i) is not null);

    private static string? Name(GuideNode item) => (item as GuideNode.Map)?.Name;

    private static GuideNode? Named(GuideNode.List list, string name) =>
        list.Items.FirstOrDefault(i => Name(i) == name);

    private static bool IsAbsent(GuideNode item) =>
        item is GuideNode.Map m && m.Find(Absent) is GuideNode.Scalar { Text: "true" };

    private static bool IsNothing(GuideNode? value) => value is GuideNode.Scalar { Text: Nothing };
}
