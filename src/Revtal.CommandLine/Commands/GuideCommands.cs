using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Documents;

namespace Revtal.CommandLine.Commands;

internal static class GuideCommands
{
    public static Command Make() => Cli.Noun("guide", "What the shop knows of its models", List(), Show(), Check(), Publish());

    private static Command List() => Cli.Command(
        "list", "The newest revision of each guide", "revtal guide list",
        async (p, client, cancel) => Cli.Show(p, await client.GuidesAsync(cancel), guides => Screen.Table(
            ["code", "rev", "model", "kind", "slots", "tell apart"],
            guides.Select(g => new[] { g.Code, $"{g.Revision}", Screen.Safe($"{g.Maker} {g.Name}"), g.Kind, $"{g.Slots}", Screen.Safe(g.TellApart) }))));

    private static Command Show()
    {
        var code = new Argument<string>("CODE");
        var revision = new Option<int?>("--revision");
        var file = new Option<bool>("--file") { Description = "Print the file as it was published" };
        return Cli.Command(
            "show", "Show a guide", "revtal guide show FJ14",
            async (p, client, cancel) =>
            {
                if (p.GetValue(file))
                {
                    Console.Write(await client.GuideFileAsync(p.GetValue(code)!, p.GetValue(revision), cancel));
                    return;
                }

                Cli.Show(p, await client.GuideAsync(p.GetValue(code)!, p.GetValue(revision), cancel), Facts);
            },
            code, revision, file);
    }

    private static Command Check()
    {
        var path = new Argument<string>("FILE");
        return Cli.Command(
            "check", "Check a guide file; needs no service", "revtal guide check guides/FJ14.yaml",
            (p, _, _) =>
            {
                var result = GuideYaml.Read(ReadFile(p.GetValue(path)!));
                Cli.Show(p, result.Problems, problems =>
                {
                    foreach (var problem in problems)
                    {
                        Screen.Line($"{p.GetValue(path)}:{problem.Line}: {problem.Message}");
                    }
                });
                return result.Guide is null
                    ? throw RefusedException.Invalid("guide-problems", $"{result.Problems.Count} {(result.Problems.Count == 1 ? "problem" : "problems")} in {p.GetValue(path)}.")
                    : Task.CompletedTask;
            },
            path);
    }

    private static Command Publish()
    {
        var path = new Argument<string>("FILE");
        return Cli.Command(
            "publish", "Publish a guide file as the next revision (leads)", "revtal guide publish guides/FJ14.yaml --as ines",
            async (p, client, cancel) => Cli.Show(
                p, await client.PublishGuideAsync(ReadFile(p.GetValue(path)!), cancel),
                done => Screen.Line($"{done.Code} revision {done.Revision} {(done.IsNew ? "published" : "is this file already")}")),
            path);
    }

    private static string ReadFile(string path)
    {
        try
        {
            return new FileInfo(path).Length > 4L * GuideYaml.Longest
                ? throw RefusedException.Invalid("guide-too-large", $"“{path}” is larger than 1 MB.")
                : File.ReadAllText(path);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw RefusedException.NotFound("file-unreadable", $"“{path}” cannot be read: {e.Message}");
        }
    }

    private static void Facts(GuideView view)
    {
        var (m, memory) = (view.Guide.Model, view.Guide.Memory);
        Screen.Marked($"[bold]{Screen.Safe($"{m.Maker} {m.Name}")}[/] [grey]{m.Code} revision {view.Revision}[/]  {m.Kind}{(m.Built is { } b ? $", {b}" : "")}");
        if (m.TellApart is { } tell)
        {
            Screen.Marked($"[grey]tell apart[/] {Screen.Safe(tell)}");
        }

        Screen.Marked($"[grey]memory[/]     {memory.Generation} {memory.Module}, {string.Join(", ", memory.Speeds)} MT/s, stated at most {memory.StatedMax}");
        Screen.Table(
            ["slot", "channel", "reports as", "at most", "what comes off first", "hands"],
            memory.Slots.Select(s => new[]
            {
                s.Id, s.Channel ?? "", Screen.Safe(s.ReportsAs), s.Max?.ToString() ?? "", Screen.Safe(string.Join(", ", Reach.To(view.Guide, [s.Id]).Select(r => r.Title))),
                Screen.Safe(s.Soldered ? "soldered" : string.Join(", ", new[] { s.Angle is { } a ? $"{a}°" : null, s.Latch, s.Notch }.OfType<string>())),
            }));
        Screen.Marked($"[grey]isolate[/]    {Screen.Safe(string.Join("; ", view.Guide.Isolate.Select(Isolation.Sentence)))}");
        foreach (var trap in view.Guide.Traps)
        {
            Screen.Marked($"[yellow]trap[/]       {Screen.Safe($"{trap.At} {trap.Text}")}");
        }
    }
}
