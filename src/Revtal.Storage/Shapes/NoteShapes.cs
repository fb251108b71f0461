using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredNoteAdded(string Text, string? Step = null, int? Answers = null);

internal sealed record StoredPhotoTaken(string Photo, int Width, int Height, string? Step, string? Caption);

internal sealed record StoredGuideSuggested(StoredGuideChange Change, string? Step);

internal static partial class StoredMapper
{
    public static partial StoredNoteAdded ToStored(NoteAdded body);

    public static partial NoteAdded ToHeart(StoredNoteAdded body);

    public static partial StoredPhotoTaken ToStored(PhotoTaken body);

    public static partial PhotoTaken ToHeart(StoredPhotoTaken body);

    public static partial StoredGuideSuggested ToStored(GuideSuggested body);

    public static partial GuideSuggested ToHeart(StoredGuideSuggested body);
}

internal static class NoteShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<NoteAdded, StoredNoteAdded>("note-added/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<PhotoTaken, StoredPhotoTaken>("photo-taken/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<GuideSuggested, StoredGuideSuggested>(
            "guide-suggested/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
    ];
}
