namespace Revtal.Core.Guides;

/// <summary>What one field alone cannot show: names that point nowhere, doubled ids, removals in a circle.</summary>
public static class GuideChecker
{
    /// <param name="lines">Where each thing stands in its file; without it all is told with line 1.</param>
    public static IEnumerable<GuideProblem> Check(Guide guide, GuideLines? lines = null)
    {
        lines ??= new GuideLines();
        return [.. guide.IsSketch ? [] : Known(guide, lines), .. Pointing(guide, lines)];
    }

    /// <summary>Of a guide that was read in part: words that are not known, and names that point nowhere.</summary>
    internal static IEnumerable<GuideProblem> Pointing(Guide guide, GuideLines lines) =>
        [
            .. Terms(guide, lines),
            .. Memory(guide, lines),
            .. Removals(guide, lines),
            .. Measuring(guide, lines),
            .. Traps(guide, lines),
        ];

    private static IEnumerable<GuideProblem> Measuring(Guide guide, GuideLines lines) =>
        guide is { MeasureOpen: not null, NeverMeasureOpen: not null }
            ?
            [
                new(
                    lines.Of(guide.Model),
                    "measure-open says how it is started open, and never-measure-open why it never is; take one away"
                ),
            ]
            : [];

    // Words that the trade does not know are slips of the pen.
    private static IEnumerable<GuideProblem> Terms(Guide guide, GuideLines lines)
    {
        (object Thing, string What, string? Word, IReadOnlyList<string> Known)[] words =
        [
            (guide.Model, "kind of machine", guide.Model.Kind, GuideTerms.Kinds),
            (guide.Memory, "generation of memory", guide.Memory.Generation, GuideTerms.Generations),
            (guide.Memory, "form of a module", guide.Memory.Module, GuideTerms.Modules),
            .. guide
                .Removals.SelectMany(r => r.Fasteners)
                .Select(f => (f as object, "driver", (string?)f.Driver, GuideTerms.Drivers)),
        ];
        return words
            .Where(w => w.Word is not null && !w.Known.Contains(w.Word))
            .Select(w => new GuideProblem(
                lines.Of(w.Thing),
                $"“{w.Word}” is no {w.What} that the trade knows{NearestWord.Hint(w.Word!, w.Known)}"
            ));
    }

    // What a sketch may leave open and a guide may not.
    private static IEnumerable<GuideProblem> Known(Guide guide, GuideLines lines)
    {
        const string Open = "only a sketch may leave it open";
        var memory = guide.Memory;
        (string Key, bool Told)[] facts =
        [
            ("generation", memory.Generation is not null),
            ("module", memory.Module is not null),
            ("stated-max", memory.StatedMax is not null),
        ];
        return
        [
            .. Isolating(guide, lines),
            .. facts
                .Where(f => !f.Told)
                .Select(f => new GuideProblem(lines.Of(memory), $"memory lacks “{f.Key}”; {Open}")),
            .. memory.Slots.Count > 0
                ? []
                : new[]
                {
                    new GuideProblem(lines.Of(memory), "memory lists no slot; name at least one, soldered ones too"),
                },
            .. memory
                .Slots.Where(s => s.Reach == Reach.Unknown)
                .Select(s => new GuideProblem(lines.Of(s), $"slot {s.Id} is reached by “{s.Reach}”; {Open}")),
            .. guide
                .Drives.Where(b => b.Form is null)
                .Select(b => new GuideProblem(lines.Of(b), $"bay {b.Id} lacks “form”; {Open}")),
            .. guide
                .Drives.Where(b => b.Reach == Reach.Unknown)
                .Select(b => new GuideProblem(lines.Of(b), $"bay {b.Id} is reached by “{b.Reach}”; {Open}")),
            .. guide
                .Removals.SelectMany(r => r.Fasteners)
                .Where(g => g.At.Count == 0 && g.Hidden is null)
                .Select(g => new GuideProblem(
                    lines.Of(g),
                    $"the fastener group “{g.Group}” has no place: say where each sits with “at”, or where they hide "
                        + "with “hidden”"
                )),
        ];
    }

    // Nothing is opened before power is off, and no guide may be silent on how.
    private static IEnumerable<GuideProblem> Isolating(Guide guide, GuideLines lines) =>
        guide.Isolate.Count > 0
            ? []
            :
            [
                new(
                    lines.Of(guide.Model),
                    "isolate names no step; say how its power is taken off, at least shut-down-not-sleep and unplug"
                ),
            ];

    private static IEnumerable<GuideProblem> Memory(Guide guide, GuideLines lines)
    {
        var memory = guide.Memory;
        var removals = guide.Removals.Select(r => r.Id).Append(Reach.Unknown).ToHashSet();
        foreach (
            var (thing, id) in Doubled<object>([
                .. memory.Slots.Select(s => (s as object, s.Id)),
                .. guide.Drives.Select(d => (d as object, d.Id)),
            ])
        )
        {
            yield return At(thing, $"the position id “{id}” stands twice; give each slot and bay its own");
        }

        foreach (
            var (slot, locator) in Doubled([
                .. memory
                    .Slots.Where(s => s.ReportsAs is not null)
                    .Select(s => (s, s.ReportsAs + Phrases.When(s.ReportsBank, b => $" in {b}"))),
            ])
        )
        {
            yield return At(
                slot,
                $"two slots report as “{locator}”; a locator can stand for one, told apart by its bank"
            );
        }

        foreach (var slot in memory.Slots)
        {
            if (slot.Below is { } upper && guide.Slot(upper) is null)
            {
                yield return At(slot, $"slot {slot.Id} lies below “{upper}”, which is no slot");
            }
            else if (LiesBelowItself(guide, slot))
            {
                yield return At(slot, $"slot {slot.Id} lies below itself, by way of {slot.Below}");
            }

            if (slot.Reach is { } reach && !removals.Contains(reach))
            {
                yield return At(slot, $"slot {slot.Id} is reached by “{reach}”, which is no removal");
            }

            if (slot.Max is { } max && max > memory.StatedMax && memory.ConfirmedMax is null)
            {
                yield return At(
                    slot,
                    $"slot {slot.Id} takes {max}, more than the whole model states with {memory.StatedMax}; mend one, "
                        + "or add confirmed-max"
                );
            }
        }

        foreach (var bay in guide.Drives.Where(b => b.Reach is { } r && !removals.Contains(r)))
        {
            yield return At(bay, $"bay {bay.Id} is reached by “{bay.Reach}”, which is no removal");
        }

        foreach (var (count, order) in memory.Populate.Lines)
        {
            foreach (var id in order.Where(id => guide.Slot(id) is null))
            {
                yield return At(order, $"populate {count} names “{id}”, which is no slot");
            }

            foreach (var id in order.GroupBy(i => i).Where(g => g.Count() > 1).Select(g => g.Key))
            {
                yield return At(order, $"populate {count} names “{id}” twice");
            }
        }

        foreach (var id in memory.NeverEmpty.Where(id => guide.Slot(id) is null))
        {
            yield return At(memory.NeverEmpty, $"never-empty names “{id}”, which is no slot");
        }

        if (memory.ConfirmedMax is { } confirmed && confirmed.Size <= memory.StatedMax)
        {
            yield return At(
                confirmed,
                $"confirmed-max is {confirmed.Size}, no more than the stated {memory.StatedMax}; leave it out"
            );
        }

        GuideProblem At(object thing, string message) => new(lines.Of(thing), message);
    }

    private static IEnumerable<GuideProblem> Removals(Guide guide, GuideLines lines)
    {
        var removals = guide.Removals.Select(r => r.Id).ToHashSet();
        foreach (var (removal, id) in Doubled([.. guide.Removals.Select(r => (r, r.Id))]))
        {
            yield return At(removal, $"the removal id “{id}” stands twice");
        }

        foreach (
            var (group, name) in Doubled([.. guide.Removals.SelectMany(r => r.Fasteners).Select(g => (g, g.Group))])
        )
        {
            yield return At(group, $"the fastener group “{name}” stands twice; the tally could not tell them apart");
        }

        foreach (var removal in guide.Removals)
        {
            foreach (var need in removal.Needs.Where(n => n != Reach.Isolated && !removals.Contains(n)))
            {
                yield return At(
                    removal,
                    $"removal “{removal.Id}” needs “{need}”, which is no removal; “{Reach.Isolated}” stands for "
                        + "power off"
                );
            }

            foreach (var bay in removal.TakesOut.Where(b => guide.Bay(b) is null))
            {
                yield return At(removal, $"removal “{removal.Id}” takes out “{bay}”, which is no bay");
            }

            foreach (var group in removal.Fasteners)
            {
                if (group.At.Count > 0 && group.At.Count != group.Count)
                {
                    yield return At(
                        group,
                        $"the fastener group “{group.Group}” counts {group.Count} but places {group.At.Count}"
                    );
                }
            }
        }

        if (Reach.FindCircle(guide) is { } circle)
        {
            yield return At(
                guide.Removals.First(r => r.Id == circle[0]),
                $"removals wait for each other in a circle: {string.Join(" after ", circle)}"
            );
        }

        GuideProblem At(object thing, string message) => new(lines.Of(thing), message);
    }

    private static IEnumerable<GuideProblem> Traps(Guide guide, GuideLines lines)
    {
        foreach (var trap in guide.Traps)
        {
            var dot = trap.At.IndexOf('.', StringComparison.Ordinal);
            var (part, rest) = dot < 0 ? (trap.At, "") : (trap.At[..dot], trap.At[(dot + 1)..]);
            IEnumerable<string> names = part switch
            {
                "open" or "close" => guide.Removals.Select(r => r.Id),
                "pull" or "fit" or "uncover" => guide.Positions,
                "isolate" => guide.Isolate.Select(i => i.Kind),
                "record" => ["modules", .. guide.Removals.Select(r => r.Id)],
                _ => [],
            };
            if (!GuideTerms.StepVerbs.Contains(part))
            {
                yield return new GuideProblem(
                    lines.Of(trap),
                    $"a trap stands at “{trap.At}”, which is no step. Steps begin with "
                        + $"{string.Join(", ", GuideTerms.StepVerbs.Select(p => p + "."))}"
                );
            }
            else if (rest.Length > 0 && names.Any() && !names.Contains(rest))
            {
                yield return new GuideProblem(
                    lines.Of(trap),
                    $"a trap stands at “{trap.At}”, but {part} knows {string.Join(", ", names)}"
                );
            }
        }
    }

    /// <summary>Whether a trap stands at a step that this model may have.</summary>
    internal static bool Stands(Guide guide, Trap trap) =>
        !Traps(guide with { Traps = [trap] }, new GuideLines()).Any();

    private static bool LiesBelowItself(Guide guide, MemorySlot slot)
    {
        var above = slot.Below;
        for (var i = 0; above is not null && i <= guide.Memory.Slots.Count; i++)
        {
            if (above == slot.Id)
            {
                return true;
            }

            above = guide.Slot(above)?.Below;
        }

        return false;
    }

    // Every one after the first of a name.
    private static IEnumerable<(T Thing, string Id)> Doubled<T>((T Thing, string Id)[] things)
    {
        var seen = new HashSet<string>();
        return things.Where(t => !seen.Add(t.Id));
    }
}
