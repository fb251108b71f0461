using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Orders;

/// <summary>The order goes on by another revision of its guide.</summary>
/// <param name="PlanDropped">The plan does not suit it: it is to be made anew.</param>
public sealed record GuideAdopted(int Revision, bool PlanDropped) : EntryBody
{
    public override OrderAct Act => OrderAct.AdoptGuide;

    public override string Line(Guide? guide) =>
        $"Goes on by revision {Revision} of its guide"
        + Phrases.When(PlanDropped, "; the plan does not suit it and is to be made anew");

    internal override Order Apply(Order order, Entry entry)
    {
        var adopted = order with { Revision = Revision };
        return PlanDropped ? adopted.WithoutPlan().Standing(Stage.Measured) : adopted;
    }
}

/// <summary>What another revision of the guide would change for an order.</summary>
/// <param name="WhyNot">What it contradicts of what was done; null where it may be adopted.</param>
/// <param name="PlanDropped">The plan does not suit it.</param>
/// <param name="New">Titles of steps that it brings.</param>
/// <param name="Gone">Titles of steps that it drops.</param>
public sealed record Adoption(
    int Revision,
    string? WhyNot,
    bool PlanDropped,
    IReadOnlyList<string> New,
    IReadOnlyList<string> Gone
);

/// <summary>An order and a later revision of its guide.</summary>
public static class AdoptRules
{
    /// <summary>What it would change, and whether nothing that was done is contradicted by it.</summary>
    /// <param name="guide">By which the order is worked now.</param>
    /// <param name="other">By which it would be worked.</param>
    public static Adoption Look(Order order, Guide guide, Guide other, int revision)
    {
        var suits = order.Plan is not { } plan || Planner.Suits(other, order.Before!.Value, plan.Value);
        var now = order.Sheet(guide)?.Steps ?? [];
        var then = suits ? order.Sheet(other)?.Steps ?? [] : [];
        return new(
            revision,
            WhyNot(order, suits, now, then),
            !suits,
            [.. then.Where(t => now.All(n => n.Id != t.Id)).Select(t => t.Title)],
            [.. now.Where(n => then.All(t => t.Id != n.Id)).Select(n => n.Title)]
        );
    }

    /// <summary>The order goes on by it.</summary>
    public static GuideAdopted Adopt(Order order, Guide guide, Guide other, int revision)
    {
        if (revision == order.Revision)
        {
            throw RefusedException.Rule("same-revision", $"It goes by revision {revision} already.");
        }

        var look = Look(order, guide, other, revision);
        return look.WhyNot is { } no
            ? throw RefusedException.Rule("adoption-contradicts", no)
            : new GuideAdopted(revision, look.PlanDropped);
    }

    // A step that was done stays done: it must be a step of the other revision too, with the same fasteners.
    private static string? WhyNot(Order order, bool suits, IReadOnlyList<RunStep> now, IReadOnlyList<RunStep> then)
    {
        var done = order.Runs.SelectMany(r => r.Done).ToArray();
        if (done.Length > 0 && !suits)
        {
            return "The plan does not suit it, and the run has begun. End this run first.";
        }

        var lost = (order.Run?.Done ?? []).Select(d => d.Step).Where(d => then.All(t => t.Id != d)).ToArray();
        if (lost.Length > 0)
        {
            return $"It has no step “{now.FirstOrDefault(n => n.Id == lost[0])?.Title ?? lost[0].ToString()}”, which "
                + "was done.";
        }

        var opened = (order.Run?.Done ?? []).Where(d => d.Step.Verb == StepVerb.Open).Select(d => d.Step);
        return opened
            .Select(id => (Was: now.FirstOrDefault(n => n.Id == id), Is: then.First(t => t.Id == id)))
            .Where(p => p.Was is not null && !Held(p.Was).SequenceEqual(Held(p.Is)))
            .Select(p => $"It holds the {p.Is.RemovalTitle} by other fasteners than were counted out.")
            .FirstOrDefault();
    }

    private static IEnumerable<(string Group, int Count)> Held(RunStep step) =>
        step.Loose.Select(g => (g.Group, g.Count)).Order();
}
