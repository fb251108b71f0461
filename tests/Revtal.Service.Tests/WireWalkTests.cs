using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>
/// Every operation of the API's own description, sent what it should refuse: the description says which members there
/// must be, the service must think so too, and nothing is made up for what was left out.
/// </summary>
public sealed class WireWalkTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private static readonly JsonObject Api = (JsonObject)
        JsonNode.Parse(File.ReadAllText(Repository.At("docs", "openapi.json")))!;

    public static TheoryData<string> Operations => [.. Bodies.Keys];

    private static readonly Dictionary<string, (string Method, string Path, JsonNode Schema)> Bodies = (
        from path in Api["paths"]!.AsObject()
        from operation in path.Value!.AsObject()
        let schema = operation.Value!["requestBody"]?["content"]?["application/json"]?["schema"]
        where schema is not null && operation.Key != "get"
        select (
            (string)operation.Value!["operationId"]!,
            (operation.Key.ToUpperInvariant(), Filled(path.Key), Resolved(schema))
        )
    ).ToDictionary(o => o.Item1, o => o.Item2);

    [Fact]
    public void The_walk_meets_every_operation_that_takes_json() => Assert.True(Bodies.Count > 40, $"{Bodies.Count}");

    [Theory]
    [MemberData(nameof(Operations))]
    public async Task What_is_left_out_is_refused(string operation) =>
        await AllRefused(
            operation,
            (body, place) => body.Remove(place.Member),
            Places(operation).Where(p => p.IsNeeded)
        );

    [Theory]
    [MemberData(nameof(Operations))]
    public async Task Null_where_none_may_stand_is_refused(string operation) =>
        await AllRefused(
            operation,
            (body, place) => body[place.Member] = null,
            Places(operation).Where(p => !p.MayBeNull)
        );

    [Theory]
    [MemberData(nameof(Operations))]
    public async Task What_nobody_knows_is_refused(string operation) =>
        await AllRefused(
            operation,
            (body, _) => body["surprise"] = 1,
            Places(operation).DistinctBy(p => string.Join('/', p.Path)).Append(new([], "", false, true))
        );

    [Theory]
    [MemberData(nameof(Operations))]
    public async Task A_gap_in_a_list_is_refused(string operation) =>
        await AllRefused(
            operation,
            (body, place) => ((JsonArray)body[place.Member]!).Add(null),
            Places(operation).Where(p => p.IsList)
        );

    private async Task AllRefused(string operation, Action<JsonObject, Place> spoil, IEnumerable<Place> places)
    {
        var (method, path, schema) = Bodies[operation];
        foreach (var place in places)
        {
            var body = Sample(schema, 0)!.AsObject();
            spoil(Inside(body, place.Path), place);
            using var request = new HttpRequestMessage(new HttpMethod(method), $"api/v1{path}")
            {
                Content = new StringContent(body.ToJsonString(), Encoding.UTF8, "application/json"),
            };
            request.Headers.Authorization = fixture.Service.Bearer("ines");
            using var answer = await fixture.Service.Http.SendAsync(request);
            var told = await answer.Content.ReadAsStringAsync();
            var where = $"{operation} {string.Join('.', [.. place.Path, place.Member])}: {told}";
            Assert.True(answer.StatusCode == HttpStatusCode.BadRequest, $"{(int)answer.StatusCode} {where}");
            var problem = JsonNode.Parse(told)!;
            Assert.Equal("bad-request", (string?)problem["code"]);
            Assert.Matches(@"at (its top|\$)|^\$", (string)problem["detail"]!);
        }
    }

    /// <summary>One member of a body.</summary>
    /// <param name="Path">Of the map it stands in; numbers are places in a list.</param>
    private sealed record Place(string[] Path, string Member, bool IsNeeded, bool MayBeNull, bool IsList = false);

    private static IEnumerable<Place> Places(string operation) => Places(Bodies[operation].Schema, [], 0);

    private static IEnumerable<Place> Places(JsonNode schema, string[] path, int depth)
    {
        var needed = schema["required"]?.AsArray().Select(r => (string)r!).ToHashSet() ?? [];
        foreach (var (name, raw) in schema["properties"]?.AsObject() ?? [])
        {
            if (IsAnswerOnly(raw!))
            {
                continue;
            }

            var own = Resolved(raw!);
            var types = Types(raw!);
            yield return new Place(path, name, needed.Contains(name), types.Contains("null"), types.Contains("array"));
            if (depth > 3)
            {
                continue;
            }

            var (inner, step) = types.Contains("array")
                ? (Resolved(own["items"]!), (string[])[name, "0"])
                : (own, [name]);
            if (inner["properties"] is not null)
            {
                foreach (var place in Places(inner, [.. path, .. step], depth + 1))
                {
                    yield return place;
                }
            }
        }
    }

    // A body with every member, as small as it can be.
    private static JsonNode? Sample(JsonNode raw, int depth)
    {
        var schema = Resolved(raw);
        if (schema["enum"] is JsonArray words)
        {
            return words.First(w => w is not null)!.DeepClone();
        }

        if (schema["properties"] is JsonObject members)
        {
            var body = new JsonObject();
            foreach (var (name, member) in members)
            {
                if (!IsAnswerOnly(member!) && (depth < 5 || !Types(member!).Contains("null")))
                {
                    body[name] = Sample(member!, depth + 1);
                }
            }

            return body;
        }

        var types = Types(raw);
        return types switch
        {
            _ when types.Contains("array") => new JsonArray(Sample(schema["items"]!, depth + 1)),
            _ when types.Contains("object") => new JsonObject(),
            _ when types.Contains("boolean") => true,
            _ when types.Contains("integer") || types.Contains("number") => 1,
            _ when (string?)schema["format"] == "date" => "2026-03-02",
            _ when (string?)schema["format"] == "date-time" => "2026-03-02T09:30:00Z",
            _ => "x",
        };
    }

    private static JsonObject Inside(JsonObject body, string[] path)
    {
        JsonNode at = body;
        foreach (var step in path)
        {
            at = at is JsonArray list ? list[int.Parse(step, null)]! : at[step]!;
        }

        return at.AsObject();
    }

    private static bool IsAnswerOnly(JsonNode schema) => (bool?)schema["readOnly"] is true;

    private static string[] Types(JsonNode raw)
    {
        string[] own = raw["oneOf"] is JsonArray any ? [.. any.SelectMany(o => Types(o!))] : [];
        var schema = raw["$ref"] is null ? raw : Resolved(raw);
        return
        [
            .. own,
            .. schema["type"] switch
            {
                JsonArray many => many.Select(t => (string)t!),
                { } one => [(string)one!],
                null => [],
            },
        ];
    }

    private static JsonNode Resolved(JsonNode schema)
    {
        if (schema["oneOf"] is JsonArray any)
        {
            return Resolved(any.First(o => (string?)o!["type"] != "null")!);
        }

        return (string?)schema["$ref"] is { } pointer
            ? Api["components"]!["schemas"]![pointer.Split('/')[^1]]!
            : schema;
    }

    private static string Filled(string path) =>
        System.Text.RegularExpressions.Regex.Replace(
            path.Replace("/api/v1", "", StringComparison.Ordinal),
            @"\{(\w+)\}",
            m =>
                m.Groups[1].Value switch
                {
                    "number" or "batch" or "sequence" or "order" or "kit" => "101",
                    "id" when path.Contains("items", StringComparison.Ordinal) => "101",
                    "step" => "isolate.unplug",
                    _ => "x",
                }
        );
}
