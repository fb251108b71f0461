using System.Data.Common;
using System.Globalization;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Revtal.Storage;

/// <summary>A column as a backup has it: one value of the entity model, whatever an engine keeps it as.</summary>
/// <param name="Type">int, long, bool, string, Guid, decimal or byte[].</param>
/// <param name="IsOptional">Whether it may be null.</param>
/// <param name="IsGiven">Whether the engine numbers it.</param>
internal sealed record BackupColumn(string Name, Type Type, bool IsOptional, bool IsGiven)
{
    /// <summary>Writes the value at a place of the row: bytes in base 64, the rest as JSON has it.</summary>
    public void Write(Utf8JsonWriter json, DbDataReader row, int at)
    {
        if (row.IsDBNull(at))
        {
            json.WriteNullValue();
        }
        else if (Type == typeof(int) || Type == typeof(long))
        {
            json.WriteNumberValue(row.GetInt64(at));
        }
        else if (Type == typeof(bool))
        {
            json.WriteBooleanValue(row.GetBoolean(at));
        }
        else if (Type == typeof(decimal))
        {
            json.WriteNumberValue(row.GetDecimal(at));
        }
        else if (Type == typeof(Guid))
        {
            json.WriteStringValue(row.GetGuid(at));
        }
        else if (Type == typeof(byte[]))
        {
            json.WriteBase64StringValue((byte[])row.GetValue(at));
        }
        else
        {
            json.WriteStringValue(row.GetString(at));
        }
    }

    /// <summary>
    /// The value at a place of the row as a field of CSV: bytes in base 64, nothing where there is none. A text that is
    /// empty, or begins with a backslash, has one before it.
    /// </summary>
    public string Field(DbDataReader row, int at) =>
        row.IsDBNull(at) ? ""
        : Type == typeof(int) || Type == typeof(long) ? row.GetInt64(at).ToString(CultureInfo.InvariantCulture)
        : Type == typeof(bool) ? (row.GetBoolean(at) ? "true" : "false")
        : Type == typeof(decimal) ? row.GetDecimal(at).ToString(CultureInfo.InvariantCulture)
        : Type == typeof(Guid) ? $"{row.GetGuid(at)}"
        : Type == typeof(byte[]) ? Written(Convert.ToBase64String((byte[])row.GetValue(at)))
        : Written(row.GetString(at));

    /// <summary>Writes what stands in a field of CSV as a backup has it.</summary>
    /// <exception cref="FormatException">It is no value of this column.</exception>
    public void Write(Utf8JsonWriter json, string field)
    {
        if (field.Length == 0)
        {
            json.WriteNullValue();
        }
        else if (Type == typeof(int) || Type == typeof(long))
        {
            json.WriteNumberValue(long.Parse(field, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture));
        }
        else if (Type == typeof(bool))
        {
            json.WriteBooleanValue(bool.Parse(field));
        }
        else if (Type == typeof(decimal))
        {
            json.WriteNumberValue(decimal.Parse(field, NumberStyles.Number, CultureInfo.InvariantCulture));
        }
        else
        {
            json.WriteStringValue(field[0] == '\\' ? field[1..] : field);
        }
    }

    private static string Written(string text) => text.Length == 0 || text[0] == '\\' ? $"\\{text}" : text;

    /// <exception cref="InvalidOperationException">It is no value of this column.</exception>
    /// <exception cref="FormatException">It is no value of this column.</exception>
    public object? Read(JsonElement value) =>
        value.ValueKind == JsonValueKind.Null
            ? IsOptional
                ? null
                : throw new FormatException($"{Name} has no value")
            : Type == typeof(int)
                ? value.GetInt32()
                : Type == typeof(long)
                    ? value.GetInt64()
                    : Type == typeof(bool)
                        ? value.GetBoolean()
                        : Type == typeof(decimal)
                            ? value.GetDecimal()
                            : Type == typeof(Guid)
                                ? value.GetGuid()
                                : Type == typeof(byte[])
                                    ? value.GetBytesFromBase64()
                                    : value.GetString();
}

/// <summary>A table as a backup has it.</summary>
internal sealed record BackupTable(string Name, IReadOnlyList<BackupColumn> Columns, IReadOnlyList<string> Key)
{
    /// <summary>All of it, in the order of its key.</summary>
    public string Select => $"SELECT {Listed(Columns.Select(c => c.Name))} FROM \"{Name}\" ORDER BY {Listed(Key)}";

    public static string Listed(IEnumerable<string> names) => string.Join(", ", names.Select(n => $"\"{n}\""));
}

/// <summary>The tables that a backup has: all but what is made from them or of the running services.</summary>
internal static class BackupTables
{
    private static readonly Type[] LeftOut =
    [
        typeof(TraceRow),
        typeof(TermRow),
        typeof(StoreTaskRow),
        typeof(InstanceRow),
    ];

    /// <summary>By name.</summary>
    public static IReadOnlyList<BackupTable> Of(IDbContextFactory<RevtalDb> databases)
    {
        using var db = databases.CreateDbContext();
        return Of(db);
    }

    /// <summary>Those of this program without a store; either engine has the same.</summary>
    public static IReadOnlyList<BackupTable> Known()
    {
        using var db = new DesignTimeFactory().CreateDbContext([]);
        return Of(db);
    }

    private static IReadOnlyList<BackupTable> Of(RevtalDb db)
    {
        return
        [
            .. db
                .Model.GetEntityTypes()
                .Where(e => !LeftOut.Contains(e.ClrType))
                .Select(Of)
                .OrderBy(t => t.Name, StringComparer.Ordinal),
        ];
    }

    private static BackupTable Of(IEntityType entity) =>
        new(
            entity.GetTableName()!,
            [.. entity.GetProperties().Select(Of)],
            [.. entity.FindPrimaryKey()!.Properties.Select(p => p.GetColumnName())]
        );

    private static BackupColumn Of(IProperty property) =>
        new(
            property.GetColumnName(),
            Nullable.GetUnderlyingType(property.ClrType) ?? property.ClrType,
            property.IsNullable,
            property.ValueGenerated == ValueGenerated.OnAdd
                && (property.ClrType == typeof(long) || property.ClrType == typeof(int))
        );
}
