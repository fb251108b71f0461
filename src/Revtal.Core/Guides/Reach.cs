namespace Revtal.Core.Guides;

/// <summary>What must come off to get at positions. Since every need of a removal must be met, the smallest set is the closure of the needs.</summary>
public static class Reach
{
    /// <summary>The need that stands for "power is off and drained" rather than for a removal.</summary>
    public const string Isolated = "isolated";

    /// <summary>The fewest removals that give access to all of these positions, in the order in which they come off; reversed, they close.</summary>
    /// <param name="guide">A guide that the checker passed.</param>
    /// <param name="positions">Slot or bay ids.</param>
    /// <exception cref="RefusedException">The guide has no such position.</exception>
    public static IReadOnlyList<Removal> To(Guide guide, IEnumerable<string> positions)
    {
        var byId = guide.Removals.ToDictionary(r => r.Id);
        var wanted = new HashSet<string>();
        foreach (var position in positions)
        {
            var slot = guide.Slot(position);
            var bay = guide.Drives.FirstOrDefault(d => d.Id == position);
            if (slot is null && bay is null)
            {
                throw RefusedException.Invalid(
                    "no-such-position", $"{guide.Model.Code} has no position “{position}”. It has {string.Join(", ", guide.Memory.Slots.Select(s => s.Id))}.");
            }

            if ((slot?.Reach ?? bay?.Reach) is { } first)
            {
                Want(first);
            }
        }

        // The guide's own order breaks ties, so the same question has the same answer.
        var order = new List<Removal>();
        var off = new HashSet<string>();
        while (order.Count < wanted.Count)
        {
            var next = guide.Removals.First(r => wanted.Contains(r.Id) && !off.Contains(r.Id) && r.Needs.All(n => n == Isolated || off.Contains(n)));
            off.Add(next.Id);
            order.Add(next);
        }

        return order;

        void Want(string id)
        {
            if (wanted.Add(id))
            {
                foreach (var need in byId[id].Needs.Where(n => n != Isolated))
                {
                    Want(need);
                }
            }
        }
    }

    /// <summary>Removals that wait for each other, first one repeated at the end; null when there is no such circle.</summary>
    public static IReadOnlyList<string>? FindCircle(Guide guide)
    {
        var byId = guide.Removals.GroupBy(r => r.Id).ToDictionary(g => g.Key, g => g.First());
        var done = new HashSet<string>();
        var path = new List<string>();
        return byId.Keys.Select(Walk).FirstOrDefault(circle => circle is not null);

        IReadOnlyList<string>? Walk(string id)
        {
            if (path.IndexOf(id) is >= 0 and var from)
            {
                return [.. path[from..], id];
            }

            if (!byId.TryGetValue(id, out var removal) || !done.Add(id))
            {
                return null;
            }

            path.Add(id);
            foreach (var need in removal.Needs)
            {
                if (Walk(need) is { } circle)
                {
                    return circle;
                }
            }

            path.RemoveAt(path.Count - 1);
            return null;
        }
    }
}
