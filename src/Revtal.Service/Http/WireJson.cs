using Microsoft.AspNetCore.Http.Json;
using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.Service.Http;

/// <summary>The JSON of the wire: strict in what it takes.</summary>
internal static class WireJson
{
    /// <summary>
    /// The options, ready at once. What the contracts look like is found out on another core meanwhile: the first
    /// answer would wait for all of it.
    /// </summary>
    public static JsonOptions Begin()
    {
        var json = new JsonOptions();
        RevtalJson.ConfigureStrict(json.SerializerOptions);
        json.SerializerOptions.MakeReadOnly(populateMissingResolver: true);
        ThreadPool.QueueUserWorkItem(_ =>
        {
            foreach (var shape in typeof(TakeInRequest).Assembly.GetExportedTypes())
            {
                if (shape is { IsClass: true, IsAbstract: false, IsGenericTypeDefinition: false })
                {
                    json.SerializerOptions.TryGetTypeInfo(shape, out var _);
                }
            }
        });
        return json;
    }
}
