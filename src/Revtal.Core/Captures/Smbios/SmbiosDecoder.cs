using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Smbios;

/// <summary>
/// Firmware tables to a reading (DMTF DSP0134 3.x; older tables down to 2.1 are read as far as they go).
/// </summary>
public static class SmbiosDecoder
{
    // More than any board has; a table that lists more is not one.
    private const int MostSlots = 1024;
    private const byte SystemMemory = 3;

    /// <summary>Decodes a structure table that stands alone or came with its entry point.</summary>
    /// <param name="table">The bytes of the kernel's file <c>DMI</c>, or the table part of a dump.</param>
    /// <param name="entry">The entry point, if there was one; it proves that the table is whole.</param>
    /// <exception cref="RefusedException">The table is cut off, damaged, or holds no structure at all.</exception>
    public static Reading Decode(ReadOnlySpan<byte> table, EntryPoint? entry = null)
    {
        if (entry is { Is64Bit: false } e && table.Length < e.TableLength)
        {
            throw StructureTable.Damaged(
                $"the entry point promises {e.TableLength} bytes and the table holds {table.Length}"
            );
        }

        if (entry is { } bounds && bounds.TableLength > 0 && table.Length > bounds.TableLength)
        {
            table = table[..bounds.TableLength];
        }

        var system = SystemIdentity.Unknown;
        var firmware = FirmwareIdentity.Unknown;
        BoardIdentity? board = null;
        var arrays = new Arrays();
        var slots = new List<(ushort Array, ushort Handle, SlotReading Slot)>(8);
        List<(ushort Device, ulong Bytes)>? deviceMaps = null;
        bool? is64Bit = null;
        ulong mapped = 0;
        var seen = 0;

        for (var structures = new StructureTable(table); structures.MoveNext(); seen++)
        {
            var s = structures.Current;
            switch (s.Type)
            {
                case 0:
                    firmware = new FirmwareIdentity(s.Text(4), s.Text(5));
                    break;
                case 1:
                    system = new SystemIdentity(s.Text(4), s.Text(5), s.Text(7));
                    break;
                case 2:
                    // Further boards are risers and the like: the first is the main one.
                    board ??= new BoardIdentity(s.Text(4), s.Text(5), s.Text(7));
                    break;
                case 4:
                    // 7.5.9: bit 2 of the characteristics. An older table does not tell.
                    is64Bit ??= Is64Bit(s.Word(0x26));
                    break;
                case 16:
                    arrays.Add(s);
                    break;
                case 17 when slots.Count == MostSlots:
                    throw StructureTable.Damaged($"it lists more than {MostSlots} memory slots");
                case 17:
                    slots.Add((s.Word(4) ?? 0, s.Handle, Slot(s)));
                    break;
                case 19:
                    mapped = unchecked(mapped + MappedBytes(s, 0x0F));
                    break;
                case 20 when (deviceMaps?.Count ?? 0) < MostSlots:
                    (deviceMaps ??= []).Add((s.Word(0x0C) ?? 0, MappedBytes(s, 0x13)));
                    break;
                default:
                    break;
            }
        }

        if (seen == 0)
        {
            throw StructureTable.Damaged("it holds no structure");
        }

        var ofSystem = slots
            .Where(slot => arrays.IsSystemMemory(slot.Array))
            .Select(slot =>
                deviceMaps is null ? slot.Slot : slot.Slot with { MappedBytes = MappedOf(deviceMaps, slot.Handle) }
            )
            .ToArray();
        return new Reading(
            [Source.FirmwareTables],
            system,
            firmware,
            new MemoryReading(
                Installed(ofSystem, mapped),
                null,
                arrays.MaxCapacity,
                arrays.SlotCount ?? (ofSystem.Length > 0 ? ofSystem.Length : null),
                ofSystem,
                MappedBytes: Mapped(mapped)
            ),
            board,
            Host: is64Bit is false ? new HostReading(Is64Bit: false) : null
        );
    }

    // Interleaved modules share one range, which then stands whole at each: more than a module holds is no more than it
    // holds.
    // DSP0134 7.5.9: bit 1 says that the firmware does not know, bit 2 that the processor can.
    private static bool? Is64Bit(ushort? characteristics) =>
        characteristics switch
        {
            null or 0 => null,
            { } can when (can & 4) != 0 => true,
            { } unknown when (unknown & 2) != 0 => null,
            _ => false,
        };

    private static long? MappedOf(List<(ushort Device, ulong Bytes)> maps, ushort handle)
    {
        ulong sum = 0;
        var any = false;
        foreach (var (device, bytes) in maps)
        {
            if (device == handle)
            {
                any = true;
                sum = unchecked(sum + bytes);
            }
        }

        return any && sum <= long.MaxValue ? (long)sum : null;
    }

    // One slot of unknown size makes the sum unknown; the mapped ranges may still tell.
    private static long? Installed(SlotReading[] slots, ulong mapped)
    {
        long sum = 0;
        foreach (var slot in slots)
        {
            if (slot.SizeBytes is not { } size)
            {
                return Mapped(mapped);
            }

            sum += size;
        }

        return slots.Length > 0 ? sum : Mapped(mapped);
    }

    private static long? Mapped(ulong bytes) => bytes is > 0 and <= long.MaxValue ? (long)bytes : null;

    // DSP0134 7.18.
    private static SlotReading Slot(Structure s) =>
        new(
            Locator: s.Text(0x10),
            Bank: s.Text(0x11),
            SizeBytes: Size(s),
            FormFactor: SmbiosNames.FormFactor(s.Byte(0x0E)),
            Type: SmbiosNames.Type(s.Byte(0x12)),
            RatedSpeed: Speed(s, 0x15, 0x54),
            RunningSpeed: Speed(s, 0x20, 0x58),
            Manufacturer: s.Text(0x17),
            Serial: s.Text(0x18),
            PartNumber: s.Text(0x1A),
            TotalWidth: Width(s.Word(0x08)),
            DataWidth: Width(s.Word(0x0A))
        );

    // 7.18: 0 is an empty socket, 0xFFFF unknown, 0x7FFF "see extended size"; bit 15 set means KB instead of MB.
    private static long? Size(Structure s) =>
        s.Word(0x0C) switch
        {
            null or 0xFFFF => null,
            0x7FFF when s.DWord(0x1C) is { } extended => MemorySize.Megabytes(extended & 0x7FFF_FFFF).Bytes,
            >= 0x8000 and var kilobytes => MemorySize.Kilobytes(kilobytes & 0x7FFF).Bytes,
            var megabytes => MemorySize.Megabytes(megabytes.Value).Bytes,
        };

    // 7.18.4: 0 is unknown; 0xFFFF sends to the extended field, whose bit 31 is reserved.
    private static int? Speed(Structure s, int at, int extendedAt) =>
        s.Word(at) switch
        {
            null or 0 => null,
            0xFFFF => s.DWord(extendedAt) is { } extended && (extended & 0x7FFF_FFFF) is > 0 and var speed
                ? (int)speed
                : null,
            var speed => speed.Value,
        };

    private static int? Width(ushort? bits) => bits is null or 0 or 0xFFFF ? null : bits;

    // DSP0134 7.20 and 7.21: both ends in KB and inclusive; all ones send to the extended addresses in bytes.
    private static ulong MappedBytes(Structure s, int extendedAt) =>
        (s.DWord(0x04), s.DWord(0x08)) switch
        {
            (0xFFFF_FFFF, _) => (s.QWord(extendedAt), s.QWord(extendedAt + 8)) is ({ } from, { } to) && to >= from
                ? unchecked(to - from + 1)
                : 0,
            ({ } from, { } to) when to >= from => ((ulong)(to - from) + 1) << 10,
            _ => 0,
        };

    /// <summary>The memory arrays (DSP0134 7.17): which hold system memory, how much and how many slots.</summary>
    private struct Arrays
    {
        private List<ushort>? system;
        private List<ushort>? other;

        public long? MaxCapacity { get; private set; }

        public int? SlotCount { get; private set; }

        public void Add(Structure s)
        {
            if (s.Byte(5) is { } use && use != SystemMemory)
            {
                (other ??= []).Add(s.Handle);
                return;
            }

            (system ??= []).Add(s.Handle);
            SlotCount = (SlotCount ?? 0) + (s.Word(0x0D) ?? 0);
            if (
                Capacity(s) is { } capacity and <= long.MaxValue
                && (MaxCapacity ?? 0) <= long.MaxValue - (long)capacity
            )
            {
                MaxCapacity = (MaxCapacity ?? 0) + (long)capacity;
            }
        }

        // A slot that names no known array belongs to the system: leaving it out would hide a module.
        public readonly bool IsSystemMemory(ushort array) =>
            other is null || !other.Contains(array) || system?.Contains(array) == true;

        // 7.17: in KB; 0x80000000 sends to the extended field, in bytes.
        private static ulong? Capacity(Structure s) =>
            s.DWord(0x07) switch
            {
                null or 0 => null,
                0x8000_0000 => s.QWord(0x0F),
                var kilobytes => (ulong)kilobytes.Value << 10,
            };
    }
}
