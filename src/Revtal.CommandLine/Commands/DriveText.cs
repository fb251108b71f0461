using System.Globalization;
using Revtal.Core;
using Revtal.Core.Hardware;
using Revtal.Core.Planning;

namespace Revtal.CommandLine.Commands;

/// <summary>
/// A drive with its data's path as one argument: <c>1TB,copy-first,form=M.2 2280,link=PCIe 4.0 x4,label=data</c>.
/// </summary>
internal static class DriveText
{
    public static DriveWish Wish(string text)
    {
        var parts = text.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        var named = parts
            .Skip(1)
            .Where(p => p.Contains('=', StringComparison.Ordinal))
            .Select(p => p.Split('=', 2))
            .ToDictionary(p => p[0], p => p[1]);
        var flags = parts.Skip(1).Where(p => !p.Contains('=', StringComparison.Ordinal)).ToHashSet();
        if (
            parts.Length == 0
            || named
                .Keys.Except([
                    "form",
                    "link",
                    "key",
                    "height",
                    "sector",
                    "part",
                    "serial",
                    "maker",
                    "pad",
                    "label",
                    "mount",
                    "table",
                    "fs",
                    "word",
                    "array",
                    "system-from",
                ])
                .FirstOrDefault()
                is { }
        )
        {
            throw RefusedException.Invalid(
                "drive-form",
                $"“{text}” is not like 1TB,copy-first,form=M.2 2280,link=PCIe 4.0 x4,label=data,grow."
            );
        }

        var setup = new DriveSetup(
            flags.Remove("initialise"),
            Text("table"),
            Text("fs"),
            Text("label"),
            Text("mount"),
            flags.Remove("grow")
        );
        DataPath? path =
            flags.Remove("copy-first") ? DataPath.CopyFirst
            : flags.Remove("clean-install") ? DataPath.CleanInstall
            : flags.Remove("left-behind") ? DataPath.LeftBehind
            : null;
        return flags.Count > 0
            ? throw RefusedException.Invalid(
                "drive-form",
                $"“{flags.First()}” says nothing of a drive. Possible: copy-first, clean-install, left-behind, "
                    + "initialise, grow."
            )
            : new DriveWish(
                new Drive(
                    parts[0] == "part" ? default : DriveSize.Parse(parts[0]),
                    Text("form"),
                    Text("key"),
                    Text("link"),
                    Number("height"),
                    (int?)Number("sector"),
                    Text("maker"),
                    PartNumber.Of(Text("part")),
                    Text("serial")
                ),
                path,
                Text("word"),
                setup == new DriveSetup() ? null : setup,
                Number("pad"),
                Text("array"),
                Text("system-from")
            );

        string? Text(string name) => named.GetValueOrDefault(name);

        decimal? Number(string name) =>
            Text(name) is not { } number ? null
            : decimal.TryParse(
                number.Replace("mm", "", StringComparison.Ordinal).Trim(),
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var n
            )
                ? n
            : throw RefusedException.Invalid("drive-form", $"“{name}={number}” wants a number.");
    }
}
