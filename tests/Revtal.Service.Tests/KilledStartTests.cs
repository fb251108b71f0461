using Microsoft.Data.Sqlite;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>A service that is killed while it makes its store, or brings an older one up to date.</summary>
public sealed class KilledStartTests
{
    private const int Moments = 10;

    // A store grows by some 180 KB until it is whole.
    private const int Apart = 16 << 10;

    // From an empty folder and from the first version's store, so that every migration is cut somewhere.
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task It_goes_on_at_the_next_start_wherever_it_was_cut(bool old)
    {
        var cuts = new HashSet<long>();
        for (var moment = 0; moment < Moments; moment++)
        {
            var folder = Directory.CreateTempSubdirectory("revtal-killed-").FullName;
            var file = Path.Combine(folder, "revtal.db");
            if (old)
            {
                File.Copy(Repository.At("tests", "data", "databases", "journal.db"), file);
            }

            var before = Written();
            using (var doomed = ServiceProcess.Launch(folder))
            {
                while (!doomed.HasExited && Written() <= before + (moment * Apart))
                {
                    await Task.Yield();
                }

                doomed.Kill();
                await doomed.WaitForExitAsync();
            }

            cuts.Add(Tables());
            await using (var again = await ServiceProcess.StartAsync(folder))
            {
                await again.SetUpAsync();
                Assert.Equal("ready\n", await again.Http.GetStringAsync("readyz"));
                Assert.Equal(old, (await again.As(null).SearchAsync(null)).Items.Count > 0);
            }

            Directory.Delete(folder, recursive: true);

            long Written() =>
                new[] { file, $"{file}-wal", $"{file}-journal" }
                    .Select(f => new FileInfo(f))
                    .Sum(f => f.Exists ? f.Length : 0);

            // Of a copy: whoever opens it first tidies it up.
            long Tables()
            {
                var copy = Directory.CreateTempSubdirectory("revtal-looked-at-").FullName;
                foreach (var part in Directory.GetFiles(folder, "revtal.db*"))
                {
                    File.Copy(part, Path.Combine(copy, Path.GetFileName(part)));
                }

                using var db = new SqliteConnection($"Data Source={copy}/revtal.db;Pooling=False");
                db.Open();
                using var count = db.CreateCommand();
                count.CommandText = "SELECT count(*) FROM sqlite_master";
                return (long)count.ExecuteScalar()!;
            }
        }

        // It was cut at different places.
        Assert.InRange(cuts.Count, 3, Moments);
    }
}
