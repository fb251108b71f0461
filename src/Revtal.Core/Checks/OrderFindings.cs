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

        if (f.History.Trial is { } trial)
        {
            yield return Trial(f, trial);
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

    private static Finding Trial(CheckFacts f, TrialFact trial) =>
        trial switch
        {
            { Outcome: null } => f.Finding(
                "trial-owed",
                Severity.Remark,
                $"The trial that the customer asked for was not run yet: {trial.Work}.",
                "no trial since the work",
                trial.Work,
                ["Nobody ran it."],
                new NextAction(ActionKind.Compare, "Run it, and record what came of it.", [])
            ),
            { AsWished: true } => f.Finding(
                "trial-fine",
                Severity.Note,
                $"The trial ran as wished: {trial.Work}.",
                "as wished",
                trial.Work,
                [],
                new NextAction(ActionKind.None, "Nothing to do.", [])
            ),
            _ => f.Finding(
                trial.Failed ? "trial-failed" : "trial-sluggish",
                Severity.Remark,
                $"The trial was not as wished: {trial.Work}, {trial.Outcome}. {trial.Note}".TrimEnd(),
                trial.Outcome!,
                "as wished",
                [
                    "The machine lacks something else than memory: processor, drive, graphics.",
                    "A module fails under load.",
                ],
                new NextAction(
                    ActionKind.Compare,
                    "Watch the load meanwhile, look what is at its limit, and tell the customer.",
                    []
                )
            ),
        };
}
