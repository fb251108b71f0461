using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.CommandLine.Commands;

/// <summary>Whether what is kept is what was recorded.</summary>
internal static class StoreCommands
{
    private static readonly TimeSpan BetweenLooks = TimeSpan.FromMilliseconds(300);

    public static IEnumerable<Command> All() => [Verify()];

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
                Cli.Show(p, look, Show);
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

    private static void Show(VerifyView look)
    {
        if (look.BeganAt is not { } began)
        {
            Screen.Line("Nobody looked since the service started.");
            return;
        }

        Screen.Line(
            $"{look.Orders:N0} of {look.Of:N0} orders, {look.Entries:N0} entries, {look.Pictures:N0} pictures and "
                + $"{look.Captures:N0} captures looked through, {Screen.Ago(began)}."
        );
        if (look.Faults == 0)
        {
            Screen.Line(look.EndedAt is null ? "Nothing found so far." : "All of it is as it was recorded.");
            return;
        }

        Screen.Table(
            ["order", "entry", $"{look.Faults:N0} found"],
            look.First.Select(f => new[] { $"{f.Order}", $"{f.Sequence}", Screen.Safe(f.Sentence) })
        );
    }
}
