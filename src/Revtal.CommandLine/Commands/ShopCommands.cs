using System.CommandLine;
using Revtal.CommandLine.Screens;

namespace Revtal.CommandLine.Commands;

internal static class ShopCommands
{
    public static Command Make() => Cli.Noun("shop", "The shop and its people", [Show(), .. PeopleCommands.All()]);

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
