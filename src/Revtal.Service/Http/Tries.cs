using System.Threading.RateLimiting;

namespace Revtal.Service.Http;

/// <summary>How often one address may try what could be guessed.</summary>
internal static class Tries
{
    /// <param name="policy">What endpoints call it by.</param>
    public static IServiceCollection AddTries(this IServiceCollection services, string policy, int aMinute) =>
        services.AddRateLimiter(o =>
        {
            o.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            o.AddPolicy(
                policy,
                context =>
                    RateLimitPartition.GetFixedWindowLimiter(
                        context.Connection.RemoteIpAddress?.ToString() ?? "",
                        _ => new FixedWindowRateLimiterOptions
                        {
                            PermitLimit = aMinute,
                            Window = TimeSpan.FromMinutes(1),
                        }
                    )
            );
        });
}
