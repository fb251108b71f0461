using Microsoft.AspNetCore.Mvc;
using Revtal.Contracts;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Revtal.Service.Http;
using Revtal.Service.Orders;

namespace Revtal.Service.Planning;

/// <summary>Planning: what fits, which slot, which option.</summary>
public static class PlanEndpoints
{
    /// <summary>What brings orders, catalogue and shelf together.</summary>
    public static IServiceCollection AddPlanning(this IServiceCollection services) =>
        services
            .AddSingleton<PlanDesk>()
            .AddSingleton<QuoteDesk>()
            .AddSingleton<OptionDesk>()
            .AddSingleton<DriveOptionDesk>();

    public static void MapPlans(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}").WithTags("plan");
        order
            .MapPost(
                "/plan/preview",
                async (int number, PlanRequest request, PlanDesk plans, CancellationToken cancel) =>
                    await plans.PreviewAsync(number, plans.Complete(number, request), Role.Lead, cancel)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("previewPlan")
            .WithSummary("What a plan would lead to and cost; nothing is recorded");
        order
            .MapPost(
                "/plan",
                async (
                    int number,
                    PlanRequest request,
                    Sender sender,
                    PlanDesk plans,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                {
                    var whole = plans.Complete(number, request);
                    return await desk.RecordAsync(
                        number,
                        OrderAct.SetPlan,
                        request,
                        sender,
                        (o, g) =>
                            PlanRules.SetPlan(
                                o,
                                g,
                                whole.Changes ?? [],
                                whole.Note,
                                sender.Person.Role,
                                whole.Discount,
                                whole.Later,
                                whole.Cleans
                            ),
                        cancel
                    );
                }
            )
            .WithName("setPlan")
            .WithSummary("Set the plan");
        order
            .MapPost(
                "/mend",
                async (
                    int number,
                    MendRequest request,
                    Sender sender,
                    PlanDesk plans,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                {
                    var whole = plans.Complete(number, new(request.Changes ?? []));
                    return await desk.RecordAsync(
                        number,
                        OrderAct.MendPlan,
                        request,
                        sender,
                        (o, g) =>
                            MendRules.Mend(
                                o,
                                g,
                                whole.Changes,
                                request.Again ?? [],
                                request.Reason,
                                sender.Person.Role
                            ),
                        cancel
                    );
                }
            )
            .WithName("mend")
            .WithSummary("Change what was fitted: another part, another slot, or a slot given up");
        order
            .MapPost(
                "/later",
                async (
                    int number,
                    LaterRequest request,
                    Sender sender,
                    PlanDesk plans,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                {
                    var whole = plans.Complete(number, new(request.Changes ?? []));
                    var price = await plans.PriceLaterAsync(number, whole.Changes, cancel);
                    return await desk.RecordAsync(
                        number,
                        OrderAct.NoteLater,
                        request,
                        sender,
                        (o, g) => LaterRules.Note(o, g, whole.Changes, request.Words, price),
                        cancel
                    );
                }
            )
            .WithName("noteLater")
            .WithSummary("Note what the machine's next visit is to bring: a plan at today's price, or words");
        order
            .MapPost(
                "/later/drop",
                (int number, LaterDropRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.DropLater,
                        request,
                        sender,
                        (_, _) => LaterRules.Drop(request.Reason),
                        cancel
                    )
            )
            .WithName("dropLater")
            .WithSummary("Nothing is left for a later visit any more");
        order
            .MapGet(
                "/drive-options",
                (
                    int number,
                    DriveOptionDesk plans,
                    CancellationToken cancel,
                    string? growth = null,
                    decimal? budget = null,
                    bool later = false
                ) => plans.FindAsync(number, growth is null ? null : DriveSize.Parse(growth), budget, later, cancel)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getDriveOptions")
            .WithSummary("Changes of drives that no other beats, from catalogue and shelf");
        order
            .MapGet(
                "/options",
                (
                    int number,
                    OptionDesk plans,
                    CancellationToken cancel,
                    string? target = null,
                    string? workload = null,
                    decimal? budget = null,
                    int stages = 1,
                    [FromQuery(Name = "give-up")] string[]? giveUp = null,
                    bool later = false
                ) =>
                    plans.OptionsAsync(
                        number,
                        target is null ? null : MemorySize.Parse(target),
                        workload,
                        budget,
                        stages,
                        giveUp,
                        later,
                        cancel
                    )
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getOptions")
            .WithSummary("Upgrades that no other beats, from catalogue and shelf");
        order
            .MapGet(
                "/shelf",
                (int number, OptionDesk plans, CancellationToken cancel, string? text = null) =>
                    plans.ShelfAsync(number, text, cancel)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getShelf")
            .WithSummary("The catalogue with its shelf, and what of it suits this very machine");
        order
            .MapPost(
                "/layout",
                (int number, LayoutRequest request, OptionDesk plans, CancellationToken cancel) =>
                    plans.LayoutAsync(number, request, cancel)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("findLayout")
            .WithSummary("Which module goes where, best and next best; nothing is recorded");
        order
            .MapPost(
                "/fit/{slot}",
                async (int number, string slot, MemoryModule module, OrderShelf shelf, CancellationToken cancel) =>
                {
                    var snapshot = await shelf.LoadAsync(number, cancel);
                    var platform = Platform.Of(
                        snapshot.Guide,
                        snapshot.Order.Before?.Value
                            ?? throw Core.RefusedException.Rule(
                                "no-reading",
                                $"Order {number} has no before reading yet."
                            )
                    );
                    return FitRules.Of(platform, snapshot.Guide.NeedSlot(slot), module);
                }
            )
            .WithMetadata(
                new ApiFacts(
                    RefusesByRule: true,
                    Example: """{"size": 17179869184, "generation": "DDR4", "form": "SO-DIMM"}"""
                )
            )
            .WithName("checkFit")
            .WithSummary("Whether a module fits a slot, and all that is to be said of it; nothing is recorded");
    }
}
