namespace Revtal.Storage;

/// <summary>
/// The service's own keys, whichever instance made them: those by which it knows its short-lived words again, and those
/// by which the shop signs.
/// </summary>
public sealed class KeyStore(Connections connections)
{
    private const string Signs = "sign:",
        Signed = "signed:";

    /// <summary>Those of short-lived words, each as it was written. They open nothing by themselves.</summary>
    public IReadOnlyList<string> All() =>
        connections.Read(db =>
            db.All(
                """SELECT "Text" FROM door_keys WHERE "Id" NOT LIKE 'sign%:%' ORDER BY "Id" """,
                row => row.GetString(0)
            )
        );

    public void Add(string name, string text) =>
        connections.Change(
            """INSERT INTO door_keys ("Id", "Text") VALUES (@p0, @p1) ON CONFLICT DO NOTHING""",
            name,
            text
        );

    /// <summary>The private key by which the shop signs, in PEM; null where there is none here.</summary>
    public string? Private() =>
        Text("""SELECT "Text" FROM door_keys WHERE "Id" LIKE @p0 ORDER BY "Id" LIMIT 1""", $"{Signs}%");

    /// <summary>The public key of this id, in PEM; null where the shop never signed by it.</summary>
    public string? Public(string id) => Text("""SELECT "Text" FROM door_keys WHERE "Id" = @p0""", Signed + id);

    /// <summary>Of all public keys that the shop ever signed by.</summary>
    public IReadOnlyList<string> PublicIds() =>
        connections.Read(db =>
            db.All(
                """SELECT "Id" FROM door_keys WHERE "Id" LIKE @p0 ORDER BY "Id" """,
                row => row.GetString(0)[Signed.Length..],
                $"{Signed}%"
            )
        );

    /// <summary>Another private key takes the place of those that were.</summary>
    public void ReplacePrivate(string id, string pem)
    {
        Add(Signs + id, pem);
        connections.Change("""DELETE FROM door_keys WHERE "Id" LIKE @p0 AND "Id" <> @p1""", $"{Signs}%", Signs + id);
    }

    public void AddPrivate(string id, string pem) => Add(Signs + id, pem);

    public void AddPublic(string id, string pem) => Add(Signed + id, pem);

    private string? Text(string sql, string id) =>
        connections.Read(db => db.All(sql, row => row.GetString(0), id) is [var only] ? only : null);
}
