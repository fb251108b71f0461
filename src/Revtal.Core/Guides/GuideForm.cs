using Revtal.Core.Hardware;

namespace Revtal.Core.Guides;

/// <summary>
/// One map of a guide file while <see cref="GuideTable"/> goes through its keys. Reading gives each value from the
/// file, writing takes each value to it, describing notes what each key holds: the same line of the table does all
/// three, so that they cannot differ.
/// </summary>
internal abstract class GuideForm
{
    /// <summary>One value.</summary>
    /// <param name="value">What the guide holds; not looked at in reading.</param>
    /// <param name="says">What the key holds, for the schema and the format's page.</param>
    public abstract T Take<T>(string key, FieldType<T> type, T? value, string says = "", bool needed = false);

    /// <summary>A map of its own under this key; null where there is none.</summary>
    /// <param name="what">As problems name it: “a slot”.</param>
    public abstract T? Part<T>(
        string key,
        string what,
        Func<GuideForm, T?, T> part,
        T? value,
        string says = "",
        bool needed = false
    )
        where T : class;

    /// <summary>A list of maps under this key.</summary>
    /// <inheritdoc cref="Part" path="/param"/>
    public abstract IReadOnlyList<T> Parts<T>(
        string key,
        string what,
        int most,
        Func<GuideForm, T?, T> part,
        IReadOnlyList<T>? values,
        string says = ""
    )
        where T : class;

    public string? Text(string key, string? value, string says = "") => Take(key, FieldTypes.Text, value, says);

    public string Need(string key, string? value, string says = "", FieldType<string?>? type = null) =>
        Take(key, type ?? FieldTypes.Text, value, says, needed: true) ?? "";

    /// <summary>Told only where it is so.</summary>
    public bool Flag(string key, bool? value, string says = "") =>
        Take(key, FieldTypes.Flag, value is true ? true : null, says) ?? false;

    public MemorySize NeedSize(string key, MemorySize? value, string says = "") =>
        Take(key, FieldTypes.Size, value, says, needed: true) ?? default;
}
