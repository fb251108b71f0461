using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using Revtal.Core.Guides;

namespace Revtal.Documents;

/// <summary>The JSON Schema (draft 2020-12) of guide files, as it is published.</summary>
public static class GuideSchema
{
    private static readonly JsonSerializerOptions Layout = new()
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    public static string Text { get; } = Schema().ToJsonString(Layout) + "\n";

    private static JsonObject Schema()
    {
        var schema = new JsonObject
        {
            ["$schema"] = "https://json-schema.org/draft/2020-12/schema",
            ["$id"] = "urn:revtal:guide:1",
            ["title"] = "Revtal guide",
            ["description"] =
                "What a repair bench knows of one machine model. Names that point nowhere, circles and doubled ids are "
                + "beyond a schema: revtal guide check finds them.",
        };
        foreach (var (key, value) in Of(GuideFormat.File))
        {
            schema[key] = value?.DeepClone();
        }

        return schema;
    }

    private static JsonObject Of(ValueShape shape) =>
        shape switch
        {
            ValueShape.Text { Pattern: { } pattern } => new() { ["type"] = "string", ["pattern"] = pattern },
            ValueShape.Text => new()
            {
                ["type"] = "string",
                ["minLength"] = 1,
                ["maxLength"] = ValueShape.Text.Longest,
            },
            ValueShape.Exactly same => new() { ["const"] = same.Value },
            ValueShape.Whole whole => new()
            {
                ["type"] = "integer",
                ["minimum"] = whole.From,
                ["maximum"] = whole.To,
            },
            ValueShape.Flag => new() { ["type"] = "boolean" },
            ValueShape.Word word => new() { ["enum"] = new JsonArray([.. word.Words.Select(Written)]) },
            ValueShape.Point => new()
            {
                ["type"] = "array",
                ["prefixItems"] = new JsonArray(Share(), Share()),
                ["items"] = false,
                ["minItems"] = 2,
            },
            ValueShape.List list => new()
            {
                ["type"] = "array",
                ["items"] = Of(list.Item),
                ["maxItems"] = list.Most,
            },
            ValueShape.ByCount by => new()
            {
                ["type"] = "object",
                ["patternProperties"] = new JsonObject { [by.KeyPattern] = Of(by.Item) },
                ["additionalProperties"] = false,
            },
            ValueShape.Either either => new() { ["oneOf"] = new JsonArray([.. either.Shapes.Select(Of)]) },
            ValueShape.Overlay => new() { ["type"] = "object" },
            ValueShape.Map map => Map(map),
            _ => throw new InvalidOperationException($"No schema is known for {shape}."),
        };

    private static JsonObject Map(ValueShape.Map map)
    {
        var properties = new JsonObject();
        foreach (var field in map.Fields)
        {
            var told = Of(field.Shape);
            if (field.Says.Length > 0)
            {
                told["description"] = field.Says.Replace("`", "", StringComparison.Ordinal);
            }

            properties[field.Key] = told;
        }

        return new JsonObject
        {
            ["type"] = "object",
            ["properties"] = properties,
            ["required"] = new JsonArray([.. map.Fields.Where(f => f.Needed).Select(f => (JsonNode)f.Key)]),
            ["additionalProperties"] = false,
        };
    }

    // A YAML reader takes 90 for a number.
    private static JsonNode Written(string word) => int.TryParse(word, out var number) ? number : word;

    private static JsonObject Share() =>
        new()
        {
            ["type"] = "number",
            ["minimum"] = 0,
            ["maximum"] = 1,
        };
}
