namespace Revtal.Core.Guides;

/// <summary>The known ways of making a machine safe to open, each with the sentence that the technician reads.</summary>
public static class Isolation
{
    /// <summary>Kinds that a guide may name, and what to do.</summary>
    public static IReadOnlyDictionary<string, string> Known { get; } = new Dictionary<string, string>
    {
        ["shut-down-not-sleep"] = "Shut the machine down: off, not asleep",
        ["unplug"] = "Unplug mains, displays and everything else",
        ["remove-battery-pack"] = "Take the battery pack out",
        ["lift-battery-connector"] = "Lift the battery connector off the board, straight up by its edges",
        ["hold-power"] = "Hold the power button",
        ["cool-down"] = "Let it cool",
        ["lay-face-down"] = "Lay it face down on the padded mat",
        ["ground-yourself"] = "Put the wrist strap on and touch bare metal",
    };

    /// <summary>The sentence with its time: “Hold the power button for 10 s”.</summary>
    public static string Sentence(IsolationStep step) => Known[step.Kind] + step.Duration switch
    {
        null => "",
        { TotalSeconds: < 60 } d => $" for {d.TotalSeconds:0} s",
        { } d => $" for {d.TotalMinutes:0} min",
    };
}
