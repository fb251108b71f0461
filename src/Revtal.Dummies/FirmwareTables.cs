using System.Buffers.Binary;
using System.Text;

namespace Revtal.Dummies;

/// <summary>One slot of a simulated board.</summary>
/// <param name="Megabytes">0 when empty.</param>
public sealed record DummySlot(
    string Locator,
    string Bank,
    long Megabytes,
    int RatedSpeed = 0,
    int RunningSpeed = 0,
    string Maker = "",
    string Serial = "",
    string PartNumber = "",
    byte Type = 0x1A,
    byte Form = 0x0D
);

/// <summary>What a simulated machine says of itself.</summary>
public sealed record DummyBoard(
    string Maker,
    string Product,
    string Serial,
    string FirmwareVersion,
    long MaxMegabytes,
    IReadOnlyList<DummySlot> Slots
);

/// <summary>
/// Writes the firmware tables of a simulated machine from DMTF DSP0134 3.4, sections 7.1, 7.2, 7.17, 7.18 and 7.20.
/// It shares no code with the decoder, so that each can prove the other.
/// </summary>
public static class FirmwareTables
{
    private const ushort ArrayHandle = 0x1000,
        FirstSlotHandle = 0x1100,
        MappedHandle = 0x1300;

    /// <summary>The structure table, as the kernel's file <c>DMI</c> holds it.</summary>
    public static byte[] Table(DummyBoard board)
    {
        using var table = new MemoryStream();
        Bios(table, board);
        SystemInformation(table, board);
        Array(table, board);
        for (var i = 0; i < board.Slots.Count; i++)
        {
            Device(table, (ushort)(FirstSlotHandle + i), board.Slots[i]);
        }

        Mapped(table, board.Slots.Sum(s => s.Megabytes));
        Put(table, [127, 4, 0xFF, 0xFE], []);
        return table.ToArray();
    }

    /// <summary>A 64-bit entry point for the table (section 5.2.2).</summary>
    public static byte[] EntryPoint64(int tableLength, ulong address = 0x20)
    {
        var e = new byte[24];
        "_SM3_"u8.CopyTo(e);
        e[6] = 24;
        e[7] = 3;
        e[8] = 4;
        e[10] = 1;
        BinaryPrimitives.WriteUInt32LittleEndian(e.AsSpan(12), (uint)tableLength);
        BinaryPrimitives.WriteUInt64LittleEndian(e.AsSpan(16), address);
        e[5] = Complement(e);
        return e;
    }

    /// <summary>Entry point and table in one file, the table at offset 32.</summary>
    public static byte[] Dump(DummyBoard board)
    {
        var table = Table(board);
        var dump = new byte[32 + table.Length];
        EntryPoint64(table.Length).CopyTo(dump, 0);
        table.CopyTo(dump, 32);
        return dump;
    }

    private static void Bios(MemoryStream to, DummyBoard board)
    {
        var s = new byte[0x18];
        Head(s, 0, 0x0000);
        s[4] = 1;
        s[5] = 2;
        s[8] = 3;
        Put(to, s, [$"{board.Maker} firmware", board.FirmwareVersion, "05/12/2023"]);
    }

    private static void SystemInformation(MemoryStream to, DummyBoard board)
    {
        var s = new byte[0x1B];
        Head(s, 1, 0x0100);
        s[4] = 1;
        s[5] = 2;
        s[7] = 3;
        s[0x18] = 6;
        Put(to, s, [board.Maker, board.Product, board.Serial]);
    }

    private static void Array(MemoryStream to, DummyBoard board)
    {
        var s = new byte[0x17];
        Head(s, 16, ArrayHandle);
        s[4] = 3;
        s[5] = 3;
        s[6] = 3;
        var kilobytes = board.MaxMegabytes * 1024;
        BinaryPrimitives.WriteUInt32LittleEndian(s.AsSpan(7), kilobytes < 0x8000_0000 ? (uint)kilobytes : 0x8000_0000);
        BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(0x0B), 0xFFFE);
        BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(0x0D), (ushort)board.Slots.Count);
        BinaryPrimitives.WriteUInt64LittleEndian(
            s.AsSpan(0x0F),
            kilobytes < 0x8000_0000 ? 0 : (ulong)board.MaxMegabytes << 20
        );
        Put(to, s, []);
    }

    private static void Device(MemoryStream to, ushort handle, DummySlot slot)
    {
        var s = new byte[0x28];
        Head(s, 17, handle);
        BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(4), ArrayHandle);
        BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(6), 0xFFFE);
        var texts = new List<string>();
        byte Text(string text)
        {
            if (text.Length == 0)
            {
                return 0;
            }

            texts.Add(text);
            return (byte)texts.Count;
        }

        s[0x10] = Text(slot.Locator);
        s[0x11] = Text(slot.Bank);
        if (slot.Megabytes > 0)
        {
            BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(8), 64);
            BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(10), 64);
            var large = slot.Megabytes >= 0x7FFF;
            BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(12), large ? (ushort)0x7FFF : (ushort)slot.Megabytes);
            BinaryPrimitives.WriteUInt32LittleEndian(s.AsSpan(0x1C), large ? (uint)slot.Megabytes : 0);
            s[0x0E] = slot.Form;
            s[0x12] = slot.Type;
            BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(0x15), (ushort)slot.RatedSpeed);
            BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(0x20), (ushort)slot.RunningSpeed);
            s[0x17] = Text(slot.Maker);
            s[0x18] = Text(slot.Serial);
            s[0x1A] = Text(slot.PartNumber);
        }
        else
        {
            s[0x0E] = slot.Form;
            s[0x12] = 2;
        }

        Put(to, s, texts);
    }

    private static void Mapped(MemoryStream to, long megabytes)
    {
        if (megabytes == 0)
        {
            return;
        }

        var s = new byte[0x1F];
        Head(s, 19, MappedHandle);
        BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(0x0C), ArrayHandle);
        var kilobytes = megabytes * 1024;
        if (kilobytes <= 0xFFFF_FFFF)
        {
            BinaryPrimitives.WriteUInt32LittleEndian(s.AsSpan(8), (uint)(kilobytes - 1));
        }
        else
        {
            BinaryPrimitives.WriteUInt32LittleEndian(s.AsSpan(4), 0xFFFF_FFFF);
            BinaryPrimitives.WriteUInt32LittleEndian(s.AsSpan(8), 0xFFFF_FFFF);
            BinaryPrimitives.WriteUInt64LittleEndian(s.AsSpan(0x17), ((ulong)megabytes << 20) - 1);
        }

        s[0x0E] = 1;
        Put(to, s, []);
    }

    private static void Head(byte[] s, byte type, ushort handle)
    {
        s[0] = type;
        s[1] = (byte)s.Length;
        BinaryPrimitives.WriteUInt16LittleEndian(s.AsSpan(2), handle);
    }

    private static void Put(MemoryStream to, byte[] formatted, IReadOnlyList<string> texts)
    {
        to.Write(formatted);
        foreach (var text in texts)
        {
            to.Write(Encoding.ASCII.GetBytes(text));
            to.WriteByte(0);
        }

        to.WriteByte(0);
        if (texts.Count == 0)
        {
            to.WriteByte(0);
        }
    }

    private static byte Complement(byte[] bytes) => (byte)(0x100 - bytes.Sum(b => b) % 0x100);
}
