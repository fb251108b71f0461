using System.Globalization;
using System.Text.Json.Serialization;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Orders;

/// <summary>The boot drive's copy is verified, or the customer goes without.</summary>
/// <param name="Text">How it was verified, or who waived it.</param>
public sealed record CopyTold(CopyState Copy, string Text) : EntryBody
{
    public override OrderAct Act => OrderAct.TellCopy;

    public override string Line(Guide? guide) => $"Copy {Phrases.Words(Copy)}: {Text}";

    internal override Order Apply(Order order, Entry entry) => order with { Copy = this };
}

/// <summary>A drive's data begins to be copied.</summary>
/// <param name="Bay">The bay whose drive is replaced.</param>
/// <param name="Size">What is to be copied.</param>
public sealed record CopyBegun(string Bay, string Source, string Target, string Method, DriveSize Size) : EntryBody
{
    public override OrderAct Act => OrderAct.BeginCopy;

    public override string Line(Guide? guide) => $"Copy of {Bay} begun: {Source} to {Target}, {Size}, {Method}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Copies = order
                .Copies.RemoveAll(c => c.Bay == Bay)
                .Add(new(Bay, Source, Target, Method, Size, [new CopyPoint(default, entry.At)], null, null)),
        };
}

/// <summary>So much is copied.</summary>
public sealed record CopyAdvanced(string Bay, DriveSize Done) : EntryBody
{
    public override OrderAct Act => OrderAct.AdvanceCopy;

    public override string Line(Guide? guide) => $"Copy of {Bay}: {Done} done";

    internal override Order Apply(Order order, Entry entry) =>
        order.OnCopy(Bay, c => c with { Points = c.Points.Add(new(Done, entry.At)) });
}

/// <summary>Source and target were compared.</summary>
/// <param name="FilesSource">Files counted there.</param>
/// <param name="Sampled">How many files were compared by hash.</param>
/// <param name="Matched">How many of those are alike.</param>
public sealed record CopyVerified(string Bay, int FilesSource, int FilesTarget, int Sampled, int Matched) : EntryBody
{
    /// <summary>Nothing is missing and nothing differs.</summary>
    public bool IsGood => FilesSource == FilesTarget && Sampled > 0 && Matched == Sampled;

    /// <summary>“41204 of 41204 files, 200 of 200 sampled hashes alike”.</summary>
    public string Counts =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{FilesTarget} of {FilesSource} files, {Matched} of {Sampled} sampled hashes alike"
        );

    public override OrderAct Act => OrderAct.VerifyCopy;

    public override string Line(Guide? guide) =>
        $"Copy of {Bay} compared: {Counts}{Phrases.When(!IsGood, ": not good")}";

    internal override Order Apply(Order order, Entry entry)
    {
        var told = IsGood ? order with { Copy = new CopyTold(CopyState.Verified, Counts) } : order;
        return told.OnCopy(Bay, c => c with { Verified = this, VerifiedAt = entry.At });
    }
}

/// <summary>What became of a part that came out.</summary>
/// <param name="Grade">Of a part bought in: A, B or C.</param>
/// <param name="Tested">How a part bought in was tested, and what came out.</param>
/// <param name="Price">What the shop paid for it.</param>
public sealed record OldPartSettled(
    string Position,
    PartFate Fate,
    Wipe? Wipe,
    string? Note,
    string? Grade = null,
    string? Tested = null,
    decimal? Price = null
) : EntryBody
{
    public override OrderAct Act => OrderAct.SettleOldPart;

    /// <summary>“wiped, then the customer keeps it, purge by secure erase, verified: read back”.</summary>
    [JsonIgnore]
    public string Words =>
        Fate.Spoken()
        + Phrases.When(Wipe, w => $", {Phrases.Words(w.Category)} by {w.Method}, verified: {w.Verified}")
        + Phrases.When(Grade, g => $", grade {g}")
        + Phrases.When(Tested, t => $", tested: {t}")
        + Phrases.Added(Note);

    public override string Line(Guide? guide) => $"What came out of {Position}: {Words}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Settled = order.Settled.RemoveAll(o => o.Position == Position).Add(this),
        };
}
