namespace Revtal.Storage;

/// <summary>
/// Keys by which the service knows its own short-lived words again, whichever instance said them. They open nothing by
/// themselves.
/// </summary>
public sealed class KeyStore(Connections connections)
{
    /// <summary>Each as it was written.</summary>
    public IReadOnlyList<string> All() =>
        connections.Read(db => db.All("""SELECT "Text" FROM door_keys ORDER BY "Id" """, row => row.GetString(0)));

    public void Add(string name, string text) =>
        connections.Change(
            """INSERT INTO door_keys ("Id", "Text") VALUES (@p0, @p1) ON CONFLICT DO NOTHING""",
            name,
            text
        );
}
