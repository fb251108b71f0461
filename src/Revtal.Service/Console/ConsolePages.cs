using System.Security.Cryptography;
using Microsoft.Extensions.FileProviders;

namespace Revtal.Service.Console;

/// <summary>
/// Serves the built console under a strict content security policy; every page of it can be linked to.
/// </summary>
public static class ConsolePages
{
    private const string NonceMark = "__NONCE__";

    public static void UseConsole(this WebApplication app)
    {
        app.Use(
            (context, next) =>
            {
                var headers = context.Response.Headers;
                headers.XContentTypeOptions = "nosniff";
                headers["Referrer-Policy"] = "no-referrer";
                headers.ContentSecurityPolicy = "default-src 'none'; frame-ancestors 'none'";
                return next(context);
            }
        );

        var root = Path.Combine(AppContext.BaseDirectory, "wwwroot");
        if (!File.Exists(Path.Combine(root, "index.html")))
        {
            app.MapGet(
                    "/",
                    () =>
                        Results.Text(
                            "The console is not built. Run: make build\n",
                            statusCode: StatusCodes.Status404NotFound
                        )
                )
                .ExcludeFromDescription();
            return;
        }

        app.UseStaticFiles(
            new StaticFileOptions
            {
                FileProvider = new PhysicalFileProvider(root),
                // File names under assets/ carry a hash of their content.
                OnPrepareResponse = c =>
                    c.Context.Response.Headers.CacheControl = c.Context.Request.Path.StartsWithSegments("/assets")
                        ? "public, max-age=31536000, immutable"
                        : "no-cache",
            }
        );
        var page = File.ReadAllText(Path.Combine(root, "index.html"));
        app.Use(
            (context, next) =>
            {
                if (
                    context.GetEndpoint() is not null
                    || !HttpMethods.IsGet(context.Request.Method)
                    || IsNoPage(context.Request.Path)
                )
                {
                    return next(context);
                }

                var nonce = Convert.ToBase64String(RandomNumberGenerator.GetBytes(16));
                var headers = context.Response.Headers;
                headers.ContentSecurityPolicy =
                    $"default-src 'none'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; font-src 'self'; "
                    + "img-src 'self' data: blob:; connect-src 'self'; base-uri 'none'; form-action 'none'; "
                    + "frame-ancestors 'none'";
                headers.CacheControl = "no-store";
                context.Response.ContentType = "text/html; charset=utf-8";
                return context.Response.WriteAsync(page.Replace(NonceMark, nonce, StringComparison.Ordinal));
            }
        );
    }

    private static bool IsNoPage(PathString path) =>
        path.StartsWithSegments("/api") || path.StartsWithSegments("/openapi") || path.StartsWithSegments("/assets");
}
