using Microsoft.AspNetCore.Mvc;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Documents.Papers;
using Revtal.Service.Http;
using Revtal.Service.Orders;

namespace Revtal.Service.Planning;

/// <summary>A drive's data on its way, and what becomes of what came out.</summary>
public static class DriveEndpoints
{
    private const long LargestLists = 48 << 20;

    public static void MapDrives(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}").WithTags("drives");
        order
            .MapPost(
                "/copies/{bay}",
                (
                    int number,
                    string bay,
                    CopyBeginRequest request,
                    Sender sender,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.BeginCopy,
                        new { bay, request },
                        sender,
                        (o, _) =>
                            DriveRules.BeginCopy(o, bay, request.Source, request.Target, request.Method, request.Size),
                        cancel
                    )
            )
            .WithName("beginCopy")
            .WithSummary("A drive's data begins to be copied");
        order
            .MapPost(
                "/copies/{bay}/done",
                (
                    int number,
                    string bay,
                    CopyDoneRequest request,
                    Sender sender,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.AdvanceCopy,
                        new { bay, request },
                        sender,
                        (o, _) => DriveRules.AdvanceCopy(o, bay, request.Done),
                        cancel
                    )
            )
            .WithName("advanceCopy")
            .WithSummary("So much is copied; the end is estimated from the rate");
        order
            .MapPost(
                "/copies/{bay}/verify",
                (
                    int number,
                    string bay,
                    CopyVerifyRequest request,
                    Sender sender,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                {
                    var (sampled, matched) = Compared(request);
                    return desk.RecordAsync(
                        number,
                        OrderAct.VerifyCopy,
                        new { bay, request },
                        sender,
                        (o, _) =>
                            DriveRules.VerifyCopy(o, bay, request.FilesSource, request.FilesTarget, sampled, matched),
                        cancel
                    );
                }
            )
            .WithMetadata(new RequestSizeLimitAttribute(LargestLists))
            .WithName("verifyCopy")
            .WithSummary("Source and target compared, by counts and sampled hashes");
        order
            .MapPost(
                "/old-parts/{position}",
                (
                    int number,
                    string position,
                    OldPartRequest request,
                    Sender sender,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.SettleOldPart,
                        new { position, request },
                        sender,
                        (o, g) =>
                            DriveRules.Settle(
                                o,
                                g,
                                position,
                                request.Fate,
                                request.Wipe,
                                request.Note,
                                request.Grade,
                                request.Tested,
                                request.Price,
                                request.Claim,
                                request.UsedIn
                            ),
                        cancel
                    )
            )
            .WithName("settleOldPart")
            .WithSummary(
                "What becomes of what came out: to its owner, kept, used, sold, returned, bought in or recycled"
            );
        order
            .MapPost(
                "/old-parts/{position}/bag",
                (
                    int number,
                    string position,
                    BagRequest request,
                    Sender sender,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.BagOldPart,
                        new { position, request },
                        sender,
                        (o, g) => DriveRules.Bag(o, g, position, request.Place),
                        cancel
                    )
            )
            .WithName("bagOldPart")
            .WithSummary("What came out lies in a labelled bag, and where");
        order
            .MapGet("/bags.pdf", BagPaperAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getBagLabels")
            .Produces<byte[]>(contentType: "application/pdf")
            .WithSummary("The labels of what came out, with a code each, on A4");
    }

    private static async Task<IResult> BagPaperAsync(
        int number,
        OrderShelf shelf,
        Press press,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        var snapshot = await shelf.LoadAsync(number, cancel);
        var labels = Bags.Of(snapshot.Order, snapshot.Guide);
        if (labels.Count == 0)
        {
            throw RefusedException.Rule("nothing-out", $"Nothing came out of the machine of order {number} yet.");
        }

        return press.Print(
            response,
            $"bags-{number}.pdf",
            printing => BagPaper.Write(snapshot.Order, snapshot.Guide, labels, printing)
        );
    }

    private static (int Sampled, int Matched) Compared(CopyVerifyRequest request)
    {
        if (request is { SourceHashes: { } source, TargetHashes: { } target })
        {
            var (sampled, matched, _) = HashLists.Compare(source, target);
            return (sampled, matched);
        }

        return request is { Sampled: { } s, Matched: { } m }
            ? (s, m)
            : throw RefusedException.Invalid(
                "hashes-missing",
                "Give how many files were sampled and how many are alike, or both lists of hashes."
            );
    }
}
