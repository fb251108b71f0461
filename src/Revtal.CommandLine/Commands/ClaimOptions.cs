using System.CommandLine;
using Revtal.Core.Parts;

namespace Revtal.CommandLine.Commands;

/// <summary>Under what a part goes back to who sold it: the same words wherever that is told.</summary>
internal sealed class ClaimOptions
{
    private readonly Option<string?> number = new("--claim")
    {
        Description = "Of a part that goes back to who sold it: the claim's number",
    };

    private readonly Option<DateOnly?> on = new("--claimed-on") { Description = "The claim's day; today if not given" };

    private readonly Option<string?> reason = new("--claim-reason") { Description = "What is claimed" };

    public Option[] All => [number, on, reason];

    /// <summary>The claim; null where none is told.</summary>
    public Claim? Of(ParseResult p) =>
        p.GetValue(number) is { } told
            ? new Claim(told, p.GetValue(on) ?? DateOnly.FromDateTime(DateTime.Now), p.GetValue(reason) ?? "")
            : null;
}
