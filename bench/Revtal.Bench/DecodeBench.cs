using System.Diagnostics;
using Revtal.Core.Captures;
using Revtal.Core.Captures.Smbios;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>Decoding the sample tables.</summary>
internal static class DecodeBench
{
    private const int Rounds = 20_000;

    public static void Run(Report report)
    {
        foreach (var name in new[] { "vm-before-4g", "vm-after-20g" })
        {
            var files = Repository.Capture(name);
            var entry = EntryPoint.Read(Bytes(files, "smbios_entry_point").Span);
            var table = Bytes(files, "DMI");
            for (var i = 0; i < Rounds; i++)
            {
                SmbiosDecoder.Decode(table.Span, entry);
            }

            var before = GC.GetAllocatedBytesForCurrentThread();
            var watch = Stopwatch.StartNew();
            for (var i = 0; i < Rounds; i++)
            {
                SmbiosDecoder.Decode(table.Span, entry);
            }

            var micros = watch.Elapsed.TotalMicroseconds / Rounds;
            var allocated = (GC.GetAllocatedBytesForCurrentThread() - before) / Rounds;
            report.Tell($"decode {name}", $"{micros:0.00} µs, {allocated} bytes allocated", "under 20 µs", micros < 20);
        }

        // Padding adds nothing to the result, and so must add nothing to what is allocated.
        var plain = Bytes(Repository.Capture("vm-after-20g"), "DMI").ToArray();
        var padded = (byte[])[.. plain, .. new byte[1 << 20]];
        var difference = Allocated(padded) - Allocated(plain);
        report.Tell("decode: allocation for 1 MB behind the table", $"{difference} bytes", "0", difference == 0);
    }

    private static long Allocated(byte[] table)
    {
        SmbiosDecoder.Decode(table);
        var before = GC.GetAllocatedBytesForCurrentThread();
        SmbiosDecoder.Decode(table);
        return GC.GetAllocatedBytesForCurrentThread() - before;
    }

    private static ReadOnlyMemory<byte> Bytes(IEnumerable<CaptureFile> files, string name) =>
        files.Single(f => f.Name == name).Content;
}
