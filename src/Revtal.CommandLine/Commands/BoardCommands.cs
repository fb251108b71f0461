using System.CommandLine;
using System.Text;
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
            Dates(),
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

    private static Command Dates()
    {
        var file = new Option<string?>("--out") { Description = "Write them to this file, as a calendar (.ics)" };
        var link = new Option<bool>("--link")
        {
            Description = "Make a link that your calendar reads again and again; it is shown once",
        };
        return Cli.Command(
            "dates",
            "What is promised, watched, rebuilt and taken up again when, for a calendar",
            "revtal board dates --link --as mara",
            async (p, client, cancel) =>
            {
                if (p.GetValue(link))
                {
                    Cli.Show(p, await client.MakeCalendarAsync(cancel), Linked);
                }
                else if (p.GetValue(file) is { } path)
                {
                    Files.Write(path, await client.DatesAsync(cancel));
                    Screen.Line(path);
                }
                else
                {
                    Console.Write(Encoding.UTF8.GetString(await client.DatesAsync(cancel)));
                }
            },
            file,
            link
        );
    }

    private static void Linked(CalendarMade made)
    {
        Screen.Line(made.Link);
        if (made.HereOnly)
        {
            Screen.Marked("[grey]The shop has no address of its own: other machines may not reach this one.[/]");
        }
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
