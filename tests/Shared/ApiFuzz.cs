using System.Globalization;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Revtal.Tests;

/// <summary>
/// Requests made up from the API's own description, most of them nearly right, and what the description says of the
/// answers. The seed decides everything.
/// </summary>
internal sealed class ApiFuzz(JsonObject api, int seed, ServiceProcess service)
{
    private static readonly string[] Texts =
    [
        "x",
        "",
        " ",
        "16 GB",
        "1 TB",
        "FJ14",
        "S1",
        "D1",
        "A1",
        "mara",
        "isolate.unplug",
        "open.hatch",
        "next",
        "OS4U-16G",
        "as planned",
        "0 GB",
        "-1 GB",
        "99999999999999999999 TB",
        "\u202E\u0007\u001B]0;x",
        "\0",
        "語\U0001F527",
        "'; DROP TABLE entries; --",
        "../../etc/passwd",
        "2026-03-02",
        "2026-03-02T09:30:00Z",
        "9999-12-31T23:59:59Z",
        "0001-01-01T00:00:00Z",
        new('W', 300),
        new('a', 5000),
    ];

    // The server itself does not take a zero in an address, and nothing between two slashes is another address.
    private static readonly string[] Addresses = [.. Texts.Where(t => t.Trim() != "" && t != "\0")];
    private static readonly double[] Numbers = [0, 1, 2, 3, -1, 99, 1000, int.MaxValue, 1e15, 1e300, 0.5, -0.01];

    private readonly Random random = new(seed);
    private readonly Operation[] operations =
    [
        .. from path in api["paths"]!.AsObject()
        from method in path.Value!.AsObject()
        select new Operation(method.Key.ToUpperInvariant(), path.Key, method.Value!.AsObject()),
    ];
    private Guid lastKey = new(seed, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10);
    private Queue<Operation> round = [];

    /// <summary>How many operations the description has.</summary>
    public int Operations => operations.Length;

    /// <summary>One operation as it is described.</summary>
    public sealed record Operation(string Method, string Path, JsonObject Said)
    {
        public string Name => (string)Said["operationId"]!;
    }

    /// <summary>The next request, and the operation that it is for.</summary>
    public (Operation Operation, HttpRequestMessage Request) Next()
    {
        if (round.Count == 0)
        {
            // Each as often as any other, so that none is left out by chance.
            var next = operations.ToArray();
            random.Shuffle(next);
            round = new Queue<Operation>(next);
        }

        var operation = round.Dequeue();
        var parameters = operation.Said["parameters"]?.AsArray().Select(p => p!.AsObject()).ToArray() ?? [];
        var path = Regex.Replace(
            operation.Path,
            @"\{(\w+)\}",
            m => Uri.EscapeDataString(Word(m.Groups[1].Value, operation.Path))
        );
        var query = parameters
            .Where(p => (string)p["in"]! == "query" && Chance(60))
            .Select(p => $"{p["name"]}={Uri.EscapeDataString(Word((string)p["name"]!, operation.Path, p["schema"]))}")
            .ToArray();
        var request = new HttpRequestMessage(
            new HttpMethod(operation.Method),
            (query.Length > 0 ? $"{path}?{string.Join('&', query)}" : path).TrimStart('/')
        );
        // Who signs out is gone for the rest.
        var who = operation.Name == "signOut" ? "nobody" : Pick(["ines", "ines", "mara", "sanne", "nobody"]);
        request.Headers.Authorization = service.Bearer(who);
        foreach (var header in parameters.Where(p => (string)p["in"]! == "header" && Chance(85)))
        {
            request.Headers.TryAddWithoutValidation((string)header["name"]!, Header((string)header["name"]!));
        }

        if (operation.Said["requestBody"]?["content"] is JsonObject content)
        {
            var (type, media) = Pick([.. content]);
            request.Content = Body(Chance(97) ? type : "text/plain", media!["schema"]);
        }

        return (operation, request);
    }

    /// <summary>What is wrong with an answer; null for nothing.</summary>
    public string? Fault(Operation operation, HttpResponseMessage answer, string body)
    {
        var status = ((int)answer.StatusCode).ToString(CultureInfo.InvariantCulture);
        if (answer.StatusCode >= System.Net.HttpStatusCode.InternalServerError)
        {
            return $"{status}: {body}";
        }

        if (operation.Said["responses"]?[status] is not JsonObject said)
        {
            return $"{status} is not described: {body}";
        }

        var media = answer.Content.Headers.ContentType?.MediaType;
        if (said["content"] is not JsonObject content)
        {
            return body.Length == 0 ? null : $"{status} has a body that is not described";
        }

        if (media is null || content[media] is not JsonObject described)
        {
            return $"{status} came as {media}, described is {string.Join(", ", content.Select(c => c.Key))}";
        }

        if (!media.EndsWith("json", StringComparison.Ordinal) || described["schema"] is not { } schema)
        {
            return null;
        }

        var told = JsonNode.Parse(body);
        return !answer.IsSuccessStatusCode && told?["code"] is null ? $"{status} without a code: {body}"
            : Unlike(told, schema, "$", 0) is { } where ? $"{status} is not as described at {where}: {Short(body)}"
            : null;
    }

    private HttpContent Body(string type, JsonNode? schema)
    {
        var content = type switch
        {
            "application/json" => new StringContent(
                Chance(97) ? Spoiled(Value(schema!, 0))?.ToJsonString() ?? "null" : Pick(["{", "[]", "", "\uFEFF{}"]),
                Encoding.UTF8
            ),
            "text/csv" => new StringContent(
                Pick([
                    "number,serial\nOS4U-16G,Z1\n",
                    "number\n",
                    "",
                    "a;b\n",
                    "number,name,what,size,price\nZ,Z,module,8 GB,1",
                ])
            ),
            _ => (HttpContent)new ByteArrayContent(Noise()),
        };
        content.Headers.ContentType = MediaTypeHeaderValue.Parse(
            type.EndsWith("/*", StringComparison.Ordinal) ? "image/png" : type
        );
        return content;
    }

    private byte[] Noise()
    {
        var bytes = new byte[random.Next(200)];
        random.NextBytes(bytes);
        return bytes;
    }

    // A body as it should be, and now and then one thing in it that should not.
    private JsonNode? Spoiled(JsonNode? body)
    {
        if (body is JsonObject map && map.Count > 0 && Chance(25))
        {
            var member = Pick([.. map.Select(m => m.Key)]);
            switch (random.Next(4))
            {
                case 0:
                    map.Remove(member);
                    break;
                case 1:
                    map[member] = null;
                    break;
                case 2:
                    map[member] = Pick<Func<JsonNode?>>([
                        () => 7,
                        () => "7",
                        () => true,
                        () => JsonNode.Parse("[null]"),
                        () => new JsonObject(),
                    ])();
                    break;
                default:
                    map["surprise"] = 1;
                    break;
            }
        }

        return body;
    }

    private JsonNode? Value(JsonNode raw, int depth)
    {
        if (raw["oneOf"] is JsonArray any)
        {
            return Value(Pick([.. any])!, depth);
        }

        var schema = Resolved(raw);
        if (schema["enum"] is JsonArray words)
        {
            return Chance(97) ? Pick([.. words])?.DeepClone() : "no-such-word";
        }

        var types = Types(schema);
        if (types.Length == 0 || (types.Contains("null") && Chance(40)) || depth > 8)
        {
            return null;
        }

        switch (Pick([.. types.Where(t => t != "null").DefaultIfEmpty("null")]))
        {
            case "object":
                var body = new JsonObject();
                var needed = schema["required"]?.AsArray().Select(r => (string)r!).ToHashSet() ?? [];
                foreach (var (name, member) in schema["properties"]?.AsObject() ?? [])
                {
                    if ((bool?)member!["readOnly"] is not true && (needed.Contains(name) || Chance(60)))
                    {
                        body[name] = Value(member, depth + 1);
                    }
                }

                return body;
            case "array":
                return new JsonArray(
                    Enumerable.Range(0, random.Next(3)).Select(_ => Value(schema["items"]!, depth + 1)).ToArray()
                );
            case "boolean":
                return Chance(50);
            case "integer":
                return Chance(80) ? random.Next(12) : (long)Math.Clamp(Pick(Numbers), long.MinValue, long.MaxValue);
            case "number":
                return Pick(Numbers);
            case "string":
                return Pick(Texts);
            default:
                return null;
        }
    }

    private string Word(string name, string path, JsonNode? schema = null) =>
        Chance(8)
            ? Pick(Addresses)
            : name switch
            {
                "number" when path.Contains("/parts/", StringComparison.Ordinal) => Pick(["OS4U-16G", "BN-1T", "Z"]),
                "batch" => Pick(["125", "125", "126"]),
                "number" or "order" => random.Next(100, 122).ToString(CultureInfo.InvariantCulture),
                "sequence" or "id" or "kit" or "item" or "after" or "limit" or "revision" or "from" or "to" => random
                    .Next(-1, 30)
                    .ToString(CultureInfo.InvariantCulture),
                "step" => Pick([
                    "prepare.bench",
                    "isolate.unplug",
                    "open.hatch",
                    "pull.S2",
                    "fit.A1",
                    "start.power-on",
                ]),
                "code" => Pick(["FJ14", "NS13", "PW24", "QT40", "QW80", "TB6", "NM2", "NL12"]),
                "slot" or "bay" or "position" => Pick(["S1", "S2", "A1", "A2", "B1", "D1", "B3", "M1"]),
                "target" or "text" => Pick(["16 GB", "32 GB", "module", "FJ14"]),
                _ when schema is not null && Resolved(schema)["enum"] is JsonArray words => (string?)Pick([.. words])
                    ?? "",
                _ => Pick(Addresses),
            };

    private string Header(string name)
    {
        switch (name)
        {
            case "Idempotency-Key":
                if (Chance(90))
                {
                    lastKey = new Guid(random.Next(), 1, 2, [3, 4, 5, 6, 7, 8, 9, 0]);
                }

                return Chance(97) ? lastKey.ToString() : "7";
            default:
                return Pick(["\"3\"", "*", "W/\"9\"", "x", "\"1\", \"2\""]);
        }
    }

    // Where a value is not what the schema says; null where it is.
    private string? Unlike(JsonNode? value, JsonNode raw, string at, int depth)
    {
        if (raw["oneOf"] is JsonArray any)
        {
            var whys = any.Select(o => Unlike(value, o!, at, depth)).ToArray();
            return whys.Contains(null) ? null : whys[^1];
        }

        var schema = Resolved(raw);
        var types = Types(schema);
        var kind = value switch
        {
            null => "null",
            JsonObject => "object",
            JsonArray => "array",
            _ => value.GetValueKind() switch
            {
                System.Text.Json.JsonValueKind.String => "string",
                System.Text.Json.JsonValueKind.Number => "number",
                _ => "boolean",
            },
        };
        if (types.Length > 0 && !types.Contains(kind) && !(kind == "number" && types.Contains("integer")))
        {
            return $"{at}, {kind} for {string.Join("|", types)}";
        }

        if (schema["enum"] is JsonArray words && !words.Any(w => JsonNode.DeepEquals(w, value)))
        {
            return $"{at}, {value} is none of its words";
        }

        if (depth > 12)
        {
            return null;
        }

        if (value is JsonArray list && schema["items"] is { } items)
        {
            return list.Select((v, i) => Unlike(v, items, $"{at}[{i}]", depth + 1)).FirstOrDefault(w => w is not null);
        }

        if (value is not JsonObject map || schema["properties"] is not JsonObject members)
        {
            return null;
        }

        return schema["required"]?.AsArray().Select(r => (string)r!).FirstOrDefault(r => !map.ContainsKey(r))
                is { } gone
                ? $"{at}.{gone}, missing"
            : map.FirstOrDefault(m => !members.ContainsKey(m.Key)) is { Key: { } more } ? $"{at}.{more}, not described"
            : map.Select(m => Unlike(m.Value, members[m.Key]!, $"{at}.{m.Key}", depth + 1))
                .FirstOrDefault(w => w is not null);
    }

    private JsonNode Resolved(JsonNode schema) =>
        (string?)schema["$ref"] is { } pointer ? api["components"]!["schemas"]![pointer.Split('/')[^1]]! : schema;

    private static string[] Types(JsonNode schema) =>
        schema["type"] switch
        {
            JsonArray many => [.. many.Select(t => (string)t!)],
            { } one => [(string)one!],
            null => [],
        };

    private T Pick<T>(IReadOnlyList<T> from) => from[random.Next(from.Count)];

    private bool Chance(int percent) => random.Next(100) < percent;

    private static string Short(string text) => text.Length > 400 ? $"{text[..400]}…" : text;
}
