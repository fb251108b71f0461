using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>A machine was taken in; the order begins.</summary>
/// <param name="Model">The guide's code.</param>
/// <param name="Revision">The guide's revision that this order keeps.</param>
/// <param name="Variant">Which build it is; null when it is not known or there is but one.</param>
public sealed record TakenIn(Intake Intake, string Model, int Revision, string? Variant = null) : EntryBody
{
    public override OrderAct Act => OrderAct.TakeIn;

    public override string Line(Guide? guide) => $"Taken in from {Intake.Customer}: {Intake.Complaint}";
}

/// <summary>Somebody looked which build it is.</summary>
/// <param name="PlanDropped">The plan does not suit this build: it is to be made anew.</param>
public sealed record VariantTold(string Variant, bool PlanDropped) : EntryBody
{
    public override OrderAct Act => OrderAct.TellVariant;

    public override string Line(Guide? guide) =>
        $"It is a {Variant}{Phrases.When(PlanDropped, "; the plan does not suit it and is to be made anew")}";

    // A parked order stays parked; what it goes back to is the planning.
    internal override Order Apply(Order order, Entry entry)
    {
        var told = order with { Variant = Variant };
        return PlanDropped ? told.WithoutPlan().Standing(Stage.Measured) : told;
    }
}

/// <summary>The customer's word about the warranty seal.</summary>
/// <param name="Customer">Who said so on the customer's side.</param>
public sealed record SealTold(SealConsent Consent, string Customer) : EntryBody
{
    public override OrderAct Act => OrderAct.TellSeal;

    public override string Line(Guide? guide) => $"Warranty seal: {Consent.Spoken()}, says {Customer}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Intake = order.Intake with { SealConsent = Consent },
        };
}
