using Microsoft.OpenApi;
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
                        if (type == typeof(MemorySize) || type == typeof(MemorySize?))
                        {
                            schema.Type =
                                type == typeof(MemorySize)
                                    ? JsonSchemaType.Integer
                                    : JsonSchemaType.Integer | JsonSchemaType.Null;
                            schema.Format = "int64";
                            schema.Description = "Bytes; in requests also a text like “16 GB”.";
                        }
                        else if (type == typeof(DriveSize) || type == typeof(DriveSize?))
                        {
                            schema.Type =
                                type == typeof(DriveSize)
                                    ? JsonSchemaType.Integer
                                    : JsonSchemaType.Integer | JsonSchemaType.Null;
                            schema.Format = "int64";
                            schema.Properties?.Clear();
                            schema.Description = "Bytes; in requests also a text like “1 TB”.";
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

    private static OpenApiParameter Header(string name, string description, JsonSchemaType type) =>
        new()
        {
            Name = name,
            In = ParameterLocation.Header,
            Description = description,
            Schema = new OpenApiSchema { Type = type },
        };
}
