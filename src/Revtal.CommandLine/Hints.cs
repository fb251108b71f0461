namespace Revtal.CommandLine;

/// <summary>
/// Which command does what a refusal asks for. The service's sentences hold for every face and name no command;
/// this is the terminal's own addition to them.
/// </summary>
internal static class Hints
{
    private static readonly Dictionary<string, string> Commands = new()
    {
        ["array-state-missing"] = "revtal plan set --help",
        ["boot-copy-missing"] = "revtal order copy --help",
        ["bundle-unknown"] = "revtal reading take --help",
        ["data-path-missing"] = "revtal plan set --help",
        ["draft-problems"] = "revtal guide check FILE",
        ["guide-problems"] = "revtal guide check FILE",
        ["kit-not-whole"] = "revtal part items",
        ["kit-together"] = "revtal part split ITEM",
        ["hand-over-unread"] = "revtal order owner-read ORDER",
        ["lead-names"] = "revtal shop show",
        ["not-signed-in"] = "revtal shop sign-in ID",
        ["no-such-link"] = "revtal shop invite ID",
        ["no-such-session"] = "revtal shop sign-ins",
        ["no-invoice"] = "revtal order charge ORDER",
        ["no-such-invoice"] = "revtal shop invoices",
        ["invoice-stands"] = "revtal order reverse ORDER --reason WHY",
        ["nothing-agreed"] = "revtal plan set ORDER",
        ["more-than-open"] = "revtal order invoice ORDER",
        ["no-copy"] = "revtal order copy begin ORDER BAY",
        ["no-draft"] = "revtal guide draft --help",
        ["no-plan"] = "revtal plan set ORDER",
        ["no-reading"] = "revtal reading take ORDER",
        ["merge-path"] = "revtal guide merge FILE --dry-run",
        ["no-such-batch"] = "revtal batch list",
        ["step-one-by-one"] = "revtal run work ORDER",
        ["no-such-bay"] = "revtal order show ORDER",
        ["no-such-dummy"] = "revtal dummy list",
        ["no-such-item"] = "revtal part items",
        ["no-such-model"] = "revtal guide list",
        ["no-such-order"] = "revtal order list",
        ["no-such-part"] = "revtal part list",
        ["no-such-position"] = "revtal order show ORDER",
        ["no-such-revision"] = "revtal guide compare CODE",
        ["no-such-slot"] = "revtal order show ORDER",
        ["no-such-step"] = "revtal run show ORDER",
        ["no-such-suggestion"] = "revtal guide suggestions",
        ["no-such-variant"] = "revtal guide show CODE",
        ["power-not-isolated"] = "revtal run show ORDER",
        ["price-missing"] = "revtal part add --help",
        ["run-stopped"] = "revtal run waive ORDER run-stopped --reason WHY",
        ["seal-consent-missing"] = "revtal order seal --help",
        ["serial-here"] = "revtal part items --serial SERIAL",
        ["stale"] = "revtal order show ORDER",
        ["step-waits"] = "revtal run show ORDER",
        ["still-cooling"] = "revtal run show ORDER",
        ["tally-open"] = "revtal run show ORDER",
    };

    /// <summary>“See: revtal part items”, or nothing where the sentence says it all.</summary>
    /// <param name="code">The refusal's code.</param>
    public static string After(string code) => Commands.TryGetValue(code, out var command) ? $" See: {command}." : "";

    /// <summary>The commands, as they are typed.</summary>
    public static IReadOnlyCollection<string> All => Commands.Values;
}
