using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Spectre.Console;

namespace Revtal.CommandLine.Commands;

/// <summary>The part of <c>shop</c> that is about who comes in.</summary>
internal static class PeopleCommands
{
    private const string ThisComputer = "the command line";

    public static Command[] All() =>
        [
            SignIn(),
            SignOut(),
            SetUp(),
            Password(),
            Person(),
            Invite(),
            Shut(),
            List(),
            Token(),
            End(),
            Audit(),
            .. ProofCommands.All(),
        ];

    private static Command SignIn()
    {
        var id = new Argument<string>("ID") { Description = "A person's id" };
        return Cli.Command(
            "sign-in",
            "Sign in on this computer; the password is asked for, or read from the input",
            "revtal shop sign-in mara",
            async (p, client, cancel) =>
            {
                var person = p.GetValue(id)!;
                var done = (await client.SessionAsync(cancel)).Demo is not null
                    ? await client.SignInToDemoAsync(new DemoSignInRequest(person, ThisComputer), cancel)
                    : await ByPasswordAsync(client, person, cancel);
                Keep(p, done);
            },
            id
        );
    }

    // Whoever is asked for a code beside the password is asked for it here too.
    private static async Task<SignedInView> ByPasswordAsync(
        RevtalClient client,
        string person,
        CancellationToken cancel
    )
    {
        var request = new SignInRequest(person, Secret("Password"), ThisComputer);
        try
        {
            return await client.SignInAsync(request, cancel);
        }
        catch (ProblemException e) when (e.Code == "code-wanted")
        {
            return await client.SignInAsync(request with { Code = Secret("One-time code") }, cancel);
        }
    }

    private static Command SetUp()
    {
        var link = new Argument<string>("LINK") { Description = "As a lead sent it, or as the service's log has it" };
        var id = new Option<string?>("--id") { Description = "Who you will be: for the first lead of a shop" };
        var name = new Option<string?>("--name") { Description = "What you are called: for the first lead of a shop" };
        return Cli.Command(
            "set-up",
            "Choose your password by a link that works once, and sign in",
            "revtal shop set-up http://127.0.0.1:7420/set-up#… --id ines --name \"Ines Havgard\"",
            async (p, client, cancel) =>
            {
                var code = p.GetValue(link)!.Split('#')[^1];
                if (string.IsNullOrWhiteSpace(code))
                {
                    throw RefusedException.Invalid(
                        "no-link",
                        "A set-up link ends with # and what opens it. Copy it whole."
                    );
                }

                await client.ReadSetUpAsync(code, cancel);
                var request = new SetUpRequest(Secret("New password"), p.GetValue(id), p.GetValue(name), ThisComputer);
                Keep(p, await client.UseSetUpAsync(code, request, cancel));
            },
            link,
            id,
            name
        );
    }

    private static Command SignOut() =>
        Cli.Command(
            "sign-out",
            "Sign out on this computer",
            "revtal shop sign-out",
            async (p, client, cancel) =>
            {
                await client.SignOutAsync(cancel);
                SignIns.Forget(p.GetValue(Cli.Service)!, p.GetValue(Cli.As));
                Cli.Show(p, new SignOutDone(true), _ => Screen.Line("Signed out."));
            }
        );

    private static Command Password() =>
        Cli.Command(
            "password",
            "Choose a new password; whoever is signed in with the old one elsewhere no longer is",
            "revtal shop password",
            async (p, client, cancel) =>
            {
                await client.ChangePasswordAsync(
                    new PasswordRequest(Secret("Password until now"), Secret("New password")),
                    cancel
                );
                Cli.Show(p, new PasswordDone(true), _ => Screen.Line("The new password works from now on."));
            }
        );

    private static Command Person()
    {
        var id = new Argument<string>("ID");
        var name = new Option<string>("--name") { Required = true };
        var role = new Option<Role>("--role")
        {
            Description = "desk, technician, lead, or wall (a screen that only looks)",
            Required = true,
        };
        return Cli.Command(
            "person",
            "Add or change somebody (leads)",
            "revtal shop person mara --name \"Mara Lind\" --role technician",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.PutPersonAsync(
                        p.GetValue(id)!,
                        new PersonRequest(p.GetValue(name)!, p.GetValue(role)),
                        cancel
                    ),
                    who => Screen.Line($"{who.Id} is {who.Name}, {Word(who.Role)}")
                ),
            id,
            name,
            role
        );
    }

    private static Command Invite()
    {
        var id = new Argument<string>("ID") { Description = "A person's id" };
        return Cli.Command(
            "invite",
            "Make a link by which somebody chooses a password, once (leads)",
            "revtal shop invite mara",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.InvitePersonAsync(p.GetValue(id)!, cancel),
                    i =>
                    {
                        Screen.Line(i.Link);
                        Screen.Line($"It works once, until {Screen.Time(i.ExpiresAt)}. It is not shown again.");
                        Screen.Reach(i.HereOnly);
                    }
                ),
            id
        );
    }

    private static Command Shut()
    {
        var id = new Argument<string>("ID") { Description = "A person's id" };
        return Cli.Command(
            "shut",
            "End somebody's password, tokens and sign-ins (leads)",
            "revtal shop shut tobi",
            async (p, client, cancel) =>
            {
                await client.EndAccessAsync(p.GetValue(id)!, cancel);
                Cli.Show(
                    p,
                    new AccessShut(p.GetValue(id)!),
                    x => Screen.Line($"{x.Shut} can sign in no longer, until a lead makes a new link.")
                );
            },
            id
        );
    }

    private static Command List() =>
        Cli.Command(
            "sign-ins",
            "Where you are signed in, and your tokens; everybody's for a lead",
            "revtal shop sign-ins",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.SessionsAsync(cancel),
                    all =>
                        Screen.Table(
                            ["id", "person", "what", "begun", "last used", "until"],
                            all.Select(l =>
                                new[]
                                {
                                    l.Session.Id,
                                    l.Session.Person,
                                    Screen.Safe(What(l)),
                                    Screen.Time(l.Session.MadeAt),
                                    Screen.Time(l.Session.UsedAt),
                                    Screen.Time(l.Session.ExpiresAt),
                                }
                            )
                        )
                )
        );

    private static Command Token()
    {
        var name = new Argument<string>("NAME") { Description = "What you know it by" };
        var days = new Option<int>("--days") { Description = "How long it works", DefaultValueFactory = _ => 90 };
        var looks = new Option<bool>("--looks") { Description = "It only looks" };
        return Cli.Command(
            "token",
            "Make a token for a program that works in your name",
            "revtal shop token book-keeping --days 90 --looks",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.MakeTokenAsync(
                        new TokenRequest(p.GetValue(name)!, p.GetValue(days), p.GetValue(looks)),
                        cancel
                    ),
                    made =>
                    {
                        Screen.Line(made.Token);
                        Screen.Line($"It works until {Screen.Time(made.Session.ExpiresAt)}. It is not shown again.");
                    }
                ),
            name,
            days,
            looks
        );
    }

    private static Command End()
    {
        var id = new Argument<string>("ID") { Description = "As revtal shop sign-ins has it" };
        return Cli.Command(
            "end",
            "End a sign-in or a token",
            "revtal shop end 5f0c1d2e3a4b",
            async (p, client, cancel) =>
            {
                await client.EndSessionAsync(p.GetValue(id)!, cancel);
                Cli.Show(p, new SignInEnded(p.GetValue(id)!), _ => Screen.Line("It opens nothing any more."));
            },
            id
        );
    }

    private static Command Audit()
    {
        var most = new Option<int>("--limit") { Description = "How many lines", DefaultValueFactory = _ => 50 };
        return Cli.Command(
            "audit",
            "Who came in, who could not, and what was done about people (leads)",
            "revtal shop audit --limit 20",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.AuditAsync(limit: p.GetValue(most), cancel: cancel),
                    page =>
                        Screen.Table(
                            ["when", "who", "what", "about", "from"],
                            page.Items.Select(l =>
                                new[]
                                {
                                    Screen.Time(l.At),
                                    Screen.Safe(l.By),
                                    l.What.Replace('-', ' '),
                                    Screen.Safe(l.About ?? ""),
                                    Screen.Safe(l.From ?? ""),
                                }
                            )
                        )
                ),
            most
        );
    }

    private static string What(SessionLine line) =>
        (line.Session.Kind, line.Session.Looks, line.IsThis) switch
        {
            (_, _, true) => $"{line.Session.Name} (this one)",
            (SessionKind.Token, true, _) => $"{line.Session.Name} (only looks)",
            _ => line.Session.Name,
        };

    private static string Word(Role role) => role.ToString().ToLowerInvariant();

    private static void Keep(ParseResult p, SignedInView done)
    {
        SignIns.Keep(new SignIn(SignIns.Plain(p.GetValue(Cli.Service)!), done.Person.Id, done.Token!, done.ExpiresAt));
        Cli.Show(
            p,
            new SignInDone(done.Person, done.ExpiresAt),
            d => Screen.Line($"Signed in as {d.Person.Name}, {Word(d.Person.Role)}, until {Screen.Time(d.ExpiresAt)}.")
        );
    }

    /// <summary>Asked for, or a line of the input: arguments stand in the list of processes and in the shell's
    /// history.</summary>
    public static string Secret(string prompt)
    {
        if (!Console.IsInputRedirected)
        {
            return AnsiConsole.Prompt(new TextPrompt<string>($"{prompt}:").Secret(null));
        }

        return Console.ReadLine()
            ?? throw RefusedException.Invalid(
                "password-missing",
                $"{prompt}: nothing was read. Give it on the input, a line each."
            );
    }
}
