using System.Diagnostics;
using Microsoft.Data.Sqlite;
using Revtal.Contracts;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>
/// Recording an entry, durable, beside one-row-per-transaction inserts by one connection into the same settings on the
/// same disk.
/// </summary>
internal static class WriteBench
{
    private const int Turns = 5;
    private static readonly TimeSpan Turn = TimeSpan.FromSeconds(2);

    public static async Task RunAsync(Report report)
    {
        await using var service = await ServiceProcess.StartAsync();
        var ines = service.As("ines");
        var orders = new int[128];
        for (var i = 0; i < orders.Length; i++)
        {
            orders[i] = (await ines.TakeInAsync(new TakeInRequest("FJ14", "Tide-gauge office", "stops"))).Order;
        }

        var folder = Directory.CreateTempSubdirectory("revtal-floor-").FullName;
        var many = new List<double>();
        var one = new List<double>();
        var rates = new List<(double Floor, double Many, double One)>();
        await RateAsync(16);
        for (var i = 0; i < Turns; i++)
        {
            var (floor, sixteen, single) = (Floor(folder), await RateAsync(16), await RateAsync(1));
            many.Add(sixteen / floor);
            one.Add(single / floor);
            rates.Add((floor, sixteen, single));
        }

        Directory.Delete(folder, recursive: true);
        var floorRate = Report.Median(rates.Select(r => r.Floor));
        report.Tell(
            "record an entry, 16 clients",
            $"{Report.Median(many):0.00} of floor ({Report.Median(rates.Select(r => r.Many)):0}/s : {floorRate:0}/s)",
            "2 or more",
            Report.Median(many) >= 2
        );
        report.Tell(
            "record an entry, 1 client",
            $"{Report.Median(one):0.00} of floor ({Report.Median(rates.Select(r => r.One)):0}/s : {floorRate:0}/s)",
            "0.4 or more",
            Report.Median(one) >= 0.4
        );

        // Each client goes round orders of its own, so that none grows beyond what a bench would write.
        Task<double> RateAsync(int clients) =>
            Load.RateAsync(
                service.Address,
                (c, n) =>
                    Load.Post(
                        service.Address,
                        $"/api/v1/orders/{orders[((c * 8) + (n % 8)) % orders.Length]}/notes",
                        $$"""{"text":"note {{n}} of client {{c}}, in a line of usual length"}"""
                    ),
                clients,
                Turn
            );
    }

    private static double Floor(string folder)
    {
        using var connection = new SqliteConnection($"Data Source={Path.Combine(folder, "floor.db")};Pooling=False");
        connection.Open();
        Execute(
            connection,
            "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; CREATE TABLE IF NOT EXISTS rows(id INTEGER PRIMARY "
                + "KEY, body TEXT)"
        );
        using var insert = connection.CreateCommand();
        insert.CommandText = "INSERT INTO rows(body) VALUES ($body)";
        insert.Parameters.AddWithValue("$body", new string('x', 200));
        insert.Prepare();
        var watch = Stopwatch.StartNew();
        var count = 0;
        for (; watch.Elapsed < Turn; count++)
        {
            insert.ExecuteNonQuery();
        }

        return count / watch.Elapsed.TotalSeconds;
    }

    private static void Execute(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }
}
