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

        var files = new StaticFileOptions
        {
            FileProvider = new PhysicalFileProvider(root),
            OnPrepareResponse = c => Prepare(c.Context),
        };
        // The page itself gets its nonce below, by whatever name it is asked for.
        app.UseWhen(c => c.Request.Path != "/index.html", branch => branch.UseStaticFiles(files));
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
                    "default-src 'none'; script-src 'self'; worker-src 'self'; manifest-src 'self'; "
                    + $"style-src 'self' 'nonce-{nonce}'; font-src 'self'; "
                    + "img-src 'self' data: blob:; connect-src 'self'; base-uri 'none'; form-action 'none'; "
                    + "frame-ancestors 'none'";
                headers.CacheControl = "no-store";
                context.Response.ContentType = "text/html; charset=utf-8";
                return context.Response.WriteAsync(page.Replace(NonceMark, nonce, StringComparison.Ordinal));
            }
        );
    }

    private static void Prepare(HttpContext context)
    {
        var headers = context.Response.Headers;
        // File names under assets/ carry a hash of their content.
        headers.CacheControl = context.Request.Path.StartsWithSegments("/assets")
            ? "public, max-age=31536000, immutable"
            : "no-cache";
        if (context.Request.Path == "/sw.js")
        {
            // What it may do is said where it comes from: it fetches the console and its pictures.
            headers.ContentSecurityPolicy = "default-src 'none'; script-src 'self'; connect-src 'self'";
        }
    }

    private static bool IsNoPage(PathString path) =>
        path.StartsWithSegments("/api") || path.StartsWithSegments("/openapi") || path.StartsWithSegments("/assets");
}
