using System.Text.Json.Nodes;
using Revtal.Contracts;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Every operation as every role, and as nobody: who is let in at all.</summary>
public sealed class RoleWalkTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    // As the shop wants it, not as the table has it.
    private static readonly HashSet<string> ForNobody =
    [
        "answerQuote",
        "readQuote",
        "getSession",
        "signIn",
        "signInToDemo",
        "signOut",
        "readSetUpLink",
        "useSetUpLink",
        "enrolTablet",
        "changeHands",
        "signInElsewhere",
        "readReport",
        "readReportPaper",
        "readProof",
        "getProofMark",
        "checkProof",
        "getKeys",
        "readDates",
    ];

    private static readonly HashSet<string> ForLeads =
    [
        "publishGuide",
        "publishSketch",
        "publishDraft",
        "importLibrary",
        "discardDraft",
        "acceptSuggestion",
        "declineSuggestion",
        "putPerson",
        "invitePerson",
        "endAccess",
        "listAudit",
        "makeBadge",
        "listTablets",
        "makeTablet",
        "dropTablet",
        "listWebhooks",
        "makeWebhook",
        "changeWebhook",
        "dropWebhook",
        "changeWebhookSecret",
        "tryWebhook",
        "listWebhookMessages",
        "resendWebhookMessages",
        "verifyStore",
        "getVerification",
        "getStore",
        "getHeads",
        "makeBackup",
        "fetchBackup",
        "turnKey",
    ];

    // Too much for a badge or a few digits.
    private static readonly HashSet<string> NotAtATablet =
    [
        "putPerson",
        "invitePerson",
        "endAccess",
        "makeBadge",
        "listTablets",
        "makeTablet",
        "dropTablet",
        "listWebhooks",
        "makeWebhook",
        "changeWebhook",
        "dropWebhook",
        "changeWebhookSecret",
        "tryWebhook",
        "turnKey",
        "listWebhookMessages",
        "resendWebhookMessages",
        "makeBackup",
        "fetchBackup",
        "putMail",
        "makeToken",
        "makeCalendar",
        "changePassword",
        "choosePin",
        "beginCodes",
        "confirmCodes",
        "endCodes",
    ];

    // A wall may leave.
    private static readonly HashSet<string> ForWallsToo = ["endSession"];

    [Fact]
    public async Task Whoever_may_not_is_told_so_and_whoever_may_is_let_in()
    {
        var service = fixture.Service;
        var ines = service.As("ines");
        await ines.PutPersonAsync("wall", new PersonRequest("Wall", Role.Wall));
        var link = (await ines.InvitePersonAsync("wall")).Link.Split('#')[1];
        var wall = (
            await service.As(null).UseSetUpAsync(link, new SetUpRequest(Staff.Password, TokenName: "wall"))
        ).Token!;
        var api = JsonNode.Parse(await File.ReadAllTextAsync(Repository.At("docs", "openapi.json")))!;
        var operations = api["paths"]!
            .AsObject()
            .SelectMany(path => path.Value!.AsObject().Select(m => (Path: path.Key, Method: m.Key, Said: m.Value!)))
            .Select(o => (Path: Filled(o.Path, o.Said), o.Method, Name: (string)o.Said["operationId"]!))
            .ToList();
        Assert.Equal(WhoMayWhat.Operations.Order(), operations.Select(o => o.Name).Order());
        var wrong = new List<string>();
        foreach (var (path, method, name) in operations)
        {
            foreach (var role in new Role?[] { null, Role.Wall, Role.Desk, Role.Technician, Role.Lead })
            {
                var token = role switch
                {
                    null => "revtal-of-nobody",
                    Role.Wall => wall,
                    Role.Desk => service.Token("sanne"),
                    Role.Technician => service.Token("mara"),
                    _ => service.Token("ines"),
                };
                // Who signs out is gone for the rest of the walk.
                var refused = await AskAsync(path, method, name == "signOut" ? "revtal-of-nobody" : token);
                var wanted =
                    ForNobody.Contains(name) ? null
                    : role is null ? "not-signed-in"
                    : ForLeads.Contains(name) && role != Role.Lead ? "lead-"
                    : role == Role.Wall && method != "get" && !ForWallsToo.Contains(name) ? "wall-looks"
                    : null;
                if (
                    wanted is null
                        ? IsOfTheDoor(refused)
                        : refused?.StartsWith(wanted, StringComparison.Ordinal) != true
                )
                {
                    wrong.Add(
                        $"{name} as {role?.ToString() ?? "nobody"}: {refused ?? "let in"}, not {wanted ?? "let in"}"
                    );
                }
            }
        }

        Assert.Empty(wrong);
    }

    [Fact]
    public void What_is_about_people_and_secrets_is_not_done_at_a_bench_tablet() =>
        Assert.Equal(NotAtATablet.Order(), WhoMayWhat.Operations.Where(o => !MayAtATablet(WhoMayWhat.Of(o))).Order());

    private static bool MayAtATablet(Right right)
    {
        try
        {
            right.Need(Role.Lead, SessionKind.Tablet);
            return true;
        }
        catch (Core.RefusedException)
        {
            return false;
        }
    }

    private static bool IsOfTheDoor(string? code) =>
        code is "not-signed-in" or "wall-looks" || code?.StartsWith("lead-", StringComparison.Ordinal) == true;

    // By what is not there.
    private static string Filled(string path, JsonNode said) =>
        (said["parameters"]?.AsArray() ?? [])
            .Where(p => (string?)p!["in"] == "path")
            .Aggregate(
                path,
                (filled, p) =>
                    filled.Replace(
                        $"{{{p!["name"]}}}",
                        p["schema"]!["type"]!.ToJsonString().Contains("integer", StringComparison.Ordinal)
                            ? "9999"
                            : "nothing",
                        StringComparison.Ordinal
                    )
            );

    // With nothing in it: who is let in is told what is wrong with that, or that there is nothing so called.
    private async Task<string?> AskAsync(string path, string method, string token)
    {
        using var request = new HttpRequestMessage(new HttpMethod(method), path.TrimStart('/'));
        request.Headers.Authorization = new("Bearer", token);
        using var cancel = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        using var answer = await fixture.Service.Http.SendAsync(
            request,
            HttpCompletionOption.ResponseHeadersRead,
            cancel.Token
        );
        if (answer.IsSuccessStatusCode || (int)answer.StatusCode is not (401 or 403))
        {
            return null;
        }

        return (string?)JsonNode.Parse(await answer.Content.ReadAsStringAsync(cancel.Token))!["code"];
    }
}
