using System.Buffers.Binary;
using System.Security.Cryptography;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>Bench tablets, badges, PINs and one-time codes.</summary>
public sealed class TabletTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private readonly ServiceProcess service = fixture.Service;

    [Fact]
    public async Task Hands_change_at_a_tablet_by_badge_and_pin_and_each_act_carries_the_name()
    {
        var (mara, tobi) = (service.As("mara"), service.As("tobi"));
        await mara.ChoosePinAsync(new PinRequest("4071", Staff.Password));
        var badge = (await service.As("ines").MakeBadgeAsync("tobi")).Code;
        using var screen = new Screen(service.Address);
        Assert.Equal("no-tablet", await screen.RefusalAsync("session/hands", new { person = "mara", pin = "4071" }));
        await EnrolAsync(screen, "Bench 1");
        var seat = (await screen.SessionAsync())["tablet"]!;
        Assert.Equal("Bench 1", (string)seat["name"]!);
        Assert.Contains("mara", seat["people"]!.AsArray().Select(p => (string)p!["id"]!));
        Assert.DoesNotContain("ines", seat["people"]!.AsArray().Select(p => (string)p!["id"]!));

        await screen.PostAsync("session/hands", new { person = "mara", pin = "4071" });
        var order = await screen.PostAsync("orders", Story.TakeIn);
        await screen.PostAsync("session/hands", new { badge });
        var number = (int)order["order"]!;
        await screen.PostAsync($"orders/{number}/notes", new { text = "the hinge is loose" });
        Assert.Equal(
            ["mara", "tobi"],
            (await service.As("ines").EntriesAsync(number)).OrderBy(e => e.Sequence).Select(e => e.By)
        );

        // Whoever stood there before no longer does.
        var sessions = await service.As("ines").SessionsAsync();
        var stands = Assert.Single(sessions, s => s.Session.Name == "Bench 1").Session;
        Assert.Equal(("tobi", SessionKind.Tablet), (stands.Person, stands.Kind));
        Assert.Equal("tobi", (await tobi.SessionAsync()).Person!.Id);
    }

    [Fact]
    public async Task What_opens_once_and_what_was_lost_opens_nothing_more()
    {
        var ines = service.As("ines");
        var (first, second) = ((await ines.MakeBadgeAsync("sanne")).Code, (await ines.MakeBadgeAsync("sanne")).Code);
        using var screen = new Screen(service.Address);
        using var other = new Screen(service.Address);
        var link = await EnrolAsync(screen, "Bench 2");
        Assert.Equal("no-such-link", await other.RefusalAsync($"session/tablet/{link}", new { }));
        Assert.Equal("badge-unknown", await screen.RefusalAsync("session/hands", new { badge = first }));
        await screen.PostAsync("session/hands", new { badge = second });
        Assert.Equal("sanne", (string)(await screen.SessionAsync())["person"]!["id"]!);

        // A badge is enough for the bench's work, and for nothing about people.
        Assert.Equal("at-a-tablet", await screen.RefusalAsync("session/tokens", new { name = "x", days = 1 }));
        await ines.DropTabletAsync(Assert.Single(await ines.TabletsAsync(), t => t.Name == "Bench 2").Id);
        var session = await screen.SessionAsync();
        Assert.Null(session["person"]);
        Assert.Null(session["tablet"]);
        Assert.Equal("no-tablet", await screen.RefusalAsync("session/hands", new { badge = second }));
        Assert.Contains((await ines.AuditAsync()).Items, l => l is { What: "tablet-revoked", About: "Bench 2" });

        // Who is locked out is so at tablets too.
        await ines.PutPersonAsync("veda", new PersonRequest("Veda Ross", Role.Technician));
        var badge = (await ines.MakeBadgeAsync("veda")).Code;
        await EnrolAsync(other, "Bench 3");
        await other.PostAsync("session/hands", new { badge });
        await ines.EndAccessAsync("veda");
        Assert.Null((await other.SessionAsync())["person"]);
        Assert.Equal("badge-unknown", await other.RefusalAsync("session/hands", new { badge }));
    }

    [Fact]
    public async Task A_pin_is_no_row_and_is_taken_away_before_it_could_be_found()
    {
        var tobi = service.As("tobi");
        foreach (var (pin, code) in new[] { ("123", "pin-form"), ("12a4", "pin-form"), ("123456789", "pin-form") })
        {
            Assert.Equal((422, code), await Story.Refused(tobi.ChoosePinAsync(new PinRequest(pin, Staff.Password))));
        }

        foreach (var pin in new[] { "1234", "7777", "8765", "7890" })
        {
            Assert.Equal(
                (422, "pin-common"),
                await Story.Refused(tobi.ChoosePinAsync(new PinRequest(pin, Staff.Password)))
            );
        }

        Assert.Equal(
            (401, "wrong-password"),
            await Story.Refused(tobi.ChoosePinAsync(new PinRequest("2580", "not the password")))
        );
        await tobi.ChoosePinAsync(new PinRequest("2580", Staff.Password));
        using var screen = new Screen(service.Address);
        await EnrolAsync(screen, "Bench 4");
        for (var i = 0; i < 4; i++)
        {
            Assert.Equal("wrong-pin", await TryAsync("2581"));
        }

        await screen.PostAsync("session/hands", new { person = "tobi", pin = "2580" });
        var tries = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => TryAsync("2581")));
        Assert.Equal(5, tries.Count(t => t == "wrong-pin"));
        Assert.Equal("locked-out", await TryAsync("2580"));

        Task<string> TryAsync(string pin) => screen.RefusalAsync("session/hands", new { person = "tobi", pin });
    }

    [Fact]
    public async Task One_time_codes_are_asked_for_once_proved_and_none_opens_twice()
    {
        var ines = service.As("ines");
        await ines.PutPersonAsync("lund", new PersonRequest("Lund Ase", Role.Desk));
        var link = (await ines.InvitePersonAsync("lund")).Link.Split('#')[1];
        var token = (
            await service.As(null).UseSetUpAsync(link, new SetUpRequest(Staff.Password, TokenName: "t"))
        ).Token;
        var lund = new RevtalClient(service.Http, token);
        var begun = await lund.BeginCodesAsync(new ProofRequest(Staff.Password));
        Assert.StartsWith("otpauth://totp/", begun.Address, StringComparison.Ordinal);
        Assert.Contains(begun.Key, begun.Address, StringComparison.Ordinal);

        // Until one is proved none is asked for.
        await SignIn(null);
        var (now, wrong) = (CodeAt(begun.Key, DateTimeOffset.UtcNow), "000000");
        Assert.Equal((409, "wrong-code"), await Story.Refused(lund.ConfirmCodesAsync(new CodeRequest(wrong))));
        var paper = (await lund.ConfirmCodesAsync(new CodeRequest(now))).Codes;
        Assert.Equal(10, paper.Distinct().Count());
        Assert.Equal((401, "code-wanted"), await Story.Refused(SignIn(null)));
        Assert.Equal((401, "wrong-code"), await Story.Refused(SignIn(now)));
        Assert.Equal((401, "wrong-code"), await Story.Refused(SignIn(CodeAt(begun.Key, In(minutes: 5)))));
        var next = CodeAt(begun.Key, In(minutes: 0.5));
        await SignIn(next);
        Assert.Equal((401, "wrong-code"), await Story.Refused(SignIn(next)));
        await SignIn(paper[3].ToUpperInvariant());
        Assert.Equal((401, "wrong-code"), await Story.Refused(SignIn(paper[3])));
        Assert.Equal(9, (await lund.SessionAsync()).Own!.CodesOnPaper);
        Assert.Equal((401, "wrong-password"), await Story.Refused(lund.EndCodesAsync(new ProofRequest("another"))));
        await lund.EndCodesAsync(new ProofRequest(Staff.Password));
        await SignIn(null);

        Task<SignedInView> SignIn(string? code) =>
            service.As(null).SignInAsync(new SignInRequest("lund", Staff.Password, "tests", code));
    }

    // RFC 6238 as it stands there: HMAC-SHA-1 over the count of 30 s steps, cut as RFC 4226 5.3 says.
    private static string CodeAt(string key, DateTimeOffset at)
    {
        const string letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
        var bits = string.Concat(key.Select(c => Convert.ToString(letters.IndexOf(c), 2).PadLeft(5, '0')));
        var bytes = Enumerable.Range(0, bits.Length / 8).Select(i => Convert.ToByte(bits.Substring(i * 8, 8), 2));
        var step = new byte[8];
        BinaryPrimitives.WriteInt64BigEndian(step, at.ToUnixTimeSeconds() / 30);
#pragma warning disable CA5350 // What programs that make codes use.
        var mac = HMACSHA1.HashData(bytes.ToArray(), step);
#pragma warning restore CA5350
        var cut = BinaryPrimitives.ReadInt32BigEndian(mac.AsSpan(mac[19] & 15, 4)) & 0x7fffffff;
        return $"{cut % 1_000_000:000000}";
    }

    private static DateTimeOffset In(double minutes) => DateTimeOffset.UtcNow.AddMinutes(minutes);

    private async Task<string> EnrolAsync(Screen screen, string name)
    {
        var link = (await service.As("ines").MakeTabletAsync(new TabletRequest(name))).Link.Split("/tablet#")[1];
        await screen.PostAsync($"session/tablet/{link}", new { });
        return link;
    }
}
