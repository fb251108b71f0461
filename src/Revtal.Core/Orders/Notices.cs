using System.Text.RegularExpressions;
using Revtal.Core.Bench;
using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>Why something concerns somebody.</summary>
public enum NoticeKind
{
    /// <summary>It was put into their hands.</summary>
    HandedOver,

    /// <summary>A note names them.</summary>
    Mentioned,

    /// <summary>Somebody answered what they wrote, or wrote on in it.</summary>
    WrittenTo,

    /// <summary>It was parked, and is taken up again by itself.</summary>
    Woken,

    /// <summary>The customer answered the quote by its link.</summary>
    Answered,

    /// <summary>The first start showed something that is not normal.</summary>
    Sign,

    /// <summary>The run stands still until a lead decides.</summary>
    Stopped,
}

/// <summary>What concerns one person.</summary>
/// <param name="For">By id.</param>
public sealed record Notice(string For, NoticeKind Kind, string Text);

/// <summary>What concerned somebody, as it was told.</summary>
/// <param name="Position">Grows with time; a person's notices are read up to one.</param>
/// <param name="Sequence">Of the entry that tells it.</param>
/// <param name="By">Who made that entry, by id.</param>
/// <param name="ReadAt">Null while it is not read.</param>
public sealed record NoticeLine(
    long Position,
    int Order,
    int Sequence,
    NoticeKind Kind,
    string Text,
    string By,
    DateTimeOffset At,
    DateTimeOffset? ReadAt
);

/// <summary>Whom an entry concerns; never the one who made it.</summary>
public static partial class Notices
{
    /// <param name="before">The order without the entry.</param>
    /// <param name="after">The order with it.</param>
    /// <param name="people">Everybody of the shop.</param>
    public static IReadOnlyList<Notice> Of(
        Order before,
        Order after,
        Entry entry,
        Guide guide,
        IReadOnlyList<Person> people
    )
    {
        var told = entry.Body switch
        {
            OwnerNamed { Owner: { } owner, Word: var word } => To([owner], NoticeKind.HandedOver, word ?? Line()),
            NoteAdded note => Noted(before, note),
            // Of an answer they are told by itself.
            Resumed
                when entry.By == Shop
                    && before.Parking is { } parking
                    && (parking.Wakes != WakeOn.CustomerAnswers || before.ParkedUntil is not null) => To(
                [before.Owner ?? parking.By],
                NoticeKind.Woken,
                Woke(before, parking)
            ),
            PlanAgreed { ByLink: true } or QuoteDeclined { ByLink: true } => To(
                [before.Owner, before.OfferedBy],
                NoticeKind.Answered,
                Line()
            ),
            FoundInside { Kind: FindKind.Sign } when after.SignOpen(guide) is not null => To(
                [before.Owner, .. Leads()],
                NoticeKind.Sign,
                Line()
            ),
            FoundInside when before.RunState.Stop is null && after.RunState.Stop is not null => To(
                [before.Owner, .. Leads()],
                NoticeKind.Stopped,
                Line()
            ),
            _ => [],
        };
        return [.. told.Where(n => n.For != entry.By && people.Any(p => p.Id == n.For))];

        string Line() => entry.Body.Line(guide, people);

        IEnumerable<string> Leads() => people.Where(p => p.IsLead).Select(p => p.Id);
    }

    /// <summary>By whom entries are made that the service makes by itself.</summary>
    public const string Shop = "revtal";

    /// <summary>Ids that a text names with @.</summary>
    public static IReadOnlyList<string> Named(string text) =>
        [.. Mention().Matches(text).Select(m => m.Groups[1].Value).Distinct()];

    // Whoever is named is told so, and not told again that they wrote there.
    private static IEnumerable<Notice> Noted(Order before, NoteAdded note)
    {
        var named = Named(note.Text);
        var wrote = before.Notes.Values.Where(n => n.Begun == note.Answers).Select(n => n.By);
        return To(named, NoticeKind.Mentioned, note.Text)
            .Concat(To(wrote.Except(named), NoticeKind.WrittenTo, note.Text));
    }

    private static string Woke(Order before, Parking parking) =>
        parking.Wakes == WakeOn.PartsArrive && before.ParkedUntil is null
            ? "Its parts are there: it is taken up again"
            : $"Taken up again. It was parked: {before.Reason}";

    private static IEnumerable<Notice> To(IEnumerable<string?> people, NoticeKind kind, string text) =>
        people.OfType<string>().Distinct().Select(p => new Notice(p, kind, text));

    [GeneratedRegex(@"(?<![\w@.])@([a-z][a-z0-9-]{1,19})(?![\w-])")]
    private static partial Regex Mention();
}
