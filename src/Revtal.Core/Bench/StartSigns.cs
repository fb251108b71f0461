using Revtal.Core.Guides;

namespace Revtal.Core.Bench;

/// <summary>What the starts of an order showed.</summary>
public static class StartSigns
{
    /// <summary>The last sign that was not normal and that no start since contradicts; null where none is.</summary>
    /// <param name="runs">Oldest first. A start after another run begins anew: what it shows then is told then.</param>
    public static StartSign? Open(Guide guide, IReadOnlyList<RunState> runs)
    {
        StartSign? open = null;
        foreach (var run in runs)
        {
            open = run.Confirmed(StepId.PowerOn) is null ? open : null;
            foreach (var find in run.Found)
            {
                open = find.Kind switch
                {
                    FindKind.NormalStart => null,
                    FindKind.Sign when StartSign.Of(guide, find.Text!) is { IsNormal: false } sign => sign,
                    _ => open,
                };
            }
        }

        return open;
    }
}
