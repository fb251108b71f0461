using Revtal.Core;

namespace Revtal.Service.Store;

/// <summary>How this service makes backups by itself; from the configuration section <c>Backup</c>.</summary>
internal sealed class BackupOptions
{
    /// <summary>Where they are put; null where none are made.</summary>
    public string? Folder { get; set; }

    /// <summary>Hours between two.</summary>
    public int Every { get; set; } = 24;

    /// <summary>How many stay.</summary>
    public int Keep { get; set; } = 14;

    /// <summary>Null where none are made.</summary>
    public BackupPlan? Plan => Folder is null ? null : new BackupPlan(Every, Keep);

    /// <summary>What keeps these settings from being used; null for nothing.</summary>
    public string? Problem =>
        Every is < 1 or > 720 ? $"Backups cannot be {Every} hours apart: 1 to 720."
        : Keep is < 1 or > 1000 ? $"{Keep} backups cannot be kept: 1 to 1000."
        : Folder is { Length: 0 } ? "Backups want a folder: give --backup:folder FOLDER."
        : null;
}
