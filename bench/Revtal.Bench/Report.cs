namespace Revtal.Bench;

/// <summary>Figures beside their targets.</summary>
internal sealed class Report
{
    public bool AllMet { get; private set; } = true;

    public void Tell(string what, string figure, string target, bool met)
    {
        AllMet &= met;
        Console.WriteLine($"{(met ? "met " : "MISS")}  {what, -58} {figure, -34} target {target}");
    }

    public static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToArray();
        return sorted[sorted.Length / 2];
    }

    public static double Percentile(IReadOnlyList<double> values, double share)
    {
        var sorted = values.Order().ToArray();
        return sorted[Math.Min(sorted.Length - 1, (int)(sorted.Length * share))];
    }
}
