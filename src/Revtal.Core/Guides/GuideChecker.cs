namespace Revtal.Core.Guides;

/// <summary>What one field alone cannot show: names that point nowhere, doubled ids, removals in a circle.</summary>
public static class GuideChecker
{
    /// <param name="line">The line told with problems that belong to no single line.</param>
    public static IEnumerable<GuideProblem> Check(Guide guide, int line = 1)
    {
        var slots = guide.Memory.Slots.Select(s => s.Id).ToHashSet();
        var removals = guide.Removals.Select(r => r.Id).ToHashSet();
        return Messages().Select(m => new GuideProblem(line, m));

        IEnumerable<string> Messages()
        {
            if (slots.Count == 0)
            {
                yield return "memory lists no slot; name at least one, soldered ones too";
            }

            foreach (var id in Doubled(guide.Memory.Slots.Select(s => s.Id).Concat(guide.Drives.Select(d => d.Id))))
            {
                yield return $"the position id “{id}” stands twice; give each slot and bay its own";
            }

            foreach (var id in Doubled(guide.Removals.Select(r => r.Id)))
            {
                yield return $"the removal id “{id}” stands twice";
            }

            foreach (var id in Doubled(guide.Memory.Slots.Select(s => s.ReportsAs).OfType<string>()))
            {
                yield return $"two slots report as “{id}”; a locator can stand for one";
            }

            foreach (var group in Doubled(guide.Removals.SelectMany(r => r.Fasteners).Select(g => g.Group)))
            {
                yield return $"the fastener group “{group}” stands twice; the tally could not tell them apart";
            }

            foreach (var slot in guide.Memory.Slots)
            {
                if (slot.Below is { } upper && !slots.Contains(upper))
                {
                    yield return $"slot {slot.Id} lies below “{upper}”, which is no slot";
                }

                if (slot.Reach is { } reach && !removals.Contains(reach))
                {
                    yield return $"slot {slot.Id} is reached by “{reach}”, which is no removal";
                }
            }

            foreach (var bay in guide.Drives.Where(b => b.Reach is { } r && !removals.Contains(r)))
            {
                yield return $"bay {bay.Id} is reached by “{bay.Reach}”, which is no removal";
            }

            foreach (var (count, order) in guide.Memory.Populate)
            {
                foreach (var id in order.Where(id => !slots.Contains(id)))
                {
                    yield return $"populate {count} names “{id}”, which is no slot";
                }
            }

            foreach (var removal in guide.Removals)
            {
                foreach (var need in removal.Needs.Where(n => n != Reach.Isolated && !removals.Contains(n)))
                {
                    yield return $"removal “{removal.Id}” needs “{need}”, which is no removal; “{Reach.Isolated}” stands for power off";
                }

                foreach (var group in removal.Fasteners.Where(g => g.At.Count > 0 && g.At.Count != g.Count))
                {
                    yield return $"the fastener group “{group.Group}” counts {group.Count} but places {group.At.Count}";
                }
            }

            if (Reach.FindCircle(guide) is { } circle)
            {
                yield return $"removals wait for each other in a circle: {string.Join(" after ", circle)}";
            }
        }
    }

    private static IEnumerable<string> Doubled(IEnumerable<string> ids) => ids.GroupBy(i => i).Where(g => g.Count() > 1).Select(g => g.Key);
}
