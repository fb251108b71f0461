namespace Revtal.Core.Guides;

/// <summary>One fact that two guides tell differently.</summary>
/// <param name="Path">Where it stands: <c>memory.slots[S1].max</c>.</param>
/// <param name="Before">Null where the first does not have it.</param>
/// <param name="After">Null where the second does not have it.</param>
public sealed record GuideDifference(string Path, string? Before, string? After);

/// <summary>Two guides side by side.</summary>
public static class GuideComparison
{
    /// <summary>What differs, in the order of the file.</summary>
    public static IReadOnlyList<GuideDifference> Of(Guide before, Guide after)
    {
        var (a, b) = (Flat(before), Flat(after));
        var old = a.ToDictionary(f => f.Path, f => f.Text);
        var now = b.ToDictionary(f => f.Path, f => f.Text);
        return
        [
            .. b.Concat(a)
                .Select(f => f.Path)
                .Distinct()
                .Select(p => new GuideDifference(p, old.GetValueOrDefault(p), now.GetValueOrDefault(p)))
                .Where(d => d.Before != d.After),
        ];
    }

    private static List<(string Path, string Text)> Flat(Guide guide)
    {
        var facts = new List<(string, string)>();
        Walk(GuideWriter.Write(guide), "");
        return facts;

        void Walk(GuideNode node, string path)
        {
            switch (node)
            {
                case GuideNode.Scalar s:
                    facts.Add((path, s.Text));
                    break;
                case GuideNode.List { Items: var items } when items.All(i => i is GuideNode.Scalar):
                    facts.Add((path, string.Join(", ", items.Cast<GuideNode.Scalar>().Select(s => s.Text))));
                    break;
                case GuideNode.List { Items: var items } when items.All(i => i is GuideNode.List):
                    facts.Add(
                        (
                            path,
                            string.Join(
                                " ",
                                items
                                    .Cast<GuideNode.List>()
                                    .Select(l =>
                                        $"[{string.Join(", ", l.Items.OfType<GuideNode.Scalar>().Select(s => s.Text))}]"
                                    )
                            )
                        )
                    );
                    break;
                case GuideNode.List list:
                    var seen = new HashSet<string>();
                    for (var i = 0; i < list.Items.Count; i++)
                    {
                        var name = (list.Items[i] as GuideNode.Map)?.Name;
                        var place = name is not null && seen.Add(name) ? name : $"{i + 1}";
                        Walk(list.Items[i], $"{path}[{place}]");
                    }

                    break;
                case GuideNode.Map map:
                    foreach (var (key, value) in map.Fields)
                    {
                        Walk(value, path.Length == 0 ? key : $"{path}.{key}");
                    }

                    break;
            }
        }
    }
}
