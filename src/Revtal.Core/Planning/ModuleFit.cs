using System.Numerics;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>One module in one slot. What is unknown of the module is not held against it.</summary>
internal static class ModuleFit
{
    private const long Largest = 1L << 40;
    private const string Guide = "guide",
        Voltages = "JESD79-3, JESD79-3-1 (supply voltage)";

    public static IEnumerable<FitNote> Of(Platform platform, MemorySlot slot, MemoryModule module)
    {
        var memory = platform.Guide.Memory;
        if (slot.Soldered)
        {
            yield return No(
                "slot-soldered",
                $"{slot.Id} of {platform.Guide.Model.Code} is soldered: its memory cannot be changed.",
                "soldered",
                $"{module.Size}"
            );
            yield break;
        }

        if (module.Size == MemorySize.Zero)
        {
            yield return No(
                "size-missing",
                $"The module for {slot.Id} has no size. Write one, like “16 GB”.",
                "a size",
                "none"
            );
            yield break;
        }

        if (WhyImpossible(module.Size) is { } impossible)
        {
            yield return No("size-impossible", impossible, "2^n or 3·2^n", $"{module.Size}");
        }

        // A virtual or old machine reports "RAM": no generation to compare.
        if (
            Platform.IsDdr(module.Generation)
            && platform.Generation is { } takes
            && !SameGeneration(module.Generation, takes)
        )
        {
            yield return No(
                "wrong-generation",
                $"{slot.Id} takes {takes}; this module is {module.Generation}. The notch sits elsewhere: it cannot go "
                    + "in.",
                takes,
                module.Generation!
            );
        }

        if (module.Form is { } form && memory.Module is { } wanted && IsStick(form) && IsSmall(form) != IsSmall(wanted))
        {
            yield return No("wrong-form", $"{slot.Id} takes a {wanted}; this module is a {form}.", wanted, form);
        }

        if (platform.SlotMax.TryGetValue(slot.Id, out var max) && module.Size > max)
        {
            yield return No(
                "too-large-for-slot",
                $"{slot.Id} takes up to {max}; this module is {module.Size}.",
                $"{max}",
                $"{module.Size}"
            );
        }

        if (BoardVoltage(platform) is { } gives && ModuleVoltage(module) is { } wants && wants > gives)
        {
            yield return No(
                "voltage-too-low",
                $"The board gives {gives} V only; this module needs {wants} V. A {gives} V module is wanted "
                    + $"({platform.Generation}).",
                $"{gives} V",
                $"{wants} V",
                Voltages
            );
        }

        if (memory.Ecc == "required" && module.Ecc == false)
        {
            yield return No(
                "ecc-missing",
                $"{platform.Guide.Model.Code} starts only with error-correcting modules; this one has none.",
                "ECC",
                "no ECC"
            );
        }

        if (memory.Ecc == "none" && module.Ecc == true)
        {
            yield return new FitNote(
                "ecc-unused",
                FitWeight.Remark,
                slot.Id,
                $"This module corrects errors, but {platform.Guide.Model.Code} does not use it: it runs without, if "
                    + "it starts.",
                "no ECC",
                "ECC",
                Guide
            );
        }

        if (
            memory.Buffering is { } buffering
            && module.Registered is { } registered
            && registered != (buffering == "registered")
        )
        {
            yield return No(
                "wrong-buffering",
                $"{slot.Id} takes {buffering} modules; this one is {(registered ? "registered" : "unbuffered")}. They "
                    + "do not run in each other's place.",
                buffering,
                registered ? "registered" : "unbuffered"
            );
        }

        if (module.RatedSpeed is { } rated && platform.TopSpeed(1) is { } top && rated > top)
        {
            yield return Speed(
                "faster-than-platform",
                p => $"What goes into {p} is rated {rated} MT/s; this platform runs it at {top}.",
                top,
                rated
            );
        }

        if (module.RatedSpeed is { } slow && platform.Speeds.Count > 0 && slow < platform.Speeds[0])
        {
            yield return Speed(
                "slower-than-platform",
                p =>
                    $"What goes into {p} is rated {slow} MT/s, below this platform's slowest grade of "
                    + $"{platform.Speeds[0]}: all would run at {slow}, if it starts.",
                platform.Speeds[0],
                slow
            );
        }

        FitNote Speed(string code, Func<string, string> sentence, int takes, int has) =>
            new(code, FitWeight.Remark, slot.Id, sentence(slot.Id), $"{takes} MT/s", $"{has} MT/s", Guide)
            {
                OfSeveral = sentence,
            };

        FitNote No(string code, string sentence, string takes, string has, string source = Guide) =>
            new(code, FitWeight.Refusal, slot.Id, sentence, takes, has, source);
    }

    /// <summary>DDR3 and DDR3L differ in voltage alone.</summary>
    public static bool SameGeneration(string? a, string? b) => MemoryModule.SameTerm(Plain(a), Plain(b));

    /// <summary>
    /// Why no module has this size; null for sizes that are made: powers of two, and three quarters of one (24, 48, 96
    /// GB).
    /// </summary>
    public static string? WhyImpossible(MemorySize size) =>
        size.Bytes <= Largest && size.Bytes > 0 && size.Bytes >> BitOperations.TrailingZeroCount(size.Bytes) is 1 or 3
            ? null
            : $"No module holds {size}: sizes are powers of two, or three quarters of one, up to 1 TB. Read the label "
                + "again.";

    private static string? Plain(string? generation) =>
        generation is { Length: 5 } && (generation[4] is 'L' or 'l') ? generation[..4] : generation;

    // A board that does not say takes the voltage of its generation; DDR3 boards also run the low-voltage modules.
    private static decimal? BoardVoltage(Platform platform) =>
        platform.Guide.Memory.Voltage ?? Nominal(platform.Generation);

    private static decimal? ModuleVoltage(MemoryModule module) => module.Voltage ?? Nominal(module.Generation);

    private static decimal? Nominal(string? generation) =>
        generation?.ToUpperInvariant() switch
        {
            "DDR3" => 1.5m,
            "DDR3L" => 1.35m,
            _ => null,
        };

    private static bool IsSmall(string form) => MemoryModule.SameTerm(form, "SO-DIMM");

    private static bool IsStick(string form) => form.Contains("DIMM", StringComparison.OrdinalIgnoreCase);
}
