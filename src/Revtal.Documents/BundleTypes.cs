using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Revtal.Core;
using Revtal.Core.Captures;

namespace Revtal.Documents;

/// <summary>How a bundle of a capture is read, laid down when it is built.</summary>
[JsonSourceGenerationOptions(GenerationMode = JsonSourceGenerationMode.Metadata)]
[JsonSerializable(typeof(CaptureBundle))]
internal sealed partial class BundleTypes : JsonSerializerContext
{
    public static JsonTypeInfo<CaptureBundle> Bundle =>
        (JsonTypeInfo<CaptureBundle>)Conventions.Options.GetTypeInfo(typeof(CaptureBundle));

    // A class of its own, so that Default is there first.
    private static class Conventions
    {
        public static readonly JsonSerializerOptions Options = new(RevtalJson.Options) { TypeInfoResolver = Default };
    }
}
