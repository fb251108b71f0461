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
        ["Demo"] = ["Service"],
    };

    // The heart's folders, each with those below it that it may use.
    private static readonly Dictionary<string, string[]> Heart = new()
    {
        ["Hardware"] = [],
        ["Captures"] = ["Hardware"],
        ["Guides"] = ["Hardware"],
        ["Planning"] = ["Hardware", "Captures", "Guides"],
        ["Bench"] = ["Hardware", "Guides", "Planning"],
        ["Parts"] = ["Hardware", "Planning", "Bench"],
        ["Checks"] = ["Hardware", "Captures", "Guides", "Planning"],
        ["Orders"] = ["Hardware", "Captures", "Guides", "Planning", "Bench", "Parts", "Checks"],
        ["Reports"] = ["Hardware", "Captures", "Guides", "Planning", "Bench", "Parts", "Checks", "Orders"],
    };

    private const int WidestLine = 120;

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

    public static TheoryData<string> Folders => [.. Heart.Keys];

    [Theory]
    [MemberData(nameof(Folders))]
    public void Each_folder_of_the_heart_uses_only_those_below_it(string folder)
    {
        var used = CodeFiles(Repository.At("src", "Revtal.Core", folder), ".cs")
            .SelectMany(f => Heart.Keys.Where(h => Uses(File.ReadAllText(f), h)))
            .Distinct();
        Assert.Empty(used.Except(Heart[folder]).Except([folder]));
    }

    [Fact]
    public void No_folder_of_the_heart_stands_outside_the_rule() =>
        Assert.Equal(
            Heart.Keys.Order(),
            Directory
                .GetDirectories(Repository.At("src", "Revtal.Core"))
                .Select(d => Path.GetFileName(d))
                .Except(["bin", "obj"])
                .Order()
        );

    [Fact]
    public void No_line_of_code_is_wider_than_120_columns()
    {
        string[] kinds = [".cs", ".ts", ".tsx", ".mjs", ".css"];
        var wide =
            from root in (string[])["src", "tests", "bench", "console"]
            from file in CodeFiles(Repository.At(root), kinds)
            from line in File.ReadLines(file).Select((text, i) => (text, i))
            where line.text.Length > WidestLine
            select $"{Path.GetFileName(file)}:{line.i + 1}";
        Assert.Empty(wide);
    }

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
        var found = CodeFiles(Repository.At("src", "Revtal.Core"), ".cs")
            .SelectMany(f =>
                forbidden
                    .Where(w => File.ReadAllText(f).Contains($" {w}", StringComparison.Ordinal))
                    .Select(w => $"{Path.GetFileName(f)}: {w}")
            );
        Assert.Empty(found);
    }

    // Instances and their server need not agree about the time: a statement is told what time it is.
    [Fact]
    public void No_statement_asks_the_store_s_own_clock()
    {
        string[] clocks =
        [
            "now()",
            "current_timestamp",
            "current_date",
            "current_time",
            "localtime",
            "clock_timestamp",
            "statement_timestamp",
            "transaction_timestamp",
            "unixepoch",
            "julianday",
            "strftime",
        ];
        var asked =
            from file in CodeFiles(Repository.At("src", "Revtal.Storage"), ".cs")
            from clock in clocks.Concat(clocks.Select(c => c.ToUpperInvariant()))
            where File.ReadAllText(file).Contains(clock, StringComparison.Ordinal)
            select $"{Path.GetFileName(file)}: {clock}";
        Assert.Empty(asked);
    }

    private static IEnumerable<string> References(string project, string kind) =>
        XDocument
            .Load(Repository.At("src", $"Revtal.{project}", $"Revtal.{project}.csproj"))
            .Descendants(kind)
            .Select(e => e.Attribute("Include")!.Value);

    // Written by people: what tools make and what packages bring is not looked at.
    private static IEnumerable<string> CodeFiles(string root, params string[] kinds)
    {
        string[] made = ["/obj/", "/bin/", "/node_modules/", "/dist/", "/Migrations/", "openapi.d.ts"];
        return Directory
            .EnumerateFiles(root, "*", SearchOption.AllDirectories)
            .Where(f => kinds.Contains(Path.GetExtension(f)))
            .Where(f => !made.Any(m => f.Contains(m, StringComparison.Ordinal)));
    }

    // By a using, or by a name that begins in the folder.
    private static bool Uses(string code, string folder) =>
        code.Contains($"using Revtal.Core.{folder}", StringComparison.Ordinal)
        || code.Contains($" {folder}.{folder[..1]}", StringComparison.Ordinal);
}
