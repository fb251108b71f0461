using Microsoft.AspNetCore.Http.HttpResults;
using MimeKit;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Service.Http;
using Revtal.Service.People;
using Revtal.Storage;

namespace Revtal.Service.Outward;

/// <summary><c>/api/v1/session/mail</c>: where one's own notices are mailed to.</summary>
internal static class MailEndpoints
{
    public static IServiceCollection AddMail(this IServiceCollection services, MailOptions settings) =>
        services.AddSingleton(settings).AddSingleton<Mailer>().AddHostedService(s => s.GetRequiredService<Mailer>());

    public static void MapMail(this IEndpointRouteBuilder api) =>
        api.MapPut("/session/mail", PutAsync)
            .WithTags("session")
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("putMail")
            .WithSummary("Where notices that lie unread are mailed to, or that they are not");

    private static async Task<NoContent> PutAsync(
        MailRequest request,
        HttpContext context,
        MailOptions settings,
        NoticeStore notices,
        SignInStore store,
        TimeProvider clock
    )
    {
        var (person, now) = (Door.Need(context).Person.Id, clock.GetUtcNow());
        var mail = Words.Line("The address", request.Mail);
        if (mail is not null && settings.Host is null)
        {
            throw RefusedException.Rule("no-mail", "This shop sends no mail. Whoever runs the service sets it up.");
        }

        if (mail is not null && !(MailboxAddress.TryParse(mail, out var box) && box.Domain.Length > 0))
        {
            throw RefusedException.Invalid(
                "mail-address",
                $"“{mail}” is no mail address. Write one like mara@shop.example."
            );
        }

        await SignInDesk.OneByOneAsync(
            person,
            () =>
            {
                // What lay unread before is not sent after.
                notices.Mailed(person, long.MaxValue, now);
                var account = store.Account(person) ?? new AccountRow { Person = person };
                (account.Mail, account.MailFault) = (mail, null);
                store.Put(account);
                return Task.FromResult(account);
            }
        );
        store.Note(person, mail is null ? "mail-ended" : "mail-chosen", now, from: Door.From(context));
        return TypedResults.NoContent();
    }
}
