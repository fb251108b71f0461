using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Service.Orders;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Collect;

/// <summary>
/// The collector: a one-time code of an order, the scripts that the machine runs, and the one place to which they
/// write.
/// </summary>
public static class CollectEndpoints
{
    public const string Root = "/c";

    private const int TriesAMinute = 30,
        MostMinutesWatched = 120;

    public static readonly IReadOnlyList<string> Systems = ["linux", "windows", "macos"];

    public static void AddCollector(this IServiceCollection services) =>
        services.AddSingleton<Collector>().AddTries(Root, TriesAMinute);

    public static void MapCollect(this WebApplication app, IEndpointRouteBuilder api)
    {
        api.MapPost("/orders/{number:int}/invites", InviteAsync)
            .WithTags("readings")
            .WithName("inviteReading")
            .WithSummary("Make a one-time code by which the machine itself sends a reading");
        api.MapGet(
                "/collector/{system}",
                (string system) => Results.Text(Script(system, ""), "text/plain; charset=utf-8")
            )
            .WithTags("readings")
            .WithName("getCollector")
            .Produces<string>(contentType: "text/plain")
            .WithSummary("The collector's script, to be carried to a machine without a network; it writes a file");
        var machine = app.MapGroup(Root + "/{code}").RequireRateLimiting(Root).ExcludeFromDescription();
        machine.MapGet(
            "/{system?}",
            async (string code, string? system, Collector collector, HttpContext context, CancellationToken cancel) =>
            {
                await collector.NeedOpenAsync(code, context, cancel);
                context.Response.Headers.CacheControl = "no-store";
                return Results.Text(
                    Script(system ?? "linux", $"{PublicAddress.Asked(context)}{Root}/{CollectorCode.Canonical(code)}"),
                    "text/plain; charset=utf-8"
                );
            }
        );
        machine
            .MapPost(
                "/",
                async (
                    string code,
                    CaptureBundle bundle,
                    Collector collector,
                    HttpContext context,
                    CancellationToken cancel
                ) => new CollectedView(await collector.TakeAsync(code, bundle, context, cancel))
            )
            .WithMetadata(new RequestSizeLimitAttribute(CaptureBundle.Largest));
    }

    private static async Task<InviteView> InviteAsync(
        int number,
        InviteRequest request,
        Sender sender,
        OrderDesk desk,
        OrderShelf shelf,
        TimeProvider clock,
        HttpContext context,
        IConfiguration settings,
        IOptions<ShopOptions> shop,
        CancellationToken cancel
    )
    {
        if (request.Watch is < 1 or > MostMinutesWatched)
        {
            throw RefusedException.Invalid("watch-minutes", $"A machine watches 1 to {MostMinutesWatched} minutes.");
        }

        var code = CollectorCode.New($"{number}");
        var now = clock.GetUtcNow();
        var receipt = await desk.RecordAsync(
            number,
            OrderActs.Reading(request.Phase),
            new { invite = request },
            sender,
            (_, _) =>
                MeasureRules.Invite(
                    request.Phase,
                    code.Hash,
                    now,
                    TimeSpan.FromMinutes(request.Minutes + (request.Watch ?? 0))
                ),
            cancel
        );
        if (
            (await shelf.LoadAsync(number, cancel)).Entries[receipt.Sequence - 1].Body is not ReadingInvited invited
            || invited.CodeHash != code.Hash
        )
        {
            throw CollectorCode.ShownOnce();
        }

        var address = CollectorCode.Address(context, settings, shop.Value);
        return new InviteView(
            receipt,
            code.Text,
            invited.Until,
            CollectorCode.Lines(code.Text, address, request.Watch),
            PublicAddress.IsHereOnly(address)
        );
    }

    /// <param name="sendTo">Empty: it writes a file.</param>
    private static string Script(string system, string sendTo)
    {
        var name =
            system switch
            {
                "linux" => "linux.sh",
                "macos" => "macos.sh",
                "windows" => "windows.ps1",
                _ => null,
            }
            ?? throw RefusedException.NotFound(
                "no-such-script",
                $"There is no collector for “{system}”. There are {string.Join(", ", Systems)}."
            );
        using var stream = new StreamReader(
            typeof(CollectEndpoints).Assembly.GetManifestResourceStream($"collect.{name}")!,
            Encoding.UTF8
        );
        return stream
            .ReadToEnd()
            .Replace(
                "@SEND_TO@",
                sendTo.All(c => char.IsAsciiLetterOrDigit(c) || ":/.-[]".Contains(c, StringComparison.Ordinal))
                    ? sendTo
                    : "",
                StringComparison.Ordinal
            );
    }
}

/// <summary>Takes what machines send by a code.</summary>
public sealed class Collector(
    OrderShelf shelf,
    OrderDesk desk,
    ArrivalStore arrivals,
    TimeProvider clock,
    ILogger<Collector> log
)
{
    /// <summary>Proves that the code opens something.</summary>
    /// <exception cref="RefusedException">It opens nothing.</exception>
    public async Task NeedOpenAsync(string typed, HttpContext context, CancellationToken cancel)
    {
        if (await ArrivalAsync(typed, cancel) is null)
        {
            await OpenAsync(typed, context, cancel);
        }
    }

    /// <summary>Records the machine's reading; the code is used up with it.</summary>
    /// <returns>What the machine's screen shows.</returns>
    public async Task<string> TakeAsync(
        string typed,
        CaptureBundle bundle,
        HttpContext? context,
        CancellationToken cancel
    )
    {
        if (await ArrivalAsync(typed, cancel) is { } arrival)
        {
            // What cannot be read is refused, and the code opens still.
            var told = CaptureDecoder.Decode(bundle.ToFiles());
            var hand = new Hand(arrival.By, clock.GetUtcNow(), Guid.CreateVersion7());
            return await arrivals.SendAsync(arrival.Id, ReadingEndpoints.Store(bundle), hand, cancel)
                ? $"Taken: {told.System.Product ?? "this machine"}. The bench sees it now; this code is used up."
                : throw OpensNothing(context);
        }

        var (number, invite) = await OpenAsync(typed, context, cancel);
        try
        {
            var reading = CaptureDecoder.Decode(bundle.ToFiles());
            var capture = ReadingEndpoints.Store(bundle);
            var sender = new Sender(
                new Person(invite.By, invite.By, Role.Technician),
                Guid.CreateVersion7(),
                MayBeRetry: false,
                IfMatch: null
            );
            var booked = await desk.BookedAsync(number, reading, cancel);
            await desk.RecordAsync(
                number,
                OrderActs.Reading(invite.Phase),
                null,
                sender,
                (o, g) => MeasureRules.TakeInvited(o, g, invite, reading, capture.Hash, booked),
                cancel,
                capture
            );
        }
        catch (RefusedException e)
        {
            log.LogWarning(
                "What a collector at {Address} sent for order {Order} was refused: {Code}",
                context?.Connection.RemoteIpAddress,
                number,
                e.Code
            );
            throw;
        }

        return $"Taken for order {number}, {invite.Phase.Spoken()}. The bench sees it now; this code is used up.";
    }

    private async Task<ArrivalRow?> ArrivalAsync(string typed, CancellationToken cancel) =>
        CollectorCode.Parse(typed) is { For: CollectorCode.Arrival } code
            ? await arrivals.OpenedByAsync(code.Hash, clock.GetUtcNow(), cancel)
            : null;

    // One answer for all that may be wrong, so that guessing teaches nothing.
    private async Task<(int Number, Invite Invite)> OpenAsync(
        string typed,
        HttpContext? context,
        CancellationToken cancel
    )
    {
        if (
            CollectorCode.Parse(typed) is { } code
            && int.TryParse(code.For, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
        )
        {
            try
            {
                var hash = Encoding.ASCII.GetBytes((code with { For = $"{number}" }).Hash);
                var order = (await shelf.LoadAsync(number, cancel)).Order;
                if (
                    order.Invites.FirstOrDefault(i =>
                        i.Until > clock.GetUtcNow()
                        && CryptographicOperations.FixedTimeEquals(hash, Encoding.ASCII.GetBytes(i.CodeHash))
                    ) is
                    { } invite
                )
                {
                    return (number, invite);
                }
            }
            catch (RefusedException)
            {
                // No such order: the same answer.
            }
        }

        throw OpensNothing(context);
    }

    private RefusedException OpensNothing(HttpContext? context)
    {
        log.LogWarning(
            "A collector at {Address} came with a code that opens nothing",
            context?.Connection.RemoteIpAddress
        );
        return RefusedException.NotFound(
            "no-such-code",
            "This code opens nothing: it is mistyped, too old, or was used. Ask the bench for a new one."
        );
    }
}
