using System.Collections.Concurrent;
using System.Data.Common;
using System.Globalization;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Storage;

/// <summary>
/// An open connection that keeps the commands it has prepared. The paths that every request takes use these; what is
/// rare asks through the entity model.
/// </summary>
internal sealed class Prepared(DbConnection connection, IDialect dialect) : IDisposable
{
    private readonly Dictionary<string, DbCommand> commands = [];

    public IDialect Dialect => dialect;

    /// <summary>Writes from here to its end, and nobody else does.</summary>
    public DbTransaction Begin()
    {
        var transaction = connection.BeginTransaction();
        if (dialect.Pen is { } pen)
        {
            Command(pen, transaction).ExecuteScalar();
        }

        return transaction;
    }

    /// <summary>Reads from here to its end what is there now, whatever is written meanwhile.</summary>
    public DbTransaction Still() => dialect.Still(connection);

    /// <summary>The command for this text, with its parameters <c>@p0</c>, <c>@p1</c> … set.</summary>
    public DbCommand Command(string sql, DbTransaction? transaction, params ReadOnlySpan<object?> values)
    {
        if (!commands.TryGetValue(sql, out var command))
        {
            command = connection.CreateCommand();
            command.CommandText = sql;
            for (var i = 0; i < values.Length; i++)
            {
                var parameter = command.CreateParameter();
                parameter.ParameterName = $"@p{i}";
                command.Parameters.Add(parameter);
            }

            commands[sql] = command;
        }

        command.Transaction = transaction;
        for (var i = 0; i < values.Length; i++)
        {
            command.Parameters[i].Value = values[i] switch
            {
                null => DBNull.Value,
                // Values of the heart that are one word are kept as that word.
                PartNumber or StepId => values[i]!.ToString(),
                var plain => plain,
            };
        }

        return command;
    }

    /// <summary>The one whole number that the query answers, whatever its width; null for none.</summary>
    public long? Number(string sql, DbTransaction? transaction, params ReadOnlySpan<object?> values) =>
        Command(sql, transaction, values).ExecuteScalar() is { } number and not DBNull
            ? Convert.ToInt64(number, CultureInfo.InvariantCulture)
            : null;

    /// <summary>What the query answers, row by row.</summary>
    public IReadOnlyList<T> All<T>(string sql, Func<DbDataReader, T> read, params ReadOnlySpan<object?> values) =>
        All(sql, read, null, values);

    /// <inheritdoc cref="All{T}(string, Func{DbDataReader, T}, ReadOnlySpan{object?})"/>
    public IReadOnlyList<T> All<T>(
        string sql,
        Func<DbDataReader, T> read,
        DbTransaction? transaction,
        params ReadOnlySpan<object?> values
    )
    {
        var all = new List<T>();
        using var rows = Command(sql, transaction, values).ExecuteReader();
        while (rows.Read())
        {
            all.Add(read(rows));
        }

        return all;
    }

    public void Dispose()
    {
        foreach (var command in commands.Values)
        {
            command.Dispose();
        }

        connection.Dispose();
    }
}

/// <summary>The store's own connections.</summary>
public sealed class Connections : IDisposable
{
    private readonly ConcurrentBag<Prepared> idle = [];
    private readonly Func<DbConnection> open;
    private readonly Action? prove;
    private readonly Action<long>? mark;
    private readonly bool keeps;

    /// <param name="open">Opens one more, ready for use.</param>
    /// <param name="prove">Proves before a change that what is open is still what is kept.</param>
    /// <param name="mark">Remembers beside the store how far the journal was kept.</param>
    /// <param name="keeps">Whether they are kept open here; else the driver does that.</param>
    internal Connections(
        Func<DbConnection> open,
        IDialect dialect,
        Action? prove = null,
        Action<long>? mark = null,
        bool keeps = true
    ) => (this.open, Dialect, this.prove, this.mark, this.keeps) = (open, dialect, prove, mark, keeps);

    internal IDialect Dialect { get; }

    /// <summary>
    /// Reads with a connection that nobody else uses meanwhile; once more where the server let go of it.
    /// </summary>
    internal T Read<T>(Func<Prepared, T> read)
    {
        try
        {
            return Use(read);
        }
        catch (DbException e) when (e.IsTransient)
        {
            return Use(read);
        }
    }

    /// <summary>One change outside the journal.</summary>
    /// <returns>How many rows it touched.</returns>
    internal int Change(string sql, params ReadOnlySpan<object?> values)
    {
        Prove();
        var given = values.ToArray();
        return Use(db => db.Command(sql, null, given).ExecuteNonQuery());
    }

    /// <summary>Some changes outside the journal, all or none.</summary>
    internal T Change<T>(Func<Prepared, DbTransaction, T> change)
    {
        Prove();
        return Use(db =>
        {
            using var transaction = db.Begin();
            var result = change(db, transaction);
            transaction.Commit();
            return result;
        });
    }

    internal Prepared Open() => new(open(), Dialect);

    /// <exception cref="StoreException">The open file is no longer the shop's.</exception>
    public void Prove() => prove?.Invoke();

    /// <summary>The journal is kept up to here, on disk.</summary>
    internal void Mark(long position) => mark?.Invoke(position);

    public void Dispose()
    {
        while (idle.TryTake(out var prepared))
        {
            prepared.Dispose();
        }
    }

    // What state a connection is in after a failure, nobody knows: it is not kept.
    private T Use<T>(Func<Prepared, T> use)
    {
        if (!idle.TryTake(out var db))
        {
            db = Open();
        }

        var isWhole = false;
        try
        {
            var result = use(db);
            isWhole = keeps;
            return result;
        }
        finally
        {
            if (isWhole)
            {
                idle.Add(db);
            }
            else
            {
                db.Dispose();
            }
        }
    }
}
