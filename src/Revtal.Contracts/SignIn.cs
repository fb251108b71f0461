using Revtal.Core.Orders;

namespace Revtal.Contracts;

/// <param name="Person">An id.</param>
/// <param name="TokenName">Null for a browser, which gets a cookie; else what a program's token is called by.</param>
[Example("""{"person": "mara", "password": "four words and a number 7"}""")]
public sealed record SignInRequest(string Person, string Password, string? TokenName = null);

/// <param name="Person">One of the demo shop's people.</param>
/// <param name="TokenName">Null for a browser, which gets a cookie; else what a program's token is called by.</param>
[Example("""{"person": "mara"}""")]
public sealed record DemoSignInRequest(string Person, string? TokenName = null);

/// <param name="Id">Who they will be; for the first lead only.</param>
/// <param name="Name">What they are called; for the first lead only.</param>
/// <param name="TokenName">Null for a browser, which gets a cookie; else what a program's token is called by.</param>
[Example("""{"password": "four words and a number 7", "id": "ines", "name": "Ines Havgard"}""")]
public sealed record SetUpRequest(string Password, string? Id = null, string? Name = null, string? TokenName = null);

/// <param name="New">15 to 200 characters that are on no list of common ones.</param>
[Example("""{"old": "four words and a number 7", "new": "a quite different sentence"}""")]
public sealed record PasswordRequest(string Old, string New);

/// <param name="Days">How long it works, 1 to 365.</param>
/// <param name="Looks">Whether it only looks.</param>
[Example("""{"name": "book-keeping", "days": 90, "looks": true}""")]
public sealed record TokenRequest(string Name, int Days = 90, bool Looks = false);

/// <summary>Who sits here.</summary>
/// <param name="Person">Null where nobody is signed in.</param>
/// <param name="Shop">What the shop is called.</param>
/// <param name="WantsSetUp">Whether no lead of the shop has a password yet.</param>
/// <param name="Demo">People who sign in with one press; null outside the demo.</param>
public sealed record SessionView(Person? Person, string Shop, bool WantsSetUp, IReadOnlyList<Person>? Demo);

/// <param name="Token">For programs, told only here; null where a cookie was set.</param>
public sealed record SignedInView(Person Person, DateTimeOffset ExpiresAt, string? Token);

/// <summary>What a set-up link does.</summary>
/// <param name="Person">Whose password it sets; null where it makes the shop's first lead.</param>
public sealed record SetUpView(Person? Person);

/// <param name="IsThis">Whether it is the one that asks.</param>
public sealed record SessionLine(Session Session, bool IsThis);

/// <param name="Token">Told only here.</param>
public sealed record TokenMade(Session Session, string Token);

/// <param name="Link">Opened once by whom it is for; told only here.</param>
public sealed record PersonInvite(string Link, DateTimeOffset ExpiresAt);
