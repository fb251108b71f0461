using Microsoft.Extensions.Configuration;
using Revtal.Storage;

namespace Revtal.Demo;

/// <summary>Whether the demo shop was filled to its end: a filling that was cut off begins anew.</summary>
internal static class Filling
{
    private const string Mark = "demo.filling";

    /// <summary>Before anything is opened: takes a half-filled shop away.</summary>
    public static void Clear(string[] args)
    {
        var folder = new ConfigurationBuilder().AddEnvironmentVariables("REVTAL_").AddCommandLine(args).Build()["Data"];
        if (folder is null || !File.Exists(Path.Combine(folder, Mark)))
        {
            return;
        }

        // Nobody else has it in hand, or nothing is touched.
        StoreFolder.Take(Path.GetFullPath(folder)).Dispose();
        foreach (var file in Directory.GetFiles(folder, "revtal.*"))
        {
            File.Delete(file);
        }
    }

    /// <summary>Fills, and remembers meanwhile that it is not done.</summary>
    /// <param name="folder">Null where a server holds the shop: whoever made its database takes it away.</param>
    public static async Task DoAsync(string? folder, Func<Task> fill)
    {
        if (folder is null)
        {
            await fill();
            return;
        }

        var mark = Path.Combine(folder, Mark);
        await File.WriteAllTextAsync(mark, "");
        await fill();
        File.Delete(mark);
    }
}
