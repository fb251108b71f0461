namespace Revtal.Core.Guides;

/// <summary>Steps in people's words: as they are asked for, and as the journal tells them.</summary>
public static class StepWords
{
    /// <summary>“Take off the hatch”, “Fit S2”. Short, for lists and references; a run's own step says more.</summary>
    /// <param name="guide">Gives removals their titles; without it they are called by their names.</param>
    public static string Title(StepId id, Guide? guide) => Of(id, guide).Ask;

    /// <summary>
    /// “Took off the hatch”, “Held the power button for 10 s”: what the journal says of a step that was done.
    /// </summary>
    /// <inheritdoc cref="Title" path="/param"/>
    public static string Done(StepId id, Guide? guide) => Of(id, guide).Done;

    /// <summary>“ at “Take off the hatch””, or nothing where it belongs to no step.</summary>
    public static string At(StepId? id, Guide? guide) => Phrases.When(id, i => $" at “{Title(i, guide)}”");

    private static (string Ask, string Done) Of(StepId id, Guide? guide)
    {
        var part = Removal(id, guide)?.Title ?? id.Subject;
        var isolation = guide?.Isolate.FirstOrDefault(i => i.Kind == id.Subject);
        var what = guide?.Bay(id.Subject) is null ? "module" : "drive";
        return id.Verb switch
        {
            StepVerb.Prepare => ("Lay out mat, strap and trays", "Laid out mat, strap and trays"),
            StepVerb.Isolate => (
                isolation?.Sentence ?? Isolation.Sentence(id.Subject),
                isolation?.DoneSentence ?? Isolation.DoneSentence(id.Subject)
            ),
            StepVerb.Return => Isolation.Return(id.Subject),
            StepVerb.Open when Removal(id, guide) is { Isolates: true } => (
                $"Lift the {part}: power leaves the board",
                $"Lifted the {part}: power left the board"
            ),
            StepVerb.Open => ($"Take off the {part}", $"Took off the {part}"),
            StepVerb.Uncover => ($"Open it until {id.Subject} lies open", $"{id.Subject} lies open"),
            StepVerb.Close => ($"Put the {part} back", $"Put the {part} back"),
            StepVerb.Record when id == StepId.RecordModules => (
                "Look what sits in the slots",
                "Looked what sits in the slots"
            ),
            StepVerb.Record => ("Write down which drive sits in which bay", "Wrote down which drive sits in which bay"),
            StepVerb.Look => ($"Look at {id.Subject}", $"Looked at {id.Subject}"),
            StepVerb.Pull when what == "drive" => (
                $"Take the drive out of {id.Subject}",
                $"Took the drive out of {id.Subject}"
            ),
            StepVerb.Pull => ($"Pull the module from {id.Subject}", $"Pulled the module from {id.Subject}"),
            StepVerb.Fit => ($"Fit the {what} into {id.Subject}", $"Fitted the {what} into {id.Subject}"),
            StepVerb.Clean => ("Clean it inside", "Cleaned it inside"),
            StepVerb.Measure => ("Start it with the case open and read the capacity", "Started it with the case open"),
            StepVerb.Start when id == StepId.StartOrder => (
                "Set the firmware's start order",
                "Set the firmware's start order"
            ),
            StepVerb.Start => ("Connect mains and start the machine", "Connected mains and started it"),
            _ => SetUp(id),
        };
    }

    private static (string Ask, string Done) SetUp(StepId id)
    {
        var (ask, done) = id.Work switch
        {
            "initialise" => ("Initialise", "Initialised"),
            "format" => ("Put a file system on", "Put a file system on"),
            "rename" => ("Rename the file system on", "Renamed the file system on"),
            "mount" => ("Mount", "Mounted"),
            "grow" => ("Grow the file system on", "Grew the file system on"),
            "array" => ("Begin the rebuild with", "Began the rebuild with"),
            var other => (other, other),
        };
        return ($"{ask} {id.Subject}", $"{done} {id.Subject}");
    }

    private static Removal? Removal(StepId id, Guide? guide) => guide?.Removals.FirstOrDefault(r => r.Id == id.Subject);
}
