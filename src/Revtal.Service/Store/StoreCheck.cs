using Revtal.Contracts;
using Revtal.Core;
using Revtal.Storage;

namespace Revtal.Service.Store;

/// <summary>
/// Looks through the whole store beside the requests, one look at a time, and keeps how the newest went.
/// </summary>
internal sealed class StoreCheck(
    Verifier verifier,
    TimeProvider clock,
    IHostApplicationLifetime lifetime,
    ILogger<StoreCheck> log
)
{
    private const int MostTold = 100;

    private readonly Lock looking = new();
    private VerifyView now = new(null, null, null, 0, 0, 0, 0, 0, 0, [], null);

    public VerifyView Now
    {
        get
        {
            lock (looking)
            {
                return now;
            }
        }
    }

    /// <summary>Begins a look; one that goes on already is not begun anew.</summary>
    public VerifyView Begin(string by)
    {
        lock (looking)
        {
            if (now is not { BeganAt: not null, EndedAt: null })
            {
                now = new(clock.GetUtcNow(), by, null, 0, 0, 0, 0, 0, 0, [], null);
                _ = Task.Run(Look);
            }

            return now;
        }
    }

    private void Look()
    {
        try
        {
            Tell(verifier.Run(Find, Tell, lifetime.ApplicationStopping));
            End(null);
        }
        catch (Exception e) when (StoreException.Of(e) is { } store)
        {
            End(store.Message);
        }
        catch (Exception e)
        {
            log.LogError(e, "The look through the store broke off");
            End("It broke off: the service's log says why.");
        }
    }

    private void Tell(Verified so) =>
        Change(v =>
            v with
            {
                Orders = so.Orders,
                Of = so.Of,
                Entries = so.Entries,
                Pictures = so.Pictures,
                Captures = so.Captures,
            }
        );

    private void Find(StoreFault fault)
    {
        log.LogWarning("The store: {Fault}", fault);
        Change(v => v with { Faults = v.Faults + 1, First = v.First.Count < MostTold ? [.. v.First, fault] : v.First });
    }

    private void End(string? trouble) => Change(v => v with { EndedAt = clock.GetUtcNow(), Trouble = trouble });

    private void Change(Func<VerifyView, VerifyView> change)
    {
        lock (looking)
        {
            now = change(now);
        }
    }
}
