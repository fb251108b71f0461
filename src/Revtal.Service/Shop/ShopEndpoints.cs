using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Documents.Papers;
using Revtal.Service.Http;
using Revtal.Service.People;
using Revtal.Storage;

namespace Revtal.Service.Shop;

/// <summary>What the shop is called and where it stands; from the configuration section <c>Shop</c>.</summary>
public sealed class ShopOptions
{
    public string Name { get; set; } = "Repair bench";

    /// <summary>Where customers reach the service: <c>https://bench.example</c>; null where they do not yet.</summary>
    public string? Url { get; set; }

    /// <summary>IANA name of the bench's time zone.</summary>
    public string Zone { get; set; } = "UTC";

    /// <summary>ISO 4217.</summary>
    public string Currency { get; set; } = "EUR";

    /// <summary>For an hour of work, without tax.</summary>
    public decimal HourRate { get; set; } = 60;

    /// <summary>In percent; 0 where none is taken.</summary>
    public decimal TaxPercent { get; set; }

    /// <summary>For cleaning a machine inside while it is open, without tax; null where the shop does not.</summary>
    public decimal? CleaningPrice { get; set; }

    /// <summary>From how many percent on a drive is spoken of as nearly full; 1 to 100.</summary>
    public int NearlyFullPercent { get; set; } = 85;

    /// <summary>The most that the shop's way of copying a drive carries, in MB/s of 10^6 bytes.</summary>
    public int CopyRate { get; set; } = 200;

    /// <summary>
    /// The file of the key by which the shop signs, in PEM (ECDSA on P-256); null for one that the store keeps.
    /// </summary>
    public string? SignKey { get; set; }

    /// <summary>What papers are printed on: <c>A4</c> or <c>Letter</c>.</summary>
    public PaperSize Paper { get; set; }

    /// <summary>After how many minutes without a touch a bench tablet asks again whose hands; 1 to 120.</summary>
    public int TabletLocksAfter { get; set; } = 10;

    /// <summary>How much memory the shop advises for which work; a size by its name.</summary>
    public Dictionary<string, string> Workloads { get; set; } = [];

    /// <summary>The bench's; asked for only once <see cref="Problem"/> is null.</summary>
    public TimeZoneInfo TimeZone => TimeZoneInfo.FindSystemTimeZoneById(Zone);

    /// <summary>Kinds of customers' work that the shop often tries after an upgrade.</summary>
    public string[] Trials { get; set; } = [];

    public ShopTerms Terms => new(Currency, HourRate, TaxPercent, CleaningPrice);

    /// <summary>The shop's own table, or a plain one where it has none.</summary>
    public IReadOnlyList<Workload> Table =>
        Workloads.Count > 0
            ? [.. Workloads.Select(w => new Workload(w.Key, MemorySize.Parse(w.Value))).OrderBy(w => w.Size)]
            :
            [
                new("office", MemorySize.Gigabytes(16)),
                new("pictures", MemorySize.Gigabytes(32)),
                new("sound", MemorySize.Gigabytes(64)),
                new("models", MemorySize.Gigabytes(128)),
            ];

    /// <summary>What keeps these settings from being used; null for nothing.</summary>
    public string? Problem =>
        Url is not null && !IsAddress(Url)
            ? $"“{Url}” is no address for customers. Write one like https://bench.example."
        : !TimeZoneInfo.TryFindSystemTimeZoneById(Zone, out _)
            ? $"There is no time zone “{Zone}”. Write an IANA name, like UTC or Etc/GMT-1."
        : Currency.Length != 3 || !Currency.All(char.IsAsciiLetterUpper)
            ? $"“{Currency}” is no ISO 4217 code, like EUR."
        : HourRate is < 0 or > 100_000 ? $"An hour's rate of {HourRate} cannot be."
        : TaxPercent is < 0 or > 100 ? $"A tax of {TaxPercent} % cannot be."
        : CleaningPrice is < 0 or > PartKind.HighestPrice ? $"A cleaning for {CleaningPrice} cannot be."
        : NearlyFullPercent is < 1 or > 100 ? $"A drive cannot be nearly full from {NearlyFullPercent} % on."
        : TabletLocksAfter is < 1 or > 120
            ? $"A tablet that locks after {TabletLocksAfter} minutes cannot be: 1 to 120."
        : SignKey is { } file && WhyNoKey(file) is { } why ? $"“{file}” is no key to sign with: {why}"
        : CopyRate is < 1 or > 100_000 ? $"A copy at {CopyRate} MB/s cannot be."
        : Trials.FirstOrDefault(t => string.IsNullOrWhiteSpace(t) || t.Length > Words.LongestLine) is { } work
            ? $"“{work}” is no kind of work to try. Write a short line."
        : Workloads.FirstOrDefault(w => !MemorySize.TryParse(w.Value, out _)) is { Key: { } name } bad
            ? $"The workload “{name}” has no size but “{bad.Value}”. Write one like 32 GB."
        : null;

    private static string? WhyNoKey(string file)
    {
        try
        {
            ShopKey.Read(File.ReadAllText(file)).Dispose();
            return null;
        }
        catch (Exception e)
            when (e is IOException or UnauthorizedAccessException or CryptographicException or ArgumentException)
        {
            return e.Message;
        }
    }

    private static bool IsAddress(string text) =>
        Uri.TryCreate(text, UriKind.Absolute, out var uri)
        && uri.Scheme is "http" or "https"
        && uri is { UserInfo: "", Query: "", Fragment: "" };
}

/// <summary><c>/api/v1/shop</c>: the shop and its people.</summary>
public static class ShopEndpoints
{
    private static ShopView View(IReadOnlyList<Person> people, ShopOptions shop) =>
        new(
            shop.Name,
            shop.Zone,
            BuildVersion.Text,
            people,
            people.ToDictionary(p => p.Id, p => Person.Called(people, p.Id)),
            shop.Terms,
            shop.Table,
            GuideTerms.Kinds,
            shop.NearlyFullPercent,
            shop.Trials
        );

    public static void MapShop(this IEndpointRouteBuilder api)
    {
        var shop = api.MapGroup("/shop").WithTags("shop");
        shop.MapGet("/", (PeopleStore people, IOptions<ShopOptions> options) => View(people.List(), options.Value))
            .WithName("getShop")
            .WithSummary("The shop and its people");
        shop.MapPut("/people/{id}", PutPersonAsync).WithName("putPerson").WithSummary("Add or change somebody (leads)");
        shop.MapPost("/people/{id}/invite", InvitePerson)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("invitePerson")
            .WithSummary("Make a link by which somebody sets a password, once (leads)");
        shop.MapDelete("/people/{id}/access", EndAccessAsync)
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("endAccess")
            .WithSummary("Somebody's password, tokens and sign-ins work no longer (leads)");
        shop.MapGet(
                "/audit",
                (SignInStore store, string? after = null, int limit = Paging.Usual) =>
                    Page.Of(
                        store.Audit(Paging.Number(after), Paging.Checked(limit) + 1),
                        limit,
                        store.AuditCount(),
                        l => $"{l.Position}"
                    )
            )
            .WithName("listAudit")
            .WithSummary("Who came in, who could not, and what was done about people (leads)");
    }

    private static async Task<Results<Created<Person>, Ok<Person>>> PutPersonAsync(
        string id,
        PersonRequest request,
        Sender sender,
        HttpContext context,
        PeopleStore people,
        SignInStore store,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = new Person(id, request.Name, request.Role);
        var (done, isNew) = await people.PutAsync(person, sender.Hand(clock, $"person/{id}", request), cancel);
        store.Note(
            sender.Person.Id,
            isNew ? "person-added" : "person-changed",
            clock.GetUtcNow(),
            $"{id}: {Word.Of(done.Role)}",
            Door.From(context)
        );
        return Made.At($"shop/people/{id}", done, isNew);
    }

    private static PersonInvite InvitePerson(
        string id,
        HttpContext context,
        PeopleStore people,
        SignInStore store,
        IOptions<ShopOptions> options,
        TimeProvider clock
    )
    {
        var (who, now) = (Door.Need(context), clock.GetUtcNow());
        people.Need(id);
        var link = store.Link(id, now + SignInDesk.LinkLasts);
        store.Note(who.Person.Id, "person-invited", now, id, Door.From(context));
        context.Response.Headers.CacheControl = "no-store";
        var address = SetUp.Address(options.Value, context, "set-up", link);
        return new PersonInvite(address, now + SignInDesk.LinkLasts, PublicAddress.IsHereOnly(address));
    }

    private static async Task<NoContent> EndAccessAsync(
        string id,
        HttpContext context,
        PeopleStore people,
        SignInStore store,
        SignInDesk desk,
        TimeProvider clock
    )
    {
        var who = Door.Need(context);
        people.Need(id);
        if (who.Person.Id == id)
        {
            throw RefusedException.Rule("own-access", "Your own access is ended by another lead.");
        }

        await desk.ShutAsync(id);
        store.Note(who.Person.Id, "access-ended", clock.GetUtcNow(), id, Door.From(context));
        return TypedResults.NoContent();
    }
}
