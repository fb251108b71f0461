using System.Globalization;
using Revtal.Core.Hardware;

namespace Revtal.Core.Guides;

/// <summary>
/// Takes typed fields out of one map of a guide file, collecting what is wrong instead of stopping at it.
/// After the last field <see cref="Done"/> names the keys that nobody asked for.
/// </summary>
internal sealed class GuideFields(GuideNode node, string what, List<GuideProblem> problems)
{
    private readonly HashSet<string> asked = [];
    private readonly GuideNode.Map? map = node as GuideNode.Map;

    public int Line => node.Line;

    public bool IsMap
    {
        get
        {
            if (map is null)
            {
                Problem(node.Line, $"{what} wants keys and values");
            }

            return map is not null;
        }
    }

    public void Problem(int line, string message) => problems.Add(new GuideProblem(line, message));

    public GuideNode? Find(string key)
    {
        asked.Add(key);
        return map?.Fields.FirstOrDefault(f => f.Key == key).Value;
    }

    public string? Text(string key) => Find(key) switch
    {
        null => null,
        GuideNode.Scalar { Text: { Length: > 0 and <= 500 } text } => text,
        { } other => Bad<string>(other, key, "one text of at most 500 characters"),
    };

    public string Required(string key)
    {
        if (Text(key) is { } text)
        {
            return text;
        }

        if (map is not null && map.Fields.All(f => f.Key != key))
        {
            Problem(node.Line, $"{what} lacks “{key}”");
        }

        return "";
    }

    public MemorySize? Size(string key) => Find(key) switch
    {
        null => null,
        GuideNode.Scalar s when MemorySize.TryParse(s.Text, out var size) && size > MemorySize.Zero => size,
        { } other => Bad<MemorySize?>(other, key, "a memory size with its unit, like “16 GB”"),
    };

    public int? Number(string key, int from, int to) => Find(key) switch
    {
        null => null,
        GuideNode.Scalar s when int.TryParse(s.Text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n >= from && n <= to => n,
        { } other => Bad<int?>(other, key, $"a whole number from {from} to {to}"),
    };

    public bool Flag(string key) => Find(key) switch
    {
        null => false,
        GuideNode.Scalar { Text: "true" or "yes" } => true,
        GuideNode.Scalar { Text: "false" or "no" } => false,
        { } other => Bad<bool>(other, key, "true or false"),
    };

    /// <summary>A length in mm: <c>5 mm</c>.</summary>
    public decimal? Millimetres(string key) => Find(key) switch
    {
        null => null,
        GuideNode.Scalar s when s.Text.EndsWith("mm", StringComparison.Ordinal)
            && decimal.TryParse(s.Text[..^2].Trim(), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var mm) && mm is > 0 and <= 500 => mm,
        { } other => Bad<decimal?>(other, key, "a length in mm, like “5 mm”"),
    };

    public T? OneOf<T>(string key, IReadOnlyCollection<T> known, T? none)
        where T : class => Find(key) switch
        {
            null => none,
            GuideNode.Scalar s when known.FirstOrDefault(k => k.ToString() == s.Text) is { } hit => hit,
            { } other => Bad<T>(other, key, $"one of {string.Join(", ", known)}"),
        };

    public IReadOnlyList<GuideNode> Items(string key, int most) => Find(key) switch
    {
        null => [],
        GuideNode.List list when list.Items.Count <= most => list.Items,
        { } other => Bad<IReadOnlyList<GuideNode>>(other, key, $"a list of at most {most}") ?? [],
    };

    public IReadOnlyList<string> Texts(string key, int most) => Strings(Items(key, most), key);

    public IReadOnlyList<string> Strings(IReadOnlyList<GuideNode> items, string key)
    {
        foreach (var wrong in items.Where(i => i is not GuideNode.Scalar))
        {
            Bad<string>(wrong, key, "texts only");
        }

        return [.. items.OfType<GuideNode.Scalar>().Select(s => s.Text)];
    }

    public T? Bad<T>(GuideNode at, string key, string wanted)
    {
        Problem(at.Line, $"“{key}” of {what} wants {wanted}");
        return default;
    }

    public void Done()
    {
        foreach (var (key, value) in map?.Fields.Where(f => !asked.Contains(f.Key)) ?? [])
        {
            Problem(value.Line, $"{what} does not know “{key}”. It knows {string.Join(", ", asked)}");
        }
    }
}
