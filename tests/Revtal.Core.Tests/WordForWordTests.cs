using Revtal.Core.Bench;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What the check, the run and the plan say, word for word.</summary>
public sealed class WordForWordTests
{
    private static readonly Guide[] Guides = [.. Repository.Models.Select(Repository.Guide)];

    [Fact]
    public void Findings() =>
        WordFile.Holds(
            "findings",
            Truths
                .Judged(Guides)
                .SelectMany(j => j.Case.Check().Findings.Select(f => (f.Code, Lines: Told(f))))
                .DistinctBy(f => (f.Code, f.Lines[0]))
                .GroupBy(f => f.Code)
                .OrderBy(g => g.Key, StringComparer.Ordinal)
                // A few of each: with one and with several, where it is told and where not.
                .SelectMany(g => g.Take(4).SelectMany(f => f.Lines.Prepend($"[{f.Code}]")))
        );

    [Fact]
    public void Verdicts() =>
        WordFile.Holds(
            "verdicts",
            Truths
                .Judged(Guides)
                .Select(j => j.Case.Check())
                .Select(c => $"{c.Verdict}: {c.Sentence}")
                .Distinct()
                .Order(StringComparer.Ordinal)
        );

    [Fact]
    public void Steps() =>
        WordFile.Holds(
            "steps",
            Guides.SelectMany(g => Bench(g).Sheet.Steps.SelectMany(Told).Prepend($"[{g.Model.Code}]"))
        );

    [Fact]
    public void Quotes_and_notes() =>
        WordFile.Holds(
            "plans",
            Guides.SelectMany(g =>
            {
                var bench = Bench(g);
                var quote = Revtal.Core.Orders.Quotes.Of(
                    bench.Order,
                    g,
                    [],
                    WorkTime.Of(bench.Sheet, []),
                    new ShopTerms("EUR", 60, 19, 18)
                );
                return new[] { $"[{g.Model.Code}]", PlanWords.Short(bench.Order.Plan!.Value) }
                    .Concat(quote.Work)
                    .Concat(quote.Risks)
                    .Concat(quote.Lines.Select(l => $"{l.Count} × {l.Text}: {l.Each?.ToString() ?? "?"}, {l.Sum}"))
                    .Concat(quote.Unpriced)
                    .Concat(FitRules.Of(g, bench.Order.Before!.Value, bench.Order.Plan.Value).Select(Told));
            })
        );

    [Fact]
    public void What_does_not_fit() =>
        WordFile.Holds(
            "fit",
            Guides.SelectMany(g =>
                Parts()
                    .SelectMany(p => FitRules.Of(Platform.Of(g, Make.Reading(g, Empty(g))), g.Memory.Slots[^1], p))
                    .Select(Told)
                    .Distinct()
                    .Prepend($"[{g.Model.Code}]")
            )
        );

    private static IEnumerable<MemoryModule> Parts() =>
        from generation in (string?[])["DDR3", "DDR4", "DDR5", null]
        from form in (string?[])["SO-DIMM", "DIMM", null]
        from size in (int[])[4, 16, 64, 256]
        from more in (Func<MemoryModule, MemoryModule>[])
            [
                m => m,
                m => m with { Ecc = true },
                m => m with { Registered = true },
                m => m with { RatedSpeed = 1333 },
                m => m with { Voltage = 1.5m },
            ]
        select more(new MemoryModule(MemorySize.Gigabytes(size), generation, form));

    // A module into each free slot, a drive into its first bay, and it is cleaned.
    private static Bench Bench(Guide guide) =>
        new(
            guide.Model.Code,
            Empty(guide),
            [
                .. guide
                    .Memory.Slots.Where(s => !s.Soldered)
                    .Select(s => new SlotChange(s.Id, new MemoryModule(MemorySize.Gigabytes(8)))),
                .. guide.Drives.Take(2).Select((b, i) => new SlotChange(b.Id, Drive: Drive(guide, b, i == 0))),
            ]
        )
        {
            Cleans = true,
        };

    // The first takes the data of what was there, the second is new and set up.
    private static DriveWish Drive(Guide guide, DriveBay bay, bool isFirst) =>
        new(
            new Drive(DriveSize.Sold(1000), bay.Form, bay.Key, bay.Link, Serial: $"NEW-{bay.Id}"),
            isFirst ? DataPath.CopyFirst : DataPath.CleanInstall,
            Setup: isFirst
                ? new DriveSetup(Label: "Data", Mount: "/data", Grow: true)
                : new DriveSetup(true, "GPT", "ext4", "Work", "/work"),
            ArrayState: guide.Model.Kind == "storage box" ? "all six in, no rebuild" : null
        );

    private static int[] Empty(Guide guide) => [.. guide.Memory.Slots.Select(s => s.Soldered ? 8 : 0)];

    private static string[] Told(Finding f) =>
        [
            f.Sentence,
            $"  {f.Severity}: {f.Seen}, not {f.Expected}",
            .. f.Causes.Select(c => $"  perhaps: {c}"),
            $"  {f.Action.Kind}: {f.Action.Text}",
            $"  to the customer: {f.Customer}",
        ];

    private static string Told(FitNote n) => $"{n.Code}, {n.Weight}: {n.Sentence} ({n.Takes} | {n.Has} | {n.Source})";

    private static IEnumerable<string> Told(RunStep s) =>
        new[] { $"{s.Id}, {s.Part}, {s.Minutes} min: {s.Title}" }
            .Concat(s.Details.Select(d => $"  {d}"))
            .Concat(s.Precautions.Select(p => $"  {p.Kind}: {p.Text}"))
            .Concat(s.Traps.Select(t => $"  trap: {t}"))
            .Concat(s.Stuck.Select(t => $"  stuck: {t}"))
            .Concat(s.Signs.Select(x => $"  sign: {x.Line}"))
            .Concat(s.WaitsFor.Select(w => $"  after {w}"));
}
