using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Documents;

namespace Revtal.CommandLine.Commands;

internal static class GuideCommands
{
    private const long LargestFile = 4L * GuideYaml.Longest;

    public static Command Make() =>
        Cli.Noun(
            "guide",
            "What the shop knows of its models",
            List(),
            Show(),
            Check(),
            Publish(),
            Finish(),
            Compare(),
            Draft(),
            Drafts(),
            Suggest(),
            Suggestions(),
            Signs(),
            Decide("accept", "Take a suggestion into the model's draft (leads)"),
            Decide("decline", "Leave a suggestion (leads)"),
            Export(),
            ExchangeCommands.Share(),
            ExchangeCommands.Merge(),
            Import(),
            Schema(),
            Fields()
        );

    private static Command Signs()
    {
        var code = new Argument<string>("CODE");
        return Cli.Command(
            "signs",
            "What the starts of a model showed, and what the guide might say otherwise",
            "revtal guide signs FJ14",
            async (p, client, cancel) =>
                Cli.Show(p, await client.SignsAsync(p.GetValue(code)!, cancel), GuideScreen.Signs),
            code
        );
    }

    private static Command List()
    {
        var text = new Argument<string?>("TEXT")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "Found anywhere in the guide",
        };
        return Cli.Command(
            "list",
            "The newest revision of each guide",
            "revtal guide list shroud",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.GuidesAsync(p.GetValue(text), cancel),
                    guides =>
                        Screen.Table(
                            ["code", "rev", "model", "kind", "slots", "variants", "tell apart"],
                            guides.Select(g =>
                                new[]
                                {
                                    g.Code,
                                    $"{g.Revision}",
                                    Screen.Safe($"{g.Maker} {g.Name}"),
                                    g.Kind,
                                    g.Sketch && g.Slots == 0 ? "?" : $"{g.Slots}",
                                    Screen.Safe(string.Join(", ", g.Variants.Select(v => v.Id))),
                                    Screen.Safe(g.TellApart),
                                }
                            )
                        )
                ),
            text
        );
    }

    private static Command Show()
    {
        var code = new Argument<string>("CODE");
        var revision = new Option<int?>("--revision");
        var variant = new Option<string?>("--variant") { Description = "The facts of one build" };
        var file = new Option<bool>("--file") { Description = "Print the file as it was published" };
        return Cli.Command(
            "show",
            "Show a guide",
            "revtal guide show FJ14",
            async (p, client, cancel) =>
            {
                if (p.GetValue(file))
                {
                    Console.Write(await client.GuideFileAsync(p.GetValue(code)!, p.GetValue(revision), cancel));
                    return;
                }

                var view = await client.GuideAsync(p.GetValue(code)!, p.GetValue(revision), cancel);
                if (p.GetValue(variant) is { } build)
                {
                    view.Guide.NeedVariant(build);
                }

                Cli.Show(
                    p,
                    view with
                    {
                        Guide = view.Guide.For(p.GetValue(variant)),
                    },
                    v => GuideScreen.Show(v, view.Guide.Variants, p.GetValue(variant))
                );
            },
            code,
            revision,
            variant,
            file
        );
    }

    private static Command Check()
    {
        var path = new Argument<string>("FILE");
        return Cli.Command(
            "check",
            "Check a guide file; needs no service",
            "revtal guide check guides/FJ14.yaml",
            (p, _, _) =>
            {
                var result = GuideYaml.Read(Files.Text(p.GetValue(path)!, LargestFile));
                Cli.Show(p, result.Problems, problems => GuideScreen.Problems(p.GetValue(path)!, problems));
                return result.Guide is null
                    ? throw RefusedException.Invalid(
                        "guide-problems",
                        $"{result.Problems.Count} {Phrases.Plural(result.Problems.Count, "problem", "problems")} in "
                            + $"{p.GetValue(path)}."
                    )
                    : Task.CompletedTask;
            },
            path
        );
    }

    private static Command Publish()
    {
        var path = new Argument<string>("FILE");
        return Cli.Command(
            "publish",
            "Publish a guide file as the next revision (leads)",
            "revtal guide publish guides/FJ14.yaml --as ines",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.PublishGuideAsync(Files.Text(p.GetValue(path)!, LargestFile), cancel),
                    GuideScreen.Published
                ),
            path
        );
    }

    private static Command Finish()
    {
        var code = new Argument<string>("CODE");
        return Cli.Command(
            "finish",
            "Publish a sketch as it stands: what was open must be known by now (leads)",
            "revtal guide finish NV15 --as ines",
            async (p, client, cancel) =>
                Cli.Show(p, await client.PublishSketchAsync(p.GetValue(code)!, cancel), GuideScreen.Published),
            code
        );
    }

    private static Command Compare()
    {
        var code = new Argument<string>("CODE");
        var from = new Argument<string?>("FROM")
        {
            Arity = ArgumentArity.ZeroOrOne,
            Description = "A revision's number, or “draft”; by default the two newest",
        };
        var to = new Argument<string?>("TO") { Arity = ArgumentArity.ZeroOrOne };
        return Cli.Command(
            "compare",
            "Two revisions side by side",
            "revtal guide compare QT40 1 2",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.CompareGuidesAsync(p.GetValue(code)!, p.GetValue(from), p.GetValue(to), cancel),
                    GuideScreen.Compared
                ),
            code,
            from,
            to
        );
    }

    private static Command Drafts() =>
        Cli.Command(
            "drafts",
            "Drafts that somebody works on",
            "revtal guide drafts",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.DraftsAsync(cancel),
                    drafts =>
                        Screen.Table(
                            ["code", "", "problems", "saved", "by"],
                            drafts.Select(d =>
                                new[]
                                {
                                    d.Code,
                                    d.IsNew ? "new" : "",
                                    $"{d.Problems}",
                                    Screen.Ago(d.At),
                                    Screen.Safe(d.By),
                                }
                            )
                        )
                )
        );

    private static Command Draft()
    {
        var code = new Argument<string>("CODE");
        var save = new Option<string?>("--save") { Description = "A file to save as the draft" };
        var like = new Option<string?>("--like") { Description = "Begin it from the guide of a like model" };
        var publish = new Option<bool>("--publish") { Description = "Publish it as the next revision (leads)" };
        var discard = new Option<bool>("--discard") { Description = "Throw it away (leads)" };
        return Cli.Command(
            "draft",
            "Show, save, publish or throw away the draft of a guide",
            "revtal guide draft FJ14 --save FJ14.yaml --as ines",
            async (p, client, cancel) =>
            {
                var model = p.GetValue(code)!;
                if (p.GetValue(publish))
                {
                    Cli.Show(p, await client.PublishDraftAsync(model, cancel), GuideScreen.Published);
                }
                else if (p.GetValue(discard))
                {
                    await client.DiscardDraftAsync(model, cancel);
                    Cli.Show(p, new DraftGone(model, true), d => Screen.Line($"The draft of {d.Code} is gone."));
                }
                else
                {
                    var draft =
                        p.GetValue(like) is { } other ? await client.BeginDraftAsync(model, other, cancel)
                        : p.GetValue(save) is { } file
                            ? await client.SaveDraftAsync(model, Files.Text(file, LargestFile), null, cancel)
                        : await client.DraftAsync(model, cancel);
                    Cli.Show(
                        p,
                        draft,
                        d =>
                        {
                            if (p.GetValue(save) is null)
                            {
                                Console.Write(d.Yaml);
                            }

                            GuideScreen.Problems(d.Code, [.. d.Problems]);
                        }
                    );
                }
            },
            code,
            save,
            like,
            publish,
            discard
        );
    }

    private static Command Suggest()
    {
        var number = Cli.Number();
        var kind = new Argument<GuideChangeKind>("WHAT")
        {
            Description = "trap, precaution, hidden, fastenercount, minutes, sitsright or confirmedmax",
        };
        var target = new Option<string?>("--at")
        {
            Description = "The step, removal or fastener group that it is about",
        };
        var text = new Option<string?>("--text");
        var word = new Option<string?>("--word") { Description = "For a precaution its kind" };
        var amount = new Option<int?>("--number");
        var step = new Option<string?>("--step") { Description = "The step at which it was learned" };
        return Cli.Change(
            "suggest",
            "Suggest a change of the guide from an order",
            "revtal guide suggest 104 trap --at fit.A1 --text \"The graphics card is in the way\" --as pell",
            (p, client, cancel) =>
                client.SuggestAsync(
                    p.GetValue(number),
                    new SuggestRequest(
                        new GuideChange(
                            p.GetValue(kind),
                            p.GetValue(target),
                            p.GetValue(text),
                            p.GetValue(word),
                            p.GetValue(amount)
                        ),
                        p.GetValue(step) is { } at ? StepId.Parse(at) : null
                    ),
                    cancel
                ),
            number,
            kind,
            target,
            text,
            word,
            amount,
            step
        );
    }

    private static Command Suggestions()
    {
        var code = new Argument<string?>("CODE") { Arity = ArgumentArity.ZeroOrOne };
        var all = new Option<bool>("--all") { Description = "Decided ones too" };
        return Cli.Command(
            "suggestions",
            "What orders taught",
            "revtal guide suggestions FJ14",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.SuggestionsAsync(
                        p.GetValue(code),
                        p.GetValue(all) ? null : SuggestionState.Open,
                        cancel
                    ),
                    s =>
                        Screen.Table(
                            ["entry", "guide", "by", "when", "state", "what"],
                            s.Select(x =>
                                new[]
                                {
                                    $"{x.Order}/{x.Sequence}",
                                    x.Code,
                                    Screen.Safe(x.By),
                                    Screen.Ago(x.At),
                                    x.State.ToString().ToLowerInvariant(),
                                    Screen.Safe(x.Text),
                                }
                            )
                        )
                ),
            code,
            all
        );
    }

    private static Command Decide(string verb, string description)
    {
        var entry = new Argument<string>("ENTRY") { Description = "ORDER/ENTRY, as the list has it" };
        return Cli.Command(
            verb,
            description,
            $"revtal guide {verb} 111/12 --as ines",
            async (p, client, cancel) =>
            {
                var (order, sequence) =
                    p.GetValue(entry)!.Split('/') is [var o, var s]
                    && int.TryParse(o, out var n)
                    && int.TryParse(s, out var m)
                        ? (n, m)
                        : throw RefusedException.Invalid("entry-form", $"“{p.GetValue(entry)}” is not like 111/12.");
                Cli.Show(
                    p,
                    await client.DecideAsync(order, sequence, verb == "accept", cancel),
                    d =>
                        Screen.Line(
                            d.State == SuggestionState.Accepted
                                ? $"In the draft of {d.Code}: {d.Text}. Publish it with: revtal guide draft {d.Code} "
                                    + "--publish"
                                : $"Left: {d.Text}"
                        )
                );
            },
            entry
        );
    }

    private static Command Schema() =>
        Cli.Command(
            "schema",
            "Print the JSON Schema of guide files; needs no service",
            "revtal guide schema > guide.schema.json",
            (_, _, _) =>
            {
                Console.Write(GuideSchema.Text);
                return Task.CompletedTask;
            }
        );

    private static Command Fields() =>
        Cli.Command(
            "fields",
            "Print every key of a guide file with what it holds, in Markdown; needs no service",
            "revtal guide fields > guide-fields.md",
            (_, _, _) =>
            {
                Console.Write(GuideFieldsPage.Text);
                return Task.CompletedTask;
            }
        );

    private static Command Export()
    {
        var output = new Option<string>("--output", "-o") { DefaultValueFactory = _ => "revtal-guides.zip" };
        return Cli.Command(
            "export",
            "Write all guides and their pictures to one ZIP file",
            "revtal guide export -o guides.zip",
            async (p, client, cancel) =>
            {
                var zip = await Screen.Wait("Fetching", client.ExportLibraryAsync(cancel));
                Files.Write(p.GetValue(output)!, zip);
                Cli.Show(
                    p,
                    new LibraryWritten(p.GetValue(output)!, zip.Length),
                    w => Screen.Line($"{w.Path}, {w.Bytes:N0} bytes")
                );
            },
            output
        );
    }

    private static Command Import()
    {
        var path = new Argument<string>("FILE");
        var dry = new Option<bool>("--dry-run") { Description = "Only show what it would do" };
        return Cli.Command(
            "import",
            "Publish a whole library, all or nothing (leads)",
            "revtal guide import guides.zip --dry-run --as ines",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await Screen.Wait(
                        "Sending",
                        client.ImportLibraryAsync(
                            Files.Bytes(p.GetValue(path)!, GuideLibrary.Largest),
                            p.GetValue(dry),
                            cancel
                        )
                    ),
                    done =>
                    {
                        Screen.Table(
                            ["guide", "rev", ""],
                            done.Guides.Select(g =>
                                new[]
                                {
                                    g.Code,
                                    $"{g.Revision}",
                                    g.IsNew ? (done.DryRun ? "would be new" : "published") : "is the newest already",
                                }
                            )
                        );
                        Screen.Line(Pictures(done));
                    }
                ),
            path,
            dry
        );
    }

    private static string Pictures(LibraryImported done) =>
        Phrases.Counted(done.Pictures, "picture", "pictures")
        + Phrases.When(done.MissingPictures > 0, $", {done.MissingPictures} more are named but not here")
        + Phrases.When(done.DryRun, "; nothing was done");
}
