using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Commands;

internal static class ShopCommands
{
    public static Command Make() => Cli.Noun("shop", "The shop and its people", Show(), Person());

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

    private static Command Person()
    {
        var id = new Argument<string>("ID");
        var name = new Option<string>("--name") { Required = true };
        var role = new Option<Role>("--role") { Description = "desk, technician or lead", Required = true };
        return Cli.Command(
            "person",
            "Add or change somebody (leads; the first person must be one)",
            "revtal shop person mara --name \"Mara Lind\" --role technician --as ines",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.PutPersonAsync(
                        p.GetValue(id)!,
                        new PersonRequest(p.GetValue(name)!, p.GetValue(role)),
                        cancel
                    ),
                    who => Screen.Line($"{who.Id} is {who.Name}, {who.Role.ToString().ToLowerInvariant()}")
                ),
            id,
            name,
            role
        );
    }
}
