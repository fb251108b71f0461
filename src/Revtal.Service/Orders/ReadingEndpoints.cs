using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>Readings: from a capture, or by eye.</summary>
public static class ReadingEndpoints
{
    public static void MapReadings(this IEndpointRouteBuilder api)
    {
        api.MapPost("/orders/{number:int}/readings", TakeAsync)
            .WithTags("readings")
            .WithName("takeReading")
            .WithMetadata(new RequestSizeLimitAttribute(CaptureBundle.Largest))
            .WithSummary("Take a reading, before or after");
        api.MapPost("/decode", Decode)
            .WithTags("readings")
            .WithMetadata(
                new ApiFacts(
                    RefusesByRule: true,
                    Example: """{"format": "revtal-capture/1", "files": [{"name": "DMI", "content": "AAQ="}]}"""
                )
            )
            .WithName("decode")
            .WithMetadata(new RequestSizeLimitAttribute(CaptureBundle.Largest))
            .WithSummary("Decode a capture; nothing is recorded");
    }

    private static Reading Decode(CaptureBundle bundle) => CaptureDecoder.Decode(bundle.ToFiles());

    private static async Task<Receipt> TakeAsync(
        int number,
        ReadingRequest request,
        Sender sender,
        OrderDesk desk,
        PictureStore pictures,
        CancellationToken cancel
    )
    {
        if (request.Capture is null && request.Seen is null)
        {
            throw RefusedException.Invalid(
                "reading-source",
                "A reading wants a capture, or what was seen by eye, or both."
            );
        }

        if (request.Photo is { } photo && await pictures.GetAsync(photo, true, cancel) is null)
        {
            throw RefusedException.Invalid("no-such-picture", "There is no picture of this hash. Keep it first.");
        }

        var capture = request.Capture is { } bundle ? Store(bundle) : null;
        var decoded = request.Capture is { } c ? CaptureDecoder.Decode(c.ToFiles()) : null;
        // What the machine tells of itself comes first; eyes add what it does not tell.
        var reading = (decoded, request.Seen) switch
        {
            ({ } told, { } seen) => Reading.Join(told, Eyes(seen)),
            (null, { } seen) => Eyes(seen),
            _ => decoded!,
        };
        if (reading.IsLoadAlone)
        {
            return await desk.RecordAsync(
                number,
                OrderAct.TakeScores,
                new
                {
                    request.Phase,
                    request.Note,
                    capture?.Hash,
                },
                sender,
                (_, _) => TrialRules.TakeLoad(request.Phase, reading.Load!, capture?.Hash, request.Note),
                cancel,
                capture
            );
        }

        var booked = request.Phase == Phase.Before ? null : await desk.BookedAsync(number, reading, cancel);
        return await desk.RecordAsync(
            number,
            OrderActs.Reading(request.Phase),
            new
            {
                request.Phase,
                request.Seen,
                request.Note,
                request.Photo,
                capture?.Hash,
            },
            sender,
            (order, guide) =>
                MeasureRules.TakeReading(
                    order,
                    guide,
                    request.Phase,
                    NeedPlaces(guide, request.Seen, reading),
                    capture?.Hash,
                    request.Note,
                    request.Photo,
                    booked
                ),
            cancel,
            capture
        );
    }

    private static Reading NeedPlaces(Guide guide, SeenReading? seen, Reading reading)
    {
        // Of a sketch nobody knows slots and bays before somebody looked.
        var (anySlot, anyBay) = (
            guide is { IsSketch: true, Memory.Slots.Count: 0 },
            guide is { IsSketch: true, Drives.Count: 0 }
        );
        foreach (var slot in anySlot ? [] : seen?.Slots ?? [])
        {
            guide.NeedSlot(slot.Slot);
        }

        foreach (var drive in anyBay ? [] : seen?.Drives ?? [])
        {
            if (guide.Bay(drive.Bay) is null)
            {
                throw RefusedException.Invalid(
                    "no-such-bay",
                    $"{guide.Model.Code} has no drive bay “{drive.Bay}”. It has "
                        + $"{string.Join(", ", guide.Drives.Select(d => d.Id))}."
                );
            }
        }

        return reading;
    }

    private static Reading Eyes(SeenReading seen) =>
        EyeReading.Make(
            seen.FirmwareShows,
            seen.SystemShows,
            seen.Slots ?? [],
            Words.Line("The serial", seen.Serial),
            seen.Drives
        );

    public static CaptureRow Store(CaptureBundle bundle)
    {
        var bytes = JsonSerializer.SerializeToUtf8Bytes(bundle, RevtalJson.Options);
        return new CaptureRow { Hash = Convert.ToHexStringLower(SHA256.HashData(bytes)), Content = bytes };
    }
}
