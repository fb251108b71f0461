using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>The plan, the customer's word on it, and the drives' data; see <see cref="OrderRules"/>.</summary>
public static class PlanRules
{
    private const int LongestOfferDays = 90;

    /// <summary>
    /// The plan is set, or set anew, which asks the customer again. One above every known maximum is a lead's.
    /// </summary>
    /// <param name="discount">In percent.</param>
    public static PlanSet SetPlan(
        Order order,
        Guide guide,
        IReadOnlyList<SlotChange> changes,
        string? note,
        Role role = Role.Technician,
        decimal discount = 0,
        LaterStage? later = null
    )
    {
        if (discount is < 0 or > 100)
        {
            throw RefusedException.Invalid(
                "discount-impossible",
                $"A discount of {discount} % cannot be. It is from 0 to 100."
            );
        }

        var plan = Planner.Make(guide, order.Before!.Value, changes);
        if (
            role != Role.Lead
            && FitRules.Of(guide, order.Before.Value, plan).FirstOrDefault(n => n.Weight == FitWeight.Lead) is { } heavy
        )
        {
            throw new RefusedException(RefusalKind.Role, heavy.Code, heavy.Sentence);
        }

        return new PlanSet(
            plan,
            Words.Text("The note", note),
            discount,
            later is null
                ? null
                : later with
                {
                    Part = new PartNumber(Words.RequiredLine("The later part", later.Part.ToString())),
                    Words = Words.RequiredLine("What comes later", later.Words),
                }
        );
    }

    /// <summary>The customer agreed to the plan; what was told is frozen with it.</summary>
    public static PlanAgreed Agree(string? customer, string? note, Quote? quote = null, bool byLink = false)
    {
        return new PlanAgreed(Words.RequiredLine("Who agreed", customer), Words.Text("The note", note), quote, byLink);
    }

    public static QuoteDeclined Decline(string? customer, string? reason, bool byLink = false)
    {
        return new QuoteDeclined(
            Words.RequiredLine("Who declined", customer),
            Words.Text("The reason", reason),
            byLink
        );
    }

    /// <summary>A link is made; an earlier one opens nothing any more.</summary>
    /// <param name="until">When it ends by itself; within 90 days.</param>
    public static QuoteOffered Offer(Quote quote, string linkHash, DateTimeOffset now, DateTimeOffset until)
    {
        if (quote.Unpriced.Count > 0)
        {
            throw RefusedException.Rule(
                "price-missing",
                $"No price is known for {Phrases.Listed(quote.Unpriced)}. Name the part by its number in the "
                    + "catalogue, then send the quote."
            );
        }

        return until > now && until <= now.AddDays(LongestOfferDays)
            ? new QuoteOffered(quote, linkHash, until)
            : throw RefusedException.Invalid(
                "until-impossible",
                $"A quote's link is open from now on, for {LongestOfferDays} days at most."
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
    /// What becomes of a part that came out, or will. A drive leaves the shop's hands only cleared, or to its owner.
    /// </summary>
    public static OldPartSettled Settle(
        Order order,
        string position,
        PartFate fate,
        Wipe? wipe,
        string? note,
        string? grade = null,
        string? tested = null,
        decimal? price = null
    )
    {
        var leaving =
            order.Plan!.Value.ComesOut.FirstOrDefault(o => o.Position == position)
            ?? throw RefusedException.Invalid(
                "nothing-comes-out",
                $"By the plan nothing comes out of {position} for good."
            );
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
            price
        );
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
