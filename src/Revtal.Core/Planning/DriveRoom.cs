using System.Globalization;
using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Core.Planning;

/// <summary>How full one drive is.</summary>
/// <param name="Bay">The guide's id; null where nobody knows in which it sits.</param>
/// <param name="Used">What its file systems hold.</param>
/// <param name="Room">What they can hold: the drive less what lies in none of them; more than zero.</param>
public sealed record DriveRoom(string? Bay, Drive Drive, DriveSize Used, DriveSize Room)
{
    /// <summary>0 to 100, cut: 92.9 % is 92.</summary>
    public int Percent => (int)Math.Min(100, 100m * Used.Bytes / Room.Bytes);

    /// <summary>What still goes onto it.</summary>
    public DriveSize Free => new(Math.Max(0, Room.Bytes - Used.Bytes));

    /// <summary>“D1 is 92 % full: 462 GB of 500 GB are in use.”</summary>
    public string Sentence =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{Bay ?? Drive.ToString()} is {Percent} % full: {Used} of {Room} are in use."
        );
}

/// <summary>How full the drives are that a machine has, or will have.</summary>
public static class DriveRooms
{
    /// <summary>The drives inside of which the reading tells what is in use.</summary>
    public static IReadOnlyList<DriveRoom> Of(Guide guide, Reading reading) =>
        [.. DrivePlaces.Of(guide, reading).Select(Of).OfType<DriveRoom>()];

    /// <summary>Null where the reading does not tell.</summary>
    internal static DriveRoom? Of(DriveReading drive) =>
        drive.UsedBytes is { } used && drive.Drive.Size.Bytes - (drive.SpareBytes ?? 0) is > 0 and var room
            ? new DriveRoom(drive.Bay, drive.Drive, new DriveSize(used), new DriveSize(room))
            : null;

    /// <summary>The remark on a drive that the plan leaves nearly full.</summary>
    public static FitNote Note(DriveRoom room, int percent) =>
        new(
            "nearly-full",
            FitWeight.Remark,
            room.Bay,
            $"{room.Sentence} The plan leaves it so: plan a larger one, or note a later visit.",
            string.Create(CultureInfo.InvariantCulture, $"below {percent} %"),
            string.Create(CultureInfo.InvariantCulture, $"{room.Percent} %"),
            "before reading"
        );
}
