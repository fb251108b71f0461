using Microsoft.Net.Http.Headers;

namespace Revtal.Service.Http;

/// <summary>Text travels as UTF-8 (RFC 8259 8.1): a body that says it is anything else is not guessed at.</summary>
internal static class Utf8Only
{
    public static void UseUtf8Only(this IApplicationBuilder app) =>
        app.Use(
            (context, next) =>
                MediaTypeHeaderValue.TryParse(context.Request.ContentType, out var type)
                && type.Charset.HasValue
                && !type.Charset.Value.Trim('"').Equals("utf-8", StringComparison.OrdinalIgnoreCase)
                    ? throw new BadHttpRequestException(
                        $"Text travels as UTF-8 here, not as {type.Charset}.",
                        StatusCodes.Status415UnsupportedMediaType
                    )
                    : next(context)
        );
}
