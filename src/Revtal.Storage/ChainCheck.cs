using Revtal.Core;

namespace Revtal.Storage;

/// <summary>Whether the entries of an order are those that were recorded, one after another.</summary>
public static class ChainCheck
{
    /// <param name="entries">By sequence.</param>
    /// <param name="head">The sequence of its last, as the order's row has it; null where there is no row.</param>
    /// <param name="hash">Of its last, as the order's row has it.</param>
    /// <returns>The first fault; null for none.</returns>
    public static StoreFault? Of(int order, IReadOnlyList<EntryRow> entries, int? head, byte[]? hash)
    {
        var expected = EntryChain.None;
        for (var i = 0; i < entries.Count; i++)
        {
            var entry = entries[i];
            if (entry.Sequence != i + 1)
            {
                return new StoreFault(order, i + 1, $"Entry {i + 1} is gone.");
            }

            if (!expected.AsSpan().SequenceEqual(entry.Before))
            {
                return Unfit(order, entries, i, hash);
            }

            expected = EntryChain.HashOf(entry);
        }

        var last = entries.Count;
        return head switch
        {
            null => null,
            { } more when more > last => new StoreFault(
                order,
                last + 1,
                $"Entry {last + 1} is not there, and the order's row counts it."
            ),
            { } less when less < last => new StoreFault(
                order,
                less + 1,
                $"Entry {less + 1} is one that the order's row does not count."
            ),
            _ when expected.AsSpan().SequenceEqual(hash) => null,
            _ => new StoreFault(order, last, $"Entry {last} is not the one that the order's row was written with."),
        };
    }

    // Where what follows still fits this one, the entry before was changed; else it is one of the two, and which is not
    // known.
    private static StoreFault Unfit(int order, IReadOnlyList<EntryRow> entries, int at, byte[]? hash)
    {
        var follows = at + 1 < entries.Count ? entries[at + 1].Before : hash;
        return at > 0 && EntryChain.HashOf(entries[at]).AsSpan().SequenceEqual(follows)
            ? new StoreFault(order, at, $"Entry {at} is not as it was recorded.")
            : new StoreFault(order, at + 1, $"Entry {at + 1} was not recorded after what stands before it now.");
    }
}
