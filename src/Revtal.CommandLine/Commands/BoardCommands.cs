using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Commands;

internal static class BoardCommands
{
    public static Command Make() =>
        Cli.Noun(
            "board",
            "All open orders",
            Show(),
            Cli.Command("watch", "Show changes as they happen, until Ctrl+C", "revtal board watch", WatchAsync)
        );

    private static Command Show()
    {
        var owner = new Option<string?>("--owner") { Description = "Only what this person has in hand; “nobody” too" };
        var place = new Option<string?>("--place") { Description = "Only what lies there" };
        var stage = new Option<string?>("--stage") { Description = "Only what stands there: on-bench" };
        return Cli.Command(
            "show",
            "Show the board, or a part of it",
            "revtal board show --owner mara",
            async (p, client, cancel) =>
            {
                var board = await Screen.Wait("Asking for the board", client.BoardAsync(cancel));
                var only = p.GetValue(stage) is { } s ? StageWords.Parse(s) : (Stage?)null;
                var cards = board
                    .Cards.Where(c => p.GetValue(owner) is not { } o || (c.Owner ?? "nobody") == o)
                    .Where(c =>
                        p.GetValue(place) is not { } at
                        || string.Equals(c.Place, at, StringComparison.OrdinalIgnoreCase)
                    )
                    .Where(c => only is null || c.Stage == only)
                    .ToArray();
                Cli.Show(p, board with { Cards = cards }, b => Draw(b, isWhole: cards.Length == board.Cards.Count));
            },
            owner,
            place,
            stage
        );
    }

    // Of machines that are worked on together the whole board shows one line.
    private static void Draw(BoardView board, bool isWhole)
    {
        OrderScreen.Cards(board.Cards.Where(c => c.Batch is null || !isWhole), board);
        if (isWhole && board.Batches.Count > 0)
        {
            BatchScreen.Cards(board.Batches);
        }
    }

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
