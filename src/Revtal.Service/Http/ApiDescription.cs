using System.Reflection;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Mvc.Abstractions;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Revtal.Contracts;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Service.Orders;

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

    public static void AddRevtalOpenApi(this IServiceCollection services) =>
        services.AddOpenApi(
            "v1",
            options =>
            {
                options.OpenApiVersion = OpenApiSpecVersion.OpenApi3_1;
                options.AddDocumentTransformer(
                    async (document, context, cancel) =>
                    {
                        Describe(document);

                        // It travels among the events of a stream, where the framework does not see it.
                        document.AddComponent(
                            nameof(ShopChange),
                            await context.GetOrCreateSchemaAsync(typeof(ShopChange), null, cancel)
                        );
                    }
                );
                options.AddSchemaTransformer((schema, context, _) => Done(() => Values(schema, context)));
                options.AddOperationTransformer(
                    (operation, context, _) =>
                        Done(() =>
                        {
                            var taken = Taken(context.Description.ActionDescriptor);
                            Headers(operation, taken);
                            Refusals(operation, taken, context.Document!);
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

    // What the handler takes says what it reads of a request.
    private static Type[] Taken(ActionDescriptor action) =>
        [
            .. action
                .EndpointMetadata.OfType<MethodInfo>()
                .Take(1)
                .SelectMany(m => m.GetParameters())
                .Select(p => p.ParameterType),
        ];

    private static bool IsChange(OpenApiOperation operation, Type[] taken) =>
        taken.Contains(typeof(Sender)) || operation.OperationId == "putPerson";

    // An order's changes look at its head, a draft's at its version; a take-in has nothing to look at yet.
    private static bool LooksAtState(OpenApiOperation operation, Type[] taken) =>
        taken.Contains(typeof(Sender))
        && (taken.Contains(typeof(OrderDesk)) || operation.OperationId == "saveDraft")
        && operation.OperationId != "takeIn";

    private static void Headers(OpenApiOperation operation, Type[] taken)
    {
        if (!IsChange(operation, taken))
        {
            return;
        }

        operation.Parameters ??= [];
        operation.Parameters.Add(Header(Sender.PersonHeader, "Who does it: a person's id."));
        operation.Parameters.Add(Header(Sender.KeyHeader, "A UUID; the same one on a retry changes once."));
        if (LooksAtState(operation, taken))
        {
            operation.Parameters.Add(Header("If-Match", "The ETag of what this was decided on."));
        }
    }

    // All refusals come from one place and have one form.
    private static void Refusals(OpenApiOperation operation, Type[] taken, OpenApiDocument document)
    {
        operation.Responses ??= [];
        if (operation.RequestBody is not null || operation.Parameters is { Count: > 0 })
        {
            Refuse("400", "It cannot be read: the detail names the member or the parameter.");
        }

        if (operation.Parameters?.Any(p => p.In == ParameterLocation.Path) == true)
        {
            Refuse("404", "There is nothing of this name or number.");
        }

        if (IsChange(operation, taken))
        {
            Refuse("401", "Nobody known sent this.");
            Refuse("403", "Another role decides this.");
            Refuse("409", "A rule of the bench forbids it now, or somebody was there first.");
            Refuse("422", "It can be read, and cannot be used as it is.");
        }

        if (LooksAtState(operation, taken))
        {
            Refuse("412", "It has changed since it was read; the detail says what.");
        }

        Refuse("500", "It failed here: the service's log has the reason under the trace.");
        Refuse("default", "Refused, or failed: nothing was recorded, and the detail says why and what to do.");

        void Refuse(string status, string description) =>
            operation.Responses[status] = new OpenApiResponse
            {
                Description = description,
                Content = new Dictionary<string, OpenApiMediaType>
                {
                    ["application/problem+json"] = new OpenApiMediaType
                    {
                        Schema = new OpenApiSchemaReference(ProblemName, document),
                    },
                },
            };
    }

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
