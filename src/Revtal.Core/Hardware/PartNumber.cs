using System.Text.Json;
using System.Text.Json.Serialization;

namespace Revtal.Core.Hardware;

/// <summary>
/// A maker's part number as its label has it. Two that differ in letter case or in blanks around them are one; this is
/// the only place that compares them.
/// </summary>
[JsonConverter(typeof(PartNumberConverter))]
public readonly struct PartNumber : IEquatable<PartNumber>, IComparable<PartNumber>
{
    private readonly string? text;

    /// <param name="text">Blanks around it are dropped.</param>
    public PartNumber(string text) => this.text = text.Trim();

    /// <summary>Null for a text that says nothing.</summary>
    public static PartNumber? Of(string? text) => string.IsNullOrWhiteSpace(text) ? null : new PartNumber(text);

    /// <summary>As it was written first.</summary>
    public override string ToString() => text ?? "";

    /// <summary>Case does not tell two numbers apart.</summary>
    public bool Equals(PartNumber other) =>
        string.Equals(ToString(), other.ToString(), StringComparison.OrdinalIgnoreCase);

    public override bool Equals(object? obj) => obj is PartNumber other && Equals(other);

    public override int GetHashCode() => StringComparer.OrdinalIgnoreCase.GetHashCode(ToString());

    /// <summary>By letters, without case.</summary>
    public int CompareTo(PartNumber other) => StringComparer.OrdinalIgnoreCase.Compare(ToString(), other.ToString());

    public static bool operator ==(PartNumber a, PartNumber b) => a.Equals(b);

    public static bool operator !=(PartNumber a, PartNumber b) => !a.Equals(b);

    public static bool operator <(PartNumber a, PartNumber b) => a.CompareTo(b) < 0;

    public static bool operator >(PartNumber a, PartNumber b) => a.CompareTo(b) > 0;

    public static bool operator <=(PartNumber a, PartNumber b) => a.CompareTo(b) <= 0;

    public static bool operator >=(PartNumber a, PartNumber b) => a.CompareTo(b) >= 0;

    public sealed class PartNumberConverter : JsonConverter<PartNumber>
    {
        public override PartNumber Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.TokenType == JsonTokenType.String
                ? new PartNumber(reader.GetString()!)
                : throw new JsonException("A part number is a text.");

        public override void Write(Utf8JsonWriter writer, PartNumber value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.ToString());
    }
}
