using Revtal.Contracts;
using Revtal.Service.Collect;
using Revtal.Service.Http;

namespace Revtal.Service.Dummies;

/// <summary>
/// <c>/api/v1/dummies</c>: simulated machines to learn on, and to show the whole job without hardware.
/// </summary>
public static class DummyEndpoints
{
    /// <summary>The simulated machines.</summary>
    public static IServiceCollection AddDummies(this IServiceCollection services) => services.AddSingleton<DummyDesk>();

    public static void MapDummies(this IEndpointRouteBuilder api)
    {
        var dummies = api.MapGroup("/dummies").WithTags("dummies");
        dummies
            .MapGet("/", (DummyDesk desk, CancellationToken cancel) => desk.ListAsync(cancel))
            .WithName("listDummies")
            .WithSummary("The simulated machines");
        dummies
            .MapPost(
                "/",
                async (
                    DummyRequest request,
                    Sender sender,
                    DummyDesk desk,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                {
                    var made = await desk.MakeAsync(request, sender.Hand(clock, "dummy", request), cancel);
                    return Made.At($"dummies/{Uri.EscapeDataString(made.Name)}", made);
                }
            )
            .WithName("makeDummy")
            .WithSummary("Make one of a model");
        dummies
            .MapGet("/{name}", (string name, DummyDesk desk, CancellationToken cancel) => desk.GetAsync(name, cancel))
            .WithName("getDummy")
            .WithSummary("What sits in it, and how");
        dummies
            .MapPost(
                "/{name}/acts",
                (
                    string name,
                    DummyActRequest request,
                    Sender sender,
                    DummyDesk desk,
                    TimeProvider clock,
                    CancellationToken cancel
                ) => desk.ActAsync(name, request, sender.Hand(clock, $"dummy/{name}", request), cancel)
            )
            .WithName("actOnDummy")
            .WithSummary("Open, refit, start or spoil it");
        dummies
            .MapGet(
                "/{name}/capture",
                (string name, DummyDesk desk, CancellationToken cancel) => desk.CaptureAsync(name, cancel)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("captureDummy")
            .WithSummary("What its collector writes");
        dummies
            .MapPost(
                "/{name}/send",
                async (
                    string name,
                    DummySendRequest request,
                    Sender sender,
                    DummyDesk desk,
                    Collector collector,
                    HttpContext context,
                    CancellationToken cancel
                ) =>
                    new CollectedView(
                        await collector.TakeAsync(
                            request.Code ?? "",
                            await desk.CaptureAsync(name, cancel),
                            context,
                            cancel
                        )
                    )
            )
            .WithName("sendDummy")
            .WithSummary("Its collector sends a reading by a code");
    }
}
