using System.Data.Common;
using Revtal.Core.Guides;

namespace Revtal.Storage;

/// <summary>A model that may be the one of which a machine tells.</summary>
/// <param name="Build">The build that reports so; null for the model.</param>
/// <param name="Reported">A guide says that its firmware reports exactly this; else the name is only alike.</param>
public sealed record NamedModel(string Code, string? Build, bool Reported);

/// <summary>Under which names the newest revision of each guide may be asked for.</summary>
internal static class GuideNames
{
    // Shorter ones stand in too many products.
    private const int ShortestPart = 4;

    /// <summary>Marks and blanks differ from firmware to firmware; letters and digits do not.</summary>
    public static string Plain(string name) => string.Concat(name.Where(char.IsLetterOrDigit)).ToUpperInvariant();

    public static IEnumerable<GuideNameRow> Of(Guide guide)
    {
        var model = guide.Model;
        var own = model.ReportsAs.Select(Plain).ToHashSet();
        return own.Select(n => Row(n, "", true))
            .Concat(
                ((string[])[model.Name, $"{model.Maker} {model.Name}", model.Code]).Select(n =>
                    Row(Plain(n), "", false)
                )
            )
            .Concat(
                guide.Variants.SelectMany(v =>
                    v.Guide.Model.ReportsAs.Select(Plain).Except(own).Select(n => Row(n, v.Id, true))
                )
            )
            .Where(r => r.Name.Length > 0)
            .DistinctBy(r => (r.Name, r.Build));

        GuideNameRow Row(string name, string build, bool reported) =>
            new()
            {
                Code = model.Code,
                Name = name,
                Build = build,
                Reported = reported,
            };
    }

    /// <summary>Those of a guide's newest revision take the place of those before.</summary>
    public static void Put(Prepared db, DbTransaction transaction, Guide guide)
    {
        db.Command("""DELETE FROM guide_names WHERE "Code" = @p0""", transaction, guide.Model.Code).ExecuteNonQuery();
        foreach (var row in Of(guide))
        {
            db.Command(
                    """INSERT INTO guide_names ("Code", "Name", "Build", "Reported") VALUES (@p0, @p1, @p2, @p3)""",
                    transaction,
                    row.Code,
                    row.Name,
                    row.Build,
                    row.Reported
                )
                .ExecuteNonQuery();
        }
    }

    /// <summary>
    /// Models whose name this is, those that report exactly so first; then those whose name stands in it, or it in
    /// theirs.
    /// </summary>
    public static IReadOnlyList<NamedModel> Find(Prepared db, string name, int most) =>
        db.All(
            """
            SELECT "Code", "Build", max(CASE WHEN "Reported" AND "Name" = @p0 THEN 1 ELSE 0 END) AS sure,
                max(CASE WHEN "Name" = @p0 THEN 1 ELSE 0 END) AS same
            FROM guide_names
            WHERE "Name" = @p0 OR (length("Name") >= @p1 AND replace(@p0, "Name", '') <> @p0)
                OR (length(@p0) >= @p1 AND replace("Name", @p0, '') <> "Name")
            GROUP BY "Code", "Build" ORDER BY sure DESC, same DESC, max(length("Name")) DESC, "Code", "Build" LIMIT @p2
            """,
            row => new NamedModel(
                row.GetString(0),
                row.GetString(1) is { Length: > 0 } build ? build : null,
                row.GetInt64(2) == 1
            ),
            Plain(name),
            ShortestPart,
            most
        );

    /// <summary>Codes whose names nobody has written down: they were published before names were.</summary>
    public static IReadOnlyList<string> Missing(Prepared db) =>
        db.All(
            """
            SELECT DISTINCT "Code" FROM guides g
            WHERE NOT EXISTS (SELECT 1 FROM guide_names n WHERE n."Code" = g."Code")
            """,
            row => row.GetString(0)
        );
}
