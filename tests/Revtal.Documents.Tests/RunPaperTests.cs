using System.Xml.Linq;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;
using Revtal.Documents.Papers;
using Xunit;

namespace Revtal.Tests.Documents;

/// <summary>The sheet on paper, read back by Debian's PDF tools.</summary>
public sealed class RunPaperTests
{
    private static readonly DateTimeOffset Now = new(2026, 3, 2, 9, 30, 0, TimeSpan.Zero);
    private static readonly Printing Printing = new("Saltmarsh Road", Now, TimeZoneInfo.Utc);

    public static TheoryData<string> Models => ["FJ14", "NS13", "PW24", "QT40", "QW80", "TB6", "NM2"];

    [Theory]
    [MemberData(nameof(Models))]
    public void Every_step_every_screw_and_every_bay_is_on_the_sheet(string model)
    {
        var guide = Repository.Guide(model);
        var order = Agreed(guide);
        var sheet = order.Sheet(guide)!;
        var text = Pdf.Bare(Pdf.Text(RunPaper.Write(order, guide, sheet, Printing)));
        Assert.Contains(Pdf.Bare($"101 {guide.Model.Maker} {guide.Model.Name}"), text, StringComparison.Ordinal);
        // Its slots in two rows: what sits there, what will.
        Assert.Contains("beforeplanned", text, StringComparison.Ordinal);
        Assert.All(guide.Memory.Slots, s => Assert.Contains($"{Pdf.Bare(s.Id)}4GB", text, StringComparison.Ordinal));
        Assert.All(sheet.Steps, s => Assert.Contains(Pdf.Bare(s.Title), text, StringComparison.Ordinal));
        Assert.All(
            sheet.Steps.SelectMany(s => s.Details),
            d => Assert.Contains(Pdf.Bare(d), text, StringComparison.Ordinal)
        );
        Assert.All(
            sheet.Steps.SelectMany(s => s.Precautions),
            p => Assert.Contains(Pdf.Bare(p.Text), text, StringComparison.Ordinal)
        );
        Assert.All(
            sheet.Steps.SelectMany(s => s.Fasteners),
            f => Assert.Contains(Pdf.Bare($"{f.Count} × {f.Group}"), text, StringComparison.Ordinal)
        );
        Assert.All(
            guide.Removals.SelectMany(r => r.TakesOut).Where(_ => sheet.Steps.Any(s => s.Records.Count > 1)),
            b => Assert.Contains(Pdf.Bare($"{b} ____"), text, StringComparison.Ordinal)
        );
    }

    [Fact]
    public void What_was_waived_found_or_done_otherwise_stands_at_the_end_in_the_benchs_time()
    {
        var guide = Repository.Guide("FJ14");
        var order = Agreed(guide);
        order = order.Apply(
            Entry(
                order,
                new GateWaived(
                    1,
                    Gate.PowerNotIsolated,
                    StepId.Parse("isolate.remove-battery-pack"),
                    "came in without its pack"
                )
            )
        );
        order = order.Apply(
            Entry(order, new FoundInside(1, FindKind.LiquidMark, StepId.Parse("open.hatch"), "white crust"))
        );
        order = order.Apply(
            Entry(
                order,
                new StepConfirmed(
                    1,
                    StepId.Parse("prepare.bench"),
                    null,
                    "on the field table",
                    null,
                    Deviation: Deviation.Otherwise
                )
            )
        );
        var zone = TimeZoneInfo.CreateCustomTimeZone("bench", TimeSpan.FromHours(2), "bench", "bench");
        var text = Pdf.Bare(Pdf.Text(RunPaper.Write(order, guide, order.Sheet(guide)!, Printing with { Zone = zone })));
        Assert.Contains(Pdf.Bare("printed 2026-03-02 11:30"), text, StringComparison.Ordinal);
        Assert.Contains(
            Pdf.Bare("Waived by mara: power not isolated at “Take the battery pack out”. came in without its pack"),
            text,
            StringComparison.Ordinal
        );
        Assert.Contains(
            Pdf.Bare("Found marks of liquid at “Take off the memory hatch”, mara. white crust"),
            text,
            StringComparison.Ordinal
        );
        Assert.Contains(
            Pdf.Bare("Lay out mat, strap and trays: otherwise, mara. on the field table"),
            text,
            StringComparison.Ordinal
        );
        Assert.Contains(Pdf.Bare("mara, 2026-03-02 11:30"), text, StringComparison.Ordinal);
    }

    [Fact]
    public void A_bag_says_what_lies_in_it_whose_it_is_and_when_it_came_out()
    {
        var guide = Repository.Guide("FJ14");
        var order = Agreed(guide);
        BagLabel[] labels =
        [
            new("S1", "101-S1", "4 GB DDR4", "serial AB12", Now, "mara", null, null),
            new("S2", "101-S2", "8 GB DDR4", null, Now.AddHours(14), "tobi", "recycled", "shelf 3"),
        ];
        var zone = TimeZoneInfo.CreateCustomTimeZone("bench", TimeSpan.FromHours(2), "bench", "bench");
        var text = Pdf.Bare(Pdf.Text(BagPaper.Write(order, guide, labels, Printing with { Zone = zone })));
        Assert.Contains(Pdf.Bare("101-S1 4 GB DDR4 serial AB12 Norrland Fjell 14"), text, StringComparison.Ordinal);
        Assert.Contains(
            Pdf.Bare("out 2026-03-02, mara: nobody said yet what becomes of it"),
            text,
            StringComparison.Ordinal
        );
        // Past midnight at the bench.
        Assert.Contains(Pdf.Bare("out 2026-03-03, tobi: recycled"), text, StringComparison.Ordinal);
        Assert.Equal(2, text.Split(Pdf.Bare(order.Intake.Customer)).Length - 1);
    }

    [Fact]
    public void No_word_leaves_the_paper_however_long_the_texts_are()
    {
        var guide = Repository.Guide("FJ14");
        var wordless = new string('W', 300);
        var order = Agreed(guide, wordless, string.Join(' ', Enumerable.Repeat("slow since the storm", 300)));
        var sheet = order.Sheet(guide)!;
        var step = sheet.Steps[0] with { Details = [.. Enumerable.Range(0, 200).Select(n => $"line {n} {wordless}")] };
        sheet = sheet with { Steps = [step, .. sheet.Steps.Skip(1)] };
        var quote = new Quote(
            [.. Enumerable.Repeat(wordless, 40)],
            ["Hidden " + wordless],
            [.. Enumerable.Range(0, 60).Select(n => new QuoteLine($"part {n} {wordless}", 2, 999999.99m, 1999999.98m))],
            60,
            0,
            0,
            0,
            119999998.80m,
            19,
            22799999.77m,
            142799998.57m,
            "EUR",
            []
        );
        Inside(RunPaper.Write(order, guide, sheet, Printing with { Shop = wordless }), "199");
        Inside(QuotePaper.Write(order, guide, quote, Printing with { Shop = wordless }), "142799998.57");

        static void Inside(byte[] pdf, string last)
        {
            var words = XDocument
                .Parse(Pdf.Read(pdf, "-bbox"))
                .Descendants()
                .Where(e => e.Name.LocalName == "word")
                .ToArray();
            Assert.Contains(words, w => w.Value == last);
            Assert.All(
                words,
                w =>
                {
                    Assert.InRange((double)w.Attribute("xMin")!, 40, 595 - 40);
                    Assert.InRange((double)w.Attribute("xMax")!, 40, 595 - 40);
                    Assert.InRange((double)w.Attribute("yMin")!, 30, 842 - 20);
                    Assert.InRange((double)w.Attribute("yMax")!, 30, 842 - 20);
                }
            );
        }
    }

    private static Order Agreed(Guide guide, string customer = "Choir's archive", string complaint = "slow")
    {
        var slots = guide
            .Memory.Slots.Select(s => new SlotReading(
                s.ReportsAs,
                null,
                4L << 30,
                null,
                guide.Memory.Generation,
                null,
                null,
                null,
                null
            ))
            .ToArray();
        var before = new Reading(
            [Source.FirmwareTables],
            new SystemIdentity(null, null, null),
            FirmwareIdentity.Unknown,
            new MemoryReading(slots.Length * (4L << 30), null, null, slots.Length, slots)
        );
        var changes = guide
            .Memory.Slots.Select(s => new SlotChange(
                s.Id,
                new MemoryModule(MemorySize.Gigabytes(8), guide.Memory.Generation, guide.Memory.Module)
            ))
            .ToArray();
        EntryBody[] bodies =
        [
            new TakenIn(
                new Intake(customer, null, "QX-1", complaint, null, null, null, Backup.Made, SealConsent.Given),
                guide.Model.Code,
                1
            ),
            new ReadingTaken(Phase.Before, before, null, null),
            new PlanSet(Planner.Make(guide, before, changes), null),
            new PlanAgreed("M. Alto", null),
        ];
        return Order.Fold(bodies.Select((b, i) => new Entry(101, i + 1, Guid.NewGuid(), Now, "mara", b)));
    }

    private static Entry Entry(Order order, EntryBody body) =>
        new(101, order.Head + 1, Guid.NewGuid(), Now, "mara", body);

    // Lines break where the page wants it, so only the letters are compared.
}
