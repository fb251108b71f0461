using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Storage;

namespace Revtal.Service.Http;

/// <summary>Everything that goes wrong, as RFC 9457 problem details that say what to do.</summary>
public sealed partial class Problems(IProblemDetailsService details, ILogger<Problems> log) : IExceptionHandler
{
    private const string MediaType =
        "Send what this takes, in UTF-8, and say so with Content-Type: JSON mostly; application/yaml for guides, "
        + "image/* for pictures, application/zip for a library.";

    private const string TooLarge =
        "The request is larger than is taken here. A library may have 64 MB, lists of hashes 48 MB, a guide "
        + "of another shop 32 MB, a capture 16 MB, a picture 12 MB, a table of parts 8 MB, anything else 1 MB.";

    // Seconds. A database that begins anew takes about as long.
    private const string ComesBack = "2";

    public async ValueTask<bool> TryHandleAsync(
        HttpContext httpContext,
        Exception exception,
        CancellationToken cancellationToken
    )
    {
        var problem = Of(exception);
        if (problem.Status >= 500)
        {
            // A code or a link in the path is a secret.
            log.LogError(
                exception,
                "{Method} {Route} failed",
                httpContext.Request.Method,
                (httpContext.GetEndpoint() as RouteEndpoint)?.RoutePattern.RawText ?? "no route"
            );
        }

        if (problem.Status == StatusCodes.Status503ServiceUnavailable)
        {
            httpContext.Response.Headers.RetryAfter = ComesBack;
        }

        httpContext.Response.StatusCode = problem.Status!.Value;
        return await details.TryWriteAsync(
            new ProblemDetailsContext { HttpContext = httpContext, ProblemDetails = problem }
        );
    }

    /// <summary>What the framework refuses by itself gets a code and what to do as well.</summary>
    public static void Complete(ProblemDetailsContext context)
    {
        var problem = context.ProblemDetails;
        if (problem.Extensions.ContainsKey("code"))
        {
            return;
        }

        var (code, title, detail) = context.HttpContext.Response.StatusCode switch
        {
            StatusCodes.Status404NotFound => (
                "no-such-path",
                "Not found",
                $"There is nothing at {context.HttpContext.Request.Path}. /openapi/v1.json has all there is."
            ),
            StatusCodes.Status405MethodNotAllowed => (
                "method",
                "Not done this way",
                $"{context.HttpContext.Request.Method} does nothing here. The header Allow says what does."
            ),
            StatusCodes.Status413PayloadTooLarge => ("too-large", "Too large", TooLarge),
            StatusCodes.Status415UnsupportedMediaType => ("media-type", "Wrong media type", MediaType),
            StatusCodes.Status429TooManyRequests => (
                "too-many",
                "Too many at once",
                "This came too often, or too much of it at once. The header Retry-After says in how many seconds to "
                    + "try again."
            ),
            _ => ("bad-request", "The request cannot be read", problem.Detail ?? "Send it as /openapi/v1.json tells."),
        };
        (problem.Type, problem.Title, problem.Detail) = ($"urn:revtal:{code}", title, detail);
        problem.Extensions["code"] = code;
    }

    private static ProblemDetails Of(Exception exception) =>
        exception switch
        {
            RefusedException r => Make(
                Status(r.Kind),
                r.Code,
                Title(r.Kind),
                r.Message,
                ("answers", RefusalAnswers.To(r.Code))
            ),
            NotSignedInException n => Make(
                StatusCodes.Status401Unauthorized,
                n.Code,
                "Nobody known sent this",
                n.Message
            ),
            StaleException s => Make(
                StatusCodes.Status412PreconditionFailed,
                "stale",
                "The order has changed",
                s.Message,
                ("head", s.Head)
            ),
            BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => Make(
                StatusCodes.Status413PayloadTooLarge,
                "too-large",
                "Too large",
                TooLarge
            ),
            BadHttpRequestException { StatusCode: StatusCodes.Status415UnsupportedMediaType } => Make(
                StatusCodes.Status415UnsupportedMediaType,
                "media-type",
                "Wrong media type",
                MediaType
            ),
            BadHttpRequestException b => Make(b.StatusCode, "bad-request", "The request cannot be read", Reason(b)),
            _ when StoreException.Of(exception) is { } store => Make(
                store.IsFull ? StatusCodes.Status507InsufficientStorage : StatusCodes.Status503ServiceUnavailable,
                store.IsFull ? "disk-full" : "store-failed",
                "The store does not take it",
                store.Message
            ),
            _ => Make(
                StatusCodes.Status500InternalServerError,
                "failed",
                "It failed here",
                "Something failed in the service and nothing was recorded. Try again; if it stays, look in the "
                    + "service's log for the trace."
            ),
        };

    // The JSON reader's own words name .NET types, which help nobody; the place helps.
    private static string Reason(BadHttpRequestException b) =>
        b.InnerException is JsonException json
            ? "The JSON is not what is wanted here, at "
                + $"{(json.Path is { Length: > 1 } path ? path : "its top")}"
                + $"{Phrases.When(json.LineNumber, line => $", line {line + 1}")}: {Reason(json.Message)}"
        : Missing().Match(b.Message) is { Success: true } gone ? $"The parameter {gone.Groups[1].Value} is missing."
        : b.Message;

    private static string Reason(string message) =>
        message switch
        {
            _ when message.Contains("missing required properties", StringComparison.Ordinal) =>
                $"{Phrases.Listed(Quoted().Matches(message.Split("including:")[^1]).Select(m => m.Groups[1].Value))} "
                    + "must be there.",
            _ when message.Contains("could not be mapped", StringComparison.Ordinal) =>
                "this member is not known here.",
            _ when message.Contains("doesn't allow", StringComparison.Ordinal) => "null cannot stand here.",
            _ when message.Contains("could not be converted", StringComparison.Ordinal) =>
                "the value is not of the kind that /openapi/v1.json tells.",
            _ => message.Split(" Path: ")[0],
        };

    // The framework's words have a .NET type in them.
    [GeneratedRegex("^Required parameter \"\\S+ (\\w+)\" was not provided")]
    private static partial Regex Missing();

    [GeneratedRegex("'([^']+)'")]
    private static partial Regex Quoted();

    private static int Status(RefusalKind kind) =>
        kind switch
        {
            RefusalKind.Invalid => StatusCodes.Status422UnprocessableEntity,
            RefusalKind.NotFound => StatusCodes.Status404NotFound,
            RefusalKind.Role => StatusCodes.Status403Forbidden,
            _ => StatusCodes.Status409Conflict,
        };

    private static string Title(RefusalKind kind) =>
        kind switch
        {
            RefusalKind.Invalid => "Not usable as it is",
            RefusalKind.NotFound => "Not found",
            RefusalKind.Role => "Another role decides this",
            RefusalKind.Conflict => "Somebody was there first",
            _ => "Not now",
        };

    private static ProblemDetails Make(
        int status,
        string code,
        string title,
        string detail,
        params (string Key, object Value)[] more
    )
    {
        var problem = new ProblemDetails
        {
            Type = $"urn:revtal:{code}",
            Title = title,
            Status = status,
            Detail = detail,
        };
        problem.Extensions["code"] = code;
        foreach (var (key, value) in more)
        {
            problem.Extensions[key] = value;
        }

        return problem;
    }
}
