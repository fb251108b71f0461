using System.Diagnostics;
using System.Diagnostics.Metrics;

namespace Revtal.Storage;

/// <summary>What the store measures for whoever watches the service; it costs nothing while nobody does.</summary>
public static class StoreMeter
{
    /// <summary>Of the meter and of the traces.</summary>
    public const string Name = "Revtal";

    internal static readonly ActivitySource Traces = new(Name);

    private static readonly Meter Meter = new(Name);

    private static readonly Histogram<double> Append = Meter.CreateHistogram<double>(
        "revtal.journal.append.duration",
        "s",
        "From an append's coming to its answer, on disk or refused."
    );

    /// <summary>An append that came at this time stamp is answered.</summary>
    internal static void Answered(long came)
    {
        if (Append.Enabled)
        {
            Append.Record(Stopwatch.GetElapsedTime(came).TotalSeconds);
        }
    }
}
