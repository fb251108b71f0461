using System.Text.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>A guide goes to another shop and comes back changed.</summary>
public sealed class ExchangeTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient mara = fixture.Service.As("mara");
    private readonly RevtalClient ines = fixture.Service.As("ines");

    [Fact]
    public async Task A_guide_goes_out_without_customers_and_comes_back_merged_into_a_draft()
    {
        await PublishAsync("QT40");
        // What was done here stands behind it, counted.
        var order = (
            await mara.TakeInAsync(
                Story.TakeIn with
                {
                    Model = "QT40",
                    Customer = "Nobody Elsewhere",
                    Serial = "QT-SECRET",
                    Complaint = "a private complaint",
                }
            )
        ).Order;
        await mara.TakeReadingAsync(
            order,
            new ReadingRequest(
                Phase.Before,
                Seen: new SeenReading(
                    Revtal.Core.Hardware.MemorySize.Gigabytes(8),
                    Slots: [new SeenSlot("A2", new(Revtal.Core.Hardware.MemorySize.Gigabytes(8)))]
                )
            )
        );
        await mara.SetPlanAsync(order, new PlanRequest([new Revtal.Core.Planning.SlotChange("A2", Reseat: true)]));
        await mara.AgreeAsync(order, new AgreeRequest("Nobody Elsewhere"));
        await Story.RunAsync(mara, order, lead: ines);
        await mara.TakeReadingAsync(
            order,
            new ReadingRequest(
                Phase.After,
                Seen: new SeenReading(
                    Revtal.Core.Hardware.MemorySize.Gigabytes(8),
                    Slots: [new SeenSlot("A2", new(Revtal.Core.Hardware.MemorySize.Gigabytes(8)))]
                )
            )
        );
        await ines.ReadyAsync(order, new ReasonRequest("seen by eye"));
        var file = await mara.ExportGuideAsync("QT40");
        Assert.Equal((1, 1), (file.Evidence.Runs, file.Evidence.Ways.Count));
        Assert.Equal("side-panel", file.Evidence.Ways[0].Way);
        var text = JsonSerializer.Serialize(file, RevtalJson.Options);
        Assert.All(
            new[] { "Nobody Elsewhere", "QT-SECRET", "private complaint", "mara", "ines" },
            word => Assert.DoesNotContain(word, text, StringComparison.OrdinalIgnoreCase)
        );

        // The other shop changed one fact, and we another.
        var theirs = file with
        {
            Shop = "Elsewhere",
            Revisions =
            [
                .. file.Revisions,
                file.Revisions[^1].Replace("2019..2023", "2019..2024", StringComparison.Ordinal),
            ],
        };
        var own = file.Revisions[^1].Replace("maker: Quillon", "maker: Quillon & Co", StringComparison.Ordinal);
        await ines.PublishGuideAsync(own);
        var view = await mara.CompareExchangeAsync(theirs);
        Assert.Equal(
            [("model.maker", MergeSide.Ours), ("model.built", MergeSide.Theirs)],
            view.Facts.Select(f => (f.Path, f.Changed))
        );
        Assert.Equal(view.Ours - 1, view.Common);
        var draft = await mara.MergeExchangeAsync(new MergeRequest(theirs));
        Assert.Contains("Quillon & Co", draft.Yaml, StringComparison.Ordinal);
        Assert.Contains("2019..2024", draft.Yaml, StringComparison.Ordinal);
        Assert.Empty(draft.Problems);
        // What somebody works on is not written over.
        Assert.Equal(409, (await Story.Refused(mara.MergeExchangeAsync(new MergeRequest(theirs)))).Status);
        await ines.DiscardDraftAsync("QT40");
    }

    [Fact]
    public async Task A_model_that_is_new_here_becomes_a_draft_and_what_is_no_guide_is_refused_whole()
    {
        await PublishAsync("NL12");
        var file = await mara.ExportGuideAsync("NL12");
        var fresh = file with
        {
            Code = "NL99",
            Revisions = [file.Revisions[^1].Replace("code: NL12", "code: NL99", StringComparison.Ordinal)],
        };
        Assert.Null((await mara.CompareExchangeAsync(fresh)).Ours);
        Assert.Equal("NL99", (await mara.MergeExchangeAsync(new MergeRequest(fresh))).Code);

        Assert.Equal(
            (422, "exchange-code"),
            await Story.Refused(mara.CompareExchangeAsync(file with { Code = "FJ14" }))
        );
        Assert.Equal(
            (422, "exchange-unknown"),
            await Story.Refused(mara.CompareExchangeAsync(file with { Format = "revtal-exchange/9" }))
        );
        Assert.Equal(
            (422, "guide-problems"),
            await Story.Refused(mara.CompareExchangeAsync(file with { Revisions = ["format: revtal-guide/1"] }))
        );
        var picture = new ExchangePicture(new string('a', 64), Convert.ToBase64String("no picture"u8));
        var other = file with
        {
            Code = "NL98",
            Revisions = [file.Revisions[^1].Replace("NL12", "NL98", StringComparison.Ordinal)],
        };
        Assert.Equal(
            (422, "exchange-picture"),
            await Story.Refused(mara.MergeExchangeAsync(new MergeRequest(other with { Pictures = [picture] })))
        );
        Assert.Equal((404, "no-draft"), await Story.Refused(mara.DraftAsync("NL98")));
    }

    private async Task PublishAsync(string code) =>
        await ines.PublishGuideAsync(await File.ReadAllTextAsync(Repository.At("guides", $"{code}.yaml")));
}
