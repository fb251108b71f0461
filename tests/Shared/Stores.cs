using System.Collections.Concurrent;

namespace Revtal.Tests;

/// <summary>
/// Where services under test keep their shops: in their folders, or in a database for each where
/// <c>REVTAL_TEST_STORE=postgres</c> says so.
/// </summary>
internal static class Stores
{
    private static readonly ConcurrentDictionary<string, string> Databases = new();

    public static bool IsPostgres { get; } = Environment.GetEnvironmentVariable("REVTAL_TEST_STORE") == "postgres";

    /// <summary>What a service is started with, for the shop of this folder.</summary>
    public static string[] Of(string folder) =>
        IsPostgres
            ? ["--store", Databases.GetOrAdd(folder, _ => PostgresServer.Here.NewDatabase())]
            : ["--data", folder];

    /// <param name="from">Whose service has ended.</param>
    public static void Copy(string from, string folder) =>
        Databases[folder] = PostgresServer.Here.NewDatabase(Databases[from]);
}
