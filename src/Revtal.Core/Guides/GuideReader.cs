using System.Globalization;
using System.Text.RegularExpressions;

namespace Revtal.Core.Guides;

/// <summary>Understands a guide file (<c>format: revtal-guide/1</c>, see docs/guide-format.md), naming every problem with its line.</summary>
public static partial class GuideReader
{
    public const string Format = "revtal-guide/1";
    private const int MostSlots = 64, MostRemovals = 200, MostItems = 200;

    private static readonly string[] Latches = ["spread-both", "one-side", "swing-tabs", "self-closing"];
    private static readonly string[] Presses = ["straight-down", "hold-latches-open"];

    /// <summary>Reads and checks; the guide is null if there is any problem.</summary>
    public static GuideResult Read(GuideNode root)
    {
        var problems = new List<GuideProblem>();
        var f = new GuideFields(root, "the guide", problems);
        if (!f.IsMap)
        {
            return new GuideResult(null, problems);
        }

        if (f.Required("format") is var format && format != Format && format.Length > 0)
        {
            f.Problem(f.Line, $"the format is “{format}”; this service reads {Format}");
        }

        var guide = new Guide(
            Model(f, problems),
            Memory(f, problems),
            [.. f.Items("drives", MostSlots).Select(n => Bay(n, problems))],
            [.. f.Items("isolate", MostItems).Select(n => Isolate(n, problems)).OfType<IsolationStep>()],
            [.. f.Items("removals", MostRemovals).Select(n => Removal(n, problems))],
            [.. f.Items("first-start", MostItems).Select(n => Sign(n, problems))],
            [.. f.Items("traps", MostItems).Select(n => Trap(n, problems))]);
        f.Done();
        if (problems.Count == 0)
        {
            problems.AddRange(GuideChecker.Check(guide, root.Line));
        }

        problems.Sort((a, b) => a.Line.CompareTo(b.Line));
        return new GuideResult(problems.Count == 0 ? guide : null, problems);
    }

    private static ModelFacts Model(GuideFields parent, List<GuideProblem> problems)
    {
        var f = Section(parent, "model", problems);
        var model = new ModelFacts(f.Required("maker"), f.Required("name"), f.Required("code"), f.Required("kind"), f.Text("built"), f.Text("tell-apart"));
        if (model.Code.Length > 0 && !CodeShape().IsMatch(model.Code))
        {
            f.Problem(f.Line, $"the code “{model.Code}” wants 2 to 12 capital letters, digits or hyphens");
        }

        f.Done();
        return model;
    }

    private static MemoryFacts Memory(GuideFields parent, List<GuideProblem> problems)
    {
        var f = Section(parent, "memory", problems);
        var speeds = f.Texts("speeds", 16).Select(s => int.TryParse(s, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : 0).Order().ToArray();
        if (speeds.Any(s => s is < 100 or > 20_000))
        {
            f.Problem(f.Line, "“speeds” of memory wants whole numbers of MT/s, like 3200");
        }

        var memory = new MemoryFacts(
            f.Required("generation"),
            f.Required("module"),
            speeds,
            f.Size("stated-max") ?? default,
            [.. f.Items("slots", MostSlots).Select(n => Slot(n, problems))],
            Populate(f),
            f.Size("shared-graphics"));
        if (memory.StatedMax == default)
        {
            f.Problem(f.Line, "memory lacks “stated-max”, like “32 GB”");
        }

        f.Done();
        return memory;
    }

    private static MemorySlot Slot(GuideNode node, List<GuideProblem> problems)
    {
        var f = new GuideFields(node, "a slot", problems);
        if (!f.IsMap)
        {
            return new MemorySlot("", null, null, null, null, null, false, null, null, null, null);
        }

        var slot = new MemorySlot(
            f.Required("id"), f.Text("channel"), f.Text("reports-as"), f.Text("below"), f.Text("reach"), f.Size("max"), f.Flag("soldered"),
            f.Number("angle", 0, 90), f.OneOf("latch", Latches, null), f.OneOf("press", Presses, null), f.Text("notch"));
        f.Done();
        return slot;
    }

    private static Dictionary<int, IReadOnlyList<string>> Populate(GuideFields f)
    {
        var orders = new Dictionary<int, IReadOnlyList<string>>();
        foreach (var (key, value) in (f.Find("populate") as GuideNode.Map)?.Fields ?? [])
        {
            if (int.TryParse(key, NumberStyles.None, CultureInfo.InvariantCulture, out var count) && value is GuideNode.List list && list.Items.Count == count)
            {
                orders[count] = f.Strings(list.Items, "populate");
            }
            else
            {
                f.Problem(value.Line, $"“populate” wants a number of modules and as many slots, like “2: [S1, S2]”; “{key}” is not so");
            }
        }

        return orders;
    }

    private static DriveBay Bay(GuideNode node, List<GuideProblem> problems)
    {
        var f = new GuideFields(node, "a drive bay", problems);
        if (!f.IsMap)
        {
            return new DriveBay("", "", null, null, false, null, null);
        }

        var bay = new DriveBay(f.Required("id"), f.Required("form"), f.Text("key"), f.Text("link"), f.Flag("boots"), f.Text("reach"), f.Text("pad"));
        f.Done();
        return bay;
    }

    // “unplug”, or “{ hold-power: 10 s }”.
    private static IsolationStep? Isolate(GuideNode node, List<GuideProblem> problems)
    {
        var (kind, value) = node switch
        {
            GuideNode.Scalar s => (s.Text, null),
            GuideNode.Map { Fields: [var (key, v)] } => (key, v as GuideNode.Scalar),
            _ => ("", null),
        };
        if (!Isolation.Known.ContainsKey(kind))
        {
            problems.Add(new GuideProblem(node.Line, $"isolate does not know “{kind}”. It knows {string.Join(", ", Isolation.Known.Keys)}"));
            return null;
        }

        if (value is null)
        {
            return new IsolationStep(kind, null, null);
        }

        if (DurationShape().Match(value.Text) is { Success: true } m)
        {
            var n = int.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture);
            return new IsolationStep(kind, m.Groups[2].Value == "s" ? TimeSpan.FromSeconds(n) : TimeSpan.FromMinutes(n), null);
        }

        return new IsolationStep(kind, null, value.Text);
    }

    private static Removal Removal(GuideNode node, List<GuideProblem> problems)
    {
        var f = new GuideFields(node, "a removal", problems);
        if (!f.IsMap)
        {
            return new Removal("", "", [], [], [], null, null, 0);
        }

        var id = f.Required("id");
        var removal = new Removal(
            id,
            f.Text("title") ?? id.Replace('-', ' '),
            f.Texts("needs", MostItems),
            [.. f.Items("fasteners", MostItems).Select(n => Fasteners(n, problems))],
            [.. f.Items("precautions", MostItems).Select(n => Warn(n, problems))],
            f.Text("open"),
            f.Text("close"),
            f.Number("minutes", 0, 600) ?? 0);
        f.Done();
        return removal;
    }

    private static FastenerGroup Fasteners(GuideNode node, List<GuideProblem> problems)
    {
        var f = new GuideFields(node, "a fastener group", problems);
        if (!f.IsMap)
        {
            return new FastenerGroup("", "", null, 0, false, [], null);
        }

        var group = new FastenerGroup(
            f.Required("group"), f.Required("driver"), f.Millimetres("length"), f.Number("count", 1, 99) ?? 0, f.Flag("captive"),
            [.. f.Items("at", 99).Select(n => Point(f, n)).OfType<BoardPoint>()], f.Text("hidden"));
        if (group.Count == 0)
        {
            f.Problem(f.Line, $"the fastener group “{group.Group}” lacks “count”");
        }

        f.Done();
        return group;
    }

    private static BoardPoint? Point(GuideFields f, GuideNode node) =>
        node is GuideNode.List { Items: [GuideNode.Scalar x, GuideNode.Scalar y] } && Share(x.Text) is { } a && Share(y.Text) is { } b
            ? new BoardPoint(a, b)
            : f.Bad<BoardPoint>(node, "at", "pairs from 0 to 1, across and down, like [0.62, 0.71]");

    private static double? Share(string text) =>
        double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) && n is >= 0 and <= 1 ? n : null;

    private static Precaution Warn(GuideNode node, List<GuideProblem> problems)
    {
        var f = new GuideFields(node, "a precaution", problems);
        var precaution = f.IsMap ? new Precaution(f.OneOf("kind", Precaution.PrecautionKinds, "") ?? "", f.Required("text")) : new Precaution("", "");
        f.Done();
        return precaution;
    }

    private static FirstStartSign Sign(GuideNode node, List<GuideProblem> problems)
    {
        var f = new GuideFields(node, "a first-start sign", problems);
        var sign = f.IsMap ? new FirstStartSign(f.Required("sees"), f.Required("means"), f.Text("do")) : new FirstStartSign("", "", null);
        f.Done();
        return sign;
    }

    private static Trap Trap(GuideNode node, List<GuideProblem> problems)
    {
        var f = new GuideFields(node, "a trap", problems);
        var trap = f.IsMap ? new Trap(f.Required("at"), f.Required("text")) : new Trap("", "");
        f.Done();
        return trap;
    }

    private static GuideFields Section(GuideFields parent, string key, List<GuideProblem> problems)
    {
        var node = parent.Find(key);
        if (node is null)
        {
            parent.Problem(parent.Line, $"the guide lacks “{key}”");
        }

        var section = new GuideFields(node ?? new GuideNode.Map([], parent.Line), key, problems);
        _ = section.IsMap;
        return section;
    }

    [GeneratedRegex("^[A-Z0-9][A-Z0-9-]{1,11}$")]
    private static partial Regex CodeShape();

    [GeneratedRegex("^([0-9]{1,4}) (s|min)$")]
    private static partial Regex DurationShape();
}
