using System.Globalization;
using System.Text.RegularExpressions;

namespace Revtal.Core.Hardware;

/// <summary>
/// A speed grade of a memory generation, under all of its names: <c>DDR4-3200</c>, <c>PC4-25600</c>, 25.6 GB/s. The
/// grades are those of
/// JESD79-3 (DDR3), JESD79-4 (DDR4) and JESD79-5 (DDR5); a module's name gives its bandwidth over 64 bits in MB/s,
/// rounded the standards' way.
/// </summary>
/// <param name="Generation"><c>DDR3</c>, <c>DDR3L</c>, <c>DDR4</c> or <c>DDR5</c>.</param>
/// <param name="Speed">In MT/s.</param>
public sealed partial record MemoryGrade(string Generation, int Speed)
{
    // Where the rounded name is not eight times the speed.
    private static readonly Dictionary<(char Generation, int Speed), int> Rounded = new()
    {
        [('3', 1066)] = 8500,
        [('3', 1333)] = 10600,
        [('3', 1866)] = 14900,
        [('3', 2133)] = 17000,
        [('4', 1866)] = 14900,
        [('4', 2133)] = 17000,
        [('4', 2666)] = 21300,
        [('4', 2933)] = 23400,
    };

    /// <summary>The grades that the standards name, in MT/s, ascending, by the generation's digit.</summary>
    public static IReadOnlyDictionary<char, IReadOnlyList<int>> Standard { get; } =
        new Dictionary<char, IReadOnlyList<int>>
        {
            ['3'] = [800, 1066, 1333, 1600, 1866, 2133],
            ['4'] = [1600, 1866, 2133, 2400, 2666, 2933, 3200],
            ['5'] = [.. Enumerable.Range(0, 15).Select(i => 3200 + (i * 400))],
        };

    private char Digit => Generation[3];

    /// <summary>The module's name: <c>PC4-25600</c>, <c>PC3L-12800</c>.</summary>
    public string ModuleName =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"PC{Generation[3..].ToUpperInvariant()}"
                + $"-{(Rounded.TryGetValue((Digit, Speed), out var name) ? name : Speed * 8)}"
        );

    /// <summary>What 64 bits carry, in GB/s of 10^9 bytes.</summary>
    public decimal Bandwidth => Speed * 8 / 1000m;

    /// <summary>
    /// Reads <c>DDR4-3200</c>, <c>PC4-25600</c>, and labels like <c>PC4-3200AA-SA2-11</c> or <c>PC3L-12800S</c>,
    /// whose number is a speed or a bandwidth. Only grades that the standards name are found.
    /// </summary>
    public static bool TryParse(string? text, out MemoryGrade grade)
    {
        grade = null!;
        if (text is null || Shape().Match(text.Trim()) is not { Success: true } match)
        {
            return false;
        }

        var generation = $"DDR{match.Groups["generation"].Value}{Phrases.When(match.Groups["low"].Length > 0, "L")}";
        var number = int.Parse(match.Groups["number"].Value, CultureInfo.InvariantCulture);
        var known = Standard[generation[3]];
        var named = match.Groups["pc"].Success
            ? known.FirstOrDefault(s =>
                new MemoryGrade(generation, s).ModuleName.EndsWith($"-{number}", StringComparison.Ordinal)
            )
            : 0;
        var speed =
            named > 0 ? named
            : known.Contains(number) ? number
            : 0;
        grade = new MemoryGrade(generation, speed);
        return speed > 0;
    }

    /// <summary>“DDR4-3200”.</summary>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Generation}-{Speed}");

    [GeneratedRegex(
        "^(?:(?<pc>PC)|DDR)(?<generation>[345])(?<low>L?)-(?<number>[0-9]{3,6})",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Shape();
}
