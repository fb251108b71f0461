using System.Xml.Linq;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Dependencies point one way, and the heart has none.</summary>
public sealed class ArchitectureTests
{
    private static readonly Dictionary<string, string[]> Allowed = new()
    {
        ["Core"] = [],
        ["Storage"] = ["Core"],
        ["Documents"] = ["Core"],
        ["Dummies"] = ["Core"],
        ["Contracts"] = ["Core"],
        ["Client"] = ["Contracts"],
        ["CommandLine"] = ["Client", "Documents"],
        ["Service"] = ["Contracts", "Storage", "Documents", "Dummies"],
    };

    public static TheoryData<string> Projects => [.. Allowed.Keys];

    [Theory]
    [MemberData(nameof(Projects))]
    public void Each_project_uses_only_what_it_may(string name) =>
        Assert.Empty(
            References(name, "ProjectReference")
                .Select(p =>
                    Path.GetFileNameWithoutExtension(p.Replace('\\', '/'))
                        .Replace("Revtal.", "", StringComparison.Ordinal)
                )
                .Except(Allowed[name])
        );

    [Fact]
    public void No_project_stands_outside_the_rule() =>
        Assert.Equal(
            Allowed.Keys.Order(),
            Directory
                .GetDirectories(Repository.At("src"))
                .Select(d => Path.GetFileName(d).Replace("Revtal.", "", StringComparison.Ordinal))
                .Order()
        );

    [Fact]
    public void The_heart_uses_the_base_library_alone()
    {
        Assert.Empty(References("Core", "PackageReference"));
        var used = typeof(Revtal.Core.RefusedException)
            .Assembly.GetReferencedAssemblies()
            .Select(a => a.Name!)
            .ToArray();
        Assert.All(used, a => Assert.StartsWith("System.", a, StringComparison.Ordinal));
        Assert.DoesNotContain(used, a => a is "System.Net.Http" or "System.Console" or "System.Data.Common");
    }

    [Fact]
    public void The_heart_has_no_clock_and_no_files()
    {
        string[] forbidden =
        [
            "DateTimeOffset.UtcNow",
            "DateTime.Now",
            "DateTime.UtcNow",
            "TimeProvider",
            "File.",
            "Directory.",
            "Console.",
            "Environment.",
            "Random",
        ];
        var found = Directory
            .GetFiles(Repository.At("src", "Revtal.Core"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal))
            .SelectMany(f =>
                forbidden
                    .Where(w => File.ReadAllText(f).Contains($" {w}", StringComparison.Ordinal))
                    .Select(w => $"{Path.GetFileName(f)}: {w}")
            );
        Assert.Empty(found);
    }

    private static IEnumerable<string> References(string project, string kind) =>
        XDocument
            .Load(Repository.At("src", $"Revtal.{project}", $"Revtal.{project}.csproj"))
            .Descendants(kind)
            .Select(e => e.Attribute("Include")!.Value);
}
