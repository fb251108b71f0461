using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Documents;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Storage;

namespace Revtal.Service.Pictures;

/// <summary>
/// Photos of orders and pictures of guides: taken in as JPEG, PNG or WebP, kept as JPEG without the camera's data.
/// </summary>
public static class PictureEndpoints
{
    public static void MapPictures(this IEndpointRouteBuilder api)
    {
        var limit = new RequestSizeLimitAttribute(Documents.Pictures.Largest + 1024);
        api.MapPost("/orders/{number:int}/photos", PhotoAsync)
            .WithTags("pictures")
            .WithName("addPhoto")
            .Accepts<byte[]>("image/jpeg", "image/png", "image/webp")
            .WithMetadata(limit)
            .WithSummary("Add a photo to an order, or to one step of its run; the body is the picture");
        api.MapPost("/pictures", KeepAsync)
            .WithTags("pictures")
            .WithName("keepPicture")
            .Accepts<byte[]>("image/jpeg", "image/png", "image/webp")
            .WithMetadata(limit)
            .WithSummary("Keep a picture for a guide; the guide names it by the hash that comes back");
        api.MapGet("/pictures/{hash}", GetAsync)
            .WithTags("pictures")
            .WithName("getPicture")
            .Produces<byte[]>(contentType: "image/jpeg")
            .WithSummary("A picture, or its small copy");
    }

    public static PictureRow Row(Picture p) =>
        new()
        {
            Hash = p.Hash,
            Content = p.Content,
            Small = p.Small,
            Width = p.Width,
            Height = p.Height,
        };

    private static async Task<Receipt> PhotoAsync(
        int number,
        HttpRequest http,
        Sender sender,
        OrderDesk desk,
        PictureStore pictures,
        OrderShelf shelf,
        CancellationToken cancel,
        StepId? step = null,
        string? caption = null
    )
    {
        // Nothing is kept for an order that is not there.
        await shelf.LoadAsync(number, cancel);
        var picture = await TakeAsync(http, pictures, cancel);
        return await desk.RecordAsync(
            number,
            OrderAct.AddPhoto,
            new
            {
                picture.Hash,
                step,
                caption,
            },
            sender,
            (o, g) => NoteRules.AddPhoto(o, g, picture.Hash, picture.Width, picture.Height, step, caption),
            cancel
        );
    }

    private static async Task<Created<PictureKept>> KeepAsync(
        HttpRequest http,
        Sender sender,
        PictureStore pictures,
        CancellationToken cancel
    )
    {
        _ = sender;
        var picture = await TakeAsync(http, pictures, cancel);
        return Made.At($"pictures/{picture.Hash}", new PictureKept(picture.Hash, picture.Width, picture.Height));
    }

    private static async Task<IResult> GetAsync(
        string hash,
        PictureStore pictures,
        HttpContext context,
        bool small = false
    )
    {
        var jpeg =
            await pictures.GetAsync(hash, small, context.RequestAborted)
            ?? throw RefusedException.NotFound("no-such-picture", "There is no picture of this hash.");
        context.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
        return Results.Bytes(jpeg, "image/jpeg");
    }

    // One at a time: a small file may unfold to 240 MB.
    private static readonly SemaphoreSlim Unfolding = new(1);

    private static async Task<Picture> TakeAsync(HttpRequest http, PictureStore pictures, CancellationToken cancel)
    {
        using var file = new MemoryStream();
        await http.Body.CopyToAsync(file, cancel);
        var picture = await MakeAsync(file.ToArray(), cancel);
        await pictures.PutAsync([Row(picture)], cancel);
        return picture;
    }

    /// <summary>Written anew from a file that somebody sent, in its turn.</summary>
    internal static async Task<Picture> MakeAsync(byte[] file, CancellationToken cancel)
    {
        await Unfolding.WaitAsync(cancel);
        try
        {
            return Documents.Pictures.Make(file);
        }
        finally
        {
            Unfolding.Release();
        }
    }
}
