using System.CommandLine;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Documents;

namespace Revtal.CommandLine.Commands;

internal static class OrderCommands
{
    private const long LargestHashes = 24 << 20,
        LargestList = 1 << 20;

    public static Command Make() => Cli.Noun("order", "Work orders", [.. Own(), .. InvoiceCommands.OfOrder()]);

    private static Command[] Own() =>
        [
            TakeIn(),
            List(),
            Show(),
            Journal(),
            Check(),
            Reason(
                "ready",
                "Accept the check; a lead gives the reason where it is not as planned",
                "revtal order ready 104 --as mara",
                (c, n, r, t) => c.ReadyAsync(n, new ReasonRequest(r), t)
            ),
            HandBack(),
            Holds(),
            Release(),
            Park(),
            Reason(
                "resume",
                "Take a parked order up again",
                "revtal order resume 104 --as mara",
                (c, n, _, t) => c.ResumeAsync(n, t),
                takesReason: false
            ),
            Reason(
                "cancel",
                "Cancel an order, with a reason",
                "revtal order cancel 104 --reason \"customer declined\" --as ines",
                (c, n, r, t) => c.CancelAsync(n, new ReasonRequest(r), t)
            ),
            Correct(),
            Note(),
            Variant(),
            SketchCommands.Adopt(),
            SharedCommands.Owner(),
            SharedCommands.ReadHandOver(),
            SharedCommands.Here(),
            SharedCommands.Place(),
            SharedCommands.Promise(),
            Seal(),
            Copy(),
            OldPart(),
            Bag(),
            BagLabels(),
            MeasureCommands.Scores(),
            MeasureCommands.Trial(),
            MeasureCommands.Swap(),
            MeasureCommands.Watch(),
        ];

    private static Command TakeIn()
    {
        var model = new Option<string?>("--model")
        {
            Description = "The guide's code: see revtal guide list; what the capture tells, where that is sure",
        };
        var maker = new Option<string?>("--maker") { Description = "Of a model that no guide knows" };
        var name = new Option<string?>("--name") { Description = "What stands on it: “Vidde 15”" };
        var kind = new Option<string?>("--kind") { Description = "laptop, all-in-one, tower, mini PC, storage box …" };
        var capture = new Option<string?>("--capture") { Description = "What the machine told: a folder or a bundle" };
        var arrival = new Option<string?>("--told")
        {
            Description = "A machine that waits: see revtal machine waiting",
        };
        var customer = new Option<string>("--customer") { Required = true };
        var complaint = new Option<string>("--complaint") { Required = true };
        var contact = new Option<string?>("--contact");
        var serial = new Option<string?>("--serial");
        var trial = new Option<string?>("--trial")
        {
            Description = "The customer's own kind of work, to be tried after the upgrade",
        };
        var goal = new Option<string?>("--goal") { Description = "What the customer wants to do with it" };
        var accessories = new Option<string?>("--accessories");
        var condition = new Option<string?>("--condition");
        var backup = new Option<Backup>("--backup") { Description = "made, waived or unknown" };
        var seal = new Option<string>("--seal")
        {
            Description = "none, given or refused: may a warranty seal be broken",
            DefaultValueFactory = _ => "none",
        };
        seal.AcceptOnlyFromAmong("none", "given", "refused");
        var variant = new Option<string?>("--variant") { Description = "Which build, where it is told apart" };
        var batch = new Option<string?>("--batch")
        {
            Description =
                "Take several in together: a list of serials, one a line, or a CSV; - reads what is scanned "
                + "until an empty line",
        };
        return Cli.Command(
            "take-in",
            "Take a machine in; of a model that no guide knows with maker, name and kind",
            "revtal order take-in --model FJ14 --customer \"Ferry ticket desk\" --complaint \"slow\" --as sanne",
            async (p, client, cancel) =>
            {
                var told =
                    p.GetValue(capture) is { } path
                        ? await client.TakeArrivalAsync(CaptureBundle.Of(CaptureFolder.Read(path)), cancel)
                    : p.GetValue(arrival) is { } id ? await client.ArrivalAsync(id, cancel: cancel)
                    : null;
                var fresh = p.GetValue(name) is { } called
                    ? new NewModel(p.GetValue(maker) ?? told?.Told?.Maker ?? "", called, p.GetValue(kind) ?? "")
                    : null;
                var request = new TakeInRequest(
                    fresh is null ? p.GetValue(model) ?? Sure(told) : null,
                    p.GetValue(customer)!,
                    p.GetValue(complaint)!,
                    p.GetValue(contact),
                    p.GetValue(serial),
                    p.GetValue(goal),
                    p.GetValue(accessories),
                    p.GetValue(condition),
                    p.GetValue(backup),
                    SealOf(p.GetValue(seal)),
                    p.GetValue(variant),
                    fresh,
                    told?.Id,
                    p.GetValue(trial)
                );
                if (p.GetValue(batch) is { } list)
                {
                    Cli.Show(p, await TakeInBatchAsync(client, request, list, cancel), BatchScreen.Receipt);
                    return;
                }

                Cli.Show(p, await client.TakeInAsync(request, cancel: cancel), OrderScreen.Receipt);
            },
            batch,
            model,
            maker,
            name,
            kind,
            capture,
            arrival,
            customer,
            complaint,
            contact,
            serial,
            goal,
            trial,
            accessories,
            condition,
            backup,
            seal,
            variant
        );
    }

    private static async Task<BatchReceipt> TakeInBatchAsync(
        RevtalClient client,
        TakeInRequest each,
        string list,
        CancellationToken cancel
    )
    {
        if (each.Serial is not null || each.Arrival is not null)
        {
            throw RefusedException.Invalid("batch-serial", "The serials of a batch stand in its list, one a line.");
        }

        var text = list == "-" ? Scanned() : Files.Text(list, LargestList);
        var machines = (await client.ReadBatchListAsync(text, cancel)).Lines.Select(l => l.Machine);
        return await client.TakeInBatchAsync(
            new BatchRequest(
                each.Model,
                each.Customer,
                each.Complaint,
                [
                    .. machines.Select(m =>
                        m with
                        {
                            Variant = m.Variant ?? each.Variant,
                            Accessories = m.Accessories ?? each.Accessories,
                            Condition = m.Condition ?? each.Condition,
                        }
                    ),
                ],
                each.Contact,
                each.Goal,
                each.Backup,
                each.SealConsent,
                each.Trial,
                each.NewModel
            ),
            cancel: cancel
        );
    }

    // A scanner types a serial and a return; an empty line, or the end of what comes, ends the list.
    private static string Scanned()
    {
        var lines = new List<string>();
        while (Console.In.ReadLine() is { } line && line.Trim().Length > 0)
        {
            lines.Add(line);
            if (!Console.IsInputRedirected)
            {
                Screen.Marked($"[grey]{lines.Count}[/]");
            }
        }

        return string.Join('\n', lines);
    }

    // What its firmware reports stands for one model alone.
    private static string? Sure(ArrivalView? told) =>
        told?.Told?.Models.Where(m => m.Reported).DistinctBy(m => m.Code).ToArray() is [var only] ? only.Code : null;

    private static Command List()
    {
        var text = new Argument<string[]>("TEXT")
        {
            Arity = ArgumentArity.ZeroOrMore,
            Description = "Beginnings of words in all that was said of them, serials of what is in them, or the number",
        };
        var stage = new Option<string?>("--stage");
        var later = new Option<bool>("--later") { Description = "Only those that leave something for a later visit" };
        var after = new Option<string?>("--after") { Description = "The next page: what the one before named" };
        var limit = new Option<int>("--limit") { DefaultValueFactory = _ => 50 };
        return Cli.Command(
            "list",
            "Find orders, closed ones too, newest first",
            "revtal order list ferry",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await Screen.Wait(
                        "Searching",
                        client.SearchAsync(
                            p.GetValue(text) is { Length: > 0 } words ? string.Join(' ', words) : null,
                            p.GetValue(stage) is { } s ? StageWords.Parse(s) : null,
                            p.GetValue(after),
                            p.GetValue(limit),
                            p.GetValue(later),
                            cancel
                        )
                    ),
                    found =>
                    {
                        OrderScreen.Cards(found.Items);
                        if (found.Next is { } next)
                        {
                            Screen.Line($"{found.Counted(found.Items.Count)}. More: revtal order list --after {next}");
                        }
                    }
                ),
            text,
            stage,
            later,
            after,
            limit
        );
    }

    private static Command Show()
    {
        var number = Cli.Number();
        return Cli.Command(
            "show",
            "Show an order",
            "revtal order show 103",
            async (p, client, cancel) =>
                Cli.Show(p, await client.OrderAsync(p.GetValue(number), cancel), OrderScreen.Show),
            number
        );
    }

    private static Command Journal()
    {
        var number = Cli.Number();
        return Cli.Command(
            "journal",
            "Show all that was recorded on an order",
            "revtal order journal 101",
            async (p, client, cancel) =>
            {
                if (p.GetValue(Cli.Json))
                {
                    Cli.Show(p, await client.EntriesAsync(p.GetValue(number), cancel), _ => { });
                    return;
                }

                var order = await client.OrderAsync(p.GetValue(number), cancel);
                Screen.Table(
                    ["no.", "when", "who", "what"],
                    order.Journal.Select(l =>
                        new[]
                        {
                            $"{l.Sequence}",
                            l.Said is { } said
                                ? $"{Screen.Ago(said.At)}, arrived {Screen.Ago(l.At)}"
                                : Screen.Ago(l.At),
                            Screen.Safe(l.By),
                            Screen.Safe(l.Text) + (l.Said is { ClockOff: true } ? " (the screen's clock was off)" : ""),
                        }
                    )
                );
            },
            number
        );
    }

    private static Command Check()
    {
        var number = Cli.Number();
        return Cli.Command(
            "check",
            "Before, planned and after side by side, verdict and findings",
            "revtal order check 103",
            async (p, client, cancel) =>
                Cli.Show(p, await client.CheckAsync(p.GetValue(number), cancel), OrderScreen.Check),
            number
        );
    }

    private static Command Holds()
    {
        var number = Cli.Number();
        return Cli.Command(
            "holds",
            "What stands between an order and its hand-back, and what ends it",
            "revtal order holds 117",
            async (p, client, cancel) =>
                Cli.Show(p, (await client.OrderAsync(p.GetValue(number), cancel)).Holds, OrderScreen.Holds),
            number
        );
    }

    private static Command Release()
    {
        var number = Cli.Number();
        var hold = new Argument<string>("HOLD") { Description = "Its key, as revtal order holds shows it" };
        var reason = new Option<string>("--reason") { Required = true };
        return Cli.Change(
            "release",
            "Let one hold be, with a reason (leads)",
            "revtal order release 107 array-resync.md0 --reason \"rebuilds at the customer's, who knows\" --as ines",
            (p, client, cancel) =>
                client.ReleaseAsync(
                    p.GetValue(number),
                    new ReleaseRequest(p.GetValue(hold)!, p.GetValue(reason)),
                    cancel
                ),
            number,
            hold,
            reason
        );
    }

    private static Command Park()
    {
        var number = Cli.Number();
        var reason = new Option<string>("--reason") { Required = true };
        var until = new Option<DateTimeOffset?>("--until")
        {
            Description = "When it is to be taken up again, like 2026-12-04T08:30",
        };
        var wakes = new Option<WakeOn?>("--wakes")
        {
            Description = "What takes it up again by itself: customer-answers, parts-arrive",
            CustomParser = r =>
                r.Tokens[0].Value switch
                {
                    "customer-answers" => WakeOn.CustomerAnswers,
                    "parts-arrive" => WakeOn.PartsArrive,
                    _ => throw RefusedException.Invalid(
                        "wakes-unknown",
                        "An order is woken by customer-answers or parts-arrive."
                    ),
                },
        };
        return Cli.Change(
            "park",
            "Park an order, with a reason",
            "revtal order park 104 --reason \"the module is ordered\" --wakes parts-arrive --as mara",
            (p, client, cancel) =>
                client.ParkAsync(
                    p.GetValue(number),
                    new ParkRequest(p.GetValue(reason), p.GetValue(until), p.GetValue(wakes)),
                    cancel
                ),
            number,
            reason,
            until,
            wakes
        );
    }

    private static Command HandBack()
    {
        var number = Cli.Number();
        var to = new Option<string>("--to") { Required = true, Description = "Who took it" };
        var parts = new Option<string?>("--old-parts") { Description = "What became of them" };
        return Cli.Change(
            "hand-back",
            "Hand the machine back",
            "revtal order hand-back 102 --to \"A. Pressel\" --as sanne",
            (p, client, cancel) =>
                client.HandBackAsync(
                    p.GetValue(number),
                    new HandBackRequest(p.GetValue(to)!, p.GetValue(parts)),
                    cancel
                ),
            number,
            to,
            parts
        );
    }

    private static Command Correct()
    {
        var number = Cli.Number();
        var serial = new Option<string?>("--serial");
        var contact = new Option<string?>("--contact");
        var backup = new Option<Backup?>("--backup") { Description = "made, waived or unknown" };
        var reason = new Option<string>("--reason") { Required = true };
        return Cli.Change(
            "correct",
            "Correct what was written down at take-in, with a reason",
            "revtal order correct 104 --serial QT40-2215 --reason \"one digit was mistyped\" --as sanne",
            (p, client, cancel) =>
                client.CorrectAsync(
                    p.GetValue(number),
                    new CorrectRequest(p.GetValue(serial), p.GetValue(contact), p.GetValue(backup), p.GetValue(reason)),
                    cancel
                ),
            number,
            serial,
            contact,
            backup,
            reason
        );
    }

    private static Command Note()
    {
        var number = Cli.Number();
        var text = new Argument<string>("TEXT");
        var answers = new Option<int?>("--answers")
        {
            Description = "The journal's number of the note that it answers",
        };
        return Cli.Change(
            "note",
            "Add a note; @mara tells Mara, and an answer tells whoever wrote there",
            "revtal order note 104 \"dust cleaned\" --as pell",
            (p, client, cancel) =>
                client.NoteAsync(
                    p.GetValue(number),
                    new NoteRequest(p.GetValue(text)!, Answers: p.GetValue(answers)),
                    cancel: cancel
                ),
            number,
            text,
            answers
        );
    }

    private static Command Variant()
    {
        var number = Cli.Number();
        var variant = new Argument<string?>("VARIANT")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "Left out: it is not known after all",
        };
        return Cli.Change(
            "variant",
            "Say which build it is, or that it is not known after all",
            "revtal order variant 102 FJ14-1 --as tobi",
            (p, client, cancel) =>
                client.VariantAsync(p.GetValue(number), new VariantRequest(p.GetValue(variant)), cancel),
            number,
            variant
        );
    }

    private static Command Seal()
    {
        var number = Cli.Number();
        var consent = new Argument<string>("CONSENT") { Description = "given, refused or none" };
        consent.AcceptOnlyFromAmong("none", "given", "refused");
        var customer = new Option<string>("--customer") { Required = true, Description = "Who said so, and how" };
        return Cli.Change(
            "seal",
            "The customer's word about the warranty seal",
            "revtal order seal 105 given --customer \"Dr. Kolb, by telephone\" --as sanne",
            (p, client, cancel) =>
                client.SealAsync(
                    p.GetValue(number),
                    new SealRequest(SealOf(p.GetValue(consent)), p.GetValue(customer)!),
                    cancel
                ),
            number,
            consent,
            customer
        );
    }

    private static Command Copy()
    {
        var number = Cli.Number();
        var bay = new Argument<string>("BAY") { Description = "The bay whose drive is replaced" };
        var source = new Option<string>("--source") { Required = true };
        var target = new Option<string>("--target") { Required = true };
        var method = new Option<string>("--method")
        {
            Required = true,
            Description = "Image, by file system, by file …",
        };
        var size = new Option<string>("--size") { Required = true, Description = "What is to be copied, like 212GB" };
        var amount = new Argument<string>("DONE") { Description = "Copied so far, like 120GB" };
        var files = new Option<string>("--files")
        {
            Required = true,
            Description = "Files counted on source and target, like 41204/41204",
        };
        var alike = new Option<string?>("--alike") { Description = "Hashes alike of those sampled, like 200/200" };
        var sourceHashes = new Option<string?>("--source-hashes") { Description = "A file as sha256sum writes it" };
        var targetHashes = new Option<string?>("--target-hashes");
        var state = new Argument<CopyState>("STATE") { Description = "verified or waived" };
        var text = new Option<string>("--text")
        {
            Required = true,
            Description = "How it was verified, or who goes without",
        };
        var sampled = new Option<int?>("--sampled") { Description = "How many files were compared by hash" };
        return Cli.Noun(
            "copy",
            "A drive's data on its way to the new one",
            Cli.Change(
                "begin",
                "A drive's data begins to be copied",
                "revtal order copy begin 108 D1 --source \"BN 500\" --target \"BN 1T\" --method image --size 212GB "
                    + "--as tobi",
                (p, client, cancel) =>
                    client.BeginCopyAsync(
                        p.GetValue(number),
                        p.GetValue(bay)!,
                        new CopyBeginRequest(
                            p.GetValue(source)!,
                            p.GetValue(target)!,
                            p.GetValue(method)!,
                            DriveSize.Parse(p.GetValue(size))
                        ),
                        cancel
                    ),
                number,
                bay,
                source,
                target,
                method,
                size
            ),
            Cli.Change(
                "done",
                "So much is copied; the end is estimated from the rate",
                "revtal order copy done 108 D1 120GB --as tobi",
                (p, client, cancel) =>
                    client.AdvanceCopyAsync(
                        p.GetValue(number),
                        p.GetValue(bay)!,
                        new CopyDoneRequest(DriveSize.Parse(p.GetValue(amount))),
                        cancel
                    ),
                number,
                bay,
                amount
            ),
            Cli.Command(
                "verify",
                "Compare source and target by counts and sampled hashes",
                "revtal order copy verify 108 D1 --files 41204/41204 --alike 200/200 --as tobi",
                async (p, client, cancel) =>
                {
                    var (onTarget, onSource) = Pair(p.GetValue(files)!);
                    var hashes = p.GetValue(alike) is { } a ? Pair(a) : ((int, int)?)null;
                    var receipt = await client.VerifyCopyAsync(
                        p.GetValue(number),
                        p.GetValue(bay)!,
                        new CopyVerifyRequest(
                            onSource,
                            onTarget,
                            hashes?.Item2,
                            hashes?.Item1,
                            p.GetValue(sourceHashes) is { } s ? Files.Text(s, LargestHashes) : null,
                            p.GetValue(targetHashes) is { } t ? Files.Text(t, LargestHashes) : null
                        ),
                        cancel
                    );
                    Cli.Show(p, receipt, OrderScreen.Receipt);
                    if (!p.GetValue(Cli.Json))
                    {
                        // Recorded is not yet good: what the compare showed is said beside it.
                        OrderScreen.Compared(await client.OrderAsync(receipt.Order, cancel), p.GetValue(bay)!);
                    }
                },
                number,
                bay,
                files,
                alike,
                sourceHashes,
                targetHashes
            ),
            Cli.Change(
                "tell",
                "The boot drive's copy is verified by other means, or the customer goes without",
                "revtal order copy tell 108 verified --text \"image, counted\" --sampled 200 --as tobi",
                (p, client, cancel) =>
                    client.CopyAsync(
                        p.GetValue(number),
                        new CopyRequest(p.GetValue(state), p.GetValue(text)!, p.GetValue(sampled)),
                        cancel
                    ),
                number,
                state,
                text,
                sampled
            )
        );
    }

    private static Command OldPart()
    {
        var number = Cli.Number();
        var position = new Argument<string>("POSITION");
        var words = Enum.GetValues<PartFate>().ToDictionary(f => Phrases.Words(f).Replace(' ', '-'));
        var fate = new Argument<string>("FATE") { Description = string.Join(", ", words.Keys) };
        fate.AcceptOnlyFromAmong([.. words.Keys]);
        var category = new Option<WipeCategory?>("--wipe") { Description = "clear, purge or destroy (NIST SP 800-88)" };
        var method = new Option<string?>("--method") { Description = "How it was wiped" };
        var verified = new Option<string?>("--verified") { Description = "How it was seen that nothing is left" };
        var grade = new Option<string?>("--grade") { Description = "Of a part bought in: A, B or C" };
        var tested = new Option<string?>("--tested")
        {
            Description = "How a part bought in was tested, and what came out",
        };
        var price = new Option<decimal?>("--price") { Description = "What the shop pays for it" };
        var claim = new ClaimOptions();
        var usedIn = new Option<int?>("--used-in") { Description = "The other order, of a part that goes on there" };
        var note = new Option<string?>("--note");
        return Cli.Change(
            "old-part",
            "What becomes of what came out of a position",
            "revtal order old-part 108 D1 wiped --wipe purge --method \"sanitize, crypto scramble\" --verified \"200 "
                + "sectors read\" --as tobi",
            (p, client, cancel) =>
                client.SettleAsync(
                    p.GetValue(number),
                    p.GetValue(position)!,
                    new OldPartRequest(
                        words[p.GetValue(fate)!],
                        p.GetValue(category) is { } c
                            ? new Wipe(c, p.GetValue(method) ?? "", p.GetValue(verified) ?? "")
                            : null,
                        p.GetValue(note),
                        p.GetValue(grade),
                        p.GetValue(tested),
                        p.GetValue(price),
                        claim.Of(p),
                        p.GetValue(usedIn)
                    ),
                    cancel
                ),
            [number, position, fate, category, method, verified, grade, tested, price, .. claim.All, usedIn, note]
        );
    }

    private static Command Bag()
    {
        var number = Cli.Number();
        var position = new Argument<string>("POSITION");
        var place = new Argument<string>("PLACE") { Description = "Where the bag lies" };
        return Cli.Change(
            "bag",
            "What came out of a position lies in a labelled bag, and where",
            "revtal order bag 103 S2 \"shelf 3\" --as tobi",
            (p, client, cancel) =>
                client.BagAsync(p.GetValue(number), p.GetValue(position)!, new BagRequest(p.GetValue(place)!), cancel),
            [number, position, place]
        );
    }

    private static Command BagLabels()
    {
        var number = Cli.Number();
        var output = new Option<string?>("--output", "-o")
        {
            Description = "The file to write; bags-NUMBER.pdf by default",
        };
        return Cli.Command(
            "bag-labels",
            "Labels for the bags of what came out, with a code each, on A4",
            "revtal order bag-labels 103 -o bags.pdf",
            async (p, client, cancel) =>
            {
                var path = p.GetValue(output) ?? $"bags-{p.GetValue(number)}.pdf";
                Files.Write(path, await client.BagPaperAsync(p.GetValue(number), cancel));
                Cli.Show(p, new FileWritten(path), w => Screen.Line(w.Path));
            },
            number,
            output
        );
    }

    // “200/201”.
    private static (int First, int Second) Pair(string text) =>
        text.Split('/') is [var a, var b]
        && int.TryParse(a.Replace(",", "", StringComparison.Ordinal), out var x)
        && int.TryParse(b.Replace(",", "", StringComparison.Ordinal), out var y)
            ? (x, y)
            : throw RefusedException.Invalid("pair-form", $"“{text}” is not like 41204/41204.");

    private static SealConsent SealOf(string? word) =>
        word switch
        {
            "given" => SealConsent.Given,
            "refused" => SealConsent.Refused,
            _ => SealConsent.NoSeal,
        };

    private static Command Reason(
        string verb,
        string description,
        string example,
        Func<RevtalClient, int, string?, CancellationToken, Task<Receipt>> send,
        bool takesReason = true
    )
    {
        var number = Cli.Number();
        var reason = new Option<string?>("--reason");
        return Cli.Change(
            verb,
            description,
            example,
            (p, client, cancel) => send(client, p.GetValue(number), takesReason ? p.GetValue(reason) : null, cancel),
            takesReason ? [number, reason] : [number]
        );
    }
}
