using Microsoft.AspNetCore.Http.HttpResults;
using Revtal.Contracts;
using Revtal.Service.Http;

namespace Revtal.Service.People;

/// <summary><c>/api/v1/session/codes</c>: one-time codes beside one's password.</summary>
internal static class CodeEndpoints
{
    public static void MapCodes(this IEndpointRouteBuilder api)
    {
        var codes = api.MapGroup("/session/codes").WithTags("session").RequireRateLimiting(SessionEndpoints.Tries);
        codes
            .MapPost("/", BeginAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("beginCodes")
            .WithSummary("Begin with one-time codes: what makes them");
        codes
            .MapPost("/confirm", ConfirmAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("confirmCodes")
            .WithSummary("A first code: from now on one is asked for");
        codes
            .MapPost("/end", EndAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("endCodes")
            .WithSummary("No code is asked for any more");
    }

    private static Task<CodesBegun> BeginAsync(ProofRequest request, CodeDesk desk, HttpContext context)
    {
        context.Response.Headers.CacheControl = "no-store";
        return desk.BeginAsync(Door.Need(context).Person, request, Door.From(context));
    }

    private static Task<CodesOnPaper> ConfirmAsync(CodeRequest request, CodeDesk desk, HttpContext context)
    {
        context.Response.Headers.CacheControl = "no-store";
        return desk.ConfirmAsync(Door.Need(context).Person, request, Door.From(context));
    }

    private static async Task<NoContent> EndAsync(ProofRequest request, CodeDesk desk, HttpContext context)
    {
        await desk.EndAsync(Door.Need(context).Person, request, Door.From(context));
        return TypedResults.NoContent();
    }
}
