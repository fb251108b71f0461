using System.Collections;
using System.Collections.Concurrent;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;

namespace Revtal.Service.Http;

/// <summary>
/// A list that was sent has no gaps, and no text the sign U+0000, which no store keeps. The JSON reader proves every
/// member of an object, but lets null stand in a list.
/// </summary>
internal static class NoGaps
{
    private const string Ours = "Revtal.";
    private static readonly ConcurrentDictionary<Type, bool> Walked = new();

    /// <summary>An endpoint filter: looks through what the request's body held.</summary>
    /// <exception cref="BadHttpRequestException">A list or a map holds null, or a text U+0000; the message has its
    /// path.</exception>
    public static ValueTask<object?> CheckAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        JsonSerializerOptions? options = null;
        foreach (var argument in context.Arguments)
        {
            if (argument?.GetType() is { Namespace: "Revtal.Contracts" } type)
            {
                options ??= context.HttpContext.RequestServices.GetRequiredService<WireJson>().Strict;
                Walk(argument, options.GetTypeInfo(type), "$");
            }
        }

        return next(context);
    }

    private static void Walk(object value, JsonTypeInfo info, string path)
    {
        switch (info.Kind)
        {
            case JsonTypeInfoKind.Object:
                foreach (var member in info.Properties.Where(p => p is { Get: not null, Set: not null } || IsSent(p)))
                {
                    if (Holds(member.PropertyType) && member.Get?.Invoke(value) is { } held)
                    {
                        Item(held, info.Options, $"{path}.{member.Name}");
                    }
                }

                break;
            case JsonTypeInfoKind.Enumerable:
                var at = 0;
                foreach (var item in (IEnumerable)value)
                {
                    Item(item, info.Options, $"{path}[{at++}]");
                }

                break;
            case JsonTypeInfoKind.Dictionary:
                foreach (DictionaryEntry pair in (IDictionary)value)
                {
                    Item(pair.Value, info.Options, $"{path}.{pair.Key}");
                }

                break;
        }
    }

    private static void Item(object? item, JsonSerializerOptions options, string path)
    {
        if (item is null)
        {
            throw new BadHttpRequestException($"{path} is null: a list or a map has no gaps. Leave it out.");
        }

        if (item is string text)
        {
            NeedKept(text, path);
        }
        else if (Holds(item.GetType()))
        {
            Walk(item, options.GetTypeInfo(item.GetType()), path);
        }
    }

    // What a constructor takes has no setter; what only follows from the rest was not sent.
    private static bool IsSent(JsonPropertyInfo member) => member.AssociatedParameter is not null;

    /// <exception cref="BadHttpRequestException">The text has the sign.</exception>
    public static void NeedKept(string text, string path)
    {
        if (text.Contains('\0', StringComparison.Ordinal))
        {
            throw new BadHttpRequestException($"{path} holds the sign U+0000, which no store keeps. Leave it out.");
        }
    }

    // Whether there can be a list or a text in it at all.
    private static bool Holds(Type type) =>
        Walked.GetOrAdd(
            type,
            static t =>
                (typeof(IEnumerable).IsAssignableFrom(t) || t.FullName!.StartsWith(Ours, StringComparison.Ordinal))
                && !t.IsEnum
        );
}
