using System.Text.Json;
using Revtal.Core.Orders;

namespace Revtal.Storage.Shapes;

/// <summary>
/// Name → shape → heart: what each kind of entry is called in the journal, and how it is written and read. A name,
/// once written, is read for ever. A changed shape gets a new version: its line here writes it, and the old name's
/// line reads the old shape and brings it up to date: a shape that was written once is never changed, what is new
/// in it is optional. Words of choices are texts there, sizes are bytes, steps and part numbers are texts, so that
/// the heart may be rebuilt without touching a journal.
/// </summary>
public static class EntryKinds
{
    private static readonly EntryKind[] Table =
    [
        .. IntakeShapes.Kinds,
        .. MeasureShapes.Kinds,
        .. PlanShapes.Kinds,
        .. DriveShapes.Kinds,
        .. BenchShapes.Kinds,
        .. SketchShapes.Kinds,
        .. SwapShapes.Kinds,
        .. WatchShapes.Kinds,
        .. CloseShapes.Kinds,
        .. ReportShapes.Kinds,
        .. InvoiceShapes.Kinds,
        .. NoteShapes.Kinds,
        .. BatchShapes.Kinds,
        .. SharedShapes.Kinds,
    ];

    // Texts of choices and steps are the shapes' own business; nothing of the wire's conventions reaches the journal.
    internal static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.Strict,
        AllowDuplicateProperties = false,
    };

    private static readonly Dictionary<string, EntryKind> ByName = Table.ToDictionary(k => k.Name);

    // The last line of a type is the one that writes it.
    private static readonly Dictionary<Type, EntryKind> ByType = Table
        .GroupBy(k => k.Body)
        .ToDictionary(g => g.Key, g => g.Last());

    /// <summary>All names that are read.</summary>
    public static IReadOnlyCollection<string> Names => ByName.Keys;

    /// <summary>The name under which a body is written: <c>step-confirmed/1</c>.</summary>
    public static string NameOf(EntryBody body) => ByType[body.GetType()].Name;

    /// <summary>The body as the journal keeps it, JSON.</summary>
    public static string Write(EntryBody body) => ByType[body.GetType()].Write(body);

    /// <exception cref="InvalidDataException">The kind is of a newer Revtal, or the body is not of its
    /// kind.</exception>
    public static EntryBody Read(string name, string body)
    {
        if (!ByName.TryGetValue(name, out var kind))
        {
            throw new InvalidDataException(
                $"The journal holds entries of kind “{name}”, which this version does not know. Run the version that "
                    + "wrote them, or a newer one."
            );
        }

        try
        {
            return kind.Read(body);
        }
        catch (Exception e) when (e is JsonException or ArgumentException or FormatException or NullReferenceException)
        {
            throw new InvalidDataException($"An entry of kind “{name}” cannot be read: {e.Message}", e);
        }
    }
}

/// <summary>One kind of entry: its name in the journal, the heart's record, and the way between them.</summary>
internal sealed record EntryKind(string Name, Type Body, Func<EntryBody, string> Write, Func<string, EntryBody> Read)
{
    public static EntryKind Of<TBody, TStored>(string name, Func<TBody, TStored> write, Func<TStored, TBody> read)
        where TBody : EntryBody =>
        new(
            name,
            typeof(TBody),
            body => JsonSerializer.Serialize(write((TBody)body), EntryKinds.Json),
            text =>
                read(
                    JsonSerializer.Deserialize<TStored>(text, EntryKinds.Json)
                        ?? throw new InvalidDataException($"An entry of kind “{name}” is empty.")
                )
        );
}
