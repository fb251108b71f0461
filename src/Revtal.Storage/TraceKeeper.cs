using System.Data.Common;

namespace Revtal.Storage;

/// <summary>
/// Keeps what orders are found by up with the journal. Words cost a commit more than the entry itself does, so that
/// they are not written with it but soon after, many at once, and at the latest when somebody searches.
/// </summary>
public sealed class TraceKeeper(Connections connections, JournalWriter writer)
{
    // So many that appends hardly wait for them.
    private const int AtOnce = 256;

    /// <summary>Whatever was recorded before this is found after it.</summary>
    /// <exception cref="DbException">The store cannot be written.</exception>
    public void CatchUp()
    {
        var more = connections.Read(TraceRows.IsBehind);
        while (more)
        {
            more = writer.InTurn((db, transaction) => TraceRows.ReadOn(db, transaction, AtOnce));
        }
    }
}
