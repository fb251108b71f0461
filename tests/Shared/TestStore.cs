using Microsoft.EntityFrameworkCore;
using Revtal.Core.Orders;
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

    public DayHeads Heads => new(Connections, new ShopKey(new KeyStore(Connections), null));

    public Verifier Verifier => new(Connections, Guides, Heads);

    public Rebuild Rebuild => new(Connections, Journal, Guides);

    /// <summary>The shop in a folder, brought to this version's shape.</summary>
    public static async Task<TestStore> InAsync(string folder)
    {
        var store = new TestStore(new SqliteEngine(StoreFolder.Take(folder)));
        await store.Engine.PrepareAsync();
        return store;
    }

    /// <summary>One more order, of a model that the shop has a guide for.</summary>
    public async Task<Order> TakeInAsync()
    {
        var guide = Guides.Get("FJ14", 1);
        var body = IntakeRules.TakeIn(
            new Intake("Choir's archive", null, "NF14-77", "slow", null, null, null, Backup.Made, SealConsent.NoSeal),
            guide,
            1
        );
        var result = await Writer.AppendAsync(
            new Append(
                null,
                0,
                Guid.NewGuid(),
                DateTimeOffset.UnixEpoch,
                "sanne",
                body,
                "",
                e => ProjectionRows.Project(Order.Fold([e]), guide)
            )
        );
        return Order.Fold([((AppendResult.Recorded)result).Stored.Entry]);
    }

    public void Dispose()
    {
        Writer.Dispose();
        Engine.Dispose();
    }
}
