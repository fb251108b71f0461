using System.Globalization;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.RateLimiting;
using Revtal.Service.People;

namespace Revtal.Service.Http;

/// <summary>
/// How much one sign-in may ask, and how much that is large is taken in at once. Over it stands 429 with a time: what
/// is within it is never slower for that.
/// </summary>
internal static class Rates
{
    /// <summary>Requests a second of one sign-in, if no setting says otherwise.</summary>
    public const int Usual = 100;

    // Seconds' worth that may come at once: a page that opens, a screen that comes back.
    private const int Burst = 10,
        OfNobody = 20;

    // Captures, pictures, tables: each unfolds to a multiple of itself.
    private const int LargeAtOnce = 8,
        LargeWaiting = 32;

    /// <param name="aSecond">Of one sign-in; 0 for any.</param>
    public static IServiceCollection AddRates(this IServiceCollection services, int aSecond) =>
        services.AddRateLimiter(o =>
        {
            o.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            o.OnRejected = Refuse;
            o.GlobalLimiter = PartitionedRateLimiter.CreateChained(
                PartitionedRateLimiter.Create<HttpContext, string>(context => ByWho(context, aSecond)),
                PartitionedRateLimiter.Create<HttpContext, string>(BySize)
            );
        });

    /// <summary>How often one address may try what could be guessed.</summary>
    /// <param name="policy">What endpoints call it by.</param>
    public static IServiceCollection AddTries(this IServiceCollection services, string policy, int aMinute) =>
        services.AddRateLimiter(o =>
            o.AddPolicy(
                policy,
                context =>
                    RateLimitPartition.GetFixedWindowLimiter(
                        AddressOf(context),
                        _ => new FixedWindowRateLimiterOptions
                        {
                            PermitLimit = aMinute,
                            Window = TimeSpan.FromMinutes(1),
                        }
                    )
            )
        );

    private static RateLimitPartition<string> ByWho(HttpContext context, int aSecond)
    {
        if (context.GetEndpoint()?.Metadata.GetMetadata<Core.Orders.Right>() is null)
        {
            return RateLimitPartition.GetNoLimiter("");
        }

        return Door.Of(context) is not { } who ? Bucket(AddressOf(context), OfNobody)
            : aSecond == 0 ? RateLimitPartition.GetNoLimiter("")
            : Bucket(who.Session.Id, aSecond);
    }

    private static RateLimitPartition<string> Bucket(string who, int aSecond) =>
        RateLimitPartition.GetTokenBucketLimiter(
            who,
            _ => new TokenBucketRateLimiterOptions
            {
                TokenLimit = aSecond * Burst,
                TokensPerPeriod = aSecond,
                ReplenishmentPeriod = TimeSpan.FromSeconds(1),
            }
        );

    private static RateLimitPartition<string> BySize(HttpContext context) =>
        context.GetEndpoint()?.Metadata.GetMetadata<IRequestSizeLimitMetadata>() is null
            ? RateLimitPartition.GetNoLimiter("")
            : RateLimitPartition.GetConcurrencyLimiter(
                "large",
                _ => new ConcurrencyLimiterOptions { PermitLimit = LargeAtOnce, QueueLimit = LargeWaiting }
            );

    private static ValueTask Refuse(OnRejectedContext context, CancellationToken cancel)
    {
        var wait = context.Lease.TryGetMetadata(MetadataName.RetryAfter, out var after) ? after.TotalSeconds : 1;
        context.HttpContext.Response.Headers.RetryAfter = Math.Ceiling(wait).ToString(CultureInfo.InvariantCulture);
        return ValueTask.CompletedTask;
    }

    private static string AddressOf(HttpContext context) => context.Connection.RemoteIpAddress?.ToString() ?? "";
}
