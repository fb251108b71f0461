using Revtal.Core.Orders;

namespace Revtal.Contracts;

/// <param name="Person">An id.</param>
/// <param name="TokenName">Null for a browser, which gets a cookie; else what a program's token is called by.</param>
/// <param name="Code">A one-time code (RFC 6238) or one of the codes on paper, where this person is asked for
/// one.</param>
[Example("""{"person": "mara", "password": "four words and a number 7"}""")]
public sealed record SignInRequest(string Person, string Password, string? TokenName = null, string? Code = null);

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
/// <param name="Tablet">Null where this screen is no bench tablet.</param>
/// <param name="Elsewhere">What the other service is called by which people sign in too; null for none.</param>
/// <param name="Own">How this person comes in; null where nobody is signed in.</param>
/// <param name="Mails">Whether the shop mails notices to whoever wishes it.</param>
public sealed record SessionView(
    Person? Person,
    string Shop,
    bool WantsSetUp,
    IReadOnlyList<Person>? Demo,
    TabletSeat? Tablet,
    OwnProofs? Own,
    string? Elsewhere,
    bool Mails
);

/// <param name="Password">Whether there is a password.</param>
/// <param name="Pin">Whether there is a PIN for bench tablets.</param>
/// <param name="Codes">Whether a one-time code is asked for beside the password.</param>
/// <param name="CodesOnPaper">How many of the codes on paper are left; 0 to 10.</param>
/// <param name="Mail">Where notices are mailed to; null for nowhere.</param>
/// <param name="MailFault">Why the mail server does not take that address; null while it does.</param>
public sealed record OwnProofs(
    bool Password,
    bool Pin,
    bool Codes,
    int CodesOnPaper,
    string? Mail = null,
    string? MailFault = null
);

/// <summary>A bench tablet, as it shows itself.</summary>
/// <param name="People">Who may come in by PIN, by name.</param>
/// <param name="LocksAfter">In minutes without a touch; 1 to 120.</param>
public sealed record TabletSeat(string Name, IReadOnlyList<Person> People, int LocksAfter);

/// <summary>Whose hands are at a bench tablet: a badge, or a person and a PIN.</summary>
/// <param name="Badge">What stands on it.</param>
/// <param name="Pin">4 to 8 digits.</param>
[Example("""{"person": "mara", "pin": "4071"}""")]
public sealed record HandsRequest(string? Badge = null, string? Person = null, string? Pin = null);

/// <param name="Pin">4 to 8 digits, no row of them; null to do without.</param>
/// <param name="Password">One's own; null where one has none.</param>
[Example("""{"pin": "4071", "password": "four words and a number 7"}""")]
public sealed record PinRequest(string? Pin = null, string? Password = null);

/// <param name="Name">What it is called on the bench.</param>
[Example("""{"name": "Bench 2"}""")]
public sealed record TabletRequest(string Name);

/// <param name="Link">Opened once, on the tablet; told only here.</param>
/// <param name="HereOnly">Whether the link leads every other machine to itself: no address was set.</param>
public sealed record TabletMade(Tablet Tablet, string Link, DateTimeOffset ExpiresAt, bool HereOnly);

/// <param name="Code">What stands on the badge; told only here.</param>
/// <param name="Picture">The same as a QR code (ISO/IEC 18004), a PNG.</param>
public sealed record BadgeMade(Person Person, string Code, byte[] Picture);

/// <param name="Password">One's own, once more.</param>
[Example("""{"password": "four words and a number 7"}""")]
public sealed record ProofRequest(string Password);

/// <summary>What makes one-time codes; it is told only here, and works once a code has proved it.</summary>
/// <param name="Key">In base 32 (RFC 4648).</param>
/// <param name="Address">The same as <c>otpauth://</c>, for a program that makes codes.</param>
/// <param name="Picture">The address as a QR code (ISO/IEC 18004), a PNG.</param>
public sealed record CodesBegun(string Key, string Address, byte[] Picture);

/// <param name="Code">Six digits, as the program shows them now.</param>
[Example("""{"code": "271828"}""")]
public sealed record CodeRequest(string Code);

/// <param name="Codes">Each opens once in place of a code that is made; told only here.</param>
public sealed record CodesOnPaper(IReadOnlyList<string> Codes);

/// <param name="Token">For programs, told only here; null where a cookie was set.</param>
public sealed record SignedInView(Person Person, DateTimeOffset ExpiresAt, string? Token);

/// <summary>What a set-up link does.</summary>
/// <param name="Person">Whose password it sets; null where it makes the shop's first lead.</param>
public sealed record SetUpView(Person? Person);

/// <param name="IsThis">Whether it is the one that asks.</param>
public sealed record SessionLine(Session Session, bool IsThis);

/// <param name="Token">Told only here.</param>
public sealed record TokenMade(Session Session, string Token);

/// <param name="Link">For a calendar to read again and again; told only here.</param>
/// <param name="HereOnly">Whether the link leads every other machine to itself: no address was set.</param>
public sealed record CalendarMade(Session Session, string Link, bool HereOnly);

/// <param name="Link">Opened once by whom it is for; told only here.</param>
/// <param name="HereOnly">Whether the link leads every other machine to itself: no address was set.</param>
public sealed record PersonInvite(string Link, DateTimeOffset ExpiresAt, bool HereOnly);
