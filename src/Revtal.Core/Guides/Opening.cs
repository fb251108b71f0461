namespace Revtal.Core.Guides;

/// <summary>What is to be careful of on opening a machine of which only the kind is known.</summary>
public static class Opening
{
    private static readonly Precaution Seal = new(
        "seal",
        "A warranty seal over a fastener: stop, and ask whether it may be broken."
    );

    /// <param name="kind">As the trade says: <c>laptop</c>, <c>all-in-one</c>, <c>tower</c>.</param>
    public static IReadOnlyList<Precaution> Of(string kind) =>
        [
            .. kind.Trim().ToLowerInvariant() switch
            {
                "laptop" => new Precaution[]
                {
                    new("screw", "Feet, labels and the battery may hide fasteners. Nothing is forced."),
                    new("cable", "What comes off may hang on a flat cable: lift it a finger's width and look."),
                    new("power", "A battery inside keeps the board live until its connector is off."),
                },
                "all-in-one" =>
                [
                    new("glass", "It may open by its glass: nothing is pried against the panel."),
                    new("cable", "Panel and stand may hang on cables: lift it a finger's width and look."),
                    new("power", "Its supply may hold a charge: touch nothing of it."),
                ],
                "tower" or "workstation" or "server" =>
                [
                    new("edge", "The edges of the sheet metal are sharp."),
                    new("heat", "Coolers stay hot after it is off."),
                ],
                "storage box" =>
                [
                    new("data", "Number each tray by its bay before it leaves."),
                    new("edge", "The edges of the sheet metal are sharp."),
                ],
                _ =>
                [
                    new("screw", "Feet and labels may hide fasteners. Nothing is forced."),
                    new("cable", "What comes off may hang on a cable: lift it a finger's width and look."),
                ],
            },
            Seal,
        ];
}
