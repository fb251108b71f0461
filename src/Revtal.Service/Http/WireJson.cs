using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;
using Revtal.Core;

namespace Revtal.Service.Http;

/// <summary>
/// The JSON of the wire: strict in what it takes. An endpoint asks for the shape of all that it takes and answers when
/// it is built, and all are built before the first answer: half a second for shapes of which that answer needs few. So
/// endpoints are given options that find a shape out when a value of it is first read or written.
/// </summary>
internal sealed class WireJson : IOptions<JsonOptions>
{
    private readonly JsonOptions _late = new();
    private readonly JsonOptions _whole = new();
    private volatile bool _described;

    public WireJson()
    {
        RevtalJson.ConfigureStrict(Strict);
        Strict.MakeReadOnly(populateMissingResolver: true);
        _late.SerializerOptions.Converters.Add(new Latecomers(Strict));
        _late.SerializerOptions.MakeReadOnly(populateMissingResolver: true);
    }

    /// <summary>With every shape as it is.</summary>
    public JsonSerializerOptions Strict => _whole.SerializerOptions;

    /// <summary>What the framework takes: the latecomers, until the description of the API wants the shapes.</summary>
    public JsonOptions Value => _described ? _whole : _late;

    /// <summary>An endpoint filter for the description: the framework asks for its options once.</summary>
    public static ValueTask<object?> DescribeAsync(EndpointFilterInvocationContext c, EndpointFilterDelegate next)
    {
        c.HttpContext.RequestServices.GetRequiredService<WireJson>()._described = true;
        return next(c);
    }

    // What is only known to be an object is written by what it turns out to be, which is the serializer's own business.
    private sealed class Latecomers(JsonSerializerOptions strict) : JsonConverterFactory
    {
        public override bool CanConvert(Type typeToConvert) => typeToConvert != typeof(object);

        public override JsonConverter CreateConverter(Type typeToConvert, JsonSerializerOptions options) =>
            (JsonConverter)Activator.CreateInstance(typeof(Latecomer<>).MakeGenericType(typeToConvert), strict)!;
    }

    private sealed class Latecomer<T>(JsonSerializerOptions strict) : JsonConverter<T>
    {
        public override bool HandleNull => true;

        private JsonTypeInfo<T> Shape => (JsonTypeInfo<T>)strict.GetTypeInfo(typeof(T));

        public override T? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            JsonSerializer.Deserialize(ref reader, Shape);

        public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) =>
            JsonSerializer.Serialize(writer, value, Shape);
    }
}
