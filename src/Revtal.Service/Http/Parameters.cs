using System.Globalization;
using System.Reflection;
using Microsoft.AspNetCore.Mvc;
using Revtal.Core;
using Revtal.Core.Guides;

namespace Revtal.Service.Http;

/// <summary>What stands in an address: which part of it cannot be read, where the framework says only that one
/// cannot.</summary>
internal static class Parameters
{
    /// <summary>An endpoint filter.</summary>
    /// <exception cref="BadHttpRequestException">A parameter of the path or the query is not what it should
    /// be.</exception>
    public static ValueTask<object?> CheckAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var http = context.HttpContext;
        foreach (var (name, texts) in http.Request.Query)
        {
            NoGaps.NeedKept(texts.ToString(), $"The parameter {Words.Plain(name)}");
        }

        if (http.Response.StatusCode != StatusCodes.Status400BadRequest)
        {
            return next(context);
        }

        var wrong = http.GetEndpoint()
            ?.Metadata.GetMetadata<MethodInfo>()
            ?.GetParameters()
            .Select(p => WhyNot(http, p))
            .FirstOrDefault(why => why is not null);
        throw new BadHttpRequestException(wrong ?? "A part of the address is missing or cannot be read.");
    }

    /// <summary>How a parameter of a handler is called in an address.</summary>
    public static string Name(ParameterInfo parameter) =>
        parameter.GetCustomAttribute<FromQueryAttribute>()?.Name ?? parameter.Name!;

    private static Type Plain(Type type) => Nullable.GetUnderlyingType(type) ?? type;

    private static string? WhyNot(HttpContext http, ParameterInfo parameter)
    {
        var name = Name(parameter);
        var text = http.Request.RouteValues.TryGetValue(name, out var routed)
            ? routed?.ToString()
            : http.Request.Query[name].FirstOrDefault();
        return (text, Wanted(Plain(parameter.ParameterType))) switch
        {
            (null, not null) when !parameter.HasDefaultValue => $"The parameter {name} is missing.",
            ({ } told, { } wanted) when !wanted.IsMet(told) =>
                $"The parameter {name} wants {wanted.InWords}, not “{Words.Plain(told)}”.",
            _ => null,
        };
    }

    private sealed record Want(string InWords, Predicate<string> IsMet);

    // Null for what does not come from an address.
    private static Want? Wanted(Type type) =>
        Word.All(type) is { } words ? new($"one of {Phrases.Listed(words)}", words.Contains)
        : type == typeof(string) ? new("a text", _ => true)
        : type == typeof(bool) ? new("true or false", t => bool.TryParse(t, out _))
        : type == typeof(int) ? new("a whole number", t => int.TryParse(t, CultureInfo.InvariantCulture, out _))
        : type == typeof(long) ? new("a whole number", t => long.TryParse(t, CultureInfo.InvariantCulture, out _))
        : type == typeof(decimal) ? new("a number", t => decimal.TryParse(t, CultureInfo.InvariantCulture, out _))
        : type == typeof(StepId) ? new("a step, such as open.hatch", t => StepId.TryParse(t, null, out _))
        : null;
}
