using System.Collections.Concurrent;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Logging;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Other programs are told what is recorded: signed, and again where they do not take it.</summary>
public sealed class WebhookTests : IAsyncLifetime
{
    private ClockedService service = null!;

    private RevtalClient Mara => service.As("mara");

    private RevtalClient Ines => service.As("ines");

    public async ValueTask InitializeAsync() => service = await ClockedService.OpenAsync();

    public ValueTask DisposeAsync() => service.DisposeAsync();

    [Fact]
    public async Task A_program_is_told_each_entry_once_signed_and_without_what_people_wrote()
    {
        await using var books = await Receiver.StartAsync();
        await Mara.TakeInAsync(Story.TakeIn);
        var made = await TellAsync("book-keeping", books);
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await Mara.NoteAsync(order, new NoteRequest("the customer is cross"));
        await UntilAsync(() => books.Came.Count == 2);
        await Task.Delay(300);
        Assert.Equal(["order.taken-in", "order.note-added"], books.Came.Select(c => (string)c.Json["type"]!));
        Assert.All(books.Came, c => Assert.Equal(order, (int)c.Json["data"]!["order"]!));
        Assert.All(books.Came, c => Assert.DoesNotContain("cross", c.Body, StringComparison.Ordinal));
        Assert.All(books.Came, c => Assert.Equal(Webhooks.Signature(made.Secret, c.Id, c.At, c.Body), c.Signature));
        Assert.All(
            books.Came,
            c =>
                Assert.InRange(
                    c.At,
                    ClockedService.Monday.ToUnixTimeSeconds(),
                    ClockedService.Monday.AddMinutes(5).ToUnixTimeSeconds()
                )
        );
        var told = await Ines.WebhookMessagesAsync(made.Webhook.Id);
        Assert.All(told.Items, m => Assert.Equal((MessageState.Delivered, 1, "200 OK"), (m.State, m.Tries, m.Answer)));
    }

    [Fact]
    public async Task It_is_told_of_the_kinds_that_it_asked_for_and_in_words_where_a_lead_says_so()
    {
        await using var books = await Receiver.StartAsync();
        await Ines.MakeWebhookAsync(new WebhookRequest("notes", books.Address, ["note-added"], InWords: true));
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await Mara.NoteAsync(order, new NoteRequest("rang back"));
        await UntilAsync(() => !books.Came.IsEmpty);
        await Task.Delay(300);
        var only = Assert.Single(books.Came);
        Assert.Contains("rang back", (string)only.Json["data"]!["line"]!, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_is_not_taken_comes_again_the_same_and_holds_up_no_other()
    {
        await using var broken = await Receiver.StartAsync(503, 302, 200);
        await using var sound = await Receiver.StartAsync();
        var made = await TellAsync("broken", broken);
        await TellAsync("sound", sound);
        await Mara.TakeInAsync(Story.TakeIn);
        await UntilAsync(() => broken.Came.Count == 1 && sound.Came.Count == 1);
        await UntilAsync(async () => (await OnlyAsync(made)).Tries == 1);
        Assert.Equal((MessageState.Waiting, "503 Service Unavailable"), await StandsAsync(made));

        await UntilAsync(async () => (await OnlyAsync(made)).Tries == 2);
        // Where a program leads on is not followed.
        Assert.Equal((MessageState.Waiting, "302 Found"), await StandsAsync(made));
        service.Clock.Advance(TimeSpan.FromMinutes(4));
        await Task.Delay(300);
        Assert.Equal(2, broken.Came.Count);
        service.Clock.Advance(TimeSpan.FromMinutes(2));
        await UntilAsync(async () => (await OnlyAsync(made)).State == MessageState.Delivered);
        Assert.Equal(3, broken.Came.Count);
        Assert.Single(broken.Came.Select(c => (c.Id, c.Body)).Distinct());
        Assert.Single(sound.Came);
    }

    [Fact]
    public async Task What_was_given_up_is_shown_and_sent_again_by_hand()
    {
        await using var books = await Receiver.StartAsync([.. Enumerable.Repeat(500, 10), 204]);
        var made = await TellAsync("books", books);
        await Mara.TakeInAsync(Story.TakeIn);
        for (var tries = 1; tries <= 10; tries++)
        {
            await UntilAsync(async () => (await OnlyAsync(made)).Tries == tries);
            service.Clock.Advance(TimeSpan.FromHours(27));
        }

        Assert.Equal(MessageState.Dead, (await OnlyAsync(made)).State);
        Assert.Equal(1, (await Ines.WebhooksAsync()).Webhooks[0].Dead);
        await Task.Delay(300);
        Assert.Equal(10, books.Came.Count);

        Assert.Equal(1, (await Ines.ResendWebhookAsync(made.Webhook.Id, new())).Count);
        await UntilAsync(async () => (await OnlyAsync(made)).State == MessageState.Delivered);
        Assert.Equal(0, (await Ines.WebhooksAsync()).Webhooks[0].Dead);
        Assert.Single(books.Came.Select(c => c.Id).Distinct());
    }

    [Fact]
    public async Task What_waits_is_told_after_a_new_start()
    {
        await using var books = await Receiver.StartAsync(500, 200, 200);
        var made = await TellAsync("books", books);
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await UntilAsync(async () => (await OnlyAsync(made)).Tries == 1);
        // Recorded, and perhaps not looked at any more.
        await Mara.NoteAsync(order, new NoteRequest("at closing time"));
        await service.StopAsync();
        await service.StartAsync();
        await UntilAsync(() => books.Came.Count == 3);
        Assert.Equal(
            ["order.note-added", "order.taken-in"],
            books.Came.Skip(1).Select(c => (string)c.Json["type"]!).Order()
        );
    }

    [Fact]
    public async Task Who_says_gone_is_told_nothing_more()
    {
        await using var books = await Receiver.StartAsync(410);
        var made = await TellAsync("books", books);
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await UntilAsync(async () => !(await Ines.WebhooksAsync()).Webhooks[0].Active);
        await Mara.NoteAsync(order, new NoteRequest("again"));
        service.Clock.Advance(TimeSpan.FromDays(1));
        await Task.Delay(300);
        Assert.Single(books.Came);
        Assert.Equal((MessageState.Dead, "410 Gone"), await StandsAsync(made));
        Assert.Equal((409, "webhook-off"), await Story.Refused(Ines.ResendWebhookAsync(made.Webhook.Id, new())));
    }

    [Fact]
    public async Task Another_secret_signs_beside_the_one_before_for_a_day()
    {
        await using var books = await Receiver.StartAsync();
        var made = await TellAsync("books", books);
        var later = await Ines.ChangeWebhookSecretAsync(made.Webhook.Id);
        Assert.True((await Ines.TryWebhookAsync(made.Webhook.Id)).Taken);
        var came = Assert.Single(books.Came);
        Assert.Equal("revtal.tried", (string)came.Json["type"]!);
        Assert.Equal(
            [
                Webhooks.Signature(later.Secret, came.Id, came.At, came.Body),
                Webhooks.Signature(made.Secret, came.Id, came.At, came.Body),
            ],
            came.Signature.Split(' ')
        );
        service.Clock.Advance(TimeSpan.FromHours(25));
        await Ines.TryWebhookAsync(made.Webhook.Id);
        Assert.DoesNotContain(' ', books.Came.Last().Signature);
    }

    // RFC 5737 and RFC 3849: addresses for documentation are nobody's; nothing is sent to them.
    [Theory]
    [InlineData("http://192.0.2.7/told", "outside of this network")]
    [InlineData("http://[2001:db8::7]/told", "outside of this network")]
    [InlineData("http://169.254.169.254/latest", "this very link")]
    [InlineData("https://[fe80::1]/told", "this very link")]
    [InlineData("http://[::ffff:169.254.1.2]/told", "this very link")]
    public async Task It_is_led_nowhere_by_an_address(string address, string why)
    {
        var made = await Ines.MakeWebhookAsync(new WebhookRequest("books", address));
        var tried = await Ines.TryWebhookAsync(made.Webhook.Id);
        Assert.False(tried.Taken);
        Assert.Contains(why, tried.Answer, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("file:///etc/passwd", null, "webhook-address")]
    [InlineData("https://a:b@books.example/", null, "webhook-address")]
    [InlineData("books", null, "webhook-address")]
    [InlineData("https://books.example/", "plan-agreed/1", "webhook-kind")]
    public async Task What_cannot_be_told_is_refused(string address, string? kind, string code) =>
        Assert.Equal(
            (422, code),
            await Story.Refused(
                Ines.MakeWebhookAsync(new WebhookRequest("books", address, kind is null ? null : [kind]))
            )
        );

    private Task<WebhookMade> TellAsync(string name, Receiver receiver) =>
        Ines.MakeWebhookAsync(new WebhookRequest(name, receiver.Address));

    private async Task<WebhookMessage> OnlyAsync(WebhookMade made) =>
        (await Ines.WebhookMessagesAsync(made.Webhook.Id)).Items is [var only]
            ? only
            : new WebhookMessage(
                0,
                "",
                "",
                "",
                MessageState.Waiting,
                0,
                ClockedService.Monday,
                ClockedService.Monday,
                null,
                null
            );

    private async Task<(MessageState, string?)> StandsAsync(WebhookMade made) =>
        await OnlyAsync(made) is var m ? (m.State, m.Answer) : default;

    private Task UntilAsync(Func<bool> isSo) => UntilAsync(() => Task.FromResult(isSo()));

    private Task UntilAsync(Func<Task<bool>> isSo) => service.UntilAsync(TimeSpan.FromSeconds(0.6), isSo);

    private sealed record Message(string Id, long At, string Signature, string Body)
    {
        public JsonNode Json => JsonNode.Parse(Body)!;
    }

    /// <summary>Somebody else's program, on loopback: it answers as it is told, then with 200.</summary>
    private sealed class Receiver(WebApplication app) : IAsyncDisposable
    {
        public ConcurrentQueue<Message> Came { get; } = new();

        public string Address => $"{app.Urls.First()}/told";

        public static async Task<Receiver> StartAsync(params int[] answers)
        {
            var builder = WebApplication.CreateSlimBuilder();
            builder.WebHost.UseUrls("http://127.0.0.1:0");
            builder.Logging.ClearProviders();
            var receiver = new Receiver(builder.Build());
            await receiver.ListenAsync(new Queue<int>(answers));
            return receiver;
        }

        private async Task ListenAsync(Queue<int> answers)
        {
            app.MapPost(
                "/told",
                async (HttpRequest request) =>
                {
                    var body = await new StreamReader(request.Body).ReadToEndAsync();
                    var header = request.Headers;
                    Came.Enqueue(
                        new Message(
                            header["webhook-id"]!,
                            long.Parse(header["webhook-timestamp"]!),
                            header["webhook-signature"]!,
                            body
                        )
                    );
                    request.HttpContext.Response.Headers.Location = "/elsewhere";
                    return Results.StatusCode(answers.TryDequeue(out var next) ? next : 200);
                }
            );
            await app.StartAsync();
        }

        public ValueTask DisposeAsync() => app.DisposeAsync();
    }
}
