using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.CommandLine.Commands;

/// <summary>Where the shop's data lies, its backups, and whether it is what was recorded.</summary>
internal static class StoreCommands
{
    private const long LargestHeads = 1 << 20;

    private static readonly TimeSpan BetweenLooks = TimeSpan.FromMilliseconds(300);

    public static IEnumerable<Command> All() => [Store(), Backup(), Verify(), Heads()];

    private static Command Store() =>
        Cli.Command(
            "store",
            "Where the data lies, the services on it and its backups (leads)",
            "revtal shop store",
            async (p, client, cancel) => Cli.Show(p, await client.StoreAsync(cancel), StoreScreen.Show)
        );

    private static Command Backup()
    {
        var file = new Argument<string?>("FILE")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "Where it is put on this machine",
        };
        var there = new Option<bool>("--there") { Description = "Into the service's own folder instead" };
        var tables = new Option<bool>("--tables") { Description = "As a ZIP of CSV, for other programs" };
        return Cli.Command(
            "backup",
            "Take a backup of the whole store, beside the work (leads)",
            "revtal shop backup monday.jsonl.gz",
            async (p, client, cancel) =>
            {
                if (p.GetValue(file) is null == !p.GetValue(there))
                {
                    throw RefusedException.Invalid("no-file", "Name a file, or have it put --there; one of the two.");
                }

                if (p.GetValue(tables) && p.GetValue(there))
                {
                    throw RefusedException.Invalid("tables-there", "Tables are taken away: name a file for them.");
                }

                if (p.GetValue(file) is { } path)
                {
                    var bytes = await Screen.Wait(
                        "taking a backup",
                        FetchAsync(client, path, p.GetValue(tables), cancel)
                    );
                    Screen.Line($"The store as it is now: {path}, {bytes:N0} bytes.");
                    Screen.Line("It opens everybody's sign-in: keep it safe. Prove it with revtald --prove FILE.");
                    return;
                }

                var made = await Screen.Wait("making a backup", MakeAsync(client, cancel));
                Cli.Show(p, made, b => Screen.Line(StoreScreen.Told(b)));
                if (made.Trouble is { } why)
                {
                    throw RefusedException.Rule("no-backup", why);
                }
            },
            file,
            there,
            tables
        );
    }

    private static Command Heads()
    {
        var like = new Option<string?>("--like") { Description = "A file of them that was kept, to compare with" };
        return Cli.Command(
            "heads",
            "One hash a day of all that was recorded before, to be kept elsewhere (leads)",
            "revtal shop heads > heads.txt",
            async (p, client, cancel) =>
            {
                var heads = await client.HeadsAsync(cancel);
                if (p.GetValue(like) is { } file)
                {
                    string[] kept = Files
                        .Text(file, LargestHeads)
                        .Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
                    var days = DayHead.Compare(kept, heads);
                    Screen.Line($"{Phrases.Counted(days, "day", "days")} compared: all as they were.");
                    return;
                }

                Cli.Show(p, heads, all => all.Select(h => h.ToLine()).ToList().ForEach(Screen.Line));
            },
            like
        );
    }

    // Whole or not there.
    private static async Task<long> FetchAsync(
        RevtalClient client,
        string path,
        bool asTables,
        CancellationToken cancel
    )
    {
        var part = $"{path}.part";
        var to = Files.Make(part);
        try
        {
            await using (to)
            {
                await client.FetchBackupAsync(to, asTables, cancel);
                to.Flush(flushToDisk: true);
            }

            File.Move(part, path, overwrite: true);
            return new FileInfo(path).Length;
        }
        catch (Exception e) when (e is IOException or HttpRequestException)
        {
            throw RefusedException.Rule("no-backup", $"The backup broke off, and nothing was kept: {e.Message}");
        }
        finally
        {
            File.Delete(part);
        }
    }

    private static async Task<BackupMade> MakeAsync(RevtalClient client, CancellationToken cancel)
    {
        var begun = await client.MakeBackupAsync(cancel);
        while (true)
        {
            var so = (await client.StoreAsync(cancel)).Backups.FirstOrDefault(b => b.BeganAt == begun.BeganAt);
            if (so is { EndedAt: not null })
            {
                return so;
            }

            await Task.Delay(BetweenLooks, cancel);
        }
    }

    private static Command Verify()
    {
        var last = new Option<bool>("--last") { Description = "How the newest look went, without another one" };
        return Cli.Command(
            "verify",
            "Look through the whole store for what is not as it was recorded (leads)",
            "revtal shop verify",
            async (p, client, cancel) =>
            {
                var look = p.GetValue(last)
                    ? await client.VerificationAsync(cancel)
                    : await Screen.Wait("looking through the store", LookAsync(client, cancel));
                Cli.Show(p, look, StoreScreen.Look);
                if (look.Faults > 0 || look.Trouble is not null)
                {
                    throw RefusedException.Rule(
                        "store-faulty",
                        look.Trouble
                            ?? "The rest stays readable. Keep the file as it is, and look at a backup for what was."
                    );
                }
            },
            last
        );
    }

    private static async Task<VerifyView> LookAsync(RevtalClient client, CancellationToken cancel)
    {
        var look = await client.VerifyStoreAsync(cancel);
        while (look.EndedAt is null)
        {
            await Task.Delay(BetweenLooks, cancel);
            look = await client.VerificationAsync(cancel);
        }

        return look;
    }
}
