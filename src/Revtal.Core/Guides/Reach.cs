namespace Revtal.Core.Guides;

/// <summary>
/// What must come off to get at positions. Since every need of a removal must be met, the smallest set is the closure
/// of the needs.
/// </summary>
public static class Reach
{
    /// <summary>The need that stands for "power is off and drained" rather than for a removal.</summary>
    public const string Isolated = "isolated";

    /// <summary>What a sketch says of a position that nobody has got at yet.</summary>
    public const string Unknown = "unknown";

    /// <summary>Those of the positions of which nobody knows what must come off.</summary>
    public static IReadOnlyList<string> NotKnown(Guide guide, IEnumerable<string> positions) =>
        [.. positions.Where(p => (guide.Slot(p)?.Reach ?? guide.Bay(p)?.Reach) == Unknown)];

    /// <summary>
    /// The fewest removals that give access to all of these positions, in the order in which they come off; reversed,
    /// they close.
    /// </summary>
    /// <param name="guide">A guide that the checker passed.</param>
    /// <param name="positions">Slot or bay ids.</param>
    /// <param name="handsIn">Whether something is pulled or fitted there: then what keeps power on the board comes off
    /// too.</param>
    /// <param name="also">Removals that come off besides.</param>
    /// <exception cref="RefusedException">The guide has no such position.</exception>
    public static IReadOnlyList<Removal> To(
        Guide guide,
        IEnumerable<string> positions,
        bool handsIn = false,
        IReadOnlyList<string>? also = null
    )
    {
        var index = new Dictionary<string, int>(guide.Removals.Count);
        for (var i = 0; i < guide.Removals.Count; i++)
        {
            index[guide.Removals[i].Id] = i;
        }

        var wanted = new bool[guide.Removals.Count];
        var open = new Stack<int>();
        var any = false;
        foreach (var position in positions)
        {
            any = true;
            var slot = guide.Slot(position);
            var bay = guide.Bay(position);
            if (slot is null && bay is null)
            {
                throw RefusedException.Invalid(
                    "no-such-position",
                    $"{guide.Model.Code} has no position “{position}”. It has {string.Join(", ", guide.Positions)}."
                );
            }

            if ((slot?.Reach ?? bay?.Reach) is { } first and not Unknown)
            {
                Want(index[first]);
            }
        }

        foreach (var removal in also ?? [])
        {
            Want(index[removal]);
        }

        for (var i = 0; i < wanted.Length; i++)
        {
            if (guide.Removals[i].Isolates && any && handsIn)
            {
                Want(i);
            }
        }

        var needs = new int[wanted.Length][];
        while (open.TryPop(out var i))
        {
            needs[i] = [.. guide.Removals[i].Needs.Where(n => n != Isolated).Select(n => index[n])];
            foreach (var need in needs[i])
            {
                Want(need);
            }
        }

        return InOrder(guide, wanted, needs);

        void Want(int i)
        {
            if (!wanted[i])
            {
                wanted[i] = true;
                open.Push(i);
            }
        }
    }

    // Those that wait for nothing first; the guide's own order breaks ties, so the same question has the same answer.
    private static List<Removal> InOrder(Guide guide, bool[] wanted, int[][] needs)
    {
        var waits = new int[wanted.Length];
        var followers = new List<int>?[wanted.Length];
        var ready = new PriorityQueue<int, int>();
        for (var i = 0; i < wanted.Length; i++)
        {
            if (!wanted[i])
            {
                continue;
            }

            waits[i] = needs[i].Length;
            if (waits[i] == 0)
            {
                ready.Enqueue(i, i);
            }

            foreach (var need in needs[i])
            {
                (followers[need] ??= []).Add(i);
            }
        }

        var order = new List<Removal>();
        while (ready.TryDequeue(out var i, out _))
        {
            order.Add(guide.Removals[i]);
            foreach (var follower in followers[i] ?? [])
            {
                if (--waits[follower] == 0)
                {
                    ready.Enqueue(follower, follower);
                }
            }
        }

        return order;
    }

    /// <summary>
    /// Removals that wait for each other, first one repeated at the end; null when there is no such circle.
    /// </summary>
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
