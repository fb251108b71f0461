namespace Revtal.Core.Bench;

/// <summary>
/// Which drive belongs in which bay, by what was written down. A tablet without a network decides it too:
/// both sides are held to one file of cases.
/// </summary>
public static class BayMap
{
    /// <summary>What is written for a bay without a drive.</summary>
    public const string Empty = "empty";

    /// <summary>The bay that the drive was written down of; null where it came from nowhere here.</summary>
    /// <param name="was">Serials by bay.</param>
    public static string? OwnBay(IReadOnlyDictionary<string, string> was, string serial) =>
        was.Where(o => !IsEmpty(o.Value) && IsSame(o.Value, serial)).Select(o => o.Key).FirstOrDefault();

    /// <summary>Whether what is said to sit in a bay is what was written down of it.</summary>
    public static bool IsOwn(IReadOnlyDictionary<string, string> was, string bay, string told) =>
        was.TryGetValue(bay, out var wrote) && IsSame(wrote, told);

    /// <summary>Letter case and blanks around make no other serial.</summary>
    public static bool IsSame(string a, string b) => a.Trim().Equals(b.Trim(), StringComparison.OrdinalIgnoreCase);

    /// <summary>Whether the text says that nothing sits there.</summary>
    public static bool IsEmpty(string text) => IsSame(text, Empty);
}
