using Microsoft.Extensions.Options;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Revtal.Documents.Papers;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>Whether somebody is asked for a one-time code beside the password.</summary>
internal sealed class CodeDesk(SignInStore store, SignInDesk desk, IOptions<ShopOptions> shop, TimeProvider clock)
{
    /// <summary>Makes what makes the codes; nothing is asked for until one has been proved.</summary>
    /// <exception cref="RefusedException">There is no password, or codes are asked for already.</exception>
    public async Task<CodesBegun> BeginAsync(Person person, ProofRequest request, string? from)
    {
        Need(person, asked: false);
        await desk.ProveAgainAsync(person, request.Password, from);
        return await ChangeAsync(
            person,
            account =>
            {
                (account.CodeKey, account.LastStep) = (OneTimeCodes.NewKey(), 0);
                var address = OneTimeCodes.Address(shop.Value.Name, person.Id, account.CodeKey);
                return new CodesBegun(account.CodeKey, address, QrPicture.Png(address));
            }
        );
    }

    /// <summary>A first code shows that they can be made; from now on one is asked for.</summary>
    /// <returns>Those for paper.</returns>
    /// <exception cref="RefusedException">Nothing was begun, or the code is not the one of now.</exception>
    public async Task<CodesOnPaper> ConfirmAsync(Person person, CodeRequest request, string? from)
    {
        Need(person, asked: false);
        var paper = await ChangeAsync(
            person,
            account =>
            {
                if (!OneTimeCodes.TakesMade(account, request.Code, clock.GetUtcNow()))
                {
                    throw RefusedException.Rule(
                        "wrong-code",
                        "This is not the code of now. See whether the clock of what makes it is right, and begin "
                            + "again if it has another key."
                    );
                }

                account.AsksCode = true;
                return new CodesOnPaper(OneTimeCodes.NewPaper(account));
            }
        );
        store.Note(person.Id, "codes-begun", clock.GetUtcNow(), from: from);
        return paper;
    }

    /// <summary>None is asked for any more.</summary>
    /// <exception cref="RefusedException">None was asked for.</exception>
    public async Task EndAsync(Person person, ProofRequest request, string? from)
    {
        Need(person, asked: true);
        await desk.ProveAgainAsync(person, request.Password, from);
        await ChangeAsync(
            person,
            account =>
            {
                (account.AsksCode, account.CodeKey, account.Recovery) = (false, null, null);
                return account;
            }
        );
        store.Note(person.Id, "codes-ended", clock.GetUtcNow(), from: from);
    }

    private Task<T> ChangeAsync<T>(Person person, Func<AccountRow, T> change) =>
        SignInDesk.OneByOneAsync(
            person.Id,
            () =>
            {
                var account = store.Account(person.Id)!;
                var done = change(account);
                store.Put(account);
                return Task.FromResult(done);
            }
        );

    private void Need(Person person, bool asked)
    {
        if (store.Account(person.Id) is not { Password: not null } account)
        {
            throw RefusedException.Rule("no-password", "You have no password here, so no code beside it.");
        }

        if (account.AsksCode != asked)
        {
            throw RefusedException.Rule(
                asked ? "no-codes" : "codes-asked",
                asked ? "No code is asked for." : "Codes are asked for already. End that first."
            );
        }
    }
}
