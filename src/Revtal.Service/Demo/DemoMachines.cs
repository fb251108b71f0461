using Revtal.Core.Captures;
using Revtal.Dummies;

namespace Revtal.Service.Demo;

/// <summary>The simulated machines behind the demo's readings.</summary>
internal static class DemoMachines
{
    /// <summary>A capture of a machine of this model with these modules, in GB by slot order; a negative size is a module that is fitted but not seen.</summary>
    public static CaptureBundle Capture(string model, string serial, params int[] gigabytes)
    {
        var (maker, product, max, speed, form, type, locators) = Model(model);
        var seen = gigabytes.Select(g => Math.Max(0, g)).ToArray();
        var slots = locators.Select((locator, i) => Slot(locator, i < seen.Length ? seen[i] : 0, speed, form, type, serial, i)).ToArray();
        var dump = FirmwareTables.Dump(new DummyBoard(maker, product, serial, "1.14", max * 1024L, slots));
        var megabytes = seen.Sum() * 1024L;
        var usable = (megabytes * 1024) - (megabytes * 1024 / 64) - (180 * 1024);
        return CaptureBundle.Of([
            new CaptureFile("firmware.bin", dump),
            new CaptureFile("meminfo", System.Text.Encoding.ASCII.GetBytes($"MemTotal:       {usable,8} kB\nMemFree:        {usable / 40,8} kB\nMemAvailable:   {usable / 12,8} kB\nSwapTotal:      {usable / 2,8} kB\nSwapFree:       {usable / 3,8} kB\n")),
        ]);
    }

    private static DummySlot Slot(string locator, int gigabytes, int speed, byte form, byte type, string serial, int index) => gigabytes == 0
        ? new DummySlot(locator, $"BANK {index}", 0, Form: form)
        : new DummySlot(
            locator, $"BANK {index}", gigabytes * 1024L, speed, speed, gigabytes >= 16 ? "Ostrava" : "Tarnmoor", $"{Math.Abs(HashOf(serial) + (index * 7919)):X8}"[..8],
            gigabytes >= 16 ? $"OS{(type == 0x22 ? 5 : 4)}{(form == 0x0D ? "S" : "U")}-{gigabytes}G" : $"TM-{gigabytes}{(form == 0x0D ? "S" : "U")}{(type == 0x22 ? "5" : "")}", type, form);

    // Stable between runs, unlike string.GetHashCode.
    private static int HashOf(string text) => text.Aggregate(17, (hash, c) => unchecked((hash * 31) + c)) & 0x0FFFFFFF;

    private static (string Maker, string Product, int MaxGigabytes, int Speed, byte Form, byte Type, string[] Locators) Model(string code) => code switch
    {
        "FJ14" => ("Norrland", "FJ14", 32, 2666, 0x0D, 0x1A, ["SODIMM 1", "SODIMM 0"]),
        "NS13" => ("Norrland", "NS13", 96, 4800, 0x0D, 0x22, ["DIMM A", "DIMM B"]),
        "PW24" => ("Pellworm", "PW24", 64, 2666, 0x0D, 0x1A, ["ChannelA-DIMM0", "ChannelA-DIMM1", "ChannelB-DIMM0", "ChannelB-DIMM1"]),
        "QT40" => ("Quillon", "QT40", 128, 3200, 0x09, 0x1A, ["DIMM_A1", "DIMM_A2", "DIMM_B1", "DIMM_B2"]),
        "QW80" => ("Quillon", "QW80", 512, 3200, 0x09, 0x1A, [.. "ABCD".SelectMany(c => new[] { $"DIMM {c}1", $"DIMM {c}2" })]),
        "TB6" => ("Terneholm", "TB6", 32, 2666, 0x0D, 0x1A, ["Slot 1", "Slot 2"]),
        "NL12" => ("Norrland", "NL12", 8, 4266, 0x0B, 0x1E, ["Onboard"]),
        _ => ("Norrland", code, 64, 4800, 0x0D, 0x22, ["DIMM 1", "DIMM 2"]),
    };
}
