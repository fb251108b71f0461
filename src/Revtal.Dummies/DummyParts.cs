using Revtal.Core;
using Revtal.Core.Guides;

namespace Revtal.Dummies;

/// <summary>Parts as the invented makers sell them.</summary>
public static class DummyParts
{
    /// <summary>A module that the board's generation and form take.</summary>
    /// <param name="gigabytes">A size that is made of one or two ranks of the generation's chips.</param>
    /// <param name="speed">In MT/s; null for the board's top grade.</param>
    /// <exception cref="RefusedException">No such module is made.</exception>
    public static DummyFitted Module(Guide guide, int gigabytes, int? speed, string serial, string? part = null)
    {
        var generation =
            guide.Memory.Generation!.Contains('5') ? 5
            : guide.Memory.Generation.Contains('3') ? 3
            : 4;
        var (die, width, ranks) = (generation, gigabytes) switch
        {
            (3, 2) => (2, 8, 1),
            (3, 4) => (4, 8, 1),
            (3, 8) => (4, 8, 2),
            (4, 4) => (4, 8, 1),
            (4, 8) => (8, 8, 1),
            (4, 16) => (8, 8, 2),
            (4, 32) => (16, 8, 2),
            (4, 64) => (32, 8, 2),
            (5, 8) => (16, 16, 1),
            (5, 16) => (16, 8, 1),
            (5, 24) => (24, 8, 1),
            (5, 32) => (16, 8, 2),
            (5, 48) => (24, 8, 2),
            (5, 64) => (32, 8, 2),
            _ => throw RefusedException.Invalid(
                "no-such-module",
                $"No DDR{generation} module of {gigabytes} GB is made. Take 4, 8, 16, 32 or 64 GB; DDR5 also 24 and 48."
            ),
        };
        var outline = guide.Memory.Module == "DIMM" ? "U" : "S";
        var (maker, bank, code) =
            gigabytes >= 16 ? ("Ostrava", (byte)9, (byte)0x4E) : ("Tarnmoor", (byte)9, (byte)0x61);
        var name =
            part
            ?? (
                gigabytes >= 16
                    ? $"OS{generation}{outline}-{gigabytes}G"
                    : $"TM-{gigabytes}{outline}{Phrases.When(generation == 5, "5")}"
            );
        return new(
            new DummyModule(
                generation,
                die,
                width,
                ranks,
                guide.Memory.Ecc == "required",
                (byte)(outline == "U" ? 2 : 3),
                speed ?? (guide.Memory.Speeds is [.., var top] ? top : 3200),
                name,
                Number(serial),
                MakerBank: bank,
                MakerCode: code
            ),
            maker
        );
    }

    /// <summary>A drive for a bay.</summary>
    /// <param name="bytes">More than a start region.</param>
    public static DummyDrive Drive(DriveBay bay, long bytes, string serial, bool initialised, long? used = null) =>
        new(
            $"{Series(bay.Form!)}-{Sold(bytes)}",
            serial,
            bytes,
            initialised ? used ?? bytes / 3 : 0,
            initialised ? bytes - (bytes / 200) : 0
        );

    // Stable between runs, unlike string.GetHashCode.
    private static uint Number(string text) =>
        text.Aggregate(2166136261u, (hash, c) => unchecked((hash ^ c) * 16777619u));

    private static string Sold(long bytes) =>
        bytes >= 1_000_000_000_000 ? $"{bytes / 1_000_000_000_000}T" : $"{bytes / 1_000_000_000}";

    // Basaltine's series by form: sticks, 2.5 inch, 3.5 inch.
    private static string Series(string form) =>
        form switch
        {
            _ when form.StartsWith("M.2", StringComparison.Ordinal) => "BN",
            _ when form.StartsWith("2.5", StringComparison.Ordinal) => "BS",
            _ => "BH",
        };
}
