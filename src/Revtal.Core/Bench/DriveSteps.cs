using Revtal.Core.Guides;
using Revtal.Core.Planning;

namespace Revtal.Core.Bench;

/// <summary>Taking a drive out of its bay, putting one in, and setting it up, in words.</summary>
internal static class DriveSteps
{
    public static RunStep Pull(DriveBay bay, PlannedBay planned, Plan plan) =>
        RunStep.Of(StepId.Pull(bay.Id), RunPart.Pull, $"Take the drive out of {bay.Id}") with
        {
            Details = RunSheetBuilder.Lines(
                planned.Before?.ToString(),
                bay.Hold,
                Port(bay),
                bay.Pad is { } pad ? $"Its pad of {pad} mm may stay on the cover or on the drive: keep it." : null,
                bay.Standoff is { } post ? $"Post: {post}." : null
            ),
            Precautions =
            [
                new Precaution("static", "Touch bare metal before the drive."),
                .. Heat(bay),
                .. Data(planned),
            ],
            Position = bay.Id,
            CopiedFirst = plan.CopiedFrom(bay.Id),
        };

    private static string? Port(DriveBay bay) => bay.Port is { } port ? $"Its cable goes to {port}." : null;

    public static RunStep Fit(DriveBay bay, PlannedBay planned) =>
        RunStep.Of(
            StepId.Fit(bay.Id),
            RunPart.Fit,
            planned.Use switch
            {
                BayUse.Fit => $"Fit {planned.Wish!.Drive.Size} into {bay.Id}",
                BayUse.Move => $"Fit the drive of {planned.From} into {bay.Id}",
                _ => $"Put the drive of {bay.Id} back",
            }
        ) with
        {
            Details = RunSheetBuilder.Lines(
                planned.Wish?.Drive.ToString(),
                bay.Key is { } key ? $"Key {key}: the gap in the contacts shows the side." : null,
                bay.Hold,
                Port(bay),
                planned.Changes && bay.Standoff is { } post ? $"Post: {post}." : null,
                (planned.Wish?.Pad ?? bay.Pad) is { } pad ? $"Pad of {pad} mm under it, film off." : null,
                planned.Changes && IsM2(bay)
                    ? "Goes in at a slant, pressed flat onto its post; the screw only holds it."
                    : null
            ),
            // Only the very drive that was there is looked for again.
            Records = planned.Use == BayUse.Reseat ? [bay.Id] : [],
            Position = bay.Id,
        };

    /// <summary>Which drive the firmware starts from, where the system is in another bay than before.</summary>
    public static IEnumerable<RunStep> StartOrder(Guide guide, Plan plan) =>
        plan
            .Bays.Where(b => b.StartsHere)
            .Take(1)
            .Select(b =>
                RunStep.Of(StepId.StartOrder, RunPart.Start, $"Put {b.Bay} first in the firmware's start order") with
                {
                    Details = RunSheetBuilder.Lines(
                        guide.Firmware is { } firmware ? $"Firmware: {firmware.Enter}." : null,
                        b is { Use: BayUse.Fit, Wish.SystemFrom: { } from }
                            ? $"{from} comes after it, or is taken out of the order: both may carry a system."
                            : null,
                        "Save, start, and look which drive the system runs from."
                    ),
                    Position = b.Bay,
                    Minutes = 2,
                }
            );

    /// <summary>What is done once the system runs.</summary>
    public static IEnumerable<RunStep> SetUp(PlannedBay planned)
    {
        if (planned.Wish is not { } wish)
        {
            yield break;
        }

        var setup = wish.Setup ?? new DriveSetup();
        if (planned.CopiesFirst)
        {
            // What was copied is never formatted, whatever an early plan wished.
            if (setup.Label is { } name)
            {
                yield return Step("rename", $"Rename the copied file system on {planned.Bay} to “{name}”");
            }
        }
        else if (setup.Initialise || setup.Partition is not null)
        {
            yield return Step(
                "initialise",
                "Initialise the drive in "
                    + $"{planned.Bay}{Phrases.When(setup.Partition, table => $" with a {table} table")}",
                "Look twice that it is the new one: the size tells."
            );
        }

        if (!planned.CopiesFirst && (setup.FileSystem is not null || setup.Label is not null))
        {
            yield return Step(
                "format",
                $"Put {setup.FileSystem ?? "a file system"} on "
                    + $"{planned.Bay}{Phrases.When(setup.Label, label => $", label “{label}”")}"
            );
        }

        if (setup.Mount is { } mount)
        {
            yield return Step("mount", $"Mount {planned.Bay} as {mount}", "It must come back after a restart.");
        }

        if (setup.Grow || (wish.Path == DataPath.CopyFirst && planned.Before is { } old && wish.Drive.Size > old.Size))
        {
            yield return Step(
                "grow",
                $"Grow the copied file system on {planned.Bay} to {wish.Drive.Size}",
                $"{wish.Drive.Size.WithBinary} should show."
            );
        }

        if (wish.ArrayState is { } state)
        {
            yield return Step(
                "array",
                $"Begin the rebuild with {planned.Bay}, and write down what the array says",
                $"Before: {state}."
            );
        }

        RunStep Step(string what, string title, params string?[] details) =>
            RunStep.Of(StepId.SetUp(planned.Bay, what), RunPart.SetUp, title) with
            {
                Details = RunSheetBuilder.Lines(details),
                Position = planned.Bay,
                Minutes = 2,
            };
    }

    private static bool IsM2(DriveBay bay) => bay.Form?.StartsWith("M.2", StringComparison.Ordinal) == true;

    private static Precaution[] Heat(DriveBay bay) =>
        IsM2(bay) ? [new Precaution("heat", "It may be hot along its chips: hold it by the ends.")] : [];

    private static Precaution[] Data(PlannedBay planned) =>
        planned.Wish?.Path switch
        {
            DataPath.CopyFirst => [new Precaution("data", "Its copy is verified before it leaves.")],
            DataPath.LeftBehind => [new Precaution("data", $"Its data stays behind: {planned.Wish.Word}.")],
            null when planned.Use == BayUse.Reseat =>
            [
                new Precaution("data", "It carries the customer's data, and goes back."),
            ],
            _ => [],
        };
}
