namespace Revtal.Core.Guides;

/// <summary>
/// The known ways of making a machine safe to open, each with the sentence that the technician reads.
/// </summary>
public static class Isolation
{
    /// <summary>The kind that lasts by the clock.</summary>
    public const string CoolDown = "cool-down";

    // What to do, and the same as the journal tells it once it was done.
    private static readonly Dictionary<string, (string Do, string Done)> Sentences = new()
    {
        ["shut-down-not-sleep"] = ("Shut the machine down: off, not asleep", "Shut the machine down"),
        ["unplug"] = ("Unplug mains, displays and everything else", "Unplugged mains, displays and everything else"),
        ["remove-battery-pack"] = ("Take the battery pack out", "Took the battery pack out"),
        [LiftConnector] = (
            "Lift the battery connector off the board, straight up by its edges",
            "Lifted the battery connector off the board"
        ),
        ["hold-power"] = ("Hold the power button", "Held the power button"),
        [CoolDown] = ("Let it cool", "Let it cool"),
        ["lay-face-down"] = ("Lay it face down on the padded mat", "Laid it face down on the padded mat"),
        ["lay-on-back"] = (
            "Lay it on its back, raised at both ends so that nothing presses on it",
            "Laid it on its back, raised"
        ),
        ["raise-stand"] = ("Set the stand to its highest", "Set the stand to its highest"),
        ["off-carpet"] = ("Work off the carpet: it charges who walks on it", "Went off the carpet"),
        ["keep-upright"] = ("Keep it upright: do not lay it down", "Kept it upright"),
        [Ground] = ("Put the wrist strap on and touch bare metal", "Put the wrist strap on"),
        ["clear-mat"] = ("Clear the mat: no plastic, no foam, no paper", "Cleared the mat"),
        ["bare-sleeves"] = ("Roll the sleeves up: no wool, no fleece", "Rolled the sleeves up"),
        ["check-humidity"] = ("Look at the humidity: 40 % or more", "Looked at the humidity"),
    };

    // What a way of isolating took out or off goes back before power comes on, and how that is said.
    private static readonly Dictionary<string, (string Do, string Done)> Returns = new()
    {
        ["remove-battery-pack"] = ("Put the battery pack back: both locks must click", "Put the battery pack back"),
        [LiftConnector] = (
            "Press the battery connector onto the board, straight down by its edges",
            "Pressed the battery connector onto the board"
        ),
    };

    /// <summary>The battery's connector, under the covers: it goes back before they do.</summary>
    public const string LiftConnector = "lift-battery-connector";

    /// <summary>The strap is put on when hands are about to go in, not while the machine cools.</summary>
    public const string Ground = "ground-yourself";

    /// <summary>Whether something was taken out or off that goes back.</summary>
    public static bool GoesBack(string kind) => Returns.ContainsKey(kind);

    /// <summary>“Put the battery pack back: both locks must click”, and the same once it was done.</summary>
    /// <param name="kind">One that <see cref="GoesBack"/>.</param>
    public static (string Do, string Done) Return(string kind) => Returns.GetValueOrDefault(kind, (kind, kind));

    /// <summary>What takes the power off this model's board: the guide's steps, or what is usual of its kind.</summary>
    public static IReadOnlyList<IsolationStep> Of(Guide guide) =>
        guide.Isolate.Count > 0 ? guide.Isolate : Usual(guide.Model.Kind);

    /// <summary>
    /// What a machine of this kind is worked by where its guide says nothing: power is never taken to be off because
    /// nobody wrote it down.
    /// </summary>
    /// <param name="kind">The guide's, as the trade says: <c>laptop</c>.</param>
    public static IReadOnlyList<IsolationStep> Usual(string kind) =>
        [
            new("shut-down-not-sleep", null, null),
            new(
                "unplug",
                null,
                kind == "laptop" ? "a battery pack that comes out by hand comes out too" : "every cord"
            ),
            new("hold-power", TimeSpan.FromSeconds(10), null),
            new(Ground, null, null),
        ];

    /// <summary>Kinds that a guide may name.</summary>
    public static IReadOnlyCollection<string> Kinds => Sentences.Keys;

    /// <summary>“Hold the power button for 10 s”.</summary>
    /// <param name="kind">One of <see cref="Kinds"/>; another is said as it stands.</param>
    public static string Sentence(string kind, TimeSpan? lasts = null) => Of(kind).Do + For(lasts);

    /// <summary>“Held the power button for 10 s”.</summary>
    /// <inheritdoc cref="Sentence" path="/param"/>
    public static string DoneSentence(string kind, TimeSpan? lasts = null) => Of(kind).Done + For(lasts);

    private static (string Do, string Done) Of(string kind) => Sentences.GetValueOrDefault(kind, (kind, kind));

    private static string For(TimeSpan? lasts) => Phrases.When(lasts, l => $" for {Durations.Text(l)}");
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
