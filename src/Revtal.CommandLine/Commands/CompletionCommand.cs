using System.CommandLine;

namespace Revtal.CommandLine.Commands;

internal static class CompletionCommand
{
    // The shell hands over the line so far; the command's own parser knows what may follow.
    private const string Bash = """
        _revtal() {
          local line="${COMP_LINE:0:COMP_POINT}"
          COMPREPLY=($(compgen -W "$(revtal "[suggest:${#line}]" "$line" 2>/dev/null)" -- "${COMP_WORDS[COMP_CWORD]}"))
        }
        complete -F _revtal revtal
        """;

    public static Command Make()
    {
        var command = new WorkCommand(
            "completion",
            "Print the completion script for bash",
            "source <(revtal completion)"
        );
        command.SetAction(_ => Console.WriteLine(Bash));
        return command;
    }
}
