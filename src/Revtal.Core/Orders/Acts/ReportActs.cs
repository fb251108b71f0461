using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>The report as it was made and signed.</summary>
/// <param name="Id">Of its proof; see <see cref="Reports.ProofId"/>.</param>
/// <param name="Proof">The report in a JSON Web Signature (RFC 7515), compact.</param>
public sealed record ReportMade(string Id, string Proof) : EntryBody
{
    public override OrderAct Act => OrderAct.MakeReport;

    public override string Line(Guide? guide) => $"Report made, proof {Id}";

    internal override Order Apply(Order order, Entry entry) =>
        order with
        {
            Reports = order.Reports.Add(new MadeReport(Id, Proof, entry.Sequence, entry.At, entry.By)),
        };
}

/// <summary>A link was made by which the customer reads the report.</summary>
/// <param name="LinkHash">SHA-256 of its secret, in hex; the secret is kept nowhere.</param>
public sealed record ReportOffered(string LinkHash, DateTimeOffset Until) : EntryBody
{
    public override OrderAct Act => OrderAct.OfferReport;

    public override string Line(Guide? guide) => $"Link to the report, open until {Phrases.Minute(Until)}";

    internal override Order Apply(Order order, Entry entry) => order with { ReportLink = this };
}

/// <summary>Reports and their links. Each rule gives the entry to append, or refuses.</summary>
public static class ReportRules
{
    private const int LongestDays = 365;

    /// <param name="until">When the link closes.</param>
    public static ReportOffered Offer(string linkHash, DateTimeOffset now, DateTimeOffset until) =>
        until > now && until <= now.AddDays(LongestDays)
            ? new ReportOffered(linkHash, until)
            : throw RefusedException.Invalid("days-impossible", $"A link is open for 1 to {LongestDays} days.");
}
