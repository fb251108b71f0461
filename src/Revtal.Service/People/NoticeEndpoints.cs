using Microsoft.AspNetCore.Http.HttpResults;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary><c>/api/v1/notices</c>: what concerns whoever asks.</summary>
internal static class NoticeEndpoints
{
    public static void MapNotices(this IEndpointRouteBuilder api)
    {
        var notices = api.MapGroup("/notices").WithTags("notices");
        notices.MapGet("/", List).WithName("listNotices").WithSummary("What concerns oneself, newest first");
        notices.MapPost("/read", Read).WithName("readNotices").WithSummary("One has read one's own up to a position");
    }

    private static Page<NoticeLine> List(
        HttpContext context,
        NoticeStore store,
        string? after = null,
        int limit = Paging.Usual
    )
    {
        var who = Door.Need(context).Person.Id;
        return Page.Of(
            store.Of(who, Paging.Number(after), Paging.Checked(limit) + 1),
            limit,
            store.Count(who),
            n => $"{n.Position}"
        );
    }

    private static NoContent Read(
        NoticesReadRequest request,
        HttpContext context,
        NoticeStore store,
        TimeProvider clock
    )
    {
        store.Read(Door.Need(context).Person.Id, request.UpTo, clock.GetUtcNow());
        return TypedResults.NoContent();
    }
}
