using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Parts;

namespace Revtal.Documents;

/// <summary>What stands in one line of a file and cannot be used.</summary>
public sealed record CsvProblem(int Line, string Number, string Why);

/// <summary>The catalogue and the shelf as CSV (RFC 4180): comma, UTF-8, the first line names the columns.</summary>
public static class PartsCsv
{
    public const int MostLines = 20_000;

    private static readonly string[] KindColumns =
    [
        "number",
        "name",
        "what",
        "size",
        "generation",
        "form",
        "speed",
        "ranks",
        "ecc",
        "registered",
        "voltage",
        "key",
        "link",
        "height",
        "sector",
        "maker",
        "pieces",
        "price",
        "least",
        "barcode",
        "supplier",
        "elsewhere",
        "whose",
        "seen",
        "warranty",
    ];

    private static readonly string[] PartColumns = ["number", "serial", "cost", "supplier", "place", "grade", "tested"];

    // What a shelf says of its parts beyond what comes in with them.
    private static readonly string[] ShelfColumns = ["id", "state", "order", "position", "kit"];

    /// <summary>The catalogue, a kind a line.</summary>
    public static byte[] WriteKinds(IEnumerable<PartKind> kinds) => Csv.Write(KindColumns, kinds.Select(Columns));

    /// <summary>Parts, one a line, with their state.</summary>
    public static byte[] WriteParts(IEnumerable<PartItem> parts) =>
        Csv.Write(
            [.. PartColumns, .. ShelfColumns],
            parts.Select(p =>
                new object?[]
                {
                    p.Kind,
                    p.Serial,
                    p.Cost,
                    p.Supplier,
                    p.Place,
                    p.Grade,
                    p.Tested,
                    p.Id,
                    p.State.Spoken(),
                    p.Order,
                    p.Position,
                    p.Kit,
                }
            )
        );

    /// <summary>Reads catalogue lines.</summary>
    /// <exception cref="RefusedException">It is no CSV, lacks a column, has one that is not known, or too many
    /// lines.</exception>
    public static (IReadOnlyList<(int Line, PartKind Kind)> Kinds, IReadOnlyList<CsvProblem> Problems) ReadKinds(
        Stream file
    ) => Read(file, KindColumns, ["number", "name", "what", "size", "price"], Kind, k => k.Number.ToString());

    /// <summary>
    /// Reads parts that come in. A shelf that was written out is read too, but only what lies in stock there comes in.
    /// </summary>
    /// <exception cref="RefusedException">As <see cref="ReadKinds"/>.</exception>
    public static (IReadOnlyList<(int Line, PartItem Part)> Parts, IReadOnlyList<CsvProblem> Problems) ReadParts(
        Stream file
    ) =>
        Read(
            file,
            [.. PartColumns, .. ShelfColumns],
            ["number"],
            Part,
            p => p.Serial is { } serial ? $"{p.Kind} {serial}" : null
        );

    private static PartItem Part(Line c) =>
        c.Text("state") is { } state && state != PartState.InStock.Spoken()
            ? throw Bad($"only what is in stock comes in, and this is {state}")
        : c.Text("kit") is not null ? throw Bad("it is a piece of a kit; receive kits one by one")
        : new PartItem(
            0,
            PartNumber.Of(c.Text("number")) ?? throw Bad("the number is missing"),
            c.Text("serial"),
            PartState.InStock,
            c.Price("cost"),
            c.Text("supplier"),
            c.Text("place"),
            Grade: c.Text("grade"),
            Tested: c.Text("tested")
        );

    private static PartKind Kind(Line c)
    {
        var number = PartNumber.Of(c.Text("number")) ?? throw Bad("the number is missing");
        var what = c.Text("what");
        var speed = c.Text("speed");
        var grade = MemoryGrade.TryParse(speed, out var named) ? named : null;
        return new PartKind(
            number,
            c.Text("name") ?? throw Bad("the name is missing"),
            what == "module"
                ? new MemoryModule(
                    MemorySize.Parse(c.Text("size")),
                    c.Text("generation") ?? grade?.Generation,
                    c.Text("form"),
                    grade?.Speed ?? c.Number("speed"),
                    c.Text("maker"),
                    Ranks: c.Number("ranks"),
                    Ecc: c.Flag("ecc"),
                    Registered: c.Flag("registered"),
                    Voltage: c.Price("voltage")
                )
                : null,
            what == "drive"
                    ? new Drive(
                        DriveSize.Parse(c.Text("size")),
                        c.Text("form"),
                        c.Text("key"),
                        c.Text("link"),
                        c.Price("height"),
                        c.Number("sector"),
                        c.Text("maker")
                    )
                : what == "module" ? null
                : throw Bad("“what” is module or drive"),
            c.Number("pieces") ?? 1,
            c.Price("price") ?? throw Bad("the price is missing"),
            c.Number("least") ?? 0,
            c.Text("barcode"),
            c.Text("supplier"),
            c.Price("elsewhere") is { } elsewhere
                ? new PriceElsewhere(
                    elsewhere,
                    c.Text("whose") ?? throw Bad("a price elsewhere wants “whose”: who asks it"),
                    c.Day("seen") ?? throw Bad("a price elsewhere wants “seen”: the day on which it was")
                )
                : null,
            c.Number("warranty")
        ).Checked();
    }

    private static object?[] Columns(PartKind k) =>
        [
            k.Number,
            k.Name,
            k.Module is null ? "drive" : "module",
            k.Module?.Size.ToString() ?? k.Drive!.Size.Exact,
            k.Module?.Generation,
            k.Module?.Form ?? k.Drive?.Form,
            k.Module?.RatedSpeed,
            k.Module?.Ranks,
            Flag(k.Module?.Ecc),
            Flag(k.Module?.Registered),
            k.Module?.Voltage,
            k.Drive?.Key,
            k.Drive?.Link,
            k.Drive?.Height,
            k.Drive?.SectorSize,
            k.Module?.Maker ?? k.Drive?.Maker,
            k.Pieces,
            k.Price,
            k.Least,
            k.Barcode,
            k.Supplier,
            k.Elsewhere?.Price,
            k.Elsewhere?.Whose,
            k.Elsewhere is { Seen: var seen } ? Phrases.Day(seen) : null,
            k.WarrantyMonths,
        ];

    private static string? Flag(bool? flag) =>
        flag switch
        {
            true => "yes",
            false => "no",
            _ => null,
        };

    private static (IReadOnlyList<(int, T)> Read, IReadOnlyList<CsvProblem> Problems) Read<T>(
        Stream file,
        string[] known,
        string[] required,
        Func<Line, T> make,
        Func<T, string?> key
    )
    {
        using var csv = new CsvReader(
            new StreamReader(file, new UTF8Encoding(false, throwOnInvalidBytes: true)),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                TrimOptions = TrimOptions.Trim,
                BadDataFound = null,
                MissingFieldFound = null,
                PrepareHeaderForMatch = h => h.Header.ToLowerInvariant(),
            }
        );
        try
        {
            if (!csv.Read() || !csv.ReadHeader())
            {
                throw RefusedException.Invalid("csv-empty", "The file is empty. Its first line names the columns.");
            }

            var columns = csv.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant()).ToArray();
            if (
                required.Except(columns).ToArray() is { Length: > 0 } missing
                || columns.Except(known).Any()
                || columns.Distinct().Count() < columns.Length
            )
            {
                throw RefusedException.Invalid(
                    "csv-columns",
                    $"The columns are not those that are wanted. Needed: {string.Join(", ", required)}; possible: "
                        + $"{string.Join(", ", known)}; here: "
                        + $"{string.Join(", ", columns.Select(c => c.Length > 40 ? $"{c[..40]}…" : c).Take(40))}."
                );
            }

            var read = new List<(int, T)>();
            var problems = new List<CsvProblem>();
            var seen = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
            while (csv.Read())
            {
                var line = csv.Parser.RawRow;
                if (read.Count + problems.Count >= MostLines)
                {
                    throw RefusedException.Invalid(
                        "csv-too-long",
                        $"The file has more than {MostLines} lines. Split it."
                    );
                }

                try
                {
                    var made = make(new Line(csv, columns));
                    if (key(made) is { } k && !seen.TryAdd(k, line))
                    {
                        throw Bad($"it stands on line {seen[k]} already");
                    }

                    read.Add((line, made));
                }
                catch (RefusedException e)
                {
                    problems.Add(
                        new CsvProblem(
                            line,
                            csv.TryGetField<string>(0, out var number) ? Csv.Unescaped(number ?? "") : "",
                            e.Message
                        )
                    );
                }
            }

            return (read, problems);
        }
        catch (Exception e) when (e is CsvHelperException or DecoderFallbackException)
        {
            throw RefusedException.Invalid(
                "csv-unreadable",
                "The file is no CSV in UTF-8. Save it as comma-separated text and try again."
            );
        }
    }

    private static RefusedException Bad(string why) =>
        RefusedException.Invalid("csv-line", char.ToUpperInvariant(why[0]) + why[1..] + ".");

    private sealed class Line(CsvReader csv, string[] columns)
    {
        public string? Text(string column) =>
            Array.IndexOf(columns, column) is >= 0 and var i && csv.GetField(i) is { Length: > 0 } text
                ? Csv.Unescaped(text)
                : null;

        public int? Number(string column) =>
            Text(column) is not { } text ? null
            : int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n
            : throw Bad($"“{column}” wants a whole number, not “{text}”");

        public decimal? Price(string column) =>
            Text(column) is not { } text ? null
            : decimal.TryParse(
                text,
                NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
                CultureInfo.InvariantCulture,
                out var n
            )
            && Math.Abs(n) < 1_000_000
            && Math.Round(n, 2) == n
                ? n >= 0 ? n
                    : throw Bad($"“{column}” is not below nothing, as {text} is")
            : throw Bad($"“{column}” wants a number like 49.50, not “{text}”");

        public DateOnly? Day(string column) =>
            Text(column) is not { } text ? null
            : DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
                ? day
            : throw Bad($"“{column}” wants a day like 2026-11-20, not “{text}”");

        public bool? Flag(string column) =>
            Text(column)?.ToLowerInvariant() switch
            {
                null => null,
                "yes" => true,
                "no" => false,
                var text => throw Bad($"“{column}” wants yes or no, not “{text}”"),
            };
    }
}
