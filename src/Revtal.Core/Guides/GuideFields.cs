using System.Globalization;
using System.Text.RegularExpressions;
using Revtal.Core.Hardware;

namespace Revtal.Core.Guides;

/// <summary>
/// Takes typed fields out of one map of a guide file, collecting what is wrong instead of stopping at it.
/// After the last field <see cref="Done"/> names the keys that nobody asked for.
/// </summary>
internal sealed partial class GuideFields(GuideNode node, string what, List<GuideProblem> problems)
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

    public string? Text(string key) =>
        Find(key) switch
        {
            null => null,
            GuideNode.Scalar { Text: { Length: > 0 and <= 500 } text } => text,
            { } other => Bad<string>(other, key, "one text of 1 to 500 characters"),
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

    /// <summary>A required name: letters, digits, hyphens, so that it can stand in a step's id.</summary>
    public string Id(string key)
    {
        var id = Required(key);
        if (id.Length > 0 && !GuideReader.IdShape().IsMatch(id))
        {
            Bad<string>(Find(key)!, key, "a short name of letters, digits and hyphens");
        }

        return id;
    }

    public MemorySize? Size(string key) =>
        Find(key) switch
        {
            null => null,
            GuideNode.Scalar s when MemorySize.TryParse(s.Text, out var size) && size > MemorySize.Zero => size,
            { } other => Bad<MemorySize?>(other, key, "a memory size with its unit, like “16 GB”"),
        };

    public int? Number(string key, int from, int to) =>
        Find(key) switch
        {
            null => null,
            GuideNode.Scalar s
                when int.TryParse(s.Text, NumberStyles.None, CultureInfo.InvariantCulture, out var n)
                    && n >= from
                    && n <= to => n,
            { } other => Bad<int?>(other, key, $"a whole number from {from} to {to}"),
        };

    public bool Flag(string key) =>
        Find(key) switch
        {
            null => false,
            GuideNode.Scalar { Text: "true" or "yes" } => true,
            GuideNode.Scalar { Text: "false" or "no" } => false,
            { } other => Bad<bool>(other, key, "true or false"),
        };

    /// <summary>A length in mm: <c>5 mm</c>.</summary>
    public decimal? Millimetres(string key) => Measure(key, "mm", 500, "a length in mm, like “5 mm”");

    /// <summary>A voltage: <c>1.35 V</c>.</summary>
    public decimal? Volts(string key) => Measure(key, "V", 5, "a voltage, like “1.35 V”");

    private decimal? Measure(string key, string unit, decimal most, string wants) =>
        Find(key) switch
        {
            null => null,
            GuideNode.Scalar s
                when s.Text.EndsWith(unit, StringComparison.Ordinal)
                    && decimal.TryParse(
                        s.Text[..^unit.Length].Trim(),
                        NumberStyles.AllowDecimalPoint,
                        CultureInfo.InvariantCulture,
                        out var amount
                    )
                    && amount > 0
                    && amount <= most => amount,
            { } other => Bad<decimal?>(other, key, wants),
        };

    /// <summary>A time: <c>10 s</c>, <c>15 min</c>, <c>6 h</c>.</summary>
    public TimeSpan? Time(string key) =>
        Find(key) switch
        {
            null => null,
            GuideNode.Scalar s when Duration(s.Text) is { } time => time,
            { } other => Bad<TimeSpan?>(other, key, "a time, like “10 s”, “15 min” or “6 h”"),
        };

    /// <summary>Null for what is no time.</summary>
    public static TimeSpan? Duration(string? text) =>
        DurationShape().Match(text ?? "") is { Success: true } m
            ? m.Groups[2].Value switch
            {
                "s" => TimeSpan.FromSeconds(Whole(m)),
                "min" => TimeSpan.FromMinutes(Whole(m)),
                _ => TimeSpan.FromHours(Whole(m)),
            }
            : null;

    /// <summary>A place on the drawing: <c>[0.62, 0.71]</c>.</summary>
    public BoardPoint? Point(string key) => Find(key) is { } node ? Point(node, key) : null;

    public IReadOnlyList<BoardPoint> Points(string key) =>
        [.. Items(key, 99).Select(n => Point(n, key)).OfType<BoardPoint>()];

    public IEnumerable<int> Numbers(string key, int most, int from, int to)
    {
        foreach (var item in Items(key, most))
        {
            if (
                item is GuideNode.Scalar s
                && int.TryParse(s.Text, NumberStyles.None, CultureInfo.InvariantCulture, out var n)
                && n >= from
                && n <= to
            )
            {
                yield return n;
            }
            else
            {
                Bad<string>(item, key, "whole numbers");
            }
        }
    }

    public string? OneOf(string key, IReadOnlyList<string> known, string? none) =>
        Find(key) switch
        {
            null => none,
            GuideNode.Scalar s when known.Contains(s.Text) => s.Text,
            { } other => Bad<string>(other, key, $"one of {string.Join(", ", known)}"),
        };

    public IReadOnlyList<GuideNode> Items(string key, int most) =>
        Find(key) switch
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

    private BoardPoint? Point(GuideNode node, string key) =>
        node is GuideNode.List { Items: [GuideNode.Scalar x, GuideNode.Scalar y] }
        && Share(x.Text) is { } a
        && Share(y.Text) is { } b
            ? new BoardPoint(a, b)
            : Bad<BoardPoint>(node, key, "places from 0 to 1, across and down, like [0.62, 0.71]");

    private static double? Share(string text) =>
        double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n)
        && n is >= 0 and <= 1
            ? n
            : null;

    private static int Whole(Match match) => int.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture);

    [GeneratedRegex("^([0-9]{1,4}) (s|min|h)$")]
    private static partial Regex DurationShape();

    public void Done()
    {
        foreach (var (key, value) in map?.Fields.Where(f => !asked.Contains(f.Key)) ?? [])
        {
            Problem(value.Line, $"{what} does not know “{key}”. It knows {string.Join(", ", asked)}");
        }
    }
}
