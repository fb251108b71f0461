using System.Security.Cryptography;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Service.Http;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>Who stands at a bench tablet: the tablet is known, so a badge or a few digits prove the rest.</summary>
internal sealed class TabletDesk(
    SignInStore store,
    TabletStore tablets,
    PeopleStore people,
    SignInDesk desk,
    IPasswordHasher<AccountRow> hasher,
    IOptions<ShopOptions> shop,
    TimeProvider clock
)
{
    /// <summary>How long the link that enrols a tablet works.</summary>
    public static readonly TimeSpan LinkLasts = TimeSpan.FromHours(1);

    // A working day.
    private static readonly TimeSpan Lasts = TimeSpan.FromHours(12);

    private static readonly TimeSpan LockedFor = TimeSpan.FromMinutes(5);

    // Of ten thousand: who tries on after each wait is stopped long before it would be found.
    private const int WrongInARow = 5,
        WrongAtAll = 20;

    /// <summary>What a badge's code begins with, so that no scan is taken for a serial number.</summary>
    public const string BadgePrefix = "revtal:badge:";

    /// <summary>What this tablet is called, and who may come in at it by PIN.</summary>
    public TabletSeat Seat(Tablet tablet)
    {
        var withPin = store.WithPin();
        return new TabletSeat(
            tablet.Name,
            [.. people.List().Where(p => withPin.Contains(p.Id))],
            shop.Value.TabletLocksAfter
        );
    }

    /// <summary>Lets in whoever stands at the tablet; whoever stood there before no longer does.</summary>
    /// <exception cref="NotSignedInException">The badge is nobody's, or the PIN is wrong.</exception>
    public async Task<(Person Person, Session Session, string Secret)> ComeInAsync(
        Tablet tablet,
        HandsRequest request,
        string? from
    )
    {
        var id = request switch
        {
            { Badge: { } badge, Person: null, Pin: null } => OfBadge(badge, tablet, from),
            { Badge: null, Person: { } who, Pin: { } pin } => await SignInDesk.OneByOneAsync(
                who,
                () => Task.FromResult(OfPin(who, pin, tablet, from))
            ),
            _ => throw RefusedException.Invalid(
                "hands-unclear",
                "Say whose hands by a badge, or by a person and a PIN."
            ),
        };
        var person = people.List().FirstOrDefault(p => p.Id == id) ?? throw Unknown();
        var now = clock.GetUtcNow();
        store.EndAtTablet(tablet.Id);
        tablets.Used(tablet.Id, now);
        store.Note(id, "signed-in", now, tablet.Name, from);
        var (session, secret) = store.Begin(id, SessionKind.Tablet, tablet.Name, false, now, Lasts, tablet.Id);
        return (person, session, secret);
    }

    private string OfBadge(string badge, Tablet tablet, string? from)
    {
        if (store.AccountOfBadge(badge.Trim()) is { } account)
        {
            return account.Person;
        }

        store.Note("a badge", "sign-in-failed", clock.GetUtcNow(), tablet.Name, from);
        throw Unknown();
    }

    private string OfPin(string id, string pin, Tablet tablet, string? from)
    {
        var now = clock.GetUtcNow();
        if (store.Account(id) is not { Pin: { } hash } account)
        {
            store.Note(SignInDesk.Shortened(id), "sign-in-failed", now, tablet.Name, from);
            throw Wrong();
        }

        if (account.PinLockedUntil is { } until && until > now.ToUnixTimeMilliseconds())
        {
            throw new RefusedException(
                RefusalKind.Conflict,
                "locked-out",
                "Too many wrong PINs for this person. Wait five minutes, or come in with the badge or the password."
            );
        }

        if (hasher.VerifyHashedPassword(account, hash, pin) == PasswordVerificationResult.Failed)
        {
            account.PinFailed++;
            var locks = account.PinFailed % WrongInARow == 0;
            account.PinLockedUntil = locks ? (now + LockedFor).ToUnixTimeMilliseconds() : null;
            account.Pin = account.PinFailed < WrongAtAll ? account.Pin : null;
            store.Put(account);
            var what =
                account.Pin is null ? "pin-taken-away"
                : locks ? "locked-out"
                : "sign-in-failed";
            store.Note(id, what, now, tablet.Name, from);
            throw Wrong();
        }

        if (account.PinFailed > 0)
        {
            (account.PinFailed, account.PinLockedUntil) = (0, null);
            store.Put(account);
        }

        return id;
    }

    /// <summary>Chooses a PIN, or does without one.</summary>
    /// <exception cref="RefusedException">It would be guessed, or the password is wrong.</exception>
    public async Task ChoosePinAsync(Person person, PinRequest request, string? from)
    {
        if (request.Pin is { } chosen)
        {
            NeedGoodPin(chosen);
        }

        await desk.ProveAgainAsync(person, request.Password, from);
        await SignInDesk.OneByOneAsync(
            person.Id,
            () =>
            {
                var account = store.Account(person.Id) ?? new AccountRow { Person = person.Id };
                account.Pin = request.Pin is { } pin ? hasher.HashPassword(account, pin) : null;
                (account.PinFailed, account.PinLockedUntil) = (0, null);
                store.Put(account);
                return Task.FromResult(account);
            }
        );
        store.Note(person.Id, request.Pin is null ? "pin-taken-away" : "pin-chosen", clock.GetUtcNow(), from: from);
    }

    /// <summary>A new badge; the one before opens nothing any more.</summary>
    /// <returns>What is to stand on it; told only here.</returns>
    public Task<string> MakeBadgeAsync(string id) =>
        SignInDesk.OneByOneAsync(
            id,
            () =>
            {
                var code = BadgePrefix + Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));
                var account = store.Account(id) ?? new AccountRow { Person = id };
                account.Badge = SignInStore.HashOf(code);
                store.Put(account);
                return Task.FromResult(code);
            }
        );

    private static void NeedGoodPin(string pin)
    {
        const string rows = "012345678909876543210";
        if (pin.Length is < 4 or > 8 || !pin.All(char.IsAsciiDigit))
        {
            throw RefusedException.Invalid("pin-form", "A PIN has 4 to 8 digits.");
        }

        if (pin.Distinct().Count() < 2 || rows.Contains(pin, StringComparison.Ordinal))
        {
            throw RefusedException.Invalid("pin-common", "This PIN would be guessed soon: take no row of digits.");
        }
    }

    private static NotSignedInException Wrong() =>
        new("That PIN is not this person's. Try again, or come in with the badge or the password.", "wrong-pin");

    private static NotSignedInException Unknown() =>
        new("This badge is nobody's here (any more). A lead makes a new one.", "badge-unknown");
}
