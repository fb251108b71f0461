using System.IO.Compression;
using System.Net;
using System.Net.Http.Headers;
using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;
using Revtal.Documents;
using SkiaSharp;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Guides between bench and shelf: drafts, suggestions, libraries, pictures.</summary>
public sealed class GuideFlowTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly ServiceProcess service = fixture.Service;
    private readonly RevtalClient lead = fixture.Service.As("ines");
    private readonly RevtalClient mara = fixture.Service.As("mara");

    [Fact]
    public async Task A_draft_goes_through_hands_and_problems_to_a_revision()
    {
        var code = await PublishAsync("DR1");
        var yaml = await lead.GuideFileAsync(code);
        var first = await mara.SaveDraftAsync(
            code,
            yaml.Replace("minutes: 9", "minutes: 8", StringComparison.Ordinal)
                .Replace("reach: hatch", "reach: roof", StringComparison.Ordinal),
            0
        );
        Assert.Contains(first.Problems, p => p.Message.Contains("roof", StringComparison.Ordinal) && p.Line > 1);
        Assert.Equal((409, "draft-overtaken"), await Story.Refused(lead.SaveDraftAsync(code, yaml, 0)));
        Assert.Equal((422, "guide-problems"), await Story.Refused(lead.PublishDraftAsync(code)));
        Assert.Equal((403, "lead-publishes"), await Story.Refused(mara.PublishDraftAsync(code)));
        var second = await mara.SaveDraftAsync(
            code,
            first.Yaml.Replace("reach: roof", "reach: hatch", StringComparison.Ordinal),
            first.Version
        );
        Assert.Empty(second.Problems);
        var difference = Assert.Single((await lead.CompareGuidesAsync(code)).Differences);
        Assert.Equal(
            ("removals[keyboard].minutes", "9", "8"),
            (difference.Path, difference.Before!, difference.After!)
        );
        Assert.Equal(2, (await lead.PublishDraftAsync(code)).Revision);
        Assert.Equal((404, "no-draft"), await Story.Refused(lead.DraftAsync(code)));
        Assert.Equal([2, 1], (await lead.RevisionsAsync(code)).Select(r => r.Revision));
    }

    [Fact]
    public async Task A_new_model_begins_as_a_like_one_but_with_nothing_that_names_or_proves_the_other()
    {
        var like = await PublishAsync("LK1");
        var begun = await lead.BeginDraftAsync("LK2", like);
        // Its name is to be written: until then nobody can publish it.
        Assert.Contains(begun.Problems, p => p.Message.Contains("name", StringComparison.Ordinal));
        Assert.Equal((422, "guide-problems"), await Story.Refused(lead.PublishDraftAsync("LK2")));
        var line = (await mara.DraftsAsync()).Single(d => d.Code == "LK2");
        Assert.Equal((1, "ines", true), (line.Problems, line.By, line.IsNew));

        var named = begun
            .Yaml.Replace("name: ''", "name: Fjell 15", StringComparison.Ordinal)
            .Replace("name: \"\"", "name: Fjell 15", StringComparison.Ordinal);
        await lead.SaveDraftAsync("LK2", named, begun.Version);
        await lead.PublishDraftAsync("LK2");
        var (old, guide) = ((await lead.GuideAsync(like)).Guide, (await lead.GuideAsync("LK2")).Guide);
        Assert.Equal(old.Removals.Select(r => r.Id), guide.Removals.Select(r => r.Id));
        Assert.Equal(old.Memory.Slots.Select(s => s.Reach), guide.Memory.Slots.Select(s => s.Reach));
        Assert.NotEmpty(old.Variants);
        Assert.Empty(guide.Variants);
        Assert.Empty(guide.Model.ReportsAs);
        Assert.Equal((null, null), (guide.Model.TellApart, guide.Memory.ConfirmedMax));
        Assert.DoesNotContain(await mara.DraftsAsync(), d => d.Code == "LK2");

        Assert.Equal((409, "guide-there"), await Story.Refused(lead.BeginDraftAsync("LK2", like)));
        Assert.Equal((404, "no-such-model"), await Story.Refused(lead.BeginDraftAsync("LK3", "NONE")));
        Assert.Equal((422, "guide-code"), await Story.Refused(lead.BeginDraftAsync("no code", like)));
        // Who began it already is not overwritten.
        await lead.SaveDraftAsync("LK4", "mine", 0);
        Assert.Equal((409, "draft-overtaken"), await Story.Refused(lead.BeginDraftAsync("LK4", like)));
    }

    [Fact]
    public async Task An_order_keeps_its_revision_is_told_of_a_newer_one_and_teaches_the_guide()
    {
        var code = await PublishAsync("DR2");
        var number = (await mara.TakeInAsync(Story.TakeIn with { Model = code })).Order;
        await mara.TakeReadingAsync(number, Story.Seen(Phase.Before, 0, 8));
        await mara.SetPlanAsync(number, new PlanRequest([new SlotChange("S1", Story.Module(8))]));
        await mara.SuggestAsync(
            number,
            new SuggestRequest(
                new GuideChange(GuideChangeKind.Minutes, "keyboard", Number: 14),
                StepId.Parse("open.keyboard")
            )
        );
        Assert.Equal(
            (422, "change-target"),
            await Story.Refused(
                mara.SuggestAsync(
                    number,
                    new SuggestRequest(new GuideChange(GuideChangeKind.Minutes, "roof", Number: 14))
                )
            )
        );
        var suggestion = Assert.Single(await lead.SuggestionsAsync(code, SuggestionState.Open));
        Assert.Equal(
            (403, "lead-decides"),
            await Story.Refused(mara.DecideAsync(suggestion.Order, suggestion.Sequence, accept: true))
        );
        Assert.Equal(
            SuggestionState.Accepted,
            (await lead.DecideAsync(suggestion.Order, suggestion.Sequence, accept: true)).State
        );
        Assert.Equal(
            (409, "suggestion-decided"),
            await Story.Refused(lead.DecideAsync(suggestion.Order, suggestion.Sequence, accept: false))
        );
        await lead.PublishDraftAsync(code);
        var order = await mara.OrderAsync(number);
        Assert.Equal((1, 2), (order.Revision, order.NewerRevision!.Value));
        Assert.Equal(9, order.Run!.Steps.Single(s => s.Step.Id.ToString() == "open.keyboard").Step.Minutes);
        Assert.Equal(14, (await mara.GuideAsync(code)).Guide.Removals.Single(r => r.Id == "keyboard").Minutes);
    }

    [Fact]
    public async Task More_than_stated_that_works_proposes_the_confirmed_maximum_by_itself()
    {
        var code = await PublishAsync(
            "DR3",
            y =>
                y.Replace("stated-max: 32 GB", "stated-max: 16 GB", StringComparison.Ordinal)
                    .Replace("max: 16 GB, angle", "max: 12 GB, angle", StringComparison.Ordinal)
        );
        var number = (await mara.TakeInAsync(Story.TakeIn with { Model = code })).Order;
        await mara.TakeReadingAsync(number, Story.Seen(Phase.Before, 8, 8));
        var above = new PlanRequest([new SlotChange("S1", Story.Module(12)), new SlotChange("S2", Story.Module(12))]);
        Assert.Equal((403, "above-all-maxima"), await Story.Refused(mara.SetPlanAsync(number, above)));
        await lead.SetPlanAsync(number, above);
        await mara.AgreeAsync(number, new AgreeRequest("J. Marsk"));
        await Story.RunAsync(mara, number);
        await mara.TakeReadingAsync(number, Story.Seen(Phase.After, 12, 12));
        await mara.ReadyAsync(number, new ReasonRequest());
        var suggestion = Assert.Single(await lead.SuggestionsAsync(code));
        Assert.Equal(
            (GuideChangeKind.ConfirmedMax, MemorySize.Gigabytes(24), number),
            (suggestion.Change.Kind, suggestion.Change.Size!.Value, suggestion.Change.Number!.Value)
        );
        var earlier = (await mara.TakeInAsync(Story.TakeIn with { Model = code })).Order;
        await mara.TakeReadingAsync(earlier, Story.Seen(Phase.Before, 8, 8));
        await lead.DecideAsync(suggestion.Order, suggestion.Sequence, accept: true);
        await lead.PublishDraftAsync(code);
        var again = (await mara.TakeInAsync(Story.TakeIn with { Model = code })).Order;
        await mara.TakeReadingAsync(again, Story.Seen(Phase.Before, 8, 8));
        // What the model takes does not depend on the revision under which a machine came in.
        foreach (var order in new[] { again, earlier })
        {
            Assert.Contains(
                (await mara.PreviewAsync(order, above)).Plan.Notes,
                n => n.Sentence.Contains($"proved here by order {number}", StringComparison.Ordinal)
            );
            await mara.SetPlanAsync(order, above);
        }
    }

    [Fact]
    public async Task A_library_leaves_and_comes_back_whole_and_nothing_is_imported_by_half()
    {
        var picture = await mara.KeepPictureAsync(Png());
        var code = await PublishAsync(
            "DR4",
            y =>
                y.Replace(
                    "    minutes: 9\n",
                    $"    pictures: {{ open: [{picture.Hash}] }}\n    minutes: 9\n",
                    StringComparison.Ordinal
                )
        );
        var zip = await lead.ExportLibraryAsync();
        Assert.All((await lead.ImportLibraryAsync(zip)).Guides, g => Assert.False(g.IsNew));

        await using var other = await ServiceProcess.StartAsync();
        var there = other.As("ines");
        Assert.Equal((403, "lead-publishes"), await Story.Refused(other.As("mara").ImportLibraryAsync(zip)));
        var dry = await there.ImportLibraryAsync(zip, dryRun: true);
        Assert.True(dry.Guides.Single(g => g.Code == code).IsNew);
        Assert.Equal((404, "no-such-model"), await Story.Refused(there.GuideAsync(code)));
        await there.ImportLibraryAsync(zip);
        Assert.Equal(await lead.GuideFileAsync(code), await there.GuideFileAsync(code));
        Assert.Equal(await lead.PictureAsync(picture.Hash), await there.PictureAsync(picture.Hash));

        var half = Zip(
            ("guides/AA1.yaml", Fjell("AA1")),
            ("guides/AA2.yaml", Fjell("AA2").Replace("reach: hatch", "reach: roof", StringComparison.Ordinal))
        );
        var refused = await Assert.ThrowsAsync<ProblemException>(() => there.ImportLibraryAsync(half));
        Assert.Contains("guides/AA2.yaml line", refused.Message, StringComparison.Ordinal);
        Assert.Equal((404, "no-such-model"), await Story.Refused(there.GuideAsync("AA1")));
        Assert.Equal(
            2,
            (await there.ImportLibraryAsync(Zip(("guides/AA1.yaml", Fjell("AA1"))), dryRun: true)).MissingPictures
        );
    }

    [Fact]
    public async Task A_strange_library_s_pictures_are_written_anew_and_its_guides_name_them_so()
    {
        byte[] exif = [0xFF, 0xE1, 0, 24, .. "Exif\0\0GPS-54.1N-here!"u8, 0];
        var jpeg = (await lead.PictureAsync((await mara.KeepPictureAsync(Png())).Hash)).ToArray();
        jpeg = [.. jpeg[..2], .. exif[..26], .. jpeg[2..]];
        var hash = Convert.ToHexStringLower(SHA256.HashData(jpeg));
        var yaml = Fjell("AA7")
            .Replace(
                "    minutes: 9\n",
                $"    pictures: {{ open: [{hash}] }}\n    minutes: 9\n",
                StringComparison.Ordinal
            );
        var zip = new MemoryStream();
        await GuideLibrary.WriteAsync(
            zip,
            new[] { GuideLibrary.Guide("AA7", yaml), GuideLibrary.Picture(hash, jpeg) }.ToAsyncEnumerable()
        );
        var library = zip.ToArray();
        await using var other = await ServiceProcess.StartAsync();
        var there = other.As("ines");
        for (var twice = 0; twice < 2; twice++)
        {
            var told = await there.ImportLibraryAsync(library);
            Assert.Equal((1, twice == 0), (told.Guides.Single().Revision, told.Guides.Single().IsNew));
        }

        Assert.Equal((404, "no-such-picture"), await Story.Refused(there.PictureAsync(hash)));
        var named = Regex
            .Matches(await there.GuideFileAsync("AA7"), "[0-9a-f]{64}")
            .Select(m => m.Value)
            .Single(h => !Fjell("AA7").Contains(h, StringComparison.Ordinal));
        var kept = Encoding.Latin1.GetString(await there.PictureAsync(named));
        Assert.DoesNotContain("GPS", kept, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Photos_belong_to_their_step_and_what_is_none_is_refused()
    {
        var number = await AgreedAsync("FJ14");
        await mara.PhotoAsync(number, Png(), StepId.Parse("open.hatch"), "dust at the fan");
        var photo = Assert.Single((await mara.OrderAsync(number)).Photos);
        Assert.Equal(("open.hatch", "dust at the fan", "mara"), ($"{photo.Step}", photo.Caption!, photo.By));
        using var small = await service.Http.GetAsync($"/api/v1/pictures/{photo.Hash}?small=true");
        Assert.Equal("image/jpeg", small.Content.Headers.ContentType!.MediaType);
        Assert.Equal(
            (422, "picture-unreadable"),
            await Story.Refused(mara.PhotoAsync(number, "no picture"u8.ToArray()))
        );
        Assert.Equal(
            (404, "no-such-step"),
            await Story.Refused(mara.PhotoAsync(number, Png(), StepId.Parse("open.roof")))
        );
        Assert.Equal((404, "no-such-order"), await Story.Refused(mara.PhotoAsync(99_999, Png())));
        using var text = new HttpRequestMessage(HttpMethod.Post, $"/api/v1/orders/{number}/photos")
        {
            Content = new StringContent("x", Encoding.UTF8, "text/plain"),
        };
        text.Headers.Authorization = fixture.Service.Bearer("mara");
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, (await service.Http.SendAsync(text)).StatusCode);
        using var huge = new HttpRequestMessage(HttpMethod.Post, $"/api/v1/orders/{number}/photos")
        {
            Content = new ByteArrayContent(new byte[13 << 20]),
        };
        huge.Content.Headers.ContentType = new MediaTypeHeaderValue("image/jpeg");
        huge.Headers.Authorization = fixture.Service.Bearer("mara");
        huge.Headers.ExpectContinue = true;
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, (await service.Http.SendAsync(huge)).StatusCode);
    }

    [Fact]
    public async Task A_variant_a_waiver_and_a_stop_stand_in_the_journal_and_on_paper()
    {
        var number = await AgreedAsync("FJ14");
        Assert.Equal(
            (403, "lead-waives"),
            await Story.Refused(
                mara.WaiveAsync(
                    number,
                    new WaiveRequest(Gate.PowerNotIsolated, StepId.Parse("isolate.remove-battery-pack"), "pack gone")
                )
            )
        );
        await lead.WaiveAsync(
            number,
            new WaiveRequest(
                Gate.PowerNotIsolated,
                StepId.Parse("isolate.remove-battery-pack"),
                "came in without its pack"
            )
        );
        await mara.FindAsync(
            number,
            new FindRequest(FindKind.SwollenBattery, StepId.Parse("prepare.bench"), "left cell")
        );
        Assert.Equal(
            (409, "run-stopped"),
            await Story.Refused(mara.ConfirmAsync(number, StepId.Parse("prepare.bench"), new ConfirmRequest()))
        );
        await lead.WaiveAsync(number, new WaiveRequest(Gate.RunStopped, null, "cell in the sand"));
        await Story.RunAsync(mara, number);
        var order = await mara.OrderAsync(number);
        Assert.Contains(order.Journal, l => l.Text.Contains("came in without its pack", StringComparison.Ordinal));
        Assert.True(
            order.Run!.Steps.Single(s => s.Step.Id.ToString() == "isolate.remove-battery-pack")
                is { Settled: true, Done: null }
        );
        var pdf = await mara.RunPaperAsync(number);
        Assert.Equal("%PDF-", Encoding.ASCII.GetString(pdf[..5]));
        Assert.Equal(
            (422, "no-such-variant"),
            await Story.Refused(mara.VariantAsync(number, new VariantRequest("FJ99")))
        );
        Assert.Equal(
            (422, "no-such-variant"),
            await Story.Refused(mara.TakeInAsync(Story.TakeIn with { Variant = "FJ99" }))
        );
        var build = (await mara.TakeInAsync(Story.TakeIn with { Variant = "FJ14-1" })).Order;
        Assert.True((await mara.OrderAsync(build)).Positions[0].Slot.Soldered);
    }

    private static string Fjell(string code) =>
        File.ReadAllText(Repository.At("guides", "FJ14.yaml"))
            .Replace("code: FJ14", $"code: {code}", StringComparison.Ordinal);

    private static byte[] Zip(params (string Name, string Text)[] files)
    {
        var bytes = new MemoryStream();
        using (var archive = new ZipArchive(bytes, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, text) in files)
            {
                using var entry = new StreamWriter(archive.CreateEntry(name).Open());
                entry.Write(text);
            }
        }

        return bytes.ToArray();
    }

    private static byte[] Png()
    {
        using var bitmap = new SKBitmap(30, 20);
        return bitmap.Encode(SKEncodedImageFormat.Png, 100).ToArray();
    }

    private async Task<string> PublishAsync(string code, Func<string, string>? change = null)
    {
        await lead.PublishGuideAsync((change ?? (y => y))(Fjell(code)));
        return code;
    }

    private async Task<int> AgreedAsync(string model)
    {
        var number = (await mara.TakeInAsync(Story.TakeIn with { Model = model })).Order;
        await mara.TakeReadingAsync(number, Story.Seen(Phase.Before, 0, 8));
        await mara.SetPlanAsync(number, new PlanRequest([new SlotChange("S1", Story.Module(8))]));
        await mara.AgreeAsync(number, new AgreeRequest("J. Marsk"));
        return number;
    }
}
