using Revtal.Client;
using Revtal.CommandLine.Commands;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Screens;

/// <summary>
/// The run in a terminal: one step at a time, asked and confirmed. What is confirmed is kept, so it can be left and
/// taken up again.
/// </summary>
internal static class RunWalk
{
    private const string Keys =
        "Enter: done · n TEXT: note · s REASON: skip · i REASON: impossible · o HOW: done otherwise · ?: stuck · q: "
        + "leave";

    public static async Task GoAsync(RevtalClient client, int number, CancellationToken cancel)
    {
        while (true)
        {
            var order = await client.OrderAsync(number, cancel);
            var run = RunCommands.NeedRun(order);
            if (order.HandOver is { } over)
            {
                if (!await HeardAsync(client, order.Number, over, cancel))
                {
                    return;
                }

                continue;
            }

            if (run.NextStep is not { } id)
            {
                Screen.Marked(
                    "All steps are done. "
                        + Phrases.When(order.Next.Text.Length > 0, $"[yellow]Next:[/] {Screen.Safe(order.Next.Text)}")
                );
                return;
            }

            var step = run.Steps.First(s => s.Step.Id == id).Step;
            RunScreen.Step(step, run, run.Steps.ToList().FindIndex(s => s.Step.Id == id));
            if (!await AskAsync(client, number, step, run, cancel))
            {
                Screen.Line($"Left at {step.Id}. Go on with: revtal run work {number}");
                return;
            }
        }
    }

    // What was handed over in words is read before anything else.
    private static async Task<bool> HeardAsync(RevtalClient client, int number, HandOver over, CancellationToken cancel)
    {
        Screen.Marked($"[yellow]{Screen.Safe(over.By)} says:[/] {Screen.Safe(over.Word)}");
        Screen.Marked("[grey]Enter: I have read it · q: leave[/]");
        if (Read("> ") is not { } line || line.Trim() == "q")
        {
            return false;
        }

        await client.ReadHandOverAsync(number, cancel);
        return true;
    }

    // True once something was confirmed or told; false to leave.
    private static async Task<bool> AskAsync(
        RevtalClient client,
        int number,
        RunStep step,
        RunView run,
        CancellationToken cancel
    )
    {
        var told = new ConfirmRequest();
        while (true)
        {
            Screen.Marked($"[grey]{Keys}[/]");
            if (Read("> ") is not { } line || line.Trim() == "q")
            {
                return false;
            }

            var (key, rest) = line.Split(' ', 2) is [var k, var r] ? (k, r.Trim()) : (line.Trim(), null);
            try
            {
                switch (key)
                {
                    case "?":
                        RunScreen.Stuck(step.Stuck);
                        continue;
                    case "n" when rest is not null:
                        await client.NoteAsync(number, new NoteRequest(rest, step.Id), cancel: cancel);
                        continue;
                    case "i" when rest is not null:
                        await client.BlockAsync(number, step.Id, new ReasonRequest(rest), cancel);
                        return false;
                    case "s" when rest is not null:
                        await client.ConfirmAsync(
                            number,
                            step.Id,
                            new ConfirmRequest(Explanation: rest, Deviation: Deviation.Skipped),
                            cancel: cancel
                        );
                        return true;
                    case "" or "o":
                        told = Ask(
                            step,
                            run,
                            told with
                            {
                                Explanation = rest ?? told.Explanation,
                                Deviation = key == "o" ? Deviation.Otherwise : told.Deviation,
                            }
                        );
                        await client.ConfirmAsync(number, step.Id, told, cancel: cancel);
                        return true;
                    default:
                        Screen.Complain($"“{line}” is not understood.");
                        continue;
                }
            }
            catch (ProblemException e) when (e.Status != System.Net.HttpStatusCode.Unauthorized)
            {
                Screen.Complain(e.Message);
                if (
                    RefusalAnswers.To(e.Code).Contains(RefusalAnswer.Explanation)
                    && Read("why (Enter counts again): ") is { Length: > 0 } why
                )
                {
                    told = told with { Explanation = why };
                }
            }
            catch (RefusedException e)
            {
                Screen.Complain(e.Message);
            }
        }
    }

    // Only a number that was typed is a count.
    private static int Count(string asks)
    {
        for (var most = 0; most < 3; most++)
        {
            if (int.TryParse(Read(asks), out var counted))
            {
                return counted;
            }

            Screen.Complain("Type how many there are.");
        }

        throw RefusedException.Invalid("count-missing", "Nothing was counted.");
    }

    private static ConfirmRequest Ask(RunStep step, RunView run, ConfirmRequest told)
    {
        if (step.LooseFasteners > 0)
        {
            var groups = step.Fasteners.Where(f => !f.Captive).ToArray();
            told = told with
            {
                Groups = groups.ToDictionary(
                    g => g.Group,
                    g => Count($"{g.Group}{Phrases.When(g.Length, mm => $" {mm} mm")}, {g.Count} by the guide: ")
                ),
            };
        }

        if (step.Records.Count > 0 && step.Id != StepId.RecordModules)
        {
            var was = run
                .Steps.SelectMany(s => s.Done?.Occupants ?? new Dictionary<string, string>())
                .GroupBy(o => o.Key)
                .ToDictionary(g => g.Key, g => g.First().Value);
            told = told with
            {
                Occupants = step.Records.ToDictionary(
                    p => p,
                    p =>
                        Read($"{p}{Phrases.When(was.TryGetValue(p, out var w), $" (was {w})")}: ")
                            is { Length: > 0 } text
                            ? text
                            : "empty"
                ),
            };
        }

        return step.Part == RunPart.Measure && MemorySize.TryParse(Read("the firmware shows: "), out var seen)
            ? told with
            {
                Seen = seen,
            }
            : told;
    }

    private static string? Read(string prompt)
    {
        Console.Write(prompt);
        return Console.ReadLine();
    }
}
