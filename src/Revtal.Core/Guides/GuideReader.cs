namespace Revtal.Core.Guides;

/// <summary>
/// Understands a guide file (<c>format: revtal-guide/1</c>, see docs/guide-format.md), naming every problem with its
/// line.
/// </summary>
public static class GuideReader
{
    /// <summary>Reads and checks; the guide is null if there is any problem.</summary>
    /// <param name="published">It was accepted once: checks that came later are told but keep nobody from reading
    /// it.</param>
    public static GuideResult Read(GuideNode root, bool published = false)
    {
        var problems = new List<GuideProblem>();
        if (root is not GuideNode.Map file)
        {
            return new GuideResult(null, [new GuideProblem(root.Line, "the guide wants keys and values")]);
        }

        var lines = new GuideLines();
        var form = new ReadingForm(EachOf.Spread(file), "the guide", problems, lines);
        var ofVariants = new List<GuideProblem>();
        var guide = GuideTable.Whole(
            form,
            null,
            (f, _) => GuideTable.Variant(f, null, differs => Facts(file, differs, ofVariants), null)
        );
        form.Done();
        var slips = problems.Select(p => p.Line).ToHashSet();
        // What a slip left out is not asked for as well; what points nowhere is told with the slips.
        problems.AddRange(
            slips.Count == 0
                ? GuideChecker.Check(guide with { Variants = [] }, lines)
                : GuideChecker.Pointing(guide, lines).Where(p => !slips.Contains(p.Line))
        );

        problems.AddRange(ofVariants);
        foreach (var twice in guide.Variants.GroupBy(v => v.Id).Where(g => g.Count() > 1))
        {
            problems.Add(new GuideProblem(file.Find("variants")!.Line, $"the variant “{twice.Key}” stands twice"));
        }

        var told = problems.Distinct().OrderBy(p => p.Line).ToArray();
        return new GuideResult(told.Length == 0 || published ? guide : null, told);
    }

    /// <summary>Whether this can be a model's code: 2 to 12 capital letters, digits or hyphens.</summary>
    public static bool IsCode(string text) => FieldTypes.CodeShape().IsMatch(text);

    // The facts of one build: those of the model with its own laid over.
    private static Guide Facts(GuideNode.Map file, GuideNode? differs, List<GuideProblem> problems)
    {
        GuideNode common = new GuideNode.Map(
            [.. file.Fields.Where(f => f.Key is not ("format" or "variants"))],
            file.Line
        );
        var (own, lines) = (new List<GuideProblem>(), new GuideLines());
        var form = new ReadingForm(
            EachOf.Spread(differs is null ? common : GuideOverlay.Lay(common, differs)),
            "the guide",
            own,
            lines
        );
        var guide = GuideTable.Facts(form, null);
        form.Done();
        problems.AddRange(own.Count == 0 ? GuideChecker.Check(guide, lines) : own);
        return guide;
    }

    /// <summary>Takes what the table asks for out of one map, collecting what is wrong instead of stopping at
    /// it.</summary>
    private sealed class ReadingForm(GuideNode node, string what, List<GuideProblem> problems, GuideLines lines)
        : GuideForm
    {
        private readonly List<string> asked = [];
        private readonly GuideNode.Map? map = node as GuideNode.Map;

        public override T Take<T>(string key, FieldType<T> type, T? value, string says, bool needed)
            where T : default
        {
            if (Find(key) is { } found)
            {
                return type.Read(found, new ReadingPlace(what, key, problems, lines));
            }

            if (needed)
            {
                Lacks(key, type.Shape is ValueShape.Text { Pattern: not null } or ValueShape.Word ? type.Shape : null);
            }

            return type.None;
        }

        public override T? Part<T>(
            string key,
            string name,
            Func<GuideForm, T?, T> part,
            T? value,
            string says,
            bool needed
        )
            where T : class
        {
            if (Find(key) is { } found)
            {
                return Map(found, name, part);
            }

            if (!needed)
            {
                return null;
            }

            // What it would hold is not asked for as well.
            Lacks(key, null);
            return part(new ReadingForm(new GuideNode.Map([], node.Line), name, [], lines), null);
        }

        public override IReadOnlyList<T> Parts<T>(
            string key,
            string name,
            int most,
            Func<GuideForm, T?, T> part,
            IReadOnlyList<T>? values,
            string says
        )
            where T : class =>
            Find(key) switch
            {
                null => [],
                GuideNode.List list when list.Items.Count <= most => [.. list.Items.Select(i => Map(i, name, part))],
                var other => new ReadingPlace(what, key, problems, lines).Bad<IReadOnlyList<T>>(
                    other,
                    new ValueShape.List(new ValueShape.Map([]), most),
                    []
                ),
            };

        /// <summary>After the last key: names those that nobody asked for.</summary>
        public void Done()
        {
            foreach (var (key, value) in map?.Fields.Where(f => !asked.Contains(f.Key)) ?? [])
            {
                Problem(value.Line, $"{what} does not know “{key}”. It knows {string.Join(", ", asked)}");
            }
        }

        // What a map of the file says, with its line kept for the checker.
        private T Map<T>(GuideNode found, string name, Func<GuideForm, T?, T> part)
            where T : class
        {
            if (found is not GuideNode.Map)
            {
                Problem(found.Line, $"{name} wants keys and values");
            }

            var form = new ReadingForm(found, name, problems, lines);
            var made = part(form, null);
            form.Done();
            return lines.Put(made, found.Line);
        }

        private GuideNode? Find(string key)
        {
            asked.Add(key);
            return map?.Find(key);
        }

        private void Lacks(string key, ValueShape? wanted)
        {
            if (map is not null)
            {
                Problem(node.Line, $"{what} lacks “{key}”{Phrases.When(wanted?.Wants, w => $": {w}")}");
            }
        }

        private void Problem(int line, string message) => problems.Add(new GuideProblem(line, message));
    }
}
