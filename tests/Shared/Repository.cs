using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Documents;

namespace Revtal.Tests;

/// <summary>Files of the repository that tests read.</summary>
internal static class Repository
{
    public static string Root { get; } = Find(AppContext.BaseDirectory);

    public static string At(params string[] parts) => Path.Combine([Root, .. parts]);

    public static string CapturePath(string name) => At("tests", "data", "captures", name);

    public static IReadOnlyList<CaptureFile> Capture(string name) => CaptureFolder.Read(CapturePath(name));

    /// <summary>What a system's own reporting command printed.</summary>
    public static string Report(string name) => File.ReadAllText(At("tests", "data", "reports", name));

    public static Guide Guide(string code) =>
        GuideYaml.Read(File.ReadAllText(At("guides", $"{code}.yaml"))).Guide
        ?? throw new InvalidOperationException($"The guide {code} has problems.");

    /// <summary>The codes of the demo shop's models.</summary>
    public static IReadOnlyList<string> Models { get; } =
    [.. Directory.GetFiles(At("guides"), "*.yaml").Select(f => Path.GetFileNameWithoutExtension(f)!).Order()];

    private static string Find(string from) =>
        File.Exists(Path.Combine(from, "Revtal.slnx"))
            ? from
            : Find(Path.GetDirectoryName(from) ?? throw new InvalidOperationException("Not inside the repository."));
}
