using System.Text.Json.Nodes;
using Revtal.Tests;

namespace Revtal.Bench;

/// <summary>Fifty thousand requests made up from the API's own description, at the demo shop.</summary>
internal static class ApiFuzzBench
{
    private const int Requests = 50_000;
    private const int Clients = 4;

    public static async Task RunAsync(Report report)
    {
        var folder = Directory.CreateTempSubdirectory("revtal-fuzz-").FullName;
        var api = (JsonObject)JsonNode.Parse(await File.ReadAllTextAsync(Repository.At("docs", "openapi.json")))!;
        var seed = Environment.TickCount;
        int faults = 0,
            done = 0;
        long most = 0;
        await using (var service = await ServiceProcess.StartAsync(folder, program: "revtal-demo"))
        {
            await Task.WhenAll(
                Enumerable
                    .Range(0, Clients)
                    .Select(c => Task.Run(() => ClientAsync(service, new ApiFuzz(api, seed + c, service))))
            );
        }

        Directory.Delete(folder, recursive: true);
        report.Tell(
            $"made-up requests, seed {seed}",
            $"{done:N0} requests, {faults} faults, {most >> 20} MB at most",
            "no fault",
            faults == 0
        );

        async Task ClientAsync(ServiceProcess service, ApiFuzz fuzz)
        {
            for (var i = 0; i < Requests / Clients; i++)
            {
                var (operation, request) = fuzz.Next();
                using (request)
                {
                    using var answer = await service.Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
                    Interlocked.Increment(ref done);
                    most = Math.Max(most, done % 1000 == 0 ? service.ResidentBytes : 0);
                    if (
                        answer.Content.Headers.ContentType?.MediaType != "text/event-stream"
                        && fuzz.Fault(operation, answer, await answer.Content.ReadAsStringAsync()) is { } fault
                        && Interlocked.Increment(ref faults) <= 10
                    )
                    {
                        Console.Error.WriteLine($"{operation.Method} {request.RequestUri} {fault}");
                    }
                }
            }
        }
    }
}
