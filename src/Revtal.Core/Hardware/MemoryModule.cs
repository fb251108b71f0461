namespace Revtal.Core.Hardware;

/// <summary>
/// One memory module as far as it is known. Everything but the size may be unknown (null), and unknown is never taken
/// to differ.
/// </summary>
/// <param name="Size">What it holds; more than zero.</param>
/// <param name="Generation">JEDEC name: <c>DDR3</c>, <c>DDR3L</c>, <c>DDR4</c>, <c>DDR5</c>, <c>LPDDR4</c> ….</param>
/// <param name="Form">JEDEC name: <c>DIMM</c>, <c>SO-DIMM</c>.</param>
/// <param name="RatedSpeed">In MT/s.</param>
/// <param name="Ranks">1 to 8.</param>
/// <param name="Ecc">Whether it carries bits for error correction (72 of 64, or 80 of 64 bits).</param>
/// <param name="Registered">Whether a register or buffer sits before its chips (RDIMM, LRDIMM).</param>
/// <param name="Voltage">The lowest it runs at, in volts.</param>
public sealed record MemoryModule(
    MemorySize Size,
    string? Generation = null,
    string? Form = null,
    int? RatedSpeed = null,
    string? Maker = null,
    PartNumber? PartNumber = null,
    string? Serial = null,
    int? Ranks = null,
    bool? Ecc = null,
    bool? Registered = null,
    decimal? Voltage = null
)
{
    /// <summary>True when the two names mean the same trade term: <c>SODIMM</c> is <c>SO-DIMM</c>.</summary>
    public static bool SameTerm(string? a, string? b) =>
        string.Equals(Bare(a), Bare(b), StringComparison.OrdinalIgnoreCase);

    /// <summary>“16 GB DDR4-3200 Ostrava OS4S-16G32”, leaving out what is unknown.</summary>
    public override string ToString()
    {
        var speed = RatedSpeed is { } s ? $"{Generation ?? "rated"}-{s}" : Generation;
        return string.Join(' ', new[] { Size.ToString(), speed, Maker, PartNumber?.ToString() }.OfType<string>());
    }

    /// <summary>The same make: alike in all but the serial.</summary>
    public bool IsLike(MemoryModule other) => this with { Serial = null } == other with { Serial = null };

    private static string? Bare(string? term) => term?.Replace("-", "", StringComparison.Ordinal).Trim();
}
