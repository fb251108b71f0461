using System.CommandLine;
using Revtal.CommandLine.Screens;

namespace Revtal.CommandLine.Commands;

internal static class BoardCommands
{
    public static Command Make()
    {
        return Cli.Noun(
            "board",
            "All open orders",
            Cli.Command("show", "Show the board", "revtal board show", ShowAsync),
            Cli.Command("watch", "Show changes as they happen, until Ctrl+C", "revtal board watch", WatchAsync)
        );
    }

    private static async Task ShowAsync(ParseResult parse, Client.RevtalClient client, CancellationToken cancel) =>
        Cli.Show(
            parse,
            await Screen.Wait("Asking for the board", client.BoardAsync(cancel)),
            board =>
            {
                OrderScreen.Cards(board.Cards.Where(c => c.Batch is null), board.NearlyFullPercent);
                if (board.Batches.Count > 0)
                {
                    BatchScreen.Cards(board.Batches);
                }
            }
        );

    private static async Task WatchAsync(ParseResult parse, Client.RevtalClient client, CancellationToken cancel)
    {
        try
        {
            await foreach (var change in client.ChangesAsync(cancel: cancel))
            {
                Cli.Show(
                    parse,
                    change,
                    c =>
                        Screen.Line(
                            $"{c.At:HH:mm:ss}  order {c.Order}  {c.Kind.Split('/')[0].Replace('-', ' ')}  {c.By}"
                        )
                );
            }
        }
        catch (OperationCanceledException)
        {
            // Ctrl+C ends the watching, not the command.
        }
        catch (HttpRequestException e)
        {
            throw new Client.UnreachableException(new Uri(parse.GetValue(Cli.Service)!), e);
        }
    }
}
