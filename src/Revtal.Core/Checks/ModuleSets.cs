using Revtal.Core.Hardware;

namespace Revtal.Core.Checks;

/// <summary>
/// The modules before and after as sets of serials: what was there and is gone, what moved, what is not what was
/// booked. Compared before places are.
/// </summary>
internal sealed class ModuleSets
{
    private readonly CheckFacts facts;

    public ModuleSets(CheckFacts facts)
    {
        this.facts = facts;
        var serials = facts.Rows.Select(r => SerialNumber.Plain(r.After.Module?.Serial)).OfType<string>().ToArray();
        Repeats = serials.Distinct().Count() < serials.Length;
        IsWhole =
            !Repeats
            && facts.SlotsKnown
            && facts.Rows.All(r => r.After.Module is null || SerialNumber.Plain(r.After.Module.Serial) is not null);
    }

    /// <summary>Firmware gives several modules one serial: then they tell nothing.</summary>
    public bool Repeats { get; }

    /// <summary>Whether every module that is there told its serial: one that is not among them is gone.</summary>
    public bool IsWhole { get; }

    /// <summary>The serial that should be in this row; null where the plan names none.</summary>
    public string? Expected(CheckRow row) => row.Planned is null ? null : Booked(row) ?? row.Planned.Serial;

    private string? Booked(CheckRow row) => facts.History.Booked?.GetValueOrDefault(row.Slot);

    /// <summary>The row in which this serial is now; null where it is not seen.</summary>
    public CheckRow? Where(string? serial) =>
        Repeats ? null : facts.Rows.FirstOrDefault(r => Same(r.After.Module?.Serial, serial) == true);

    /// <summary>
    /// Whether what sat there before sits there still; null where serials do not tell. One serial on two sizes is the
    /// slot's, not a module's.
    /// </summary>
    public bool? IsOld(CheckRow row) =>
        Repeats ? null
        : row.Before.Module?.Size != row.After.Module?.Size ? false
        : Same(row.Before.Module?.Serial, row.After.Module?.Serial);

    /// <summary>Whether it is the one that should be there; null where serials do not tell.</summary>
    public bool? IsRight(CheckRow row) => Repeats ? null : Same(Expected(row), row.After.Module?.Serial);

    /// <summary>
    /// Whether two serials are of one module; null where one of them is not told. Firmware and label write a module's
    /// serial alike, but for padding and case.
    /// </summary>
    public static bool? Same(string? a, string? b) =>
        (SerialNumber.Plain(a), SerialNumber.Plain(b)) is ({ } x, { } y) ? x == y : null;
}
