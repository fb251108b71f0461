using Microsoft.OpenApi;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Service.Http;

/// <summary>
/// What the framework cannot see of the API by itself: the headers of a change, and sizes that travel as numbers.
/// </summary>
internal static class ApiDescription
{
    public static void AddRevtalOpenApi(this IServiceCollection services) =>
        services.AddOpenApi(
            "v1",
            options =>
            {
                options.OpenApiVersion = OpenApiSpecVersion.OpenApi3_1;
                options.AddDocumentTransformer(
                    (document, _, _) =>
                    {
                        document.Info = new OpenApiInfo
                        {
                            Title = "Revtal",
                            Version = "v1",
                            Description = "Work orders of a repair bench: memory and storage upgrades.",
                        };
                        document.Servers?.Clear();
                        return Task.CompletedTask;
                    }
                );
                options.AddSchemaTransformer(
                    (schema, context, _) =>
                    {
                        var type = context.JsonTypeInfo.Type;
                        if (
                            Scalars.FirstOrDefault(s => s.Type == (Nullable.GetUnderlyingType(type) ?? type)) is
                            { } scalar
                        )
                        {
                            var nullable = Nullable.GetUnderlyingType(type) is not null;
                            schema.Type = nullable ? scalar.Json | JsonSchemaType.Null : scalar.Json;
                            schema.Format = scalar.Format;
                            schema.Description = scalar.Description;
                            schema.Properties?.Clear();
                            schema.Required?.Clear();
                        }

                        // What follows from the rest is always there; the framework takes it for optional.
                        foreach (
                            var follows in context.JsonTypeInfo.Properties.Where(p =>
                                p.Set is null && p.Get is not null
                            )
                        )
                        {
                            (schema.Required ??= new HashSet<string>()).Add(follows.Name);
                            if (!follows.IsGetNullable && schema.Properties?[follows.Name] is OpenApiSchema described)
                            {
                                described.Type &= ~JsonSchemaType.Null;
                            }
                        }

                        return Task.CompletedTask;
                    }
                );
                options.AddOperationTransformer(
                    (operation, context, _) =>
                    {
                        if (
                            context.Description.HttpMethod is "POST" or "PUT" or "DELETE"
                            && context.Description.RelativePath is { } path
                            && !path.EndsWith("preview", StringComparison.Ordinal)
                            && !path.EndsWith("decode", StringComparison.Ordinal)
                            && !path.EndsWith("check", StringComparison.Ordinal)
                            && !path.EndsWith("layout", StringComparison.Ordinal)
                            && !path.StartsWith("api/v1/quotes", StringComparison.Ordinal)
                        )
                        {
                            (operation.Parameters ??= []).Add(
                                Header(Sender.PersonHeader, "Who does it: a person's id.", JsonSchemaType.String)
                            );
                            operation.Parameters.Add(
                                Header(
                                    Sender.KeyHeader,
                                    "A UUID; the same one on a retry records once.",
                                    JsonSchemaType.String
                                )
                            );
                            operation.Parameters.Add(
                                Header(
                                    "If-Match",
                                    "The ETag of the order that this was decided on.",
                                    JsonSchemaType.String
                                )
                            );
                        }

                        return Task.CompletedTask;
                    }
                );
            }
        );

    /// <summary>A value of ours that travels as one JSON scalar.</summary>
    private sealed record Scalar(Type Type, JsonSchemaType Json, string? Format, string Description);

    private static readonly Scalar[] Scalars =
    [
        new(typeof(MemorySize), JsonSchemaType.Integer, "int64", "Bytes; in requests also a text like “16 GB”."),
        new(typeof(DriveSize), JsonSchemaType.Integer, "int64", "Bytes; in requests also a text like “1 TB”."),
        new(typeof(StepId), JsonSchemaType.String, null, "A step of the run sheet, such as “open.bay-door”."),
        new(typeof(PartNumber), JsonSchemaType.String, null, "A part number; capitals do not matter."),
    ];

    private static OpenApiParameter Header(string name, string description, JsonSchemaType type) =>
        new()
        {
            Name = name,
            In = ParameterLocation.Header,
            Description = description,
            Schema = new OpenApiSchema { Type = type },
        };
}
