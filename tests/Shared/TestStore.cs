using Microsoft.EntityFrameworkCore;
using Revtal.Documents;
using Revtal.Storage;

namespace Revtal.Tests;

/// <summary>A store with all that stands on it, as the service puts it together.</summary>
internal sealed class TestStore : IDisposable
{
    public TestStore(IStoreEngine engine)
    {
        Engine = engine;
        Changes = new Changes(engine.IsShared);
        Road = new Road(Databases, Connections, Changes);
        Writer = new JournalWriter(Connections, Changes);
        Journal = new Journal(Databases, Connections, new TraceKeeper(Connections, Writer));
        Guides = new GuideShelf(Databases, Connections, Road, Changes, GuideYaml.Read, GuideYaml.Write);
    }

    public IStoreEngine Engine { get; }

    public IDbContextFactory<RevtalDb> Databases => Engine.Databases;

    public Connections Connections => Engine.Connections;

    public Changes Changes { get; }

    public Road Road { get; }

    public JournalWriter Writer { get; }

    public Journal Journal { get; }

    public GuideShelf Guides { get; }

    public Rebuild Rebuild => new(Connections, Journal, Guides);

    /// <summary>The shop in a folder, brought to this version's shape.</summary>
    public static async Task<TestStore> InAsync(string folder)
    {
        var store = new TestStore(new SqliteEngine(StoreFolder.Take(folder)));
        await store.Engine.PrepareAsync();
        return store;
    }

    public void Dispose()
    {
        Writer.Dispose();
        Engine.Dispose();
    }
}
