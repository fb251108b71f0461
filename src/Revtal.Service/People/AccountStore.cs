using Microsoft.AspNetCore.Identity;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>Accounts as ASP.NET Core Identity wants them; an account is known by the person's id.</summary>
internal sealed class AccountStore(SignInStore store) : IUserPasswordStore<AccountRow>, IUserLockoutStore<AccountRow>
{
    public void Dispose()
    {
        // The connections are the shop's.
    }

    public Task<IdentityResult> CreateAsync(AccountRow user, CancellationToken cancellationToken) => Kept(user);

    public Task<IdentityResult> UpdateAsync(AccountRow user, CancellationToken cancellationToken) => Kept(user);

    public Task<IdentityResult> DeleteAsync(AccountRow user, CancellationToken cancellationToken)
    {
        user.Password = null;
        return Kept(user);
    }

    public Task<AccountRow?> FindByIdAsync(string userId, CancellationToken cancellationToken) =>
        Task.FromResult(store.Account(userId));

    public Task<AccountRow?> FindByNameAsync(string normalizedUserName, CancellationToken cancellationToken) =>
        FindByIdAsync(normalizedUserName, cancellationToken);

    public Task<string> GetUserIdAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult(user.Person);

    public Task<string?> GetUserNameAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult<string?>(user.Person);

    public Task<string?> GetNormalizedUserNameAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult<string?>(user.Person);

    // An id never changes.
    public Task SetUserNameAsync(AccountRow user, string? userName, CancellationToken cancellationToken) =>
        Task.CompletedTask;

    public Task SetNormalizedUserNameAsync(
        AccountRow user,
        string? normalizedName,
        CancellationToken cancellationToken
    ) => Task.CompletedTask;

    public Task<string?> GetPasswordHashAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult(user.Password);

    public Task<bool> HasPasswordAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult(user.Password is not null);

    public Task SetPasswordHashAsync(AccountRow user, string? passwordHash, CancellationToken cancellationToken)
    {
        user.Password = passwordHash;
        return Task.CompletedTask;
    }

    public Task<int> GetAccessFailedCountAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult(user.Failed);

    public Task<int> IncrementAccessFailedCountAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult(++user.Failed);

    public Task ResetAccessFailedCountAsync(AccountRow user, CancellationToken cancellationToken)
    {
        user.Failed = 0;
        return Task.CompletedTask;
    }

    public Task<bool> GetLockoutEnabledAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult(true);

    public Task SetLockoutEnabledAsync(AccountRow user, bool enabled, CancellationToken cancellationToken) =>
        Task.CompletedTask;

    public Task<DateTimeOffset?> GetLockoutEndDateAsync(AccountRow user, CancellationToken cancellationToken) =>
        Task.FromResult<DateTimeOffset?>(
            user.LockedUntil is { } until ? DateTimeOffset.FromUnixTimeMilliseconds(until) : null
        );

    public Task SetLockoutEndDateAsync(AccountRow user, DateTimeOffset? lockoutEnd, CancellationToken cancellationToken)
    {
        user.LockedUntil = lockoutEnd?.ToUnixTimeMilliseconds();
        return Task.CompletedTask;
    }

    private Task<IdentityResult> Kept(AccountRow user)
    {
        store.Put(user);
        return Task.FromResult(IdentityResult.Success);
    }
}
