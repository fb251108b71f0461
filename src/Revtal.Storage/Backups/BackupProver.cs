using System.Security.Cryptography;
using System.Text.Json;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>What a backup holds, and whether it is what was recorded.</summary>
/// <param name="Orders">Whose chain was followed to its end.</param>
/// <param name="Faults">How many were found.</param>
/// <param name="First">The first of them.</param>
public sealed record BackupProof(
    BackupHead Head,
    BackupEnd End,
    int Orders,
    long Entries,
    int Pictures,
    int Captures,
    int Faults,
    IReadOnlyList<StoreFault> First
);

/// <summary>
/// Proves a backup without a store: its own hashes, the chain of entries of each order, pictures and captures by their
/// hashes.
/// </summary>
public static class BackupProver
{
    private const int MostTold = 100;

    /// <param name="from">Compressed.</param>
    /// <param name="name">What the file is called.</param>
    /// <param name="progress">How many rows were read, from time to time.</param>
    /// <exception cref="StoreException">It is no backup, damaged, cut off or changed.</exception>
    public static async Task<BackupProof> ProveAsync(
        Stream from,
        string name,
        Action<long>? progress = null,
        CancellationToken cancel = default
    )
    {
        await using var reader = new BackupReader(from, name);
        var head = await reader.HeadAsync(cancel);
        var found = new Found();
        while (await reader.NextAsync(cancel) is { } table)
        {
            var look = found.LookAt(table);
            await foreach (var row in reader.RowsAsync(cancel))
            {
                try
                {
                    look(row);
                }
                catch (Exception e) when (e is InvalidOperationException or FormatException or IndexOutOfRangeException)
                {
                    throw reader.Damaged($"no row of {table.Table}", e);
                }
            }

            progress?.Invoke(reader.Rows);
        }

        return new BackupProof(
            head,
            reader.End!,
            found.Heads.Count,
            found.Entries,
            found.Pictures,
            found.Captures,
            found.Faults,
            found.First
        );
    }

    // Entries come by their positions, and so those of one order one after another; orders after them.
    private sealed class Found
    {
        public Dictionary<int, (int Sequence, byte[] Hash)> Heads { get; } = [];

        public HashSet<int> Broken { get; } = [];

        public List<StoreFault> First { get; } = [];

        public int Faults { get; private set; }

        public long Entries { get; private set; }

        public int Pictures { get; private set; }

        public int Captures { get; private set; }

        public Action<JsonElement> LookAt(BackupTableLine table)
        {
            var columns = table.Columns.ToList();
            int at(string column) => columns.IndexOf(column);
            return table.Table switch
            {
                "entries" => row => LookAt(EntryOf(row, at)),
                "orders" => row =>
                    LookAt(
                        row[at("Number")].GetInt32(),
                        row[at("Head")].GetInt32(),
                        row[at("Hash")] is { ValueKind: JsonValueKind.String } hash ? hash.GetBytesFromBase64() : []
                    ),
                "pictures" => row => Pictures += LookAt("picture", row, at),
                "captures" => row => Captures += LookAt("capture", row, at),
                _ => _ => { },
            };
        }

        private void LookAt(EntryRow entry)
        {
            Entries++;
            var (last, hash) = Heads.GetValueOrDefault(entry.Order, (0, EntryChain.None));
            if (!Broken.Contains(entry.Order))
            {
                if (entry.Sequence != last + 1)
                {
                    Break(entry.Order, last + 1, $"Entry {last + 1} is gone.");
                }
                else if (!hash.AsSpan().SequenceEqual(entry.Before))
                {
                    Break(
                        entry.Order,
                        entry.Sequence,
                        $"Entry {entry.Sequence} was not recorded after what stands before it now: one of the two was "
                            + "changed."
                    );
                }
            }

            Heads[entry.Order] = (entry.Sequence, EntryChain.HashOf(entry));
        }

        private void LookAt(int order, int head, byte[] hash)
        {
            var (last, own) = Heads.GetValueOrDefault(order, (0, EntryChain.None));
            if (!Broken.Contains(order) && (last != head || !own.AsSpan().SequenceEqual(hash)))
            {
                Break(order, last, $"Entry {last} is not the one that the order's row was written with.");
            }
        }

        private int LookAt(string noun, JsonElement row, Func<string, int> at)
        {
            var hash = row[at("Hash")].GetString()!;
            if (Convert.ToHexStringLower(SHA256.HashData(row[at("Content")].GetBytesFromBase64())) != hash)
            {
                Tell(new StoreFault(null, null, $"The {noun} {hash[..12]}… is not what was kept under that hash."));
            }

            return 1;
        }

        private void Break(int order, int sequence, string sentence)
        {
            Broken.Add(order);
            Tell(new StoreFault(order, sequence, sentence));
        }

        private void Tell(StoreFault fault)
        {
            Faults++;
            if (First.Count < MostTold)
            {
                First.Add(fault);
            }
        }

        private static EntryRow EntryOf(JsonElement row, Func<string, int> at)
        {
            return new EntryRow
            {
                Order = Of("Order").GetInt32(),
                Sequence = Of("Sequence").GetInt32(),
                Id = Of("Id").GetGuid(),
                Kind = Of("Kind").GetString()!,
                At = Of("At").GetInt64(),
                By = Of("By").GetString()!,
                Body = Of("Body").GetString()!,
                Print = Of("Print").GetString()!,
                SaidAt = Of("SaidAt") is { ValueKind: JsonValueKind.Number } said ? said.GetInt64() : null,
                ClockOff = Of("ClockOff") is { ValueKind: not JsonValueKind.Null } off ? off.GetBoolean() : null,
                Before = Of("Before") is { ValueKind: JsonValueKind.String } before
                    ? before.GetBytesFromBase64()
                    : EntryChain.None,
            };

            JsonElement Of(string column) => row[at(column)];
        }
    }
}
