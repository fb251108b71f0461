using System.Reflection;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Revtal.Contracts;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Service.Orders;
using Revtal.Service.People;

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

                        await DescribeEventsAsync(document, context, cancel);
                        AsThemselves(document.Components!.Schemas!);
                        MemberWords.Describe(document.Components.Schemas!);
                    }
                );
                options.AddSchemaTransformer((schema, context, _) => Done(() => Values(schema, context)));
                options.AddOperationTransformer((operation, context, _) => Done(() => Describe(operation, context)));
            }
        );

    // Where a value may be null is each member's to say, whichever of them was described first.
    private static void AsThemselves(IDictionary<string, IOpenApiSchema> schemas)
    {
        foreach (var scalar in Scalars)
        {
            if (schemas.TryGetValue(scalar.Type.Name, out var found) && found is OpenApiSchema schema)
            {
                schema.Type = scalar.Json;
            }
        }
    }

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
        document.Servers = [new OpenApiServer { Url = "/", Description = "Where this was read." }];

        document.Security =
        [
            new OpenApiSecurityRequirement { [new OpenApiSecuritySchemeReference("token", document)] = [] },
            new OpenApiSecurityRequirement { [new OpenApiSecuritySchemeReference("cookie", document)] = [] },
        ];
        document.Tags = new HashSet<OpenApiTag>(
            Tags.Select(t => new OpenApiTag { Name = t.Key, Description = t.Value })
        );
        document.Components ??= new OpenApiComponents();
        document.Components.Schemas ??= new Dictionary<string, IOpenApiSchema>();
        document.Components.Schemas[ProblemName] = Problem();
        document.Components.SecuritySchemes = new Dictionary<string, IOpenApiSecurityScheme>
        {
            ["token"] = new OpenApiSecurityScheme
            {
                Type = SecuritySchemeType.Http,
                Scheme = "bearer",
                Description = "A program's token: POST /session with a tokenName, or POST /session/tokens.",
            },
            ["cookie"] = new OpenApiSecurityScheme
            {
                Type = SecuritySchemeType.ApiKey,
                In = ParameterLocation.Cookie,
                Name = Door.SafeCookie,
                Description = "A browser's sign-in. Changes are taken from the service's own pages only.",
            },
        };
    }

    // What is sent as an event is no body of an answer, so the framework does not see it.
    private static async Task DescribeEventsAsync(
        OpenApiDocument document,
        OpenApiDocumentTransformerContext context,
        CancellationToken cancel
    )
    {
        foreach (var type in (Type[])[typeof(ShopChange), typeof(HereView)])
        {
            document.AddComponent(type.Name, await context.GetOrCreateSchemaAsync(type, null, cancel));
        }

        var stream = document.Paths["/api/v1/changes"].Operations![HttpMethod.Get].Responses!["200"];
        stream.Content!["text/event-stream"].Schema = new OpenApiSchema
        {
            AnyOf =
            [
                new OpenApiSchemaReference(nameof(Change), document),
                new OpenApiSchemaReference(nameof(ShopChange), document),
                new OpenApiSchemaReference(nameof(HereView), document),
            ],
        };
    }

    private static readonly Dictionary<string, string> Tags = new()
    {
        ["board"] = "What lies on the bench now.",
        ["orders"] = "Work orders, from taking in to handing back.",
        ["readings"] = "What machines say of themselves, before and after.",
        ["bench"] = "The run: steps, gates, finds.",
        ["plan"] = "What is to be done: options, layout, fit.",
        ["quote"] = "What it costs, and what the customer said to it.",
        ["customer"] = "What the customer sees behind a link.",
        ["drives"] = "Copies of drives, and what becomes of old parts.",
        ["measuring"] = "Scores, the swap test, the watch.",
        ["parts"] = "The catalogue, the shelf and its ledger.",
        ["batches"] = "Machines of one model and customer that are worked on together.",
        ["arrivals"] = "Machines that tell of themselves before there is an order.",
        ["machines"] = "A machine over all of its visits.",
        ["guides"] = "What the bench knows of each model.",
        ["pictures"] = "Photos of orders and pictures of guides.",
        ["dummies"] = "Simulated machines.",
        ["notices"] = "What concerns whoever asks.",
        ["session"] = "Who is signed in, and how people come in.",
        ["shop"] = "The shop and its people.",
        ["live"] = "What changes, as it changes.",
    };

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

        if (
            schema.Type?.HasFlag(JsonSchemaType.Array) == true
            && Scalars.FirstOrDefault(s => s.Type == context.JsonTypeInfo.ElementType) is { } item
        )
        {
            schema.Items = new OpenApiSchema
            {
                Type = item.Json,
                Format = item.Format,
                Description = item.Description,
            };
        }

        // What follows from the rest is always there; the framework takes it for optional.
        foreach (var follows in context.JsonTypeInfo.Properties.Where(p => p.Set is null && p.Get is not null))
        {
            (schema.Required ??= new HashSet<string>()).Add(follows.Name);
            if (schema.Properties?[follows.Name] is OpenApiSchema described)
            {
                described.Type = follows.IsGetNullable
                    ? described.Type | JsonSchemaType.Null
                    : described.Type & ~JsonSchemaType.Null;
            }
        }
    }

    private static void Describe(OpenApiOperation operation, OpenApiOperationTransformerContext context)
    {
        var metadata = context.Description.ActionDescriptor.EndpointMetadata;
        var handler = metadata.OfType<MethodInfo>().FirstOrDefault()?.GetParameters() ?? [];
        var told = metadata.OfType<ApiFacts>().LastOrDefault() ?? new ApiFacts();
        var takes = handler.Select(p => p.ParameterType).ToHashSet();
        var path = context.Description.RelativePath!;

        // An order's changes look at its head; a take-in has nothing to look at yet.
        var isRecorded =
            takes.Contains(typeof(Sender))
            && takes.Contains(typeof(OrderDesk))
            && path.Contains("{number", StringComparison.Ordinal);
        var facts = told with
        {
            IsChange = told.IsChange || takes.Contains(typeof(Sender)),
            LooksAtState = told.LooksAtState || isRecorded,
        };
        Address(operation, handler, path);
        Headers(operation, facts, isRecorded);
        var right = metadata.OfType<Right>().Last();
        operation.Security = right.IsOpen ? [new OpenApiSecurityRequirement()] : null;
        Refusals(operation, facts, right, context.Description.HttpMethod != HttpMethods.Get, context.Document!);
        const string often = "Too often, or too much at once; Retry-After says when. Code `too-many`.";
        Refuse(operation, "429", often, context.Document!);
        Example(operation, facts, takes);
    }

    private static void Address(OpenApiOperation operation, ParameterInfo[] handler, string path)
    {
        var group = path.Split('/')[2];
        foreach (var parameter in operation.Parameters?.OfType<OpenApiParameter>() ?? [])
        {
            if (ApiParameters.Of(parameter.Name!, group) is not { } told)
            {
                throw new InvalidOperationException($"ApiParameters does not say what {parameter.Name} is.");
            }

            (parameter.Description, parameter.Example) = told;
            if (
                handler.FirstOrDefault(p => Parameters.Name(p) == parameter.Name) is { } bound
                && Word.All(bound.ParameterType) is { } words
            )
            {
                parameter.Schema = new OpenApiSchema
                {
                    Type = JsonSchemaType.String,
                    Enum = [.. words.Select(w => JsonValue.Create(w))],
                };
            }
        }
    }

    private static void Headers(OpenApiOperation operation, ApiFacts facts, bool isRecorded)
    {
        if (!facts.IsChange)
        {
            return;
        }

        operation.Parameters ??= [];
        operation.Parameters.Add(
            Header(
                Sender.KeyHeader,
                "A UUID; the same one on a retry changes once. It is remembered for 30 days.",
                "0199f3c2-5b1e-7c44-9d6a-2f6f6a1c9f10"
            )
        );
        if (facts.LooksAtState)
        {
            operation.Parameters.Add(Header("If-Match", "The ETag of what this was decided on.", "\"12\""));
        }

        if (isRecorded)
        {
            operation.Parameters.Add(
                Header(
                    Sender.SaidHeader,
                    "When it was said, by the sender's clock, where it waited for a network; with `Sent-At`.",
                    "2026-11-27T10:42:00Z"
                )
            );
            operation.Parameters.Add(
                Header(
                    Sender.SentHeader,
                    "What the same clock shows now: how long it waited is what counts.",
                    "2026-11-27T12:05:00Z"
                )
            );
        }
    }

    // All refusals come from one place and have one form.
    private static void Refusals(
        OpenApiOperation operation,
        ApiFacts facts,
        Right right,
        bool isUnsafe,
        OpenApiDocument document
    )
    {
        operation.Responses ??= [];
        var asked = operation.Parameters?.Any(p => p.In is ParameterLocation.Path or ParameterLocation.Query) == true;
        Refuse("400", "It cannot be read: the detail names the member or the parameter. Code `bad-request`.");
        if (asked || facts.IsChange || facts.MayBeMissing || (isUnsafe && facts.RefusesByRule))
        {
            Refuse("404", "There is nothing of this name or number. Codes `no-such-…`.");
        }

        if (asked)
        {
            // The listener itself says so, before anybody here reads it.
            operation.Responses["414"] = new OpenApiResponse { Description = "The address is longer than 8 KB." };
        }

        if (operation.RequestBody is not null)
        {
            Refuse("413", "It is larger than is taken here. Code `too-large`.");
            Refuse("415", "It is of another media type, or not in UTF-8. Code `media-type`.");
        }

        if (!right.IsOpen || (isUnsafe && facts.RefusesByRule))
        {
            Refuse("401", "Nobody known sent this. Codes `not-signed-in`, `wrong-password`.");
        }

        if (!right.IsOpen || isUnsafe)
        {
            Refuse(
                "403",
                "Another role does this, or another site sent it. Codes `lead-…`, `wall-looks`, `cross-site`."
            );
        }

        if (isUnsafe)
        {
            Refuse("503", "The store cannot be written. Code `store-failed`.");
            Refuse("507", "The disk is full. Code `disk-full`.");
        }

        if (facts.IsChange || facts.RefusesByRule)
        {
            Refuse("409", "A rule of the bench forbids it now, or somebody was there first. The code names the rule.");
            Refuse("422", "It can be read, and cannot be used as it is. The code names what is wrong.");
        }

        if (facts.LooksAtState)
        {
            Refuse("412", "It has changed since it was read; the detail says what. Code `stale`.");
        }

        Refuse("500", "It failed here: the service's log has the reason under the traceId. Code `failed`.");
        Refuse("default", "Refused, or failed: nothing was recorded, and the detail says why and what to do.");

        void Refuse(string status, string description) =>
            ApiDescription.Refuse(operation, status, description, document);
    }

    private static void Refuse(
        OpenApiOperation operation,
        string status,
        string description,
        OpenApiDocument document
    ) =>
        operation.Responses![status] = new OpenApiResponse
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

    private static void Example(OpenApiOperation operation, ApiFacts facts, IEnumerable<Type> takes)
    {
        if (operation.RequestBody?.Content is { } content && content.TryGetValue("application/json", out var json))
        {
            var told =
                facts.Example
                ?? takes.Select(t => t.GetCustomAttribute<ExampleAttribute>()?.Json).FirstOrDefault(e => e is not null)
                ?? throw new InvalidOperationException($"Nothing shows what {operation.OperationId} takes.");
            json.Example = JsonNode.Parse(told);
        }
    }

    // RFC 9457, with what Problems adds.
    private static OpenApiSchema Problem() =>
        new()
        {
            Type = JsonSchemaType.Object,
            Description = "RFC 9457.",
            Required = new HashSet<string> { "type", "title", "status", "detail", "code" },
            Properties = new Dictionary<string, IOpenApiSchema>
            {
                ["type"] = Text("urn:revtal: and the code."),
                ["title"] = Text("What sort of refusal it is."),
                ["status"] = new OpenApiSchema { Type = JsonSchemaType.Integer, Description = "The HTTP status." },
                ["detail"] = Text("Why, and what to do instead."),
                ["code"] = Text("A stable short name of the rule, for scripts: power-not-isolated."),
                ["traceId"] = Text("What the service's log calls this request."),
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

    private static OpenApiParameter Header(string name, string description, string example) =>
        new()
        {
            Name = name,
            In = ParameterLocation.Header,
            Description = description,
            Example = example,
            Schema = new OpenApiSchema { Type = JsonSchemaType.String },
        };
}
