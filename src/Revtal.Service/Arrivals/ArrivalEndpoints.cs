using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Orders;
using Revtal.Service.Collect;
using Revtal.Service.Http;
using Revtal.Service.Machines;
using Revtal.Service.Orders;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Arrivals;

/// <summary><c>/api/v1/arrivals</c>: machines that tell of themselves before there is an order.</summary>
public static class ArrivalEndpoints
{
    public static IServiceCollection AddArrivals(this IServiceCollection services) =>
        services.AddSingleton<ArrivalDesk>().AddSingleton<MachineDesk>();

    public static void MapArrivals(this IEndpointRouteBuilder api)
    {
        var arrivals = api.MapGroup("/arrivals").WithTags("arrivals");
        arrivals
            .MapGet("/", ListAsync)
            .WithName("listArrivals")
            .WithSummary("Machines that told of themselves and wait to be taken in, newest first");
        arrivals
            .MapPost("/", TakeAsync)
            .WithMetadata(new RequestSizeLimitAttribute(CaptureBundle.Largest))
            .WithName("takeArrival")
            .WithSummary("Keep a capture of a machine for which there is no order yet");
        arrivals
            .MapPost("/invites", InviteAsync)
            .WithName("inviteArrival")
            .WithSummary("Make a one-time code by which a machine tells of itself before there is an order");
        arrivals
            .MapGet(
                "/{id}",
                async (
                    string id,
                    ArrivalStore store,
                    ArrivalDesk desk,
                    CancellationToken cancel,
                    string? model = null,
                    string? serial = null
                ) => await desk.ViewAsync(await store.GetAsync(id, cancel), cancel, model, serial)
            )
            .WithName("getArrival")
            .WithSummary("What a machine told, held against a model and a serial");
        api.MapGet(
                "/guide-matches",
                (string product, ArrivalDesk desk, CancellationToken cancel) => desk.RecogniseAsync(product, cancel)
            )
            .WithTags("guides")
            .WithName("matchGuides")
            .WithSummary("Which models a machine may be that calls itself so, the likeliest first");
    }

    private static async Task<IReadOnlyList<ArrivalView>> ListAsync(
        ArrivalStore store,
        ArrivalDesk desk,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetUtcNow();
        var views = new List<ArrivalView>();
        foreach (var row in await store.WaitingAsync(now - ArrivalDesk.Waits, now, cancel))
        {
            views.Add(await desk.ViewAsync(row, cancel));
        }

        return views;
    }

    private static async Task<Created<ArrivalView>> TakeAsync(
        ArrivalRequest request,
        Sender sender,
        ArrivalStore store,
        ArrivalDesk desk,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        // What cannot be read is refused before it is kept.
        _ = CaptureDecoder.Decode(request.Capture.ToFiles());
        var capture = ReadingEndpoints.Store(request.Capture);
        var row = await store.PutAsync(capture, sender.Hand(clock, "arrival", capture.Hash), cancel);
        return TypedResults.Created($"/api/v1/arrivals/{row.Id}", await desk.ViewAsync(row, cancel));
    }

    private static async Task<Created<ArrivalInvite>> InviteAsync(
        ArrivalInviteRequest request,
        Sender sender,
        ArrivalStore store,
        TimeProvider clock,
        HttpContext context,
        IConfiguration settings,
        IOptions<ShopOptions> shop,
        CancellationToken cancel
    )
    {
        var open = TimeSpan.FromMinutes(request.Minutes);
        if (open <= TimeSpan.Zero || open > MeasureRules.LongestInvite)
        {
            throw RefusedException.Invalid("invite-time", "A code is open from one minute to 24 hours.");
        }

        var code = CollectorCode.New(CollectorCode.Arrival);
        var until = clock.GetUtcNow() + open;
        var row = await store.InviteAsync(code.Hash, until, sender.Hand(clock, "arrival-invite", request), cancel);
        if (row.CodeHash != code.Hash)
        {
            throw CollectorCode.ShownOnce();
        }

        var address = CollectorCode.Address(context, settings, shop.Value);
        return TypedResults.Created(
            $"/api/v1/arrivals/{row.Id}",
            new ArrivalInvite(
                row.Id,
                code.Text,
                until,
                CollectorCode.Lines(code.Text, address),
                PublicAddress.IsHereOnly(address)
            )
        );
    }
}
