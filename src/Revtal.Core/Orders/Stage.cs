namespace Revtal.Core.Orders;

/// <summary>Where an order stands, in the order in which it moves.</summary>
public enum Stage
{
    TakenIn,
    Measured,
    Planned,
    Agreed,
    OnBench,
    Checking,
    Watching,
    Ready,
    HandedBack,
    Parked,
    Cancelled,
}

/// <summary>Stages as they are said.</summary>
public static class StageWords
{
    /// <summary>“taken in”, “on bench”.</summary>
    public static string Spoken(this Stage stage) => Phrases.Words(stage);

    /// <summary>As scripts write it: <c>on-bench</c>.</summary>
    public static string Word(this Stage stage) => stage.Spoken().Replace(' ', '-');

    /// <exception cref="RefusedException">There is no such stage.</exception>
    public static Stage Parse(string word) =>
        Enum.GetValues<Stage>().Cast<Stage?>().FirstOrDefault(s => s!.Value.Word() == word)
        ?? throw RefusedException.Invalid(
            "no-such-stage",
            $"There is no stage “{word}”. Stages: {string.Join(", ", Enum.GetValues<Stage>().Select(Word))}."
        );
}
