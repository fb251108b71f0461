using Npgsql;

namespace Revtal.Storage;

/// <summary>
/// Hears what any instance committed, and tells it here. A call only says that there is something: what, is read from
/// the journal, after the last position that was told; so nothing is told twice, out of turn or not at all.
/// </summary>
public sealed class PostgresEar(PostgresEngine engine, Journal journal, Changes changes)
{
    private const int Page = 500;
    private long position;

    /// <summary>Begins behind what the journal has now.</summary>
    public void Begin() => position = journal.LastPosition();

    /// <summary>Listens until the connection ends or it is cancelled.</summary>
    /// <exception cref="NpgsqlException">The server has gone.</exception>
    public async Task ListenAsync(CancellationToken cancel)
    {
        await using var ear = await engine.ListenAsync(cancel);
        var calls = new List<string>();
        ear.Notification += (_, call) => calls.Add(call.Payload);
        try
        {
            // What was committed before it listened, nobody called: what was kept till now goes before any is believed.
            changes.Hear((string?)null);
            changes.Hears = true;
            await ReadOnAsync(cancel);
            while (true)
            {
                await ear.WaitAsync(cancel);
                var heard = calls.ToArray();
                calls.Clear();
                foreach (var call in heard.Where(c => c.Length > 0).Distinct())
                {
                    changes.Hear(call);
                }

                await ReadOnAsync(cancel);
            }
        }
        finally
        {
            changes.Hears = false;
        }
    }

    private async Task ReadOnAsync(CancellationToken cancel)
    {
        for (var more = true; more; )
        {
            var page = await journal.ChangesAsync(position, Page, cancel);
            if (page.Count > 0)
            {
                position = page[^1].Position;
                changes.Hear(page);
            }

            more = page.Count == Page;
        }
    }
}
