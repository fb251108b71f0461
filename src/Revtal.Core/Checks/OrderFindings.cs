namespace Revtal.Core.Checks;

/// <summary>What the bench itself told that no reading shows.</summary>
internal static class OrderFindings
{
    public static IEnumerable<Finding> Of(CheckFacts f)
    {
        if (f.History.Loose is { Count: > 0 } loose)
        {
            var count = Phrases.Counted(loose.Values.Sum(), "fastener", "fasteners");
            var where = Phrases.Listed(loose.Keys.Select(f.Guide.TitleOf));
            yield return f.Finding(
                "metal-loose",
                Severity.Remark,
                $"{count} of the {where} did not go back: "
                    + $"{Phrases.Plural(loose.Values.Sum(), "it", "they")} may lie in the machine.",
                $"{count} fewer back than out",
                "as many back as out",
                ["It fell into the machine.", "It lies on the mat, or sits in another hole."],
                new NextAction(
                    ActionKind.Compare,
                    "Look under the board with a lamp, tilt and listen. Record it as found, or a lead says that it is "
                        + "out of the machine.",
                    []
                )
            );
        }

        if (f.History.Sign is { } sign)
        {
            yield return f.Finding(
                "start-sign",
                Severity.Remark,
                sign.Sentence,
                sign.Sees,
                "a normal start",
                sign.Known is { } known ? [Phrases.Sentence($"{known.Meaning}.")] : ["Nobody knows yet."],
                new NextAction(ActionKind.Compare, sign.Ends, [])
            );
        }

        if (f.History.CameBack is { } seen)
        {
            yield return f.Finding(
                "came-back",
                Severity.Remark,
                $"It came back while it was watched: {seen}",
                seen,
                "nothing of the fault",
                [
                    "A module that fails when it is warm or loaded.",
                    "The fault is not in the memory: then another part is planned, or the customer is told.",
                ],
                new NextAction(ActionKind.SwapTest, "Begin the swap test: each start as long as it took to fail.", [])
            );
        }
    }
}
