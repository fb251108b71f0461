using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Commands;

internal static class OrderCommands
{
    public static Command Make() => Cli.Noun(
        "order", "Work orders", TakeIn(), List(), Show(), Journal(), Check(),
        Reason("ready", "Accept the check; a lead gives the reason where it is not as planned", "revtal order ready 104 --as mara", (c, n, r, t) => c.ReadyAsync(n, new ReasonRequest(r), t)),
        HandBack(),
        Reason("park", "Park an order, with a reason", "revtal order park 104 --reason \"waits for a module\" --as mara", (c, n, r, t) => c.ParkAsync(n, new ReasonRequest(r), t)),
        Reason("resume", "Take a parked order up again", "revtal order resume 104 --as mara", (c, n, _, t) => c.ResumeAsync(n, t), takesReason: false),
        Reason("cancel", "Cancel an order, with a reason", "revtal order cancel 104 --reason \"customer declined\" --as ines", (c, n, r, t) => c.CancelAsync(n, new ReasonRequest(r), t)),
        Note(), Variant(), Seal(), Copy());

    private static Command TakeIn()
    {
        var model = new Option<string>("--model") { Required = true, Description = "The guide's code: see revtal guide list" };
        var customer = new Option<string>("--customer") { Required = true };
        var complaint = new Option<string>("--complaint") { Required = true };
        var contact = new Option<string?>("--contact");
        var serial = new Option<string?>("--serial");
        var goal = new Option<string?>("--goal") { Description = "What the customer wants to do with it" };
        var accessories = new Option<string?>("--accessories");
        var condition = new Option<string?>("--condition");
        var backup = new Option<Backup>("--backup") { Description = "made, waived or unknown" };
        var seal = new Option<string>("--seal") { Description = "none, given or refused: may a warranty seal be broken", DefaultValueFactory = _ => "none" };
        seal.AcceptOnlyFromAmong("none", "given", "refused");
        var variant = new Option<string?>("--variant") { Description = "Which build, where it is told apart" };
        return Cli.Command(
            "take-in", "Take a machine in", "revtal order take-in --model FJ14 --customer \"Ferry ticket desk\" --complaint \"slow\" --as sanne",
            async (p, client, cancel) => Cli.Show(
                p,
                await client.TakeInAsync(
                    new TakeInRequest(
                        p.GetValue(model)!, p.GetValue(customer)!, p.GetValue(complaint)!, p.GetValue(contact), p.GetValue(serial), p.GetValue(goal), p.GetValue(accessories),
                        p.GetValue(condition), p.GetValue(backup), SealOf(p.GetValue(seal)), p.GetValue(variant)),
                    cancel: cancel),
                OrderScreen.Receipt),
            model, customer, complaint, contact, serial, goal, accessories, condition, backup, seal, variant);
    }

    private static Command List()
    {
        var text = new Argument<string?>("TEXT") { Arity = ArgumentArity.ZeroOrOne, Description = "Found in customer, serial, model or number" };
        var stage = new Option<string?>("--stage");
        var below = new Option<int?>("--below") { Description = "Only numbers below: the next page" };
        var limit = new Option<int>("--limit") { DefaultValueFactory = _ => 50 };
        return Cli.Command(
            "list", "Find orders, closed ones too, newest first", "revtal order list ferry",
            async (p, client, cancel) => Cli.Show(
                p, await Screen.Wait("Searching", client.SearchAsync(p.GetValue(text), p.GetValue(stage) is { } s ? StageWords.Parse(s) : null, p.GetValue(below), p.GetValue(limit), cancel)), found =>
                {
                    OrderScreen.Cards(found.Cards);
                    if (found.NextBelow is { } next)
                    {
                        Screen.Line($"More: revtal order list --below {next}");
                    }
                }),
            text, stage, below, limit);
    }

    private static Command Show()
    {
        var number = Cli.Number();
        return Cli.Command("show", "Show an order", "revtal order show 103", async (p, client, cancel) => Cli.Show(p, await client.OrderAsync(p.GetValue(number), cancel), OrderScreen.Show), number);
    }

    private static Command Journal()
    {
        var number = Cli.Number();
        return Cli.Command(
            "journal", "Show all that was recorded on an order", "revtal order journal 101",
            async (p, client, cancel) =>
            {
                if (p.GetValue(Cli.Json))
                {
                    var all = new List<EntryView>();
                    for (int? after = 0; after is { } a;)
                    {
                        var page = await client.EntriesAsync(p.GetValue(number), a, cancel);
                        all.AddRange(page.Entries);
                        after = page.NextAfter;
                    }

                    Cli.Show(p, all, _ => { });
                    return;
                }

                var order = await client.OrderAsync(p.GetValue(number), cancel);
                Screen.Table(["no.", "when", "who", "what"], order.Journal.Select(l => new[] { $"{l.Sequence}", Screen.Ago(l.At), Screen.Safe(l.By), Screen.Safe(l.Text) }));
            },
            number);
    }

    private static Command Check()
    {
        var number = Cli.Number();
        return Cli.Command(
            "check", "Before, planned and after side by side, verdict and findings", "revtal order check 103",
            async (p, client, cancel) => Cli.Show(p, await client.CheckAsync(p.GetValue(number), cancel), OrderScreen.Check), number);
    }

    private static Command HandBack()
    {
        var number = Cli.Number();
        var to = new Option<string>("--to") { Required = true, Description = "Who took it" };
        var parts = new Option<string?>("--old-parts") { Description = "What became of them" };
        return Cli.Command(
            "hand-back", "Hand the machine back", "revtal order hand-back 102 --to \"A. Pressel\" --as sanne",
            async (p, client, cancel) => Cli.Show(p, await client.HandBackAsync(p.GetValue(number), new HandBackRequest(p.GetValue(to)!, p.GetValue(parts)), cancel), OrderScreen.Receipt),
            number, to, parts);
    }

    private static Command Note()
    {
        var number = Cli.Number();
        var text = new Argument<string>("TEXT");
        return Cli.Command(
            "note", "Add a note", "revtal order note 104 \"dust cleaned\" --as pell",
            async (p, client, cancel) => Cli.Show(p, await client.NoteAsync(p.GetValue(number), new NoteRequest(p.GetValue(text)!), cancel: cancel), OrderScreen.Receipt), number, text);
    }

    private static Command Variant()
    {
        var number = Cli.Number();
        var variant = new Argument<string>("VARIANT");
        return Cli.Command(
            "variant", "Say which build it is", "revtal order variant 102 FJ14-1 --as tobi",
            async (p, client, cancel) => Cli.Show(p, await client.VariantAsync(p.GetValue(number), new VariantRequest(p.GetValue(variant)!), cancel), OrderScreen.Receipt),
            number, variant);
    }

    private static Command Seal()
    {
        var number = Cli.Number();
        var consent = new Argument<string>("CONSENT") { Description = "given, refused or none" };
        consent.AcceptOnlyFromAmong("none", "given", "refused");
        var customer = new Option<string>("--customer") { Required = true, Description = "Who said so, and how" };
        return Cli.Command(
            "seal", "The customer's word about the warranty seal", "revtal order seal 105 given --customer \"Dr. Kolb, by telephone\" --as sanne",
            async (p, client, cancel) => Cli.Show(p, await client.SealAsync(p.GetValue(number), new SealRequest(SealOf(p.GetValue(consent)), p.GetValue(customer)!), cancel), OrderScreen.Receipt),
            number, consent, customer);
    }

    private static Command Copy()
    {
        var number = Cli.Number();
        var state = new Argument<CopyState>("STATE") { Description = "verified or waived" };
        var text = new Option<string>("--text") { Required = true, Description = "How it was verified, or who goes without" };
        return Cli.Command(
            "copy", "The boot drive's copy is verified, or the customer goes without", "revtal order copy 108 verified --text \"image, 41,204 files counted\" --as tobi",
            async (p, client, cancel) => Cli.Show(p, await client.CopyAsync(p.GetValue(number), new CopyRequest(p.GetValue(state), p.GetValue(text)!), cancel), OrderScreen.Receipt),
            number, state, text);
    }

    private static SealConsent SealOf(string? word) => word switch { "given" => SealConsent.Given, "refused" => SealConsent.Refused, _ => SealConsent.NoSeal };

    private static Command Reason(string verb, string description, string example, Func<RevtalClient, int, string?, CancellationToken, Task<Receipt>> send, bool takesReason = true)
    {
        var number = Cli.Number();
        var reason = new Option<string?>("--reason");
        return Cli.Command(
            verb, description, example, async (p, client, cancel) => Cli.Show(p, await send(client, p.GetValue(number), takesReason ? p.GetValue(reason) : null, cancel), OrderScreen.Receipt),
            takesReason ? [number, reason] : [number]);
    }
}
