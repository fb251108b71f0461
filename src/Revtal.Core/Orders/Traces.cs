using System.Collections.Frozen;
using System.Text;
using Revtal.Core.Captures;
using Revtal.Core.Guides;

namespace Revtal.Core.Orders;

/// <summary>What a word that finds an order is.</summary>
public enum TraceKind
{
    Customer,
    Contact,

    /// <summary>What brought it here, what it is to do, how it came.</summary>
    Complaint,

    /// <summary>The machine's serial, as somebody typed it or a source told it.</summary>
    Machine,
    Model,

    /// <summary>A module's serial or part number.</summary>
    Module,

    /// <summary>A drive's serial or part number.</summary>
    Drive,

    /// <summary>The part number of something that was planned.</summary>
    Part,
    Note,

    /// <summary>What was found inside.</summary>
    Find,
    Later,
}

/// <summary>Something by which an order is found.</summary>
public sealed record Trace(TraceKind Kind, string Text)
{
    /// <summary>Whether it is a serial or a part number, of which a piece finds the order.</summary>
    public bool IsNumber => Kind is TraceKind.Machine or TraceKind.Module or TraceKind.Drive or TraceKind.Part;

    /// <summary>Its words, plain, with a space between two.</summary>
    public string Words => string.Join(' ', Traces.Words(Text).Select(Traces.Plain));
}

/// <summary>Where the words of a search stand in an order.</summary>
/// <param name="Text">Cut around the first of them.</param>
public sealed record FoundIn(TraceKind Kind, string Text)
{
    /// <summary>“note: …the left hinge squeaks”.</summary>
    public string Told => $"{Spoken}: {Text}";

    private string Spoken =>
        Kind switch
        {
            TraceKind.Complaint => "taken in with",
            TraceKind.Find => "found inside",
            TraceKind.Later => "for a later visit",
            _ => Kind.ToString().ToLowerInvariant(),
        };
}

/// <summary>By what words orders are found.</summary>
public static class Traces
{
    // Letters on each side of a word that was found, and as many again behind it.
    private const int Around = 40;

    /// <summary>What is no longer so after an entry: nothing is found by it.</summary>
    public static IReadOnlyList<TraceKind> Gone(EntryBody body) =>
        body is IntakeCorrected c
            ?
            [
                .. c.Serial is null ? Array.Empty<TraceKind>() : [TraceKind.Machine],
                .. c.Contact is null ? Array.Empty<TraceKind>() : [TraceKind.Contact],
            ]
            : [];

    /// <summary>
    /// What is told by one entry. What is left for a later visit is the order's to say: it may be dropped.
    /// </summary>
    public static IEnumerable<Trace> Of(EntryBody body) =>
        (
            body switch
            {
                TakenIn t => Of(t.Intake),
                IntakeCorrected c => [new(TraceKind.Machine, c.Serial ?? ""), new(TraceKind.Contact, c.Contact ?? "")],
                ReadingTaken r => [.. Of(r.Reading), new(TraceKind.Note, r.Note ?? "")],
                PlanSet p => Of(p.Plan),
                PlanMended p => Of(p.Plan),
                StepConfirmed s =>
                [
                    .. (s.Occupants ?? new Dictionary<string, string>()).Values.Select(v => new Trace(
                        TraceKind.Drive,
                        v
                    )),
                    new(TraceKind.Note, s.Note ?? ""),
                    new(TraceKind.Note, s.Explanation ?? ""),
                ],
                FoundInside f => [new(TraceKind.Find, f.Text ?? "")],
                NoteAdded n => [new(TraceKind.Note, n.Text)],
                PhotoTaken p => [new(TraceKind.Note, p.Caption ?? "")],
                Parked p => [new(TraceKind.Note, p.Reason)],
                Cancelled c => [new(TraceKind.Note, c.Reason)],
                _ => Enumerable.Empty<Trace>(),
            }
        ).Where(t => !string.IsNullOrWhiteSpace(t.Text));

    /// <summary>Maker, name and code of its model.</summary>
    public static Trace Of(ModelFacts model) => new(TraceKind.Model, $"{model.Maker} {model.Name} {model.Code}");

    private static IEnumerable<Trace> Of(Intake intake) =>
        [
            new(TraceKind.Customer, intake.Customer),
            new(TraceKind.Contact, intake.Contact ?? ""),
            new(TraceKind.Machine, intake.Serial ?? ""),
            new(TraceKind.Complaint, intake.Complaint),
            new(TraceKind.Complaint, intake.Goal ?? ""),
            new(TraceKind.Complaint, intake.Accessories ?? ""),
            new(TraceKind.Complaint, intake.Condition ?? ""),
        ];

    private static IEnumerable<Trace> Of(Reading reading)
    {
        var modules = reading.Memory.Slots.Select(s => s.Module()).OfType<Hardware.MemoryModule>();
        var drives = reading.Drives.Select(d => d.Drive);
        return
        [
            new(TraceKind.Machine, reading.System.Serial ?? ""),
            .. modules.SelectMany(m =>
                new[] { new Trace(TraceKind.Module, m.Serial ?? ""), new(TraceKind.Module, $"{m.PartNumber}") }
            ),
            .. drives.SelectMany(d =>
                new[] { new Trace(TraceKind.Drive, d.Serial ?? ""), new(TraceKind.Drive, $"{d.PartNumber}") }
            ),
        ];
    }

    private static IEnumerable<Trace> Of(Planning.Plan plan) =>
        StockEffects.Wishes(plan).Select(w => new Trace(TraceKind.Part, $"{w.Number}"));

    /// <summary>Letters and digits that stand together: <c>NF14-0417</c> is <c>nf14</c> and <c>0417</c>.</summary>
    public static IReadOnlyList<string> Words(string text)
    {
        var words = new List<string>();
        var word = new StringBuilder();
        foreach (var c in text.ToLowerInvariant() + ' ')
        {
            if (char.IsLetterOrDigit(c))
            {
                word.Append(c);
            }
            else if (word.Length > 0)
            {
                words.Add(word.ToString());
                word.Clear();
            }
        }

        return words;
    }

    /// <summary>
    /// The words by which a text is found though one was mistyped; of a letter with a mark only the letter.
    /// </summary>
    public static IReadOnlySet<string> Terms(string text) => Words(text).Select(Plain).ToHashSet();

    /// <summary>A word in small letters without the marks of its letters.</summary>
    public static string Plain(string word) => string.Concat(word.Select(c => Unmarked.GetValueOrDefault(c, c)));

    // The marked letters of Latin-1, Latin Extended-A, Vietnamese, Romanian and Pinyin that are made of a letter and
    // its marks, small: Unicode 16, chapter 24. The runtime decomposes none without tables of a country's customs.
    private static readonly FrozenDictionary<char, char> Unmarked = new[]
    {
        "aàáâãäåāăąǎảạấầẩẫậắằẳẵặ",
        "cçćĉċč",
        "dď",
        "eèéêëēĕėęěẻẽẹếềểễệ",
        "gĝğġģ",
        "hĥ",
        "iìíîïĩīĭįǐỉị",
        "jĵ",
        "kķ",
        "lĺļľ",
        "nñńņň",
        "oòóôõöōŏőǒơỏọốồổỗộớờởỡợ",
        "rŕŗř",
        "sśŝşšș",
        "tţťț",
        "uùúûüũūŭůűųǔǖǘǚǜưủụứừửữự",
        "wŵ",
        "yýÿŷỳỷỹỵ",
        "zźżž",
    }
        .SelectMany(row => row.Skip(1).Select(c => KeyValuePair.Create(c, row[0])))
        .ToFrozenDictionary();

    /// <summary>Where one of these stands, but for what a card shows anyway.</summary>
    /// <param name="words">Beginnings of words, or pieces of serials.</param>
    /// <returns>Null where that is nowhere, or not written so.</returns>
    public static FoundIn? Where(IEnumerable<Trace> traces, IReadOnlyList<string> words) =>
        traces
            .Where(t => t.Kind is not (TraceKind.Customer or TraceKind.Model))
            .Select(t => (Trace: t, At: words.Select(w => Begins(t, w)).Where(i => i >= 0).DefaultIfEmpty(-1).Min()))
            .Where(t => t.At >= 0)
            .Select(t => new FoundIn(t.Trace.Kind, Cut(t.Trace.Text, t.At)))
            .FirstOrDefault();

    private static int Begins(Trace trace, string word)
    {
        var (text, isPiece) = (trace.Text, trace.IsNumber);
        for (var at = 0; at <= text.Length - word.Length; at++)
        {
            at = text.IndexOf(word, at, StringComparison.OrdinalIgnoreCase);
            if (at < 0 || isPiece || at == 0 || !char.IsLetterOrDigit(text[at - 1]))
            {
                return at;
            }
        }

        return -1;
    }

    private static string Cut(string text, int at)
    {
        var (from, to) = (Math.Max(0, at - Around), Math.Min(text.Length, at + (2 * Around)));
        return $"{(from > 0 ? "…" : "")}{text[from..to]}{(to < text.Length ? "…" : "")}";
    }

    /// <summary>
    /// Words that a hand may have meant: one letter left out, one too many, one other, or two changed over.
    /// </summary>
    /// <param name="word">In small letters.</param>
    public static IReadOnlyList<string> Near(string word)
    {
        const string letters = "abcdefghijklmnopqrstuvwxyz0123456789";
        var near = new HashSet<string>(StringComparer.Ordinal);
        for (var i = 0; i <= word.Length; i++)
        {
            var (head, tail) = (word[..i], word[i..]);
            if (tail.Length > 0)
            {
                near.Add(head + tail[1..]);
                near.UnionWith(letters.Select(c => head + c + tail[1..]));
            }

            if (tail.Length > 1)
            {
                near.Add(head + tail[1] + tail[0] + tail[2..]);
            }

            near.UnionWith(letters.Select(c => head + c + tail));
        }

        near.Remove(word);
        return [.. near];
    }
}
