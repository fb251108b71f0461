using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Dummies;
using Revtal.Storage;

namespace Revtal.Service.Dummies;

/// <summary>Simulated machines: made by a guide, opened, refitted, started, and read like any other.</summary>
public sealed partial class DummyDesk(DummyStore store, GuideShelf guides, TimeProvider clock)
{
    public async Task<IReadOnlyList<DummyView>> ListAsync(CancellationToken cancel)
    {
        var machines = (await store.ListAsync(cancel)).Select(Read).ToArray();
        var views = new List<DummyView>(machines.Length);
        foreach (var machine in machines)
        {
            views.Add(View(await GuideAsync(machine, cancel), machine));
        }

        return views;
    }

    public async Task<DummyView> GetAsync(string name, CancellationToken cancel)
    {
        var (machine, guide) = await LoadAsync(name, cancel);
        return View(guide, machine);
    }

    public async Task<DummyView> MakeAsync(DummyRequest request, Hand hand, CancellationToken cancel)
    {
        if (!NameShape().IsMatch(request.Name ?? ""))
        {
            throw RefusedException.Invalid(
                "dummy-name",
                "A dummy's name is 2 to 20 lower case letters, digits or hyphens."
            );
        }

        var model = guides.Get(Words.RequiredLine("The model", request.Model), guides.Newest(request.Model));
        if (model.IsSketch)
        {
            throw RefusedException.Rule(
                "guide-sketched",
                $"{model.Model.Code} is a sketch: a dummy is built by a published guide."
            );
        }

        if (request.Variant is { } variant)
        {
            model.NeedVariant(variant);
        }

        var guide = model.For(request.Variant);
        var machine = DummyMachine.Make(
            guide,
            request.Name!,
            request.Variant,
            Words.Line("The serial", request.Serial) ?? $"{guide.Model.Code}-{request.Name!.ToUpperInvariant()}"
        );
        return await store.AddAsync(machine.Name, Write(machine), View(guide, machine), hand, cancel);
    }

    public async Task<DummyView> ActAsync(string name, DummyActRequest request, Hand hand, CancellationToken cancel)
    {
        var (_, guide) = await LoadAsync(name, cancel);
        return await store.ChangeAsync(
            name,
            state =>
            {
                var machine = Read(state);
                var (after, shown) =
                    request.Act == DummyAct.Start
                        ? DummyStart.Of(guide, machine, clock.GetUtcNow())
                        : (Do(guide, machine, request), null);
                return (Write(after), View(guide, after, shown));
            },
            hand,
            cancel
        );
    }

    /// <summary>What its collector would send now.</summary>
    public async Task<CaptureBundle> CaptureAsync(string name, CancellationToken cancel)
    {
        var (machine, guide) = await LoadAsync(name, cancel);
        return DummyReport.All(guide, machine, clock.GetUtcNow());
    }

    private static DummyMachine Do(Guide guide, DummyMachine m, DummyActRequest r)
    {
        switch (r.Act)
        {
            case DummyAct.Open:
                return DummyHands.Open(m);
            case DummyAct.Close:
                return DummyHands.Close(m);
            case DummyAct.Off:
                return DummyHands.Off(m);
            case DummyAct.Pull:
                return DummyHands.Pull(m, guide, Position(guide, r.Position));
            case DummyAct.Move:
                return DummyHands.Move(m, guide, Position(guide, r.From), Position(guide, r.Position));
            case DummyAct.Seat:
                return DummyHands.SeatAs(
                    m,
                    Position(guide, r.Position),
                    r.How is null ? DummySeat.Home : Word<DummySeat>("how", r.How)
                );
            case DummyAct.Fit when guide.Bay(Position(guide, r.Position)) is { } bay:
                return DummyHands.FitDrive(
                    m,
                    guide,
                    bay.Id,
                    DummyParts.Drive(
                        bay,
                        DriveSize.Sold(Math.Clamp(r.Gigabytes ?? 1000, 50, 100_000)).Bytes,
                        r.Serial ?? Serial(m, bay.Id),
                        !r.Raw,
                        r.Raw ? null : Used(m, bay.Id)
                    )
                );
            case DummyAct.Fit:
                return DummyHands.Fit(
                    m,
                    guide,
                    r.Position!,
                    DummyParts.Module(guide, r.Gigabytes ?? 8, r.Speed, r.Serial ?? Serial(m, r.Position!), r.Part)
                );
            case DummyAct.Spoil or DummyAct.Mend:
                return Spoil(m, Position(guide, r.Position), r.Act == DummyAct.Mend ? "none" : r.How ?? "silent");
            default:
                return Set(guide, m, r);
        }
    }

    // Spoiling a part needs no hands: it happens.
    private static DummyMachine Spoil(DummyMachine m, string position, string how) =>
        how switch
        {
            "slot" => m with { FaultySlots = [.. m.FaultySlots.Append(position).Distinct()] },
            "worn" when m.Bays.TryGetValue(position, out var drive) => m with
            {
                Bays = new Dictionary<string, DummyDrive>(m.Bays)
                {
                    [position] = drive with { Hours = 41_200, WearPercent = 91, Reallocated = 18 },
                },
            },
            "lanes" when m.Bays.TryGetValue(position, out var drive) => m with
            {
                Bays = new Dictionary<string, DummyDrive>(m.Bays) { [position] = drive with { Lanes = 2 } },
            },
            "none" => m with
            {
                FaultySlots = [.. m.FaultySlots.Where(s => s != position)],
                Slots = m.Slots.ToDictionary(
                    s => s.Key,
                    s => s.Key == position ? s.Value with { Fault = PartFault.None } : s.Value
                ),
                Bays = m.Bays.ToDictionary(
                    b => b.Key,
                    b =>
                        b.Key == position
                            ? b.Value with
                            {
                                Hours = 12,
                                WearPercent = 0,
                                Reallocated = 0,
                                Lanes = 0,
                            }
                            : b.Value
                ),
            },
            _ when m.Slots.TryGetValue(position, out var module) => m with
            {
                Slots = new Dictionary<string, DummyFitted>(m.Slots)
                {
                    [position] = module with { Fault = Word<PartFault>("how", how) },
                },
            },
            _ => throw RefusedException.Rule("nothing-there", $"Nothing sits in {position} that could be spoiled so."),
        };

    private static DummyMachine Set(Guide guide, DummyMachine m, DummyActRequest r) =>
        r.How switch
        {
            "profile-off" => m with { ProfileOff = true },
            "profile-on" => m with { ProfileOff = false },
            "limit" => m with { Limit = Words.Line("The limit", r.Value) },
            "boots" => m with
            {
                StartsFrom = r.Value is null
                    ? null
                    : guide.Bay(r.Value)?.Id
                        ?? throw RefusedException.Invalid("no-such-bay", $"{guide.Model.Code} has no bay {r.Value}."),
            },
            "label" => OnDrive(guide, m, r, d => d with { Label = Words.Line("The label", r.Value) }),
            "mounted" => OnDrive(guide, m, r, d => d with { IsMounted = true }),
            "unmounted" => OnDrive(guide, m, r, d => d with { IsMounted = false }),
            _ => throw RefusedException.Invalid(
                "setting-unknown",
                "Settings are profile-off, profile-on, limit (mem=4G, or nothing), boots (a bay), and of a bay label "
                    + "(or nothing), mounted, unmounted."
            ),
        };

    private static DummyMachine OnDrive(Guide guide, DummyMachine m, DummyActRequest r, Func<DummyDrive, DummyDrive> to)
    {
        var bay = Position(guide, r.Position);
        return m.Bays.TryGetValue(bay, out var drive)
            ? m with
            {
                Bays = new Dictionary<string, DummyDrive>(m.Bays) { [bay] = to(drive) },
            }
            : throw RefusedException.Rule("nothing-there", $"No drive sits in {bay}.");
    }

    private static DummyView View(Guide guide, DummyMachine m, DummyShown? shown = null) =>
        new(
            m.Name,
            m.Model,
            m.Variant,
            m.Serial,
            m.IsOpen,
            m.IsOn,
            [
                .. guide.Memory.Slots.Select(s =>
                    m.Slots.TryGetValue(s.Id, out var f)
                        ? new DummyPosition(
                            s.Id,
                            true,
                            $"{new MemorySize(DummyStart.Bytes(f.Module))} {f.Maker} {f.Module.PartNumber}",
                            $"{f.Module.Serial:X8}",
                            Spoken(f.Seat),
                            m.FaultySlots.Contains(s.Id) ? "slot"
                                : f.Fault == PartFault.None ? null
                                : Spoken(f.Fault)
                        )
                        : new DummyPosition(
                            s.Id,
                            true,
                            null,
                            null,
                            "empty",
                            m.FaultySlots.Contains(s.Id) ? "slot" : null
                        )
                ),
                .. guide.Drives.Select(b =>
                    m.Bays.TryGetValue(b.Id, out var d)
                        ? new DummyPosition(
                            b.Id,
                            false,
                            $"{new DriveSize(d.Bytes)} {d.Model}{Phrases.When(d.PartitionBytes == 0, ", raw")}",
                            d.Serial,
                            Spoken(d.Seat),
                            d.Reallocated > 0 ? "worn"
                                : d.Lanes > 0 ? "lanes"
                                : null
                        )
                        : new DummyPosition(b.Id, false, null, null, "empty", null)
                ),
            ],
            [
                .. new[]
                {
                    m.ProfileOff ? "profile off" : null,
                    m.Limit is { } l ? $"limit {l}" : null,
                    m.StartsFrom is { } b ? $"starts from {b}" : null,
                }.OfType<string>(),
            ],
            shown is null
                ? null
                : new DummyStartView(
                    shown.Started,
                    shown.Sign,
                    shown.Notices,
                    shown.FirmwareShows,
                    shown.SlotsSeen,
                    shown.SystemRuns
                )
        );

    private async Task<(DummyMachine Machine, Guide Guide)> LoadAsync(string name, CancellationToken cancel)
    {
        var machine = Read(await store.GetAsync(name, cancel));
        return (machine, await GuideAsync(machine, cancel));
    }

    private async Task<Guide> GuideAsync(DummyMachine m, CancellationToken cancel) =>
        guides.Get(m.Model, guides.Newest(m.Model)).For(m.Variant);

    private static string Position(Guide guide, string? position) =>
        guide.Positions.FirstOrDefault(p => p == position)
        ?? throw RefusedException.Invalid(
            "no-such-position",
            $"{guide.Model.Code} has no position “{position}”. It has {string.Join(", ", guide.Positions)}."
        );

    // The copy brings the old drive's data onto the new one.
    private static long? Used(DummyMachine m, string bay) =>
        m.Bays.TryGetValue(bay, out var old) ? old.UsedBytes : null;

    private static string Serial(DummyMachine m, string position) =>
        string.Create(CultureInfo.InvariantCulture, $"{m.Serial}-{position}-{Random.Shared.Next(1000, 9999)}");

    private static T Word<T>(string field, string word)
        where T : struct, Enum =>
        Enum.TryParse<T>(word, ignoreCase: true, out var value) && Enum.IsDefined(value) && !char.IsAsciiDigit(word[0])
            ? value
            : throw RefusedException.Invalid(
                $"{field}-unknown",
                $"“{word}” is none of {string.Join(", ", Enum.GetNames<T>().Select(n => n.ToLowerInvariant()))}."
            );

    private static string Spoken<T>(T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();

    private static DummyMachine Read(string state) =>
        JsonSerializer.Deserialize<DummyMachine>(state, RevtalJson.Options)
        ?? throw new InvalidDataException("A dummy's state is empty.");

    private static string Write(DummyMachine machine) => JsonSerializer.Serialize(machine, RevtalJson.Options);

    [GeneratedRegex("^[a-z][a-z0-9-]{1,19}$")]
    private static partial Regex NameShape();
}
