using Microsoft.AspNetCore.Identity;
using Revtal.Service.Http;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>Who comes in.</summary>
internal static class PeopleServices
{
    private const int TriesAMinute = 60,
        WrongInARow = 10;

    // OWASP's figure for PBKDF2 with HMAC-SHA-512.
    private const int Iterations = 210_000;

    public static IServiceCollection AddSignIn(this IServiceCollection services, bool isDemo)
    {
        services.AddSingleton(new DemoSignIn(isDemo)).AddScoped<SignInDesk>().AddScoped<TabletDesk>();
        services.AddScoped<CodeDesk>().AddScoped<SessionViews>();
        services
            .AddIdentityCore<AccountRow>(o =>
            {
                // The length is proved with the rest, before: no kinds of characters are asked for.
                o.Password.RequiredLength = 1;
                o.Password.RequireDigit = o.Password.RequireLowercase = o.Password.RequireUppercase = false;
                o.Password.RequireNonAlphanumeric = false;
                o.Lockout.MaxFailedAccessAttempts = WrongInARow;
                o.Lockout.DefaultLockoutTimeSpan = TimeSpan.FromMinutes(5);
            })
            .AddUserStore<AccountStore>();
        services.Configure<PasswordHasherOptions>(o => o.IterationCount = Iterations);
        return services.AddTries(SessionEndpoints.Tries, TriesAMinute);
    }
}
