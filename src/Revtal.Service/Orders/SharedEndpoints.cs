using Revtal.Contracts;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>Below <c>/api/v1/orders/{number}</c>: whose it is, where it lies, for when it was promised.</summary>
internal static class SharedEndpoints
{
    public static void MapShared(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}").WithTags("orders");
        order
            .MapPost(
                "/owner",
                (
                    int number,
                    OwnerRequest request,
                    Sender sender,
                    OrderDesk desk,
                    PeopleStore people,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.NameOwner,
                        request,
                        sender,
                        (_, _) => SharedRules.NameOwner(request.Owner, people.List(), request.Word),
                        cancel
                    )
            )
            .WithName("nameOwner")
            .WithSummary("Take the machine in hand, hand it over, or release it");
        order
            .MapPost(
                "/hand-over/read",
                (int number, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(number, OrderAct.ReadHandOver, null, sender, (_, _) => new HandOverRead(), cancel)
            )
            .WithName("readHandOver")
            .WithSummary("Say that what was handed over in words was read");
        order
            .MapPost(
                "/place",
                (int number, PlaceRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TellPlace,
                        request,
                        sender,
                        (_, _) => SharedRules.TellPlace(request.Place),
                        cancel
                    )
            )
            .WithName("tellPlace")
            .WithSummary("Say where the machine lies");
        order
            .MapPost(
                "/promise",
                (
                    int number,
                    PromiseRequest request,
                    Sender sender,
                    OrderDesk desk,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.Promise,
                        request,
                        sender,
                        (_, _) => SharedRules.Promise(request.At, clock.GetUtcNow()),
                        cancel
                    )
            )
            .WithName("promise")
            .WithSummary("Promise the machine for a time, or nothing any more");
    }
}
