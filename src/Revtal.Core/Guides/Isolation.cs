namespace Revtal.Core.Guides;

/// <summary>
/// The known ways of making a machine safe to open, each with the sentence that the technician reads.
/// </summary>
public static class Isolation
{
    public const string CoolDown = "cool-down";

    /// <summary>Kinds that a guide may name, and what to do.</summary>
    public static IReadOnlyDictionary<string, string> Known { get; } =
        new Dictionary<string, string>
        {
            ["shut-down-not-sleep"] = "Shut the machine down: off, not asleep",
            ["unplug"] = "Unplug mains, displays and everything else",
            ["remove-battery-pack"] = "Take the battery pack out",
            ["lift-battery-connector"] = "Lift the battery connector off the board, straight up by its edges",
            ["hold-power"] = "Hold the power button",
            [CoolDown] = "Let it cool",
            ["lay-face-down"] = "Lay it face down on the padded mat",
            ["keep-upright"] = "Keep it upright: do not lay it down",
            ["ground-yourself"] = "Put the wrist strap on and touch bare metal",
            ["clear-mat"] = "Clear the mat: no plastic, no foam, no paper",
            ["bare-sleeves"] = "Roll the sleeves up: no wool, no fleece",
            ["check-humidity"] = "Look at the humidity: 40 % or more",
        };
}

/// <summary>Lengths of time as guides and the bench write them.</summary>
public static class Durations
{
    /// <summary>“10 s”, “15 min”, “6 h”.</summary>
    public static string Text(TimeSpan d) =>
        d.TotalMinutes < 1 || d.Seconds > 0 ? $"{d.TotalSeconds:0} s"
        : d.TotalHours < 1 || d.Minutes > 0 ? $"{d.TotalMinutes:0} min"
        : $"{d.TotalHours:0} h";
}
