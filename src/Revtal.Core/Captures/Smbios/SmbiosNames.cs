namespace Revtal.Core.Captures.Smbios;

/// <summary>The standard's names for coded values. "Unknown" and codes not yet given out are null.</summary>
internal static class SmbiosNames
{
    // DSP0134 7.18.1, form factor; index is the code.
    private static readonly string?[] FormFactors =
    [
        null,
        "Other",
        null,
        "SIMM",
        "SIP",
        "Chip",
        "DIP",
        "ZIP",
        "Proprietary card",
        "DIMM",
        "TSOP",
        "Row of chips",
        "RIMM",
        "SODIMM",
        "SRIMM",
        "FB-DIMM",
        "Die",
        "CAMM",
    ];

    // DSP0134 7.18.2, memory type; index is the code.
    private static readonly string?[] Types =
    [
        null,
        "Other",
        null,
        "DRAM",
        "EDRAM",
        "VRAM",
        "SRAM",
        "RAM",
        "ROM",
        "FLASH",
        "EEPROM",
        "FEPROM",
        "EPROM",
        "CDRAM",
        "3DRAM",
        "SDRAM",
        "SGRAM",
        "RDRAM",
        "DDR",
        "DDR2",
        "DDR2 FB-DIMM",
        null,
        null,
        null,
        "DDR3",
        "FBD2",
        "DDR4",
        "LPDDR",
        "LPDDR2",
        "LPDDR3",
        "LPDDR4",
        "Logical non-volatile device",
        "HBM",
        "HBM2",
        "DDR5",
        "LPDDR5",
        "HBM3",
    ];

    public static string? FormFactor(byte? code) => Name(FormFactors, code);

    public static string? Type(byte? code) => Name(Types, code);

    private static string? Name(string?[] names, byte? code) => code < names.Length ? names[code.Value] : null;
}
