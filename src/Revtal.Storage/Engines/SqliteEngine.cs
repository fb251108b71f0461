using Microsoft.EntityFrameworkCore;

namespace Revtal.Storage;

/// <summary>A shop in a folder of its own: SQLite, one instance of the service at a time.</summary>
/// <param name="folder">In hand already; let go of at the end.</param>
public sealed class SqliteEngine(StoreFolder folder) : IStoreEngine
{
    public string Place => $"data in {folder.Path}";

    public string? Folder => folder.Path;

    public IDbContextFactory<RevtalDb> Databases { get; } =
        new Databases<RevtalDb>(o => SqliteStore.Use(o, folder.Path));

    public Connections Connections { get; } =
        new(() => SqliteStore.Open(folder.Path), new SqliteDialect(), folder.Prove, folder.Mark);

    public bool IsShared => false;

    public long? Room => new DriveInfo(folder.Path).AvailableFreeSpace;

    public Task PrepareAsync() => SqliteStore.PrepareAsync(folder);

    public void Dispose()
    {
        Connections.Dispose();
        folder.Dispose();
    }
}
