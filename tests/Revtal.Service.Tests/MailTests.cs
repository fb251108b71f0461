using System.Buffers;
using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using MimeKit;
using Revtal.Client;
using Revtal.Contracts;
using SmtpServer;
using SmtpServer.ComponentModel;
using SmtpServer.Mail;
using SmtpServer.Protocol;
using SmtpServer.Storage;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>What lies unread is mailed, against a mail server that runs.</summary>
public sealed class MailTests : IAsyncLifetime
{
    private readonly int port = FreePort();
    private ClockedService service = null!;

    private RevtalClient Mara => service.As("mara");

    private RevtalClient Tobi => service.As("tobi");

    public async ValueTask InitializeAsync() => service = await ClockedService.OpenAsync(Settings("none"));

    public ValueTask DisposeAsync() => service.DisposeAsync();

    private string[] Settings(string security) =>
        [
            "--shop:url",
            "https://bench.example",
            "--smtp:host",
            "127.0.0.1",
            "--smtp:port",
            $"{port}",
            "--smtp:from",
            "Bench <bench@shop.example>",
            "--smtp:security",
            security,
        ];

    [Fact]
    public async Task What_lies_unread_comes_in_one_mail_and_only_once()
    {
        using var server = MailServer.Start(port);
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await Mara.NoteAsync(order, new NoteRequest("@tobi before there was an address"));
        await Tobi.PutMailAsync(new MailRequest("tobi@shop.example"));
        await Mara.NoteAsync(order, new NoteRequest("@tobi the clip of S1 is worn"));
        await Mara.NoteAsync(order, new NoteRequest("@tobi and the hinge, größer → sieh nach"));
        await PassAsync(TimeSpan.FromMinutes(4));
        Assert.Empty(server.Came);
        await UntilAsync(() => !server.Came.IsEmpty);
        await PassAsync(TimeSpan.FromMinutes(10));

        var mail = Assert.Single(server.Came);
        Assert.Equal(("bench@shop.example", "tobi@shop.example"), (From(mail), To(mail)));
        Assert.Equal($"2 things concern you: orders {order}", mail.Subject);
        var text = mail.TextBody;
        Assert.Contains("the clip of S1 is worn", text, StringComparison.Ordinal);
        Assert.Contains("größer → sieh nach", text, StringComparison.Ordinal);
        Assert.Contains($"https://bench.example/orders/{order}", text, StringComparison.Ordinal);
        Assert.Contains("Mara", text, StringComparison.Ordinal);
        Assert.DoesNotContain("before there was", text, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_was_read_is_not_mailed_and_nothing_goes_where_nobody_wished_it()
    {
        using var server = MailServer.Start(port);
        await Tobi.PutMailAsync(new MailRequest("tobi@shop.example"));
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await Mara.NoteAsync(order, new NoteRequest("@tobi look"));
        await Tobi.ReadNoticesAsync(new NoticesReadRequest((await Tobi.NoticesAsync()).Items[0].Position));
        await Tobi.NoteAsync(order, new NoteRequest("@mara seen"));
        await PassAsync(TimeSpan.FromMinutes(10));
        Assert.Empty(server.Came);
    }

    [Fact]
    public async Task A_server_that_is_away_gets_it_later()
    {
        await Tobi.PutMailAsync(new MailRequest("tobi@shop.example"));
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await Mara.NoteAsync(order, new NoteRequest("@tobi look"));
        await PassAsync(TimeSpan.FromMinutes(8));
        Assert.NotNull((await service.As("ines").WebhooksAsync()).MailFault);
        using var server = MailServer.Start(port);
        await UntilAsync(() => !server.Came.IsEmpty);
        await PassAsync(TimeSpan.FromSeconds(2));
        Assert.Null((await service.As("ines").WebhooksAsync()).MailFault);
        Assert.Equal($"Order {order}: mentioned", Assert.Single(server.Came).Subject);
    }

    [Fact]
    public async Task An_address_that_the_server_does_not_take_is_told_to_its_owner_and_left_alone()
    {
        using var server = MailServer.Start(port, refused: "tobi@shop.example");
        await Tobi.PutMailAsync(new MailRequest("tobi@shop.example"));
        await Mara.PutMailAsync(new MailRequest("mara@shop.example"));
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await Mara.NoteAsync(order, new NoteRequest("@tobi look"));
        await Tobi.NoteAsync(order, new NoteRequest("@mara look"));
        await UntilAsync(() => !server.Came.IsEmpty);
        Assert.Equal("mara@shop.example", To(Assert.Single(server.Came)));
        var own = (await Tobi.SessionAsync()).Own!;
        Assert.StartsWith("550", own.MailFault, StringComparison.Ordinal);
        Assert.Equal(1, server.Refused);
        await PassAsync(TimeSpan.FromHours(3));
        Assert.Equal(1, server.Refused);

        await Tobi.PutMailAsync(new MailRequest("tobias@shop.example"));
        await Mara.NoteAsync(order, new NoteRequest("@tobi once more"));
        await UntilAsync(() => server.Came.Count == 2);
        Assert.Equal("tobias@shop.example", To(server.Came.Last()));
        Assert.Null((await Tobi.SessionAsync()).Own!.MailFault);
    }

    [Fact]
    public async Task Who_is_to_come_again_later_holds_up_nobody_else()
    {
        using var server = MailServer.Start(port, later: "mara@shop.example");
        await Mara.PutMailAsync(new MailRequest("mara@shop.example"));
        await Tobi.PutMailAsync(new MailRequest("tobi@shop.example"));
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await Tobi.NoteAsync(order, new NoteRequest("@mara look"));
        await Mara.NoteAsync(order, new NoteRequest("@tobi look"));
        await UntilAsync(() => server.Came.Count == 1);
        Assert.Equal("tobi@shop.example", To(server.Came.Last()));
        await UntilAsync(() => server.Came.Count == 2);
        Assert.Equal("mara@shop.example", To(server.Came.Last()));
        Assert.Null((await Mara.SessionAsync()).Own!.MailFault);
    }

    [Fact]
    public async Task Nothing_goes_in_the_open_where_the_way_should_be_closed()
    {
        await service.StopAsync();
        await service.StartAsync(Settings("start-tls"));
        using var server = MailServer.Start(port);
        await Tobi.PutMailAsync(new MailRequest("tobi@shop.example"));
        var order = (await Mara.TakeInAsync(Story.TakeIn)).Order;
        await Mara.NoteAsync(order, new NoteRequest("@tobi look"));
        await PassAsync(TimeSpan.FromMinutes(20));
        Assert.Empty(server.Came);
        Assert.Equal(0, server.Refused);
    }

    [Theory]
    [InlineData("tobi")]
    [InlineData("tobi@")]
    [InlineData("tobi@shop.example, all@shop.example")]
    public async Task What_is_no_address_is_refused(string mail) =>
        Assert.Equal((422, "mail-address"), await Story.Refused(Tobi.PutMailAsync(new MailRequest(mail))));

    private static string From(MimeMessage mail) => mail.From.Mailboxes.Single().Address;

    private static string To(MimeMessage mail) => mail.To.Mailboxes.Single().Address;

    private Task PassAsync(TimeSpan time) => service.PassAsync(time);

    private Task UntilAsync(Func<bool> isSo) =>
        service.UntilAsync(TimeSpan.FromSeconds(8), () => Task.FromResult(isSo()));

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    /// <summary>A mail server on loopback that keeps what it is given.</summary>
    private sealed class MailServer : IDisposable
    {
        private readonly CancellationTokenSource ends = new();
        private readonly Box box;

        private MailServer(int port, string? refused, string? later)
        {
            box = new Box(refused, later);
            var services = new ServiceProvider();
            services.Add((IMessageStore)box);
            services.Add((IMailboxFilter)box);
            var options = new SmtpServerOptionsBuilder().ServerName("mail.example").Port(port).Build();
            _ = new SmtpServer.SmtpServer(options, services).StartAsync(ends.Token);
        }

        public ConcurrentQueue<MimeMessage> Came => box.Came;

        public int Refused => box.Refused;

        /// <param name="refused">To whom it delivers nothing; null for nobody.</param>
        /// <param name="later">To whom it delivers at the second try.</param>
        public static MailServer Start(int port, string? refused = null, string? later = null) =>
            new(port, refused, later);

        public void Dispose()
        {
            ends.Cancel();
            ends.Dispose();
        }
    }

    // What the server disposes of after each session.
    private sealed class Box(string? refused, string? later) : MessageStore, IMailboxFilter
    {
        private bool came;

        public ConcurrentQueue<MimeMessage> Came { get; } = new();

        public int Refused { get; private set; }

        public override async Task<SmtpResponse> SaveAsync(
            ISessionContext context,
            IMessageTransaction transaction,
            ReadOnlySequence<byte> buffer,
            CancellationToken cancellationToken
        )
        {
            using var stream = new MemoryStream(buffer.ToArray());
            Came.Enqueue(await MimeMessage.LoadAsync(stream, cancellationToken));
            return SmtpResponse.Ok;
        }

        public Task<bool> CanAcceptFromAsync(
            ISessionContext context,
            IMailbox from,
            int size,
            CancellationToken cancellationToken
        ) => Task.FromResult(true);

        public Task<bool> CanDeliverToAsync(
            ISessionContext context,
            IMailbox to,
            IMailbox from,
            CancellationToken cancellationToken
        )
        {
            if (to.AsAddress() == later && !came)
            {
                came = true;
                throw new SmtpResponseException(new SmtpResponse((SmtpReplyCode)450, "come again"));
            }

            var takes = to.AsAddress() != refused;
            Refused += takes ? 0 : 1;
            return Task.FromResult(takes);
        }
    }
}
