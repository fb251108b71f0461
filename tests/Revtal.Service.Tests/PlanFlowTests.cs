using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>From options to the customer's word, and a drive's data on its way.</summary>
public sealed class PlanFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private static readonly MemoryModule Small = new(MemorySize.Gigabytes(8), "DDR4", "SO-DIMM", 2666),
        Large = new(MemorySize.Gigabytes(16), "DDR4", "SO-DIMM", 3200);

    private readonly ServiceProcess service = fixture.Service;
    private readonly RevtalClient mara = fixture.Service.As("mara");
    private readonly RevtalClient sanne = fixture.Service.As("sanne");

    [Fact]
    public async Task Options_come_from_the_catalogue_and_one_of_them_becomes_the_plan()
    {
        await mara.PutPartAsync("OP-8", new PartRequest("8 GB", 18, Small));
        await mara.PutPartAsync("OP-16", new PartRequest("16 GB", 39, Large));
        await mara.ReceiveAsync("OP-16", new ReceiveRequest(2));
        var order = await MeasuredAsync();
        var view = await mara.OptionsAsync(order, target: "16 GB");
        Assert.Contains(
            view.Options,
            o =>
                o.Option.Words == "Add 1 × 8 GB (OP-8) in S1"
                && o.Option.Capacity == MemorySize.Gigabytes(16)
                && o.BandwidthShare == 1
        );
        Assert.Contains(view.Options, o => o.Option.Capacity == MemorySize.Gigabytes(24) && o.Option.Kept.Count == 1);
        Assert.All(view.Options, o => Assert.DoesNotContain(view.Options, p => p.Option.Beats(o.Option)));
        Assert.All(view.LeftOut, l => Assert.InRange(l.By, 1, view.Options.Count));
        Assert.Null(view.Why);
        Assert.Contains(
            "more than a FJ14 takes",
            (await mara.OptionsAsync(order, target: "64 GB")).Why!,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Raise the budget",
            (await mara.OptionsAsync(order, target: "24 GB", budget: 5)).Why!,
            StringComparison.Ordinal
        );
        Assert.Equal((422, "no-such-workload"), await Story.Refused(mara.OptionsAsync(order, workload: "juggling")));
        Assert.Equal((422, "target-missing"), await Story.Refused(mara.OptionsAsync(order)));
        Assert.Equal(MemorySize.Gigabytes(16), (await mara.OptionsAsync(order, workload: "office")).Target);

        var twice = (await mara.OptionsAsync(order, target: "32 GB", stages: 2, giveUp: ["S2"])).Options.First(o =>
            o.Later is not null
        );
        await mara.SetPlanAsync(order, new PlanRequest(twice.Option.Changes, Later: twice.Later));
        var planned = await mara.OrderAsync(order);
        Assert.Equal(twice.Later!.Words, planned.Later!.Words);
        // What comes later goes where the first stage leaves room.
        Assert.Equal(
            ["S1", "S2"],
            twice.Option.Changes.Where(c => c.Fit is not null).Concat(planned.Later.Changes).Select(c => c.Slot).Order()
        );
    }

    [Fact]
    public async Task A_part_is_called_by_its_number_in_any_case_or_by_its_barcode()
    {
        await mara.PutPartAsync("Bar_7", new PartRequest("8 GB", 19, Small, Barcode: "4006381333931"));
        foreach (var called in new[] { "bar_7", "BAR_7", "4006381333931" })
        {
            var preview = await mara.PreviewAsync(
                await MeasuredAsync(),
                new PlanRequest([
                    new SlotChange("S1", new MemoryModule(MemorySize.Zero, PartNumber: new PartNumber(called))),
                ])
            );
            Assert.Equal(
                (new PartNumber("Bar_7"), MemorySize.Gigabytes(8)),
                preview.Plan.Plan.Slots[0].Module is { } m ? (m.PartNumber!.Value, m.Size) : default
            );
            Assert.Equal("Bar_7", (await mara.PartAsync(called)).Line.Kind.Number.ToString());
        }

        Assert.Equal((404, "no-such-part"), await Story.Refused(mara.PartAsync("BarX7")));
    }

    [Fact]
    public async Task The_second_stage_is_offered_at_the_next_visit()
    {
        var serial = $"NF14-{Guid.NewGuid():N}";
        var order = await MeasuredAsync(serial);
        await mara.SetPlanAsync(
            order,
            new PlanRequest(
                [new SlotChange("S1", Small)],
                Later: new LaterStage(new PartNumber("OP-16"), 1, 39, "16 GB into S2")
            )
        );
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        Assert.Null((await mara.MachineAsync(serial)).Noted);
        await Story.RunAsync(mara, order);
        await mara.TakeReadingAsync(order, Story.Seen(Phase.After, 8, 8));
        await mara.ReadyAsync(order, new ReasonRequest());
        await sanne.HandBackAsync(order, new HandBackRequest("J. Marsk"));
        var machine = await mara.MachineAsync(serial);
        Assert.Equal((order, "16 GB into S2"), (machine.Noted!.Order, machine.Noted.Visit.Words));
        Assert.Equal((404, "no-such-machine"), await Story.Refused(mara.MachineAsync("nobody")));
    }

    [Fact]
    public async Task The_customer_agrees_behind_a_link_and_what_was_told_is_frozen()
    {
        var (order, offer, link) = await OfferedAsync("LK-1", 40);
        var seen = await service.As(null).ReadQuoteAsync(link);
        Assert.Equal(
            (order, "Tide-gauge office", null, 40m),
            (seen.Order, seen.Customer, seen.Answered, seen.Quote.Lines[0].Sum)
        );
        Assert.Contains(seen.Quote.Risks, r => r.Contains("backup", StringComparison.Ordinal));
        Assert.True(offer.Until > DateTimeOffset.UtcNow.AddDays(6));
        // The price moves after the quote went out: the quote does not.
        await mara.PutPartAsync("LK-1", new PartRequest("8 GB", 99, Small));
        await service.As(null).AnswerQuoteAsync(link, new AnswerRequest(true, "J. Marsk", "thank you"));
        var view = await mara.OrderAsync(order);
        Assert.Equal((Stage.Agreed, "J. Marsk", seen.Quote.Total), (view.Stage, view.AgreedBy, view.Agreed!.Total));
        Assert.Equal("agreed", (await service.As(null).ReadQuoteAsync(link)).Answered);
        Assert.Equal(
            (409, "quote-answered"),
            await Story.Refused(service.As(null).AnswerQuoteAsync(link, new AnswerRequest(false, "J. Marsk")))
        );
        Assert.Equal(seen.Quote.Total, (await mara.QuoteAsync(order)).Total);
        Assert.StartsWith(
            "%PDF",
            Encoding.ASCII.GetString((await mara.QuotePaperAsync(order)).AsSpan(0, 4)),
            StringComparison.Ordinal
        );

        // A changed plan asks again, at the new price.
        await mara.SetPlanAsync(
            order,
            new PlanRequest([new SlotChange("S1", Small with { PartNumber = new PartNumber("LK-1") })], Discount: 10)
        );
        view = await mara.OrderAsync(order);
        Assert.Equal((Stage.Planned, null), (view.Stage, view.Agreed));
        var quote = await mara.QuoteAsync(order);
        Assert.Equal((99m, 10m), (quote.Lines[0].Sum, quote.DiscountPercent));
        Assert.Equal(Math.Round(quote.Lines.Sum(l => l.Sum) * 0.1m, 2), quote.Discount);
        Assert.Equal((404, "no-such-quote"), await Story.Refused(service.As(null).ReadQuoteAsync(link)));
    }

    [Fact]
    public async Task A_link_opens_one_quote_until_it_is_taken_back_and_cannot_be_guessed()
    {
        var (order, _, link) = await OfferedAsync("LK-2", 20);
        Assert.Equal(43, link.Split('-', 2)[1].Length);
        foreach (
            var wrong in new[]
            {
                $"{order}-{new string('A', 43)}",
                $"{order + 1}-{link.Split('-', 2)[1]}",
                "x",
                $"{order}-",
                $"{order}-%00",
                $"99999999-{link.Split('-', 2)[1]}",
            }
        )
        {
            Assert.Equal((404, "no-such-quote"), await Story.Refused(service.As(null).ReadQuoteAsync(wrong)));
        }

        Assert.Equal(
            (422, "text-missing"),
            await Story.Refused(service.As(null).AnswerQuoteAsync(link, new AnswerRequest(true, " ")))
        );
        await service.As(null).AnswerQuoteAsync(link, new AnswerRequest(false, "J. Marsk", "too dear"));
        var declined = await mara.OrderAsync(order);
        Assert.Equal((Stage.Planned, "too dear"), (declined.Stage, declined.Declined!.Reason!));
        Assert.Contains("declined", declined.Next.Text, StringComparison.Ordinal);

        var again = (await sanne.OfferAsync(order, new OfferRequest(1))).Link.Split('/')[^1];
        Assert.Equal((404, "no-such-quote"), await Story.Refused(service.As(null).ReadQuoteAsync(link)));
        await sanne.RevokeAsync(order);
        Assert.Equal((404, "no-such-quote"), await Story.Refused(service.As(null).ReadQuoteAsync(again)));
        Assert.Equal((409, "no-link"), await Story.Refused(sanne.RevokeAsync(order)));
        Assert.Equal((422, "until-impossible"), await Story.Refused(sanne.OfferAsync(order, new OfferRequest(-1))));
        Assert.Equal((422, "until-impossible"), await Story.Refused(sanne.OfferAsync(order, new OfferRequest(400))));
        // The secret is nowhere in the journal.
        Assert.DoesNotContain(
            again.Split('-', 2)[1],
            await service.Http.GetStringAsync($"api/v1/orders/{order}/entries"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_retry_never_shows_a_link_that_opens_nothing_and_answers_once()
    {
        var (order, _, _) = await OfferedAsync("LK-3", 20);
        var made = await SendAsync($"orders/{order}/quote/link", new { days = 3 }, "sanne", 2);
        Assert.Equal([200, 409], made.Select(m => m.Status));
        var link = JsonDocument.Parse(made[0].Text).RootElement.GetProperty("link").GetString()!.Split('/')[^1];
        var answered = await SendAsync($"quotes/{link}/answer", new { agree = true, name = "J. Marsk" }, null, 2);
        Assert.Equal([200, 200], answered.Select(a => a.Status));
        Assert.Equal(answered[0].Text, answered[1].Text);
    }

    // The same request several times under one key.
    private async Task<(int Status, string Text)[]> SendAsync(string path, object body, string? person, int times)
    {
        var key = Guid.NewGuid().ToString();
        var answers = new List<(int, string)>();
        for (var i = 0; i < times; i++)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"api/v1/{path}")
            {
                Content = JsonContent.Create(body),
            };
            request.Headers.Add("Idempotency-Key", key);
            if (person is not null)
            {
                request.Headers.Authorization = fixture.Service.Bearer(person);
            }

            using var answer = await service.Http.SendAsync(request);
            answers.Add(((int)answer.StatusCode, await answer.Content.ReadAsStringAsync()));
        }

        return [.. answers];
    }

    [Fact]
    public async Task A_quote_without_a_price_is_not_sent()
    {
        var order = await MeasuredAsync();
        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S1", Small)]));
        Assert.Equal((409, "price-missing"), await Story.Refused(sanne.OfferAsync(order, new OfferRequest())));
        Assert.Equal(
            (409, "wrong-stage"),
            await Story.Refused(sanne.OfferAsync(await MeasuredAsync(), new OfferRequest()))
        );
        Assert.Equal(
            (422, "discount-impossible"),
            await Story.Refused(mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S1", Small)], Discount: 150)))
        );
    }

    [Fact]
    public async Task Past_runs_tell_the_time_once_there_are_five()
    {
        var code = $"PR{Random.Shared.Next(1000, 9999)}";
        await service
            .As("ines")
            .PublishGuideAsync(
                (await File.ReadAllTextAsync(Repository.At("guides", "FJ14.yaml"))).Replace(
                    "code: FJ14",
                    $"code: {code}",
                    StringComparison.Ordinal
                )
            );
        for (var i = 0; i < 5; i++)
        {
            var done = await MeasuredAsync(model: code);
            await mara.SetPlanAsync(done, new PlanRequest([new SlotChange("S1", Small)]));
            Assert.Equal(0, (await mara.QuoteAsync(done)).PastRuns);
            await mara.AgreeAsync(done, new AgreeRequest("J. Marsk"));
            await Story.RunAsync(mara, done);
            await mara.TakeReadingAsync(done, Story.Seen(Phase.After, 8, 8));
            await mara.ReadyAsync(done, new ReasonRequest());
        }

        var order = await MeasuredAsync(model: code);
        var preview = await mara.PreviewAsync(order, new PlanRequest([new SlotChange("S1", Small)]));
        Assert.Equal((5, 1), (preview.Quote.PastRuns, preview.Quote.Minutes));
        // Another way in has no past yet.
        Assert.Equal(
            0,
            (await mara.PreviewAsync(order, new PlanRequest([new SlotChange("S2", Reseat: true)]))).Quote.PastRuns
        );
    }

    [Fact]
    public async Task A_boot_drive_is_copied_compared_replaced_and_the_old_one_accounted_for()
    {
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        var old = new SeenDrive(
            "D1",
            new Drive(DriveSize.Parse("500 GB"), "M.2 2280", "M", Serial: "OLD-1"),
            DriveSize.Parse("212 GB")
        );
        await mara.TakeReadingAsync(
            order,
            new ReadingRequest(
                Phase.Before,
                CaptureBundle.Of(Repository.Capture("vm-before-4g")),
                new SeenReading(Drives: [old])
            )
        );
        Assert.Equal("OLD-1", (await mara.OrderAsync(order)).Before!.Reading.Drives.Single().Drive.Serial);
        var drive = new Drive(DriveSize.Parse("1 TB"), "M.2 2280", "M", "PCIe 3.0 x4");
        Assert.Equal((422, "data-path-missing"), await Story.Refused(PlanAsync(new DriveWish(drive))));
        Assert.Equal((422, "word-missing"), await Story.Refused(PlanAsync(new DriveWish(drive, DataPath.LeftBehind))));
        Assert.Equal(
            (422, "drive-too-small"),
            await Story.Refused(
                PlanAsync(new DriveWish(drive with { Size = DriveSize.Parse("128 GB") }, DataPath.CopyFirst))
            )
        );
        Assert.Equal(
            (422, "wrong-drive-form"),
            await Story.Refused(PlanAsync(new DriveWish(drive with { Form = "2.5 in" }, DataPath.CopyFirst)))
        );
        await PlanAsync(new DriveWish(drive, DataPath.CopyFirst, Setup: new DriveSetup(Label: "System")));
        await mara.AgreeAsync(order, new AgreeRequest("J. Marsk"));

        Assert.Equal(
            (409, "no-copy"),
            await Story.Refused(mara.AdvanceCopyAsync(order, "D1", new CopyDoneRequest(DriveSize.Parse("1 GB"))))
        );
        await mara.BeginCopyAsync(
            order,
            "D1",
            new CopyBeginRequest("OLD-1", "NEW-1", "image", DriveSize.Parse("212 GB"))
        );
        Assert.Null((await mara.OrderAsync(order)).Copies.Single().EstimatedEnd);
        await mara.AdvanceCopyAsync(order, "D1", new CopyDoneRequest(DriveSize.Parse("106 GB")));
        Assert.Equal(
            (422, "copy-done"),
            await Story.Refused(mara.AdvanceCopyAsync(order, "D1", new CopyDoneRequest(DriveSize.Parse("50 GB"))))
        );
        var copy = (await mara.OrderAsync(order)).Copies.Single();
        Assert.NotNull(copy.EstimatedEnd);
        Assert.Equal(
            (422, "hashes-missing"),
            await Story.Refused(mara.VerifyCopyAsync(order, "D1", new CopyVerifyRequest(10, 10)))
        );
        var (a, b, c) = (new string('a', 64), new string('b', 64), new string('c', 64));
        await mara.VerifyCopyAsync(
            order,
            "D1",
            new CopyVerifyRequest(10, 10, SourceHashes: $"{a}  one\n{b}  two\n", TargetHashes: $"{a}  one\n{c}  two\n")
        );
        var verified = (await mara.OrderAsync(order)).Copies.Single().Verified!;
        Assert.Equal((2, 1, false), (verified.Sampled, verified.Matched, verified.IsGood));

        // The gate holds until the comparison is good.
        await Story.RunAsync(
            mara,
            order,
            async step =>
            {
                if (step.CopiedFirst.Count > 0)
                {
                    Assert.Equal(
                        (409, "boot-copy-missing"),
                        await Story.Refused(mara.ConfirmAsync(order, step.Id, new ConfirmRequest()))
                    );
                    await mara.VerifyCopyAsync(
                        order,
                        "D1",
                        new CopyVerifyRequest(
                            10,
                            10,
                            SourceHashes: $"{a}  one\n{b}  two\n",
                            TargetHashes: $"{b} *two\n{a}  one\n"
                        )
                    );
                }
            },
            occupants: new() { ["D1"] = "OLD-1" }
        );
        var steps = (await mara.OrderAsync(order)).Run!.Steps.Select(s => s.Step.Id.ToString()).ToArray();
        Assert.Equal(
            ["record.bays", "pull.D1", "fit.D1"],
            steps.Where(s => s.Contains("D1", StringComparison.Ordinal) || s == "record.bays").Take(3)
        );
        Assert.Equal(
            ["set-up.D1.rename", "set-up.D1.grow"],
            steps.Where(s => s.StartsWith("set-up", StringComparison.Ordinal))
        );
        await mara.TakeReadingAsync(order, Story.Read(Phase.After, "vm-before-4g"));
        await service.As("ines").ReadyAsync(order, new ReasonRequest("as planned"));
        Assert.Equal(
            (409, "old-drive-open"),
            await Story.Refused(sanne.HandBackAsync(order, new HandBackRequest("J. Marsk")))
        );
        Assert.Equal(
            (409, "wipe-missing"),
            await Story.Refused(mara.SettleAsync(order, "D1", new OldPartRequest(PartFate.Recycled)))
        );
        Assert.Equal(
            (422, "text-missing"),
            await Story.Refused(
                mara.SettleAsync(order, "D1", new OldPartRequest(PartFate.Wiped, new Wipe(WipeCategory.Purge, "", "")))
            )
        );
        await mara.SettleAsync(
            order,
            "D1",
            new OldPartRequest(
                PartFate.Wiped,
                new Wipe(WipeCategory.Purge, "sanitize, crypto scramble", "200 sectors read back")
            )
        );
        await sanne.HandBackAsync(order, new HandBackRequest("J. Marsk"));
        Assert.Equal(Stage.HandedBack, (await mara.OrderAsync(order)).Stage);

        Task<Receipt> PlanAsync(DriveWish wish) =>
            mara.SetPlanAsync(order, new PlanRequest([new SlotChange("D1", Drive: wish)]));
    }

    [Fact]
    public async Task A_layout_names_the_slots_and_says_why()
    {
        var order = await MeasuredAsync();
        var view = await mara.LayoutAsync(order, new LayoutRequest(Parts: [Small]));
        Assert.Equal(("S1", true), (view.Changes.Single().Slot, view.Answer.IsProved));
        Assert.NotEmpty(view.Answer.Because);
        Assert.Equal(
            (422, "no-free-slot"),
            await Story.Refused(mara.LayoutAsync(order, new LayoutRequest(Parts: [Small, Small])))
        );
        Assert.Equal(
            (404, "no-such-part"),
            await Story.Refused(
                mara.LayoutAsync(
                    order,
                    new LayoutRequest(Parts: [new MemoryModule(MemorySize.Zero, PartNumber: new PartNumber("NOPE"))])
                )
            )
        );
        Assert.Equal("wrong-form", (await mara.FitAsync(order, "S1", Small with { Form = "UDIMM" }))[0].Code);
        Assert.Equal((422, "no-such-slot"), await Story.Refused(mara.FitAsync(order, "S9", Small)));
    }

    private async Task<int> MeasuredAsync(string? serial = null, string model = "FJ14")
    {
        var order = (
            await mara.TakeInAsync(Story.TakeIn with { Serial = serial ?? Story.TakeIn.Serial, Model = model })
        ).Order;
        await mara.TakeReadingAsync(order, Story.Seen(Phase.Before, 0, 8));
        return order;
    }

    private async Task<(int Order, OfferView Offer, string Link)> OfferedAsync(string part, decimal price)
    {
        await mara.PutPartAsync(part, new PartRequest("8 GB", price, Small));
        var order = await MeasuredAsync();
        await mara.SetPlanAsync(
            order,
            new PlanRequest([new SlotChange("S1", Small with { PartNumber = new PartNumber(part) })])
        );
        var offer = await sanne.OfferAsync(order, new OfferRequest(7));
        return (order, offer, offer.Link.Split('/')[^1]);
    }
}
