using Revtal.Contracts;

namespace Revtal.Service.Live;

/// <summary>
/// Who has which order open. Pages say so again and again, so nothing of it is kept: what is not said again is over.
/// </summary>
internal sealed class Presence(TimeProvider clock)
{
    /// <summary>How long a page counts as open after it last said so.</summary>
    public static readonly TimeSpan Lasts = TimeSpan.FromSeconds(40);

    private const int MostScreens = 64;

    private readonly Lock looking = new();
    private readonly Dictionary<int, Dictionary<string, Page>> open = [];

    /// <returns>Who is there now, and whether that is something else than before.</returns>
    public (HereView Now, bool Changed) Say(int order, string person, string screen, Doing doing)
    {
        lock (looking)
        {
            var before = View(order);
            var now = clock.GetUtcNow();
            var pages = open.TryGetValue(order, out var known) ? known : open[order] = [];
            var page = $"{person} {screen}";
            var was = pages.GetValueOrDefault(page);
            // What a page said before it left may arrive after that.
            if (was is not { Doing: Doing.Leaves } && (was is not null || pages.Count < MostScreens))
            {
                pages[page] = new Page(person, doing, was?.Since ?? now, now + Lasts);
            }

            var after = View(order);
            return (after, !before.People.SequenceEqual(after.People));
        }
    }

    public HereView At(int order)
    {
        lock (looking)
        {
            return View(order);
        }
    }

    private HereView View(int order)
    {
        var now = clock.GetUtcNow();
        if (!open.TryGetValue(order, out var pages))
        {
            return new HereView(order, [], now);
        }

        foreach (var (key, _) in pages.Where(p => p.Value.Until <= now))
        {
            pages.Remove(key);
        }

        if (pages.Count == 0)
        {
            open.Remove(order);
        }

        return new HereView(
            order,
            [
                .. pages
                    .Values.Where(p => p.Doing != Doing.Leaves)
                    .GroupBy(p => p.Person)
                    .Select(own => new Here(own.Key, own.Any(p => p.Doing == Doing.Types), own.Min(p => p.Since)))
                    .OrderBy(h => h.Since)
                    .ThenBy(h => h.Person, StringComparer.Ordinal),
            ],
            now
        );
    }

    private sealed record Page(string Person, Doing Doing, DateTimeOffset Since, DateTimeOffset Until);
}
