using System.Diagnostics.CodeAnalysis;
using System.Text.Json;
using System.Text.Json.Serialization;
using Revtal.Core.Hardware;

namespace Revtal.Core;

/// <summary>How values are written as JSON, the same in the journal, on the wire and on the command line.</summary>
public static class RevtalJson
{
    /// <summary>camelCase names, enums as kebab-case words, memory sizes as bytes, nulls written out.</summary>
    public static JsonSerializerOptions Options { get; } =
        Configure(new JsonSerializerOptions(JsonSerializerDefaults.Web));

    /// <summary>Gives another set of options the same conventions.</summary>
    /// <param name="most">The largest size in bytes that is read; what was kept is read whatever it is.</param>
    [UnconditionalSuppressMessage(
        "AOT",
        "IL3050",
        Justification = "Who is compiled ahead lays down its types, and with them the converter of each enum."
    )]
    public static JsonSerializerOptions Configure(JsonSerializerOptions options, long most = long.MaxValue)
    {
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false));
        options.Converters.Add(new MemorySizeConverter(most));
        options.Converters.Add(new DriveSizeConverter(most));
        options.NumberHandling = JsonNumberHandling.Strict;
        options.RespectNullableAnnotations = true;
        options.RespectRequiredConstructorParameters = false;
        options.AllowDuplicateProperties = false;
        return options;
    }

    /// <summary>
    /// The same for what others send: a member without a default must be there, and what is not known is refused.
    /// Nothing is made up for what was left out.
    /// </summary>
    public static JsonSerializerOptions ConfigureStrict(JsonSerializerOptions options)
    {
        Configure(options, MemorySize.MostWritten);
        options.RespectRequiredConstructorParameters = true;
        options.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
        return options;
    }

    private sealed class MemorySizeConverter(long most) : JsonConverter<MemorySize>
    {
        public override MemorySize Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.TokenType switch
            {
                JsonTokenType.Number when reader.TryGetInt64(out var bytes) && bytes >= 0 && bytes <= most =>
                    new MemorySize(bytes),
                JsonTokenType.String when MemorySize.TryParse(reader.GetString(), out var size) => size,
                _ => throw new JsonException(
                    "A memory size is a number of bytes, at most 2^53, or a text like “16 GB”."
                ),
            };

        public override void Write(Utf8JsonWriter writer, MemorySize value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value.Bytes);
    }

    private sealed class DriveSizeConverter(long most) : JsonConverter<DriveSize>
    {
        public override DriveSize Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.TokenType switch
            {
                JsonTokenType.Number when reader.TryGetInt64(out var bytes) && bytes >= 0 && bytes <= most =>
                    new DriveSize(bytes),
                JsonTokenType.String when DriveSize.TryParse(reader.GetString(), out var size) => size,
                _ => throw new JsonException(
                    "A drive's size is a number of bytes, at most 2^53, or a text like “1 TB”."
                ),
            };

        public override void Write(Utf8JsonWriter writer, DriveSize value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value.Bytes);
    }
}
