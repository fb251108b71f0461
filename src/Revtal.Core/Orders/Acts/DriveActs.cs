using System.Globalization;
using System.Text.Json.Serialization;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>The boot drive's copy is verified, or the customer goes without.</summary>
/// <param name="Text">How it was verified, or who waived it.</param>
/// <param name="Sampled">How many files were compared by hash; null in early records.</param>
public sealed record CopyTold(CopyState Copy, string Text, int? Sampled = null) : EntryBody
{
    public override OrderAct Act => OrderAct.TellCopy;

    public override string Line(Guide? guide) =>
        $"Copy {Phrases.Words(Copy)}: {Text}"
        + Phrases.When(Sampled, n => $", {Phrases.Counted(n, "file", "files")} compared by hash");

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
/// <param name="Claim">Of a part that went back to who sold it.</param>
/// <param name="UsedIn">The order in whose machine it goes on.</param>
public sealed record OldPartSettled(
    string Position,
    PartFate Fate,
    Wipe? Wipe,
    string? Note,
    string? Grade = null,
    string? Tested = null,
    decimal? Price = null,
    Claim? Claim = null,
    int? UsedIn = null
) : EntryBody
{
    public override OrderAct Act => OrderAct.SettleOldPart;

    /// <summary>“wiped, then the customer keeps it, purge by secure erase, verified: read back”.</summary>
    [JsonIgnore]
    public string Words =>
        Fate.Spoken()
        + Phrases.When(UsedIn, n => $", order {n}")
        + Phrases.When(Claim, c => $", claim {c.Number} of {Phrases.Day(c.On)}: {c.Reason}")
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

/// <summary>A part that came out lies in a labelled bag.</summary>
/// <param name="Place">Where the bag lies.</param>
public sealed record OldPartBagged(string Position, string Place) : EntryBody
{
    public override OrderAct Act => OrderAct.BagOldPart;

    public override string Line(Guide? guide) => $"What came out of {Position} is bagged: {Place}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Bagged = order.Bagged.SetItem(Position, Place),
        };
}

/// <summary>
/// The drives' data, and what becomes of the parts that came out. Each rule gives the entry to append, or refuses
/// with the reason and the way on.
/// </summary>
public static class DriveRules
{
    /// <summary>The boot drive's copy is verified, or the customer goes without.</summary>
    /// <param name="sampled">How many files were compared by hash; at least one where it is called verified.</param>
    public static CopyTold TellCopy(CopyState copy, string? text, int? sampled = null)
    {
        var told = Words.RequiredText(copy == CopyState.Verified ? "How it was verified" : "Who goes without it", text);
        return copy == CopyState.Waived ? new CopyTold(copy, told)
            : sampled is > 0 ? new CopyTold(copy, told, sampled)
            : throw RefusedException.Invalid(
                "nothing-sampled",
                "A copy is called verified once files were compared by hash, one at least: say how many."
            );
    }

    /// <summary>A drive's data begins to be copied.</summary>
    /// <param name="size">What is to be copied.</param>
    public static CopyBegun BeginCopy(
        Order order,
        string bay,
        string? source,
        string? target,
        string? method,
        DriveSize size
    )
    {
        NeedDrivePlan(order, bay);
        if (size.Bytes == 0 || (order.Plan!.Value.Bay(bay)!.Wish is { } wish && size > wish.Drive.Size))
        {
            throw RefusedException.Invalid(
                "copy-size",
                $"{size} cannot be copied onto the drive that is planned for {bay}. Give what is in use on the old one."
            );
        }

        return new CopyBegun(
            bay,
            Words.RequiredLine("The source", source),
            Words.RequiredLine("The target", target),
            Words.RequiredLine("The method", method),
            size
        );
    }

    /// <summary>So much of the copy is done.</summary>
    /// <exception cref="RefusedException">No copy runs there, or it is more than the whole.</exception>
    public static CopyAdvanced AdvanceCopy(Order order, string bay, DriveSize done)
    {
        var copy = NeedCopy(order, bay);
        return done > copy.Points[^1].Done && done <= copy.Size
            ? new CopyAdvanced(bay, done)
            : throw RefusedException.Invalid(
                "copy-done",
                $"{copy.Points[^1].Done} of {copy.Size} were copied before; {done} cannot come after that."
            );
    }

    /// <summary>Source and target are compared by counts and by sampled hashes.</summary>
    public static CopyVerified VerifyCopy(
        Order order,
        string bay,
        int filesSource,
        int filesTarget,
        int sampled,
        int matched
    )
    {
        NeedCopy(order, bay);
        return
            filesSource > 0
            && filesTarget >= 0
            && sampled > 0
            && sampled <= filesSource
            && matched >= 0
            && matched <= sampled
            ? new CopyVerified(bay, filesSource, filesTarget, sampled, matched)
            : throw RefusedException.Invalid(
                "copy-counts",
                "Give how many files were counted on both sides, how many were compared by hash (1 or more), and how "
                    + "many of those are alike."
            );
    }

    /// <summary>
    /// What becomes of a part that came out. A drive leaves the shop's hands only cleared, or to its owner.
    /// </summary>
    public static OldPartSettled Settle(
        Order order,
        Guide guide,
        string position,
        PartFate fate,
        Wipe? wipe,
        string? note,
        string? grade = null,
        string? tested = null,
        decimal? price = null,
        Claim? claim = null,
        int? usedIn = null
    )
    {
        var leaving = NeedOut(order, guide, position, "what becomes of it is said");

        if (leaving.IsDrive && wipe is null && fate.WantsWipe())
        {
            throw RefusedException.Rule(
                "wipe-missing",
                "A drive is cleared before it goes there: give the category (clear, purge or destroy), the method, "
                    + "and how it was verified."
            );
        }

        if (
            fate == PartFate.BoughtIn
            && (
                grade is not ("A" or "B" or "C")
                || string.IsNullOrWhiteSpace(tested)
                || price is null or < 0 or > PartKind.HighestPrice
            )
        )
        {
            throw RefusedException.Invalid(
                "buy-in-facts",
                "A used part is bought in with a grade (A, B or C), how it was tested, and its price."
            );
        }

        if (fate.WantsClaim() && claim is null)
        {
            throw RefusedException.Invalid(
                "claim-missing",
                "A part goes back to who sold it under a claim: give its number, its day and the reason."
            );
        }

        if (fate.WantsOrder() && (usedIn is null || usedIn == order.Number))
        {
            throw RefusedException.Invalid("order-missing", "Name the other order in whose machine it goes on.");
        }

        return new OldPartSettled(
            position,
            fate,
            wipe is null
                ? null
                : wipe with
                {
                    Method = Words.RequiredLine("The method", wipe.Method),
                    Verified = Words.RequiredLine("How it was verified", wipe.Verified),
                },
            Words.Text("The note", note),
            grade,
            Words.Line("The test", tested),
            price,
            fate.WantsClaim()
                ? claim! with
                {
                    Number = Words.RequiredLine("The claim's number", claim.Number),
                    Reason = Words.RequiredLine("The claim's reason", claim.Reason),
                }
                : null,
            fate.WantsOrder() ? usedIn : null
        );
    }

    /// <summary>A part that came out is put into its bag, and the bag somewhere.</summary>
    /// <param name="place">Where the bag lies: a shelf, a drawer; the last word counts.</param>
    public static OldPartBagged Bag(Order order, Guide guide, string position, string? place)
    {
        NeedOut(order, guide, position, "it is bagged");
        return new OldPartBagged(position, Words.RequiredLine("Where the bag lies", place));
    }

    private static LeavingPart NeedOut(Order order, Guide guide, string position, string then)
    {
        var leaving =
            order.Plan?.Value.ComesOut.FirstOrDefault(o => o.Position == position)
            ?? throw RefusedException.Invalid(
                "nothing-comes-out",
                $"By the plan nothing comes out of {position} for good."
            );
        return order.TakenOut(guide, position) is null
            ? throw RefusedException.Rule(
                "not-out-yet",
                $"{leaving.Name} is still in {position}: {then} once it is out."
            )
            : leaving;
    }

    private static void NeedDrivePlan(Order order, string bay)
    {
        if (order.Plan?.Value.Bay(bay) is not { CopiesFirst: true })
        {
            throw RefusedException.Rule(
                "no-copy-planned",
                $"The plan does not copy a drive's data for {bay}. Plan its data as copied first."
            );
        }
    }

    private static DriveCopy NeedCopy(Order order, string bay) =>
        order.Copies.FirstOrDefault(c => c.Bay == bay)
        ?? throw RefusedException.Rule("no-copy", $"No copy for {bay} was begun.");
}
