using System.Globalization;
using System.Text.RegularExpressions;

namespace Revtal.Core.Hardware;

/// <summary>How a drive is joined to its machine: <c>PCIe 4.0 x4</c>, <c>SATA 6 Gb/s</c>, <c>SAS 12 Gb/s</c>.</summary>
/// <param name="Kind"><c>PCIe</c>, <c>SATA</c> or <c>SAS</c>.</param>
/// <param name="Rate">PCIe: its generation, 1 to 6; otherwise Gb/s.</param>
/// <param name="Lanes">1 for all but PCIe.</param>
public sealed partial record DriveLink(string Kind, decimal Rate, int Lanes)
{
    // Of one lane and direction after line coding, in MB/s: PCI Express Base Specification, 8b/10b to 2.0, 128b/130b
    // from 3.0.
    private static readonly decimal[] PerLane = [0, 250, 500, 984.6m, 1969.2m, 3938.5m, 7563m];

    /// <summary>
    /// The most that it carries, in MB/s of 10^6 bytes. SATA and SAS to 12 Gb/s send ten bits for eight.
    /// </summary>
    public int MegabytesPerSecond => (int)Math.Round(Kind == "PCIe" ? PerLane[(int)Rate] * Lanes : Rate * 100);

    /// <summary>What a drive and a bay speak with each other; null when they have no link in common.</summary>
    public static DriveLink? Common(DriveLink drive, DriveLink bay) =>
        (drive.Kind, bay.Kind) switch
        {
            ("SATA", "SAS") => new DriveLink("SATA", Math.Min(drive.Rate, bay.Rate), 1),
            var (a, b) when a == b => new DriveLink(
                a,
                Math.Min(drive.Rate, bay.Rate),
                Math.Min(drive.Lanes, bay.Lanes)
            ),
            _ => null,
        };

    /// <summary>Reads “PCIe 3.0 x4” or “SATA 6 Gb/s”; false for what is neither.</summary>
    public static bool TryParse(string? text, out DriveLink link)
    {
        link = null!;
        if (text is null)
        {
            return false;
        }

        if (Express().Match(text) is { Success: true } e)
        {
            link = new DriveLink(
                "PCIe",
                e.Groups[1].Value[0] - '0',
                int.Parse(e.Groups[2].Value, CultureInfo.InvariantCulture)
            );
            return link.Rate is >= 1 and <= 6;
        }

        if (Serial().Match(text) is { Success: true } s)
        {
            link = new DriveLink(
                s.Groups[1].Value.ToUpperInvariant(),
                decimal.Parse(s.Groups[2].Value, CultureInfo.InvariantCulture),
                1
            );
            return true;
        }

        return false;
    }

    public override string ToString() =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{(Kind == "PCIe" ? $"PCIe {Rate:0}.0 x{Lanes}" : $"{Kind} {Rate:0.#} Gb/s")}"
        );

    [GeneratedRegex(
        @"^\s*PCIe\s*([1-6])(?:\.0)?\s*x\s*(1|2|4|8|16)\s*$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Express();

    [GeneratedRegex(
        @"^\s*(SATA|SAS)\s*(1\.5|3|6|12|22\.5)(?:\.0)?\s*Gb/s\s*$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Serial();
}
