using System.Collections.Concurrent;
using System.Data.Common;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;

namespace Revtal.Storage;

/// <summary>
/// An open connection that keeps the commands it has prepared. The paths that every request takes use these; what is
/// rare asks through the entity model.
/// </summary>
/// <param name="owns">Whether the connection ends with it.</param>
internal sealed class Prepared(DbConnection connection, bool owns = true) : IDisposable
{
    private readonly Dictionary<string, DbCommand> commands = [];

    public DbTransaction Begin() => connection.BeginTransaction();

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

        if (owns)
        {
            connection.Dispose();
        }
    }
}

/// <summary>The store's own connections.</summary>
/// <param name="open">Opens one more, ready for use.</param>
/// <param name="prove">Proves before a change that what is open is still what is kept.</param>
public sealed class Connections(Func<DbConnection> open, Action? prove = null) : IDisposable
{
    private readonly ConcurrentBag<Prepared> idle = [];

    /// <summary>Reads with a connection that nobody else uses meanwhile.</summary>
    internal T Read<T>(Func<Prepared, T> read)
    {
        if (!idle.TryTake(out var prepared))
        {
            prepared = Open();
        }

        var result = read(prepared);

        // Not given back after a failure: what state it is in, nobody knows.
        idle.Add(prepared);
        return result;
    }

    /// <summary>One change outside the journal.</summary>
    /// <returns>How many rows it touched.</returns>
    internal int Change(string sql, params ReadOnlySpan<object?> values)
    {
        Prove();
        var given = values.ToArray();
        return Read(db => db.Command(sql, null, given).ExecuteNonQuery());
    }

    internal Prepared Open() => new(open());

    /// <exception cref="StoreException">The open file is no longer the shop's.</exception>
    public void Prove() => prove?.Invoke();

    public void Dispose()
    {
        while (idle.TryTake(out var prepared))
        {
            prepared.Dispose();
        }
    }
}
