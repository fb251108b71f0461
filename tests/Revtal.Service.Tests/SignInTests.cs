using System.Net;
using System.Net.Http.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>How people come in, and what opens no longer.</summary>
public sealed class SignInTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly ServiceProcess service = fixture.Service;

    [Fact]
    public async Task A_new_shop_is_opened_once_by_the_link_in_the_log_also_by_many_at_once()
    {
        var folder = Directory.CreateTempSubdirectory("revtal-first-").FullName;
        await using (var empty = await ServiceProcess.StartAsync(folder, tokens: new Dictionary<string, string>()))
        {
            var anybody = empty.As(null);
            Assert.True((await anybody.SessionAsync()).WantsSetUp);
            Assert.Equal((401, "not-signed-in"), await Story.Refused(anybody.BoardAsync()));
            Assert.Null((await anybody.ReadSetUpAsync(empty.SetUpLink)).Person);
            Assert.Equal((404, "no-such-link"), await Story.Refused(anybody.ReadSetUpAsync(new string('0', 64))));
            var answers = await Task.WhenAll(
                Enumerable
                    .Range(0, 12)
                    .Select(i =>
                        empty.Http.PostAsJsonAsync(
                            $"api/v1/session/set-up/{empty.SetUpLink}",
                            new
                            {
                                id = $"lead{i}",
                                name = $"Lead {i}",
                                password = Staff.Password,
                                tokenName = "first",
                            }
                        )
                    )
            );
            var first = Assert.Single(answers, a => a.IsSuccessStatusCode);
            var token = (await first.Content.ReadFromJsonAsync<SignedInView>(RevtalJson.Options))!.Token;
            var lead = new RevtalClient(empty.Http, token);
            Assert.Equal(Role.Lead, Assert.Single((await lead.ShopAsync()).People).Role);
            Assert.False((await anybody.SessionAsync()).WantsSetUp);
            Assert.Equal((404, "no-such-link"), await Story.Refused(anybody.ReadSetUpAsync(empty.SetUpLink)));
        }

        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_lead_invites_and_the_invited_choose_a_password_of_their_own()
    {
        var ines = service.As("ines");
        await ines.PutPersonAsync("juno", new PersonRequest("Juno Aal", Role.Technician));
        var replaced = Code((await ines.InvitePersonAsync("juno")).Link);
        var link = Code((await ines.InvitePersonAsync("juno")).Link);
        Assert.Equal((404, "no-such-link"), await Story.Refused(Use(replaced, Staff.Password)));
        Assert.Equal("Juno Aal", (await service.As(null).ReadSetUpAsync(link)).Person!.Name);
        foreach (
            var (password, code) in new[]
            {
                ("short", "password-short"),
                ("passwordpassword1", "password-common"),
                ("qwertyuiopasdfgh", "password-common"),
                ("abababababababababab", "password-common"),
                ("Juno Aal Juno Aal 1", "password-common"),
                ("1234567890123456", "password-common"),
                (new string('x', 201), "password-long"),
            }
        )
        {
            Assert.Equal((422, code), await Story.Refused(Use(link, password)));
        }

        var juno = new RevtalClient(service.Http, (await Use(link, "vier wörter ohne sinn")).Token);
        Assert.Equal("juno", (await juno.SessionAsync()).Person!.Id);
        Assert.Equal((404, "no-such-link"), await Story.Refused(Use(link, Staff.Password)));
        Assert.Equal((401, "wrong-password"), await Story.Refused(SignIn("juno", Staff.Password)));
        Assert.Equal("juno", (await SignIn("juno", "vier wörter ohne sinn")).Person.Id);

        using var cancel = new CancellationTokenSource(TimeSpan.FromSeconds(30));
        var listens = Task.Run(async () =>
        {
            await foreach (var _ in juno.ChangesAsync(cancel: cancel.Token)) { }
        });

        // Whoever gets a new link is signed out everywhere once it is used.
        await Use(Code((await ines.InvitePersonAsync("juno")).Link), "another four of them");
        Assert.Null((await juno.SessionAsync()).Person);
        await listens;
        await ines.EndAccessAsync("juno");
        Assert.Equal((401, "wrong-password"), await Story.Refused(SignIn("juno", "another four of them")));
        Assert.Equal((409, "own-access"), await Story.Refused(ines.EndAccessAsync("ines")));
        Assert.Equal(
            ["access-ended", "password-set", "person-invited"],
            (await ines.AuditAsync())
                .Items.Where(l => l.What is not "sign-in-failed" && (l.About ?? l.By) == "juno")
                .Select(l => l.What)
                .Distinct()
                .Take(3)
        );

        Task<SignedInView> Use(string link, string password) =>
            service.As(null).UseSetUpAsync(link, new SetUpRequest(password, TokenName: "tests"));
    }

    [Fact]
    public async Task Ten_wrong_passwords_lock_a_person_out_also_when_they_come_at_once()
    {
        var ines = service.As("ines");
        await ines.PutPersonAsync("pell", new PersonRequest("Pell Ostrem", Role.Technician));
        var link = Code((await ines.InvitePersonAsync("pell")).Link);
        await service.As(null).UseSetUpAsync(link, new SetUpRequest(Staff.Password, TokenName: "tests"));
        await Task.WhenAll(Enumerable.Range(0, 9).Select(i => Story.Refused(SignIn("pell", $"wrong {i}"))));
        await SignIn("pell", Staff.Password);
        await Task.WhenAll(Enumerable.Range(0, 10).Select(i => Story.Refused(SignIn("pell", $"wrong {i}"))));
        Assert.Equal((409, "locked-out"), await Story.Refused(SignIn("pell", Staff.Password)));
        Assert.Contains((await ines.AuditAsync()).Items, l => l is { By: "pell", What: "locked-out" });
    }

    [Fact]
    public async Task A_token_looks_only_where_it_was_made_to_and_ends_where_its_owner_says()
    {
        var mara = service.As("mara");
        var made = await mara.MakeTokenAsync(new TokenRequest("book-keeping", Days: 1, Looks: true));
        var looks = new RevtalClient(service.Http, made.Token);
        Assert.NotEmpty((await looks.ShopAsync()).People);
        Assert.Equal((403, "token-looks"), await Story.Refused(looks.TakeInAsync(Story.TakeIn)));
        Assert.Equal((403, "token-looks"), await Story.Refused(looks.MakeTokenAsync(new TokenRequest("more"))));
        Assert.Equal((422, "token-days"), await Story.Refused(mara.MakeTokenAsync(new TokenRequest("x", Days: 366))));

        // Whose it is not sees it not; a lead does.
        Assert.DoesNotContain((await service.As("tobi").SessionsAsync()), s => s.Session.Id == made.Session.Id);
        Assert.Equal(
            (404, "no-such-session"),
            await Story.Refused(service.As("tobi").EndSessionAsync(made.Session.Id))
        );
        Assert.Contains((await service.As("ines").SessionsAsync()), s => s.Session.Id == made.Session.Id);
        await mara.EndSessionAsync(made.Session.Id);
        Assert.Equal((401, "not-signed-in"), await Story.Refused(looks.ShopAsync()));
    }

    [Fact]
    public async Task A_browser_s_cookie_is_kept_to_its_host_and_sent_from_its_own_pages_only()
    {
        using var handler = new HttpClientHandler { UseCookies = false };
        using var browser = new HttpClient(handler) { BaseAddress = service.Address };
        using var signedIn = await browser.PostAsJsonAsync(
            "api/v1/session",
            new { person = "mara", password = Staff.Password }
        );
        var set = Assert.Single(signedIn.Headers.GetValues("Set-Cookie"));
        Assert.StartsWith("__Host-revtal=", set, StringComparison.Ordinal);
        foreach (var word in new[] { "secure", "httponly", "samesite=strict", "path=/" })
        {
            Assert.Contains(word, set, StringComparison.OrdinalIgnoreCase);
        }

        var cookie = set.Split(';')[0];
        Assert.Equal(HttpStatusCode.Created, await TakeIn(("Sec-Fetch-Site", "same-origin")));
        Assert.Equal(
            HttpStatusCode.Created,
            await TakeIn(("Origin", service.Address.GetLeftPart(UriPartial.Authority)))
        );
        Assert.Equal(HttpStatusCode.Forbidden, await TakeIn(("Sec-Fetch-Site", "cross-site")));
        Assert.Equal(HttpStatusCode.Forbidden, await TakeIn(("Sec-Fetch-Site", "same-site")));
        Assert.Equal(HttpStatusCode.Forbidden, await TakeIn(("Origin", "https://elsewhere.example")));
        Assert.Equal(HttpStatusCode.Forbidden, await TakeIn(("Origin", "null")));
        Assert.Equal(HttpStatusCode.Forbidden, await TakeIn(("X-Nothing", "said")));
        using var out1 = await Send(HttpMethod.Delete, "api/v1/session", null, ("Sec-Fetch-Site", "same-origin"));
        Assert.Equal(HttpStatusCode.NoContent, out1.StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, await TakeIn(("Sec-Fetch-Site", "same-origin")));

        async Task<HttpStatusCode> TakeIn((string, string) header)
        {
            using var answer = await Send(
                HttpMethod.Post,
                "api/v1/orders",
                JsonContent.Create(Story.TakeIn, options: RevtalJson.Options),
                header
            );
            return answer.StatusCode;
        }

        Task<HttpResponseMessage> Send(HttpMethod method, string path, HttpContent? body, (string Name, string Value) h)
        {
            var request = new HttpRequestMessage(method, path) { Content = body };
            request.Headers.Add("Cookie", cookie);
            request.Headers.Add(h.Name, h.Value);
            return browser.SendAsync(request);
        }
    }

    [Fact]
    public async Task A_new_password_ends_what_the_old_one_opened_but_here()
    {
        // Somebody of this test's own: whom the others ask for stays signed in.
        await service.As("ines").PutPersonAsync("odo", new PersonRequest("Odo Brix", Role.Desk));
        var link = Code((await service.As("ines").InvitePersonAsync("odo")).Link);
        var first = await service.As(null).UseSetUpAsync(link, new SetUpRequest(Staff.Password, TokenName: "here"));
        var here = new RevtalClient(service.Http, first.Token);
        var there = new RevtalClient(service.Http, (await SignIn("odo", Staff.Password)).Token);
        var next = new PasswordRequest("not the old one", "another four of them");
        Assert.Equal((401, "wrong-password"), await Story.Refused(here.ChangePasswordAsync(next)));
        await here.ChangePasswordAsync(next with { Old = Staff.Password });
        Assert.Equal("odo", (await here.SessionAsync()).Person!.Id);
        Assert.Null((await there.SessionAsync()).Person);
        Assert.Equal((401, "wrong-password"), await Story.Refused(SignIn("odo", Staff.Password)));
    }

    [Fact]
    public async Task Nothing_secret_is_kept_as_it_is()
    {
        var made = await service.As("ines").MakeTokenAsync(new TokenRequest("for nobody"));
        var link = Code((await service.As("ines").InvitePersonAsync("sanne")).Link);
        foreach (var file in Directory.GetFiles(service.Folder, "revtal.db*"))
        {
            await using var open = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
            using var copy = new MemoryStream();
            await open.CopyToAsync(copy);
            foreach (var secret in new[] { made.Token, link, Staff.Password })
            {
                Assert.Equal(-1, copy.ToArray().AsSpan().IndexOf(System.Text.Encoding.UTF8.GetBytes(secret)));
            }
        }
    }

    [Fact]
    public async Task Outside_the_demo_nobody_comes_in_without_a_password() =>
        Assert.Equal(
            (404, "no-demo"),
            await Story.Refused(service.As(null).SignInToDemoAsync(new DemoSignInRequest("mara")))
        );

    private Task<SignedInView> SignIn(string person, string password) =>
        service.As(null).SignInAsync(new SignInRequest(person, password, "tests"));

    private static string Code(string link) => link.Split('#')[1];
}
