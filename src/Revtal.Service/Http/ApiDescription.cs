using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Service.Http;

/// <summary>
/// What the framework cannot see of the API by itself: the headers of a change, how it refuses, and values of ours that
/// travel as one word or number.
/// </summary>
internal static class ApiDescription
{
    private const string ProblemName = "Problem";

    /// <summary>A value of ours that travels as one JSON scalar.</summary>
    private sealed record Scalar(Type Type, JsonSchemaType Json, string? Format, string Description);

    private static readonly Scalar[] Scalars =
    [
        new(typeof(MemorySize), JsonSchemaType.Integer, "int64", "Bytes; in requests also a text like “16 GB”."),
        new(typeof(DriveSize), JsonSchemaType.Integer, "int64", "Bytes; in requests also a text like “1 TB”."),
        new(typeof(StepId), JsonSchemaType.String, null, "A step of the run sheet, such as “open.bay-door”."),
        new(typeof(PartNumber), JsonSchemaType.String, null, "A part number; capitals do not matter."),
    ];

    // Asked with a body, and nothing is recorded.
    private static readonly string[] Questions = ["preview", "decode", "check", "layout"];

    public static void AddRevtalOpenApi(this IServiceCollection services) =>
        services.AddOpenApi(
            "v1",
            options =>
            {
                options.OpenApiVersion = OpenApiSpecVersion.OpenApi3_1;
                options.AddDocumentTransformer((document, _, _) => Done(() => Describe(document)));
                options.AddSchemaTransformer((schema, context, _) => Done(() => Values(schema, context)));
                options.AddOperationTransformer(
                    (operation, context, _) =>
                        Done(() =>
                        {
                            Change(operation, context.Description.HttpMethod, context.Description.RelativePath);
                            Refusal(operation, context.Document!);
                        })
                );
            }
        );

    private static Task Done(Action describe)
    {
        describe();
        return Task.CompletedTask;
    }

    private static void Describe(OpenApiDocument document)
    {
        document.Info = new OpenApiInfo
        {
            Title = "Revtal",
            Version = "v1",
            Description = "Work orders of a repair bench: memory and storage upgrades.",
        };
        document.Servers?.Clear();
        document.Components ??= new OpenApiComponents();
        document.Components.Schemas ??= new Dictionary<string, IOpenApiSchema>();
        document.Components.Schemas[ProblemName] = Problem();
    }

    private static void Values(OpenApiSchema schema, OpenApiSchemaTransformerContext context)
    {
        var type = context.JsonTypeInfo.Type;
        var plain = Nullable.GetUnderlyingType(type);
        if (Scalars.FirstOrDefault(s => s.Type == (plain ?? type)) is { } scalar)
        {
            schema.Type = plain is null ? scalar.Json : scalar.Json | JsonSchemaType.Null;
            schema.Format = scalar.Format;
            schema.Description = scalar.Description;
            schema.Properties?.Clear();
            schema.Required?.Clear();
        }

        // What follows from the rest is always there; the framework takes it for optional.
        foreach (var follows in context.JsonTypeInfo.Properties.Where(p => p.Set is null && p.Get is not null))
        {
            (schema.Required ??= new HashSet<string>()).Add(follows.Name);
            if (!follows.IsGetNullable && schema.Properties?[follows.Name] is OpenApiSchema described)
            {
                described.Type &= ~JsonSchemaType.Null;
            }
        }
    }

    private static void Change(OpenApiOperation operation, string? method, string? path)
    {
        if (
            method is not ("POST" or "PUT" or "DELETE")
            || path is null
            || Questions.Any(q => path.EndsWith(q, StringComparison.Ordinal))
            || path.StartsWith("api/v1/quotes", StringComparison.Ordinal)
        )
        {
            return;
        }

        operation.Parameters ??= [];
        operation.Parameters.Add(Header(Sender.PersonHeader, "Who does it: a person's id."));
        operation.Parameters.Add(Header(Sender.KeyHeader, "A UUID; the same one on a retry records once."));
        operation.Parameters.Add(Header("If-Match", "The ETag of the order that this was decided on."));
    }

    // All refusals come from one place and have one form.
    private static void Refusal(OpenApiOperation operation, OpenApiDocument document) =>
        (operation.Responses ??= [])["default"] = new OpenApiResponse
        {
            Description = "Refused, or failed: nothing was recorded, and the detail says why and what to do.",
            Content = new Dictionary<string, OpenApiMediaType>
            {
                ["application/problem+json"] = new OpenApiMediaType
                {
                    Schema = new OpenApiSchemaReference(ProblemName, document),
                },
            },
        };

    // RFC 9457, with what Problems adds.
    private static OpenApiSchema Problem() =>
        new()
        {
            Type = JsonSchemaType.Object,
            Description = "RFC 9457.",
            Required = new HashSet<string> { "title", "status", "detail" },
            Properties = new Dictionary<string, IOpenApiSchema>
            {
                ["type"] = Text("urn:revtal: and the code."),
                ["title"] = Text("What sort of refusal it is."),
                ["status"] = new OpenApiSchema { Type = JsonSchemaType.Integer, Description = "The HTTP status." },
                ["detail"] = Text("Why, and what to do instead."),
                ["code"] = Text("A stable short name of the rule, for scripts: power-not-isolated."),
                ["trace"] = Text("What the service's log calls this request."),
                ["head"] = new OpenApiSchema
                {
                    Type = JsonSchemaType.Integer,
                    Description = "Where the order stands by now, when If-Match named an earlier state.",
                },
                ["answers"] = new OpenApiSchema
                {
                    Type = JsonSchemaType.Array,
                    Description = "What may be said to it, where doing as it asks is not the only way.",
                    Items = new OpenApiSchema
                    {
                        Type = JsonSchemaType.String,
                        Enum = [.. Enum.GetNames<RefusalAnswer>().Select(n => JsonValue.Create(n.ToLowerInvariant()))],
                    },
                },
            },
        };

    private static OpenApiSchema Text(string description) =>
        new() { Type = JsonSchemaType.String, Description = description };

    private static OpenApiParameter Header(string name, string description) =>
        new()
        {
            Name = name,
            In = ParameterLocation.Header,
            Description = description,
            Schema = new OpenApiSchema { Type = JsonSchemaType.String },
        };
}
