using System.Buffers.Text;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Systems;

/// <summary>The Linux kernel's memory lines (proc_meminfo(5)): only <c>MemTotal</c>, what the system may use, is taken.</summary>
public static class MemInfo
{
    private static ReadOnlySpan<byte> Label => "MemTotal:"u8;

    /// <summary>Whether the bytes are such lines.</summary>
    public static bool IsAt(ReadOnlySpan<byte> bytes) => bytes.StartsWith(Label) || bytes.IndexOf("\nMemTotal:"u8) >= 0;

    /// <summary>Decodes the lines; the kernel's "kB" is 1024 bytes.</summary>
    /// <exception cref="RefusedException">There is no <c>MemTotal</c> line, or its number cannot be one.</exception>
    public static Reading Decode(ReadOnlySpan<byte> lines)
    {
        var at = lines.StartsWith(Label) ? 0 : lines.IndexOf("\nMemTotal:"u8) + 1;
        var rest = IsAt(lines) ? lines[(at + Label.Length)..] : default;
        rest = rest.TrimStart((byte)' ');
        if (!Utf8Parser.TryParse(rest, out long kilobytes, out var used) || kilobytes is <= 0 or > 1L << 43
            || !rest[used..].TrimStart((byte)' ').StartsWith("kB"u8))
        {
            throw RefusedException.Invalid("meminfo-unreadable", "The memory lines hold no “MemTotal: … kB”. Copy /proc/meminfo from the machine again.");
        }

        return new Reading(
            [Source.OperatingSystem],
            SystemIdentity.Unknown,
            FirmwareIdentity.Unknown,
            new MemoryReading(null, MemorySize.Kilobytes(kilobytes).Bytes, null, null, []));
    }
}
