using Revtal.Core;
using Revtal.Core.Guides;

namespace Revtal.Dummies;

/// <summary>How a module or drive sits.</summary>
public enum DummySeat
{
    Home,

    /// <summary>Its latches have not clicked: it is not seen.</summary>
    Half,

    /// <summary>It sits askew: the machine does not start.</summary>
    Askew,
}

/// <summary>What is wrong with a part itself.</summary>
public enum PartFault
{
    None,

    /// <summary>It is never seen.</summary>
    Silent,

    /// <summary>The machine does not start with it.</summary>
    Stops,
}

/// <summary>A module in a slot.</summary>
public sealed record DummyFitted(
    DummyModule Module,
    string Maker,
    DummySeat Seat = DummySeat.Home,
    PartFault Fault = PartFault.None
);

/// <summary>A drive in a bay.</summary>
/// <param name="Bytes">What it holds.</param>
/// <param name="PartitionBytes">What its one partition takes; 0 for a raw drive.</param>
/// <param name="Lanes">That it is given; 0 for all it has.</param>
/// <param name="Label">Of the file system on its partition.</param>
/// <param name="IsMounted">Whether a start brings the file system up.</param>
public sealed record DummyDrive(
    string Model,
    string Serial,
    long Bytes,
    long UsedBytes,
    long PartitionBytes,
    DummySeat Seat = DummySeat.Home,
    int Hours = 12,
    int WearPercent = 0,
    int Reallocated = 0,
    int Lanes = 0,
    string? Label = null,
    bool IsMounted = true
);

/// <summary>A simulated machine: what sits in it, how, and whether it lies open.</summary>
/// <param name="Name">Short, unique in the shop: <c>fj14</c>.</param>
/// <param name="Slots">By slot; an empty one is left out.</param>
/// <param name="FaultySlots">Never show a module.</param>
/// <param name="ProfileOff">The modules' rated speed is not set.</param>
/// <param name="Limit">A start setting that caps the memory, as it is written: <c>mem=4G</c>.</param>
/// <param name="StartsFrom">The bay that the system starts from; null: the guide's.</param>
/// <param name="SeenLast">What the firmware counted at its last start, in bytes.</param>
/// <param name="StartedAt">Null while it is off.</param>
public sealed record DummyMachine(
    string Name,
    string Model,
    string? Variant,
    string Serial,
    bool IsOpen,
    IReadOnlyDictionary<string, DummyFitted> Slots,
    IReadOnlyDictionary<string, DummyDrive> Bays,
    IReadOnlyList<string> FaultySlots,
    bool ProfileOff,
    string? Limit,
    string? StartsFrom,
    long SeenLast,
    DateTimeOffset? StartedAt
)
{
    public bool IsOn => StartedAt is not null;

    /// <summary>
    /// A machine as its maker ships it: one module of 8 GB, or what is soldered; one drive where it starts from, or all
    /// bays of a box.
    /// </summary>
    public static DummyMachine Make(Guide guide, string name, string? variant, string serial)
    {
        var soldered = guide.Memory.Slots.Where(s => s.Soldered).Select(s => s.Id).ToArray();
        var first =
            guide.Memory.Populate.Lines.OrderBy(p => p.Key).Select(p => p.Value).FirstOrDefault()
            ?? [.. guide.Memory.Slots.Take(1).Select(s => s.Id)];
        var filled = soldered.Concat(soldered.Length > 0 ? [] : first);
        var boot = guide.Drives.FirstOrDefault(d => d.Boots)?.Id;
        var bays = guide.Drives.Where(d => d.Id == boot || boot is null);
        return new DummyMachine(
            name,
            guide.Model.Code,
            variant,
            serial,
            false,
            filled.ToDictionary(
                s => s,
                s =>
                    DummyParts.Module(
                        guide,
                        guide.Slot(s)?.Max is { } max ? (int)Math.Min(8, max.Bytes >> 30) : 8,
                        null,
                        $"{serial}-{s}"
                    )
            ),
            bays.ToDictionary(
                b => b.Id,
                b =>
                    DummyParts.Drive(
                        b,
                        boot is null ? 8_000_000_000_000 : 512_110_190_592,
                        $"{serial}-{b.Id}",
                        initialised: true
                    )
            ),
            [],
            false,
            null,
            null,
            filled.Count() * 8L << 30,
            null
        );
    }
}

/// <summary>What is done to a simulated machine. Hands go in only while it is open and off.</summary>
public static class DummyHands
{
    public static DummyMachine Open(DummyMachine m) =>
        m.IsOn
            ? throw Refuse("dummy-on", $"{m.Name} is on. Switch it off first: a real one would take harm.")
            : m with
            {
                IsOpen = true,
            };

    public static DummyMachine Close(DummyMachine m) => m with { IsOpen = false };

    public static DummyMachine Off(DummyMachine m) => m with { StartedAt = null };

    public static DummyMachine Fit(DummyMachine m, Guide guide, string slot, DummyFitted module)
    {
        NeedOpen(m);
        return guide.NeedSlot(slot) switch
        {
            { Soldered: true } => throw Refuse("slot-soldered", $"{slot} is soldered."),
            _ when m.Slots.ContainsKey(slot) => throw Refuse("slot-full", $"{slot} holds a module. Pull it first."),
            _ => m with { Slots = With(m.Slots, slot, module) },
        };
    }

    public static DummyMachine Pull(DummyMachine m, Guide guide, string position)
    {
        NeedOpen(m);
        return m.Bays.ContainsKey(position) ? m with { Bays = Without(m.Bays, position) }
            : guide.Slot(position) is { Soldered: false } && m.Slots.ContainsKey(position)
                ? m with
                {
                    Slots = Without(m.Slots, position),
                }
            : throw Refuse("nothing-there", $"Nothing can be pulled from {position}.");
    }

    /// <summary>Moves a module; two change places when both slots are full.</summary>
    public static DummyMachine Move(DummyMachine m, Guide guide, string from, string to)
    {
        NeedOpen(m);
        if (guide.NeedSlot(from).Soldered || guide.NeedSlot(to).Soldered || !m.Slots.TryGetValue(from, out var module))
        {
            throw Refuse("nothing-there", $"No module can move from {from} to {to}.");
        }

        var slots = With(Without(m.Slots, from), to, module with { Seat = DummySeat.Home });
        return m with
        {
            Slots = m.Slots.TryGetValue(to, out var other)
                ? With(slots, from, other with { Seat = DummySeat.Home })
                : slots,
        };
    }

    public static DummyMachine SeatAs(DummyMachine m, string position, DummySeat seat)
    {
        NeedOpen(m);
        return m.Slots.TryGetValue(position, out var module)
                ? m with
                {
                    Slots = With(m.Slots, position, module with { Seat = seat }),
                }
            : m.Bays.TryGetValue(position, out var drive)
                ? m with
                {
                    Bays = With(m.Bays, position, drive with { Seat = seat }),
                }
            : throw Refuse("nothing-there", $"Nothing sits in {position}.");
    }

    public static DummyMachine FitDrive(DummyMachine m, Guide guide, string bay, DummyDrive drive)
    {
        NeedOpen(m);
        return guide.Bay(bay) is null ? throw Refuse("no-such-bay", $"{guide.Model.Code} has no bay {bay}.")
            : m.Bays.ContainsKey(bay) ? throw Refuse("bay-full", $"{bay} holds a drive. Pull it first.")
            : m with { Bays = With(m.Bays, bay, drive) };
    }

    private static void NeedOpen(DummyMachine m)
    {
        if (!m.IsOpen || m.IsOn)
        {
            throw m.IsOn
                ? Refuse("dummy-on", $"{m.Name} is on. Switch it off first.")
                : Refuse("dummy-closed", $"{m.Name} is closed. Open it first.");
        }
    }

    private static Dictionary<string, T> With<T>(IReadOnlyDictionary<string, T> all, string key, T value) =>
        new(all) { [key] = value };

    private static Dictionary<string, T> Without<T>(IReadOnlyDictionary<string, T> all, string key) =>
        all.Where(p => p.Key != key).ToDictionary(p => p.Key, p => p.Value);

    private static RefusedException Refuse(string code, string message) => RefusedException.Rule(code, message);
}
