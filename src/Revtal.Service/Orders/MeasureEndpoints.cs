using System.Text;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Revtal.Core.Checks;
using Revtal.Core.Orders;
using Revtal.Documents;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>Scores, the swap test and the watch.</summary>
public static class MeasureEndpoints
{
    public static void MapMeasuring(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}").WithTags("measuring");
        order
            .MapGet("/scores", ScoresAsync)
            .WithName("getScores")
            .WithSummary("Benchmarks and load, before and after, and where this machine stands among its like");
        order
            .MapPost(
                "/scores",
                (int number, ScoresRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TakeScores,
                        request,
                        sender,
                        (o, _) => MeasureRules.TakeScores(o, request.Phase, request.Scores ?? [], request.Note),
                        cancel
                    )
            )
            .WithName("takeScores")
            .WithSummary("Write down what a benchmark said");
        order
            .MapPost(
                "/trial/ask",
                (int number, TrialAskRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.AskTrial,
                        request,
                        sender,
                        (_, _) => TrialRules.Ask(request.Work, request.Minutes),
                        cancel
                    )
            )
            .WithName("askTrial")
            .WithSummary("The customer's own kind of work is to be tried after the upgrade, or no longer");
        order
            .MapPost(
                "/trial",
                (int number, TrialRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.RunTrial,
                        request,
                        sender,
                        (o, _) =>
                            TrialRules.Run(
                                o,
                                request.Work,
                                request.Minutes,
                                request.Displays,
                                request.Outcome,
                                request.Note
                            ),
                        cancel
                    )
            )
            .WithName("runTrial")
            .WithSummary("The customer's own kind of work was run: for how long, and what came of it");
        order
            .MapPost(
                "/scores/file",
                async (
                    int number,
                    Word<Phase> phase,
                    HttpRequest request,
                    Sender sender,
                    OrderDesk desk,
                    CancellationToken cancel
                ) =>
                {
                    var at = phase.Value;
                    using var reader = new StreamReader(request.Body, Encoding.UTF8);
                    var text = await reader.ReadToEndAsync(cancel);
                    return await desk.RecordAsync(
                        number,
                        OrderAct.TakeScores,
                        new { at, text },
                        sender,
                        (o, _) => MeasureRules.TakeScores(o, at, ScoreFiles.Read(text), null),
                        cancel
                    );
                }
            )
            .Accepts<string>("text/plain")
            .WithName("takeScoresFile")
            .WithSummary("Scores from a CSV or JSON file: name, unit, value, better (higher or lower)");

        order
            .MapPost(
                "/swap-test",
                (int number, SwapBeginRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.BeginSwapTest,
                        request,
                        sender,
                        (o, g) => SwapRules.BeginSwapTest(o, g, request.Shown?.Outcome),
                        cancel
                    )
            )
            .WithName("beginSwapTest")
            .WithSummary("Begin the search for what is at fault");
        order
            .MapPost(
                "/swap-test/tries",
                (int number, SwapTryRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.TrySwap,
                        request,
                        sender,
                        (o, g) =>
                            SwapRules.Try(
                                o,
                                g,
                                request.Places,
                                request.Shown.Outcome,
                                request.Isolated,
                                request.Defaults,
                                request.Back,
                                request.Explanation
                            ),
                        cancel
                    )
            )
            .WithName("trySwap")
            .WithSummary("Tell what an arrangement showed");
        order
            .MapPost(
                "/swap-test/end",
                (int number, SwapEndRequest request, Sender sender, OrderDesk desk, CancellationToken cancel) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.EndSwapTest,
                        request,
                        sender,
                        (o, g) => SwapRules.EndSwapTest(o, g, request.Reason, request.Back, request.Explanation),
                        cancel
                    )
            )
            .WithName("endSwapTest")
            .WithSummary("End it: with its conclusion, or given up with a reason");

        order
            .MapPost(
                "/watch",
                (
                    int number,
                    WatchRequest request,
                    Sender sender,
                    OrderDesk desk,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.BeginWatch,
                        request,
                        sender,
                        (o, _) =>
                            WatchRules.BeginWatch(
                                o,
                                request.For,
                                clock.GetUtcNow(),
                                clock.GetUtcNow().AddDays(Math.Clamp(request.Days, -1, 10_000)),
                                request.EveryDays
                            ),
                        cancel
                    )
            )
            .WithName("beginWatch")
            .WithSummary("Watch whether the fault comes back");
        order
            .MapPost(
                "/watch/notes",
                (
                    int number,
                    WatchNoteRequest request,
                    Sender sender,
                    OrderDesk desk,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.NoteWatch,
                        request,
                        sender,
                        (o, _) => WatchRules.NoteWatch(o, request.Sign, request.On, clock.GetUtcNow(), request.Text),
                        cancel
                    )
            )
            .WithName("noteWatch")
            .WithSummary("Note what was seen on a day");
        order
            .MapPost(
                "/watch/end",
                (
                    int number,
                    WatchEndRequest request,
                    Sender sender,
                    OrderDesk desk,
                    TimeProvider clock,
                    CancellationToken cancel
                ) =>
                    desk.RecordAsync(
                        number,
                        OrderAct.EndWatch,
                        request,
                        sender,
                        (o, _) =>
                            WatchRules.EndWatch(
                                o,
                                sender.Person.Role,
                                request.Outcome,
                                clock.GetUtcNow(),
                                request.Text
                            ),
                        cancel
                    )
            )
            .WithName("endWatch")
            .WithSummary("End the watch");
    }

    private static async Task<ScoresView> ScoresAsync(
        int number,
        OrderShelf shelf,
        Journal journal,
        CancellationToken cancel
    )
    {
        var order = (await shelf.LoadAsync(number, cancel)).Order;
        var (before, after) = (order.Scores(Phase.Before), order.Scores(Phase.After));
        var others = before.Count + after.Count == 0 ? [] : await journal.ScoresAsync(order.Model, number, cancel);
        return new ScoresView(
            ScoreLine.Of(before, after, others.ToLookup(s => (s.Name, s.Unit), s => s.Value)),
            LoadChange.Of(order.Before?.Value, order.After?.Value),
            [.. order.Loads.Select(l => new WatchedView(l, l.Series.Peaks, order.InstalledAt(l.Phase)))],
            [.. order.ScoresTold.Select(t => new ScoreTake(t.Phase, t.Scores, t.Note))]
        );
    }
}
