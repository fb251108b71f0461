using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Planning;

namespace Revtal.CommandLine.Commands;

internal static class PlanCommands
{
    private const string Forms = """
        S2=16GB fits a module; S2=16GB,DDR4-3200,Ostrava,OS4S-16G32,SERIAL says more of it.
        S2=part:OS4S-16G fits one of the catalogue; part:OS4S-16G:SERIAL that very one.
        S1=from:S2 moves one; S3=empty takes one out; S1=reseat or D1=inspect changes nothing.
        D1=drive:1TB,copy-first,form=M.2 2280,link=PCIe 4.0 x4,label=data,mount=D:,grow fits a drive.
        Of a drive also: part=, key=, height=, sector=, serial=, pad=, table=, fs=, word=, array=,
        clean-install, left-behind, initialise, system-from= (the system comes from that bay).
        """;

    public static Command Make() =>
        Cli.Noun(
            "plan",
            "Which part goes where, what it costs, and the customer's word",
            Options(),
            Drives(),
            Layout(),
            Set(),
            Later(),
            DropLater(),
            Mend(),
            Show(),
            Quote(),
            Link(
                "revtal plan link 106 --days 7 --as sanne",
                Answers,
                Cli.Number(),
                "plan revoke",
                (client, number, request, cancel) => client.OfferAsync(number, request, cancel)
            ),
            Revoke(),
            Agree(),
            Decline()
        );

    /// <summary>What goes where, as it is typed.</summary>
    internal static Argument<string[]> Changes() =>
        new("POSITION=WHAT") { Arity = ArgumentArity.ZeroOrMore, Description = Forms };

    private static Command Options()
    {
        var number = Cli.Number();
        var target = new Option<string?>("--target")
        {
            Description = "The least that must be installed, like 32GB; left out: what the before reading suggests",
        };
        var workload = new Option<string?>("--workload")
        {
            Description = "A line of the shop's own table instead: see revtal shop show",
        };
        var budget = new Option<decimal?>("--budget") { Description = "The most that the parts may cost now" };
        var stages = new Option<int>("--stages")
        {
            Description = "2 where the rest may come at the next visit",
            DefaultValueFactory = _ => 1,
        };
        var giveUp = new Option<string[]>("--give-up")
        {
            Description = "Slots whose modules leave in any case",
            AllowMultipleArgumentsPerToken = true,
        };
        var later = ForLater();
        return Cli.Command(
            "options",
            "The upgrades worth offering: those that no other beats",
            "revtal plan options 107 --target 128GB --budget 400",
            async (p, client, cancel) =>
            {
                var view = await Screen.Wait(
                    "Weighing",
                    client.OptionsAsync(
                        p.GetValue(number),
                        p.GetValue(target),
                        p.GetValue(workload),
                        p.GetValue(budget),
                        p.GetValue(stages),
                        p.GetValue(giveUp),
                        p.GetValue(later),
                        cancel
                    )
                );
                var currency = (await client.ShopAsync(cancel)).Terms.Currency;
                Cli.Show(p, view, v => PlanScreen.Options(v, currency));
            },
            number,
            target,
            workload,
            budget,
            stages,
            giveUp,
            later
        );
    }

    private static Option<bool> ForLater() =>
        new("--later") { Description = "For the machine's next visit: as this order leaves it" };

    private static Option<string?> Growth() =>
        new("--growth")
        {
            Description = "What is to come onto the drives, like 200GB; left out: half as much as they hold",
        };

    private static Command Drives()
    {
        var number = Cli.Number();
        var growth = Growth();
        var budget = new Option<decimal?>("--budget") { Description = "The most that the part may cost" };
        var later = ForLater();
        return Cli.Command(
            "drives",
            "More room or a faster link for the drives: what no other change beats",
            "revtal plan drives 108 --growth 200GB",
            async (p, client, cancel) =>
            {
                var view = await Screen.Wait(
                    "Weighing",
                    client.DriveOptionsAsync(
                        p.GetValue(number),
                        p.GetValue(growth),
                        p.GetValue(budget),
                        p.GetValue(later),
                        cancel
                    )
                );
                var currency = (await client.ShopAsync(cancel)).Terms.Currency;
                Cli.Show(p, view, v => PlanScreen.Drives(v, currency));
            },
            number,
            growth,
            budget,
            later
        );
    }

    private static Command Later()
    {
        var number = Cli.Number();
        var changes = Changes();
        var drive = new Option<int?>("--drive-option")
        {
            Description = "Take this line of plan drives --later; with --growth as there",
        };
        var growth = Growth();
        var words = new Option<string?>("--words") { Description = "What comes later, or a note beside its plan" };
        return Cli.Command(
            "later",
            "Note what the machine's next visit is to bring: a plan at today's price, or words",
            "revtal plan later 118 S1=part:OS4S-16G --words \"after the summer\" --as mara",
            async (p, client, cancel) =>
            {
                SlotChange[] wished = [.. p.GetValue(changes)!.Select(Change)];
                if (p.GetValue(drive) is { } line)
                {
                    var view = await client.DriveOptionsAsync(
                        p.GetValue(number),
                        p.GetValue(growth),
                        later: true,
                        cancel: cancel
                    );
                    wished = [.. Line(view.Options, line, "plan drives --later").Option.Changes, .. wished];
                }

                Cli.Show(
                    p,
                    await client.NoteLaterAsync(
                        p.GetValue(number),
                        new LaterRequest(wished, p.GetValue(words)),
                        cancel
                    ),
                    OrderScreen.Receipt
                );
            },
            number,
            changes,
            drive,
            growth,
            words
        );
    }

    private static Command DropLater()
    {
        var number = Cli.Number();
        var reason = new Option<string?>("--reason");
        return Cli.Change(
            "drop-later",
            "Nothing is left for a later visit any more",
            "revtal plan drop-later 118 --reason \"bought another machine\" --as sanne",
            (p, client, cancel) =>
                client.DropLaterAsync(p.GetValue(number), new LaterDropRequest(p.GetValue(reason)), cancel),
            number,
            reason
        );
    }

    private static T Line<T>(IReadOnlyList<T> options, int line, string command) =>
        line >= 1 && line <= options.Count
            ? options[line - 1]
            : throw RefusedException.Invalid(
                "no-such-option",
                $"There {(options.Count == 1 ? "is 1 option" : $"are {options.Count} options")}. See: revtal {command}."
            );

    private static Command Layout()
    {
        var number = Cli.Number();
        var parts = new Argument<string[]>("WHAT")
        {
            Arity = ArgumentArity.ZeroOrMore,
            Description = "Modules from outside: 16GB, 16GB,DDR4-3200, or part:OS4S-16G",
        };
        var keep = new Option<string[]>("--keep")
        {
            Description = "Slots whose modules stay in the machine; left out: all",
            AllowMultipleArgumentsPerToken = true,
        };
        return Cli.Command(
            "layout",
            "Which module goes where: the best way, why, and the next best",
            "revtal plan layout 107 part:OS4U-16G part:OS4U-16G",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.LayoutAsync(
                        p.GetValue(number),
                        new LayoutRequest(
                            p.GetValue(keep) is { Length: > 0 } k ? k : null,
                            [.. p.GetValue(parts)!.Select(ModuleText.Read)]
                        ),
                        cancel
                    ),
                    PlanScreen.Layout
                ),
            number,
            parts,
            keep
        );
    }

    private static Command Mend()
    {
        var number = Cli.Number();
        var changes = Changes();
        var again = new Option<string[]>("--again")
        {
            Description = "Slots whose module is changed for one of the same kind",
            AllowMultipleArgumentsPerToken = true,
        };
        var reason = new Option<string>("--reason") { Required = true };
        return Cli.Command(
            "mend",
            "Change what was fitted, in the same order; slots that are not named stay as planned",
            "revtal plan mend 119 --again S2 --reason \"the swap test named it\" --as mara",
            async (p, client, cancel) =>
            {
                var receipt = await client.MendAsync(
                    p.GetValue(number),
                    new MendRequest(
                        p.GetValue(reason)!,
                        [.. p.GetValue(changes)!.Select(Change)],
                        p.GetValue(again) ?? []
                    ),
                    cancel
                );
                Cli.Show(p, receipt, OrderScreen.Receipt);
            },
            number,
            changes,
            again,
            reason
        );
    }

    private static Command Set()
    {
        var number = Cli.Number();
        var changes = Changes();
        var option = new Option<int?>("--option")
        {
            Description = "Take this line of the options instead; with --target and the like as there",
        };
        var drive = new Option<int?>("--drive-option")
        {
            Description = "Take this line of plan drives, beside the rest; with --growth and --budget as there",
        };
        var growth = Growth();
        var noted = new Option<bool>("--noted")
        {
            Description = "Take what the machine's last visit left for this one",
        };
        var target = new Option<string?>("--target");
        var workload = new Option<string?>("--workload");
        var budget = new Option<decimal?>("--budget");
        var stages = new Option<int>("--stages") { DefaultValueFactory = _ => 1 };
        var discount = new Option<decimal>("--discount") { Description = "In percent of parts and labour" };
        var cleans = new Option<bool>("--cleaning") { Description = "Clean it inside while it is open, at its price" };
        var note = new Option<string?>("--note");
        var dry = new Option<bool>("--dry-run") { Description = "Only show what it would lead to, and its price" };
        return Cli.Command(
            "set",
            "Set the plan; positions that are not named stay as they are",
            "revtal plan set 104 S1=from:S2 S2=part:OS4S-16G --as mara",
            async (p, client, cancel) =>
            {
                var request = new PlanRequest(
                    [.. p.GetValue(changes)!.Select(Change)],
                    p.GetValue(note),
                    p.GetValue(discount),
                    Cleans: p.GetValue(cleans)
                );
                if (p.GetValue(option) is { } line)
                {
                    var view = await client.OptionsAsync(
                        p.GetValue(number),
                        p.GetValue(target),
                        p.GetValue(workload),
                        p.GetValue(budget),
                        p.GetValue(stages),
                        cancel: cancel
                    );
                    var taken = Line(view.Options, line, $"plan options {p.GetValue(number)}");
                    request = request with
                    {
                        Changes = [.. taken.Option.Changes, .. request.Changes],
                        Later = taken.Later,
                    };
                }

                if (p.GetValue(drive) is { } ofDrives)
                {
                    var view = await client.DriveOptionsAsync(
                        p.GetValue(number),
                        p.GetValue(growth),
                        p.GetValue(budget),
                        cancel: cancel
                    );
                    var taken = Line(view.Options, ofDrives, $"plan drives {p.GetValue(number)}");
                    request = request with { Changes = [.. request.Changes, .. taken.Option.Changes] };
                }

                if (p.GetValue(noted))
                {
                    request = request with
                    {
                        Changes = [.. await NotedAsync(client, p.GetValue(number), cancel), .. request.Changes],
                    };
                }

                if (p.GetValue(dry))
                {
                    Cli.Show(
                        p,
                        await client.PreviewAsync(p.GetValue(number), request, cancel),
                        preview =>
                        {
                            OrderScreen.Expected(preview.Plan);
                            PlanScreen.Quote(preview.Quote);
                        }
                    );
                    return;
                }

                var receipt = await client.SetPlanAsync(p.GetValue(number), request, cancel: cancel);
                if (p.GetValue(Cli.Json))
                {
                    Cli.Show(p, receipt, _ => { });
                    return;
                }

                var order = await client.OrderAsync(p.GetValue(number), cancel);
                PositionDrawing.Draw(order.Positions);
                OrderScreen.Expected(order.Plan!);
                OrderScreen.Receipt(receipt);
            },
            number,
            changes,
            option,
            drive,
            growth,
            noted,
            target,
            workload,
            budget,
            stages,
            cleans,
            discount,
            note,
            dry
        );
    }

    private static async Task<IReadOnlyList<SlotChange>> NotedAsync(
        Client.RevtalClient client,
        int number,
        CancellationToken cancel
    )
    {
        var serial = (await client.OrderAsync(number, cancel)).Intake.Serial;
        var visit = serial is null ? null : (await client.MachineAsync(serial, cancel)).Noted?.Visit;
        return visit is { Changes.Count: > 0 }
            ? visit.Changes
            : throw RefusedException.Rule(
                "nothing-noted",
                $"No earlier visit left a plan for the machine of order {number}"
                    + $"{Phrases.When(visit, v => $", only words: {v.Words}")}."
            );
    }

    private static Command Show()
    {
        var number = Cli.Number();
        return Cli.Command(
            "show",
            "Show the plan and what is expected of it",
            "revtal plan show 104",
            async (p, client, cancel) =>
            {
                var order = await client.OrderAsync(p.GetValue(number), cancel);
                var plan =
                    order.Plan
                    ?? throw RefusedException.Rule(
                        "no-plan",
                        $"Order {order.Number} has no plan yet. Next: {order.Next.Text}."
                    );
                Cli.Show(
                    p,
                    plan,
                    shown =>
                    {
                        PositionDrawing.Draw(order.Positions);
                        OrderScreen.Expected(shown);
                    }
                );
            },
            number
        );
    }

    private static Command Quote()
    {
        var number = Cli.Number();
        var pdf = new Option<string?>("--pdf") { Description = "Write it as a PDF to this file" };
        return Cli.Command(
            "quote",
            "What it costs: frozen once agreed, until then at today's prices",
            "revtal plan quote 106 --pdf quote.pdf",
            async (p, client, cancel) =>
            {
                if (p.GetValue(pdf) is { } file)
                {
                    Files.Write(file, await client.QuotePaperAsync(p.GetValue(number), cancel));
                    Screen.Line(file);
                    return;
                }

                Cli.Show(p, await client.QuoteAsync(p.GetValue(number), cancel), PlanScreen.Quote);
            },
            number,
            pdf
        );
    }

    /// <summary>What a quote's link is for.</summary>
    internal const string Answers = "Make a link on which the customer agrees or declines; it is shown once";

    /// <summary>A customer's link: to a quote, of one order or of a batch, or to a report.</summary>
    /// <param name="revoke">The command that takes it back; null where another link takes its place.</param>
    internal static Command Link(
        string example,
        string description,
        Argument<int> number,
        string? revoke,
        Func<RevtalClient, int, OfferRequest, CancellationToken, Task<OfferView>> make
    )
    {
        var days = new Option<int>("--days")
        {
            Description = "How long the link is open",
            DefaultValueFactory = _ => 14,
        };
        return Cli.Command(
            "link",
            description,
            example,
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await make(client, p.GetValue(number), new OfferRequest(p.GetValue(days)), cancel),
                    offer =>
                    {
                        Screen.Line(offer.Link);
                        if (offer.WhereYouAre)
                        {
                            Screen.Marked(
                                "[yellow]The shop has no address for customers, so this one is yours; start revtald "
                                    + "with --shop:url to change that.[/]"
                            );
                        }

                        Screen.Marked(
                            $"[grey]open until {offer.Until.ToLocalTime():d MMM HH:mm}"
                                + Phrases.When(revoke, r => $"; take it back with: revtal {r} {p.GetValue(number)}")
                                + "[/]"
                        );
                    }
                ),
            number,
            days
        );
    }

    private static Command Revoke()
    {
        var number = Cli.Number();
        return Cli.Change(
            "revoke",
            "The quote's link opens nothing any more",
            "revtal plan revoke 106 --as sanne",
            (p, client, cancel) => client.RevokeAsync(p.GetValue(number), cancel),
            number
        );
    }

    private static Command Agree()
    {
        var number = Cli.Number();
        var customer = new Option<string>("--customer") { Required = true, Description = "Who agreed, and how" };
        var note = new Option<string?>("--note");
        return Cli.Change(
            "agree",
            "The customer agreed: the quote is frozen, the parts are set aside",
            "revtal plan agree 104 --customer \"R. Fahr, by mail\" --as sanne",
            (p, client, cancel) =>
                client.AgreeAsync(
                    p.GetValue(number),
                    new AgreeRequest(p.GetValue(customer)!, p.GetValue(note)),
                    cancel
                ),
            number,
            customer,
            note
        );
    }

    private static Command Decline()
    {
        var number = Cli.Number();
        var customer = new Option<string>("--customer") { Required = true, Description = "Who declined, and how" };
        var reason = new Option<string?>("--reason");
        return Cli.Change(
            "decline",
            "The customer does not want it so",
            "revtal plan decline 106 --customer \"H. Ringel, by mail\" --reason \"too dear\" --as sanne",
            (p, client, cancel) =>
                client.DeclineAsync(
                    p.GetValue(number),
                    new DeclineRequest(p.GetValue(customer)!, p.GetValue(reason)),
                    cancel
                ),
            number,
            customer,
            reason
        );
    }

    internal static SlotChange Change(string text) =>
        text.Split('=', 2) switch
        {
            [var slot, "empty"] => new SlotChange(slot, Empty: true),
            [var slot, "reseat"] => new SlotChange(slot, Reseat: true),
            [var slot, "inspect"] => new SlotChange(slot, Inspect: true),
            [var slot, var from] when from.StartsWith("from:", StringComparison.Ordinal) => new SlotChange(
                slot,
                From: from[5..]
            ),
            [var bay, var drive] when drive.StartsWith("drive:", StringComparison.Ordinal) => new SlotChange(
                bay,
                Drive: DriveText.Wish(drive[6..])
            ),
            [var slot, var module] => new SlotChange(slot, ModuleText.Read(module)),
            _ => throw RefusedException.Invalid(
                "change-form",
                $"“{text}” is not like S2=16GB, S2=part:NUMBER, S1=from:S2, S3=empty, S1=reseat, D1=inspect or "
                    + "D1=drive:1TB,copy-first."
            ),
        };
}
