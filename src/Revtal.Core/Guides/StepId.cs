using System.Diagnostics.CodeAnalysis;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Revtal.Core.Guides;

/// <summary>What is done in a step. The words are stored and typed: they are never changed.</summary>
public enum StepVerb
{
    Prepare,
    Isolate,
    Open,

    /// <summary>Writing down what sits where.</summary>
    Record,
    Look,
    Pull,
    Fit,
    Measure,
    Close,
    Start,
    SetUp,

    /// <summary>What isolation took out goes back.</summary>
    Return,

    /// <summary>Opening as it happens, until the position lies open.</summary>
    Uncover,

    /// <summary>Dust out of what lies open.</summary>
    Clean,
}

/// <summary>
/// Which step: what is done, and to what. Written <c>open.hatch</c>, <c>pull.S2</c>, <c>set-up.D1.format</c>; this is
/// the only place that writes and reads it.
/// </summary>
/// <param name="Subject">A removal, a position, a kind of isolation; never empty.</param>
/// <param name="Work">For a set-up: what of it.</param>
[JsonConverter(typeof(StepIdConverter))]
public readonly record struct StepId(StepVerb Verb, string Subject, string? Work = null) : IParsable<StepId>
{
    /// <summary>The bench is made ready.</summary>
    public static StepId PrepareBench { get; } = new(StepVerb.Prepare, "bench");

    /// <summary>
    /// The step that writes down modules; the before reading knows them already, so nothing need be typed.
    /// </summary>
    public static StepId RecordModules { get; } = new(StepVerb.Record, "modules");

    /// <summary>Each drive is written down by its bay.</summary>
    public static StepId RecordBays { get; } = new(StepVerb.Record, "bays");

    /// <summary>The machine is cleaned inside while it is open.</summary>
    public static StepId Clean { get; } = new(StepVerb.Clean, "inside");

    /// <summary>A start with the case open.</summary>
    public static StepId MeasureOpen { get; } = new(StepVerb.Measure, "open");

    /// <summary>The first start.</summary>
    public static StepId PowerOn { get; } = new(StepVerb.Start, "power-on");

    /// <summary>The firmware is told which drive to start from.</summary>
    public static StepId StartOrder { get; } = new(StepVerb.Start, "start-order");

    /// <summary>One way of making it safe to open; one of <see cref="Isolation.Kinds"/>.</summary>
    public static StepId Isolate(string kind) => new(StepVerb.Isolate, kind);

    /// <summary>What this way of isolating took out goes back; one that <see cref="Isolation.GoesBack"/>.</summary>
    public static StepId Return(string kind) => new(StepVerb.Return, kind);

    /// <summary>This removal comes off.</summary>
    public static StepId Open(string removal) => new(StepVerb.Open, removal);

    /// <summary>This removal goes back.</summary>
    public static StepId Close(string removal) => new(StepVerb.Close, removal);

    /// <summary>Whatever must come off for a position that nobody has got at yet.</summary>
    public static StepId Uncover(string position) => new(StepVerb.Uncover, position);

    /// <summary>Writing down the drives that leave with a removal.</summary>
    public static StepId Record(string removal) => new(StepVerb.Record, removal);

    /// <summary>The position is looked at, and nothing changed.</summary>
    public static StepId Look(string position) => new(StepVerb.Look, position);

    /// <summary>What is in the position comes out.</summary>
    public static StepId Pull(string position) => new(StepVerb.Pull, position);

    /// <summary>What the plan has for the position goes in.</summary>
    public static StepId Fit(string position) => new(StepVerb.Fit, position);

    /// <summary>Work on the drive of a bay after the first start: <c>initialise</c>, <c>grow</c> ….</summary>
    public static StepId SetUp(string bay, string work) => new(StepVerb.SetUp, bay, work);

    /// <summary>Whether hands take something out of a position, or put something in.</summary>
    public bool MovesParts => Verb is StepVerb.Pull or StepVerb.Fit;

    public override string ToString() => $"{Word(Verb)}.{Subject}{Phrases.When(Work, w => $".{w}")}";

    /// <summary>The verb as it is written: <c>set-up</c>.</summary>
    public static string Word(StepVerb verb) => verb == StepVerb.SetUp ? "set-up" : Phrases.Words(verb);

    /// <exception cref="FormatException">It is no step.</exception>
    public static StepId Parse(string s, IFormatProvider? provider = null) =>
        TryParse(s, provider, out var id) ? id : throw new FormatException($"“{s}” is no step.");

    /// <summary>Reads “fit.S1”; false for what is no step.</summary>
    public static bool TryParse([NotNullWhen(true)] string? s, out StepId result) => TryParse(s, null, out result);

    /// <inheritdoc cref="TryParse(string?, out StepId)"/>
    public static bool TryParse([NotNullWhen(true)] string? s, IFormatProvider? provider, out StepId result)
    {
        result = default;
        if (s?.Split('.', 2) is not [var word, { Length: > 0 } subject] || !TryVerb(word, out var verb))
        {
            return false;
        }

        result =
            verb == StepVerb.SetUp && subject.Split('.', 2) is [var bay, var work]
                ? new StepId(verb, bay, work)
                : new StepId(verb, subject);
        return true;
    }

    /// <summary>Reads the word of a verb.</summary>
    public static bool TryVerb(string word, out StepVerb verb)
    {
        foreach (var known in Enum.GetValues<StepVerb>())
        {
            if (Word(known) == word)
            {
                verb = known;
                return true;
            }
        }

        verb = default;
        return false;
    }

    public sealed class StepIdConverter : JsonConverter<StepId>
    {
        public override StepId Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.TokenType == JsonTokenType.String && TryParse(reader.GetString(), out var id)
                ? id
                : throw new JsonException("A step is a text like “open.hatch”.");

        public override void Write(Utf8JsonWriter writer, StepId value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.ToString());
    }
}
