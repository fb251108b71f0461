using System.Globalization;
using System.Text.Json;
using Revtal.Core.Hardware;

namespace Revtal.Core.Captures.Systems;

/// <summary>
/// What a drive says of itself: JSON of <c>smartctl --json --all</c> (smartmontools, format 1), of ATA and NVMe drives.
/// ATA attributes after ACS-4
/// 9.5 and the numbers in common use: 5 reallocated, 187 reported uncorrectable, 197 pending; NVMe health after the NVM
/// Express Base Specification 5.16.1.3.
/// </summary>
public static class DriveHealthReport
{
    /// <summary>The code of a report that has no drive in it.</summary>
    internal const string TellsNothing = "health-empty";

    internal static bool IsAt(JsonElement? root) => root.Get("smartctl") is not null;

    internal static Reading Decode(JsonElement? root)
    {
        if (root.Get("user_capacity").Number("bytes") is not (> 0 and { } size))
        {
            throw RefusedException.Invalid(
                TellsNothing,
                $"The health report tells no drive{Phrases.When(Complaint(root), why => $": {why}")}. It wants the "
                    + "rights of the administrator, and a drive that answers."
            );
        }

        var nvme = root.Get("nvme_smart_health_information_log");
        var speed = root.Get("interface_speed");
        var health = new DriveHealth(
            root.Get("smart_status").Flag("passed"),
            Small(root.Get("power_on_time").Number("hours")),
            Small(nvme.Number("percentage_used")),
            Small(nvme.Number("available_spare")),
            Small(root.Get("temperature").Number("current")),
            Attribute(root, 5),
            Small(nvme.Number("media_errors")) ?? Attribute(root, 187),
            Attribute(root, 197),
            Link(speed.Get("current")),
            Link(speed.Get("max"))
        );
        var drive = new Drive(
            new DriveSize(size),
            Form(root),
            null,
            health.LinkMost,
            null,
            root.Number("logical_block_size") is { } sector and <= 1 << 16 ? (int)sector : null,
            null,
            PartNumber.Of(root.Text("model_name")),
            root.Text("serial_number")
        );
        var name = root.Get("device").Text("name");
        return Reading.OfDrives(
            [new DriveReading(null, drive, null, null, name?.Split('/')[^1], null, null, health)],
            []
        );
    }

    private static string? Complaint(JsonElement? root) =>
        root.Get("smartctl").Items("messages").Select(m => m.Text("string")).FirstOrDefault(m => m is not null);

    // Vendors pack more than the count into the raw value; the tool's own text begins with the count.
    private static int? Attribute(JsonElement? root, int id)
    {
        var raw = root.Get("ata_smart_attributes").Items("table").FirstOrDefault(a => a.Number("id") == id).Get("raw");
        return Small(
            long.TryParse(
                raw.Text("string")?.Split(' ')[0],
                NumberStyles.None,
                CultureInfo.InvariantCulture,
                out var count
            )
                ? count
                : raw.Number("value")
        );
    }

    private static int? Small(long? value) => value is >= 0 and <= int.MaxValue ? (int)value : null;

    private static string? Link(JsonElement? speed) =>
        speed.Text("string") is { } text && DriveLink.TryParse($"SATA {text}", out var link) ? link.ToString() : null;

    private static string? Form(JsonElement? root) =>
        root.Get("form_factor").Text("name") switch
        {
            "2.5 inches" => "2.5 in",
            "3.5 inches" => "3.5 in",
            { } other when other.StartsWith("M.2", StringComparison.Ordinal) => other,
            _ => null,
        };
}
