using System.Text.Json.Nodes;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>A thousand requests made up from the API's description, at a shop that is full of work.</summary>
public sealed class ApiFuzzTests
{
    private const int Requests = 1800;

    [Fact]
    public async Task Every_answer_is_one_that_the_description_tells_and_none_is_a_failure()
    {
        await using var service = await ServiceProcess.StartAsync(
            Directory.CreateTempSubdirectory("revtal-fuzz-").FullName,
            program: "revtal-demo"
        );
        var api = (JsonObject)JsonNode.Parse(await File.ReadAllTextAsync(Repository.At("docs", "openapi.json")))!;
        var fuzz = new ApiFuzz(api, seed: 20260302, service);
        var met = new HashSet<string>();
        var accepted = new HashSet<string>();
        var faults = new List<string>();
        for (var i = 0; i < Requests; i++)
        {
            var (operation, request) = fuzz.Next();
            using (request)
            {
                using var answer = await service.Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
                met.Add(operation.Name);
                if (answer.Content.Headers.ContentType?.MediaType == "text/event-stream")
                {
                    continue;
                }

                if (answer.IsSuccessStatusCode)
                {
                    accepted.Add(operation.Name);
                }

                if (fuzz.Fault(operation, answer, await answer.Content.ReadAsStringAsync()) is { } fault)
                {
                    faults.Add($"{i} {operation.Method} {request.RequestUri} {fault}");
                }
            }
        }

        Assert.True(faults.Count == 0, $"{faults.Count} faults:\n{string.Join('\n', faults.Take(40))}");
        Assert.Equal(fuzz.Operations, met.Count);

        // It does not only knock: much of what it asks for is done.
        Assert.InRange(accepted.Count, fuzz.Operations / 3, fuzz.Operations);
        Assert.DoesNotContain(" failed\"", service.Log, StringComparison.Ordinal);
    }
}
