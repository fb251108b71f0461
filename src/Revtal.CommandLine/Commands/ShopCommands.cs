using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.CommandLine.Commands;

internal static class ShopCommands
{
    public static Command Make() =>
        Cli.Noun(
            "shop",
            "The shop and its people",
            [
                Show(),
                Notices(),
                InvoiceCommands.List(),
                .. PeopleCommands.All(),
                .. OutwardCommands.All(),
                .. StoreCommands.All(),
            ]
        );

    private static Command Notices()
    {
        var read = new Option<bool>("--read") { Description = "They are read now" };
        return Cli.Command(
            "notices",
            "What concerns you: handed over, named in a note, answered, woken",
            "revtal shop notices --read",
            async (p, client, cancel) =>
            {
                var page = await client.NoticesAsync(cancel: cancel);
                if (p.GetValue(read) && page.Items is [var newest, ..])
                {
                    await client.ReadNoticesAsync(new NoticesReadRequest(newest.Position), cancel);
                }

                Cli.Show(
                    p,
                    page,
                    all =>
                        Screen.Table(
                            ["", "when", "order", "what", "by", "text"],
                            all.Items.Select(n =>
                                new[]
                                {
                                    n.ReadAt is null ? "●" : "",
                                    Screen.Ago(n.At),
                                    $"{n.Order}",
                                    Phrases.Words(n.Kind),
                                    Screen.Safe(n.By),
                                    Screen.Safe(n.Text),
                                }
                            )
                        )
                );
            },
            read
        );
    }

    private static Command Show() =>
        Cli.Command(
            "show",
            "Show the shop and its people",
            "revtal shop show",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.ShopAsync(cancel),
                    shop =>
                    {
                        Screen.Marked(
                            $"[bold]{Screen.Safe(shop.Name)}[/]  [grey]{shop.Zone}, Revtal {shop.Version}[/]"
                        );
                        Screen.Table(
                            ["id", "name", "role"],
                            shop.People.Select(x =>
                                new[] { x.Id, Screen.Safe(x.Name), x.Role.ToString().ToLowerInvariant() }
                            )
                        );
                        OrderScreen.Fact("tries", string.Join("; ", shop.Trials));
                    }
                )
        );
}
