using System.CommandLine;
using System.CommandLine.Help;
using System.CommandLine.Invocation;

namespace Revtal.CommandLine;

/// <summary>A command that does something, with one line that shows it at work.</summary>
/// <param name="example">As it is typed, on the demo data.</param>
internal sealed class WorkCommand(string name, string description, string example) : Command(name, description)
{
    public string Example { get; } = example;
}

/// <summary>
/// Help that fits a terminal of 100 columns: a group lists its commands, one line each, and shows them at work below;
/// a command has its arguments and options, and its example.
/// </summary>
internal static class Help
{
    private const int Gap = 3,
        Widest = 96;

    /// <summary>Puts this help in the place of the library's own.</summary>
    public static void Use(RootCommand root)
    {
        var help = root.Options.OfType<HelpOption>().Single();
        help.Action = new HelpWithExamples((HelpAction)help.Action!);
        NameShortly(root);
    }

    // The library writes all choices of a value where its name should be; the description has them.
    private static void NameShortly(Command command)
    {
        foreach (var argument in command.Arguments)
        {
            argument.HelpName ??= argument.Name;
        }

        foreach (
            var option in command.Options.Where(o =>
                o is not (HelpOption or VersionOption) && o.ValueType != typeof(bool)
            )
        )
        {
            option.HelpName ??= option.Name.TrimStart('-');
        }

        foreach (var sub in command.Subcommands)
        {
            NameShortly(sub);
        }
    }

    /// <summary>“revtal run waive”.</summary>
    public static string Path(Command command) =>
        command.Parents.OfType<Command>().FirstOrDefault() is { } parent ? $"{Path(parent)} {command.Name}" : "revtal";

    private sealed class HelpWithExamples(HelpAction usual) : SynchronousCommandLineAction
    {
        public override bool ClearsParseErrors => true;

        public override int Invoke(ParseResult parsed)
        {
            var command = parsed.CommandResult.Command;
            var output = parsed.InvocationConfiguration.Output;
            if (command.Subcommands.Count == 0)
            {
                usual.Invoke(parsed);
                if (command is WorkCommand work)
                {
                    output.WriteLine($"Example:\n  {work.Example}\n");
                }

                return 0;
            }

            output.WriteLine($"{command.Description}\n\nUsage:\n  {Path(command)} [command] [options]\n\nCommands:");
            Columns(output, command.Subcommands.Select(c => (c.Name, c.Description)));
            var examples = command.Subcommands.OfType<WorkCommand>().Select(c => c.Example).ToArray();
            if (examples.Length > 0)
            {
                output.WriteLine($"\nExamples:\n{string.Join('\n', examples.Select(e => $"  {Folded(e)}"))}");
            }

            output.WriteLine("\nOptions of every command:");
            Columns(
                output,
                Recursive(command).Select(o => (o.HelpName is { } name ? $"{o.Name} <{name}>" : o.Name, o.Description))
            );
            output.WriteLine($"\n{Path(command)} COMMAND --help tells more of one.");
            return 0;
        }

        private static IEnumerable<Option> Recursive(Command command) =>
            command
                .Options.Concat(command.Parents.OfType<Command>().SelectMany(Recursive))
                .Where(o => o.Recursive && o is not HelpOption);

        // A long line goes on below, as a shell takes it.
        private static string Folded(string example) =>
            example.Length > Widest && example.LastIndexOf(" --", Widest, StringComparison.Ordinal) is > 0 and var fold
                ? $"{example[..fold]} \\\n    {Folded(example[(fold + 1)..])}"
                : example;

        private static void Columns(TextWriter output, IEnumerable<(string Name, string? Text)> rows)
        {
            var list = rows.ToArray();
            var width = list.Max(r => r.Name.Length) + Gap;
            foreach (var (name, text) in list)
            {
                output.WriteLine($"  {name.PadRight(width)}{text}");
            }
        }
    }
}
