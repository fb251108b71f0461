using System.Globalization;
using System.Text.RegularExpressions;
using Revtal.Core.Hardware;

namespace Revtal.Core.Guides;

/// <summary>How one kind of value stands in a guide file, both ways.</summary>
/// <param name="None">What is held where the key is left out.</param>
/// <param name="Read">The value of a node; says to the place what is wrong with it, and gives what can be had.</param>
/// <param name="Write">Null where nothing is to be written.</param>
internal sealed record FieldType<T>(
    ValueShape Shape,
    T None,
    Func<GuideNode, ReadingPlace, T> Read,
    Func<T, GuideNode?> Write
);

/// <summary>The key that is being read, for what is said of it.</summary>
/// <param name="What">The map it stands in: “a slot”.</param>
internal sealed record ReadingPlace(string What, string Key, List<GuideProblem> Problems, GuideLines Lines)
{
    public T Bad<T>(GuideNode at, ValueShape wanted, T none)
    {
        Problems.Add(new GuideProblem(at.Line, $"“{Key}” of {What} wants {wanted.Wants}"));
        return none;
    }
}

/// <summary>The kinds of values that guides hold.</summary>
internal static partial class FieldTypes
{
    // What no guide comes near; it keeps a file from making the service slow.
    public const int MostItems = 200,
        MostPositions = 64,
        MostPlaces = 99;

    // Grades of memory that are known or may come, in MT/s.
    private const int SlowestSpeed = 100,
        FastestSpeed = 20_000,
        MostPerChannel = 8;

    public static readonly FieldType<string?> Text = Scalar<string?>(
        new ValueShape.Text($"one text of 1 to {ValueShape.Text.Longest} characters that can be read"),
        t => t.Length is > 0 and <= ValueShape.Text.Longest && !t.Any(c => Words.IsUnsafe(c) && c != '\n') ? t : null,
        t => t
    );

    /// <summary>A name that can stand in a step's id.</summary>
    public static readonly FieldType<string?> Name = Matching(
        "a short name of letters, digits and hyphens",
        NameShape()
    );

    public static readonly FieldType<string?> Code = Matching(
        "2 to 12 capital letters, digits or hyphens",
        CodeShape()
    );

    public static readonly FieldType<string?> Hash = Matching(
        "the hashes that the shop gave the pictures when they were sent, 64 hexadecimal digits each",
        HashShape()
    );

    // The spoken form rounds; where it would lose something the bytes are written.
    public static readonly FieldType<MemorySize?> Size = Scalar<MemorySize?>(
        new ValueShape.Text("a memory size with its unit, like “16 GB”", @"^[0-9]+(\.[0-9]+)? ?([KMGT]i?B|B)$"),
        t => MemorySize.TryParse(t, out var size) && size > MemorySize.Zero ? size : null,
        s =>
            s is null || (MemorySize.TryParse(s.ToString()!, out var again) && again == s)
                ? s?.ToString()
                : string.Create(CultureInfo.InvariantCulture, $"{s.Value.Bytes} B")
    );

    public static readonly FieldType<bool?> Flag = Scalar<bool?>(
        new ValueShape.Flag(),
        t =>
            t switch
            {
                "true" or "yes" => true,
                "false" or "no" => false,
                _ => null,
            },
        f => f is true ? "true" : null
    );

    /// <summary>A length in mm: <c>5 mm</c>.</summary>
    public static readonly FieldType<decimal?> Millimetres = Measure("mm", 500, "a length in mm, like “5 mm”");

    /// <summary>A voltage: <c>1.35 V</c>.</summary>
    public static readonly FieldType<decimal?> Volts = Measure("V", 5, "a voltage, like “1.35 V”");

    /// <summary>A time: <c>10 s</c>, <c>15 min</c>, <c>6 h</c>.</summary>
    public static readonly FieldType<TimeSpan?> Time = Scalar<TimeSpan?>(
        new ValueShape.Text("a time, like “10 s”, “15 min” or “6 h”", TimeShape().ToString()),
        t => Duration(t),
        t => t is { } time ? Durations.Text(time) : null
    );

    /// <summary>A place on the drawing: <c>[0.62, 0.71]</c>.</summary>
    public static readonly FieldType<BoardPoint?> Point = new(
        new ValueShape.Point(),
        null,
        (node, place) =>
            node is GuideNode.List { Items: [GuideNode.Scalar x, GuideNode.Scalar y] }
            && Share(x.Text) is { } a
            && Share(y.Text) is { } b
                ? new BoardPoint(a, b)
                : place.Bad<BoardPoint?>(node, new ValueShape.Point(), null),
        p => p is null ? null : new GuideNode.List([Node(Written(p.X)), Node(Written(p.Y))], 0)
    );

    public static readonly FieldType<int?> Speed = Whole(
        SlowestSpeed,
        FastestSpeed,
        "whole numbers of MT/s, like 3200"
    );

    private const string AnyWord = "any";

    private static readonly FieldType<IReadOnlyDictionary<int, IReadOnlyList<string>>> FillLines = ByCount(
        MostPositions,
        "a number of slots and as many of them, like “2: [S1, S2]”",
        List(Name, MostPositions),
        (count, slots) => slots.Count == count
    );

    /// <summary>The slots to fill, by how many there are; or “any”.</summary>
    public static readonly FieldType<FillOrder> Populate = new(
        new ValueShape.Either(
            $"{FillLines.Shape.Wants}; or “{AnyWord}” of a model that does not care",
            [new ValueShape.Word([AnyWord]), FillLines.Shape]
        ),
        FillOrder.Unsaid,
        (node, place) =>
            node is GuideNode.Scalar { Text: AnyWord }
                ? FillOrder.Unsaid with
                {
                    Any = true,
                }
                : new FillOrder(FillLines.Read(node, place)),
        order => order.Any ? Node(AnyWord) : FillLines.Write(order.Lines)
    );

    /// <summary>The top speed in MT/s, by how many modules are in one channel.</summary>
    public static readonly FieldType<IReadOnlyDictionary<int, int>> PerChannel = ByCount(
        MostPerChannel,
        "a number of modules in one channel and the MT/s they run at, like “2: 2666”",
        Whole(SlowestSpeed, FastestSpeed).Or(0),
        (_, speed) => speed > 0
    );

    /// <summary>The facts in which a variant differs, as they stand.</summary>
    public static readonly FieldType<GuideNode?> Overlay = new(
        new ValueShape.Overlay(),
        null,
        (node, place) => node is GuideNode.Map ? node : place.Bad<GuideNode?>(node, new ValueShape.Overlay(), null),
        node => node
    );

    // “unplug”, “{ hold-power: 10 s }”, “{ remove-battery-pack: two locks }”, or a time with a note beside it.
    public static readonly FieldType<IsolationStep?> Isolate = new(
        new ValueShape.Either(
            $"one of {string.Join(", ", Isolation.Kinds)}; with its time “{{ hold-power: 10 s }}”, with this "
                + "model's own way “{ unplug: \"both cords\" }”, or with both “{ cool-down: 10 min, note: \"…\" }”; "
                + "“says” beside it for the step in words of its own",
            [
                new ValueShape.Word([.. Isolation.Kinds]),
                new ValueShape.Map([
                    .. Isolation
                        .Kinds.Append("note")
                        .Append("says")
                        .Select(k => new FieldFact(k, false, "", Text.Shape)),
                ]),
            ]
        ),
        null,
        ReadIsolation,
        step =>
            step is { Kind: var kind, Duration: var time, Note: var note, Says: var says }
                ? (time, note, says) is (null, null, null)
                    ? Node(kind)
                    : Map([
                        (kind, time is null ? Node(note ?? "") : Time.Write(time)!),
                        .. time is not null && note is not null ? [("note", Node(note))] : NoFields,
                        .. says is not null ? [("says", Node(says))] : NoFields,
                    ])
                : null
    );

    // Empty where only the words are the model's own.
    private static ValueShape OwnWay => new ValueShape.Text("a time, or its own way", @"^[\s\S]{0,500}$");

    private static (string, GuideNode)[] NoFields => [];

    public static FieldType<string?> Exactly(string text, string complaint) =>
        new(
            new ValueShape.Exactly(text),
            null,
            (node, place) =>
            {
                if (node is not GuideNode.Scalar { Text: var found } || found != text)
                {
                    var said = (node as GuideNode.Scalar)?.Text ?? "…";
                    place.Problems.Add(new GuideProblem(node.Line, string.Format(null, complaint, said)));
                }

                return text;
            },
            _ => Node(text)
        );

    public static FieldType<string?> OneOf(IReadOnlyList<string> words) =>
        Scalar<string?>(new ValueShape.Word(words), t => words.Contains(t) ? t : null, t => t);

    public static FieldType<int?> Whole(int from, int to, string? wants = null) =>
        Scalar<int?>(
            new ValueShape.Whole(wants ?? $"a whole number from {from} to {to}", from, to),
            t => Number(t) is { } n && n >= from && n <= to ? n : null,
            n => n?.ToString(CultureInfo.InvariantCulture)
        );

    public static FieldType<IReadOnlyList<T>> List<T>(FieldType<T?> item, int most)
        where T : class => ListOf<T?, T>(item, most, i => i!);

    public static FieldType<IReadOnlyList<T>> List<T>(FieldType<T?> item, int most)
        where T : struct => ListOf<T?, T>(item, most, i => i!.Value);

    /// <summary>Null for what is no time.</summary>
    public static TimeSpan? Duration(string? text) =>
        TimeShape().Match(text ?? "") is { Success: true } m
            ? m.Groups[2].Value switch
            {
                "s" => TimeSpan.FromSeconds(Number(m.Groups[1].Value)!.Value),
                "min" => TimeSpan.FromMinutes(Number(m.Groups[1].Value)!.Value),
                _ => TimeSpan.FromHours(Number(m.Groups[1].Value)!.Value),
            }
            : null;

    private static FieldType<T> Scalar<T>(ValueShape shape, Func<string, T> parse, Func<T, string?> write) =>
        new(
            shape,
            default!,
            (node, place) =>
                node is GuideNode.Scalar s && parse(s.Text) is { } value ? value : place.Bad(node, shape, default(T)!),
            value => write(value) is { } text ? Node(text) : null
        );

    private static FieldType<string?> Matching(string wants, Regex shape) =>
        Scalar<string?>(new ValueShape.Text(wants, shape.ToString()), t => shape.IsMatch(t) ? t : null, t => t);

    private static FieldType<decimal?> Measure(string unit, decimal most, string wants) =>
        Scalar<decimal?>(
            new ValueShape.Text(wants, $@"^[0-9]+(\.[0-9]+)? ?{unit}$"),
            t =>
                t.EndsWith(unit, StringComparison.Ordinal)
                && decimal.TryParse(
                    t[..^unit.Length].Trim(),
                    NumberStyles.AllowDecimalPoint,
                    CultureInfo.InvariantCulture,
                    out var amount
                )
                && amount > 0
                && amount <= most
                    ? amount
                    : null,
            a => a is null ? null : string.Create(CultureInfo.InvariantCulture, $"{a} {unit}")
        );

    private static FieldType<int> Or(this FieldType<int?> type, int none) =>
        new(type.Shape, none, (node, place) => type.Read(node, place) ?? none, n => type.Write(n));

    private static FieldType<IReadOnlyList<T>> ListOf<TItem, T>(FieldType<TItem> item, int most, Func<TItem, T> held) =>
        new(
            new ValueShape.List(item.Shape, most),
            [],
            (node, place) =>
                place.Lines.Put(
                    node is GuideNode.List list && list.Items.Count <= most
                        ? [.. list.Items.Select(i => item.Read(i, place)).Where(i => i is not null).Select(held)]
                        : place.Bad<IReadOnlyList<T>>(node, new ValueShape.List(item.Shape, most), []),
                    node.Line
                ),
            items =>
                items.Count == 0
                    ? null
                    : new GuideNode.List([.. items.Cast<TItem>().Select(i => item.Write(i)).OfType<GuideNode>()], 0)
        );

    private static FieldType<IReadOnlyDictionary<int, T>> ByCount<T>(
        int most,
        string wants,
        FieldType<T> item,
        Func<int, T, bool> fits
    )
    {
        var shape = new ValueShape.ByCount(wants, "^[0-9]+$", item.Shape);
        return new(
            shape,
            new Dictionary<int, T>(),
            (node, place) =>
            {
                var read = new Dictionary<int, T>();
                foreach (var (key, value) in (node as GuideNode.Map)?.Fields ?? [])
                {
                    // Whatever is wrong in it is one problem: the line does not say what it should.
                    var quiet = place with
                    {
                        Problems = [],
                    };
                    var told = item.Read(value, quiet);
                    if (
                        quiet.Problems.Count == 0
                        && Number(key) is { } count
                        && count >= 1
                        && count <= most
                        && fits(count, told)
                    )
                    {
                        read[count] = told;
                    }
                    else
                    {
                        place.Bad(value, shape, 0);
                    }
                }

                return node is GuideNode.Map ? read : place.Bad(node, shape, read);
            },
            map =>
                map.Count == 0
                    ? null
                    : Map([
                        .. map.OrderBy(p => p.Key)
                            .Select(p => (p.Key.ToString(CultureInfo.InvariantCulture), item.Write(p.Value)!)),
                    ])
        );
    }

    private static IsolationStep? ReadIsolation(GuideNode node, ReadingPlace place)
    {
        var fields = node switch
        {
            GuideNode.Scalar s => [(s.Text, null as GuideNode)],
            GuideNode.Map m => [.. m.Fields.Select(f => (f.Key, (GuideNode?)f.Value))],
            _ => new (string Key, GuideNode? Value)[] { ("", null) },
        };
        var (kind, value) = (fields[0].Key, Told(fields[0].Value));
        if (!Isolation.Kinds.Contains(kind))
        {
            place.Problems.Add(
                new GuideProblem(
                    node.Line,
                    $"isolate does not know “{kind}”{NearestWord.Hint(kind, [.. Isolation.Kinds])}. It knows "
                        + string.Join(", ", Isolation.Kinds)
                )
            );
            return null;
        }

        var time = Duration(value);
        var note = Beside("note");
        if (
            fields.Skip(1).Any(f => f.Key is not ("note" or "says") || Text.Read(f.Value!, place) is null)
            || (kind == Isolation.CoolDown && time is null)
            || (note is not null && time is null)
        )
        {
            place.Problems.Add(
                new GuideProblem(
                    node.Line,
                    $"{kind} wants its time or this model's own way, like “{{ {kind}: 10 min }}”, and beside it "
                        + "at most “note” for more and “says” for words of its own"
                )
            );
        }

        return place.Lines.Put(new IsolationStep(kind, time, time is null ? value : note, Beside("says")), node.Line);

        string? Beside(string key) => Told(fields.Skip(1).FirstOrDefault(f => f.Key == key).Value);

        static string? Told(GuideNode? node) => node is GuideNode.Scalar { Text.Length: > 0 } s ? s.Text : null;
    }

    private static GuideNode.Scalar Node(string text) => new(text, 0);

    private static GuideNode.Map Map((string, GuideNode)[] fields) => new(fields, 0);

    private static int? Number(string text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;

    private static double? Share(string text) =>
        double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n)
        && n is >= 0 and <= 1
            ? n
            : null;

    private static string Written(double share) => share.ToString("0.####", CultureInfo.InvariantCulture);

    [GeneratedRegex("^[A-Z0-9][A-Z0-9-]{1,11}$")]
    internal static partial Regex CodeShape();

    [GeneratedRegex("^[A-Za-z0-9][A-Za-z0-9_-]{0,31}$")]
    private static partial Regex NameShape();

    [GeneratedRegex("^[0-9a-f]{64}$")]
    internal static partial Regex HashShape();

    [GeneratedRegex("^([0-9]{1,4}) (s|min|h)$")]
    private static partial Regex TimeShape();
}
