using System.Text.Json;
using Revtal.Client;
using Revtal.Contracts;
using Revtal.Core.Orders;

namespace Revtal.Tests;

/// <summary>
/// A shop with staff and two guides, set up once by its own links and passwords, and copied for each service that
/// begins with it: its people's tokens open every copy.
/// </summary>
internal static class Staff
{
    /// <summary>Of everybody in the shop.</summary>
    public const string Password = "drawer lamp tide forty";

    private static readonly Lazy<Task<(string Folder, IReadOnlyDictionary<string, string> Tokens)>> Made = new(
        MakeAsync
    );

    /// <summary>Ines leads, Mara and Tobi are technicians, Sanne is at the desk.</summary>
    public static async Task<IReadOnlyDictionary<string, string>> TokensAsync() => (await Made.Value).Tokens;

    public static async Task CopyToAsync(string folder)
    {
        if (Stores.IsPostgres)
        {
            Stores.Copy((await Made.Value).Folder, folder);
            return;
        }

        foreach (var file in Directory.GetFiles((await Made.Value).Folder))
        {
            File.Copy(file, Path.Combine(folder, Path.GetFileName(file)));
        }
    }

    /// <summary>A file by which the command line is signed in as everybody; last as who is at the desk.</summary>
    public static string SignInsFile(ServiceProcess service)
    {
        var file = Path.Combine(Directory.CreateTempSubdirectory("revtal-signed-in-").FullName, "sign-ins.json");
        AppDomain.CurrentDomain.ProcessExit += (_, _) =>
            Directory.Delete(Path.GetDirectoryName(file)!, recursive: true);
        File.WriteAllText(
            file,
            JsonSerializer.Serialize(
                service
                    .People.OrderBy(p => p == "sanne")
                    .Select(p => new
                    {
                        service = service.Address.ToString().TrimEnd('/'),
                        person = p,
                        token = service.Token(p),
                        expiresAt = DateTimeOffset.MaxValue,
                    })
            )
        );
        return file;
    }

    /// <summary>The demo's people, who have no passwords.</summary>
    public static async Task<IReadOnlyDictionary<string, string>> OfDemoAsync(RevtalClient client)
    {
        var tokens = new Dictionary<string, string>();
        foreach (var person in (await client.SessionAsync()).Demo!)
        {
            tokens[person.Id] = (await client.SignInToDemoAsync(new DemoSignInRequest(person.Id, "tests"))).Token!;
        }

        return tokens;
    }

    private static async Task<(string, IReadOnlyDictionary<string, string>)> MakeAsync()
    {
        var folder = Directory.CreateTempSubdirectory("revtal-staff-").FullName;
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(folder, recursive: true);
        var tokens = new Dictionary<string, string>();
        await using (var service = await ServiceProcess.StartAsync(folder, tokens: new Dictionary<string, string>()))
        {
            var anybody = service.As(null);
            var first = new SetUpRequest(Password, "ines", "Ines Havgard", "tests");
            tokens["ines"] = (await anybody.UseSetUpAsync(service.SetUpLink, first)).Token!;
            service.SignIn(tokens);
            var ines = service.As("ines");
            foreach (
                var (id, name, role) in new[]
                {
                    ("mara", "Mara Lind", Role.Technician),
                    ("tobi", "Tobi Quist", Role.Technician),
                    ("sanne", "Sanne Dyk", Role.Desk),
                }
            )
            {
                await ines.PutPersonAsync(id, new PersonRequest(name, role));
                var link = (await ines.InvitePersonAsync(id)).Link.Split('#')[1];
                tokens[id] = (await anybody.UseSetUpAsync(link, new SetUpRequest(Password, TokenName: "tests"))).Token!;
            }

            foreach (var code in new[] { "FJ14", "PW24" })
            {
                await ines.PublishGuideAsync(await File.ReadAllTextAsync(Repository.At("guides", $"{code}.yaml")));
            }

            // It takes its leave, so that no copy of the shop knows of another service.
            await service.StopAsync();
        }

        return (folder, tokens);
    }
}
