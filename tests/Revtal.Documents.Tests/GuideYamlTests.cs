using System.Globalization;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Documents;
using Xunit;

namespace Revtal.Tests.Documents;

public sealed class GuideYamlTests
{
    private static readonly string Fjell = File.ReadAllText(Repository.At("guides", "FJ14.yaml"));

    public static TheoryData<string> Guides =>
        [.. Directory.GetFiles(Repository.At("guides"), "*.yaml").Select(f => Path.GetFileName(f))];

    [Theory]
    [MemberData(nameof(Guides))]
    public void Every_guide_of_the_shop_is_without_a_problem(string file)
    {
        var result = GuideYaml.Read(File.ReadAllText(Repository.At("guides", file)));
        Assert.Empty(result.Problems);
        Assert.Equal(Path.GetFileNameWithoutExtension(file), result.Guide!.Model.Code);
    }

    [Fact]
    public void Holds_what_the_file_says()
    {
        var guide = Repository.Guide("FJ14");
        Assert.Equal(
            ("Norrland", "Fjell 14", "laptop", "2021..2023"),
            (guide.Model.Maker, guide.Model.Name, guide.Model.Kind, guide.Model.Built!)
        );
        var slot = guide.Slot("S1")!;
        Assert.Equal(
            ("SODIMM 1", "S2", "keyboard", MemorySize.Gigabytes(16), 30),
            (slot.ReportsAs!, slot.Below!, slot.Reach!, slot.Max!.Value, slot.Angle!.Value)
        );
        Assert.Equal(["S1", "S2"], guide.Memory.Populate.Lines[2]);
        var keyboard = guide.Removals.Single(r => r.Id == "keyboard");
        Assert.Equal(
            (2, 3m, "one sits under the hatch"),
            (keyboard.Fasteners[0].Count, keyboard.Fasteners[0].Length!.Value, keyboard.Fasteners[0].Hidden!)
        );
        Assert.Equal("Hold the power button for 10 s", guide.Isolate.Single(i => i.Kind == "hold-power").Sentence);
    }

    [Theory]
    [InlineData("generation: DDR4", "generatoin: DDR4", 10, "does not know “generatoin”")]
    [InlineData("stated-max: 32 GB", "stated-max: 32", 13, "“stated-max” of memory wants a memory size with its unit")]
    [InlineData("reach: hatch", "reach: roof", 18, "“roof”, which is no removal")]
    [InlineData("id: S2", "id: S1", 18, "“S1” stands twice")]
    [InlineData("needs: [isolated, hatch]", "needs: [isolated, keyboard]", 48, "circle: keyboard after keyboard")]
    [InlineData("length: 5 mm", "length: 5 in", 37, "a length in mm")]
    [InlineData(
        "count: 2, at: [[0.48, 0.66], [0.3, 0.7]]",
        "count: 3, at: [[0.48, 0.66], [0.3, 0.7]]",
        53,
        "counts 3 but places 2"
    )]
    [InlineData(", at: [[0.62, 0.71]]", "", 37, "has no place")]
    [InlineData("kind: cable", "kind: wire", 60, "one of power, static")]
    [InlineData("2: [S1, S2]", "3: [S1, S2]", 21, "a number of slots and as many of them")]
    [InlineData("2: [S1, S2]", "2: [S1, S9]", 21, "“S9”, which is no slot")]
    [InlineData("below: S2", "below: S1", 17, "lies below itself")]
    [InlineData("code: FJ14", "code: fj 14", 5, "capital letters")]
    [InlineData("- unplug", "- unplugged", 26, "isolate does not know “unplugged”")]
    [InlineData("hold-power: 10 s", "cool-down: soon", 28, "cool-down wants its time")]
    [InlineData("at: fit.S1", "at: fit.S7", 93, "fit knows S1, S2")]
    [InlineData("at: fit.S1", "at: glue.S1", 93, "which is no step")]
    [InlineData("0.62, 0.71", "0.62, 7.1", 37, "places from 0 to 1")]
    [InlineData(
        "{ id: S1, max: 4 GB, soldered: true, reach: ~ }",
        "{ id: S1, max: 4 GB, soldered: true, reach: roof }",
        17,
        "slot S1 is reached by “roof”"
    )]
    [InlineData("id: hatch", "id: keyboard", 48, "the removal id “keyboard” stands twice")]
    [InlineData("group: hatch", "group: base", 72, "the fastener group “base” stands twice")]
    [InlineData("boots: true, reach: base", "boots: true, reach: roof", 23, "bay D1 is reached by “roof”")]
    [InlineData("reports-as: \"SODIMM 0\"", "reports-as: \"SODIMM 1\"", 18, "two slots report as “SODIMM 1”")]
    [InlineData("1: [S2]", "2: [S2, S2]", 21, "“2” stands twice")]
    [InlineData("pairing: any", "pairing: some", 15, "one of any, alike-in-pairs")]
    [InlineData("angle: 30", "angle: 300", 17, "a whole number from 0 to 90")]
    [InlineData("tool: plastic card", "tool: ", 57, "a pry point")]
    [InlineData("id: FJ14-1", "id: \"\"", 97, "a variant")]
    [InlineData("measure-open:", "never-measure-open: its fan is on the lid\nmeasure-open:", 3, "take one away")]
    [InlineData("- unplug", "- unplugg", 26, "unplug is meant, perhaps")]
    [InlineData("max: 16 GB, angle", "max: 64 GB, angle", 17, "takes 64 GB, more than the whole model states")]
    public void A_problem_names_its_line_and_its_mend(string was, string becomes, int line, string message)
    {
        Assert.Contains(was, Fjell, StringComparison.Ordinal);
        var result = GuideYaml.Read(Fjell.Replace(was, becomes, StringComparison.Ordinal));
        Assert.Null(result.Guide);
        Assert.Contains(result.Problems, p => p.Message.Contains(message, StringComparison.Ordinal) && p.Line == line);
    }

    [Fact]
    public void What_each_slot_shares_is_said_once_and_what_one_says_itself_counts()
    {
        var tower = Repository.Guide("QT40");
        Assert.All(
            tower.Memory.Slots,
            s =>
                Assert.Equal(
                    (MemorySize.Gigabytes(32), 90, "one-side", "side-panel", 90),
                    (s.Max!.Value, s.Angle!.Value, s.Latch!, s.Reach!, s.Turn)
                )
        );
        Assert.Equal(["DIMM_A1", "DIMM_A2", "DIMM_B1", "DIMM_B2"], tower.Memory.Slots.Select(s => s.ReportsAs!));

        // A build whose slots are other ones says so once too; written out, all of it stands at each slot.
        var yaml = File.ReadAllText(Repository.At("guides", "QT40.yaml"))
            .Replace("id: B2, channel: B,", "id: B2, channel: B, max: 16 GB,", StringComparison.Ordinal);
        const string Build = """
            variants:
              - { id: QT40-S, tell-apart: short board, differs: { memory: { each-slot: { max: 8 GB } } } }
            """;
        var at = yaml.IndexOf("variants:", StringComparison.Ordinal);
        var read = GuideYaml.Read((at < 0 ? yaml + "\n" : yaml[..at]) + Build);
        Assert.Empty(read.Problems);
        var again = GuideYaml.Read(GuideYaml.Write(read.Guide!)).Guide!;
        foreach (var guide in new[] { read.Guide!, again })
        {
            Assert.Equal([32, 32, 32, 16], guide.Memory.Slots.Select(s => s.Max!.Value.Bytes >> 30));
            Assert.Equal([8, 8, 8, 16], guide.Variants[0].Guide.Memory.Slots.Select(s => s.Max!.Value.Bytes >> 30));
            Assert.Equal(90, guide.Variants[0].Guide.Slot("A1")!.Angle);
        }
    }

    [Fact]
    public void Slips_and_names_that_point_nowhere_are_told_together_and_none_twice()
    {
        var problems = GuideYaml
            .Read(
                Fjell
                    .Replace("length: 5 mm", "length: 5 in", StringComparison.Ordinal)
                    .Replace("reach: hatch", "reach: roof", StringComparison.Ordinal)
                    .Replace("at: fit.S1", "at: fit.S7", StringComparison.Ordinal)
            )
            .Problems;
        Assert.Contains(problems, p => p.Line == 18 && p.Message.Contains("“roof”", StringComparison.Ordinal));
        Assert.Contains(problems, p => p.Line == 37 && p.Message.Contains("a length in mm", StringComparison.Ordinal));
        Assert.Contains(problems, p => p.Line == 93 && p.Message.Contains("fit knows", StringComparison.Ordinal));

        // What could not be read is not said to be missing as well.
        Assert.Single(
            GuideYaml.Read(Fjell.Replace("stated-max: 32 GB", "stated-max: 32", StringComparison.Ordinal)).Problems
        );
        Assert.Single(
            GuideYaml
                .Read(Fjell.Replace("boots: true, reach: base", "boots: maybe, reach: base", StringComparison.Ordinal))
                .Problems
        );
    }

    [Fact]
    public void A_step_in_words_of_its_own_takes_the_place_of_the_usual_ones()
    {
        var guide = GuideYaml
            .Read(
                Fjell
                    .Replace("- unplug", "- { unplug: \"\", says: Pull both cords }", StringComparison.Ordinal)
                    .Replace("hold-power: 10 s", "hold-power: 20 s, says: Drain it", StringComparison.Ordinal)
            )
            .Guide!;
        string[] own = ["unplug", "hold-power"];
        var steps = own.Select(k => guide.Isolate.Single(i => i.Kind == k)).ToArray();
        Assert.Equal(["Pull both cords", "Drain it"], steps.Select(i => i.Sentence));
        Assert.Equal("Pull both cords: done", steps[0].DoneSentence);
        Assert.Equal((20, null), (steps[1].Duration!.Value.Seconds, steps[1].Note));
        var odd = GuideYaml.Read(Fjell.Replace("- unplug", "- { unplug: cords, means: x }", StringComparison.Ordinal));
        Assert.Contains(odd.Problems, p => p.Message.Contains("“says” for words of its own", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("a: &x [1]\nb: *x", "anchors, aliases and tags")]
    [InlineData("a: !!binary aGk=", "anchors, aliases and tags")]
    [InlineData("a: 1\na: 2", "“a” stands twice")]
    [InlineData("a: [", "")]
    [InlineData("just words", "wants keys and values")]
    [InlineData("format: revtal-guide/9", "this service reads revtal-guide/1")]
    public void What_is_no_guide_is_said_to_be_none(string yaml, string message) =>
        Assert.Contains(
            GuideYaml.Read(yaml).Problems,
            p => p.Message.Contains(message, StringComparison.Ordinal) && p.Line >= 1
        );

    [Fact]
    public void Deep_and_huge_files_end_at_once()
    {
        Assert.Single(GuideYaml.Read(string.Concat(Enumerable.Repeat("[", 5_000))).Problems);
        Assert.Contains(
            "1 MB",
            Assert.Single(GuideYaml.Read(new string('x', GuideYaml.Longest + 1)).Problems).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_file_with_every_key_is_read_and_written_without_loss()
    {
        var yaml = File.ReadAllText(Repository.At("tests", "data", "guides", "every-key.yaml"));
        var read = GuideYaml.Read(yaml);
        Assert.Empty(read.Problems);

        // A YAML reader that knows nothing of guides holds the two against each other.
        var plain = new YamlDotNet.Serialization.DeserializerBuilder().Build();
        Assert.Equal(
            Facts(plain.Deserialize<object>(yaml)),
            Facts(plain.Deserialize<object>(GuideYaml.Write(read.Guide!)))
        );
    }

    [Fact]
    public void The_file_with_every_key_holds_every_key()
    {
        var yaml = File.ReadAllText(Repository.At("tests", "data", "guides", "every-key.yaml"));
        var held = Facts(new YamlDotNet.Serialization.DeserializerBuilder().Build().Deserialize<object>(yaml))
            .Select(f => System.Text.RegularExpressions.Regex.Replace(f.Split(" = ")[0], @"\[\d+\]", ""))
            .ToHashSet();
        // A shorthand is written out, and so stands in no file that was written; what cannot stand beside another key
        // stands in the variant.
        var keys = Keys(GuideFormat.File, "")
            .Where(k => !k.Split('.')[^1].StartsWith("each-", StringComparison.Ordinal))
            .Select(k => k == "never-measure-open" ? $"variants.differs.{k}" : k);
        Assert.All(keys, key => Assert.Contains(held, h => h == key || h.StartsWith(key + ".")));
    }

    [Fact]
    public void The_published_schema_and_the_page_of_keys_are_those_of_the_reader()
    {
        Assert.Equal(File.ReadAllText(Repository.At("docs", "revtal-guide-1.schema.json")), GuideSchema.Text);
        Assert.Equal(File.ReadAllText(Repository.At("docs", "guide-fields.md")), GuideFieldsPage.Text);
    }

    private static List<string> Facts(object? node, string path = "") =>
        node switch
        {
            Dictionary<object, object> map =>
            [
                .. map.OrderBy(p => (string)p.Key, StringComparer.Ordinal)
                    .SelectMany(p => Facts(p.Value, path.Length == 0 ? $"{p.Key}" : $"{path}.{p.Key}")),
            ],
            List<object> list => [.. list.SelectMany((item, i) => Facts(item, $"{path}[{i}]"))],
            // A key taken away, in either way of writing it.
            null or "~" => [$"{path} = ~"],
            _ => [$"{path} = {Convert.ToString(node, CultureInfo.InvariantCulture)}"],
        };

    private static IEnumerable<string> Keys(ValueShape.Map map, string path) =>
        map.Fields.SelectMany(f =>
        {
            var own = path.Length == 0 ? f.Key : $"{path}.{f.Key}";
            return f.Shape switch
            {
                ValueShape.Map part => Keys(part, own),
                ValueShape.List { Item: ValueShape.Map part } => Keys(part, own),
                _ => [own],
            };
        });
}
