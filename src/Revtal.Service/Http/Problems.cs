using System.Diagnostics;
using System.Text.Json;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Revtal.Core;
using Revtal.Core.Bench;

namespace Revtal.Service.Http;

/// <summary>Everything that goes wrong, as RFC 9457 problem details that say what to do.</summary>
public sealed class Problems(IProblemDetailsService details, ILogger<Problems> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(
        HttpContext httpContext,
        Exception exception,
        CancellationToken cancellationToken
    )
    {
        var problem = Of(exception);
        if (problem.Status >= 500)
        {
            problem.Extensions["trace"] = Activity.Current?.Id ?? httpContext.TraceIdentifier;
            // A code or a link in the path is a secret.
            log.LogError(
                exception,
                "{Method} {Route} failed",
                httpContext.Request.Method,
                (httpContext.GetEndpoint() as RouteEndpoint)?.RoutePattern.RawText ?? "no route"
            );
        }

        httpContext.Response.StatusCode = problem.Status!.Value;
        return await details.TryWriteAsync(
            new ProblemDetailsContext { HttpContext = httpContext, ProblemDetails = problem }
        );
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
                "not-signed-in",
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
                "The request is larger than is taken here. A library may have 64 MB, lists of hashes 48 MB, a capture "
                    + "16 MB, a picture 12 MB, a table of parts 8 MB, anything else 1 MB."
            ),
            BadHttpRequestException { StatusCode: StatusCodes.Status415UnsupportedMediaType } => Make(
                StatusCodes.Status415UnsupportedMediaType,
                "media-type",
                "Wrong media type",
                "Send what this takes, and say so with Content-Type: JSON mostly; application/yaml for guides, "
                    + "image/* for pictures, application/zip for a library."
            ),
            BadHttpRequestException b => Make(b.StatusCode, "bad-request", "The request cannot be read", Reason(b)),
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
                + $"{Phrases.When(json.LineNumber, line => $", line {line + 1}")}: "
                + (
                    json.Message.Contains("could not be converted", StringComparison.Ordinal)
                        ? "the value is not of the kind that /openapi/v1.json tells."
                        : json.Message.Split(" Path: ")[0]
                )
            : b.Message;

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
