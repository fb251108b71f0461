using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>Services that work on one database.</summary>
internal static class Instances
{
    private static readonly Dictionary<string, string> Nobody = [];

    private static readonly string None = Directory.CreateTempSubdirectory("revtal-none-").FullName;

    /// <summary>The first: it makes the shop, with one lead and one guide.</summary>
    public static async Task<ServiceProcess> FirstAsync(string store)
    {
        var first = await ServiceProcess.StartAsync(None, arguments: Of(store), tokens: Nobody);
        await first.SetUpAsync();
        await first.As("ines").PublishGuideAsync(await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml")));
        return first;
    }

    /// <summary>Another of the same shop.</summary>
    public static Task<ServiceProcess> OtherAsync(string store, ServiceProcess first) =>
        ServiceProcess.StartAsync(None, arguments: Of(store), tokens: first.Tokens);

    private static string[] Of(string store) => ["--store", store, "--rate", "0"];
}
