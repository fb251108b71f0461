using Microsoft.EntityFrameworkCore;

namespace Revtal.Storage;

/// <summary>
/// The database engine under a shop's store: SQLite in a folder, or PostgreSQL. Whatever else the store does is the
/// same on each.
/// </summary>
public interface IStoreEngine : IDisposable
{
    /// <summary>Where the shop's data lies, for the log; never a password.</summary>
    string Place { get; }

    /// <summary>The folder that holds all of it; null where a server does.</summary>
    string? Folder { get; }

    /// <summary>The entity model, for what is rare.</summary>
    IDbContextFactory<RevtalDb> Databases { get; }

    /// <summary>Connections with prepared commands, for what every request does.</summary>
    Connections Connections { get; }

    /// <summary>Whether other instances of the service may work on the same store.</summary>
    bool IsShared { get; }

    /// <summary>Bytes that are free where it lies; null where that is another machine's to know.</summary>
    long? Room { get; }

    /// <summary>Brings the store to this version's shape and proves that it can be read.</summary>
    /// <exception cref="StoreException">It cannot be reached, read or written, or is not of this version.</exception>
    Task PrepareAsync();
}
