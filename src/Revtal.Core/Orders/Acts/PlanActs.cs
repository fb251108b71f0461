using System.Globalization;
using Revtal.Core.Checks;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>The plan is set, or set anew.</summary>
/// <param name="Discount">In percent of parts and labour; 0 to 100.</param>
/// <param name="Later">What the next visit is to add.</param>
public sealed record PlanSet(Plan Plan, string? Note, decimal Discount = 0, LaterStage? Later = null) : EntryBody
{
    public override OrderAct Act => OrderAct.SetPlan;

    public override string Line(Guide? guide)
    {
        var discount = string.Create(CultureInfo.InvariantCulture, $", {Discount:0.##} % off");
        return $"Planned: {PlanWords.Short(Plan)}"
            + $"{Phrases.When(Discount > 0, discount)}{Phrases.When(Later, l => $"; later: {l.Words}")}"
            + Phrases.Added(Note);
    }

    internal override Order Apply(Order order, Entry entry) =>
        order.WithoutPlan() with
        {
            Stage = Stage.Planned,
            Plan = new Recorded<Plan>(Plan, entry.Sequence),
            Discount = Discount,
            Later = Later is { } l ? new LaterVisit(l.Changes ?? [], l.Words, l.Price, entry.At, l) : order.Noted,
        };
}

/// <summary>The customer agreed to the plan.</summary>
/// <param name="Customer">Who agreed on the customer's side.</param>
/// <param name="Quote">What was agreed to, frozen; null where there was none.</param>
/// <param name="ByLink">The customer pressed it, on the page that the link opens.</param>
public sealed record PlanAgreed(string Customer, string? Note, Quote? Quote = null, bool ByLink = false) : EntryBody
{
    public override OrderAct Act => OrderAct.Agree;

    public override string Line(Guide? guide) =>
        $"{Customer} agreed{Phrases.When(ByLink, " by the link")}"
        + $"{Phrases.When(Quote, q => $" to {Phrases.Amount(q.Total, q.Currency)}")}{Phrases.Added(Note)}";

    internal override Order Apply(Order order, Entry entry) =>
        order.Standing(Stage.Agreed) with
        {
            Agreed = this,
            Offered = null,
            Declined = null,
        };
}

/// <summary>A link was made that the customer opens without an account.</summary>
/// <param name="LinkHash">SHA-256 of the link's secret, hexadecimal; the secret itself is kept nowhere.</param>
/// <param name="With">All orders that this one link offers, where it offers a batch; null where it offers this
/// alone.</param>
public sealed record QuoteOffered(Quote Quote, string LinkHash, DateTimeOffset Until, IReadOnlyList<int>? With = null)
    : EntryBody
{
    public override OrderAct Act => OrderAct.OfferQuote;

    public override string Line(Guide? guide) =>
        $"Quote of {Phrases.Amount(Quote.Total, Quote.Currency)} sent as a link"
        + Phrases.When(With, w => FormattableString.Invariant($" with the others of {w.Count} machines"))
        + $", open until {Phrases.Minute(Until)}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Offered = this,
            OfferedAt = entry.At,
            OfferedBy = entry.By,
            Declined = null,
        };
}

/// <summary>The link opens nothing any more.</summary>
public sealed record QuoteRevoked : EntryBody
{
    public override OrderAct Act => OrderAct.RevokeQuote;

    public override string Line(Guide? guide) => "The quote's link was revoked";

    internal override Order Apply(Order order, Entry entry) => order with { Offered = null };
}

/// <summary>The customer does not want it so.</summary>
public sealed record QuoteDeclined(string Customer, string? Reason, bool ByLink = false) : EntryBody
{
    public override OrderAct Act => OrderAct.Decline;

    public override string Line(Guide? guide) =>
        $"{Customer} declined{Phrases.When(ByLink, " by the link")}{Phrases.Added(Reason)}";

    internal override Order Apply(Order order, Entry entry) => order with { Offered = null, Declined = this };
}

/// <summary>
/// The plan and the customer's word on it. Each rule gives the entry to append, or refuses with the reason and the
/// way on.
/// </summary>
public static class PlanRules
{
    private const int LongestOfferDays = 90;

    /// <summary>
    /// The plan is set, or set anew, which asks the customer again. One above every known maximum is a lead's.
    /// </summary>
    /// <param name="discount">In percent.</param>
    /// <param name="cleans">Whether it is cleaned inside while it is open.</param>
    public static PlanSet SetPlan(
        Order order,
        Guide guide,
        IReadOnlyList<SlotChange> changes,
        string? note,
        Role role = Role.Technician,
        decimal discount = 0,
        LaterStage? later = null,
        bool cleans = false
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
        if (Expectation.Of(guide, order.Before.Value, plan).Installed == MemorySize.Zero)
        {
            throw RefusedException.Invalid(
                "plan-leaves-nothing",
                "The plan leaves no memory in the machine: it would not start. Name at least one module that is in."
            );
        }

        if (Sealed(order, guide, plan) is { Weight: FitWeight.Refusal } sealedWay)
        {
            throw sealedWay.Refuse();
        }

        if (
            role != Role.Lead
            && FitRules.Of(guide, order.Before.Value, plan).FirstOrDefault(n => n.Weight == FitWeight.Lead) is { } heavy
        )
        {
            throw new RefusedException(RefusalKind.Role, heavy.Code, heavy.Sentence);
        }

        return new PlanSet(
            plan with
            {
                Cleans = cleans,
            },
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

    /// <summary>
    /// What the warranty seal says to a plan: refused where the customer said no, to be asked where nobody did; null
    /// where nothing is broken for it, or the customer allows it.
    /// </summary>
    public static FitNote? Sealed(Order order, Guide guide, Plan plan) =>
        order.Intake.SealConsent == SealConsent.Given
        || Reach.To(guide, plan.Touched, !plan.OnlyLooks).FirstOrDefault(r => r.IsSealed) is not { } removal
            ? null
            : new FitNote(
                "seal-consent-missing",
                order.Intake.SealConsent == SealConsent.Refused ? FitWeight.Refusal : FitWeight.Remark,
                null,
                $"A warranty seal covers a fastener of the {removal.Title}"
                    + (
                        order.Intake.SealConsent == SealConsent.Refused
                            ? ", and the customer wants it whole. Plan what is reached without it, or record that the "
                                + "customer allows it."
                            : ": ask the customer before it is opened, and record the answer."
                    ),
                order.Intake.SealConsent.Spoken(),
                "allowed",
                "guide, removals"
            );

    /// <summary>The customer agreed to the plan; what was told is frozen with it.</summary>
    public static PlanAgreed Agree(string? customer, string? note, Quote? quote = null, bool byLink = false)
    {
        return new PlanAgreed(Words.RequiredLine("Who agreed", customer), Words.Text("The note", note), quote, byLink);
    }

    /// <summary>The customer does not want it.</summary>
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
    /// <param name="with">All orders that the one link offers; null for this alone.</param>
    public static QuoteOffered Offer(
        Quote quote,
        string linkHash,
        DateTimeOffset now,
        DateTimeOffset until,
        IReadOnlyList<int>? with = null
    )
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
            ? new QuoteOffered(quote, linkHash, until, with)
            : throw RefusedException.Invalid(
                "until-impossible",
                $"A quote's link is open from now on, for {LongestOfferDays} days at most."
            );
    }
}
