using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.CommandLine.Commands;

/// <summary>The part of <c>order</c> that says whose it is, where it lies and for when it was promised.</summary>
internal static class SharedCommands
{
    public static Command Owner()
    {
        var number = Cli.Number();
        var person = new Argument<string?>("PERSON")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "The person's id; left out: nobody",
        };
        var word = new Option<string?>("--word") { Description = "What the next one must read before the run goes on" };
        return Cli.Change(
            "owner",
            "Take the machine in hand, hand it over, or release it",
            "revtal order owner 104 juno --word \"the left clip of S1 is worn\" --as mara",
            (p, client, cancel) =>
                client.OwnerAsync(p.GetValue(number), new OwnerRequest(p.GetValue(person), p.GetValue(word)), cancel),
            number,
            person,
            word
        );
    }

    public static Command Here()
    {
        var number = Cli.Number();
        return Cli.Command(
            "here",
            "Who has the order open in a console now",
            "revtal order here 104",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.HereAsync(p.GetValue(number), cancel),
                    here =>
                    {
                        if (here.People.Count == 0)
                        {
                            Screen.Line("Nobody has it open.");
                        }

                        foreach (var (person, types, since) in here.People)
                        {
                            Screen.Line($"{person} {(types ? "writes" : "looks")}, since {Screen.Time(since)}");
                        }
                    }
                ),
            number
        );
    }

    public static Command ReadHandOver()
    {
        var number = Cli.Number();
        return Cli.Change(
            "owner-read",
            "Say that you have read what was handed over with it",
            "revtal order owner-read 104 --as juno",
            (p, client, cancel) => client.ReadHandOverAsync(p.GetValue(number), cancel),
            number
        );
    }

    public static Command Place()
    {
        var number = Cli.Number();
        var place = new Argument<string?>("PLACE")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "As it is written there, or its label's code; left out: not known",
        };
        return Cli.Change(
            "place",
            "Say where the machine lies",
            "revtal order place 104 \"Bench 2\" --as mara",
            (p, client, cancel) => client.PlaceAsync(p.GetValue(number), new PlaceRequest(p.GetValue(place)), cancel),
            number,
            place
        );
    }

    public static Command Promise()
    {
        var number = Cli.Number();
        var at = new Argument<DateTimeOffset?>("WHEN")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "Like 2026-12-04T15:00",
        };
        var none = new Option<bool>("--none") { Description = "Nothing is promised any more" };
        return Cli.Change(
            "promise",
            "Promise the machine for a time",
            "revtal order promise 104 2026-12-04T15:00 --as sanne",
            (p, client, cancel) =>
                p.GetValue(at) is null != p.GetValue(none)
                    ? throw RefusedException.Invalid("promise-unclear", "Say for when it is promised, or --none.")
                    : client.PromiseAsync(p.GetValue(number), new PromiseRequest(p.GetValue(at)), cancel),
            number,
            at,
            none
        );
    }
}
