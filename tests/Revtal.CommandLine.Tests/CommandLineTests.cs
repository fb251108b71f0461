using System.Diagnostics;
using System.Text.Json;
using Xunit;

namespace Revtal.Tests.CommandLine;

/// <summary><c>revtal</c> as a process of its own, as a script would call it.</summary>
public sealed class CommandLineTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    [Fact]
    public async Task Decode_keeps_the_names_that_scripts_rely_on()
    {
        var (code, output, _) = await Revtal(
            "reading",
            "decode",
            Repository.CapturePath("vm-after-20g"),
            "--json",
            "--service",
            "http://127.0.0.1:1"
        );
        Assert.Equal(0, code);
        var json = JsonDocument.Parse(output).RootElement;
        var memory = json.GetProperty("memory");
        Assert.Equal(20L << 30, memory.GetProperty("installedBytes").GetInt64());
        Assert.Equal(20L << 30, memory.GetProperty("maxCapacityBytes").GetInt64());
        Assert.Equal(2, memory.GetProperty("slotCount").GetInt32());
        var slot = memory.GetProperty("slots")[0];
        Assert.Equal(
            ("SODIMM 0", "CHANNEL", 16L << 30, "DIMM", "RAM", 3200, 3200),
            (
                Text(slot, "locator"),
                Text(slot, "bank"),
                slot.GetProperty("sizeBytes").GetInt64(),
                Text(slot, "formFactor"),
                Text(slot, "type"),
                slot.GetProperty("ratedSpeed").GetInt32(),
                slot.GetProperty("runningSpeed").GetInt32()
            )
        );
        Assert.Equal(
            ("Ostrava", "00D4E5F6", "OS4S-16G32"),
            (Text(slot, "manufacturer"), Text(slot, "serial"), Text(slot, "partNumber"))
        );
        Assert.Equal(
            (JsonValueKind.Null, JsonValueKind.Null),
            (slot.GetProperty("totalWidth").ValueKind, slot.GetProperty("dataWidth").ValueKind)
        );
        var system = json.GetProperty("system");
        Assert.Equal(
            ("Norrland", "FJ14", "NF14-0417"),
            (Text(system, "manufacturer"), Text(system, "product"), Text(system, "serial"))
        );
        Assert.StartsWith("1.16.2", Text(json.GetProperty("firmware"), "version"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_long_list_tells_how_to_go_on()
    {
        for (var i = 0; i < 3; i++)
        {
            await fixture.Service.As("ines").TakeInAsync(new("FJ14", "Paged customer", "slow"));
        }

        var (_, first, _) = await Revtal("order", "list", "Paged", "--limit", "2");
        var more = System.Text.RegularExpressions.Regex.Match(first, @"2 of 3\. More: revtal order list --after (\d+)");
        Assert.True(more.Success, first);
        var (_, second, _) = await Revtal("order", "list", "Paged", "--limit", "2", "--after", more.Groups[1].Value);
        Assert.Contains("Paged customer", second, StringComparison.Ordinal);
        Assert.DoesNotContain("More:", second, StringComparison.Ordinal);
        Assert.DoesNotContain(more.Groups[1].Value, second, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(1, "order", "show", "99999")]
    [InlineData(1, "reading", "decode", "/nowhere")]
    [InlineData(1, "guide", "show", "XX99")]
    [InlineData(1, "order", "list", "--stage", "nowhere")]
    // It names somebody, and no file of arguments.
    [InlineData(1, "order", "note", "99999", "@mara: the cover has a crack")]
    [InlineData(2, "order", "show")]
    [InlineData(2, "order", "frobnicate")]
    [InlineData(2, "order", "show", "twelve")]
    [InlineData(2, "--service", "not a url", "board", "show")]
    [InlineData(3, "--service", "http://127.0.0.1:1", "board", "show")]
    [InlineData(4, "order", "note", "101", "hello", "--as", "nobody")]
    [InlineData(0, "board", "show")]
    [InlineData(0, "order", "take-in", "--help")]
    [InlineData(0, "completion")]
    public async Task Exit_codes_are_stable_and_complaints_go_to_the_error_stream(
        int expected,
        params string[] arguments
    )
    {
        var (code, output, error) = await Revtal(arguments);
        Assert.Equal(expected, code);
        Assert.Equal(expected == 0, error.Length == 0);
        Assert.Equal(expected == 0, output.Length > 0);
        Assert.DoesNotContain("   at ", error, StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_whole_job_can_be_done_from_the_command_line()
    {
        var number = (
            await Json(
                "order",
                "take-in",
                "--model",
                "FJ14",
                "--customer",
                "Tide-gauge office",
                "--complaint",
                "stops",
                "--serial",
                "NF14-0417",
                "--as",
                "sanne"
            )
        )
            .GetProperty("order")
            .ToString();
        await Json(
            "reading",
            "take",
            number,
            Repository.CapturePath("vm-before-4g"),
            "--phase",
            "before",
            "--as",
            "mara"
        );
        var expected = await Json(
            "plan",
            "set",
            number,
            "S1=from:S2",
            "S2=16GB,DDR4-3200,Ostrava,OS4S-16G32",
            "--dry-run",
            "--as",
            "mara"
        );
        Assert.Equal(
            20L << 30,
            expected.GetProperty("plan").GetProperty("expectation").GetProperty("installed").GetInt64()
        );
        await Json("plan", "set", number, "S1=from:S2", "S2=16GB", "--as", "mara");
        await Json("plan", "agree", number, "--customer", "J. Marsk", "--as", "sanne");

        var (code, _, error) = await Revtal("run", "done", number, "fit.S2", "--as", "mara");
        Assert.Equal(1, code);
        Assert.Contains("confirm “Lay out mat", error, StringComparison.Ordinal);

        for (
            var run = await Json("run", "show", number);
            run.GetProperty("nextStep").GetString() is { } step;
            run = await Json("run", "show", number)
        )
        {
            string[] count =
                step.EndsWith(".keyboard", StringComparison.Ordinal) ? ["--count", "2"]
                : step == "measure.open" ? ["--seen", "20GB"]
                : [];
            await Json(["run", "done", number, "next", "--as", "mara", .. count]);
        }

        await Json(
            "reading",
            "take",
            number,
            Repository.CapturePath("vm-after-20g"),
            "--phase",
            "after",
            "--as",
            "mara"
        );
        Assert.Equal("as-planned", (await Json("order", "check", number)).GetProperty("verdict").GetString());
        await Json("order", "ready", number, "--as", "mara");
        Assert.Equal(
            "handed-back",
            (await Json("order", "hand-back", number, "--to", "J. Marsk", "--as", "sanne"))
                .GetProperty("stage")
                .GetString()
        );
        Assert.True((await Json("order", "journal", number)).GetArrayLength() > 15);
    }

    [Fact]
    public async Task A_reading_can_be_typed_in()
    {
        var number = (
            await Json(
                "order",
                "take-in",
                "--model",
                "PW24",
                "--customer",
                "Ferry",
                "--complaint",
                "freezes",
                "--as",
                "sanne"
            )
        )
            .GetProperty("order")
            .ToString();
        await Json(
            "reading",
            "type",
            number,
            "S1=4GB",
            "S2=empty",
            "--firmware-shows",
            "4 GB",
            "--system-shows",
            "3.7 GB",
            "--phase",
            "before",
            "--as",
            "mara"
        );
        var before = (await Json("order", "show", number)).GetProperty("before").GetProperty("reading");
        Assert.Equal("eyes", before.GetProperty("sources")[0].GetString());
        Assert.Equal(
            (1, "revtal: “S1:4GB” is not like S1=8GB or S1=empty.\n"),
            (await Revtal("reading", "type", number, "S1:4GB", "--phase", "before", "--as", "mara"))
                is var (code, _, error)
                ? (code, error)
                : default
        );
    }

    [Fact]
    public async Task A_part_is_added_received_planned_quoted_and_sent_as_a_link()
    {
        await Json(
            "part",
            "add",
            "CL-16",
            "--name",
            "16 GB module",
            "--module",
            "16GB PC4-25600 SO-DIMM",
            "--price",
            "40",
            "--barcode",
            "4006381",
            "--as",
            "mara"
        );
        await Json("part", "receive", "4006381", "CL-16-A", "CL-16-B", "--cost", "25", "--as", "mara");
        var number = (
            await Json(
                "order",
                "take-in",
                "--model",
                "FJ14",
                "--customer",
                "Choir",
                "--complaint",
                "slow",
                "--as",
                "sanne"
            )
        )
            .GetProperty("order")
            .ToString();
        await Json(
            "reading",
            "take",
            number,
            Repository.CapturePath("vm-before-4g"),
            "--phase",
            "before",
            "--drive",
            "D1=drive:500GB,form=M.2 2280,used=212GB",
            "--as",
            "mara"
        );
        Assert.Equal(
            "B",
            (await Json("plan", "layout", number, "part:CL-16"))
                .GetProperty("answer")
                .GetProperty("best")
                .GetProperty("share")
                .GetProperty("loads")[0]
                .GetProperty("channel")
                .GetString()
        );
        Assert.NotEqual(
            0,
            (await Json("plan", "options", number, "--target", "16GB")).GetProperty("options").GetArrayLength()
        );
        Assert.Equal(
            (1, true),
            (await Revtal("plan", "set", number, "S1=part:NOPE", "--as", "mara")) is var no
                ? (no.Code, no.Error.Contains("no part “NOPE”", StringComparison.Ordinal))
                : default
        );
        Assert.Contains(
            "no grade that JEDEC names",
            (await Revtal("plan", "set", number, "S1=16GB,DDR4-3300", "--as", "mara")).Error,
            StringComparison.Ordinal
        );
        await Json(
            "plan",
            "set",
            number,
            "S1=part:CL-16:CL-16-B",
            "D1=drive:1TB,copy-first,form=M.2 2280,link=PCIe 3.0 x4,label=System,grow",
            "--discount",
            "5",
            "--as",
            "mara"
        );
        var quote = await Json("plan", "quote", number);
        Assert.Equal(
            (5m, "1 TB for D1"),
            (quote.GetProperty("discountPercent").GetDecimal(), quote.GetProperty("unpriced")[0].GetString())
        );
        Assert.Equal(1, (await Revtal("plan", "link", number, "--as", "sanne")).Code);
        await Json("plan", "set", number, "S1=part:CL-16:CL-16-B", "--as", "mara");
        Assert.Contains(
            "/quote/",
            (await Json("plan", "link", number, "--days", "3", "--as", "sanne")).GetProperty("link").GetString(),
            StringComparison.Ordinal
        );
        await Json("plan", "revoke", number, "--as", "sanne");
        await Json("plan", "decline", number, "--customer", "M. Alto", "--reason", "too dear", "--as", "sanne");
        await Json("plan", "agree", number, "--customer", "M. Alto", "--as", "sanne");
        Assert.Equal(
            ("CL-16-B", "reserved"),
            (await Json("part", "items", "--order", number))[0] is var item
                ? (item.GetProperty("serial").GetString(), item.GetProperty("state").GetString())
                : default
        );
        Assert.Equal(
            2,
            (
                await Json(
                    "part",
                    "ledger",
                    "--item",
                    (await Json("part", "items", "--order", number))[0].GetProperty("id").ToString()
                )
            ).GetArrayLength()
        );
        Assert.Equal(1, (await Revtal("part", "move", "999999", "faulty", "--as", "mara")).Code);
    }

    [Fact]
    public async Task The_catalogue_goes_out_as_a_file_and_a_bad_one_changes_nothing()
    {
        var path = Path.GetTempFileName();
        await Json(
            "part",
            "add",
            "CF-1",
            "--name",
            "1 TB drive",
            "--drive",
            "1TB,form=M.2 2280,key=M,link=PCIe 4.0 x4",
            "--price",
            "70",
            "--as",
            "mara"
        );
        await Revtal("part", "export", "catalogue", path);
        var text = await File.ReadAllTextAsync(path);
        Assert.Contains("CF-1,1 TB drive,drive,1 TB,,M.2 2280", text, StringComparison.Ordinal);
        await File.WriteAllTextAsync(path, text.Replace(",70,", ",-70,", StringComparison.Ordinal));
        var (code, output, error) = await Revtal("part", "import", "catalogue", path, "--as", "mara");
        File.Delete(path);
        Assert.Equal(1, code);
        Assert.Contains("not below nothing", output, StringComparison.Ordinal);
        Assert.Contains("Mend the lines", error, StringComparison.Ordinal);
        Assert.Equal(
            70,
            (await Json("part", "show", "CF-1"))
                .GetProperty("line")
                .GetProperty("kind")
                .GetProperty("price")
                .GetDecimal()
        );
    }

    [Fact]
    public async Task Tables_are_tab_separated_where_no_terminal_is()
    {
        var (_, output, _) = await Revtal("guide", "list");
        Assert.Equal("code\trev\tmodel\tkind\tslots\tvariants\ttell apart", output.Split('\n')[0]);
        Assert.DoesNotContain('\u001b', output);
    }

    [Fact]
    public async Task A_guide_file_is_checked_without_a_service()
    {
        Assert.Equal(
            0,
            (
                await Revtal("guide", "check", Repository.At("guides", "PW24.yaml"), "--service", "http://127.0.0.1:1")
            ).Code
        );
        var path = Path.GetTempFileName();
        await File.WriteAllTextAsync(path, "format: revtal-guide/1\nmodel: { maker: A }\n");
        var (code, output, _) = await Revtal("guide", "check", path);
        File.Delete(path);
        Assert.Equal(1, code);
        Assert.Contains($"{path}:2: model lacks “name”", output, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Only_a_lead_publishes_guides() =>
        Assert.Equal(1, (await Revtal("guide", "publish", Repository.At("guides", "QT40.yaml"), "--as", "mara")).Code);

    [Fact]
    public async Task A_run_is_walked_step_by_step_left_and_taken_up_again()
    {
        var number = await AgreedAsync("S2=reseat");
        var (code, output, error) = await Typed(
            "\n?\nn cable tied up\no it came in off\nq\n",
            "run",
            "work",
            number,
            "--as",
            "mara"
        );
        Assert.Equal((0, ""), (code, error));
        Assert.Contains("Lay out mat, strap and trays", output, StringComparison.Ordinal);
        Assert.Contains("Left at isolate.unplug", output, StringComparison.Ordinal);
        var journal = (await Revtal("order", "journal", number)).Output;
        Assert.Contains("cable tied up at “Shut the machine down", journal, StringComparison.Ordinal);
        Assert.Contains("it came in off", journal, StringComparison.Ordinal);
        Assert.Contains(
            "Left at isolate.unplug",
            (await Typed("q\n", "run", "work", number, "--as", "mara")).Output,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Gates_finds_and_paper_are_at_hand_from_the_command_line()
    {
        var number = await AgreedAsync("S2=reseat");
        Assert.Equal(
            (1, "revtal: A gate is waived by a lead.\n"),
            (
                await Revtal(
                    "run",
                    "waive",
                    number,
                    "power-not-isolated",
                    "--step",
                    "isolate.unplug",
                    "--reason",
                    "x",
                    "--as",
                    "mara"
                )
            )
                is var (c, _, e)
                ? (c, e)
                : default
        );
        await Json(
            "run",
            "waive",
            number,
            "power-not-isolated",
            "--step",
            "isolate.remove-battery-pack",
            "--reason",
            "no pack",
            "--as",
            "ines"
        );
        await Json("run", "skip", number, "next", "--reason", "laid out", "--as", "mara");
        await Json("run", "found", number, "dust", "--text", "in the fan", "--as", "mara");
        await Json("run", "impossible", number, "isolate.hold-power", "--reason", "button broken", "--as", "mara");
        await Json("order", "variant", number, "FJ14-1", "--as", "mara");
        var shown = (await Revtal("run", "show", number)).Output;
        Assert.All(
            ["Waived, power not isolated", "Found dust", "in the fan", "impossible: button broken", "FJ14-1"],
            text => Assert.Contains(text, shown, StringComparison.Ordinal)
        );
        Assert.Contains(
            "2, two tabs",
            (await Revtal("run", "stuck", number, "open.hatch")).Output,
            StringComparison.Ordinal
        );
        var path = Path.GetTempFileName();
        await Json("run", "paper", number, "-o", path);
        Assert.Equal("%PDF", System.Text.Encoding.ASCII.GetString((await File.ReadAllBytesAsync(path))[..4]));
        File.Delete(path);
        Assert.Equal(2, (await Revtal("run", "found", number, "ghosts", "--as", "mara")).Code);
    }

    [Theory]
    [InlineData("")]
    [InlineData("/srv/revtal")]
    [InlineData("ftp://bench")]
    public async Task An_address_that_is_none_of_a_service_is_wrong_usage(string address)
    {
        var (code, _, error) = await Revtal("board", "show", "--service", address);
        Assert.Equal((2, 1), (code, error.Trim().Split('\n').Length));
        Assert.Contains("http://127.0.0.1:7420", error, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Guides_are_drafted_compared_and_carried_as_one_file()
    {
        var path = Path.GetTempFileName();
        await File.WriteAllTextAsync(
            path,
            (await File.ReadAllTextAsync(Repository.At("guides", "PW24.yaml"))).Replace(
                "minutes: 8",
                "minutes: 12",
                StringComparison.Ordinal
            )
        );
        Assert.Empty(
            (await Json("guide", "draft", "PW24", "--save", path, "--as", "mara"))
                .GetProperty("problems")
                .EnumerateArray()
        );
        Assert.Contains("PW24", (await Revtal("guide", "drafts")).Output, StringComparison.Ordinal);
        Assert.Contains(
            "removals[back].minutes\t8\t12",
            (await Revtal("guide", "compare", "PW24", "1", "draft")).Output,
            StringComparison.Ordinal
        );
        Assert.Equal(
            2,
            (await Json("guide", "draft", "PW24", "--publish", "--as", "ines")).GetProperty("revision").GetInt32()
        );
        await Json("guide", "export", "-o", path);
        Assert.All(
            (await Json("guide", "import", path, "--dry-run", "--as", "ines")).GetProperty("guides").EnumerateArray(),
            g => Assert.False(g.GetProperty("isNew").GetBoolean())
        );
        File.Delete(path);
        Assert.Equal(
            "PW24",
            Assert.Single((await Json("guide", "list", "rear door")).EnumerateArray()).GetProperty("code").GetString()
        );
        Assert.Contains(
            "soldered",
            (await Revtal("guide", "show", "FJ14", "--variant", "FJ14-1")).Output,
            StringComparison.Ordinal
        );
        Assert.Equal(
            "urn:revtal:guide:1",
            JsonDocument.Parse((await Revtal("guide", "schema")).Output).RootElement.GetProperty("$id").GetString()
        );
    }

    [Fact]
    public async Task Machines_are_scanned_in_planned_alike_and_told_as_one_list()
    {
        string[] desk =
        [
            "order",
            "take-in",
            "--model",
            "FJ14",
            "--customer",
            "School",
            "--complaint",
            "slow",
            "--as",
            "ines",
            "--batch",
            "-",
        ];
        // A scanner's return after each; the empty line ends it, and what stands twice takes nothing in.
        var (code, _, error) = await Typed("CL-1\nCL-2\nCL-1\n\n", desk);
        Assert.Equal(1, code);
        Assert.Contains("Line 3, “CL-1”: It stands on line 1 already.", error, StringComparison.Ordinal);
        var (_, taken, _) = await Typed("CL-1\nCL-2\n\nCL-9\n", [.. desk, "--json"]);
        var batch = $"{JsonDocument.Parse(taken).RootElement.GetProperty("batch").GetInt32()}";
        foreach (var order in new[] { batch, $"{int.Parse(batch, null) + 1}" })
        {
            await Json("reading", "type", order, "S1=empty", "S2=8GB", "--phase", "before", "--as", "mara");
        }

        var (_, shown, _) = await Revtal("batch", "show", batch);
        Assert.Contains($"{batch}\tCL-1\tmeasured", shown, StringComparison.Ordinal);
        Assert.DoesNotContain("CL-9", shown, StringComparison.Ordinal);
        Assert.Contains("2 machines", shown, StringComparison.Ordinal);
        await Json("batch", "plan", batch, "S1=8GB,DDR4-2666", "--as", "mara");
        await Json("batch", "agree", batch, "--customer", "Dr. Kolb", "--as", "ines");
        Assert.Contains("2 machines", (await Revtal("batch", "run", batch)).Output, StringComparison.Ordinal);
        var done = await Json("batch", "confirm", batch, "prepare.bench", "--as", "mara");
        Assert.Equal(2, done.GetProperty("orders").GetArrayLength());
        Assert.Contains("2 on bench", (await Revtal("batch", "report", batch)).Output, StringComparison.Ordinal);
        var csv = Path.GetTempFileName();
        await Revtal("batch", "report", batch, "--csv", csv);
        Assert.Equal(3, (await File.ReadAllLinesAsync(csv)).Length);
        File.Delete(csv);
    }

    [Fact]
    public async Task A_machine_that_nobody_knows_is_taken_in_by_its_own_words_and_opened_as_it_happens()
    {
        string[] pell = ["--as", "mara"];
        var path = Repository.CapturePath("vm-before-4g");
        var (_, told, _) = await Revtal(["machine", "tell", path, .. pell]);
        Assert.Contains("Norrland FJ14", told, StringComparison.Ordinal);
        Assert.Contains("SODIMM 0: 4 GB", told, StringComparison.Ordinal);
        Assert.Contains("NF14-0417", (await Revtal("machine", "waiting")).Output, StringComparison.Ordinal);
        Assert.Contains(
            "may be a FJ14",
            (await Revtal("machine", "match", "Fjell 14")).Output,
            StringComparison.Ordinal
        );
        Assert.StartsWith("NEW-", (await Revtal(["machine", "invite", .. pell])).Output, StringComparison.Ordinal);

        string[] who = ["--customer", "School", "--complaint", "slow", .. pell];
        string[] take = ["order", "take-in", "--capture", path, .. who];
        var (code, _, error) = await Revtal([.. take, "--maker", "Norrland", "--name", "Sund 9", "--kind", "labtop"]);
        Assert.Equal(1, code);
        Assert.Contains("laptop is meant", error, StringComparison.Ordinal);
        var number = (await Json([.. take, "--maker", "Norrland", "--name", "Sund 9", "--kind", "laptop"]))
            .GetProperty("order")
            .ToString();
        var view = await Json("order", "show", number);
        Assert.Equal(
            ("measured", "NF14-0417", true),
            (
                Text(view, "stage"),
                Text(view.GetProperty("intake"), "serial"),
                view.GetProperty("model").GetProperty("sketch").GetBoolean()
            )
        );
        var model = Text(view.GetProperty("model"), "code")!;

        await Json(["run", "seen", number, "S2", "--angle", "30", "--latch", "spread-both", "--below", "S1", .. pell]);
        // More than its firmware claims, of a model of which nobody knows better, is a lead's word.
        (code, _, error) = await Revtal(["plan", "set", number, "S2=8GB", .. pell]);
        Assert.Equal(1, code);
        Assert.Contains("above the 4 GB that its firmware claims", error, StringComparison.Ordinal);
        await Json("plan", "set", number, "S2=8GB", "--as", "ines");
        await Json(["plan", "agree", number, "--customer", "M. Alto", .. pell]);
        for (var next = ""; !next.StartsWith("uncover.", StringComparison.Ordinal); )
        {
            await Json(["run", "done", number, "next", .. pell]);
            next = Text((await Json("order", "show", number)).GetProperty("run"), "nextStep")!;
        }

        string[] off = ["run", "off", number, "bottom cover", "--clips", "4", .. pell];
        (code, _, error) = await Revtal([.. off, "--held-by", "eight screws"]);
        Assert.Equal(1, code);
        Assert.Contains("“8 PH0 5 mm”", error, StringComparison.Ordinal);
        await Json([.. off, "--held-by", "8 PH0 5 mm", "--held-by", "2 PH0 8 mm hidden under the feet"]);
        // S2 lies under S1: both lie open at once, and S1's module comes out first.
        foreach (var position in new[] { "S1", "S2" })
        {
            _ = await Revtal(["run", "done", number, $"uncover.{position}", .. pell]);
        }

        var (_, shown, _) = await Revtal("run", "show", number);
        Assert.Contains("close.bottom-cover", shown, StringComparison.Ordinal);
        Assert.Contains("10 out, 0 back", shown, StringComparison.Ordinal);
        Assert.Contains(
            "2 × PH0 8 mm (under the feet)",
            (await Revtal("order", "journal", number)).Output,
            StringComparison.Ordinal
        );
        (code, _, error) = await Revtal(["order", "adopt", number, "--revision", "1", .. pell]);
        Assert.Equal(1, code);
        Assert.Contains("revision 1 already", error, StringComparison.Ordinal);
        Assert.Contains("sketch", (await Revtal("guide", "show", model)).Output, StringComparison.Ordinal);
        (code, _, error) = await Revtal("guide", "finish", model, "--as", "ines");
        Assert.Equal(1, code);
        Assert.Contains("stated-max", error, StringComparison.Ordinal);
    }

    private async Task<string> AgreedAsync(params string[] plan)
    {
        var number = (
            await Json(
                "order",
                "take-in",
                "--model",
                "FJ14",
                "--customer",
                "Choir",
                "--complaint",
                "restarts",
                "--as",
                "sanne"
            )
        )
            .GetProperty("order")
            .ToString();
        await Json(
            "reading",
            "type",
            number,
            "S1=empty",
            "S2=8GB",
            "--firmware-shows",
            "8 GB",
            "--phase",
            "before",
            "--as",
            "mara"
        );
        await Json(["plan", "set", number, "--as", "mara", .. plan]);
        await Json("plan", "agree", number, "--customer", "M. Alto", "--as", "sanne");
        return number;
    }

    private static string? Text(JsonElement element, string name) => element.GetProperty(name).GetString();

    private async Task<JsonElement> Json(params string[] arguments)
    {
        var (code, output, error) = await Revtal([.. arguments, "--json"]);
        Assert.True(code == 0, error);
        return JsonDocument.Parse(output).RootElement;
    }

    private Task<(int Code, string Output, string Error)> Revtal(params string[] arguments) => Typed("", arguments);

    private async Task<(int Code, string Output, string Error)> Typed(string input, params string[] arguments)
    {
        var start = new ProcessStartInfo(Repository.At("bin", "revtal"), arguments)
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["REVTAL_SERVICE"] = fixture.Service.Address.ToString();
        start.Environment["REVTAL_SIGN_INS"] = fixture.SignIns;
        using var process = Process.Start(start)!;
        await process.StandardInput.WriteAsync(input);
        process.StandardInput.Close();
        var (output, error) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
        await process.WaitForExitAsync();
        return (process.ExitCode, await output, await error);
    }
}
