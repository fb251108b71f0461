using System.Diagnostics;
using Revtal.Storage;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>Which of 5,000 models a machine is that tells its product.</summary>
internal static class RecogniseBench
{
    private const int Guides = 5_000,
        Together = 250,
        Rounds = 300;

    public static async Task RunAsync(Report report)
    {
        var folder = Directory.CreateTempSubdirectory("revtal-names-").FullName;
        var times = new List<double>();
        using (var store = await TestStore.InAsync(folder))
        {
            var shelf = store.Guides;
            var like = await File.ReadAllTextAsync(Repository.At("guides", "NL12.yaml"));
            foreach (var chunk in Enumerable.Range(0, Guides).Chunk(Together))
            {
                await shelf.PublishAsync(
                    [.. chunk.Select(i => Named(like, i))],
                    new Hand("ines", DateTimeOffset.UtcNow, Guid.NewGuid())
                );
            }

            for (var i = 0; i < Rounds; i++)
            {
                // One that reports so, one that is called alike, one that nobody knows.
                var product = (i % 3) switch
                {
                    0 => $"NB-{i * 7 % Guides}",
                    1 => $"Norrland Lom {i * 11 % Guides} rev. B",
                    _ => $"Sund {i}",
                };
                var start = Stopwatch.GetTimestamp();
                var found = await shelf.RecogniseAsync(product);
                times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
                if (i % 3 == 0 && found is not [{ Reported: true }, ..])
                {
                    throw new InvalidOperationException($"{product} was not recognised.");
                }
            }
        }

        Directory.Delete(folder, recursive: true);
        var worst = Report.Percentile(times, 0.95);
        report.Tell(
            $"a machine recognised among {Guides} guides (95th of {Rounds})",
            $"{worst:0.0} ms, median {Report.Median(times):0.0} ms",
            "under 20 ms",
            worst < 20
        );
    }

    private static string Named(string like, int number) =>
        like.Replace("name: Lom 12, code: NL12", $"name: Lom {number}, code: NB-{number}", StringComparison.Ordinal)
            .Replace("reports-as: [NL12]", $"reports-as: [NB-{number}]", StringComparison.Ordinal);
}
