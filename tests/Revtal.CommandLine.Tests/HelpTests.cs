using System.CommandLine;
using Revtal.CommandLine;
using Xunit;

namespace Revtal.Tests.CommandLine;

/// <summary>What a person reads who does not know a command yet, or typed it wrongly.</summary>
public sealed class HelpTests
{
    private static readonly RootCommand Root = Cli.Root();

    public static TheoryData<string> Groups => [.. All(Root).Where(c => c.Subcommands.Count > 0).Select(Help.Path)];

    [Theory]
    [MemberData(nameof(Groups))]
    public void A_group_lists_its_commands_in_lines_that_fit_a_terminal(string path)
    {
        var text = Print([.. Words(path), "--help"]);
        var group = Find(path);
        Assert.All(text.Split('\n'), line => Assert.InRange(line.Length, 0, 100));
        Assert.All(group.Subcommands, c => Assert.Contains($"\n  {c.Name} ", text, StringComparison.Ordinal));
    }

    [Fact]
    public void Every_example_is_a_command_that_the_program_itself_understands() =>
        Assert.All(
            All(Root).OfType<WorkCommand>().Where(c => c.Example.StartsWith("revtal ", StringComparison.Ordinal)),
            c =>
                Assert.Empty(
                    Root.Parse(Words(c.Example.Split(" > ")[0])).Errors.Select(e => $"{c.Example}: {e.Message}")
                )
        );

    [Fact]
    public void Every_hint_names_a_command_that_there_is() =>
        Assert.All(
            Hints.All,
            hint =>
            {
                var known = Words(hint).TakeWhile(w => char.IsLower(w[0])).ToArray();
                var command = Root.Parse([.. known, "--help"]).CommandResult.Command;
                Assert.StartsWith($"{Help.Path(command)} ", $"{hint} ", StringComparison.Ordinal);
                Assert.NotEqual(Root, command);
            }
        );

    [Theory]
    [InlineData("run show soon", "“soon” is no ORDER: write a whole number, like 104.")]
    [InlineData("part split x --into 1", "“x” is no KIT: write a whole number, like 104.")]
    public void A_word_of_the_wrong_kind_is_answered_without_the_program_s_own_types(string typed, string said) =>
        Assert.Contains(said, Root.Parse(typed.Split(' ')).Errors.Select(UsageErrors.Sentence));

    [Fact]
    public void What_is_wrong_of_any_command_names_no_type() =>
        Assert.All(
            All(Root).Where(c => c.Arguments.Count > 0),
            c =>
                Assert.All(
                    Root.Parse([.. Words(Help.Path(c)), "?", "?", "?"]).Errors.Select(UsageErrors.Sentence),
                    text => Assert.DoesNotContain("System.", text, StringComparison.Ordinal)
                )
        );

    private static IEnumerable<Command> All(Command command) => command.Subcommands.SelectMany(All).Prepend(command);

    private static Command Find(string path) => All(Root).First(c => Help.Path(c) == path);

    private static string[] Words(string line) =>
        [.. System.CommandLine.Parsing.CommandLineParser.SplitCommandLine(line).Skip(1)];

    private static string Print(string[] arguments)
    {
        using var output = new StringWriter();
        Root.Parse(arguments).Invoke(new InvocationConfiguration { Output = output });
        return output.ToString();
    }
}
