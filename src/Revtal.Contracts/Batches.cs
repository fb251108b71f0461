using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Revtal.Core.Parts;
using Revtal.Core.Planning;

namespace Revtal.Contracts;

/// <summary>Takes machines of one model and one customer in together: all of them, or none.</summary>
/// <param name="Model">The guide's code; null where nobody wrote one for it.</param>
/// <param name="NewModel">What they are, where the shop has no guide for it.</param>
/// <param name="Machines">1 to 500.</param>
[Example(
    """
        {
          "model": "PW24",
          "customer": "School chemistry lab",
          "complaint": "slow with the new measuring program",
          "machines": [{"serial": "PW24-0311"}, {"serial": "PW24-0312", "condition": "a scratch on the lid"}]
        }
        """
)]
public sealed record BatchRequest(
    string? Model,
    string Customer,
    string Complaint,
    IReadOnlyList<BatchMachine> Machines,
    string? Contact = null,
    string? Goal = null,
    Backup Backup = Backup.Unknown,
    SealConsent SealConsent = SealConsent.NoSeal,
    string? Trial = null,
    NewModel? NewModel = null
);

/// <summary>What was recorded on the machines of a batch; it is on disk.</summary>
public sealed record BatchReceipt(int Batch, IReadOnlyList<Receipt> Orders);

/// <param name="Text">One serial a line, or a CSV whose first line names its columns.</param>
[Example("""{"text": "PW24-0311\nPW24-0312"}""")]
public sealed record BatchListRequest(string Text);

/// <summary>A list of machines as it was read, before anything is taken in.</summary>
public sealed record BatchListView(IReadOnlyList<BatchListLine> Lines);

/// <summary>One machine of a list.</summary>
/// <param name="Line">From 1.</param>
/// <param name="Trouble">Why it cannot be taken in as it stands; null where it can.</param>
/// <param name="Open">Orders of this serial that are open.</param>
/// <param name="Visits">How often it was here.</param>
/// <param name="Noted">What its last visit left for this one.</param>
public sealed record BatchListLine(
    int Line,
    BatchMachine Machine,
    string? Trouble,
    IReadOnlyList<int> Open,
    int Visits,
    NotedVisit? Noted
);

/// <summary>A batch as its page shows it.</summary>
/// <param name="Number">The number of its first order.</param>
/// <param name="Gone">Machines that came with it and left it.</param>
/// <param name="Likenesses">What the machines hold before the work, the most alike first.</param>
/// <param name="Parts">What their plans want from the shelf.</param>
/// <param name="Quote">Of all that are planned; null before one is.</param>
/// <param name="Offered">The link that offers them together; null where none is open.</param>
/// <param name="Can">For how many of its machines each act is for now; acts that are for none are not named.</param>
public sealed record BatchView(
    int Number,
    string Customer,
    string Model,
    string Machine,
    IReadOnlyList<BatchMachineView> Machines,
    IReadOnlyList<BatchGone> Gone,
    IReadOnlyList<BatchLikeness> Likenesses,
    IReadOnlyList<BatchPart> Parts,
    Quote? Quote,
    OfferedView? Offered,
    BatchTotals Totals,
    string? Currency,
    IReadOnlyList<BatchAct> Can
);

/// <summary>A machine of a batch.</summary>
/// <param name="Plan">What is planned, in a few words; null before that.</param>
/// <param name="Total">What it costs: as agreed, or at today's prices; null before it is planned.</param>
/// <param name="Minutes">How long its run took; null before that.</param>
public sealed record BatchMachineView(
    OrderCard Card,
    string? Serial,
    string? Condition,
    string? Plan,
    decimal? Total,
    long? Before,
    long? After,
    int? Minutes
);

/// <summary>A machine that left, and why.</summary>
public sealed record BatchGone(int Order, string? Serial, string Reason);

/// <summary>An act, and the machines that it is for now.</summary>
public sealed record BatchAct(OrderAct Act, IReadOnlyList<int> Orders);

/// <summary>One plan for the machines of a batch: the wishes, or the machine whose plan the others get too.</summary>
/// <param name="Like">The order whose plan is taken; null where the changes are told.</param>
/// <param name="Only">The machines that it is for; null for all that can be planned.</param>
/// <param name="Discount">In percent of parts and labour; null for that of the machine whose plan is taken.</param>
/// <param name="Cleans">Whether each is cleaned inside; null for as the machine whose plan is taken.</param>
[Example("""{"like": 125, "note": "as the first"}""")]
public sealed record BatchPlanRequest(
    IReadOnlyList<SlotChange>? Changes = null,
    int? Like = null,
    IReadOnlyList<int>? Only = null,
    string? Note = null,
    decimal? Discount = null,
    bool? Cleans = null
);

/// <summary>What one plan would lead to on each machine; nothing is recorded.</summary>
/// <param name="Parts">What the machines that it suits want from the shelf.</param>
/// <param name="Quote">Of those; null where it suits none.</param>
public sealed record BatchPreview(IReadOnlyList<BatchPlanLine> Machines, IReadOnlyList<BatchPart> Parts, Quote? Quote);

/// <param name="WhyNot">Why it cannot be planned so; null where it can.</param>
/// <param name="Differs">What comes out otherwise than of the machine whose plan it gets, or than of most; null where
/// nothing does.</param>
public sealed record BatchPlanLine(
    int Order,
    string? Serial,
    string? WhyNot,
    string? Differs,
    string? Plan,
    decimal? Total,
    IReadOnlyList<FitNote> Notes
);

/// <param name="Customer">Who agreed on the customer's side.</param>
[Example("""{"customer": "M. Alto", "only": [125, 126]}""")]
public sealed record BatchAgreeRequest(string Customer, string? Note = null, IReadOnlyList<int>? Only = null);

/// <summary>Machines given out to people, neighbours to one person.</summary>
/// <param name="People">Ids.</param>
/// <param name="Only">The machines; null for all open ones.</param>
[Example("""{"people": ["juno", "mara"]}""")]
public sealed record BatchSpreadRequest(IReadOnlyList<string> People, IReadOnlyList<int>? Only = null);

/// <param name="Orders">The machines that it was done to.</param>
[Example("""{"orders": [125, 126, 127], "note": "all on one switch"}""")]
public sealed record BatchConfirmRequest(IReadOnlyList<int> Orders, string? Note = null);

/// <summary>At which steps the machines of a batch stand.</summary>
/// <param name="Waiting">Machines that stand at no step: not agreed yet, stopped, or through with the run.</param>
public sealed record BatchRunView(
    int Batch,
    IReadOnlyList<BatchStepView> Steps,
    IReadOnlyList<BatchMachineView> Machines,
    IReadOnlyList<int> Waiting
);

/// <summary>A step that machines stand at.</summary>
/// <param name="Together">Whether it can be said of all of them at once.</param>
public sealed record BatchStepView(
    StepId Id,
    string Part,
    string Title,
    IReadOnlyList<string> Lines,
    IReadOnlyList<Precaution> Precautions,
    bool Together,
    IReadOnlyList<int> Orders
);

/// <param name="Batch">The number of its first order.</param>
[Example("""{"batch": 125}""")]
public sealed record JoinBatchRequest(int Batch);
