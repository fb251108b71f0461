using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>Whether this is the demo, whose people sign in with one press.</summary>
public sealed record DemoSignIn(bool IsOffered);

/// <summary>Who comes in, by which proof, and how long it lasts.</summary>
internal sealed class SignInDesk(
    SignInStore store,
    PeopleStore people,
    UserManager<AccountRow> accounts,
    IPasswordHasher<AccountRow> hasher,
    IOptions<ShopOptions> shop,
    DemoSignIn demo,
    TimeProvider clock
)
{
    /// <summary>How long a sign-in lasts at most.</summary>
    public static readonly TimeSpan Lasts = TimeSpan.FromDays(30);

    /// <summary>How long a set-up link works.</summary>
    public static readonly TimeSpan LinkLasts = TimeSpan.FromDays(1);

    /// <summary>How long a browser's sign-in may lie unused. A token is used when its program runs.</summary>
    public static TimeSpan Idle(SessionKind kind) =>
        kind switch
        {
            SessionKind.Console => TimeSpan.FromHours(16),
            SessionKind.Token or SessionKind.Calendar => TimeSpan.FromDays(366),
            // It asks again long before; this is for one that fell asleep.
            _ => TimeSpan.FromHours(2),
        };

    // Tries for one account come one after another: tried at once, each would count as the first.
    private static readonly SemaphoreSlim[] OneByOne = [.. Enumerable.Range(0, 64).Select(_ => new SemaphoreSlim(1))];
    private static readonly AccountRow Nobody = new() { Person = "" };
    private static string? nobodysPassword;

    /// <summary>Whether the demo's people sign in with one press.</summary>
    public bool IsDemo => demo.IsOffered;

    /// <summary>Everybody of the demo; null outside it.</summary>
    public IReadOnlyList<Person>? Demo => demo.IsOffered ? people.List() : null;

    /// <param name="code">Null where none was given.</param>
    /// <exception cref="NotSignedInException">Person or password are wrong (which of the two is not said), or the code
    /// is wrong or missing.</exception>
    /// <exception cref="RefusedException">There were too many tries.</exception>
    public Task<Person> ProveAsync(string id, string password, string? code, string? from) =>
        OneByOneAsync(id, () => ProvedAsync(id, password, asksCode: true, code, from));

    /// <summary>Somebody who is signed in shows that it is still they who sit here.</summary>
    /// <param name="password">Null where they have none.</param>
    public async Task ProveAgainAsync(Person person, string? password, string? from)
    {
        if (store.Account(person.Id) is { Password: not null })
        {
            await OneByOneAsync(person.Id, () => ProvedAsync(person.Id, password ?? "", asksCode: false, null, from));
        }
    }

    /// <summary>What is done to one account, one after another.</summary>
    public static async Task<T> OneByOneAsync<T>(string id, Func<Task<T>> work)
    {
        var one = OneByOne[(uint)id.GetHashCode(StringComparison.Ordinal) % (uint)OneByOne.Length];
        await one.WaitAsync();
        try
        {
            return await work();
        }
        finally
        {
            one.Release();
        }
    }

    private async Task<Person> ProvedAsync(string id, string password, bool asksCode, string? code, string? from)
    {
        var person = people.List().FirstOrDefault(p => p.Id == id);
        if (person is null || store.Account(id) is not { Password: not null } account)
        {
            // As long as for somebody who is known.
            hasher.VerifyHashedPassword(Nobody, nobodysPassword ??= hasher.HashPassword(Nobody, "nobody's"), password);
            store.Note(Shortened(id), "sign-in-failed", clock.GetUtcNow(), from: from);
            throw Wrong();
        }

        if (await accounts.IsLockedOutAsync(account))
        {
            throw new RefusedException(
                RefusalKind.Conflict,
                "locked-out",
                "Too many wrong passwords for this person. Wait five minutes, then try again, or ask a lead for a new "
                    + "set-up link."
            );
        }

        if (!await accounts.CheckPasswordAsync(account, password))
        {
            await FailedAsync(account, from);
            throw Wrong();
        }

        if (asksCode && account.AsksCode)
        {
            await NeedCodeAsync(account, code, from);
        }

        await accounts.ResetAccessFailedCountAsync(account);
        return person;
    }

    private async Task NeedCodeAsync(AccountRow account, string? code, string? from)
    {
        if (string.IsNullOrWhiteSpace(code))
        {
            throw new NotSignedInException(
                "The password is right. Give the one-time code too, or one of the codes on paper.",
                "code-wanted"
            );
        }

        if (!OneTimeCodes.Takes(account, code, clock.GetUtcNow()))
        {
            await FailedAsync(account, from);
            throw new NotSignedInException(
                "This code is not the one of now, or was used already. Wait for the next one.",
                "wrong-code"
            );
        }

        store.Put(account);
    }

    private async Task FailedAsync(AccountRow account, string? from)
    {
        await accounts.AccessFailedAsync(account);
        var locked = await accounts.IsLockedOutAsync(account);
        store.Note(account.Person, locked ? "locked-out" : "sign-in-failed", clock.GetUtcNow(), from: from);
    }

    /// <summary>Lets somebody in whose proof was taken.</summary>
    /// <param name="by">By which other service; null for a password.</param>
    public (Session Session, string Secret) Begin(Person person, string? tokenName, string? from, string? by = null)
    {
        var kind = tokenName is null ? SessionKind.Console : SessionKind.Token;
        var name = tokenName is null ? "Console" : Words.RequiredLine("The token's name", tokenName);
        store.Note(person.Id, "signed-in", clock.GetUtcNow(), about: tokenName is null ? by : name, from: from);
        return store.Begin(person.Id, kind, name, looks: false, clock.GetUtcNow(), Lasts);
    }

    /// <summary>One of the demo's people.</summary>
    /// <exception cref="RefusedException">This is no demo, or it has nobody called so.</exception>
    public Person OfDemo(string id) =>
        !demo.IsOffered
            ? throw RefusedException.NotFound("no-demo", "This is no demo: sign in with a password.")
            : people.List().FirstOrDefault(p => p.Id == id)
                ?? throw RefusedException.NotFound("no-such-person", $"The demo has nobody called “{id}”.");

    /// <summary>Whom a set-up link is for; null where it makes the first lead.</summary>
    /// <exception cref="RefusedException">It opens nothing (any more).</exception>
    public Person? LinkFor(string link)
    {
        var (opens, id) = store.LinkFor(link, clock.GetUtcNow());
        return !opens || (id is null && store.HasLead()) ? throw NoLink()
            : id is null ? null
            : people.List().FirstOrDefault(p => p.Id == id) ?? throw NoLink();
    }

    /// <summary>Sets the password for which a link was made, and uses the link up.</summary>
    /// <exception cref="RefusedException">The link opens nothing, or password or lead cannot be.</exception>
    public async Task<Person> UseLinkAsync(string link, SetUpRequest request, string? from, CancellationToken cancel)
    {
        var person = LinkFor(link) ?? Lead(request);
        NeedGood(request.Password, person);
        if (!store.UseUp(link))
        {
            throw NoLink();
        }

        if (people.List().All(p => p != person))
        {
            var hand = new Hand(person.Id, clock.GetUtcNow(), Guid.CreateVersion7());
            person = (await people.PutAsync(person, hand, cancel: cancel)).Value;
        }

        await SetAsync(person, request.Password);
        store.EndAll(person.Id);
        store.Note(person.Id, "password-set", clock.GetUtcNow(), from: from);
        return person;
    }

    /// <summary>A new password in place of a known one; elsewhere this person is signed out.</summary>
    /// <exception cref="RefusedException">The old one is wrong, or the new one cannot be.</exception>
    public async Task ChangeAsync(Person person, PasswordRequest request, string session, string? from)
    {
        // Who has no password got none by a link: nothing else makes one.
        await OneByOneAsync(person.Id, () => ProvedAsync(person.Id, request.Old, asksCode: false, null, from));
        NeedGood(request.New, person);
        await SetAsync(person, request.New);
        store.EndAll(person.Id, but: session);
        store.Note(person.Id, "password-set", clock.GetUtcNow(), from: from);
    }

    // Somebody who leads already, or somebody new.
    private Person Lead(SetUpRequest request)
    {
        var known = people.List().FirstOrDefault(p => p.Id == request.Id);
        return known switch
        {
            { IsLead: true } => known,
            { } => throw RefusedException.Rule(
                "first-is-lead",
                $"{known.Name} is no lead. The first to sign in is one of the shop's leads, or somebody new."
            ),
            null => new Person(
                PeopleStore.NeedId(request.Id ?? ""),
                Words.RequiredLine("The name", request.Name ?? ""),
                Role.Lead
            ),
        };
    }

    private void NeedGood(string password, Person person)
    {
        if (Passwords.Problem(password, person.Id, person.Name, shop.Value.Name) is { } problem)
        {
            throw problem;
        }
    }

    // A row is kept whole: what another try read before must not come back after.
    private Task<AccountRow> SetAsync(Person person, string password) =>
        OneByOneAsync(
            person.Id,
            async () =>
            {
                var account = store.Account(person.Id) ?? new AccountRow { Person = person.Id };
                (account.Failed, account.LockedUntil) = (0, null);
                if (account.Password is not null)
                {
                    await accounts.RemovePasswordAsync(account);
                }

                await accounts.AddPasswordAsync(account, password);
                return account;
            }
        );

    /// <summary>Nothing opens in this person's name any more.</summary>
    public Task<string> ShutAsync(string id) =>
        OneByOneAsync(
            id,
            () =>
            {
                store.Shut(id);
                return Task.FromResult(id);
            }
        );

    /// <summary>What was typed as an id, as long as an id may be.</summary>
    public static string Shortened(string id) => id.Length > 40 ? id[..40] : id;

    private static NotSignedInException Wrong() =>
        new("That person and that password do not belong together.", "wrong-password");

    private static RefusedException NoLink() =>
        RefusedException.NotFound(
            "no-such-link",
            "This set-up link opens nothing any more: it was used, is older than a day, or a newer one was made. Ask a "
                + "lead for another; the first lead's stands in the service's log when it starts."
        );
}
