using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>The collector: its script run for real on this machine, and everything that a code must not open.</summary>
public sealed class CollectorTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly RevtalClient mara = fixture.Service.As("mara");

    [Fact]
    public async Task The_script_that_the_code_fetches_reads_this_machine_and_sends_it()
    {
        var (order, invite) = await InvitedAsync();
        var script = await fixture.Service.Http.GetStringAsync($"c/{invite.Code}");
        Assert.Contains(invite.Code, script, StringComparison.Ordinal);
        var (output, error) = await ShAsync(script);

        Assert.Contains($"Taken for order {order}, before.", output, StringComparison.Ordinal);
        var view = await mara.OrderAsync(order);
        var line = Assert.Single(view.Readings);
        Assert.True(line is { ByMachine: true, By: "mara", Phase: Phase.Before });
        // This machine tells what it has; where it has no firmware tables the script says so and sends the rest.
        var kernel =
            long.Parse(
                File.ReadLines("/proc/meminfo").First().Split(' ', StringSplitOptions.RemoveEmptyEntries)[1],
                System.Globalization.CultureInfo.InvariantCulture
            ) << 10;
        Assert.Equal(kernel, line.UsableBytes);
        Assert.Equal(
            !File.Exists("/sys/firmware/dmi/tables/DMI"),
            line.Missing.Any(m => m.StartsWith("firmware tables", StringComparison.Ordinal))
        );
        Assert.All(line.Missing, m => Assert.Contains(m, error, StringComparison.Ordinal));
        Assert.NotNull(view.Before!.Reading.Host!.TakenAt);
    }

    [Fact]
    public async Task It_watches_what_the_machine_has_to_do_and_ends_by_itself()
    {
        var order = await OrderAsync();
        var invite = await mara.InviteAsync(order, new InviteRequest(Phase.Before, 30, Watch: 10));
        Assert.EndsWith("sh -s -- --for 10m", invite.Lines["linux"], StringComparison.Ordinal);
        Assert.EndsWith("-For 10m", invite.Lines["windows"], StringComparison.Ordinal);
        // The code outlasts the watching.
        Assert.InRange((invite.Until - DateTimeOffset.UtcNow).TotalMinutes, 38, 41);
        var script = await fixture.Service.Http.GetStringAsync($"c/{invite.Code}");
        var begun = Stopwatch.StartNew();
        await ShAsync(script, null, "-s", "--", "--for", "3s", "--every", "1");
        // It counts whole seconds: the first may be nearly over when it begins.
        Assert.InRange(begun.Elapsed.TotalSeconds, 2, 30);

        var watched = Assert.Single((await mara.ScoresAsync(order)).Watched);
        var series = watched.Load.Series;
        Assert.InRange(series.Seconds.Count, 3, 6);
        Assert.Equal((Phase.Before, 0, 1), (watched.Load.Phase, series.Seconds[0], watched.Peaks.Minutes));
        var kernel = (await mara.OrderAsync(order)).Before!.Reading.Memory.UsableBytes!.Value;
        Assert.All(series.InUseBytes, used => Assert.InRange(used!.Value, 1, kernel));
        Assert.All(series.CpuPercent.Skip(1), cpu => Assert.InRange(cpu!.Value, 0, 100));
        Assert.All(series.DiskBytes.Skip(1).Concat(series.NetBytes.Skip(1)), rate => Assert.True(rate >= 0));
        Assert.Equal((422, "watch-minutes"), await Story.Refused(mara.InviteAsync(order, new(Phase.Before, 30, 121))));
    }

    [Fact]
    public async Task What_it_sends_names_no_people_and_no_files()
    {
        var folder = Directory.CreateTempSubdirectory("revtal-collect-").FullName;
        await ShAsync(Encoding.UTF8.GetString(await mara.CollectorAsync("linux")), folder);
        var file = Assert.Single(Directory.GetFiles(folder, "*.revtal"));
        var bundle = JsonSerializer.Deserialize<CaptureBundle>(await File.ReadAllBytesAsync(file), RevtalJson.Options)!;
        Assert.NotNull(CaptureDecoder.Decode(bundle.ToFiles()).Memory.UsableBytes);
        foreach (
            var sent in bundle.Files.Where(f =>
                f.Name.EndsWith(".json", StringComparison.Ordinal) || f.Name.EndsWith(".txt", StringComparison.Ordinal)
            )
        )
        {
            var text = Encoding.UTF8.GetString(sent.Content);
            Assert.DoesNotContain(Environment.UserName + "/", text, StringComparison.Ordinal);
            Assert.DoesNotMatch("\"(/home|/work|/mnt|/media|/root)", text);
            Assert.DoesNotContain(Environment.MachineName, text, StringComparison.Ordinal);
        }

        // And the file from the stick is taken like any capture.
        var order = await OrderAsync();
        Assert.Equal(
            Stage.Measured,
            (await mara.TakeReadingAsync(order, new ReadingRequest(Phase.Before, bundle))).Stage
        );
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_code_is_used_once_and_a_wrong_or_closed_one_opens_nothing()
    {
        var (order, invite) = await InvitedAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await SendAsync($"{order}-0000-0000", Real())).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await SendAsync("999999-0000-0000", Real())).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await SendAsync("..%2f..%2fapi", Real())).StatusCode);

        var newer = await mara.InviteAsync(order, new InviteRequest(Phase.Before));
        Assert.Equal(HttpStatusCode.NotFound, (await SendAsync(invite.Code, Real())).StatusCode);
        // Typed by hand, as it was read aloud.
        Assert.Equal(HttpStatusCode.OK, (await SendAsync(newer.Code.ToLowerInvariant(), Real())).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await SendAsync(newer.Code, Real())).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await fixture.Service.Http.GetAsync($"c/{newer.Code}")).StatusCode);
        Assert.Single((await mara.OrderAsync(order)).Readings);
        Assert.Contains("opens nothing", fixture.Service.Log, StringComparison.Ordinal);
        Assert.All(
            new[] { invite.Code, newer.Code },
            code =>
                Assert.DoesNotContain(code.Split('-', 2)[1], fixture.Service.Log, StringComparison.OrdinalIgnoreCase)
        );
    }

    [Fact]
    public async Task Many_machines_with_one_code_are_one_reading()
    {
        var (order, invite) = await InvitedAsync();
        var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => SendAsync(invite.Code, Real())));
        Assert.Single(answers, a => a.StatusCode == HttpStatusCode.OK);
        Assert.Single((await mara.OrderAsync(order)).Readings);
    }

    [Fact]
    public async Task Hostile_bundles_are_refused_and_leave_the_code_open()
    {
        var (order, invite) = await InvitedAsync();
        foreach (
            var (body, status) in new (string Body, HttpStatusCode Status)[]
            {
                ("{", HttpStatusCode.BadRequest),
                ("""{"format":"revtal-capture/9","files":[]}""", HttpStatusCode.UnprocessableEntity),
                (
                    """{"format":"revtal-capture/1","files":[{"name":"../../etc/passwd","content":"AAAA"}]}""",
                    HttpStatusCode.UnprocessableEntity
                ),
                ($$"""{"format":"revtal-capture/1","files":[{{TooMany}}]}""", HttpStatusCode.UnprocessableEntity),
            }
        )
        {
            var answer = await fixture.Service.Http.PostAsync(
                $"c/{invite.Code}",
                new StringContent(body, Encoding.UTF8, "application/json")
            );
            Assert.Equal(status, answer.StatusCode);
        }

        Assert.Equal(
            "before",
            Assert.Single((await mara.OrderAsync(order)).Invites).Phase.ToString().ToLowerInvariant()
        );
        Assert.Contains($"sent for order {order} was refused", fixture.Service.Log, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Thirty_megabytes_are_refused_before_they_are_read()
    {
        var (_, invite) = await InvitedAsync();
        using var request = new HttpRequestMessage(HttpMethod.Post, $"c/{invite.Code}")
        {
            Content = new ByteArrayContent(new byte[30 << 20]),
        };
        request.Content.Headers.ContentType = new("application/json");
        request.Headers.ExpectContinue = true;
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, (await fixture.Service.Http.SendAsync(request)).StatusCode);
    }

    [Fact]
    public async Task A_sent_reading_reaches_another_screen_by_itself()
    {
        var (order, invite) = await InvitedAsync();
        using var cancel = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        // From where the screen stood when it was drawn, so that nothing falls between.
        var since = (await fixture.Service.As(null).BoardAsync()).Position;
        var listening = Task.Run(
            async () =>
            {
                await foreach (var change in fixture.Service.As(null).ChangesAsync(since, cancel.Token))
                {
                    if (change.Order == order && change.Kind == "reading-taken/1")
                    {
                        return change;
                    }
                }

                return null;
            },
            cancel.Token
        );
        await SendAsync(invite.Code, Real());
        Assert.NotNull(await listening);
    }

    [Fact]
    public async Task The_collector_s_own_port_shows_the_network_nothing_else()
    {
        var port = FreePort();
        await using var service = await ServiceProcess.StartAsync(
            arguments: ["--collect:urls", $"http://127.0.0.1:{port}"]
        );
        using var outside = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{port}") };
        Assert.Equal(HttpStatusCode.NotFound, (await outside.GetAsync("api/v1/board")).StatusCode);
        using var byName = new HttpRequestMessage(HttpMethod.Get, "c/104-ABCD-EFGH");
        byName.Headers.Host = "bench.local";
        Assert.Equal(HttpStatusCode.NotFound, (await outside.SendAsync(byName)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await outside.GetAsync("")).StatusCode);
        var client = service.As("mara");
        var order = (await client.TakeInAsync(new TakeInRequest("FJ14", "Choir's archive", "slow"))).Order;
        var invite = await client.InviteAsync(order, new InviteRequest(Phase.Before));
        Assert.StartsWith("#!/bin/sh", await outside.GetStringAsync($"c/{invite.Code}"), StringComparison.Ordinal);
    }

    [Fact]
    public void The_scripts_are_plain_shell()
    {
        foreach (var name in new[] { "linux.sh", "macos.sh" })
        {
            using var process = Process.Start(
                new ProcessStartInfo("dash", ["-n", Repository.At("src", "Revtal.Service", "Collect", "scripts", name)])
                {
                    RedirectStandardError = true,
                }
            )!;
            Assert.Equal("", process.StandardError.ReadToEnd());
        }

        // No PowerShell runs here: at least its brackets and quotes pair up.
        var windows = string.Join(
            '\n',
            File.ReadLines(Repository.At("src", "Revtal.Service", "Collect", "scripts", "windows.ps1"))
                .Where(l => !l.StartsWith('#'))
        );
        Assert.All(
            new[] { "()", "{}", "[]" },
            pair => Assert.Equal(windows.Count(c => c == pair[0]), windows.Count(c => c == pair[1]))
        );
        Assert.Equal(0, windows.Count(c => c == '\'') % 2);
    }

    private static CaptureBundle Real() => CaptureBundle.Of(Repository.Capture("vm-before-4g"));

    private Task<HttpResponseMessage> SendAsync(string code, CaptureBundle bundle) =>
        fixture.Service.Http.PostAsJsonAsync($"c/{code}", bundle, RevtalJson.Options);

    private async Task<int> OrderAsync() =>
        (await mara.TakeInAsync(new TakeInRequest("FJ14", "Choir's archive", "slow"))).Order;

    private async Task<(int Order, InviteView Invite)> InvitedAsync()
    {
        var order = await OrderAsync();
        return (order, await mara.InviteAsync(order, new InviteRequest(Phase.Before)));
    }

    private static async Task<(string Output, string Error)> ShAsync(
        string script,
        string? folder = null,
        params string[] arguments
    )
    {
        using var process = Process.Start(
            new ProcessStartInfo("dash", arguments)
            {
                RedirectStandardInput = true,
                RedirectStandardOutput = true,
                RedirectStandardError = true,
                WorkingDirectory = folder ?? Path.GetTempPath(),
            }
        )!;
        await process.StandardInput.WriteAsync(script);
        process.StandardInput.Close();
        var output = process.StandardOutput.ReadToEndAsync();
        return (await output, await process.StandardError.ReadToEndAsync());
    }

    private static string TooMany => string.Join(',', Enumerable.Repeat("""{"name":"meminfo","content":""}""", 65));

    // One that the system has just given out; the collector's address is named before the start.
    private static int FreePort()
    {
        using var listener = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
