using Revtal.Core;
using Revtal.Core.Hardware;

namespace Revtal.CommandLine.Commands;

/// <summary>
/// A module as one argument: <c>16GB,DDR4-3200,maker,part number,serial</c>; what is left out is unknown.
/// <c>part:NUMBER</c> and
/// <c>part:NUMBER:SERIAL</c> are one of the catalogue.
/// </summary>
internal static class ModuleText
{
    private const string Named = "part:";

    /// <exception cref="RefusedException">The size or the grade cannot be read.</exception>
    public static MemoryModule Read(string text) =>
        text.StartsWith(Named, StringComparison.Ordinal) ? OfCatalogue(text[Named.Length..]) : OfWords(text.Split(','));

    private static MemoryModule OfCatalogue(string text)
    {
        var named = text.Split(':', 2);
        return new MemoryModule(
            MemorySize.Zero,
            PartNumber: PartNumber.Of(named[0]),
            Serial: named.ElementAtOrDefault(1)
        );
    }

    private static MemoryModule OfWords(string[] parts)
    {
        var speed = At(1);
        var grade = MemoryGrade.TryParse(speed, out var known) ? known : null;
        if (speed?.Contains('-', StringComparison.Ordinal) == true && grade is null)
        {
            throw RefusedException.Invalid(
                "grade-unknown",
                $"“{speed}” is no grade that JEDEC names. Write it like DDR4-3200 or PC4-25600."
            );
        }

        return new MemoryModule(
            MemorySize.Parse(parts[0]),
            grade?.Generation ?? speed,
            null,
            grade?.Speed,
            At(2),
            PartNumber.Of(At(3)),
            At(4)
        );

        string? At(int i) => i < parts.Length && parts[i].Trim() is { Length: > 0 } found ? found : null;
    }
}
