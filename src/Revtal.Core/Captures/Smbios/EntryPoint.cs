using System.Buffers.Binary;

namespace Revtal.Core.Captures.Smbios;

/// <summary>Where the structure table lies and how long it is (DSP0134 section 5.2).</summary>
/// <param name="TableLength">In bytes: exact for a 32-bit entry point, the most it may be for a 64-bit one.</param>
/// <param name="TableAddress">Physical address; an offset into the file where a dump holds both.</param>
/// <param name="Is64Bit">Whether this is the 64-bit form (<c>_SM3_</c>).</param>
public readonly record struct EntryPoint(int Major, int Minor, int TableLength, ulong TableAddress, bool Is64Bit)
{
    /// <summary>Whether the bytes begin with the anchor of either form.</summary>
    public static bool IsAt(ReadOnlySpan<byte> bytes) => bytes.StartsWith("_SM_"u8) || bytes.StartsWith("_SM3_"u8);

    /// <summary>Reads either form and proves its checksums.</summary>
    /// <exception cref="RefusedException">The anchor is missing, the bytes end early, or a checksum is
    /// wrong.</exception>
    public static EntryPoint Read(ReadOnlySpan<byte> bytes) =>
        bytes.StartsWith("_SM3_"u8) ? Read64(bytes)
        : bytes.StartsWith("_SM_"u8) ? Read32(bytes)
        : throw Damaged("it does not begin with _SM_ or _SM3_");

    // DSP0134 table 1. Version 2.1 stated the length as 0x1E by mistake: section 5.2.1 asks readers to accept it.
    private static EntryPoint Read32(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < 0x1F)
        {
            throw Damaged($"it holds {bytes.Length} of 31 bytes");
        }

        int length = bytes[5] == 0x1E ? 0x1F : bytes[5];
        if (length < 0x1F || length > bytes.Length || Sum(bytes[..length]) != 0)
        {
            throw Damaged("its checksum is wrong");
        }

        if (!bytes[0x10..].StartsWith("_DMI_"u8) || Sum(bytes[0x10..0x1F]) != 0)
        {
            throw Damaged("the checksum of its second half is wrong");
        }

        return new EntryPoint(
            bytes[6],
            bytes[7],
            BinaryPrimitives.ReadUInt16LittleEndian(bytes[0x16..]),
            BinaryPrimitives.ReadUInt32LittleEndian(bytes[0x18..]),
            false
        );
    }

    // DSP0134 table 2.
    private static EntryPoint Read64(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < 0x18)
        {
            throw Damaged($"it holds {bytes.Length} of 24 bytes");
        }

        int length = bytes[6];
        if (length < 0x18 || length > bytes.Length || Sum(bytes[..length]) != 0)
        {
            throw Damaged("its checksum is wrong");
        }

        var tableLength = BinaryPrimitives.ReadUInt32LittleEndian(bytes[0x0C..]);
        return new EntryPoint(
            bytes[7],
            bytes[8],
            (int)Math.Min(tableLength, int.MaxValue),
            BinaryPrimitives.ReadUInt64LittleEndian(bytes[0x10..]),
            true
        );
    }

    private static byte Sum(ReadOnlySpan<byte> bytes)
    {
        byte sum = 0;
        foreach (var b in bytes)
        {
            sum += b;
        }

        return sum;
    }

    private static RefusedException Damaged(string why) =>
        RefusedException.Invalid(
            "entry-point-damaged",
            $"The firmware's entry point cannot be read: {why}. Copy smbios_entry_point from the machine again."
        );
}
