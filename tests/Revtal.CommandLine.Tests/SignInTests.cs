using System.Diagnostics;
using System.Text.Json.Nodes;
using Xunit;

namespace Revtal.Tests.CommandLine;

/// <summary>Signing in on a computer, as somebody at its keyboard does.</summary>
public sealed class SignInTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>, IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("revtal-kept-").FullName;

    private string Kept => Path.Combine(folder, "own", "sign-ins.json");

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task A_password_is_asked_for_once_and_two_people_share_a_computer()
    {
        Assert.Equal(4, (await Revtal("", "board", "show")).Code);
        var (wrong, _, why) = await Revtal("not it\n", "shop", "sign-in", "mara");
        Assert.Equal((4, "revtal: That person and that password do not belong together."), (wrong, why.Trim()));
        Assert.Equal(0, (await Revtal($"{Staff.Password}\n", "shop", "sign-in", "mara")).Code);
        Assert.Equal(0, (await Revtal($"{Staff.Password}\n", "shop", "sign-in", "ines")).Code);
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(Kept));
        Assert.DoesNotContain(Staff.Password, await File.ReadAllTextAsync(Kept), StringComparison.Ordinal);

        // Whoever signed in last, or whom it is told.
        Assert.Equal(0, (await Revtal("", "shop", "person", "hanne", "--name", "Hanne", "--role", "desk")).Code);
        var (refused, _, lead) = await Revtal("", "shop", "invite", "hanne", "--as", "mara");
        Assert.Equal((1, "revtal: People are added by a lead."), (refused, lead.Trim().Split(" See:")[0]));
        var link = (string)JsonNode.Parse((await Revtal("", "shop", "invite", "hanne", "--json")).Output)!["link"]!;
        Assert.Equal(0, (await Revtal("four words of no sense\n", "shop", "set-up", link)).Code);
        Assert.Contains("hanne", (await Revtal("", "shop", "audit", "--as", "ines")).Output, StringComparison.Ordinal);
        Assert.Equal(0, (await Revtal("", "shop", "sign-out", "--as", "hanne")).Code);
        Assert.Equal(4, (await Revtal("", "board", "show", "--as", "hanne")).Code);
        Assert.Equal(0, (await Revtal("", "board", "show")).Code);
    }

    [Fact]
    public async Task A_token_from_the_environment_does_for_a_script()
    {
        Assert.Equal(0, (await Revtal($"{Staff.Password}\n", "shop", "sign-in", "tobi")).Code);
        var made = await Revtal("", "shop", "token", "nightly", "--days", "1", "--looks", "--json");
        var token = (string)JsonNode.Parse(made.Output)!["token"]!;
        Assert.Equal(
            0,
            (await Revtal("", ["board", "show"], ("REVTAL_TOKEN", token), ("REVTAL_SIGN_INS", "/none"))).Code
        );
        var (code, _, why) = await Revtal(
            "",
            ["order", "take-in", "--model", "FJ14", "--customer", "A", "--complaint", "slow"],
            ("REVTAL_TOKEN", token),
            ("REVTAL_SIGN_INS", "/none")
        );
        Assert.Equal(1, code);
        Assert.Contains("only looks", why, StringComparison.Ordinal);
        var id = (string)JsonNode.Parse(made.Output)!["session"]!["id"]!;
        Assert.Equal(0, (await Revtal("", "shop", "end", id)).Code);
        Assert.Equal(
            4,
            (await Revtal("", ["board", "show"], ("REVTAL_TOKEN", token), ("REVTAL_SIGN_INS", "/none"))).Code
        );
    }

    [Fact]
    public async Task Another_program_is_named_tried_turned_off_and_ended()
    {
        Assert.Equal(0, (await Revtal($"{Staff.Password}\n", "shop", "sign-in", "ines")).Code);
        // Nobody listens at the last port.
        var made = await Revtal(
            "",
            "shop",
            "webhook",
            "books",
            "http://127.0.0.1:65535/",
            "--kind",
            "parked",
            "--json"
        );
        var told = JsonNode.Parse(made.Output)!;
        var id = (string)told["webhook"]!["id"]!;
        Assert.StartsWith("whsec_", (string)told["secret"]!, StringComparison.Ordinal);
        var tried = await Revtal("", "shop", "webhooks", "--try", id);
        Assert.StartsWith("Not taken: Not reached:", tried.Output, StringComparison.Ordinal);
        var turned = await Revtal("", "shop", "webhooks", "--off", id);
        Assert.Contains("nothing now", turned.Output, StringComparison.Ordinal);
        Assert.Equal(1, (await Revtal("", "shop", "messages", id, "--again")).Code);
        var changed = await Revtal("", "shop", "webhook", "books", "https://books.example/", "--words", "--change", id);
        Assert.Contains("everything, in words", changed.Output, StringComparison.Ordinal);
        Assert.DoesNotContain(
            "books",
            (await Revtal("", "shop", "webhooks", "--end", id)).Output,
            StringComparison.Ordinal
        );
        var (code, _, why) = await Revtal("", "shop", "mail", "ines@shop.example");
        Assert.Equal((1, "revtal: This shop sends no mail."), (code, why.Trim().Split(" Whoever")[0]));
    }

    private Task<(int Code, string Output, string Error)> Revtal(string input, params string[] arguments) =>
        Revtal(input, arguments, []);

    private async Task<(int Code, string Output, string Error)> Revtal(
        string input,
        string[] arguments,
        params (string Name, string Value)[] more
    )
    {
        var start = new ProcessStartInfo(Repository.At("bin", "revtal"), arguments)
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["REVTAL_SERVICE"] = fixture.Service.Address.ToString();
        start.Environment["REVTAL_SIGN_INS"] = Kept;
        foreach (var (name, value) in more)
        {
            start.Environment[name] = value;
        }

        using var process = Process.Start(start)!;
        await process.StandardInput.WriteAsync(input);
        process.StandardInput.Close();
        var (output, error) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
        await process.WaitForExitAsync();
        return (process.ExitCode, await output, await error);
    }
}
