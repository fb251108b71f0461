using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>Somebody wrote something down.</summary>
public sealed record NoteAdded(string Text, StepId? Step = null) : EntryBody
{
    public override OrderAct Act => OrderAct.AddNote;

    public override string Line(Guide? guide) => $"{Text}{StepWords.At(Step, guide)}";
}

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
            Photos = order.Photos.Add(new(Photo, Width, Height, Step, Caption, entry.By, entry.At)),
        };
}

/// <summary>Somebody learned something that the guide should tell.</summary>
public sealed record GuideSuggested(GuideChange Change, StepId? Step) : EntryBody
{
    public override OrderAct Act => OrderAct.SuggestChange;

    public override string Line(Guide? guide) => $"Suggested for the guide: {GuideChanges.Sentence(Change, guide)}";
}
