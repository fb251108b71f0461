using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Spd;

/// <summary>What a module's own EEPROM says (JEDEC serial presence detect). What it leaves open is null.</summary>
/// <param name="Type"><c>DDR3</c>, <c>DDR3L</c>, <c>DDR4</c>, <c>DDR5</c>.</param>
/// <param name="Form">In the trade's words: <c>SO-DIMM</c>, <c>UDIMM</c>, <c>RDIMM</c>, <c>LRDIMM</c> …; null for one
/// that the standard names later.</param>
/// <param name="SizeBytes">From the geometry, in bytes, without the bits for error correction.</param>
/// <param name="Ranks">Package ranks, 1 to 8.</param>
/// <param name="DeviceWidth">Of one chip, in bits.</param>
/// <param name="BusWidth">Of the data, in bits, without those for error correction.</param>
/// <param name="SpeedMTs">The fastest grade that its cycle time allows, in MT/s.</param>
/// <param name="Voltage">The lowest it runs at, in volts.</param>
/// <param name="Made">Year and week as <c>2023-W07</c>.</param>
/// <param name="MakerBank">JEP106 bank, from 1; null where none is written.</param>
/// <param name="MakerCode">JEP106 code within the bank, without parity. The shop names its own makers.</param>
/// <param name="CrcValid">Whether every checksum that it carries is right.</param>
public sealed record SpdModule(
    string Type,
    string? Form,
    long? SizeBytes,
    int? Ranks,
    int? DeviceWidth,
    int? BusWidth,
    bool Ecc,
    bool Registered,
    int? SpeedMTs,
    decimal? Voltage,
    string? PartNumber,
    string? Serial,
    string? Made,
    int? MakerBank,
    int? MakerCode,
    bool CrcValid
)
{
    /// <summary>As the bench speaks of modules; null where its size cannot be told.</summary>
    public MemoryModule? Module() =>
        SizeBytes is > 0 and { } size
            ? new MemoryModule(
                new MemorySize(size),
                Type,
                Form,
                SpeedMTs,
                null,
                Hardware.PartNumber.Of(PartNumber),
                Serial,
                Ranks,
                Ecc,
                Registered,
                Voltage
            )
            : null;
}
