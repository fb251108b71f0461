using System.Globalization;

namespace Revtal.Service.Http;

/// <summary>The two parameters that every list takes: <c>after</c> and <c>limit</c>.</summary>
internal static class Paging
{
    public const int Usual = 50;
    private const int Most = 500;

    /// <exception cref="BadHttpRequestException">It is out of range.</exception>
    public static int Checked(int limit) =>
        limit is > 0 and <= Most
            ? limit
            : throw new BadHttpRequestException($"The parameter limit wants a number from 1 to {Most}, not {limit}.");

    /// <summary>The key in <c>after</c>, for lists that go by numbers; null for the first page.</summary>
    /// <exception cref="BadHttpRequestException">It is no key of such a list.</exception>
    public static long? Number(string? after) =>
        after is null ? null
        : long.TryParse(after, NumberStyles.None, CultureInfo.InvariantCulture, out var key) ? key
        : throw NoKey();

    /// <summary>The same for lists that go by several numbers.</summary>
    /// <exception cref="BadHttpRequestException">It is no key of such a list.</exception>
    public static long[]? Numbers(string? after, int count) =>
        after?.Split('.').Select(Number).ToArray() is not { } keys ? null
        : keys.Length == count ? [.. keys.Select(k => k!.Value)]
        : throw NoKey();

    private static BadHttpRequestException NoKey() =>
        new("The parameter after wants what the page before gave as next.");
}
