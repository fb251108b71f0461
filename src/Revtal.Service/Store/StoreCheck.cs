using Revtal.Contracts;
using Revtal.Storage;

namespace Revtal.Service.Store;

/// <summary>
/// Looks through the whole store beside the requests, one look at a time, and keeps how the newest went.
/// </summary>
internal sealed class StoreCheck(
    Verifier verifier,
    StoreTasks tasks,
    TimeProvider clock,
    IHostApplicationLifetime lifetime,
    ILogger<StoreCheck> log
)
{
    private const int MostTold = 100;
    private const string Ended = "The service that looked ended before it was through.";

    /// <summary>The newest look.</summary>
    public VerifyView Now =>
        tasks.Of<VerifyView>(StoreTask.Look, 1) is not [var look] ? new(null, null, null, 0, 0, 0, 0, 0, 0, [], null)
        : look.EndedAt is null && look.ToldAt < clock.GetUtcNow() - StoreTasks.Silence
            ? look.So with
            {
                EndedAt = look.ToldAt,
                Trouble = Ended,
            }
        : look.So;

    /// <summary>Begins a look; one that goes on already is not begun anew.</summary>
    public VerifyView Begin(string by)
    {
        var begun = new VerifyView(clock.GetUtcNow(), by, null, 0, 0, 0, 0, 0, 0, [], null);
        if (tasks.Begin(StoreTask.Look, begun, begun.BeganAt!.Value) is { } id)
        {
            _ = Task.Run(() => Look(id, begun));
        }

        return Now;
    }

    private void Look(string id, VerifyView begun)
    {
        using var task = new RunningTask<VerifyView>(tasks, id, begun, clock, log);
        string? trouble = null;
        try
        {
            var all = verifier.Run(
                fault =>
                {
                    log.LogWarning("The store: {Fault}", fault);
                    var so = task.So;
                    task.So = so with
                    {
                        Faults = so.Faults + 1,
                        First = so.First.Count < MostTold ? [.. so.First, fault] : so.First,
                    };
                },
                far => task.So = At(task.So, far),
                lifetime.ApplicationStopping
            );
            task.So = At(task.So, all);
        }
        catch (OperationCanceledException)
        {
            trouble = Ended;
        }
        catch (Exception e) when (StoreException.Of(e) is { } store)
        {
            trouble = store.Message;
        }
        catch (Exception e)
        {
            log.LogError(e, "The look through the store broke off");
            trouble = "It broke off: the service's log says why.";
        }

        task.End(task.So with { Trouble = trouble, EndedAt = clock.GetUtcNow() });
    }

    private static VerifyView At(VerifyView so, Verified far) =>
        so with
        {
            Orders = far.Orders,
            Of = far.Of,
            Entries = far.Entries,
            Pictures = far.Pictures,
            Captures = far.Captures,
        };
}
