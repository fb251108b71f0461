using System.CommandLine;
using System.Net;
using System.Text.Json;
using Revtal.Client;
using Revtal.CommandLine.Commands;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.CommandLine;

/// <summary>What every command shares: the options, the client, and how things end.</summary>
internal static class Cli
{
    public const int Done = 0,
        Refused = 1,
        WrongUsage = 2,
        Unreachable = 3,
        NotSignedIn = 4;

    public static readonly Option<bool> Json = new("--json")
    {
        Description = "Print JSON for scripts",
        Recursive = true,
    };

    public static readonly Option<string> Service = new("--service")
    {
        Description = "Address of the service; or REVTAL_SERVICE",
        Recursive = true,
        DefaultValueFactory = _ =>
            Environment.GetEnvironmentVariable("REVTAL_SERVICE") is { Length: > 0 } set ? set : "http://127.0.0.1:7420",
    };

    public static readonly Option<string?> As = new("--as")
    {
        Description = "Who does it, of those signed in here; or REVTAL_AS",
        Recursive = true,
        DefaultValueFactory = _ => Environment.GetEnvironmentVariable("REVTAL_AS"),
    };

    public static async Task<int> RunAsync(string[] args)
    {
        Console.OutputEncoding = System.Text.Encoding.UTF8;
        Screen.Prepare();
        var root = Root();
        // A word that begins with @ names somebody, and no file of arguments.
        var parsed = root.Parse(args, new ParserConfiguration { ResponseFileTokenReplacer = null });
        if (parsed.Errors.Count > 0)
        {
            foreach (var error in parsed.Errors)
            {
                Screen.Complain(UsageErrors.Sentence(error));
            }

            Screen.Complain($"Try: {Help.Path(parsed.CommandResult.Command)} --help");
            return WrongUsage;
        }

        try
        {
            return await parsed.InvokeAsync(new InvocationConfiguration { EnableDefaultExceptionHandler = false });
        }
        catch (RefusedException e)
        {
            return Fail(e.Message + Hints.After(e.Code), Refused);
        }
        catch (ProblemException e)
        {
            return Fail(
                e.Message + Hints.After(e.Code),
                e.Status switch
                {
                    HttpStatusCode.Unauthorized => NotSignedIn,
                    HttpStatusCode.BadRequest
                    or HttpStatusCode.RequestEntityTooLarge
                    or HttpStatusCode.UnsupportedMediaType => WrongUsage,
                    >= HttpStatusCode.InternalServerError => Unreachable,
                    _ => Refused,
                }
            );
        }
        catch (UnreachableException e)
        {
            return Fail(e.Message, Unreachable);
        }
        catch (UriFormatException)
        {
            return Fail("The service's address is no URL. Write it like http://127.0.0.1:7420.", WrongUsage);
        }
    }

    /// <summary>All commands.</summary>
    public static RootCommand Root()
    {
        var root = new RootCommand("Revtal: the work orders of a repair bench.") { Json, Service, As };
        foreach (
            var command in new[]
            {
                BoardCommands.Make(),
                OrderCommands.Make(),
                BatchCommands.Make(),
                ReadingCommands.Make(),
                PlanCommands.Make(),
                RunCommands.Make(),
                PartCommands.Make(),
                GuideCommands.Make(),
                MachineCommands.Make(),
                ReportCommands.Make(),
                DummyCommands.Make(),
                ShopCommands.Make(),
                CompletionCommand.Make(),
            }
        )
        {
            root.Add(command);
        }

        Help.Use(root);
        return root;
    }

    /// <summary>A command whose action may use the service.</summary>
    public static Command Command(
        string name,
        string description,
        string example,
        Func<ParseResult, RevtalClient, CancellationToken, Task> action,
        params Symbol[] symbols
    )
    {
        var command = new WorkCommand(name, description, example);
        foreach (var symbol in symbols)
        {
            if (symbol is Argument argument)
            {
                command.Add(argument);
            }
            else
            {
                command.Add((Option)symbol);
            }
        }

        command.SetAction(
            async (parse, cancel) =>
            {
                using var http = new HttpClient
                {
                    BaseAddress = Address(parse.GetValue(Service)!),
                    Timeout = TimeSpan.FromSeconds(100),
                };
                var token = SignIns.Token(parse.GetValue(Service)!, parse.GetValue(As));
                await action(parse, new RevtalClient(http, token), cancel);
                return Done;
            }
        );
        return command;
    }

    private static Uri Address(string service) =>
        new Uri($"{SignIns.Plain(service)}/") is { Scheme: "http" or "https" } web
            ? web
            : throw new UriFormatException(service);

    /// <summary>A command that changes an order, and ends with where that order stands then.</summary>
    public static Command Change(
        string name,
        string description,
        string example,
        Func<ParseResult, RevtalClient, CancellationToken, Task<Receipt>> change,
        params Symbol[] symbols
    ) =>
        Command(
            name,
            description,
            example,
            async (parse, client, cancel) => Show(parse, await change(parse, client, cancel), OrderScreen.Receipt),
            symbols
        );

    public static Command Noun(string name, string description, params Command[] verbs)
    {
        var noun = new Command(name, description);
        foreach (var verb in verbs)
        {
            noun.Add(verb);
        }

        return noun;
    }

    public static Argument<int> Number() => new("ORDER") { Description = "The order's number" };

    /// <summary>Prints JSON where it was asked for, else what the screen shows.</summary>
    public static void Show<T>(ParseResult parse, T value, Action<T> screen)
    {
        if (parse.GetValue(Json))
        {
            Console.WriteLine(JsonSerializer.Serialize(value, Outcomes.Of<T>()));
        }
        else
        {
            screen(value);
        }
    }

    private static int Fail(string message, int code)
    {
        Screen.Complain(message);
        return code;
    }
}
