using Revtal.Storage;

namespace Revtal.Tests.Storage;

/// <summary>The journal in a database of a server.</summary>
public sealed class PostgresJournalTests : JournalTests
{
    private static readonly Lazy<Task<string>> Prepared = new(async () =>
    {
        var store = PostgresServer.Here.NewDatabase();
        using var engine = new PostgresEngine($"{store};Pooling=false");
        await engine.PrepareAsync();
        return store;
    });

    protected override async Task<IStoreEngine> NewAsync() =>
        new PostgresEngine(PostgresServer.Here.NewDatabase(await Prepared.Value));
}
