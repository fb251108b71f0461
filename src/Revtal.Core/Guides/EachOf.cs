namespace Revtal.Core.Guides;

/// <summary>
/// The shorthand for lists of like things: what <c>each-slot</c> and <c>each-bay</c> say holds for every slot and bay
/// that does not say it itself.
/// </summary>
internal static class EachOf
{
    /// <summary>The file with what is shared written into each.</summary>
    public static GuideNode Spread(GuideNode root) =>
        root is GuideNode.Map file
            ? Over(file, "each-bay", "drives") is var whole && whole.Find("memory") is GuideNode.Map memory
                ? With(whole, "memory", Over(memory, "each-slot", "slots"))
                : whole
            : root;

    private static GuideNode.Map Over(GuideNode.Map map, string each, string list) =>
        map.Find(each) is GuideNode.Map shared && map.Find(list) is GuideNode.List all
            ? With(
                Without(map, each),
                list,
                all with
                {
                    Items = [.. all.Items.Select(i => i is GuideNode.Map own ? Filled(own, shared) : i)],
                }
            )
            : map;

    private static GuideNode.Map Filled(GuideNode.Map own, GuideNode.Map shared) =>
        own with
        {
            Fields = [.. own.Fields, .. shared.Fields.Where(f => own.Find(f.Key) is null)],
        };

    private static GuideNode.Map Without(GuideNode.Map map, string key) =>
        map with
        {
            Fields = [.. map.Fields.Where(f => f.Key != key)],
        };

    private static GuideNode.Map With(GuideNode.Map map, string key, GuideNode value) =>
        map with
        {
            Fields = [.. map.Fields.Select(f => f.Key == key ? (key, value) : f)],
        };
}
