using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Reports;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>What the customer is told of an order, held against what was really done to it.</summary>
public sealed class CustomerReportTests
{
    private static readonly DateTimeOffset Now = new(2026, 3, 9, 10, 0, 0, TimeSpan.Zero);
    private static readonly Person Ines = new("ines", "Ines Falk", Role.Lead);
    private static readonly ShopTerms Terms = new("EUR", 60, 0);

    private static Report Report(Order order, params PartKind[] kinds) =>
        ReportOf.Order(order, Make.Fjell, kinds, [Make.Mara, Ines], "Saltmarsh Road", Terms, TimeZoneInfo.Utc, Now);

    private static EntryBody[] Read(params string?[] serials) =>
        [
            .. Make.Run(),
            new ReadingTaken(
                Phase.After,
                Make.Reading(Make.Fjell, [8, 8], 15.6, serials: serials.Length == 0 ? null : serials),
                null,
                null
            ),
        ];

    [Fact]
    public void A_report_tells_what_was_asked_done_and_measured()
    {
        var report = Report(Make.Order([.. Read("A1", "B2"), new MarkedReady(Verdict.AsPlanned, null)]));
        Assert.Equal(
            ("Saltmarsh Road", 101, "Norrland Fjell 14", "Choir's archive", "slow"),
            (report.Shop, report.Order, report.Machine, report.Customer, report.Complaint)
        );
        Assert.Contains("8 GB of memory went into slot S1.", report.Done);
        Assert.Equal([0L, 8L << 30], report.Slots.Select(s => s.BeforeBytes));
        Assert.Equal(
            [("S1", "8 GB", "A1"), ("S2", "8 GB", "B2")],
            report.Slots.Select(s => (s.Slot, s.After, s.Serial!))
        );
        Assert.Equal([false, true], report.Slots.Select(s => s.Stays));
        Assert.Equal((8L << 30, 16L << 30), (report.Installed.Before, report.Installed.After));
        Assert.Null(report.HandedBackAt);
        Assert.Equal(("S1", "A1"), (report.Fitted[0].Position, report.Fitted[0].Serial));
        Assert.Single(report.Fitted);
    }

    [Fact]
    public void What_was_short_is_told_as_it_is_and_promises_nothing()
    {
        var report = Report(
            Make.Order([
                .. Make.Run(),
                new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [0, 8], 7.6), null, null),
            ])
        );
        Assert.Contains("8 GB, as before. Nothing of the work is seen.", report.Found);
        Assert.DoesNotContain(report.Found, f => f.Contains("we ", StringComparison.Ordinal));
    }

    [Fact]
    public void Seated_anew_is_what_hands_seated_and_not_what_a_run_was_begun_for()
    {
        EntryBody[] begun =
        [
            .. Make.Run(),
            new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [0, 8], 7.6), null, null),
            new ReseatBegun(["S1"], "only 8 GB seen"),
            new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [8, 8], 15.6), null, null),
        ];
        Assert.DoesNotContain(Report(Make.Order(begun)).Done, d => d.Contains("seated anew", StringComparison.Ordinal));
        EntryBody[] done = [.. begun, new StepConfirmed(2, StepId.Fit("S1"), null, null, null)];
        Assert.Contains("S1 seated anew: only 8 GB seen.", Report(Make.Order(done)).Done);
    }

    [Fact]
    public void A_number_that_all_modules_have_is_nobodys_serial()
    {
        var report = Report(Make.Order(Read("D4E5", "D4E5")));
        Assert.All(report.Slots, s => Assert.Null(s.Serial));
        Assert.Null(report.Fitted[0].Serial);
    }

    [Fact]
    public void What_was_planned_and_left_out_is_not_told_as_done()
    {
        var order = Make.Order(Make.Agreed());
        var bodies = Make.Agreed().ToList();
        foreach (var step in order.Sheet(Make.Fjell)!.Steps)
        {
            var left = step.Id == StepId.Fit("S1");
            bodies.Add(
                new StepConfirmed(
                    1,
                    step.Id,
                    step.LooseFasteners > 0 ? step.LooseFasteners : null,
                    left ? "the slot is broken" : null,
                    null,
                    Deviation: left ? Deviation.Skipped : null
                )
            );
        }

        bodies.Add(new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [0, 8], 7.6), null, null));
        var report = Report(Make.Order([.. bodies]));
        Assert.Contains("Slot S1 was left as it was.", report.Done);
        Assert.DoesNotContain(report.Done, d => d.Contains("went into", StringComparison.Ordinal));
        Assert.Empty(report.Fitted);
        Assert.Equal(("8 GB", "not seen"), (report.Slots[0].Planned, report.Slots[0].After));
        Assert.NotEqual(Verdict.AsPlanned, report.Verdict);
    }

    [Fact]
    public void A_warranty_counts_from_the_hand_back_and_has_no_last_day_before_it()
    {
        var kind = new PartKind(
            new PartNumber("TM-8S"),
            "8 GB laptop module",
            Make.Module(8),
            null,
            1,
            27,
            WarrantyMonths: 24
        );
        var bodies = Read("A1", "B2");
        var set = (PlanSet)bodies[2];
        bodies[2] = set with
        {
            Plan = set.Plan with
            {
                Slots =
                [
                    .. set.Plan.Slots.Select(s =>
                        s.Slot == "S1" ? s with { Module = s.Module! with { PartNumber = kind.Number } } : s
                    ),
                ],
            },
        };
        EntryBody[] ready = [.. bodies, new MarkedReady(Verdict.AsPlanned, null)];
        Assert.Equal(
            (24, null),
            (
                Report(Make.Order(ready), kind).Fitted[0].WarrantyMonths,
                Report(Make.Order(ready), kind).Fitted[0].WarrantyUntil
            )
        );
        var back = Report(Make.Order([.. ready, new HandedBack("M. Alto", null)]), kind);
        Assert.Equal("8 GB laptop module", back.Fitted[0].Name);
        // The entries of this order are minutes apart, on 2 March 2026.
        Assert.Equal(new DateOnly(2028, 3, 2), back.Fitted[0].WarrantyUntil);
        Assert.Equal(new DateOnly(2026, 3, 2), DateOnly.FromDateTime(back.HandedBackAt!.Value.UtcDateTime));
    }

    [Fact]
    public void What_a_lead_let_be_and_what_was_found_stand_on_it_with_names()
    {
        var bodies = Make.Run().ToList();
        bodies.Insert(5, new GateWaived(1, Gate.StillCooling, StepId.Open("hatch"), "came in cold"));
        bodies.Insert(6, new FoundInside(1, FindKind.LiquidMark, null, "white crust at S1"));
        bodies.Insert(7, new FoundInside(1, FindKind.HiddenFastener, null, "under the label"));
        var order = Make.Order([
            .. bodies,
            new ReadingTaken(Phase.After, Make.Reading(Make.Fjell, [8, 0], 7.6), null, null),
            new MarkedReady(Verdict.Short, "the customer takes it as it is", null, null),
        ]);
        var report = Report(order);
        Assert.Contains(
            report.LetBe,
            l =>
                l.StartsWith("Still cooling", StringComparison.Ordinal)
                && l.EndsWith("came in cold (Mara)", StringComparison.Ordinal)
        );
        Assert.Contains(
            report.LetBe,
            l => l.Contains("the customer takes it as it is (Mara)", StringComparison.Ordinal)
        );
        Assert.Contains("Found marks of liquid: white crust at S1.", report.Found);
        // How the bench got in is no matter of the customer's.
        Assert.DoesNotContain(report.Found, f => f.Contains("label", StringComparison.Ordinal));
        Assert.Equal(Verdict.Short, report.Verdict);
    }

    [Fact]
    public void Figures_stand_beside_each_other_and_load_is_no_gain_by_itself()
    {
        var report = Report(
            Make.Order([
                .. Read("A1", "B2"),
                new ScoresTaken(Phase.Before, [new Score("open the chart", "s", 12.5m, false)], null),
                new ScoresTaken(Phase.After, [new Score("open the chart", "s", 10m, false)], null),
                new LoadWatched(Phase.Before, Series(7, 2), null, null),
                new LoadWatched(Phase.After, Series(7, 0), null, null),
            ])
        );
        Assert.Equal(new ReportFigure("open the chart", "s", 12.5m, 10m, -20m, true), report.Figures[0]);
        var wanted = report.Figures.Single(f => f.Name == "Memory wanted at most");
        Assert.Equal((9m, 7m, null), (wanted.Before, wanted.After, wanted.Better));

        static LoadSeries Series(long used, long paged) =>
            new([0, 60], [used << 30, used << 30], [paged << 30, 0], [40, 60], [null, null], [null, null]);
    }

    [Fact]
    public void Before_anything_was_compared_there_is_none()
    {
        Assert.Equal("nothing-to-check", Assert.Throws<RefusedException>(() => Report(Make.Order(Make.Run()))).Code);
        Assert.Equal("wrong-stage", Make.WhyNot(OrderAct.MakeReport, Make.Order(Make.Run())));
        Assert.Equal(
            "no-report",
            Make.WhyNot(OrderAct.OfferReport, Make.Order([.. Read(), new MarkedReady(Verdict.AsPlanned, null)]))
        );
    }

    [Theory]
    [InlineData("107-7K3M-Q9ZT-W2XB", "107-7K3M-Q9ZT-W2XB")]
    [InlineData(" 107-7k3mq9ztw2xb ", "107-7K3M-Q9ZT-W2XB")]
    [InlineData("107-7K3M-Q9ZT-W2XO", "107-7K3M-Q9ZT-W2X0")]
    [InlineData("107-lK3M-Q9ZT-W2XB", "107-1K3M-Q9ZT-W2XB")]
    public void A_proofs_id_is_read_as_people_type_it(string typed, string id)
    {
        Assert.True(ProofId.TryParse(typed, out var read));
        Assert.Equal(id, read.ToString());
    }

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("107")]
    [InlineData("-7K3M-Q9ZT-W2XB")]
    [InlineData("107-7K3M-Q9ZT-W2X")]
    [InlineData("107-7K3M-Q9ZT-W2XU")]
    [InlineData("107-7K3M-Q9ZT-W2XB5")]
    public void What_is_no_proofs_id_is_none(string? typed) => Assert.False(ProofId.TryParse(typed, out _));
}
