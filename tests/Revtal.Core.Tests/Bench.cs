using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Planning;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>An agreed order of one model, and short ways to go on with it.</summary>
internal sealed class Bench
{
    private static readonly DateTimeOffset Start = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
    private readonly List<EntryBody> bodies;
    private DateTimeOffset now = Start;

    public Bench(string model, int[] gigabytes, params SlotChange[] changes)
    {
        Model = Repository.Guide(model);
        var before = Make.Reading(Model, gigabytes);
        bodies =
        [
            Make.TakenIn(model),
            new ReadingTaken(Phase.Before, before, null, null),
            new PlanSet(Planner.Make(Model, before, Fit(changes)), null),
            new PlanAgreed("M. Alto", null),
        ];
    }

    private Bench(Bench other) => (Model, bodies, now) = (other.Model, [.. other.bodies], other.now);

    public Guide Model { get; }

    /// <summary>The step at which a fastener was lost.</summary>
    public string? Lost { get; set; }

    /// <summary>What the intake says of a backup.</summary>
    public Backup Backup
    {
        init =>
            bodies[0] = Make.TakenIn(Model.Model.Code) with { Intake = Make.TakenIn().Intake with { Backup = value } };
    }

    /// <summary>Whether its plan cleans it inside.</summary>
    public bool Cleans
    {
        init
        {
            var set = (PlanSet)bodies[2];
            bodies[2] = set with { Plan = set.Plan with { Cleans = value } };
        }
    }

    /// <summary>What is to be done next, in words.</summary>
    public string Next => Assessment.Of(Order, Guide).Next.Text;

    public Order Order =>
        Revtal.Core.Orders.Order.Fold(bodies.Select((b, i) => new Entry(101, i + 1, Guid.Empty, Start, "tobi", b)));

    public Guide Guide => Model.For(Order.Variant);

    public RunSheet Sheet => Order.Sheet(Guide)!;

    public Tally Tally => Tally.Of(Sheet, Order.RunState);

    public Bench Copy() => new(this);

    public Bench Add(EntryBody body)
    {
        bodies.Add(body);
        return this;
    }

    public Bench Pass(int minutes)
    {
        now = now.AddMinutes(minutes);
        return this;
    }

    public Bench SealGiven() => Add(IntakeRules.TellSeal(SealConsent.Given, "Dr. Kolb"));

    public Bench Waive(Gate gate, string? step) =>
        Add(BenchRules.Waive(Order, Guide, Role.Lead, gate, Step(step), "seen and weighed"));

    public string WaiveRefused(Gate gate, string? step, Role role = Role.Lead) =>
        Assert.Throws<RefusedException>(() => BenchRules.Waive(Order, Guide, role, gate, Step(step), "why")).Code;

    private static StepId? Step(string? step) => step is null ? null : StepId.Parse(step);

    public StepConfirmation Wish(string id)
    {
        var step = Sheet.Find(StepId.Parse(id));
        return new StepConfirmation(
            StepId.Parse(id),
            "tobi",
            now,
            step.LooseFasteners > 0 ? step.LooseFasteners : null,
            Note: step.Id.Verb == StepVerb.Look ? "clean" : null,
            Occupants: step.Records.Count > 0 && step.Id != StepId.RecordModules
                ? step.Records.ToDictionary(p => p, p => $"BS{p}")
                : null,
            Seen: step.Part == RunPart.Measure ? Sheet.Expected : null
        );
    }

    public Bench Confirm(string id, Func<StepConfirmation, StepConfirmation>? change = null) =>
        Add(BenchRules.Confirm(Order, Guide, (change ?? (w => w))(Wish(id))));

    /// <summary>Confirms all that comes before this step.</summary>
    public Bench Until(string id, bool withCopies = true)
    {
        while (Sheet.Next(Order.RunState) is { } next && next.Id.ToString() != id)
        {
            Pass((next.Seconds ?? 0) / 60);
            if (withCopies && next.CopiedFirst.Any(b => !Order.RunState.Copies.Secures(b)))
            {
                Add(DriveRules.TellCopy(CopyState.Verified, "counted", 20));
            }

            Confirm(next.Id.ToString());
        }

        return this;
    }

    /// <summary>The code by which the table keeps an act from being done now; null where it may.</summary>
    public string? WhyNot(OrderAct act) => WhenMayWhat.WhyNot(act, Order, Guide)?.Code;

    public string Refused(string id, Func<StepConfirmation, StepConfirmation>? change = null) =>
        Refusal(id, change).Code;

    public string Message(string id, Func<StepConfirmation, StepConfirmation>? change = null) =>
        Refusal(id, change).Message;

    private RefusedException Refusal(string id, Func<StepConfirmation, StepConfirmation>? change) =>
        Assert.Throws<RefusedException>(() => Copy().Confirm(id, change));

    // Modules of this model's own generation and form.
    private SlotChange[] Fit(SlotChange[] changes) =>
        [
            .. changes.Select(c =>
                c.Fit is { } m
                    ? c with
                    {
                        Fit = m with { Generation = Model.Memory.Generation, Form = Model.Memory.Module },
                    }
                    : c
            ),
        ];
}
