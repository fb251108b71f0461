using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;

namespace Revtal.CommandLine.Commands;

internal static class PartCommands
{
    private const long LargestCsv = 8 << 20;

    public static Command Make() =>
        Cli.Noun(
            "part",
            "The catalogue, the shelf and its ledger",
            List(),
            Show(),
            Add(),
            Receive(),
            Items(),
            Move(),
            Split(),
            Ledger(),
            Export(),
            Import()
        );

    private static Command List()
    {
        var text = new Argument<string?>("TEXT")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "A number, a scanned code, or a word",
        };
        var wanting = new Option<bool>("--short") { Description = "Only what should be ordered for plans and shelf" };
        return Cli.Command(
            "list",
            "The catalogue with what lies on the shelf",
            "revtal part list ddr5",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.PartsAsync(p.GetValue(text), p.GetValue(wanting), cancel),
                    lines =>
                        Screen.Table(
                            ["number", "price", "free", "reserved", "wanted", "least", "order", "name"],
                            lines.Select(l =>
                                new[]
                                {
                                    Screen.Safe(l.Kind.Number.ToString()),
                                    PlanScreen.Number(l.Kind.Price),
                                    $"{l.Free}",
                                    $"{l.Reserved}",
                                    $"{l.Wanted}",
                                    $"{l.Kind.Least}",
                                    l.Short > 0 ? $"[yellow]{l.Short}[/]" : "",
                                    Screen.Safe(l.Kind.Name),
                                }
                            )
                        )
                ),
            text,
            wanting
        );
    }

    private static Command Show()
    {
        var number = new Argument<string>("NUMBER") { Description = "A part number, or a scanned code" };
        return Cli.Command(
            "show",
            "One kind with its parts",
            "revtal part show OS4S-16G",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.PartAsync(p.GetValue(number)!, cancel),
                    view =>
                    {
                        var k = view.Line.Kind;
                        Screen.Marked($"[bold]{Screen.Safe(k.Number.ToString())}[/]  {Screen.Safe(k.Name)}");
                        OrderScreen.Fact(
                            "is",
                            (k.Module?.ToString() ?? k.Drive?.ToString()) + (k.Pieces > 1 ? $", kit of {k.Pieces}" : "")
                        );
                        OrderScreen.Fact(
                            "grade",
                            k.Module is { Generation: { } g, RatedSpeed: { } s }
                            && MemoryGrade.TryParse($"{g}-{s}", out var grade)
                                ? $"{grade} = {grade.ModuleName}, {grade.Bandwidth} GB/s"
                                : null
                        );
                        OrderScreen.Fact("price", PlanScreen.Number(k.Price));
                        if (k.Elsewhere is { } there)
                        {
                            OrderScreen.Fact(
                                "elsewhere",
                                $"{PlanScreen.Number(there.Price)}, {there.Whose}, {Phrases.Day(there.Seen)}"
                            );
                        }

                        OrderScreen.Fact(
                            "warranty",
                            k.WarrantyMonths is { } months ? $"{months} months from the hand-back" : null
                        );
                        OrderScreen.Fact(
                            "on shelf",
                            $"{view.Line.Free} free, {view.Line.Reserved} reserved, {view.Line.Wanted} wanted by plans"
                        );
                        if (view.Gone > 0)
                        {
                            OrderScreen.Fact("gone", $"{view.Gone:N0} sold, sent back or scrapped");
                        }

                        Table([.. view.Items.Select(i => i.Item)]);
                    }
                ),
            number
        );
    }

    private static Command Add()
    {
        var number = new Argument<string>("NUMBER");
        var name = new Option<string>("--name") { Required = true };
        var price = new Option<decimal>("--price") { Required = true, Description = "For all its pieces, without tax" };
        var module = new Option<string?>("--module") { Description = "Like “16GB DDR4-3200 SO-DIMM”" };
        var drive = new Option<string?>("--drive") { Description = "Like “1TB,form=M.2 2280,key=M,link=PCIe 4.0 x4”" };
        var pieces = new Option<int>("--pieces") { Description = "Of a kit", DefaultValueFactory = _ => 1 };
        var least = new Option<int>("--least") { Description = "How many should lie on the shelf" };
        var barcode = new Option<string?>("--barcode");
        var supplier = new Option<string?>("--supplier");
        var elsewhere = new Option<decimal?>("--elsewhere") { Description = "What somebody else asks, without tax" };
        var whose = new Option<string>("--whose")
        {
            Description = "Who asks it",
            DefaultValueFactory = _ => "the maker's list",
        };
        var seen = new Option<DateOnly?>("--seen") { Description = "The day on which it was seen; today" };
        var warranty = new Option<int?>("--warranty")
        {
            Description = "How many months the shop answers for it, from the hand-back on",
        };
        return Cli.Command(
            "add",
            "Add a kind to the catalogue, or change it",
            "revtal part add OS4S-16G --name \"16 GB laptop module\" --module \"16GB DDR4-3200 SO-DIMM\" --price 49 "
                + "--as mara",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.PutPartAsync(
                        p.GetValue(number)!,
                        new PartRequest(
                            p.GetValue(name)!,
                            p.GetValue(price),
                            p.GetValue(module) is { } m ? Module(m) : null,
                            p.GetValue(drive) is { } d ? DriveText.Wish(d).Drive : null,
                            p.GetValue(pieces),
                            p.GetValue(least),
                            p.GetValue(barcode),
                            p.GetValue(supplier),
                            p.GetValue(elsewhere) is { } asked
                                ? new PriceElsewhere(
                                    asked,
                                    p.GetValue(whose)!,
                                    p.GetValue(seen) ?? DateOnly.FromDateTime(DateTime.Today)
                                )
                                : null,
                            p.GetValue(warranty)
                        ),
                        cancel
                    ),
                    k => Screen.Line($"{k.Number}: {k.Name}, {PlanScreen.Number(k.Price)}")
                ),
            number,
            name,
            price,
            module,
            drive,
            pieces,
            least,
            barcode,
            supplier,
            elsewhere,
            whose,
            seen,
            warranty
        );
    }

    private static Command Receive()
    {
        var number = new Argument<string>("NUMBER");
        var serials = new Argument<string[]>("SERIAL")
        {
            Arity = ArgumentArity.ZeroOrMore,
            Description = "One a piece, typed or scanned",
        };
        var count = new Option<int?>("--count")
        {
            Description = "How many, where there are no serials; of kits, how many kits",
        };
        var cost = new Option<decimal?>("--cost") { Description = "What one piece cost the shop" };
        var supplier = new Option<string?>("--supplier");
        var place = new Option<string?>("--place");
        var grade = new Option<string?>("--grade") { Description = "Of used parts: A, B or C" };
        var tested = new Option<string?>("--tested") { Description = "How a used part was tested, and what came out" };
        return Cli.Command(
            "receive",
            "Parts come in",
            "revtal part receive OS4S-16G OS-0001 OS-0002 --cost 31 --place \"drawer 3\" --as mara",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.ReceiveAsync(
                        p.GetValue(number)!,
                        new ReceiveRequest(
                            p.GetValue(count),
                            p.GetValue(serials),
                            p.GetValue(cost),
                            p.GetValue(supplier),
                            p.GetValue(place),
                            p.GetValue(grade),
                            p.GetValue(tested)
                        ),
                        cancel: cancel
                    ),
                    Table
                ),
            number,
            serials,
            count,
            cost,
            supplier,
            place,
            grade,
            tested
        );
    }

    private static Command Items()
    {
        var kind = new Option<string?>("--kind");
        var order = new Option<int?>("--order");
        var state = new Option<PartState?>("--state")
        {
            Description = "in-stock, reserved, fitted, pulled, returned, faulty, sold or scrapped",
            CustomParser = r => State(r.Tokens[0].Value),
        };
        return Cli.Command(
            "items",
            "Physical parts",
            "revtal part items --order 105",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.PartItemsAsync(p.GetValue(kind), p.GetValue(order), p.GetValue(state), cancel),
                    Table
                ),
            kind,
            order,
            state
        );
    }

    private static Command Move()
    {
        var id = new Argument<long>("ID");
        var to = new Argument<string?>("STATE")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "in-stock, pulled, returned, faulty, sold or scrapped",
        };
        var place = new Option<string?>("--place");
        var note = new Option<string?>("--note");
        var claim = new ClaimOptions();
        return Cli.Command(
            "move",
            "Move a part by hand, or lay it elsewhere",
            "revtal part move 12 faulty --note \"fails in every slot\" --as pell",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.MovePartAsync(
                        p.GetValue(id),
                        new MovePartRequest(
                            p.GetValue(to) is { } s ? State(s) : null,
                            p.GetValue(place),
                            p.GetValue(note),
                            claim.Of(p)
                        ),
                        cancel
                    ),
                    i => Table([i])
                ),
            [id, to, place, note, .. claim.All]
        );
    }

    private static Command Split()
    {
        var kit = new Argument<long>("KIT") { Description = "The lowest id of its pieces" };
        var into = new Option<string>("--into") { Required = true, Description = "The part number of a single piece" };
        return Cli.Command(
            "split",
            "Split a kit, knowingly: its pieces go on as single parts",
            "revtal part split 31 --into OS4S-16G --as mara",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.SplitKitAsync(p.GetValue(kit), new SplitRequest(p.GetValue(into)!), cancel),
                    Table
                ),
            kit,
            into
        );
    }

    private static Command Ledger()
    {
        var item = new Option<long?>("--item");
        return Cli.Command(
            "ledger",
            "Every move of every part, oldest first",
            "revtal part ledger --item 12",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.LedgerAsync(p.GetValue(item), cancel),
                    lines =>
                        Screen.Table(
                            ["when", "part", "kind", "from", "to", "order", "who", "note"],
                            lines.Select(l =>
                                new[]
                                {
                                    Screen.Ago(l.At),
                                    $"{l.Item}",
                                    Screen.Safe(l.Kind),
                                    l.From?.Spoken() ?? "",
                                    l.To.Spoken(),
                                    $"{l.Order}",
                                    Screen.Safe(l.By),
                                    Screen.Safe(l.Note),
                                }
                            )
                        )
                ),
            item
        );
    }

    private static Command Export()
    {
        var what = What();
        var file = new Argument<string>("FILE");
        return Cli.Command(
            "export",
            "Write catalogue or shelf as CSV",
            "revtal part export catalogue parts.csv",
            async (p, client, cancel) =>
            {
                Files.Write(p.GetValue(file)!, await client.ExportPartsAsync(p.GetValue(what)!, cancel));
                Screen.Line(p.GetValue(file)!);
            },
            what,
            file
        );
    }

    private static Command Import()
    {
        var what = What();
        var file = new Argument<string>("FILE");
        var dry = new Option<bool>("--dry-run") { Description = "Only tell what it would change" };
        return Cli.Command(
            "import",
            "Take catalogue lines or parts in from CSV, all or none",
            "revtal part import catalogue parts.csv --dry-run --as mara",
            async (p, client, cancel) =>
            {
                var done = await Screen.Wait(
                    "Reading",
                    client.ImportPartsAsync(
                        p.GetValue(what)!,
                        Files.Bytes(p.GetValue(file)!, LargestCsv),
                        p.GetValue(dry),
                        cancel
                    )
                );
                Cli.Show(
                    p,
                    done,
                    d =>
                    {
                        Screen.Table(
                            ["line", "number", "what"],
                            [
                                .. d.Problems.Select(c =>
                                    new[] { $"{c.Line}", Screen.Safe(c.Number), $"[red]{Screen.Safe(c.What)}[/]" }
                                ),
                                .. d.Changes.Select(c =>
                                    new[] { $"{c.Line}", Screen.Safe(c.Number), Screen.Safe(c.What) }
                                ),
                            ]
                        );
                        var bad = Phrases.Counted(d.Problems.Count, "line", "lines");
                        Screen.Line(
                            d.Problems.Count > 0
                                ? $"{bad} cannot be used: nothing was changed."
                                : $"{d.Changes.Count} {(d.DryRun ? "would change" : "changed")}, {d.Unchanged} stay."
                        );
                    }
                );
                if (done.Problems.Count > 0)
                {
                    throw RefusedException.Invalid("csv-problems", "Mend the lines above, then import again.");
                }
            },
            what,
            file,
            dry
        );
    }

    private static Argument<string> What()
    {
        var what = new Argument<string>("WHAT") { Description = "catalogue or shelf" };
        what.AcceptOnlyFromAmong("catalogue", "shelf");
        return what;
    }

    private static void Table(IReadOnlyList<PartItem> items) =>
        Screen.Table(
            ["id", "kind", "serial", "state", "order", "position", "kit", "place", "used"],
            items.Select(i =>
                new[]
                {
                    $"{i.Id}",
                    Screen.Safe(i.Kind.ToString()),
                    Screen.Safe(i.Serial),
                    i.State.Spoken(),
                    $"{i.Order}",
                    Screen.Safe(i.Position),
                    $"{i.Kit}",
                    Screen.Safe(i.Place),
                    Screen.Safe(i.Grade is { } g ? $"grade {g}, {i.Tested}" : ""),
                }
            )
        );

    private static PartState State(string word) =>
        Enum.GetValues<PartState>().Cast<PartState?>().FirstOrDefault(s => s!.Value.Spoken().Replace(' ', '-') == word)
        ?? throw RefusedException.Invalid(
            "no-such-state",
            $"There is no state “{word}”. States: "
                + $"{string.Join(", ", Enum.GetValues<PartState>().Select(s => s.Spoken().Replace(' ', '-')))}."
        );

    // “16GB DDR4-3200 SO-DIMM”.
    private static MemoryModule Module(string text)
    {
        var parts = text.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var grade = parts.Select(p => MemoryGrade.TryParse(p, out var g) ? g : null).FirstOrDefault(g => g is not null);
        var size =
            parts.Length > 1 && MemorySize.TryParse($"{parts[0]} {parts[1]}", out var spaced)
                ? spaced
                : MemorySize.Parse(parts.FirstOrDefault());
        return new MemoryModule(
            size,
            grade?.Generation,
            parts.FirstOrDefault(p => p.Contains("DIMM", StringComparison.OrdinalIgnoreCase)),
            grade?.Speed
        );
    }
}
