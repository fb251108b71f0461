using System.Globalization;
using System.Text.RegularExpressions;

namespace Revtal.Core.Guides;

/// <summary>
/// Understands a guide file (<c>format: revtal-guide/1</c>, see docs/guide-format.md), naming every problem with its
/// line.
/// </summary>
public static partial class GuideReader
{
    public const string Format = "revtal-guide/1";
    private const int MostSlots = 64,
        MostRemovals = 200,
        MostItems = 200,
        MostVariants = 16;

    /// <summary>Reads and checks; the guide is null if there is any problem.</summary>
    /// <param name="published">It was accepted once: checks that came later are told but keep nobody from reading
    /// it.</param>
    public static GuideResult Read(GuideNode root, bool published = false)
    {
        var problems = new List<GuideProblem>();
        var file = new GuideFields(root, "the guide", problems);
        if (!file.IsMap)
        {
            return new GuideResult(null, problems);
        }

        if (file.Required("format") is var format && format != Format && format.Length > 0)
        {
            file.Problem(file.Line, $"the format is “{format}”; this service reads {Format}");
        }

        var common = new GuideNode.Map(
            [.. ((GuideNode.Map)root).Fields.Where(f => f.Key is not ("format" or "variants"))],
            root.Line
        );
        var facts = new GuideReading(common, problems).Facts();
        var variants = file.Items("variants", MostVariants).Select(n => Variant(n, common, problems)).ToArray();
        foreach (var twice in variants.GroupBy(v => v.Id).Where(g => g.Count() > 1))
        {
            file.Problem(file.Find("variants")!.Line, $"the variant “{twice.Key}” stands twice");
        }

        var told = problems.Distinct().OrderBy(p => p.Line).ToArray();
        return new GuideResult(told.Length == 0 || published ? facts with { Variants = variants } : null, told);
    }

    private static Variant Variant(GuideNode node, GuideNode common, List<GuideProblem> problems)
    {
        var f = new GuideFields(node, "a variant", problems);
        _ = f.IsMap;
        var (id, tell, built, label, board) = (
            f.Required("id"),
            f.Required("tell-apart"),
            f.Text("built"),
            f.Text("label"),
            f.Text("board")
        );
        var differs = f.Find("differs");
        if (differs is not (null or GuideNode.Map))
        {
            f.Bad<string>(differs, "differs", "keys and values, laid out as in the guide itself");
        }

        f.Done();
        var facts = new GuideReading(
            differs is GuideNode.Map ? GuideOverlay.Lay(common, differs) : common,
            problems
        ).Facts();
        return new Variant(id, tell, built, label, board, facts);
    }

    /// <summary>Whether this can be a model's code: 2 to 12 capital letters, digits or hyphens.</summary>
    public static bool IsCode(string text) => CodeShape().IsMatch(text);

    [GeneratedRegex("^[A-Z0-9][A-Z0-9-]{1,11}$")]
    internal static partial Regex CodeShape();

    [GeneratedRegex("^[A-Za-z0-9][A-Za-z0-9_-]{0,31}$")]
    internal static partial Regex IdShape();

    [GeneratedRegex("^[0-9a-f]{64}$")]
    internal static partial Regex HashShape();

    /// <summary>One reading of the facts: of the model, or of the model with a variant's facts laid over.</summary>
    private sealed class GuideReading(GuideNode root, List<GuideProblem> problems)
    {
        private readonly GuideLines lines = new();

        public Guide Facts()
        {
            var before = problems.Count;
            var f = Fields(root, "the guide");
            var guide = new Guide(
                Model(f),
                Memory(f),
                [.. f.Items("drives", MostSlots).Select(Bay)],
                [.. f.Items("isolate", MostItems).Select(Isolate).OfType<IsolationStep>()],
                [.. f.Items("removals", MostRemovals).Select(Removal)],
                [.. f.Items("first-start", MostItems).Select(Sign)],
                Firmware(f),
                f.Text("measure-open"),
                [.. f.Items("traps", MostItems).Select(Trap)],
                []
            );
            f.Done();
            if (problems.Count == before)
            {
                problems.AddRange(GuideChecker.Check(guide, lines));
            }

            return guide;
        }

        private GuideFields Fields(GuideNode node, string what)
        {
            var f = new GuideFields(node, what, problems);
            _ = f.IsMap;
            return f;
        }

        // What a map of the file says, with its line kept for the checker.
        private T Made<T>(GuideFields f, T made)
            where T : class
        {
            f.Done();
            return lines.Put(made, f.Line);
        }

        private GuideFields Section(GuideFields parent, string key)
        {
            var node = parent.Find(key);
            if (node is null)
            {
                parent.Problem(parent.Line, $"the guide lacks “{key}”");
            }

            return Fields(node ?? new GuideNode.Map([], parent.Line), key);
        }

        private ModelFacts Model(GuideFields parent)
        {
            var f = Section(parent, "model");
            var model = new ModelFacts(
                f.Required("maker"),
                f.Required("name"),
                f.Required("code"),
                f.Required("kind"),
                f.Text("built"),
                f.Text("tell-apart")
            );
            if (model.Code.Length > 0 && !CodeShape().IsMatch(model.Code))
            {
                f.Problem(
                    f.Find("code")!.Line,
                    $"the code “{model.Code}” wants 2 to 12 capital letters, digits or hyphens"
                );
            }

            return Made(f, model);
        }

        private MemoryFacts Memory(GuideFields parent)
        {
            var f = Section(parent, "memory");
            var speeds = f.Texts("speeds", 16)
                .Select(s => int.TryParse(s, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : 0)
                .Order()
                .ToArray();
            if (speeds.Any(s => s is < 100 or > 20_000))
            {
                f.Problem(f.Find("speeds")!.Line, "“speeds” of memory wants whole numbers of MT/s, like 3200");
            }

            var memory = new MemoryFacts(
                f.Required("generation"),
                f.Required("module"),
                speeds,
                f.Size("stated-max") ?? default,
                ConfirmedMax(f),
                [.. f.Items("slots", MostSlots).Select(Slot)],
                Populate(f),
                f.OneOf("pairing", GuideTerms.Pairings, null),
                f.Size("shared-graphics"),
                f.OneOf("ecc", GuideTerms.EccKinds, null),
                f.OneOf("buffering", GuideTerms.Bufferings, null),
                f.Volts("voltage"),
                PerChannel(f)
            );
            if (memory.StatedMax == default)
            {
                f.Problem(f.Line, "memory lacks “stated-max”, like “32 GB”");
            }

            return Made(f, memory);
        }

        private ConfirmedMax? ConfirmedMax(GuideFields parent)
        {
            if (parent.Find("confirmed-max") is not { } node)
            {
                return null;
            }

            var f = Fields(node, "confirmed-max");
            if (f.Size("size") is not { } size)
            {
                f.Problem(f.Line, "confirmed-max lacks “size”, like “40 GB”");
                return null;
            }

            return Made(f, new ConfirmedMax(size, [.. f.Numbers("orders", MostItems, 1, int.MaxValue)]));
        }

        private MemorySlot Slot(GuideNode node)
        {
            var f = Fields(node, "a slot");
            return Made(
                f,
                new MemorySlot(
                    f.Id("id"),
                    f.Text("channel"),
                    f.Text("reports-as"),
                    f.Text("below"),
                    f.Text("reach"),
                    f.Size("max"),
                    f.Flag("soldered"),
                    f.Number("angle", 0, 90),
                    f.OneOf("latch", GuideTerms.Latches, null),
                    f.OneOf("press", GuideTerms.Presses, null),
                    f.Text("notch"),
                    f.Text("seated"),
                    f.Text("label"),
                    f.Point("at"),
                    f.OneOf("turn", ["0", "90"], "0") == "90" ? 90 : 0
                )
            );
        }

        private Dictionary<int, IReadOnlyList<string>> Populate(GuideFields f)
        {
            var orders = new Dictionary<int, IReadOnlyList<string>>();
            foreach (var (key, value) in (f.Find("populate") as GuideNode.Map)?.Fields ?? [])
            {
                if (
                    int.TryParse(key, NumberStyles.None, CultureInfo.InvariantCulture, out var count)
                    && value is GuideNode.List list
                    && list.Items.Count == count
                )
                {
                    orders[count] = lines.Put(f.Strings(list.Items, "populate"), value.Line);
                }
                else
                {
                    f.Problem(
                        value.Line,
                        $"“populate” wants a number of modules and as many slots, like “2: [S1, S2]”; “{key}” is not so"
                    );
                }
            }

            return orders;
        }

        private static Dictionary<int, int> PerChannel(GuideFields f)
        {
            var tops = new Dictionary<int, int>();
            foreach (var (key, value) in (f.Find("per-channel") as GuideNode.Map)?.Fields ?? [])
            {
                if (
                    int.TryParse(key, NumberStyles.None, CultureInfo.InvariantCulture, out var count)
                    && count is >= 1 and <= 8
                    && value is GuideNode.Scalar { Text: var text }
                    && int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var speed)
                    && speed is >= 100 and <= 20_000
                )
                {
                    tops[count] = speed;
                }
                else
                {
                    f.Problem(
                        value.Line,
                        "“per-channel” wants a number of modules in one channel and the MT/s they run at, like “2: "
                            + $"2666”; “{key}” is not so"
                    );
                }
            }

            return tops;
        }

        private DriveBay Bay(GuideNode node)
        {
            var f = Fields(node, "a drive bay");
            return Made(
                f,
                new DriveBay(
                    f.Id("id"),
                    f.Required("form"),
                    f.Text("key"),
                    f.Text("link"),
                    f.Millimetres("height"),
                    f.Flag("boots"),
                    f.Text("reach"),
                    f.Text("standoff"),
                    f.Millimetres("pad"),
                    f.Text("hold"),
                    f.Point("at")
                )
            );
        }

        // “unplug”, “{ hold-power: 10 s }”, “{ remove-battery-pack: two locks }”, or a time with a note beside it.
        private IsolationStep? Isolate(GuideNode node)
        {
            var (kind, value, note) = node switch
            {
                GuideNode.Scalar s => (s.Text, null, null),
                GuideNode.Map { Fields: [(var key, GuideNode.Scalar v)] } => (key, v.Text, null),
                GuideNode.Map { Fields: [(var key, GuideNode.Scalar v), ("note", GuideNode.Scalar n)] } => (
                    key,
                    v.Text,
                    n.Text
                ),
                _ => ("", null, null as string),
            };
            if (!Isolation.Kinds.Contains(kind))
            {
                problems.Add(
                    new GuideProblem(
                        node.Line,
                        $"isolate does not know “{kind}”. It knows {string.Join(", ", Isolation.Kinds)}"
                    )
                );
                return null;
            }

            var time = GuideFields.Duration(value);
            if (kind == Isolation.CoolDown && time is null || note is not null && time is null)
            {
                problems.Add(new GuideProblem(node.Line, $"{kind} wants its time, like “{{ {kind}: 10 min }}”"));
            }

            return lines.Put(new IsolationStep(kind, time, time is null ? value : note), node.Line);
        }

        private Removal Removal(GuideNode node)
        {
            var f = Fields(node, "a removal");
            var id = f.Id("id");
            return Made(
                f,
                new Removal(
                    id,
                    f.Text("title") ?? id.Replace('-', ' '),
                    f.Texts("needs", MostItems),
                    f.Flag("isolates"),
                    f.Texts("takes-out", MostSlots),
                    f.Text("face"),
                    [.. f.Items("fasteners", MostItems).Select(Fasteners)],
                    [.. f.Items("clips", MostItems).Select(Clips)],
                    [.. f.Items("pry", MostItems).Select(Pry)],
                    f.Texts("cables", MostItems),
                    f.Text("pads-stay"),
                    [.. f.Items("precautions", MostItems).Select(Warn)],
                    f.Text("open"),
                    f.Text("close"),
                    f.Text("orient"),
                    f.Text("sits-right"),
                    Pictures(f),
                    f.Number("minutes", 0, 600) ?? 0
                )
            );
        }

        private FastenerGroup Fasteners(GuideNode node)
        {
            var f = Fields(node, "a fastener group");
            var group = new FastenerGroup(
                f.Id("group"),
                f.Required("driver"),
                f.Millimetres("length"),
                f.Number("count", 1, 99) ?? 0,
                f.Flag("captive"),
                f.Flag("seal"),
                f.Points("at"),
                f.Text("hidden")
            );
            if (group.Count == 0 && f.Find("count") is null)
            {
                f.Problem(f.Line, $"the fastener group “{group.Group}” lacks “count”");
            }

            return Made(f, group);
        }

        private Clips Clips(GuideNode node)
        {
            var f = Fields(node, "clips");
            return Made(f, new Clips(f.Number("count", 1, 99) ?? 1, f.Points("at"), f.Text("text")));
        }

        private PryPoint Pry(GuideNode node)
        {
            var f = Fields(node, "a pry point");
            return Made(f, new PryPoint(f.Required("tool"), f.Point("at"), f.Text("text")));
        }

        private Pictures Pictures(GuideFields parent)
        {
            if (parent.Find("pictures") is not { } node)
            {
                return Guides.Pictures.None;
            }

            var f = Fields(node, "pictures");
            var pictures = new Pictures(f.Texts("open", 12), f.Texts("close", 12));
            if (pictures.Open.Concat(pictures.Close).Any(p => !HashShape().IsMatch(p)))
            {
                f.Problem(
                    f.Line,
                    "pictures wants the hashes that the shop gave them when they were sent, 64 hexadecimal digits each"
                );
            }

            return Made(f, pictures);
        }

        private Precaution Warn(GuideNode node)
        {
            var f = Fields(node, "a precaution");
            return Made(
                f,
                new Precaution(f.OneOf("kind", GuideTerms.Precautions, null) ?? f.Required("kind"), f.Required("text"))
            );
        }

        private FirstStartSign Sign(GuideNode node)
        {
            var f = Fields(node, "a first-start sign");
            return Made(
                f,
                new FirstStartSign(
                    f.Required("sees"),
                    f.OneOf("kind", GuideTerms.Signs, null),
                    f.Required("means"),
                    f.Time("lasts"),
                    f.Text("do")
                )
            );
        }

        private FirmwareFacts? Firmware(GuideFields parent)
        {
            if (parent.Find("firmware") is not { } node)
            {
                return null;
            }

            var f = Fields(node, "firmware");
            return Made(f, new FirmwareFacts(f.Required("enter"), f.Text("rated-speed")));
        }

        private Trap Trap(GuideNode node)
        {
            var f = Fields(node, "a trap");
            return Made(f, new Trap(f.Required("at"), f.Required("text")));
        }
    }
}
