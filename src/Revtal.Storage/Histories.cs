using Revtal.Core.Orders;
using Revtal.Storage.Shapes;

namespace Revtal.Storage;

/// <summary>
/// Makes a large shop of a small one, to try it on: what was done on its orders is done again under other numbers, for
/// other customers and machines, with other parts and notes. Each is folded by the core and chained like any other.
/// Nobody may write meanwhile, and nobody hears of it.
/// </summary>
public sealed class Histories(IStoreEngine engine, Journal journal, GuideShelf guides)
{
    private const int AtOnce = 250;
    private const int WordsAtOnce = 40_000;

    // Of the newest, so many are not finished.
    private const int Open = 200;

    private static readonly TimeSpan Long = TimeSpan.FromDays(5 * 365);

    /// <param name="orders">How many the shop has afterwards.</param>
    /// <param name="now">When the last of them ends.</param>
    /// <param name="progress">How many there are so far.</param>
    /// <exception cref="StoreException">It cannot be written, or has no finished order to begin with.</exception>
    public async Task MakeAsync(int orders, DateTimeOffset now, Action<int>? progress = null)
    {
        using var db = engine.Connections.Open();
        var all = Lives(db);
        var (done, open) = (all.Where(l => !l.IsOpen).ToList(), all.Where(l => l.IsOpen).ToList());
        var brief = done.Select(l => l.Brief()).ToList();
        if (done.Count == 0 || open.Count == 0)
        {
            throw new StoreException("This shop has no orders to make others of. Fill the demo shop first.");
        }

        var tables = BackupTables.Of(engine.Databases).ToDictionary(t => t.Name);
        var at = new Places(
            (int)Max(db, "orders", "Number"),
            Max(db, "entries", "Position"),
            Max(db, "part_items", "Id"),
            Max(db, "stock_moves", "Id")
        );
        var (first, last) = (at.Order + 1, JournalWriter.FirstNumber - 1 + orders);
        var next = Make(first);
        for (var from = first; from <= last; from += AtOnce)
        {
            var lived = await next;
            next = Make(from + AtOnce);
            await PutAsync(db, tables, lived, at);
            progress?.Invoke(at.Order - JournalWriter.FirstNumber + 1);
        }

        Read(db);

        // One core writes while the other makes the next.
        Task<List<Lived>> Make(int from) =>
            Task.Run(() =>
                Enumerable
                    .Range(from, Math.Max(0, Math.Min(AtOnce, last - from + 1)))
                    .AsParallel()
                    .AsOrdered()
                    .Select(number =>
                    {
                        // Half of what comes to a bench goes again without work on it.
                        var of =
                            number > last - Open ? open
                            : number % 2 == 0 ? done
                            : brief;
                        var when = now - Long * ((double)(last - number) / (last - first + 1));
                        return of[number / 2 % of.Count].Again(number, when, guides);
                    })
                    .ToList()
            );
    }

    private async Task PutAsync(Prepared db, Dictionary<string, BackupTable> tables, List<Lived> lived, Places at)
    {
        var items = new List<PartItemRow>();
        var moves = new List<StockMoveRow>();
        foreach (var one in lived)
        {
            at.Order = one.Row.Number;
            foreach (var entry in one.Entries)
            {
                entry.Position = ++at.Position;
            }

            foreach (var (item, own) in one.Parts)
            {
                item.Id = ++at.Item;
                items.Add(item);
                foreach (var move in own)
                {
                    (move.Id, move.Item) = (++at.Move, item.Id);
                    moves.Add(move);
                }
            }
        }

        using var transaction = db.Begin();
        await PourAsync("entries", lived.SelectMany(l => l.Entries));
        await PourAsync("orders", lived.Select(l => l.Row));
        await PourAsync("part_items", items);
        await PourAsync("stock_moves", moves);
        db.Dialect.GoOn(db, transaction, "part_items", "Id");
        db.Dialect.GoOn(db, transaction, "stock_moves", "Id");
        transaction.Commit();
        engine.Connections.Mark(at.Position);

        Task PourAsync<T>(string table, IEnumerable<T> rows)
            where T : class
        {
            var columns = tables[table].Columns;
            var values = columns.Select(c => typeof(T).GetProperty(c.Name)!).ToArray();
            return db.Dialect.PourAsync(
                transaction,
                table,
                columns,
                rows.Select(r => values.Select(v => v.GetValue(r)).ToArray()).ToAsyncEnumerable()
            );
        }
    }

    private static void Read(Prepared db)
    {
        for (var more = true; more; )
        {
            using var transaction = db.Begin();
            more = TraceRows.ReadOn(db, transaction, WordsAtOnce);
            transaction.Commit();
        }
    }

    // What was done so far, order by order; those of batches belong together and are left alone.
    private List<Life> Lives(Prepared db)
    {
        var parts = engine.Databases.CreateDbContext();
        using (parts)
        {
            var items = parts.PartItems.Where(i => i.Order != null).ToList().ToLookup(i => i.Order!.Value);
            var moves = parts.StockMoves.OrderBy(m => m.Id).ToList().ToLookup(m => m.Item);
            return
            [
                .. db.All("""SELECT "Number" FROM orders ORDER BY "Number" """, row => row.GetInt32(0))
                    .Select(n => (Number: n, Rows: ChainRows.Of(db, null, n)))
                    .Select(o => (o.Number, o.Rows, Order: Order.Fold(journal.Entries(o.Number).Select(s => s.Entry))))
                    .Where(o => o.Order.Intake is { Batch: null, Serial: not null })
                    .Select(o => new Life(
                        o.Order.IsOpen,
                        o.Order.Intake.Serial!,
                        [.. o.Rows.Select(r => (r, EntryKinds.Read(r.Kind, r.Body)))],
                        [.. items[o.Number].Select(i => (i, moves[i.Id].ToList()))]
                    )),
            ];
        }
    }

    private static long Max(Prepared db, string table, string column) =>
        db.Number($"SELECT coalesce(max(\"{column}\"), 0) FROM {table}", null)!.Value;

    /// <summary>The last numbers that were given.</summary>
    private sealed class Places(int order, long position, long item, long move)
    {
        public int Order { get; set; } = order;

        public long Position { get; set; } = position;

        public long Item { get; set; } = item;

        public long Move { get; set; } = move;
    }

    /// <summary>An order as it was made, without the places that its rows get.</summary>
    private sealed record Lived(
        List<EntryRow> Entries,
        OrderRow Row,
        List<(PartItemRow Item, List<StockMoveRow> Moves)> Parts
    );

    /// <summary>What was done on one order.</summary>
    private sealed record Life(
        bool IsOpen,
        string Serial,
        IReadOnlyList<(EntryRow Row, EntryBody Body)> Entries,
        IReadOnlyList<(PartItemRow Item, List<StockMoveRow> Moves)> Parts
    )
    {
        private Assessment? assessment;

        /// <summary>The same, taken back by the customer before anything was done.</summary>
        public Life Brief()
        {
            var taken = new Cancelled("The customer takes it back as it is");
            var last = Entries[1].Row;
            var row = new EntryRow
            {
                Kind = EntryKinds.NameOf(taken),
                Body = EntryKinds.Write(taken),
                At = last.At,
                By = last.By,
                Print = last.Print,
            };
            return new Life(false, Serial, [.. Entries.Take(2), (row, taken)], []);
        }

        private long Began => Entries[0].Row.At;

        private long Lasts => Entries[^1].Row.At - Began;

        /// <summary>The same again, for another machine.</summary>
        /// <param name="ends">When its last entry is recorded.</param>
        public Lived Again(int number, DateTimeOffset ends, GuideShelf guides)
        {
            var shift = ends.ToUnixTimeMilliseconds() - Lasts - Began;
            var serial = $"{Serial.Split('-')[0]}-{number:X6}";
            var rows = new List<EntryRow>(Entries.Count + 1);
            var entries = new List<Entry>(Entries.Count + 1);
            var before = EntryChain.None;
            foreach (var (row, body) in Entries)
            {
                var again = Of(row, body, number, serial);
                Add(row, again, ReferenceEquals(again, body) ? row.Body : EntryKinds.Write(again));
                if (rows.Count == 1)
                {
                    var note = new NoteAdded(Words.Note(number));
                    Add(row, note, EntryKinds.Write(note));
                }
            }

            var order = Order.Fold(entries);
            var guide = guides.Of(order);
            // What follows from one that is done follows from the next, whoever's it is.
            var says = IsOpen ? Assessment.Of(order, guide) : assessment ??= Assessment.Of(order, guide);
            var kept = ProjectionRows.Of(ProjectionRows.Project(order, guide, says));
            kept.Hash = before;
            return new Lived(rows, kept, [.. Parts.Select(p => Again(p.Item, p.Moves, number, shift))]);

            void Add(EntryRow like, EntryBody body, string written)
            {
                var at = DateTimeOffset.FromUnixTimeMilliseconds(like.At + shift);
                var row = new EntryRow
                {
                    Order = number,
                    Sequence = rows.Count + 1,
                    Id = Guid.CreateVersion7(at),
                    Kind = EntryKinds.NameOf(body),
                    At = like.At + shift,
                    By = like.By,
                    Body = written,
                    Print = like.Print,
                    Before = before,
                };
                before = EntryChain.HashOf(row);
                rows.Add(row);
                entries.Add(new Entry(number, row.Sequence, row.Id, at, row.By, body));
            }
        }

        // Most of what is done on a machine does not name it.
        private EntryBody Of(EntryRow row, EntryBody body, int number, string serial) =>
            body switch
            {
                TakenIn taken => taken with
                {
                    Intake = taken.Intake with
                    {
                        Customer = Words.Customer(number),
                        Complaint = Words.Complaint(number),
                        Serial = serial,
                    },
                },
                _ when row.Body.Contains(Serial, StringComparison.Ordinal) => EntryKinds.Read(
                    row.Kind,
                    row.Body.Replace(Serial, serial, StringComparison.Ordinal)
                ),
                _ => body,
            };

        private static (PartItemRow, List<StockMoveRow>) Again(
            PartItemRow item,
            List<StockMoveRow> moves,
            int number,
            long shift
        )
        {
            var key = Guid.CreateVersion7();
            return (
                new PartItemRow
                {
                    Kind = item.Kind,
                    Serial = item.Serial is { } serial ? $"{serial}-{number:X}" : null,
                    State = item.State,
                    Cost = item.Cost,
                    Supplier = item.Supplier,
                    Place = item.Place,
                    Order = number,
                    Position = item.Position,
                    Grade = item.Grade,
                    Tested = item.Tested,
                },
                [
                    .. moves.Select(m => new StockMoveRow
                    {
                        From = m.From,
                        To = m.To,
                        Order = m.Order is null ? null : number,
                        Position = m.Position,
                        Note = m.Note,
                        At = m.At + shift,
                        By = m.By,
                        Key = key,
                    }),
                ]
            );
        }
    }

    /// <summary>What people say, the same for the same number; words that many have and words that few have.</summary>
    private static class Words
    {
        private static readonly string[] Places =

            [
                "Ferry",
                "Harbour",
                "Choir",
                "Letterpress",
                "School",
                "Tide-gauge",
                "Bird-ringing",
                "Bakery",
                "Lighthouse",
                "Boatyard",
                "Cannery",
                "Library",
                "Dike",
                "Pottery",
                "Weaver's",
                "Saltworks",
            ],
            Rooms =
            ["ticket desk", "office", "archive", "lab", "station", "counter", "workshop", "back room", "studio"],
            Troubles =

            [
                "swaps all day long",
                "takes minutes to open the tables",
                "freezes in calls",
                "has no room left",
                "is slow since the update",
                "stops in the middle of a print",
                "crackles and hangs",
                "starts twice",
            ],
            Found =

            [
                "a thread is worn",
                "the latch is stiff",
                "dust under the shroud",
                "a screw is missing",
                "the foil is torn",
                "the cable sits tight",
                "a clip is bent",
                "nothing out of the way",
            ];

        public static string Customer(int n) => $"{Of(Places, n)} {Of(Rooms, n / 16)} {n % 997}";

        public static string Complaint(int n) => $"The {Of(Rooms, n / 3)} machine {Of(Troubles, n)}";

        public static string Note(int n) => $"{Of(Found, n)}; tagged {Tag(n % 50_021)}";

        // A word of its own for each: letters alone, so that a letter may be mistyped.
        private static string Tag(int n) => string.Concat("kelp", Letters(n));

        private static string Letters(int n) =>
            n < 26 ? $"{(char)('a' + n)}" : Letters(n / 26 - 1) + (char)('a' + n % 26);

        private static string Of(string[] of, int n) => of[n % of.Length];
    }
}
