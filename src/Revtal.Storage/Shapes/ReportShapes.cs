using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

internal sealed record StoredReportMade(string Id, string Proof);

internal sealed record StoredReportOffered(string LinkHash, DateTimeOffset Until);

internal static partial class StoredMapper
{
    public static partial StoredReportMade ToStored(ReportMade body);

    public static partial ReportMade ToHeart(StoredReportMade body);

    public static partial StoredReportOffered ToStored(ReportOffered body);

    public static partial ReportOffered ToHeart(StoredReportOffered body);
}

internal static class ReportShapes
{
    public static readonly EntryKind[] Kinds =
    [
        EntryKind.Of<ReportMade, StoredReportMade>("report-made/1", StoredMapper.ToStored, StoredMapper.ToHeart),
        EntryKind.Of<ReportOffered, StoredReportOffered>(
            "report-offered/1",
            StoredMapper.ToStored,
            StoredMapper.ToHeart
        ),
    ];
}
