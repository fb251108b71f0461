namespace Revtal.Storage;

/// <summary>One entry of the journal. (Order, Sequence) is unique, so two writers cannot both be next.</summary>
public sealed class EntryRow
{
    /// <summary>Place in the whole journal; grows with every commit.</summary>
    public long Position { get; set; }

    public int Order { get; set; }

    public int Sequence { get; set; }

    /// <summary>Made by the sender; unique, so that a retry records once.</summary>
    public Guid Id { get; set; }

    public required string Kind { get; set; }

    /// <summary>UTC, in milliseconds since 1970.</summary>
    public long At { get; set; }

    public required string By { get; set; }

    /// <summary>JSON.</summary>
    public required string Body { get; set; }

    /// <summary>What the request said, hashed: the same id with other content is refused.</summary>
    public required string Print { get; set; }

    /// <summary>When it was said, in milliseconds since 1970; null where it did not wait for a network.</summary>
    public long? SaidAt { get; set; }

    /// <summary>That moment is not to be relied on; null where it did not wait.</summary>
    public bool? ClockOff { get; set; }

    /// <summary>The hash of the entry before it in its order, as <see cref="EntryChain"/> has it.</summary>
    public byte[]? Before { get; set; }
}

/// <summary>The projection of one order: what board and search need. Rebuilt from the journal at any time.</summary>
public sealed class OrderRow
{
    public int Number { get; set; }

    /// <summary>The sequence of the last entry.</summary>
    public int Head { get; set; }

    public bool Open { get; set; }

    public required string Stage { get; set; }

    public required string Model { get; set; }

    public required string Customer { get; set; }

    public string? Serial { get; set; }

    /// <summary>UTC, in milliseconds since 1970.</summary>
    public long ChangedAt { get; set; }

    /// <summary>The board card, JSON.</summary>
    public required string Card { get; set; }

    /// <summary>What came off in its run, ids in order; null before it is done.</summary>
    public string? Way { get; set; }

    /// <summary>How long its run took.</summary>
    public int? RunMinutes { get; set; }

    /// <summary>Its scores after the work, a JSON list; null for none.</summary>
    public string? Scores { get; set; }

    /// <summary>What it leaves for the machine's next visit, in words; null for nothing.</summary>
    public string? Later { get; set; }

    /// <summary>The batch that it is of; null for none.</summary>
    public int? Batch { get; set; }

    /// <summary>
    /// The part numbers that its plan takes from the catalogue and that are not fitted yet, a JSON list; null for none.
    /// </summary>
    public string? Wants { get; set; }

    /// <summary>
    /// The hash of its last entry, as <see cref="EntryChain"/> has it. Evidence, and no projection: making the rows
    /// anew keeps it.
    /// </summary>
    public byte[]? Hash { get; set; }
}

/// <summary>One published revision of a guide; never changed.</summary>
public sealed class GuideRow
{
    public required string Code { get; set; }

    public int Revision { get; set; }

    /// <summary>The file as it was sent.</summary>
    public required string Yaml { get; set; }

    public required string By { get; set; }

    public long At { get; set; }
}

/// <summary>A guide being worked on; one a model.</summary>
public sealed class GuideDraftRow
{
    public required string Code { get; set; }

    public required string Yaml { get; set; }

    /// <summary>Grows with every save, so that two editors cannot overwrite each other unseen.</summary>
    public int Version { get; set; }

    public required string By { get; set; }

    public long At { get; set; }
}

/// <summary>Which entry has which number of the shop's invoices.</summary>
public sealed class InvoiceRow
{
    /// <summary>From 1, without gaps.</summary>
    public int Number { get; set; }

    public int Order { get; set; }

    public int Sequence { get; set; }
}

/// <summary>What an order's entry suggests for the guide, and what became of it.</summary>
public sealed class SuggestionRow
{
    public int Order { get; set; }

    public int Sequence { get; set; }

    public required string Code { get; set; }

    public string? Step { get; set; }

    /// <summary>JSON.</summary>
    public required string Change { get; set; }

    public required string By { get; set; }

    public long At { get; set; }

    /// <summary>Open, Accepted or Declined.</summary>
    public required string State { get; set; }

    public string? DecidedBy { get; set; }
}

/// <summary>A picture without its camera's data, kept under the SHA-256 of its bytes.</summary>
public sealed class PictureRow
{
    public required string Hash { get; set; }

    /// <summary>JPEG, upright.</summary>
    public required byte[] Content { get; set; }

    /// <summary>The same, small.</summary>
    public required byte[] Small { get; set; }

    public int Width { get; set; }

    public int Height { get; set; }
}

/// <summary>A capture as it was sent, kept under the SHA-256 of its bytes.</summary>
public sealed class CaptureRow
{
    public required string Hash { get; set; }

    public required byte[] Content { get; set; }
}

/// <summary>A change outside the journal that was done, and what was answered.</summary>
public sealed class RequestRow
{
    /// <summary>Made by the sender.</summary>
    public Guid Key { get; set; }

    /// <summary>Hash of what was asked.</summary>
    public required string Print { get; set; }

    /// <summary>JSON.</summary>
    public required string Answer { get; set; }

    /// <summary>UTC, in milliseconds since 1970.</summary>
    public long At { get; set; }
}

/// <summary>Somebody at the bench.</summary>
public sealed class PersonRow
{
    public required string Id { get; set; }

    public required string Name { get; set; }

    public required string Role { get; set; }
}

/// <summary>What proves that somebody is who they say; nobody without a password can sign in.</summary>
public sealed class AccountRow
{
    public required string Person { get; set; }

    /// <summary>Hashed, as ASP.NET Core Identity writes it.</summary>
    public string? Password { get; set; }

    /// <summary>Wrong passwords in a row.</summary>
    public int Failed { get; set; }

    public long? LockedUntil { get; set; }

    /// <summary>The shared secret of one-time codes (RFC 6238), in base 32; null where none are asked for.</summary>
    public string? CodeKey { get; set; }

    /// <summary>Whether codes were proved to work, and so are asked for.</summary>
    public bool AsksCode { get; set; }

    /// <summary>The last code's time step that was taken, so that none counts twice.</summary>
    public long LastStep { get; set; }

    /// <summary>Codes on paper that are left, hashed, a line each.</summary>
    public string? Recovery { get; set; }

    /// <summary>For bench tablets, hashed as a password is; null where none was chosen.</summary>
    public string? Pin { get; set; }

    /// <summary>Wrong PINs in a row.</summary>
    public int PinFailed { get; set; }

    public long? PinLockedUntil { get; set; }

    /// <summary>Of what stands on the badge.</summary>
    public string? Badge { get; set; }

    /// <summary>Where notices that lie unread are mailed to; null for nowhere.</summary>
    public string? Mail { get; set; }

    /// <summary>Why the mail server does not take that address; null while it does.</summary>
    public string? MailFault { get; set; }
}

/// <summary>Something that concerns one person.</summary>
public sealed class NoticeRow
{
    public long Position { get; set; }

    public required string Person { get; set; }

    public int Order { get; set; }

    /// <summary>Of the entry that tells it.</summary>
    public int Sequence { get; set; }

    public required string Kind { get; set; }

    public required string Text { get; set; }

    public required string By { get; set; }

    public long At { get; set; }

    public long? ReadAt { get; set; }

    /// <summary>When it went out by mail, or when mail was first wished; null while it may still go.</summary>
    public long? MailedAt { get; set; }
}

/// <summary>A key of the service's own.</summary>
public sealed class DoorKeyRow
{
    public required string Id { get; set; }

    public required string Text { get; set; }
}

/// <summary>Something that was done with the whole store: a look through it, or a backup of it.</summary>
public sealed class StoreTaskRow
{
    public required string Id { get; set; }

    public required string Kind { get; set; }

    public long BeganAt { get; set; }

    /// <summary>Whoever does it says so from time to time; one that fell silent is over.</summary>
    public long ToldAt { get; set; }

    public long? EndedAt { get; set; }

    /// <summary>How it went so far, JSON.</summary>
    public required string Body { get; set; }
}

/// <summary>One running service on this store.</summary>
public sealed class InstanceRow
{
    public required string Id { get; set; }

    /// <summary>Its machine, and where it listens.</summary>
    public required string Name { get; set; }

    public required string Version { get; set; }

    public long BeganAt { get; set; }

    public long SeenAt { get; set; }

    /// <summary>The last position of the journal that its listeners were told of.</summary>
    public long Position { get; set; }
}

/// <summary>What was recorded by the end of a day, in one hash, signed.</summary>
public sealed class DayHeadRow
{
    /// <summary>UTC, as ISO 8601 writes it.</summary>
    public required string Day { get; set; }

    /// <summary>The last entry that it counts.</summary>
    public long Position { get; set; }

    public required byte[] Hash { get; set; }

    /// <summary>Whose signature it is: the hash of the public key.</summary>
    public required string Key { get; set; }

    public required byte[] Signature { get; set; }
}

/// <summary>How far the journal was read for something that is kept beside it.</summary>
public sealed class ReaderRow
{
    public required string Name { get; set; }

    public long Position { get; set; }
}

/// <summary>
/// Something by which an order is found; in SQLite a table beside its index, which the entity model does not know.
/// </summary>
public sealed class TraceRow
{
    /// <summary>Begins with the order's number: <see cref="TraceRows.Bits"/>.</summary>
    public long Id { get; set; }

    public required string Kind { get; set; }

    public required string Text { get; set; }

    /// <summary>Its words, small and without marks, a blank between them.</summary>
    public required string Words { get; set; }
}

/// <summary>A word by which orders are found, so that one which was mistyped is known by what was meant.</summary>
public sealed class TermRow
{
    public required string Term { get; set; }

    /// <summary>In how many traces it stands.</summary>
    public int Uses { get; set; }
}

/// <summary>Another program that is told what is recorded on orders.</summary>
public sealed class WebhookRow
{
    public required string Id { get; set; }

    public required string Name { get; set; }

    public required string Address { get; set; }

    /// <summary>Of which kinds of entries it is told, with spaces between; empty for all.</summary>
    public required string Kinds { get; set; }

    public bool InWords { get; set; }

    public bool Active { get; set; }

    /// <summary>What signs its messages; kept as it is, since it signs.</summary>
    public required string Secret { get; set; }

    /// <summary>The secret before; signs too until <see cref="OldUntil"/>.</summary>
    public string? OldSecret { get; set; }

    public long? OldUntil { get; set; }

    /// <summary>How far the journal was read for it.</summary>
    public long Position { get; set; }

    public long MadeAt { get; set; }

    public long? DeliveredAt { get; set; }
}

/// <summary>One message to another program.</summary>
public sealed class WebhookMessageRow
{
    public long Position { get; set; }

    public required string Id { get; set; }

    public required string Webhook { get; set; }

    public required string Type { get; set; }

    /// <summary>JSON, the same bytes at every try.</summary>
    public required string Body { get; set; }

    /// <summary>Waiting, Delivered or Dead.</summary>
    public required string State { get; set; }

    public int Tries { get; set; }

    public long At { get; set; }

    /// <summary>When it is sent next; whoever sends it moves this on first.</summary>
    public long NextAt { get; set; }

    public long? TriedAt { get; set; }

    /// <summary>What came of the last try.</summary>
    public string? Answer { get; set; }
}

/// <summary>A screen on the bench that a lead enrolled, or made a link for.</summary>
public sealed class TabletRow
{
    public required string Id { get; set; }

    public required string Name { get; set; }

    /// <summary>Of what its link opens with until <see cref="LinkUntil"/>, then of what it shows itself by.</summary>
    public required string Hash { get; set; }

    /// <summary>Null once it is enrolled.</summary>
    public long? LinkUntil { get; set; }

    public long MadeAt { get; set; }

    public long? EnrolledAt { get; set; }

    public long? UsedAt { get; set; }
}

/// <summary>Somebody who is signed in, or a token that works in somebody's name.</summary>
public sealed class SessionRow
{
    public required string Id { get; set; }

    /// <summary>SHA-256 of what the browser or program holds.</summary>
    public required string Hash { get; set; }

    public required string Person { get; set; }

    public required string Kind { get; set; }

    /// <summary>What its owner knows it by.</summary>
    public required string Name { get; set; }

    /// <summary>Whether it only looks.</summary>
    public bool Looks { get; set; }

    public long MadeAt { get; set; }

    public long UsedAt { get; set; }

    public string? Tablet { get; set; }

    public long ExpiresAt { get; set; }
}

/// <summary>A link that sets a password, once.</summary>
public sealed class SetUpLinkRow
{
    /// <summary>SHA-256 of what stands in the link.</summary>
    public required string Hash { get; set; }

    /// <summary>Null: whoever opens it becomes a lead of the shop.</summary>
    public string? Person { get; set; }

    public long ExpiresAt { get; set; }
}

/// <summary>One sign-in, failure, or thing that a lead did about people.</summary>
public sealed class AuditRow
{
    public long Position { get; set; }

    public long At { get; set; }

    /// <summary>An id; what was typed where nobody is called so.</summary>
    public required string By { get; set; }

    public required string What { get; set; }

    /// <summary>Whom or what it was about.</summary>
    public string? About { get; set; }

    /// <summary>The address it came from.</summary>
    public string? From { get; set; }
}

/// <summary>One line of the catalogue.</summary>
public sealed class PartKindRow
{
    public required string Number { get; set; }

    /// <summary>The kind, JSON.</summary>
    public required string Body { get; set; }

    public string? Barcode { get; set; }

    /// <summary>All that a search looks through, in small letters.</summary>
    public required string Search { get; set; }

    /// <summary>How many should lie on the shelf.</summary>
    public int Least { get; set; }
}

/// <summary>One physical part.</summary>
public sealed class PartItemRow
{
    public long Id { get; set; }

    public required string Kind { get; set; }

    public string? Serial { get; set; }

    public required string State { get; set; }

    public decimal? Cost { get; set; }

    public string? Supplier { get; set; }

    public string? Place { get; set; }

    public int? Order { get; set; }

    public string? Position { get; set; }

    public long? Kit { get; set; }

    public string? Grade { get; set; }

    public string? Tested { get; set; }
}

/// <summary>One line of the stock's ledger; never changed.</summary>
public sealed class StockMoveRow
{
    public long Id { get; set; }

    public long Item { get; set; }

    public string? From { get; set; }

    public required string To { get; set; }

    public int? Order { get; set; }

    public string? Position { get; set; }

    public string? Note { get; set; }

    /// <summary>UTC, in milliseconds since 1970.</summary>
    public long At { get; set; }

    public required string By { get; set; }

    /// <summary>Made by the sender; shared by all moves of one request.</summary>
    public Guid Key { get; set; }
}

/// <summary>A simulated machine of the bench.</summary>
public sealed class DummyRow
{
    /// <summary>Short, unique in the shop.</summary>
    public required string Name { get; set; }

    /// <summary>Grows with every change.</summary>
    public int Version { get; set; }

    /// <summary>All of it, JSON.</summary>
    public required string State { get; set; }
}

/// <summary>A name under which the newest revision of a guide may be asked for.</summary>
public sealed class GuideNameRow
{
    public required string Code { get; set; }

    /// <summary>In capitals, letters and digits alone.</summary>
    public required string Name { get; set; }

    /// <summary>The build that reports so; empty for the model.</summary>
    public required string Build { get; set; }

    /// <summary>Firmware reports it so; else it is what the model is called.</summary>
    public bool Reported { get; set; }
}

/// <summary>A machine that told of itself before there was an order, or a code by which one may.</summary>
public sealed class ArrivalRow
{
    public required string Id { get; set; }

    public required string By { get; set; }

    /// <summary>UTC, in milliseconds since 1970.</summary>
    public long At { get; set; }

    /// <summary>Of the one-time code, hashed; null where the capture was carried here.</summary>
    public string? CodeHash { get; set; }

    /// <summary>How long the code opens.</summary>
    public long? Until { get; set; }

    /// <summary>The hash of what was sent; null before.</summary>
    public string? Capture { get; set; }

    /// <summary>When it was sent.</summary>
    public long? CameAt { get; set; }

    /// <summary>The order that it was taken in under; null before.</summary>
    public int? Order { get; set; }
}
