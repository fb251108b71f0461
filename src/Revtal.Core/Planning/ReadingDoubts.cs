using System.Globalization;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>What in a reading cannot be of the machine that the guide describes: a question to a person.</summary>
public static class ReadingDoubts
{
    // What makers leave in a field that they never filled.
    private static readonly string[] Blanks =
    [
        "to be filled by o.e.m.",
        "default string",
        "system serial number",
        "system product name",
        "none",
        "not specified",
        "unknown",
        "n/a",
    ];

    // What firmware gives a module besides its true size: rounding of totals.
    private static readonly long Rounding = MemorySize.Megabytes(512).Bytes;

    /// <summary>One sentence each; none where all may be so.</summary>
    /// <param name="serial">The machine's, as it was written down at take-in; null where nobody did.</param>
    public static IReadOnlyList<string> Of(Guide guide, string? serial, Reading reading) =>
        [.. Identity(guide, serial, reading), .. Generation(guide, reading), .. Slots(guide, reading)];

    /// <summary>The same where nothing is known of the model.</summary>
    /// <inheritdoc cref="Of" path="/param"/>
    public static IReadOnlyList<string> OfSerial(string? serial, Reading reading) =>
        Told(reading.System.Serial) is { } read && SerialNumber.Same(read, serial) == false
            ? [$"It tells the serial {read}; {serial} was written down at take-in."]
            : [];

    /// <summary>A text that tells something; null for one that a maker left blank.</summary>
    public static string? Told(string? text) =>
        text?.Trim() is { Length: > 0 } told
        && !Blanks.Contains(told, StringComparer.OrdinalIgnoreCase)
        && SerialNumber.Plain(told) is not null
            ? told
            : null;

    private static IEnumerable<string> Identity(Guide guide, string? serial, Reading reading)
    {
        foreach (var other in OfSerial(serial, reading))
        {
            yield return other;
        }

        if (
            guide.Model.ReportsAs.Count > 0
            && Told(reading.System.Product) is { } product
            && !guide.Model.ReportsAs.Contains(product, StringComparer.OrdinalIgnoreCase)
        )
        {
            yield return $"It tells the product {product}; {guide.Model.Code} reports as "
                + $"{Phrases.Either(guide.Model.ReportsAs)}.";
        }
    }

    private static IEnumerable<string> Generation(Guide guide, Reading reading)
    {
        var wanted = Family(guide.Memory.Generation);
        var other = reading.Memory.Slots.FirstOrDefault(s =>
            s.SizeBytes is > 0 && Family(s.Type) is { } has && wanted is not null && has != wanted
        );
        if (other is not null)
        {
            yield return $"{other.Locator ?? "A slot"} tells {other.Type}; {guide.Model.Code} takes "
                + $"{guide.Memory.Generation}.";
        }
    }

    private static IEnumerable<string> Slots(Guide guide, Reading reading)
    {
        var listed = reading.Memory.Slots;
        var filled = listed.Count(s => s.SizeBytes is > 0);
        if (filled > guide.Memory.Slots.Count)
        {
            yield return string.Create(
                CultureInfo.InvariantCulture,
                $"{filled} slots are filled; {guide.Model.Code} has {guide.Memory.Slots.Count}."
            );
        }

        // Eyes may have looked at some of the slots alone: then the sum is the least that there is.
        var sum = listed.Sum(s => s.SizeBytes ?? 0);
        var isWhole = listed.Count >= guide.Memory.Slots.Count && listed.All(s => s.SizeBytes is not null);
        if (
            listed.Count > 0
            && reading.Memory.InstalledBytes is { } total
            && (sum - total > Rounding || (isWhole && total - sum > Rounding))
        )
        {
            yield return $"The slots hold {new MemorySize(sum)} together; the total is {new MemorySize(total)}.";
        }
    }

    // DDR3L sits in boards for DDR3; what is no generation tells nothing.
    private static string? Family(string? generation) =>
        generation?.Trim().ToUpperInvariant() is { } text
        && text.Contains("DDR", StringComparison.Ordinal)
        && text.Any(char.IsAsciiDigit)
            ? text.Replace("LP", "", StringComparison.Ordinal).TrimEnd('L', 'X', 'E')
            : null;
}
