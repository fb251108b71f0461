using System.Data.Common;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>What the engines say in different words.</summary>
internal interface IDialect
{
    /// <summary>
    /// Lets one writer in at a time until its transaction ends, so that positions are committed in their order; null
    /// where every transaction does.
    /// </summary>
    string? Pen { get; }

    /// <summary>Tells other instances of a commit, with a text for them; null where there are none.</summary>
    string? Call { get; }

    /// <summary>Keeps what an order is found by.</summary>
    void Add(Prepared db, DbTransaction transaction, long id, Trace trace);

    /// <summary>Takes a trace that is gone out of the indices that are not the table's own.</summary>
    void Unindex(Prepared db, DbTransaction transaction, long id, Trace trace);

    /// <summary>Empties the indices that are not the table's own.</summary>
    void Unindex(Prepared db, DbTransaction transaction);

    /// <summary>Orders that have one of these phrases, the last word of each begun; each order once, growing.</summary>
    /// <param name="phrases">Each the words that stand one after another, in small letters.</param>
    /// <param name="among">Only of these.</param>
    int[] WithPhrase(Prepared db, IReadOnlyList<IReadOnlyList<string>> phrases, Numbers among);

    /// <summary>Orders that have this in a serial or part number; each once, growing.</summary>
    /// <param name="piece">At least three letters.</param>
    /// <param name="among">Only of these.</param>
    int[] WithPiece(Prepared db, string piece, Numbers among);

    /// <summary>Those of these that a word begins with which was ever written.</summary>
    IReadOnlyList<string> Written(Prepared db, IReadOnlyList<string> beginnings, int most);

    /// <summary>What the engine itself finds damaged in its files, in its words; empty where it finds nothing, or does
    /// not look.</summary>
    IReadOnlyList<string> Damage(Prepared db);

    /// <summary>Reads from here to its end what was there when it began, whatever is written meanwhile.</summary>
    DbTransaction Still(DbConnection connection);

    /// <summary>Puts rows into a table, as many as there are.</summary>
    Task PourAsync(
        DbTransaction transaction,
        string table,
        IReadOnlyList<BackupColumn> columns,
        IAsyncEnumerable<object?[]> rows
    );

    /// <summary>The engine's own numbers of a table go on after those that it has.</summary>
    void GoOn(Prepared db, DbTransaction transaction, string table, string column);
}
