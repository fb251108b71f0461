using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>Somebody wrote something down.</summary>
/// <param name="Answers">The sequence of the note that began what this one answers; null for one that begins.</param>
public sealed record NoteAdded(string Text, StepId? Step = null, int? Answers = null) : EntryBody
{
    public override OrderAct Act => OrderAct.AddNote;

    public override string Line(Guide? guide) =>
        $"{(Answers is { } begun ? $"To {begun}: " : "")}{Text}{StepWords.At(Step, guide)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Notes = order.Notes.Add(entry.Sequence, new(entry.By, Answers ?? entry.Sequence)),
        };
}

/// <summary>A note, and what it belongs to.</summary>
/// <param name="By">Person's id.</param>
/// <param name="Begun">The sequence of the note that began it; its own where it did.</param>
public sealed record NoteSaid(string By, int Begun);

/// <summary>A picture was taken of the machine.</summary>
/// <param name="Photo">The hash under which it is kept.</param>
/// <param name="Width">In pixels, upright.</param>
public sealed record PhotoTaken(string Photo, int Width, int Height, StepId? Step, string? Caption) : EntryBody
{
    public override OrderAct Act => OrderAct.AddPhoto;

    public override string Line(Guide? guide) => $"Photo{StepWords.At(Step, guide)}{Phrases.Added(Caption)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Photos = order.Photos.Add(new(Photo, Width, Height, Step, Caption, entry.By, entry.HappenedAt)),
        };
}

/// <summary>Somebody learned something that the guide should tell.</summary>
public sealed record GuideSuggested(GuideChange Change, StepId? Step) : EntryBody
{
    public override OrderAct Act => OrderAct.SuggestChange;

    public override string Line(Guide? guide) => $"Suggested for the guide: {GuideChanges.Sentence(Change, guide)}";
}

/// <summary>
/// What is only told: notes, photos, suggestions for the guide. Each rule gives the entry to append, or refuses
/// with the reason and the way on.
/// </summary>
public static class NoteRules
{
    /// <param name="step">The step that it belongs to; null for the order.</param>
    /// <param name="answers">The sequence of any note of what it answers; null for none.</param>
    public static NoteAdded AddNote(Order order, Guide guide, string? text, StepId? step = null, int? answers = null)
    {
        BenchRules.KnownStep(order, guide, step);
        var told = Words.RequiredText("The note", text);
        if (answers is not { } note)
        {
            return new NoteAdded(told, step);
        }

        return order.Notes.TryGetValue(note, out var before)
            ? new NoteAdded(told, step, before.Begun)
            : throw RefusedException.Invalid(
                "no-such-note",
                $"Line {note} of the journal is no note. Answer one of the notes, or write one of your own."
            );
    }

    /// <summary>A picture belongs to the order, or to a step of its run.</summary>
    public static PhotoTaken AddPhoto(
        Order order,
        Guide guide,
        string hash,
        int width,
        int height,
        StepId? step,
        string? caption
    )
    {
        BenchRules.KnownStep(order, guide, step);
        return new PhotoTaken(hash, width, height, step, Words.Line("The caption", caption));
    }

    /// <summary>What somebody learned goes to the lead, who takes it into the guide or leaves it.</summary>
    public static GuideSuggested Suggest(Order order, Guide guide, GuideChange change, StepId? step)
    {
        BenchRules.KnownStep(order, guide, step);
        var told = change with
        {
            Text = Words.Line("The text", change.Text),
            Target = Words.Line("What it is about", change.Target),
        };
        GuideChanges.Apply(guide, told);
        return new GuideSuggested(told, step);
    }
}
