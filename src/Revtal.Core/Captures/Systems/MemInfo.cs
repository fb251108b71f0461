using System.Buffers.Text;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Systems;

/// <summary>The Linux kernel's memory lines (proc_meminfo(5)): what the system may use, and what was in use.</summary>
public static class MemInfo
{
    /// <summary>Whether the bytes are such lines.</summary>
    public static bool IsAt(ReadOnlySpan<byte> bytes) =>
        bytes.StartsWith("MemTotal:"u8) || bytes.IndexOf("\nMemTotal:"u8) >= 0;

    /// <summary>Decodes the lines; the kernel's "kB" is 1024 bytes.</summary>
    /// <exception cref="RefusedException">There is no <c>MemTotal</c> line, or its number cannot be one.</exception>
    public static Reading Decode(ReadOnlySpan<byte> lines)
    {
        var usable = Kilobytes(lines, "MemTotal:"u8);
        if (usable is null or <= 0)
        {
            throw RefusedException.Invalid(
                "meminfo-unreadable",
                "The memory lines hold no “MemTotal: … kB”. Copy /proc/meminfo from the machine again."
            );
        }

        // Older kernels tell no MemAvailable; what is paged out was wanted too.
        var pagedOut = Kilobytes(lines, "SwapTotal:"u8) - Kilobytes(lines, "SwapFree:"u8);
        var inUse = usable - Kilobytes(lines, "MemAvailable:"u8) + (pagedOut ?? 0);
        return new Reading(
            [Source.OperatingSystem],
            SystemIdentity.Unknown,
            FirmwareIdentity.Unknown,
            new MemoryReading(
                null,
                MemorySize.Kilobytes(usable.Value).Bytes,
                null,
                null,
                [],
                inUse is > 0 and { } used ? MemorySize.Kilobytes(used).Bytes : null,
                pagedOut is >= 0 and { } moved ? MemorySize.Kilobytes(moved).Bytes : null
            )
        );
    }

    private static long? Kilobytes(ReadOnlySpan<byte> lines, ReadOnlySpan<byte> label)
    {
        for (var rest = lines; ; )
        {
            if (rest.StartsWith(label))
            {
                var number = rest[label.Length..].TrimStart((byte)' ');
                return
                    Utf8Parser.TryParse(number, out long kilobytes, out var used)
                    && kilobytes is >= 0 and <= 1L << 43
                    && number[used..].TrimStart((byte)' ').StartsWith("kB"u8)
                    ? kilobytes
                    : null;
            }

            var end = rest.IndexOf((byte)'\n');
            if (end < 0)
            {
                return null;
            }

            rest = rest[(end + 1)..];
        }
    }
}
