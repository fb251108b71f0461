using System.CommandLine;
using System.Text.Json;
using Revtal.Client;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.CommandLine.Commands;

/// <summary>Guides between shops.</summary>
internal static class ExchangeCommands
{
    public static Command Share()
    {
        var code = new Argument<string>("CODE");
        var to = new Option<string>("--to") { Required = true, Description = "The file that is written" };
        return Cli.Command(
            "share",
            "Write a guide for another shop, with what orders showed and without customers",
            "revtal guide share FJ14 --to fj14.json",
            async (p, client, cancel) =>
            {
                var file = await Screen.Wait("Fetching", client.ExportGuideAsync(p.GetValue(code)!, cancel));
                Files.Write(p.GetValue(to)!, JsonSerializer.SerializeToUtf8Bytes(file, WireTypes.Of<ExchangeFile>()));
                Screen.Line(
                    $"{file.Code}, {Phrases.Counted(file.Revisions.Count, "revision", "revisions")}, resting on "
                        + $"{Phrases.Counted(file.Evidence.Runs, "run", "runs")}: written to {p.GetValue(to)}."
                );
            },
            code,
            to
        );
    }

    public static Command Merge()
    {
        var path = new Argument<string>("FILE") { Description = "As the other shop wrote it" };
        var theirs = Paths("--theirs", "Facts to take from theirs, by their path");
        var ours = Paths("--ours", "Facts to keep ours, though they alone changed them");
        var dry = new Option<bool>("--dry-run") { Description = "Only show what the two tell differently" };
        return Cli.Command(
            "merge",
            "Make a draft of ours and another shop's guide, fact by fact",
            "revtal guide merge fj14.json --dry-run",
            async (p, client, cancel) =>
            {
                var file = Read(p.GetValue(path)!);
                if (p.GetValue(dry))
                {
                    Cli.Show(p, await client.CompareExchangeAsync(file, cancel), GuideScreen.Exchanged);
                    return;
                }

                var draft = await client.MergeExchangeAsync(
                    new MergeRequest(file, p.GetValue(theirs), p.GetValue(ours)),
                    cancel
                );
                Cli.Show(
                    p,
                    draft,
                    d =>
                    {
                        Screen.Line($"The draft of {d.Code} holds both now. Look at it: revtal guide draft {d.Code}");
                        GuideScreen.Problems("draft", d.Problems);
                    }
                );
            },
            path,
            theirs,
            ours,
            dry
        );
    }

    private static Option<string[]> Paths(string name, string says) =>
        new(name) { Description = says, AllowMultipleArgumentsPerToken = true };

    private static ExchangeFile Read(string path)
    {
        try
        {
            return JsonSerializer.Deserialize(Files.Bytes(path, ExchangeFile.Largest), WireTypes.Of<ExchangeFile>())
                ?? throw NoGuide(path);
        }
        catch (JsonException)
        {
            throw NoGuide(path);
        }
    }

    private static RefusedException NoGuide(string path) =>
        RefusedException.Invalid(
            "exchange-unknown",
            $"“{path}” holds no guide of another shop. Such a file is written by: revtal guide share CODE --to FILE"
        );
}
