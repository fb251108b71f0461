using System.Diagnostics;
using Xunit;

namespace Revtal.Tests.CommandLine;

/// <summary>What a person reads on a terminal, on the demo data.</summary>
public sealed class ScreenTests(ScreenTests.Demo demo) : IClassFixture<ScreenTests.Demo>
{
    [Fact]
    public async Task An_order_is_drawn_hollow_hatched_and_solid_with_its_mismatch_marked()
    {
        var lines = (await ShowAsync("order", "show", "103")).Split('\n');
        var before = Array.FindIndex(lines, l => l.StartsWith("before", StringComparison.Ordinal));
        Assert.Contains("│    4 GB    │", lines[before], StringComparison.Ordinal);
        Assert.Contains("░ 16 GB ░", lines[before + 2], StringComparison.Ordinal);
        Assert.Contains("█ 16 GB █", lines[before + 4], StringComparison.Ordinal);

        // The mark stands over the slot that it is about, the third.
        var column = lines[before + 3].IndexOf('≠', StringComparison.Ordinal);
        Assert.InRange(column, 12 + (2 * 16), 12 + (3 * 16));
        Assert.Contains("16 GB short. S3 not seen.", string.Concat(lines), StringComparison.Ordinal);

        // A module was fitted there: what is not seen is not told as an empty slot.
        Assert.Contains("│  not seen  │", lines[before + 4], StringComparison.Ordinal);
        Assert.Contains("≠ not seen", string.Concat(lines), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Eight_slots_go_below_one_another_where_the_terminal_is_narrow()
    {
        var narrow = await ShowAsync(80, "order", "show", "107");
        Assert.Equal(2, narrow.Split('\n').Count(l => l.StartsWith("before", StringComparison.Ordinal)));
        Assert.All(
            narrow.Split('\n').Where(l => l.StartsWith("before", StringComparison.Ordinal)),
            l => Assert.InRange(l.Length, 1, 80)
        );
    }

    [Fact]
    public async Task A_nearly_full_drive_is_told_with_what_helps_and_the_later_visit_is_found_again()
    {
        Assert.Contains("F1 92 % full", await ShowAsync("board", "show"), StringComparison.Ordinal);
        var options = await ShowAsync(160, "plan", "drives", "107");
        Assert.Contains("F1 is 92 % full: 463 GB of 500 GB are in use.", options, StringComparison.Ordinal);
        Assert.Contains("1 TB (BN-1T) replaces 500 GB in F1", options, StringComparison.Ordinal);
        Assert.Contains("463 GB are copied and compared first", options, StringComparison.Ordinal);
        await ShowAsync("plan", "later", "107", "--drive-option", "2", "--words", "when it is dry", "--as", "mara");
        var order = await ShowAsync("order", "show", "107");
        Assert.Contains("when it is dry", order, StringComparison.Ordinal);
        Assert.Contains("A later visit is noted", order, StringComparison.Ordinal);
        Assert.Contains("QW80", await ShowAsync("order", "list", "it is dry"), StringComparison.Ordinal);
        Assert.DoesNotContain("F1 92 % full", await ShowAsync("board", "show"), StringComparison.Ordinal);
        await ShowAsync("plan", "drop-later", "107", "--as", "mara");
    }

    [Fact]
    public async Task Load_over_time_is_drawn_in_a_line_with_its_peak_and_the_trial_stands_beside_it()
    {
        var scores = await ShowAsync("order", "scores", "102");
        Assert.Contains("at most 7.3 GB", scores, StringComparison.Ordinal);
        Assert.Contains("at most 9.9 GB", scores, StringComparison.Ordinal);
        Assert.Contains("█", scores, StringComparison.Ordinal);
        var order = await ShowAsync("order", "show", "102");
        Assert.Contains("a whole plate, opened and turned, 12 min: as wished", order, StringComparison.Ordinal);
        Assert.Contains("start", await ShowAsync("guide", "signs", "FJ14"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_run_shows_what_is_done_what_is_now_and_what_is_later()
    {
        var run = await ShowAsync("run", "show", "104");
        Assert.Contains("■ open.side-panel", run, StringComparison.Ordinal);
        Assert.Contains("▶ fit.A1", run, StringComparison.Ordinal);
        Assert.Contains("□ close.side-panel", run, StringComparison.Ordinal);
        Assert.Contains("trap Only the upper end has a latch", run, StringComparison.Ordinal);
        Assert.Contains("2 out, 0 back, open", run, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(80)]
    [InlineData(132)]
    public async Task The_board_fits_the_terminal(int width)
    {
        var board = await ShowAsync(width, "board", "show");
        Assert.All(board.Split('\n'), l => Assert.InRange(l.TrimEnd().Length, 0, width));
        Assert.Contains("✗ short", board, StringComparison.Ordinal);
    }

    [Fact]
    public async Task In_the_demo_nobody_makes_oneself_a_password()
    {
        var refused = await Assert.ThrowsAsync<Client.ProblemException>(() =>
            demo.Service.As("mara").ChangePasswordAsync(new Contracts.PasswordRequest("", "four words without sense"))
        );
        Assert.Equal("wrong-password", refused.Code);
    }

    [Fact]
    public async Task To_a_program_an_order_is_a_line_of_the_board()
    {
        var lines = (await ShowAsync(0, "board", "show")).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        var columns = lines[0].Split('\t').Length;
        Assert.All(
            lines.TakeWhile(l => !l.StartsWith("batch", StringComparison.Ordinal)),
            l => Assert.Equal(columns, l.Split('\t').Length)
        );
        Assert.Contains(lines, l => l.Contains("mara, Bench 1; late by", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Options_are_a_table_and_a_copy_tells_when_it_is_done()
    {
        var options = await ShowAsync("plan", "options", "107", "--target", "128GB");
        Assert.Contains("Add 4 × 32 GB", options, StringComparison.Ordinal);
        Assert.Contains("left out:", options, StringComparison.Ordinal);
        var copying = await ShowAsync("order", "show", "117");
        Assert.Contains("171 GB of 462 GB, done about", copying, StringComparison.Ordinal);
        Assert.Contains("it will reach 3,938 MB/s of 7,877", copying, StringComparison.Ordinal);
        Assert.Contains(
            "recycled, destroy by drilled through both platters",
            await ShowAsync("order", "journal", "118"),
            StringComparison.Ordinal
        );
        Assert.Matches("OS4S-16G +36.00 +5 +3 +2 +6 +3 ", await ShowAsync("part", "list", "--short"));
    }

    [Fact]
    public async Task A_swap_test_names_its_suspects_and_ends_with_one()
    {
        var shown = await ShowAsync("order", "swap", "show", "119");
        Assert.Matches("the module of B1 +│? *92 %", shown);
        Assert.Contains("Seat the 16 GB of B1 anew in A2.", shown, StringComparison.Ordinal);
        var tried = await ShowAsync("order", "swap", "try", "119", "--isolated", "--seen", "A1,B2", "--as", "pell");
        Assert.Contains("It is the module of B1.", tried, StringComparison.Ordinal);
        Assert.Contains("Put the left side panel back: 2 fasteners back.", tried, StringComparison.Ordinal);
        Assert.Contains(
            "aside as faulty",
            await ShowAsync("order", "swap", "end", "119", "--back", "side-panel=2", "--as", "pell"),
            StringComparison.Ordinal
        );
        await ShowAsync("plan", "mend", "119", "--again", "B1", "--reason", "the search named it", "--as", "pell");
        var run = await ShowAsync("run", "show", "119");
        Assert.Contains("run 3, change of B1", run, StringComparison.Ordinal);
        Assert.Contains("Fit 16 GB into B1", run, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_dummy_measures_itself_by_a_code_and_on_a_stick()
    {
        Assert.Contains(
            "It starts: 8 GB in M1",
            await ShowAsync("dummy", "start", "nl12", "--as", "mara"),
            StringComparison.Ordinal
        );
        var stick = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid():N}.revtal");
        await ShowAsync("dummy", "capture", "nl12", stick);
        Assert.Contains("Linux 6.1 x86_64", await ShowAsync("reading", "decode", stick), StringComparison.Ordinal);
        File.Delete(stick);

        var invited = await ShowAsync("reading", "invite", "108", "--phase", "before", "--as", "mara");
        var code = System.Text.RegularExpressions.Regex.Match(invited, "108-[0-9A-Z]{4}-[0-9A-Z]{4}").Value;
        Assert.Contains($"/c/{code}/windows | iex", invited, StringComparison.Ordinal);
        Assert.Contains(
            "Taken for order 108, before.",
            await ShowAsync("dummy", "send", "nl12", code, "--as", "mara"),
            StringComparison.Ordinal
        );
        Assert.StartsWith("#!/bin/sh", await ShowAsync("reading", "collector", "linux"), StringComparison.Ordinal);
        Assert.Contains("+25.8 % better", await ShowAsync("order", "scores", "120"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_journal_tells_who_did_what()
    {
        var journal = await ShowAsync("order", "journal", "102");
        Assert.Contains("Reseat of S1 begun – Only 8 GB seen", journal, StringComparison.Ordinal);
        Assert.Contains("The right latch had not clicked", journal, StringComparison.Ordinal);
        Assert.Contains("Ready, as planned", journal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_guide_tells_what_comes_off_for_each_slot()
    {
        var guide = await ShowAsync("guide", "show", "FJ14");
        Assert.Contains("memory hatch, keyboard", guide, StringComparison.Ordinal);
        Assert.Contains("stated at most 32 GB", guide, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Watching_prints_each_change_as_it_happens()
    {
        using var watch = Start(100, "board", "watch");
        var line = watch.StandardOutput.ReadLineAsync();
        // It says nothing until something happens, so the bench goes on until it is heard.
        for (var i = 0; i < 50 && !line.IsCompleted; i++)
        {
            await demo.Service.As("mara").NoteAsync(105, new Contracts.NoteRequest("bits laid out"));
            await Task.WhenAny(line, Task.Delay(200));
        }

        watch.Kill();
        Assert.EndsWith("order 105  note added  mara", await line, StringComparison.Ordinal);
    }

    private Task<string> ShowAsync(params string[] arguments) => ShowAsync(132, arguments);

    /// <param name="width">Of the terminal; 0 for none.</param>
    private async Task<string> ShowAsync(int width, params string[] arguments)
    {
        using var process = Start(width, arguments);
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        Assert.Equal(0, process.ExitCode);
        return output;
    }

    private Process Start(int width, params string[] arguments)
    {
        var start = new ProcessStartInfo(Repository.At("bin", "revtal"), arguments) { RedirectStandardOutput = true };
        start.Environment["REVTAL_SERVICE"] = demo.Service.Address.ToString();
        start.Environment["REVTAL_SIGN_INS"] = demo.SignIns;
        start.Environment["REVTAL_TERMINAL"] = width > 0 ? "1" : null;
        start.Environment["COLUMNS"] = width.ToString(System.Globalization.CultureInfo.InvariantCulture);
        return Process.Start(start)!;
    }

    /// <summary>The service with the demo data.</summary>
    public sealed class Demo : IAsyncLifetime
    {
        private readonly string folder = Directory.CreateTempSubdirectory("revtal-screens-").FullName;

        internal ServiceProcess Service { get; private set; } = null!;

        internal string SignIns { get; private set; } = "";

        public async ValueTask InitializeAsync()
        {
            Service = await ServiceProcess.StartAsync(folder, program: "revtal-demo");
            SignIns = Staff.SignInsFile(Service);
        }

        public async ValueTask DisposeAsync()
        {
            await Service.DisposeAsync();
            Directory.Delete(folder, recursive: true);
        }
    }
}
