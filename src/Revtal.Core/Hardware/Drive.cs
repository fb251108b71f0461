namespace Revtal.Core.Hardware;

/// <summary>
/// One drive as far as it is known. Everything but the size may be unknown (null), and unknown is never taken to
/// differ.
/// </summary>
/// <param name="Size">What it holds; more than zero.</param>
/// <param name="Form">In the trade's words: <c>M.2 2280</c>, <c>2.5 in</c>, <c>3.5 in</c>.</param>
/// <param name="Key">Of an M.2 edge: <c>M</c>, <c>B</c>, <c>B+M</c>.</param>
/// <param name="Link">The fastest it speaks: <c>PCIe 4.0 x4</c>, <c>SATA 6 Gb/s</c>.</param>
/// <param name="Height">With its own heat spreader, in mm.</param>
/// <param name="SectorSize">That it shows to the system, in bytes: 512 or 4096.</param>
public sealed record Drive(
    DriveSize Size,
    string? Form = null,
    string? Key = null,
    string? Link = null,
    decimal? Height = null,
    int? SectorSize = null,
    string? Maker = null,
    PartNumber? PartNumber = null,
    string? Serial = null
)
{
    /// <summary>“1 TB M.2 2280 Basaltine BN-1T”, leaving out what is unknown.</summary>
    public override string ToString() =>
        string.Join(' ', new[] { Size.ToString(), Form, Maker, PartNumber?.ToString() }.OfType<string>());
}
