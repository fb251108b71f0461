using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Documents.Papers;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>What is told while a machine lies on the bench.</summary>
public static class BenchEndpoints
{
    public static void MapBench(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}").WithTags("bench");
        order
            .MapPost(
                "/steps/{step}",
                (
                    int number,
                    StepId step,
                    ConfirmRequest request,
                    Sender sender,
                    OrderDesk desk,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.ConfirmStep,
                        new { step, request },
                        sender,
                        (o, g) =>
                            BenchRules.Confirm(
                                o,
                                g,
                                new StepConfirmation(
                                    step,
                                    sender.Person.Id,
                                    sender.When(clock),
                                    request.Fasteners,
                                    request.Explanation,
                                    request.Note,
                                    request.Holes,
                                    request.Groups,
                                    request.Occupants,
                                    request.Seen,
                                    request.Deviation
                                )
                            ),
                        cancel
                    )
            )
            .WithName("confirmStep")
            .WithSummary("Confirm a step of the run");
        order
            .MapPost(
                "/steps/{step}/impossible",
                (
                    int number,
                    StepId step,
                    ReasonRequest request,
                    Sender sender,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.BlockStep,
                        new { step, request },
                        sender,
                        (o, g) => BenchRules.Block(o, g, step, request.Reason),
                        cancel
                    )
            )
            .WithName("blockStep")
            .WithSummary("Say that a step cannot be done");
        order
            .MapPost(
                "/steps/{step}/take-back",
                (
                    int number,
                    StepId step,
                    ReasonRequest request,
                    Sender sender,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TakeStepBack,
                        new { step, request },
                        sender,
                        (o, g) => BenchRules.TakeBack(o, g, step, request.Reason),
                        cancel
                    )
            )
            .WithName("takeBackStep")
            .WithSummary("Take the step confirmed last back");
        order
            .MapPost(
                "/waivers",
                (int number, WaiveRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.WaiveGate,
                        request,
                        sender,
                        (o, g) =>
                            BenchRules.Waive(o, g, sender.Person.Role, request.Gate, request.Step, request.Reason),
                        cancel
                    )
            )
            .WithName("waiveGate")
            .WithSummary("Let one gate be, with a reason (leads)");
        order
            .MapPost(
                "/finds",
                (int number, FindRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.AddFind,
                        request,
                        sender,
                        (o, g) => BenchRules.Find(o, g, request.Kind, request.Step, request.Text),
                        cancel
                    )
            )
            .WithName("addFind")
            .WithSummary("Record what was found inside; a swollen battery stops the run");
        order
            .MapPost(
                "/came-off",
                (
                    int number,
                    CameOffRequest request,
                    Sender sender,
                    OrderDesk desk,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TellCameOff,
                        request,
                        sender,
                        (o, g) => SketchRules.TakeOff(o, g, request.What, sender.Person.Id, sender.When(clock)),
                        cancel
                    )
            )
            .WithName("tellCameOff")
            .WithSummary("Say what came off of a machine whose guide is a sketch; it is counted with it");
        order
            .MapPost(
                "/positions",
                (int number, PositionRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TellPosition,
                        request,
                        sender,
                        (o, g) => SketchRules.See(o, g, request.Seen),
                        cancel
                    )
            )
            .WithName("tellPosition")
            .WithSummary("Say what is seen of a slot or bay of a sketched model");
        order
            .MapGet(
                "/adoption",
                async (
                    int number,
                    OrderShelf shelf,
                    GuideShelf guides,
                    CancellationToken cancel,
                    int? revision = null
                ) =>
                {
                    var s = await shelf.LoadAsync(number, cancel);
                    var wanted = revision ?? guides.Newest(s.Order.Model);
                    return AdoptRules.Look(s.Order, s.Guide, guides.Of(s.Order, wanted), wanted);
                }
            )
            .WithName("lookAtAdoption")
            .WithSummary("What another revision of the guide would change for the order");
        order
            .MapPost(
                "/adopt",
                (
                    int number,
                    AdoptRequest request,
                    Sender sender,
                    OrderDesk desk,
                    GuideShelf guides,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.AdoptGuide,
                        request,
                        sender,
                        s =>
                        {
                            var wanted = request.Revision ?? guides.Newest(s.Order.Model);
                            return AdoptRules.Adopt(s.Order, s.Guide, guides.Of(s.Order, wanted), wanted);
                        },
                        cancel
                    )
            )
            .WithName("adoptGuide")
            .WithSummary("Go on by another revision of the guide, where nothing that was done is contradicted");
        order
            .MapPost(
                "/reseat",
                (int number, ReseatRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.BeginReseat,
                        request,
                        sender,
                        (o, g) => BenchRules.Reseat(o, g, request.Slots ?? [], request.Reason),
                        cancel
                    )
            )
            .WithName("reseat")
            .WithSummary("Begin another run that seats modules anew");
        order
            .MapPost(
                "/variant",
                (int number, VariantRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TellVariant,
                        request,
                        sender,
                        s => IntakeRules.TellVariant(s.Order, s.Model, request.Variant),
                        cancel
                    )
            )
            .WithName("tellVariant")
            .WithSummary("Say which build it is");
        order
            .MapPost(
                "/seal",
                (int number, SealRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TellSeal,
                        request,
                        sender,
                        (o, _) => IntakeRules.TellSeal(request.Consent, request.Customer),
                        cancel
                    )
            )
            .WithName("tellSeal")
            .WithSummary("The customer's word about the warranty seal");
        order
            .MapPost(
                "/copy",
                (int number, CopyRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TellCopy,
                        request,
                        sender,
                        (o, _) => DriveRules.TellCopy(request.Copy, request.Text, request.Sampled),
                        cancel
                    )
            )
            .WithName("tellCopy")
            .WithSummary("The boot drive's copy is verified, or the customer goes without");
        order
            .MapPost(
                "/suggestions",
                (int number, SuggestRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.SuggestChange,
                        request,
                        sender,
                        (o, g) => NoteRules.Suggest(o, g, request.Change, request.Step),
                        cancel
                    )
            )
            .WithName("suggest")
            .WithSummary("Suggest a change of the guide");
        order
            .MapGet("/run.pdf", PaperAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getRunPaper")
            .Produces<byte[]>(contentType: "application/pdf")
            .WithSummary("The run sheet on A4, with boxes to tick");
    }

    private static async Task<IResult> PaperAsync(
        int number,
        OrderShelf shelf,
        Press press,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var sheet =
            snapshot.Order.Sheet(snapshot.Guide)
            ?? throw RefusedException.Rule(
                "no-plan",
                $"Order {number} has no run sheet before it has a plan. Next: " + $"{snapshot.Assessment.Next.Text}."
            );
        return press.Print(
            response,
            $"run-{number}.pdf",
            printing => RunPaper.Write(snapshot.Order, snapshot.Guide, sheet, printing)
        );
    }
}
