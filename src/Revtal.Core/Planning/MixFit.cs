using System.Globalization;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>All modules of a plan together: sums, order and mixtures.</summary>
internal static class MixFit
{
    private const string Guide = "guide";

    public static IEnumerable<FitNote> Of(
        Platform platform,
        IReadOnlyList<(MemorySlot Slot, MemoryModule Module)> seated
    )
    {
        var memory = platform.Guide.Memory;
        return
        [
            .. NotKnown(platform),
            .. Total(platform, seated),
            .. Order(platform.Guide, seated),
            .. Mixtures(memory, seated),
            .. Crowding(platform, seated),
        ];
    }

    // What a sketch does not know is neither refused nor promised: it is said.
    private static IEnumerable<FitNote> NotKnown(Platform platform)
    {
        var memory = platform.Guide.Memory;
        string?[] open =
        [
            platform.Generation is null ? "the generation of its modules" : null,
            memory.Module is null ? "the form of its modules" : null,
            memory.StatedMax is null && memory.ConfirmedMax is null
                ? $"how much it takes{Phrases.When(platform.FirmwareMax, c => $" (its firmware claims {c})")}"
                : null,
            memory.Populate is { Any: false, Lines.Count: 0 } && memory.Slots.Count > 1
                ? "which slots are filled first"
                : null,
        ];
        if (platform.Guide.IsSketch && open.OfType<string>().ToArray() is { Length: > 0 } told)
        {
            yield return new FitNote(
                "not-known",
                FitWeight.Remark,
                null,
                $"Not known of this model: {Phrases.Listed(told)}.",
                "not known",
                "not known",
                Guide
            );
        }
    }

    private static IEnumerable<FitNote> Total(
        Platform platform,
        IReadOnlyList<(MemorySlot Slot, MemoryModule Module)> seated
    )
    {
        var memory = platform.Guide.Memory;
        var model = platform.Guide.Model;
        var total = new MemorySize(seated.Sum(s => s.Module.Size.Bytes));
        if (memory.StatedMax is not { } stated)
        {
            if (platform.FirmwareMax is { } most && total > most && !(total <= memory.ConfirmedMax?.Size))
            {
                yield return new FitNote(
                    "above-all-maxima",
                    FitWeight.Lead,
                    null,
                    $"{total} is above the {most} that its firmware claims; what {model.Maker} states for "
                        + $"{model.Code} is not known. A lead decides.",
                    $"{most}",
                    $"{total}",
                    "before reading"
                );
            }

            yield break;
        }

        if (total <= stated)
        {
            if (memory.SupportedTotals is { Count: > 0 } listed && !listed.Contains(total))
            {
                yield return new FitNote(
                    "total-not-listed",
                    FitWeight.Remark,
                    null,
                    $"{total} is none of the totals that {model.Maker} lists for {model.Code}: "
                        + $"{Phrases.Listed(listed.Order().Select(s => s.ToString()))}. its maker "
                        + "promises nothing of it.",
                    string.Join(", ", listed),
                    $"{total}",
                    Guide
                );
            }

            yield break;
        }

        if (memory.ConfirmedMax is { } known && total <= known.Size)
        {
            yield return new FitNote(
                "above-stated",
                FitWeight.Remark,
                null,
                $"{total} is above the stated {stated}, but {known.Size} was proved here by order "
                    + $"{string.Join(", ", known.Orders)}.",
                $"{stated} stated, {known.Size} confirmed",
                $"{total}",
                Guide
            );
        }
        else if (platform.FirmwareMax is { } claim && total <= claim)
        {
            yield return new FitNote(
                "above-stated",
                FitWeight.Remark,
                null,
                $"{total} is above the {stated} that {model.Maker} states for {model.Code}; its firmware "
                    + $"claims {claim}. Measure with the case open.",
                $"{stated} stated, {claim} claimed",
                $"{total}",
                "before reading"
            );
        }
        else
        {
            var proved = memory.ConfirmedMax is { } c
                ? $" and above the {c.Size} proved here"
                : ", and nobody here proved more";
            yield return new FitNote(
                "above-all-maxima",
                FitWeight.Lead,
                null,
                $"{total} is above the {stated} that {model.Maker} states for {model.Code}{proved}. "
                    + "A lead decides.",
                $"{memory.ConfirmedMax?.Size ?? stated}",
                $"{total}",
                Guide
            );
        }
    }

    private static IEnumerable<FitNote> Order(Guide guide, IReadOnlyList<(MemorySlot Slot, MemoryModule Module)> seated)
    {
        string[] filled = [.. seated.Select(s => s.Slot.Id)];
        if (Population.WhyNoStart(guide.Memory, filled) is { } no)
        {
            yield return new FitNote(
                "slot-never-empty",
                FitWeight.Refusal,
                null,
                no,
                string.Join(", ", guide.Memory.NeverEmpty),
                string.Join(", ", filled),
                Guide
            );
        }

        if (Population.Missed(guide.Memory, filled) is { } wish)
        {
            yield return new FitNote(
                "population-order",
                FitWeight.Remark,
                null,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{guide.Model.Code} wants {seated.Count} {Phrases.Plural(seated.Count, "module", "modules")} in "
                        + $"{wish.Spoken}."
                ),
                wish.Spoken,
                string.Join(", ", filled),
                Guide
            );
        }
    }

    private static IEnumerable<FitNote> Mixtures(
        MemoryFacts memory,
        IReadOnlyList<(MemorySlot Slot, MemoryModule Module)> seated
    )
    {
        if (
            Differ(m =>
                m.Registered is { } r
                    ? r
                        ? "registered"
                        : "unbuffered"
                    : null
            ) is
            { } buffers
        )
        {
            yield return new FitNote(
                "mixed-buffering",
                FitWeight.Refusal,
                null,
                "Registered and unbuffered modules do not run together.",
                "one kind",
                buffers,
                "JESD79 module standards"
            );
        }

        if (
            Differ(m =>
                m.Ecc is { } e
                    ? e
                        ? "with"
                        : "without"
                    : null
            ) is
            { } ecc
        )
        {
            yield return new FitNote(
                "mixed-ecc",
                FitWeight.Remark,
                null,
                "Modules with and without error correction together: it is off for all, if the machine starts.",
                "one kind",
                ecc,
                Guide
            );
        }

        if (Differ(m => m.RatedSpeed) is { } speeds)
        {
            yield return new FitNote(
                "mixed-speeds",
                FitWeight.Remark,
                null,
                $"Modules of {speeds} MT/s together: all run at the slowest.",
                "one speed",
                speeds,
                "JEDEC SPD: one timing for all"
            );
        }

        foreach (var group in seated.GroupBy(s => s.Slot.Channel).Where(g => g.Key is not null))
        {
            if (Values(group, m => m.Ranks) is { } ranks)
            {
                yield return new FitNote(
                    "mixed-ranks",
                    FitWeight.Remark,
                    null,
                    $"Channel {group.Key} gets modules of {ranks} ranks: some boards train them at a lower speed.",
                    "one number of ranks",
                    ranks,
                    Guide
                );
            }
        }

        foreach (var note in Pairing(memory, seated))
        {
            yield return note;
        }

        string? Differ<T>(Func<MemoryModule, T?> of) => Values(seated, of);

        static string? Values<T>(IEnumerable<(MemorySlot Slot, MemoryModule Module)> some, Func<MemoryModule, T?> of) =>
            some.Select(s => of(s.Module)).Where(v => v is not null).Distinct().Order().ToArray()
                is { Length: > 1 } values
                ? Phrases.Listed(values.Select(v => $"{v}"))
                : null;
    }

    private static IEnumerable<FitNote> Pairing(
        MemoryFacts memory,
        IReadOnlyList<(MemorySlot Slot, MemoryModule Module)> seated
    )
    {
        if (memory.Pairing == "alike-throughout" && Unlike(seated) is { } all)
        {
            yield return new FitNote(
                "not-alike",
                FitWeight.Remark,
                null,
                $"This model wants modules alike throughout; these are {all}.",
                "alike throughout",
                all,
                Guide
            );
        }

        if (memory.Pairing == PairRule.InPairs)
        {
            // A pair is the same place of each channel: the first slots, the second slots.
            var place = memory
                .Slots.GroupBy(s => s.Channel)
                .SelectMany(g => g.Select((s, i) => (s.Id, Place: i)))
                .ToDictionary(p => p.Id, p => p.Place);
            foreach (var pair in seated.GroupBy(s => place[s.Slot.Id]).Where(g => g.Count() > 1))
            {
                if (Unlike(pair) is { } these)
                {
                    yield return new FitNote(
                        "pair-not-alike",
                        FitWeight.Remark,
                        null,
                        $"{Phrases.Listed(pair.Select(p => p.Slot.Id))} are a pair and want modules alike; "
                            + $"these are {these}.",
                        "alike in pairs",
                        these,
                        Guide
                    );
                }
            }
        }

        // By their sizes where those differ, else by all that is known of them.
        static string? Unlike(IEnumerable<(MemorySlot Slot, MemoryModule Module)> some)
        {
            MemoryModule[] modules = [.. some.Select(s => s.Module)];
            if (!modules.Any(a => modules.Any(b => !PairRule.AreAlike(a, b))))
            {
                return null;
            }

            var sizes = modules.Select(m => m.Size).Distinct().Order().Select(s => $"{s}").ToArray();
            return Phrases.Listed(sizes.Length > 1 ? sizes : modules.Select(m => $"{m}").Distinct());
        }
    }

    private static IEnumerable<FitNote> Crowding(
        Platform platform,
        IReadOnlyList<(MemorySlot Slot, MemoryModule Module)> seated
    )
    {
        var fullest = seated
            .Where(s => s.Slot.Channel is not null)
            .GroupBy(s => s.Slot.Channel)
            .Select(g => g.Count())
            .DefaultIfEmpty(0)
            .Max();
        var slowest = seated.DefaultIfEmpty().Min(s => s.Module?.RatedSpeed ?? int.MaxValue);
        if (
            platform.TopSpeed(fullest) is { } crowded
            && platform.TopSpeed(1) is { } alone
            && crowded < Math.Min(alone, slowest)
        )
        {
            yield return new FitNote(
                "crowded-channel",
                FitWeight.Remark,
                null,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{fullest} modules in one channel run at {crowded} MT/s here, not at {Math.Min(alone, slowest)}."
                ),
                $"{crowded} MT/s",
                $"{Math.Min(alone, slowest)} MT/s",
                Guide
            );
        }
    }
}
