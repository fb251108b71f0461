using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;

namespace Revtal.CommandLine.Commands;

/// <summary>The part of <c>shop</c> that is about bench tablets, badges, PINs and one-time codes.</summary>
internal static class ProofCommands
{
    public static Command[] All() => [Tablet(), Tablets(), Badge(), Pin(), Codes()];

    private static Command Tablet()
    {
        var name = new Argument<string>("NAME") { Description = "What it is called on the bench" };
        return Cli.Command(
            "tablet",
            "Make a link that makes a screen a bench tablet, once, within an hour (leads)",
            "revtal shop tablet \"Bench 2\"",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.MakeTabletAsync(new TabletRequest(p.GetValue(name)!), cancel),
                    made =>
                    {
                        Screen.Line(made.Link);
                        Screen.Line(
                            $"Open it on the tablet before {Screen.Time(made.ExpiresAt)}. It is not shown again."
                        );
                        Screen.Reach(made.HereOnly);
                    }
                ),
            name
        );
    }

    private static Command Tablets()
    {
        var end = new Option<string?>("--end") { Description = "A tablet's id: it is one no longer" };
        return Cli.Command(
            "tablets",
            "The bench's tablets, or end one that is lost (leads)",
            "revtal shop tablets --end 5f0c1d2e3a4b",
            async (p, client, cancel) =>
            {
                if (p.GetValue(end) is { } lost)
                {
                    await client.DropTabletAsync(lost, cancel);
                }

                Cli.Show(
                    p,
                    await client.TabletsAsync(cancel),
                    all =>
                        Screen.Table(
                            ["id", "name", "enrolled", "last used"],
                            all.Select(t =>
                                new[]
                                {
                                    t.Id,
                                    Screen.Safe(t.Name),
                                    t.EnrolledAt is { } at ? Screen.Time(at) : "link not opened yet",
                                    t.UsedAt is { } used ? Screen.Time(used) : "",
                                }
                            )
                        )
                );
            },
            end
        );
    }

    private static Command Badge()
    {
        var id = new Argument<string>("ID") { Description = "A person's id" };
        var file = new Option<string?>("--out") { Description = "A file for the code's picture (PNG)" };
        return Cli.Command(
            "badge",
            "Make a new badge for somebody; the one before opens nothing any more (leads)",
            "revtal shop badge mara --out mara.png",
            async (p, client, cancel) =>
            {
                var made = await client.MakeBadgeAsync(p.GetValue(id)!, cancel);
                if (p.GetValue(file) is { } path)
                {
                    Files.Write(path, made.Picture);
                }

                Cli.Show(
                    p,
                    made,
                    m =>
                    {
                        Screen.Line(m.Code);
                        Screen.Line($"For the badge of {m.Person.Name}, as a QR code. It is not shown again.");
                    }
                );
            },
            id,
            file
        );
    }

    private static Command Pin()
    {
        var none = new Option<bool>("--none") { Description = "Do without a PIN" };
        return Cli.Command(
            "pin",
            "Choose your PIN for the bench's tablets; it is asked for, or read from the input",
            "revtal shop pin",
            async (p, client, cancel) =>
            {
                var password = await HasPasswordAsync(client, cancel) ? PeopleCommands.Secret("Password") : null;
                var pin = p.GetValue(none) ? null : PeopleCommands.Secret("PIN, 4 to 8 digits");
                await client.ChoosePinAsync(new PinRequest(pin, password), cancel);
                Cli.Show(
                    p,
                    new PinSet(pin is not null),
                    x => Screen.Line(x.Pin ? "The PIN works at every tablet of the bench." : "There is no PIN now.")
                );
            },
            none
        );
    }

    private static Command Codes()
    {
        var end = new Option<bool>("--end") { Description = "Ask for none any more" };
        return Cli.Command(
            "codes",
            "Have a one-time code asked for beside your password, or end that",
            "revtal shop codes",
            async (p, client, cancel) =>
            {
                var proof = new ProofRequest(PeopleCommands.Secret("Password"));
                if (p.GetValue(end))
                {
                    await client.EndCodesAsync(proof, cancel);
                    Cli.Show(p, new CodesSet(false), _ => Screen.Line("No code is asked for any more."));
                    return;
                }

                var begun = await client.BeginCodesAsync(proof, cancel);
                await Console.Error.WriteLineAsync($"Give this to the program that makes codes: {begun.Address}");
                var code = PeopleCommands.Secret("The code that it shows now");
                Cli.Show(
                    p,
                    await client.ConfirmCodesAsync(new CodeRequest(code), cancel),
                    paper =>
                    {
                        Screen.Line("From now on a code is asked for. Each of these opens once without one:");
                        foreach (var line in paper.Codes)
                        {
                            Screen.Line(line);
                        }
                    }
                );
            },
            end
        );
    }

    private static async Task<bool> HasPasswordAsync(RevtalClient client, CancellationToken cancel) =>
        (await client.SessionAsync(cancel)).Own?.Password == true;
}
