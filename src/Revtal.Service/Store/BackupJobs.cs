using Revtal.Core;
using Revtal.Storage;

namespace Revtal.Service.Store;

/// <summary>What the service does with a backup instead of serving, told on the terminal.</summary>
internal static class BackupJobs
{
    /// <exception cref="StoreException">It is no backup, damaged, or holds what was not recorded so.</exception>
    public static async Task ProveAsync(string path)
    {
        await using var given = Open(path);
        await using var from = await LinesAsync(given, path);
        var proof = await LookAsync(from, path);
        if (proof.Faults > 0)
        {
            throw new StoreException(
                $"{path} is whole as it was written, but the store that it was made of had "
                    + $"{Phrases.Counted(proof.Faults, "fault", "faults")}: see above."
            );
        }

        Say("It is whole, and each entry follows from the one before it.");
    }

    /// <exception cref="StoreException">It cannot be restored, and the store is as it was; or what was restored was not
    /// recorded so.</exception>
    public static async Task RestoreAsync(IServiceProvider services, string path)
    {
        await using var given = Open(path);
        await using var from = await LinesAsync(given, path);
        // Damage is told before anything is begun.
        await LookAsync(from, path);
        from.Position = 0;
        var end = await services.GetRequiredService<Restore>().RunAsync(from, Path.GetFileName(path));
        var faults = new List<StoreFault>();
        services.GetRequiredService<Verifier>().Run(faults.Add, _ => { });
        var place = services.GetRequiredService<IStoreEngine>().Place;
        Say($"Restored {end.Rows:N0} rows: {place}.");
        Say("Whoever was signed in when it was made is signed in again; what was ended since has to be ended again.");
        if (faults.Count > 0)
        {
            faults.ForEach(Say);
            throw new StoreException(
                "All of the backup was restored, but not all of it is as it was recorded: see above."
            );
        }

        Say("All of it is as it was recorded.");
    }

    // Tables are made lines first, in a file that goes when it is closed.
    private static async Task<Stream> LinesAsync(FileStream given, string path)
    {
        if (!TablesReader.IsZip(given))
        {
            return given;
        }

        var lines = new FileStream(
            Path.GetTempFileName(),
            new FileStreamOptions
            {
                Mode = FileMode.Create,
                Access = FileAccess.ReadWrite,
                Options = FileOptions.DeleteOnClose,
            }
        );
        await TablesReader.ConvertAsync(given, Path.GetFileName(path), lines);
        lines.Position = 0;
        return lines;
    }

    private static async Task<BackupProof> LookAsync(Stream from, string path)
    {
        var proof = await BackupProver.ProveAsync(from, Path.GetFileName(path));
        Say(
            $"{proof.Head.Shop}, {Phrases.Minute(proof.Head.Made)}, by Revtal {proof.Head.Revtal}: "
                + $"{proof.Orders:N0} orders, "
                + $"{proof.Entries:N0} entries, {proof.Pictures:N0} pictures, {proof.Captures:N0} captures; "
                + $"{proof.End.Rows:N0} rows in all."
        );
        foreach (var fault in proof.First)
        {
            Say(fault);
        }

        return proof;
    }

    private static FileStream Open(string path)
    {
        try
        {
            return File.OpenRead(path);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StoreException($"{path} cannot be read: {e.Message}", e);
        }
    }

    private static void Say(StoreFault fault) =>
        Say(fault.Order is { } order ? $"Order {order}: {fault.Sentence}" : fault.Sentence);

    private static void Say(string line) => System.Console.WriteLine(line);
}
