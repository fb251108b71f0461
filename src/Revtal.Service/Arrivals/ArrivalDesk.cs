using System.Text.Json;
using Microsoft.Extensions.Caching.Memory;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Revtal.Service.Machines;
using Revtal.Storage;

namespace Revtal.Service.Arrivals;

/// <summary>What a machine told of itself before there was an order.</summary>
public sealed record ToldArrival(ArrivalRow Row, Reading Reading);

/// <summary>Reads what machines told, and recognises which model each is.</summary>
public sealed class ArrivalDesk(ArrivalStore store, Journal journal, GuideShelf guides, MachineDesk machines)
    : IDisposable
{
    // As many as a list shows: what a capture holds never changes.
    private readonly MemoryCache decoded = new(new MemoryCacheOptions { SizeLimit = ArrivalStore.MostListed });

    /// <summary>How long a machine that told of itself is offered to be taken in.</summary>
    public static readonly TimeSpan Waits = TimeSpan.FromDays(3);

    /// <summary>What it told.</summary>
    /// <exception cref="RefusedException">There is none, or it told nothing yet.</exception>
    public async Task<ToldArrival> ReadAsync(string id, CancellationToken cancel)
    {
        var row = await store.GetAsync(id, cancel);
        return row.Capture is { } hash
            ? new ToldArrival(row, await DecodeAsync(hash, cancel))
            : throw RefusedException.Rule("arrival-silent", "This machine has told nothing yet.");
    }

    /// <param name="model">Held against what it told; null for the one that it is recognised as.</param>
    public async Task<ArrivalView> ViewAsync(
        ArrivalRow row,
        CancellationToken cancel,
        string? model = null,
        string? serial = null
    ) =>
        new(
            row.Id,
            row.By,
            Time(row.At),
            row.Until is { } until && row.Capture is null ? Time(until) : null,
            row.Capture is { } hash
                ? await ToldAsync(row, await DecodeAsync(hash, cancel), model, serial, cancel)
                : null
        );

    /// <summary>Which of the shop's models calls itself so.</summary>
    public async Task<IReadOnlyList<ModelMatch>> RecogniseAsync(string? product, CancellationToken cancel) =>
        ReadingDoubts.Told(product) is not { } told
            ? []
            :
            [
                .. (await guides.RecogniseAsync(told, cancel)).Select(m =>
                {
                    var guide = guides.Get(m.Code, guides.Newest(m.Code));
                    var facts = guide.Model;
                    var build = guide.Variants.FirstOrDefault(v => v.Id == m.Build);
                    return new ModelMatch(
                        m.Code,
                        facts.Maker,
                        facts.Name,
                        facts.Kind,
                        build?.Id,
                        m.Reported,
                        build?.TellApart ?? facts.TellApart,
                        facts.Sketch
                    );
                }),
            ];

    private async Task<ArrivalTold> ToldAsync(
        ArrivalRow row,
        Reading reading,
        string? model,
        string? serial,
        CancellationToken cancel
    )
    {
        var models = await RecogniseAsync(reading.System.Product, cancel);
        var told = ReadingDoubts.Told(reading.System.Serial);
        var asked = model ?? (models is [{ Reported: true } only] ? only.Code : null);
        return new ArrivalTold(
            Time(row.CameAt ?? row.At),
            ReadingDoubts.Told(reading.System.Manufacturer),
            ReadingDoubts.Told(reading.System.Product),
            told,
            Lines(reading),
            models,
            Doubts(asked, serial, reading),
            told is null ? null : await machines.FindAsync(told, cancel)
        );
    }

    private IReadOnlyList<string> Doubts(string? model, string? serial, Reading reading)
    {
        var guide = model is { } code && guides.Has(code) ? guides.Get(code, guides.Newest(code)) : null;
        return guide is null
            ? ReadingDoubts.OfSerial(serial, reading)
            : ReadingDoubts.Of(SketchFacts.Fill(guide, reading), serial, reading);
    }

    private static IReadOnlyList<string> Lines(Reading reading)
    {
        var slots = reading.Memory.Slots;
        var filled = slots.Count(s => s.SizeBytes is > 0);
        string?[] lines =
        [
            reading.Memory.InstalledBytes is { } bytes
                ? $"{new MemorySize(bytes)} of memory"
                    + Phrases.When(
                        slots.Count > 0,
                        FormattableString.Invariant($", {filled} of {slots.Count} slots filled")
                    )
                : null,
            .. slots.Where(s => s.SizeBytes is > 0).Select(s => $"{s.Locator ?? "A slot"}: {s.Module()}"),
            .. reading
                .Drives.Where(d => d.Transport != "usb" && d.Drive.Size.Bytes > 0)
                .Select(d => $"Drive {d.Drive}{Phrases.When(d.Boots is true, ", starts the system")}"),
        ];
        return [.. lines.OfType<string>()];
    }

    public void Dispose() => decoded.Dispose();

    private async Task<Reading> DecodeAsync(string hash, CancellationToken cancel)
    {
        if (decoded.TryGetValue(hash, out Reading? known))
        {
            return known!;
        }

        var content =
            await journal.CaptureAsync(hash, cancel)
            ?? throw new InvalidDataException($"The capture {hash} of an arrival is not kept.");
        var bundle = JsonSerializer.Deserialize<CaptureBundle>(content, RevtalJson.Options)!;
        return decoded.Set(hash, CaptureDecoder.Decode(bundle.ToFiles()), new MemoryCacheEntryOptions { Size = 1 });
    }

    private static DateTimeOffset Time(long at) => DateTimeOffset.FromUnixTimeMilliseconds(at);
}
