using System.Globalization;
using Revtal.Core.Captures.Systems;

namespace Revtal.Core.Checks;

/// <summary>What arrays of drives say after the work.</summary>
internal static class ArrayFindings
{
    private static readonly TimeSpan Unbelievable = TimeSpan.FromDays(60);

    public static IEnumerable<Finding> Of(CheckFacts f) =>
        [
            .. from array in f.After.Arrays
            let state = State(f, array)
            where state is not null
            select state with
            {
                About = array.Name,
            },
            .. from was in f.Before.Arrays
            where f.After.Arrays.All(a => a.Name != was.Name)
            select Gone(f, was) with
            {
                About = was.Name,
            },
        ];

    private static Finding? State(CheckFacts f, ArrayReading array) =>
        array switch
        {
            { Active: false } => Inactive(f, array),
            { Waits: { } why } => Waits(f, array, why),
            { OnlyChecks: true } => Checks(f, array),
            { IsDegraded: true, Doing: null or "check" } => Degraded(f, array),
            { Doing: not null } => Resync(f, array),
            _ => null,
        };

    private static Finding Inactive(CheckFacts f, ArrayReading array) =>
        f.Finding(
            "array-inactive",
            Severity.Short,
            $"Array {array.Name} does not run.",
            "not running",
            "running",
            ["Too few of its drives are there.", "A tray is not fully seated."],
            new NextAction(
                ActionKind.Compare,
                $"Write to none of its drives. Look which is missing, seat it, and start {array.Name} again.",
                []
            )
        );

    private static Finding Gone(CheckFacts f, ArrayReading was) =>
        f.After.ArraysTold
            ? f.Finding(
                "array-gone",
                Severity.Short,
                $"Array {was.Name} is gone: the system knows of no such array.",
                "no such array",
                $"{was.Name}, {was.Present} of {was.Wanted} drives",
                ["Its drives are not connected.", "It was started under another name."],
                new NextAction(ActionKind.Compare, "Write to none of its drives. Look whether all are listed.", [])
            )
            : f.Finding(
                "array-not-told",
                Severity.Remark,
                $"Array {was.Name} was there before; this reading does not tell of arrays.",
                "not told",
                $"{was.Name}, {was.Present} of {was.Wanted} drives",
                ["The capture lacks the status of arrays."],
                new NextAction(ActionKind.ReadAgain, "Take the after reading again, with the status of arrays.", [])
            );

    private static Finding Waits(CheckFacts f, ArrayReading array, ArrayWait why) =>
        f.Finding(
            "array-waits",
            Severity.Remark,
            why == ArrayWait.Pending
                ? $"Array {array.Name} has yet to begin its {array.Doing}: it waits for the first write."
                : $"Array {array.Name} has yet to begin its {array.Doing}: another array on the same drives is first.",
            $"{array.Doing} {Phrases.Words(why)}",
            "all in step",
            why == ArrayWait.Pending
                ? ["It was started for reading only."]
                : ["Two arrays share drives, and take turns."],
            why == ArrayWait.Pending
                ? new NextAction(
                    ActionKind.SetUp,
                    $"Mount {array.Name} for writing: the {array.Doing} begins by itself.",
                    []
                )
                : new NextAction(ActionKind.Wait, "Leave it on: it begins when the other is done.", [])
        );

    private static Finding Checks(CheckFacts f, ArrayReading array) =>
        f.Finding(
            "array-checks",
            Severity.Note,
            $"Array {array.Name} reads itself through, at {array.Percent} %; nothing is amiss.",
            $"check {array.Percent} %",
            "all in step",
            ["The system does so from time to time."],
            CheckFacts.Nothing
        );

    private static Finding Degraded(CheckFacts f, ArrayReading array) =>
        f.Finding(
            "array-degraded",
            Severity.Short,
            $"Array {array.Name} has {array.Present} of {array.Wanted} drives, and does not rebuild."
                + (array.Spared == 0 ? " The next drive that fails takes its data along." : ""),
            $"{array.Present} of {array.Wanted}",
            $"{array.Wanted} of {array.Wanted}",
            ["The new drive was not added to the array.", "A tray is not fully seated."],
            f.Drives.Wanted.Any(w => w.Seen is null) && array.Spared is not 0
                ? new NextAction(
                    ActionKind.Compare,
                    $"Find the drive that is not listed first; then see what {array.Name} says.",
                    []
                )
                : new NextAction(
                    ActionKind.SetUp,
                    array.Spared == 0
                        ? $"Pull no tray. Copy what must not be lost, then add the missing drives to {array.Name}."
                        : $"Add the drive to {array.Name}, and let it rebuild.",
                    []
                )
        );

    private static Finding Resync(CheckFacts f, ArrayReading array) =>
        f.Finding(
            "array-resync",
            Severity.Remark,
            $"Array {array.Name}: {array.Doing} at {array.Percent} % when it was read"
                + $"{Phrases.When(Left(f, array), l => $", about {Say(l)} left then")}.",
            $"{array.Present} of {array.Wanted} drives, {array.Doing} {array.Percent} %",
            "all in step",
            ["A drive was changed or was out for a while."],
            new NextAction(
                ActionKind.Wait,
                array.Spared is <= 0
                    ? "Leave it on; pull no tray: no other drive may fail meanwhile. Take the reading again then."
                    : "Leave it on; pull no tray. Take the reading again when it is done.",
                []
            )
        ) with
        {
            Until = f.History.Readings is [.., var last] ? last.At + Left(f, array) : null,
        };

    // From how far it came between two readings; its own estimate only where there is no earlier one.
    private static TimeSpan? Left(CheckFacts f, ArrayReading array)
    {
        if (
            f.History.Readings is [.., var last]
            && array.Percent is { } now
            && f.History.Readings.FirstOrDefault(r =>
                r.At < last.At
                && r.Reading.Arrays.Any(a => a.Name == array.Name && a.Doing == array.Doing && a.Percent < now)
            )
                is { } first
        )
        {
            var was = first.Reading.Arrays.First(a => a.Name == array.Name).Percent!.Value;
            return TimeSpan.FromMinutes((double)((100 - now) / (now - was)) * (last.At - first.At).TotalMinutes);
        }

        return array.MinutesLeft is { } minutes && (double)minutes < Unbelievable.TotalMinutes
            ? TimeSpan.FromMinutes((double)minutes)
            : null;
    }

    private static string Say(TimeSpan time) =>
        time.TotalMinutes < 90
            ? string.Create(CultureInfo.InvariantCulture, $"{Math.Max(1, Math.Round(time.TotalMinutes)):0} min")
            : string.Create(CultureInfo.InvariantCulture, $"{time.TotalHours:0.#} h");
}
