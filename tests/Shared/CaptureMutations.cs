using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Dummies;

namespace Revtal.Tests;

/// <summary>
/// Real and simulated captures, damaged at random but repeatably: what a bad stick, a cut line or a hostile machine
/// would send.
/// </summary>
internal static class CaptureMutations
{
    /// <summary>
    /// The most that decoding one capture may allocate, in bytes, beside a small multiple of its size.
    /// </summary>
    public const long MostAllocated = 24 << 20;

    /// <summary>
    /// All files that are mutated: the real captures, and everything that dummies of all models answer.
    /// </summary>
    public static IReadOnlyList<CaptureFile> Seeds(IEnumerable<Guide> guides, params IEnumerable<CaptureFile> more)
    {
        var now = new DateTimeOffset(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);
        return
        [
            .. Repository.Capture("vm-before-4g"),
            .. Repository.Capture("vm-after-20g"),
            .. guides.SelectMany(g =>
                DummyReport
                    .All(g, DummyStart.Of(g, DummyMachine.Make(g, "seed", null, "SEED"), now.AddHours(-1)).Machine, now)
                    .ToFiles()
            ),
            .. more,
        ];
    }

    /// <summary>One capture of one to three damaged files.</summary>
    public static CaptureFile[] Next(Random random, IReadOnlyList<CaptureFile> seeds) =>
        [
            .. Enumerable
                .Range(0, random.Next(1, 4))
                .Select(_ => seeds[random.Next(seeds.Count)])
                .Select(f => new CaptureFile(f.Name, Damage(random, f.Content.ToArray()))),
        ];

    /// <summary>Decodes it; any reading or refusal is fine, anything else is a fault.</summary>
    /// <returns>What is wrong; null when nothing is.</returns>
    public static string? Fault(CaptureFile[] files)
    {
        var before = GC.GetAllocatedBytesForCurrentThread();
        try
        {
            CaptureDecoder.Decode(files);
        }
        catch (RefusedException e) when (e.Message.Length is > 0 and < 2000)
        {
            // A clear error is an answer.
        }
        catch (Exception e)
        {
            return $"{e.GetType().Name}: {e.Message}\n{e.StackTrace}";
        }

        var allocated = GC.GetAllocatedBytesForCurrentThread() - before;
        return allocated > MostAllocated + (40 * files.Sum(f => (long)f.Content.Length))
            ? $"allocated {allocated} bytes for {files.Sum(f => f.Content.Length)}"
            : null;
    }

    private static byte[] Damage(Random random, byte[] bytes)
    {
        for (var times = random.Next(1, 6); times > 0 && bytes.Length > 0; times--)
        {
            var at = random.Next(bytes.Length);
            var length = Math.Min(bytes.Length - at, 1 << random.Next(10));
            switch (random.Next(8))
            {
                case 0:
                    bytes[at] ^= (byte)(1 << random.Next(8));
                    break;
                case 1:
                    random.NextBytes(bytes.AsSpan(at, length));
                    break;
                case 2:
                    bytes = bytes[..at];
                    break;
                case 3:
                    bytes = [.. bytes[..at], .. bytes[(at + length)..]];
                    break;
                case 4:
                    bytes = [.. bytes[..at], .. bytes.AsSpan(at, length), .. bytes[at..]];
                    break;
                case 5:
                    bytes.AsSpan(at, length).Fill(random.Next(2) == 0 ? (byte)0xFF : (byte)0);
                    break;
                case 6:
                    // Numbers where text is read: the largest, and ones that overflow.
                    bytes =
                    [
                        .. bytes[..at],
                        .. random.Next(3) switch
                        {
                            0 => "9223372036854775807"u8,
                            1 => "-1"u8,
                            _ => "1e309"u8,
                        },
                        .. bytes[at..],
                    ];
                    break;
                default:
                    bytes = [.. bytes, .. bytes.AsSpan(at, length)];
                    break;
            }
        }

        return bytes;
    }
}
