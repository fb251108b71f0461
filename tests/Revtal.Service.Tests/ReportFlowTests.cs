using System.Diagnostics;
using System.Text;
using System.Text.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>The report from the check to the customer's hand, and its proof before strangers.</summary>
public sealed class ReportFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient mara = fixture.Service.As("mara");
    private readonly RevtalClient sanne = fixture.Service.As("sanne");
    private readonly RevtalClient stranger = new(new HttpClient { BaseAddress = fixture.Service.Address });

    [Fact]
    public async Task A_report_is_made_read_by_its_link_and_made_anew_once_more_is_known()
    {
        var order = await ReadyAsync();
        var preview = await sanne.ReportAsync(order);
        Assert.Equal((null, false), (preview.Proof, preview.IsCurrent));
        Assert.Equal((409, "no-report"), await Story.Refused(sanne.ReportPaperAsync(order)));
        Assert.Equal((409, "no-report"), await Story.Refused(sanne.OfferReportAsync(order, new OfferRequest(30))));

        await sanne.MakeReportAsync(order);
        var made = await sanne.ReportAsync(order);
        Assert.True(made.IsCurrent);
        Assert.Equal(Verdict.AsPlanned, made.Report.Verdict);
        Assert.Equal(16L << 30, made.Report.Installed.After);
        // What people tell each other is no matter of the report's.
        await mara.NoteAsync(order, new NoteRequest("a good one"));
        Assert.True((await sanne.ReportAsync(order)).IsCurrent);

        foreach (var days in (int[])[0, -1, 366, int.MaxValue, int.MinValue])
        {
            var refused = await Story.Refused(sanne.OfferReportAsync(order, new OfferRequest(days)));
            Assert.Equal((422, "days-impossible"), refused);
        }

        var offer = await sanne.OfferReportAsync(order, new OfferRequest(30));
        var link = offer.Link.Split('/')[^1];
        Assert.Contains("/report/", offer.Link, StringComparison.Ordinal);
        var read = await stranger.ReadReportAsync(link);
        Assert.Equal((made.Proof, order), (read.Proof, read.Report.Order));
        Assert.Equal("%PDF"u8.ToArray(), (await stranger.ReadReportPaperAsync(link))[..4]);
        Assert.Equal(await sanne.ProofAsync(order), await stranger.ReadProofAsync(link));

        await sanne.HandBackAsync(order, new HandBackRequest("J. Marsk"));
        Assert.False((await sanne.ReportAsync(order)).IsCurrent);
        await sanne.MakeReportAsync(order);
        var last = await sanne.ReportAsync(order);
        Assert.NotNull(last.Report.HandedBackAt);
        Assert.NotEqual(made.Proof, last.Proof);
        // The link shows the last; the earlier proof stays good and tells that it is not the last.
        Assert.Equal(last.Proof, (await stranger.ReadReportAsync(link)).Proof);
        Assert.Equal((true, false), await MarkAsync(made.Proof!));
        Assert.Equal((true, true), await MarkAsync(last.Proof!));

        var second = await sanne.OfferReportAsync(order, new OfferRequest(30));
        Assert.Equal((404, "no-such-report"), await Story.Refused(stranger.ReadReportAsync(link)));
        Assert.Equal(last.Proof, (await stranger.ReadReportAsync(second.Link.Split('/')[^1])).Proof);

        async Task<(bool, bool)> MarkAsync(string id)
        {
            var mark = await stranger.ProofMarkAsync(id);
            return (mark.Order == order, mark.IsLast);
        }
    }

    [Fact]
    public async Task A_proof_is_good_before_another_library_and_a_changed_byte_fails_in_both()
    {
        var order = await ReadyAsync();
        await sanne.MakeReportAsync(order);
        var proof = Encoding.ASCII.GetString(await sanne.ProofAsync(order));
        var view = await stranger.CheckProofAsync(new ProofCheckRequest(proof));
        Assert.True(view.Genuine);
        Assert.Equal((order, true), (view.Report!.Order, view.IsLast));

        var told = Assert.IsType<JsonElement>(Verify(proof));
        Assert.Equal("revtal-proof+jws", told.GetProperty("header").GetProperty("typ").GetString());
        var payload = told.GetProperty("payload");
        Assert.Equal(view.Id, payload.GetProperty("jti").GetString());
        Assert.Equal(16L << 30, payload.GetProperty("report").GetProperty("installed").GetProperty("after").GetInt64());

        foreach (var place in new[] { 10, proof.IndexOf('.', StringComparison.Ordinal) + 40, proof.Length - 20 })
        {
            var changed = proof[..place] + (proof[place] == 'A' ? 'B' : 'A') + proof[(place + 1)..];
            var checkedOne = await stranger.CheckProofAsync(new ProofCheckRequest(changed));
            Assert.False(checkedOne.Genuine);
            Assert.Null(checkedOne.Report);
            Assert.Null(Verify(changed));
        }
    }

    [Theory]
    [InlineData("")]
    [InlineData("nothing")]
    [InlineData("a.b.c")]
    // {"alg":"none"} . {"report":{}} . nothing
    [InlineData("eyJhbGciOiJub25lIn0.eyJyZXBvcnQiOnt9fQ.")]
    public async Task What_the_shop_never_signed_is_no_proof(string text) =>
        Assert.False((await stranger.CheckProofAsync(new ProofCheckRequest(text))).Genuine);

    [Fact]
    public async Task Keys_turn_over_and_what_the_old_one_signed_stays_good()
    {
        var order = await ReadyAsync();
        await sanne.MakeReportAsync(order);
        var first = Encoding.ASCII.GetString(await sanne.ProofAsync(order));
        var before = (await stranger.KeysAsync()).Keys;
        Assert.Equal((403, "lead-turns"), await Story.Refused(mara.TurnKeyAsync()));
        var after = (await fixture.Service.As("ines").TurnKeyAsync()).Keys;
        Assert.Equal(before.Count + 1, after.Count);
        Assert.NotEqual(before[0].Kid, after[0].Kid);

        await sanne.MakeReportAsync(order);
        var second = Encoding.ASCII.GetString(await sanne.ProofAsync(order));
        var (old, now) = (
            await stranger.CheckProofAsync(new ProofCheckRequest(first)),
            await stranger.CheckProofAsync(new ProofCheckRequest(second))
        );
        Assert.Equal((true, before[0].Kid, false), (old.Genuine, old.Key, old.IsLast));
        Assert.Equal((true, after[0].Kid, true), (now.Genuine, now.Key, now.IsLast));
        Assert.NotNull(Verify(first));
        Assert.NotNull(Verify(second));
    }

    [Fact]
    public async Task What_is_mistyped_opens_nothing_and_an_order_that_is_not_ready_has_none()
    {
        Assert.Equal((404, "no-such-report"), await Story.Refused(stranger.ReadReportAsync("101-AAAA")));
        Assert.Equal((404, "no-such-proof"), await Story.Refused(stranger.ProofMarkAsync("101-0000-0000-0000")));
        Assert.Equal((404, "no-such-proof"), await Story.Refused(stranger.ProofMarkAsync("nothing")));
        var order = (await sanne.TakeInAsync(Story.TakeIn)).Order;
        Assert.Equal((409, "wrong-stage"), await Story.Refused(sanne.ReportAsync(order)));
        Assert.Equal((409, "wrong-stage"), await Story.Refused(sanne.MakeReportAsync(order)));
    }

    [Fact]
    public async Task Links_and_secrets_stay_out_of_the_journals_view()
    {
        var order = await ReadyAsync();
        await sanne.MakeReportAsync(order);
        var offer = await sanne.OfferReportAsync(order, new OfferRequest(3));
        var entries = await sanne.EntriesAsync(order);
        var offered = entries.Single(e => e.Sequence == offer.Receipt.Sequence);
        Assert.Equal("", offered.Body.GetProperty("linkHash").GetString());
    }

    /// <summary>8 GB and 4 GB before; 8 GB comes into S2.</summary>
    private async Task<int> ReadyAsync()
    {
        var order = (await sanne.TakeInAsync(Story.TakeIn with { Serial = $"RF-{Guid.NewGuid():N}"[..12] })).Order;
        await mara.TakeReadingAsync(order, Story.Seen(Phase.Before, 8, 0));
        await mara.SetPlanAsync(order, new PlanRequest([new SlotChange("S2", Story.Module(8))]));
        await sanne.AgreeAsync(order, new AgreeRequest("J. Marsk"));
        await Story.RunAsync(mara, order, lead: fixture.Service.As("ines"));
        await mara.TakeReadingAsync(order, Story.Seen(Phase.After, 8, 8));
        var check = (await mara.OrderAsync(order)).Check!;
        Assert.Equal(Verdict.AsPlanned, check.Verdict);
        await mara.ReadyAsync(order, new ReasonRequest(""));
        return order;
    }

    // By a library that knows nothing of this one; null where it refuses.
    private JsonElement? Verify(string proof)
    {
        using var node = Process.Start(
            new ProcessStartInfo(
                "node",
                [Repository.At("tests", "Shared", "verify-proof.mjs"), $"{fixture.Service.Address}api/v1/shop/keys"]
            )
            {
                RedirectStandardInput = true,
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        node.StandardInput.Write(proof);
        node.StandardInput.Close();
        var told = node.StandardOutput.ReadToEnd();
        node.WaitForExit();
        return node.ExitCode == 0 ? JsonDocument.Parse(told).RootElement : null;
    }
}
