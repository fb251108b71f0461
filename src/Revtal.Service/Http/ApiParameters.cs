using System.Text.Json.Nodes;

namespace Revtal.Service.Http;

/// <summary>What each word in an address means, with an example; a word means the same wherever it stands.</summary>
internal static class ApiParameters
{
    /// <param name="group">The first word of the path, for the few words that two parts of the API share.</param>
    public static (string Description, JsonNode Example)? Of(string name, string group) =>
        (name, group) switch
        {
            ("number", "parts") => ("A part number, or the code that a scanner reads.", "OS4U-16G"),
            ("batch", _) => ("The batch, by the number of its first order.", 125),
            ("invoice", _) => ("A number of the shop's invoices.", 12),
            ("number", _) => ("The order's number.", 104),
            ("order", "board") => ("An order; give it once for each that is asked for.", new JsonArray(104, 105)),
            ("order", "parts") => ("Only parts that are set aside for this order or fitted in it.", 105),
            ("order", _) => ("The number of the order that taught it.", 104),
            ("owner", _) => ("A person, by id; what is in these hands. Give it once for each.", new JsonArray("mara")),
            ("sequence", _) => ("The entry's place in the journal of its order, from 1.", 7),
            ("serial", "arrivals") => ("The serial on its label, held against what it told.", "QT40-2215"),
            ("serial", _) => ("The machine's serial number, as it was typed or read.", "QT40-2215"),
            ("system", _) => ("What the machine runs: linux, windows or macos.", "linux"),
            ("step", _) => ("A step of the run sheet.", "open.side-panel"),
            ("caption", _) => ("What the picture shows, in a line.", "Left latch, before"),
            ("hash", _) => ("SHA-256 of the picture, lower-case hexadecimal.", new string('0', 64)),
            ("small", _) => ("The copy of at most 480 pixels.", true),
            ("form", _) => ("As what it comes: lines or tables.", "tables"),
            ("dry-run", _) => ("Only tells what it would do.", true),
            ("text", "guides") => ("Found anywhere in a guide's file.", "ribbon"),
            ("text", "parts") => ("Found in number, barcode, name, supplier or what it is.", "16 GB"),
            ("text", _) => (
                "Beginnings of words in what was said of it, serials in it, or its number; a letter may be wrong.",
                "choir"
            ),
            ("stage", _) => ("Only orders at this stage.", "on-bench"),
            ("after", _) => ("Where the page before ended: its `next`.", "120"),
            ("limit", _) => ("How many at most, 1 to 500.", 50),
            ("target", _) => ("How much memory there should be.", "32 GB"),
            ("workload", _) => ("One of the shop's workloads, in place of a target.", "pictures"),
            ("budget", _) => ("The most it may cost, in the shop's currency, without tax.", 120),
            ("stages", _) => ("2 for options that leave a second step for later.", 1),
            ("give-up", _) => (
                "A module that need not stay, by its slot; more than once for more.",
                new JsonArray("S1")
            ),
            ("growth", _) => ("What is to come onto the drives.", "200 GB"),
            ("later", "orders") => (
                "Only what is left for a later visit; options: for the machine as it will be.",
                true
            ),
            ("slot", _) => ("A slot, as the guide names it.", "A1"),
            ("bay", _) => ("A bay, as the guide names it.", "D1"),
            ("position", _) => ("A slot or a bay, as the guide names it.", "A1"),
            ("link", "calendars") => ("What stands in a calendar's link.", new string('0', 64)),
            ("link", "session") => ("What stands in a link that a lead made.", new string('0', 64)),
            ("tablet", _) => ("A bench tablet, by its id.", "5f0c1d2e3a4b"),
            ("webhook", _) => ("Another program that is told, by its id.", "5f0c1d2e3a4b"),
            ("state", "shop") => ("Only messages that stand so.", "dead"),
            ("session", _) => ("A session or token, by its id.", "5f0c1d2e3a4b"),
            ("link", _) => ("What stands in the customer's link.", "106-3q2-7wEA"),
            ("only-short", _) => ("Only what should be ordered for plans and shelf.", true),
            ("kind", _) => ("A part number.", "OS4U-16G"),
            ("state", "parts") => ("Where the part is.", "in-stock"),
            ("state", _) => ("What became of it.", "open"),
            ("item", _) => ("One part, by its number in the shop.", 12),
            ("id", "arrivals") => (
                "The machine that told of itself, as it was answered.",
                "019ac1d06e3f7c3b8f0d4c6f2b9f0e11"
            ),
            ("model", _) => ("The model's code that it is held against.", "FJ14"),
            ("product", _) => (
                "What the machine calls itself, as firmware tells it or as it stands on it.",
                "Fjell 14"
            ),
            ("id", "parts") => ("The part's number in the shop.", 12),
            ("id", _) => ("The person's id: 2 to 20 lower-case letters, digits or hyphens.", "mara"),
            ("kit", _) => ("The kit, by the lowest number of its pieces.", 31),
            ("phase", _) => ("When it was measured.", "before"),
            ("name", _) => ("The dummy's name.", "fj14"),
            ("code", _) => ("The model's code.", "FJ14"),
            ("revision", _) => ("A revision of the guide; the newest where none is named.", 2),
            ("from", _) => ("A revision, or `draft`: the earlier side.", "1"),
            ("to", _) => ("A revision, or `draft`: the later side.", "draft"),
            _ => null,
        };
}
