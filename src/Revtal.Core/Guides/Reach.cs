namespace Revtal.Core.Guides;

/// <summary>What must come off to get at positions. Since every need of a removal must be met, the smallest set is the closure of the needs.</summary>
public static class Reach
{
    /// <summary>The need that stands for "power is off and drained" rather than for a removal.</summary>
    public const string Isolated = "isolated";

    /// <summary>The fewest removals that give access to all of these positions, in the order in which they come off; reversed, they close.</summary>
    /// <param name="guide">A guide that the checker passed.</param>
    /// <param name="positions">Slot or bay ids.</param>
    /// <param name="handsIn">Whether something is pulled or fitted there: then what keeps power on the board comes off too.</param>
    /// <exception cref="RefusedException">The guide has no such position.</exception>
    public static IReadOnlyList<Removal> To(Guide guide, IEnumerable<string> positions, bool handsIn = false)
    {
        var byId = guide.Removals.ToDictionary(r => r.Id);
        var wanted = new HashSet<string>();
        var any = false;
        foreach (var position in positions)
        {
            any = true;
            var slot = guide.Slot(position);
            var bay = guide.Bay(position);
            if (slot is null && bay is null)
            {
                throw RefusedException.Invalid(
                    "no-such-position", $"{guide.Model.Code} has no position “{position}”. It has {string.Join(", ", guide.Positions)}.");
            }

            if ((slot?.Reach ?? bay?.Reach) is { } first)
            {
                Want(first);
            }
        }

        foreach (var removal in guide.Removals.Where(r => r.Isolates && any && handsIn))
        {
            Want(removal.Id);
        }

        return InOrder(guide, wanted);

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

    // Those that wait for nothing first; the guide's own order breaks ties, so the same question has the same answer.
    private static List<Removal> InOrder(Guide guide, HashSet<string> wanted)
    {
        var waits = new Dictionary<string, int>();
        var followers = new Dictionary<string, List<int>>();
        var ready = new PriorityQueue<int, int>();
        for (var i = 0; i < guide.Removals.Count; i++)
        {
            var removal = guide.Removals[i];
            if (!wanted.Contains(removal.Id))
            {
                continue;
            }

            var needs = removal.Needs.Where(n => n != Isolated).Distinct().ToArray();
            waits[removal.Id] = needs.Length;
            if (needs.Length == 0)
            {
                ready.Enqueue(i, i);
            }

            foreach (var need in needs)
            {
                (followers.TryGetValue(need, out var known) ? known : followers[need] = []).Add(i);
            }
        }

        var order = new List<Removal>(wanted.Count);
        while (ready.TryDequeue(out var i, out _))
        {
            order.Add(guide.Removals[i]);
            foreach (var follower in followers.GetValueOrDefault(guide.Removals[i].Id, []).Where(f => --waits[guide.Removals[f].Id] == 0))
            {
                ready.Enqueue(follower, follower);
            }
        }

        return order;
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
