using System.Globalization;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>
/// The changes of drives that no other beats on price, room, the system's free room and link, copying, opening and
/// what is thrown away.
/// </summary>
public static class DriveOptions
{
    private const int BytesOfMegabyte = 1_000_000;

    /// <param name="before">The machine as it was read.</param>
    /// <param name="offers">The catalogue and the shelf.</param>
    /// <param name="plan">The plan as it stands: its opening is shared; null where there is none.</param>
    public static DriveOptionsAnswer Find(
        Guide guide,
        Reading before,
        IReadOnlyList<DriveOffer> offers,
        RoomWanted wanted,
        Plan? plan = null
    )
    {
        if (guide.Drives.Count == 0)
        {
            return new([], 0, [$"{guide.Model.Code} has no drive bay."]);
        }

        if (Planner.KeepsArray(guide))
        {
            return new(
                [],
                0,
                [
                    $"{guide.Model.Code} keeps its drives as an array: a larger one is planned bay by bay, with what "
                        + "the array says of itself.",
                ]
            );
        }

        var board = new Bays(guide, before, wanted, plan);
        var all = new List<DriveOption>();
        var closed = new List<string>();
        foreach (var bay in guide.Drives)
        {
            var found = offers
                .Where(o => wanted.Budget is not { } most || o.Price <= most)
                .SelectMany(o => board.With(bay, o))
                .Concat(board.Moves(bay))
                .ToArray();
            all.AddRange(found);
            if (found.Length == 0)
            {
                closed.Add(board.WhyNone(bay, offers));
            }
        }

        var best = Unbeaten(all);
        return new([.. best.Select(board.Noted)], all.Count - best.Count, closed);
    }

    private static List<DriveOption> Unbeaten(IEnumerable<DriveOption> options)
    {
        var best = new List<DriveOption>();
        foreach (var option in options.OrderBy(o => o.Price).ThenBy(o => o.OpenMinutes).ThenByDescending(o => o.Gain))
        {
            if (!best.Any(b => b.Beats(option)))
            {
                best.RemoveAll(option.Beats);
                best.Add(option);
            }
        }

        return best;
    }

    /// <summary>The machine's drives by bay, and what follows from them.</summary>
    private sealed class Bays(Guide guide, Reading before, RoomWanted wanted, Plan? plan)
    {
        private readonly IReadOnlyList<DriveReading> placed = DrivePlaces.Of(guide, before);

        private long Total => placed.Sum(d => d.Drive.Size.Bytes);

        // What was read counts more than what is usual for the model.
        private DriveReading? System =>
            placed.FirstOrDefault(d => d.Boots == true)
            ?? placed.FirstOrDefault(d => d.Bay is { } b && guide.Bay(b)?.Boots == true);

        public IEnumerable<DriveOption> With(DriveBay bay, DriveOffer offer)
        {
            if (In(bay) is { } old)
            {
                return Replace(bay, offer, old);
            }

            return Planner.IsEmpty(bay.Id, before, placed) ? [.. Add(bay, offer), .. MoveSystem(bay, offer)] : [];
        }

        public IEnumerable<DriveOption> Moves(DriveBay bay)
        {
            if (
                !Planner.IsEmpty(bay.Id, before, placed)
                || System is not { Bay: { } from } system
                || DriveFit.Of(bay, new DriveWish(system.Drive), null).Any(n => n.Weight == FitWeight.Refusal)
                || Rate(system.Drive, bay) is not { } rate
                || !(rate > Rate(system.Drive, guide.Bay(from)!))
            )
            {
                return [];
            }

            return
            [
                Make(
                    DriveWay.Move,
                    bay,
                    from,
                    null,
                    new SlotChange(bay.Id, From: from),
                    $"The drive of {from} moves to {bay.Id}",
                    new Outcome(0, DriveRooms.Of(system)?.Free, rate)
                ),
            ];
        }

        public string WhyNone(DriveBay bay, IReadOnlyList<DriveOffer> offers)
        {
            var reasons = offers
                .Select(o =>
                    DriveFit.Of(bay, new DriveWish(o.Drive), null).FirstOrDefault(n => n.Weight == FitWeight.Refusal)
                )
                .ToArray();
            return In(bay) is null && !Planner.IsEmpty(bay.Id, before, placed)
                    ? $"{bay.Id}: nobody read whether a drive sits there."
                : offers.Count == 0 ? $"{bay.Id}: the catalogue has no drive."
                : reasons.All(r => r is not null) ? $"{bay.Id}: no drive of the catalogue fits. {reasons[0]!.Sentence}"
                : $"{bay.Id}: what fits of the catalogue leaves too little room, or costs more than the budget.";
        }

        private DriveReading? In(DriveBay bay) => placed.FirstOrDefault(d => d.Bay == bay.Id);

        private IEnumerable<DriveOption> Replace(DriveBay bay, DriveOffer offer, DriveReading old)
        {
            if (!IsRoomier(offer.Drive, old))
            {
                return [];
            }

            var wish = new DriveWish(offer.Drive, DataPath.CopyFirst, Setup: new DriveSetup(Grow: true));
            var isSystem = old == System;
            return Fitting(
                bay,
                wish,
                old,
                () =>
                    Make(
                        DriveWay.Replace,
                        bay,
                        bay.Id,
                        offer,
                        new SlotChange(bay.Id, Drive: wish),
                        $"{offer.Drive.Size} ({offer.Number}) replaces {old.Drive.Size} in {bay.Id}",
                        new Outcome(
                            offer.Drive.Size.Bytes - old.Drive.Size.Bytes,
                            isSystem ? FreeAfter(offer.Drive, old) : SystemFree,
                            isSystem ? Rate(offer.Drive, bay) : SystemRate,
                            old.Drive.Size,
                            Copy(old, guide.Bay(old.Bay!)!, offer.Drive, bay)
                        )
                    )
            );
        }

        private IEnumerable<DriveOption> Add(DriveBay bay, DriveOffer offer)
        {
            var growth = wanted.Growth?.Bytes ?? placed.Sum(d => d.UsedBytes ?? 0) / 2;
            if (growth * 100 > offer.Drive.Size.Bytes * wanted.MostPercent)
            {
                return [];
            }

            var wish = new DriveWish(
                offer.Drive,
                Planner.DefaultPath(bay, null) is null ? null : DataPath.CleanInstall,
                Setup: new DriveSetup(Initialise: true)
            );
            return Fitting(
                bay,
                wish,
                null,
                () =>
                    Make(
                        DriveWay.Add,
                        bay,
                        null,
                        offer,
                        new SlotChange(bay.Id, Drive: wish),
                        $"{offer.Drive.Size} ({offer.Number}) comes into {bay.Id}, empty",
                        new Outcome(offer.Drive.Size.Bytes, SystemFree, SystemRate)
                    )
            );
        }

        // Worth it where the link is faster, or the drive has more room and the link is no slower.
        private IEnumerable<DriveOption> MoveSystem(DriveBay bay, DriveOffer offer)
        {
            if (
                System is not { Bay: { } from } old
                || !HoldsWhatGrows(offer.Drive, old)
                || Rate(offer.Drive, bay) < SystemRate
                || !(Rate(offer.Drive, bay) > SystemRate || offer.Drive.Size > old.Drive.Size)
            )
            {
                return [];
            }

            var wish = new DriveWish(
                offer.Drive,
                DataPath.CopyFirst,
                Setup: new DriveSetup(Grow: true),
                SystemFrom: from
            );
            return Fitting(
                bay,
                wish,
                old,
                () =>
                    Make(
                        DriveWay.MoveSystem,
                        bay,
                        from,
                        offer,
                        new SlotChange(bay.Id, Drive: wish),
                        $"{offer.Drive.Size} ({offer.Number}) comes into {bay.Id} and takes over the system of {from}",
                        new Outcome(
                            offer.Drive.Size.Bytes,
                            FreeAfter(offer.Drive, old),
                            Rate(offer.Drive, bay),
                            default,
                            Copy(old, guide.Bay(from)!, offer.Drive, bay)
                        )
                    )
            );
        }

        private static IEnumerable<DriveOption> Fitting(
            DriveBay bay,
            DriveWish wish,
            DriveReading? over,
            Func<DriveOption> make
        ) => DriveFit.Of(bay, wish, over).Any(n => n.Weight == FitWeight.Refusal) ? [] : [make()];

        private DriveOption Make(
            DriveWay way,
            DriveBay bay,
            string? from,
            DriveOffer? offer,
            SlotChange change,
            string words,
            Outcome outcome
        )
        {
            string[] touched = way == DriveWay.Move ? [bay.Id, from!] : [bay.Id];
            var reach = Reach.To(guide, touched, handsIn: true);
            return new DriveOption(
                way,
                bay.Id,
                from,
                offer,
                [change],
                new DriveSize(Total + outcome.Grown),
                new DriveSize(outcome.Grown),
                outcome.SystemFree,
                outcome.SystemRate,
                outcome.Copy?.Most,
                outcome.Copy?.Minutes ?? 0,
                reach.Sum(r => r.Minutes),
                plan is null ? null : Extra(touched),
                outcome.Thrown,
                [.. reach.Select(r => r.Title)],
                words,
                outcome.Copy?.Words,
                []
            );
        }

        /// <summary>The same with what is to be known of it.</summary>
        public DriveOption Noted(DriveOption option)
        {
            var planned = Planner.Make(guide, before, option.Changes);
            return option with
            {
                Notes =
                [
                    .. FitRules.Of(guide, before, planned).Where(n => n.Position == option.Bay),
                    .. option.Way == DriveWay.Add
                        ? DriveRooms.Of(guide, before).Where(r => r.Percent >= wanted.MostPercent).Select(StaysFull)
                        : [],
                ],
            };
        }

        private FitNote StaysFull(DriveRoom room) =>
            DriveRooms.Note(room, wanted.MostPercent) with
            {
                Code = "stays-full",
                Sentence = $"{room.Sentence} It stays so until files are moved from it.",
            };

        // The opening of the plan is paid once.
        private int Extra(string[] touched) =>
            Reach.To(guide, [.. plan!.Touched, .. touched], handsIn: true).Sum(r => r.Minutes)
            - Reach.To(guide, plan.Touched, handsIn: true).Sum(r => r.Minutes);

        // The slowest of the three counts: where it comes from, where it goes, and the shop's way of copying.
        private Copying Copy(DriveReading old, DriveBay source, Drive drive, DriveBay bay)
        {
            var rate = new[] { wanted.CopyRate, Rate(old.Drive, source), Rate(drive, bay) }.Min()!.Value;
            return new(new DriveSize(old.UsedBytes ?? old.Drive.Size.Bytes), old.UsedBytes is not null, rate);
        }

        private DriveSize? SystemFree => System is { } system ? DriveRooms.Of(system)?.Free : null;

        private int? SystemRate => System is { Bay: { } bay } system ? Rate(system.Drive, guide.Bay(bay)!) : null;

        private static DriveSize? FreeAfter(Drive drive, DriveReading old) =>
            old.UsedBytes is { } used ? new DriveSize(Math.Max(0, drive.Size.Bytes - used)) : null;

        // Where it was not read how full it is, only a larger one is sure to hold it.
        private bool HoldsWhatGrows(Drive drive, DriveReading old) =>
            old.UsedBytes is { } used
                ? (used + (wanted.Growth?.Bytes ?? used / 2)) * 100m <= drive.Size.Bytes * (decimal)wanted.MostPercent
                : drive.Size >= old.Drive.Size;

        private bool IsRoomier(Drive drive, DriveReading old) =>
            drive.Size > old.Drive.Size && !drive.Size.IsSoldAs(old.Drive.Size) && HoldsWhatGrows(drive, old);

        private static int? Rate(Drive drive, DriveBay bay) =>
            !DriveLink.TryParse(bay.Link, out var slot) ? null
            : !DriveLink.TryParse(drive.Link, out var speaks) ? slot.MegabytesPerSecond
            : DriveLink.Common(speaks, slot)?.MegabytesPerSecond;
    }

    /// <param name="Grown">How much more all drives hold together, in bytes.</param>
    private sealed record Outcome(
        long Grown,
        DriveSize? SystemFree,
        int? SystemRate,
        DriveSize Thrown = default,
        Copying? Copy = null
    );

    /// <param name="Most">What is copied, at the most.</param>
    /// <param name="IsRead">Whether it was read how much that is.</param>
    /// <param name="Rate">In MB/s.</param>
    private sealed record Copying(DriveSize Most, bool IsRead, int Rate)
    {
        public int Minutes => (int)Math.Ceiling(Most.Bytes / (60m * BytesOfMegabyte * Rate));

        public string Words =>
            string.Create(
                CultureInfo.InvariantCulture,
                $"{(IsRead ? "" : "Up to ")}{Most} are copied and compared first: about {Minutes} min at {Rate} MB/s."
            );
    }
}
