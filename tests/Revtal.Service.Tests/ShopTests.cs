using System.Diagnostics;
using System.Net;
using System.Text;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>People, guides, exceptions to the straight way, and what the service does at its start.</summary>
public sealed class ShopTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly ServiceProcess service = fixture.Service;

    [Fact]
    public async Task An_order_keeps_the_revision_that_it_began_with()
    {
        var (ines, mara) = (service.As("ines"), service.As("mara"));
        var yaml = await ines.GuideFileAsync("PW24");
        var older = (await mara.TakeInAsync(Story.TakeIn with { Model = "PW24" })).Order;
        var published = await ines.PublishGuideAsync(
            yaml.Replace("fingers", "fingers", StringComparison.Ordinal) + "\n# looked through again\n"
        );
        Assert.True(published.IsNew);
        Assert.False((await ines.PublishGuideAsync(await ines.GuideFileAsync("PW24"))).IsNew);
        var newer = (await mara.TakeInAsync(Story.TakeIn with { Model = "PW24" })).Order;
        Assert.Equal(
            (published.Revision - 1, published.Revision),
            ((await mara.OrderAsync(older)).Revision, (await mara.OrderAsync(newer)).Revision)
        );
        Assert.Equal(yaml, await ines.GuideFileAsync("PW24", published.Revision - 1));
        Assert.Equal("no-such-revision", (await ProblemAsync(mara.GuideAsync("PW24", 99))).Code);
    }

    [Fact]
    public async Task A_guide_with_problems_is_not_published_by_half()
    {
        var before = await service.As(null).GuidesAsync();
        var problem = await ProblemAsync(
            service
                .As("ines")
                .PublishGuideAsync(
                    "format: revtal-guide/1\nmodel: { maker: Norrland, name: X, code: NX1, kind: laptop }\nmemory: { "
                        + "slots: [] }\n"
                )
        );
        Assert.Equal((HttpStatusCode.UnprocessableEntity, "guide-problems"), (problem.Status, problem.Code));
        Assert.Contains("line 3", problem.Message, StringComparison.Ordinal);
        Assert.Equal(
            before.Select(g => (g.Code, g.Revision)),
            (await service.As(null).GuidesAsync()).Select(g => (g.Code, g.Revision))
        );
        Assert.Equal(
            "lead-publishes",
            (await ProblemAsync(service.As("mara").PublishGuideAsync("format: revtal-guide/1"))).Code
        );
        using var json = await SendAsync("guides", new StringContent("{}", Encoding.UTF8, "application/json"), "ines");
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, json.StatusCode);
    }

    [Fact]
    public async Task An_order_can_be_parked_resumed_and_cancelled_and_then_takes_only_notes()
    {
        var mara = service.As("mara");
        var number = (await mara.TakeInAsync(Story.TakeIn)).Order;
        Assert.Equal("text-missing", (await ProblemAsync(mara.ParkAsync(number, new ParkRequest(" ")))).Code);
        Assert.Equal(
            (Stage.Parked, NextKind.Resume),
            (await mara.ParkAsync(number, new ParkRequest("waits for a module"))) is var r
                ? (r.Stage, r.Next.Kind)
                : default
        );
        Assert.Equal("waits for a module", (await mara.BoardAsync()).Cards.Single(c => c.Number == number).WaitsFor);
        Assert.Equal(
            "wrong-stage",
            (await ProblemAsync(mara.TakeReadingAsync(number, Story.Seen(Phase.Before, 8, 0)))).Code
        );
        Assert.Equal(Stage.TakenIn, (await mara.ResumeAsync(number)).Stage);
        Assert.Equal(Stage.Cancelled, (await mara.CancelAsync(number, new ReasonRequest("customer declined"))).Stage);
        Assert.Equal("wrong-stage", (await ProblemAsync(mara.ResumeAsync(number))).Code);
        await mara.NoteAsync(number, new NoteRequest("fetched on Friday"));
        Assert.Equal(
            Stage.Cancelled,
            (await mara.SearchAsync(null, Stage.Cancelled)).Items.Single(c => c.Number == number).Stage
        );
        Assert.Equal(
            ["taken-in/1", "parked/1", "resumed/1", "cancelled/1", "note-added/1"],
            (await mara.EntriesAsync(number)).Select(e => e.Kind)
        );
    }

    [Fact]
    public async Task A_preview_says_what_would_be_and_records_nothing()
    {
        var mara = service.As("mara");
        var number = (await mara.TakeInAsync(Story.TakeIn)).Order;
        await mara.TakeReadingAsync(number, Story.Seen(Phase.Before, 0, 8));
        var preview = await mara.PreviewAsync(number, new PlanRequest([new("S1", Story.Module(16))]));
        Assert.Equal((2, 24L << 30), (preview.Plan.Plan.Slots.Count, preview.Plan.Expectation.Installed!.Value.Bytes));
        Assert.Equal(
            "too-large-for-slot",
            (await ProblemAsync(mara.PreviewAsync(number, new PlanRequest([new("S1", Story.Module(32))])))).Code
        );
        Assert.Equal(2, (await mara.OrderAsync(number)).Head);
    }

    [Fact]
    public async Task A_capture_decodes_without_an_order()
    {
        var reading = await service
            .As(null)
            .DecodeAsync(Revtal.Core.Captures.CaptureBundle.Of(Repository.Capture("vm-after-20g")));
        Assert.Equal(20L << 30, reading.Memory.InstalledBytes);
    }

    [Fact]
    public async Task The_board_can_be_rebuilt_from_the_journal_by_one_command()
    {
        var folder = Directory.CreateTempSubdirectory("revtal-rebuild-").FullName;
        IReadOnlyList<OrderCard> before;
        await using (var first = await ServiceProcess.StartAsync(folder, program: "revtal-demo"))
        {
            before = (await first.As(null).BoardAsync()).Cards;
        }

        using (
            var process = Process.Start(
                new ProcessStartInfo(Repository.At("bin", "revtald"), [.. Stores.Of(folder), "--rebuild", "true"])
                {
                    RedirectStandardOutput = true,
                }
            )!
        )
        {
            Assert.Equal(
                "Rebuilt the projection of 36 orders from the journal.\n",
                await process.StandardOutput.ReadToEndAsync()
            );
        }

        // Starting the demo again fills nothing twice.
        await using (var second = await ServiceProcess.StartAsync(folder, program: "revtal-demo"))
        {
            var after = (await second.As(null).BoardAsync()).Cards;
            Assert.Equal(
                before.Select(c => (c.Number, c.Stage, c.WaitsFor, c.Verdict)),
                after.Select(c => (c.Number, c.Stage, c.WaitsFor, c.Verdict))
            );
            Assert.Equal(36, (await second.As(null).SearchAsync(null)).Items.Count);
        }

        Directory.Delete(folder, recursive: true);
    }

    [Theory]
    [InlineData("is in use", "--urls", "SAME", 2)]
    [InlineData("no time zone", "--shop:zone", "Sea/Bottom", 2)]
    [InlineData("cannot be written", "--data", "/proc/nowhere", 3)]
    [InlineData("loopback only", "--urls", "http://x@127.0.0.1:0", 2)]
    [InlineData("loopback only", "--urls", "http://127.0.0.1.nip.example:0", 2)]
    [InlineData("no address for the collector", "--collect:urls", "http://0.0.0.0:0", 2)]
    [InlineData("Kestrel endpoints", "--Kestrel:Endpoints:Open:Url", "http://0.0.0.0:0", 2)]
    public async Task A_start_that_cannot_be_says_why(string why, string option, string value, int code)
    {
        var folder = Directory.CreateTempSubdirectory("revtal-start-").FullName;
        string[] arguments =
        [
            "--urls",
            "http://127.0.0.1:0",
            "--data",
            folder,
            option,
            value == "SAME" ? service.Address.ToString() : value,
        ];
        using var process = Process.Start(
            new ProcessStartInfo(Repository.At("bin", "revtald"), arguments)
            {
                RedirectStandardError = true,
                RedirectStandardOutput = true,
            }
        )!;
        var error = await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        Directory.Delete(folder, recursive: true);
        Assert.Equal(code, process.ExitCode);
        Assert.Contains(why, error, StringComparison.Ordinal);
        Assert.DoesNotContain("   at ", error, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_listener_with_an_id_that_is_none_is_told()
    {
        using var answer = await service.Http.GetAsync("/api/v1/changes?after=yesterday");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
    }

    private static async Task<ProblemException> ProblemAsync(Task call) =>
        await Assert.ThrowsAsync<ProblemException>(() => call);

    private Task<HttpResponseMessage> SendAsync(string path, HttpContent content, string person)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, $"/api/v1/{path}") { Content = content };
        request.Headers.Authorization = fixture.Service.Bearer(person);
        return service.Http.SendAsync(request);
    }
}
