using Revtal.Storage;

namespace Revtal.Service.Orders;

/// <summary>Keeps what orders are found by up with the journal while nobody searches.</summary>
internal sealed class TraceClerk(TraceKeeper traces, Changes changes, TimeProvider clock, ILogger<TraceClerk> log)
    : BackgroundService
{
    private readonly Bell bell = new(clock, TimeSpan.FromSeconds(15));

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        changes.Recorded += Hear;
        try
        {
            while (!stoppingToken.IsCancellationRequested)
            {
                await bell.WaitAsync(stoppingToken);
                CatchUp();
            }
        }
        finally
        {
            changes.Recorded -= Hear;
        }
    }

    private void Hear(IReadOnlyList<Changed> recorded) => bell.Ring();

    private void CatchUp()
    {
        try
        {
            traces.CatchUp();
        }
        catch (Exception e)
        {
            // A store that cannot be written now may be written at the next look.
            log.LogWarning("What was recorded last is found by its number alone: {Reason}", e.Message);
        }
    }
}
