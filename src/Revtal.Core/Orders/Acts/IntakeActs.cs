using Revtal.Core.Guides;
using Revtal.Core.Planning;

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

/// <summary>Somebody looked which build it is, or was wrong about it.</summary>
/// <param name="Variant">Null where it is not known after all.</param>
/// <param name="PlanDropped">The plan does not suit this build: it is to be made anew.</param>
public sealed record VariantTold(string? Variant, bool PlanDropped) : EntryBody
{
    public override OrderAct Act => OrderAct.TellVariant;

    public override string Line(Guide? guide) =>
        (Variant is { } build ? $"It is a {build}" : "It is not known after all which build it is")
        + Phrases.When(PlanDropped, "; the plan does not suit it and is to be made anew");

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

/// <summary>What was written down at take-in was not so.</summary>
/// <param name="Serial">Null where that stays; likewise the others.</param>
public sealed record IntakeCorrected(string? Serial, string? Contact, Backup? Backup, string Reason) : EntryBody
{
    public override OrderAct Act => OrderAct.CorrectIntake;

    public override string Line(Guide? guide)
    {
        string?[] now =
        [
            Phrases.When(Serial, s => $"serial {s}"),
            Phrases.When(Contact, c => $"contact {c}"),
            Phrases.When(Backup, b => $"backup {Phrases.Words(b)}"),
        ];
        return $"Corrected: {string.Join(", ", now.Where(n => n is { Length: > 0 }))} – {Reason}";
    }

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Intake = order.Intake with
            {
                Serial = Serial ?? order.Intake.Serial,
                Contact = Contact ?? order.Intake.Contact,
                Backup = Backup ?? order.Intake.Backup,
            },
        };
}

/// <summary>
/// What a machine is when it comes in, and what its customer allows. Each rule gives the entry to append, or
/// refuses with the reason and the way on.
/// </summary>
public static class IntakeRules
{
    /// <summary>A machine is taken in; the order begins.</summary>
    public static TakenIn TakeIn(Intake intake, Guide guide, int revision, string? variant = null)
    {
        if (variant is not null)
        {
            guide.NeedVariant(variant);
        }

        return new TakenIn(
            intake with
            {
                Customer = Words.RequiredLine("The customer", intake.Customer),
                Contact = Words.Line("The contact", intake.Contact),
                Serial = Words.Line("The serial", intake.Serial),
                Complaint = Words.RequiredText("The complaint", intake.Complaint),
                Goal = Words.Text("The goal", intake.Goal),
                Accessories = Words.Text("The accessories", intake.Accessories),
                Condition = Words.Text("The condition", intake.Condition),
                Trial = Words.Line("The trial", intake.Trial),
            },
            guide.Model.Code,
            revision,
            variant
        );
    }

    /// <summary>
    /// Somebody looked which build it is. A plan that does not suit it is dropped, as long as nothing was pulled by it.
    /// </summary>
    /// <param name="model">The model's guide, with its variants.</param>
    /// <param name="variant">Null takes back what was told.</param>
    public static VariantTold TellVariant(Order order, Guide model, string? variant)
    {
        var id = Words.Line("The variant", variant);
        if (id is not null)
        {
            model.NeedVariant(id);
        }
        else if (order.Variant is null)
        {
            throw RefusedException.Rule("variant-not-told", "Nobody said which build it is. Name one.");
        }

        var build = model.For(id);
        var drops = order.Plan is { Value: var plan } && !Planner.Suits(build, order.Before!.Value, plan);
        return drops && (order.WorkStage > Stage.OnBench || BenchRules.HandsWereIn(order, model.For(order.Variant)))
            ? throw RefusedException.Rule(
                "variant-too-late",
                $"The plan does not suit a {id ?? model.Model.Code}, but was carried out in part already. Close the "
                    + $"machine, then take it in again as a {id ?? model.Model.Code}."
            )
            : new VariantTold(id, drops);
    }

    /// <summary>Serial, contact or backup were not as written down; by whom and why stays in the journal.</summary>
    /// <exception cref="RefusedException">Nothing is told, or no reason.</exception>
    public static IntakeCorrected Correct(string? serial, string? contact, Backup? backup, string? reason)
    {
        var told = (Words.Line("The serial", serial), Words.Line("The contact", contact), backup);
        return told is (null, null, null)
            ? throw RefusedException.Invalid(
                "nothing-corrected",
                "Tell the serial, the contact or the backup as it is."
            )
            : new IntakeCorrected(told.Item1, told.Item2, told.Item3, Words.RequiredText("The reason", reason));
    }

    /// <summary>The customer's word about the warranty seal.</summary>
    public static SealTold TellSeal(SealConsent consent, string? customer) =>
        new(consent, Words.RequiredLine("Who said so", customer));
}
