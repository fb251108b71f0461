namespace Revtal.Core.Guides;

/// <summary>Steps in people's words: as they are asked for, and as the journal tells them.</summary>
public static class StepWords
{
    /// <summary>“Take off the hatch”, “Fit S2”. Short, for lists and references; a run's own step says more.</summary>
    /// <param name="guide">Gives removals their titles; without it they are called by their names.</param>
    public static string Title(StepId id, Guide? guide) =>
        id.Verb switch
        {
            StepVerb.Prepare => "Lay out mat, strap and trays",
            StepVerb.Isolate => Isolation(id, guide)?.Sentence ?? Guides.Isolation.Sentence(id.Subject),
            StepVerb.Open when Removal(id, guide) is { Isolates: true } r =>
                $"Lift the {r.Title}: power leaves the board",
            StepVerb.Open => $"Take off the {Part(id, guide)}",
            StepVerb.Close => $"Put the {Part(id, guide)} back",
            StepVerb.Record when id == StepId.RecordModules => "Look what sits in the slots",
            StepVerb.Record => "Write down which drive sits in which bay",
            StepVerb.Look => $"Look at {id.Subject}",
            StepVerb.Pull when IsBay(id, guide) => $"Take the drive out of {id.Subject}",
            StepVerb.Pull => $"Pull the module from {id.Subject}",
            StepVerb.Fit when IsBay(id, guide) => $"Fit the drive into {id.Subject}",
            StepVerb.Fit => $"Fit the module into {id.Subject}",
            StepVerb.Measure => "Start it with the case open and read the capacity",
            StepVerb.Start => "Connect mains and start the machine",
            _ => SetUp(
                id,
                "Initialise",
                "Put a file system on",
                "Mount",
                "Grow the file system on",
                "Begin the rebuild with"
            ),
        };

    /// <summary>
    /// “Took off the hatch”, “Held the power button for 10 s”: what the journal says of a step that was done.
    /// </summary>
    /// <inheritdoc cref="Title" path="/param"/>
    public static string Done(StepId id, Guide? guide) =>
        id.Verb switch
        {
            StepVerb.Prepare => "Laid out mat, strap and trays",
            StepVerb.Isolate => Isolation(id, guide)?.DoneSentence ?? Guides.Isolation.DoneSentence(id.Subject),
            StepVerb.Open when Removal(id, guide) is { Isolates: true } r =>
                $"Lifted the {r.Title}: power left the board",
            StepVerb.Open => $"Took off the {Part(id, guide)}",
            StepVerb.Close => $"Put the {Part(id, guide)} back",
            StepVerb.Record when id == StepId.RecordModules => "Looked what sits in the slots",
            StepVerb.Record => "Wrote down which drive sits in which bay",
            StepVerb.Look => $"Looked at {id.Subject}",
            StepVerb.Pull when IsBay(id, guide) => $"Took the drive out of {id.Subject}",
            StepVerb.Pull => $"Pulled the module from {id.Subject}",
            StepVerb.Fit when IsBay(id, guide) => $"Fitted the drive into {id.Subject}",
            StepVerb.Fit => $"Fitted the module into {id.Subject}",
            StepVerb.Measure => "Started it with the case open",
            StepVerb.Start => "Connected mains and started it",
            _ => SetUp(
                id,
                "Initialised",
                "Put a file system on",
                "Mounted",
                "Grew the file system on",
                "Began the rebuild with"
            ),
        };

    /// <summary>“ at “Take off the hatch””, or nothing where it belongs to no step.</summary>
    public static string At(StepId? id, Guide? guide) => Phrases.When(id, i => $" at “{Title(i, guide)}”");

    private static string SetUp(StepId id, string initialise, string format, string mount, string grow, string array)
    {
        var does = id.Work switch
        {
            "initialise" => initialise,
            "format" => format,
            "mount" => mount,
            "grow" => grow,
            "array" => array,
            _ => id.Work,
        };
        return $"{does} {id.Subject}";
    }

    private static IsolationStep? Isolation(StepId id, Guide? guide) =>
        guide?.Isolate.FirstOrDefault(i => i.Kind == id.Subject);

    private static Removal? Removal(StepId id, Guide? guide) => guide?.Removals.FirstOrDefault(r => r.Id == id.Subject);

    private static string Part(StepId id, Guide? guide) => Removal(id, guide)?.Title ?? id.Subject;

    private static bool IsBay(StepId id, Guide? guide) => guide?.Bay(id.Subject) is not null;
}
