namespace Revtal.Core.Guides;

/// <summary>Who changed a fact since the revision that two guides have in common.</summary>
public enum MergeSide
{
    Theirs,
    Ours,

    /// <summary>Both did, and differently: somebody decides.</summary>
    Both,
}

/// <summary>One fact that two guides of a model tell differently.</summary>
/// <param name="Path">Where it stands: <c>memory.slots[S1].max</c>; of a thing that only one has, the whole of
/// it.</param>
/// <param name="Common">As the revision in common told it; null where it did not, or there is none.</param>
/// <param name="Ours">Null where ours does not have it.</param>
/// <param name="Theirs">Null where theirs does not have it.</param>
public sealed record MergeFact(string Path, string? Common, string? Ours, string? Theirs, MergeSide Changed);

/// <summary>Two guides of one model, brought together fact by fact.</summary>
/// <param name="Guide">What they make together; it may hold what a guide of its own would not.</param>
/// <param name="Facts">What they tell differently, in the order of ours.</param>
public sealed record Merged(Guide Guide, IReadOnlyList<MergeFact> Facts);

/// <summary>
/// Three ways: what only they changed is taken, what only we changed stays, and what both changed stays ours until
/// somebody takes theirs. What orders proved is each shop's own and is not merged.
/// </summary>
public static class GuideMerge
{
    /// <summary>A guide for another shop: what was proved here is told, but not by which orders.</summary>
    public static Guide ForOthers(Guide guide) =>
        Proved(guide, guide.Memory.ConfirmedMax is { } c ? new(c.Size, []) : null);

    /// <summary>A guide without what any shop's orders proved.</summary>
    public static Guide Bare(Guide guide) => Proved(guide, null);

    private static Guide Proved(Guide guide, ConfirmedMax? proved) =>
        guide with
        {
            Memory = guide.Memory with { ConfirmedMax = proved },
            Variants =
            [
                .. guide.Variants.Select(v =>
                    v with
                    {
                        Guide = v.Guide with { Memory = v.Guide.Memory with { ConfirmedMax = proved } },
                    }
                ),
            ],
        };

    /// <summary>The newest revision of ours that they have too, whatever either calls it; null for none.</summary>
    /// <param name="ours">Oldest first, each <see cref="Bare"/>.</param>
    /// <param name="theirs">Likewise.</param>
    public static Guide? Common(IReadOnlyList<Guide> ours, IReadOnlyList<Guide> theirs)
    {
        var known = theirs.Select(GuideWriter.Write).ToArray();
        return ours.Reverse()
            .FirstOrDefault(o => GuideWriter.Write(o) is var own && known.Any(t => GuideNode.Same(own, t)));
    }

    /// <param name="common">Null where they have none: all that differs is then to be decided.</param>
    /// <param name="takeTheirs">Paths that are taken from theirs in any case.</param>
    /// <param name="keepOurs">Paths that stay ours in any case.</param>
    /// <exception cref="RefusedException">A path is named at which they do not differ.</exception>
    public static Merged Of(
        Guide? common,
        Guide ours,
        Guide theirs,
        IReadOnlyCollection<string> takeTheirs,
        IReadOnlyCollection<string> keepOurs
    )
    {
        var facts = new List<MergeFact>();
        var node = Lay(
            "",
            common is null ? null : GuideWriter.Write(Bare(common)),
            GuideWriter.Write(Bare(ours)),
            GuideWriter.Write(Bare(theirs))
        )!;
        var strange = takeTheirs.Concat(keepOurs).Except(facts.Select(f => f.Path)).ToArray();
        return strange.Length > 0
            ? throw RefusedException.Invalid(
                "merge-path",
                $"At {Phrases.Listed(strange)} the two guides do not differ. They do at "
                    + $"{Phrases.Listed(facts.Select(f => f.Path).Take(20))}."
            )
            : new Merged(Proved(GuideReader.Read(node, published: true).Guide!, ours.Memory.ConfirmedMax), facts);

        GuideNode? Lay(string path, GuideNode? was, GuideNode? own, GuideNode? other) =>
            (own, other) switch
            {
                _ when GuideNode.Same(own, other) => own,
                (GuideNode.Map o, GuideNode.Map t) when path != "model.code" => new GuideNode.Map(
                    [
                        .. o
                            .Fields.Select(f => f.Key)
                            .Union(t.Fields.Select(f => f.Key))
                            .Select(key =>
                                (
                                    key,
                                    Lay(
                                        path.Length == 0 ? key : $"{path}.{key}",
                                        (was as GuideNode.Map)?.Find(key),
                                        o.Find(key),
                                        t.Find(key)
                                    )
                                )
                            )
                            .Where(f => f.Item2 is not null)
                            .Select(f => (f.key, f.Item2!)),
                    ],
                    0
                ),
                (GuideNode.List o, GuideNode.List t) when Names(o) is { } mine && Names(t) is { } others =>
                    new GuideNode.List(
                        [
                            .. mine.Union(others)
                                .Select(name => Lay($"{path}[{name}]", Item(was, name), Item(o, name), Item(t, name)))
                                .OfType<GuideNode>(),
                        ],
                        0
                    ),
                _ => Decide(path, was, own, other),
            };

        GuideNode? Decide(string path, GuideNode? was, GuideNode? own, GuideNode? other)
        {
            var changed =
                common is null ? MergeSide.Both
                : GuideNode.Same(was, own) ? MergeSide.Theirs
                : GuideNode.Same(was, other) ? MergeSide.Ours
                : MergeSide.Both;
            facts.Add(new(path, Text(was), Text(own), Text(other), changed));
            return takeTheirs.Contains(path) || (changed == MergeSide.Theirs && !keepOurs.Contains(path)) ? other : own;
        }
    }

    private static string[]? Names(GuideNode.List list)
    {
        string?[] names = [.. list.Items.Select(i => (i as GuideNode.Map)?.Name)];
        return names.All(n => n is not null) && names.Distinct().Count() == names.Length
            ? [.. names.OfType<string>()]
            : null;
    }

    private static GuideNode? Item(GuideNode? list, string name) =>
        (list as GuideNode.List)?.Items.FirstOrDefault(i => (i as GuideNode.Map)?.Name == name);

    private static string? Text(GuideNode? node) =>
        node switch
        {
            null => null,
            GuideNode.Scalar s => s.Text,
            GuideNode.List l => string.Join(", ", l.Items.Select(i => i is GuideNode.List ? $"[{Text(i)}]" : Text(i))),
            GuideNode.Map m => string.Join("; ", m.Fields.Select(f => $"{f.Key}: {Text(f.Value)}")),
            _ => "",
        };
}
