using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Revtal.Core;

namespace Revtal.CommandLine;

/// <summary>One sign-in that this computer's user keeps.</summary>
/// <param name="Service">Where it opens.</param>
/// <param name="Person">Whose it is.</param>
internal sealed record SignIn(string Service, string Person, string Token, DateTimeOffset ExpiresAt);

/// <summary>
/// The sign-ins that are kept for one user of this computer, readable by nobody else. The newest of a service is used
/// where nobody is named.
/// </summary>
internal static class SignIns
{
    private static JsonTypeInfo<IReadOnlyList<SignIn>> Kept => Outcomes.Of<IReadOnlyList<SignIn>>();

    private static string File =>
        Environment.GetEnvironmentVariable("REVTAL_SIGN_INS")
        ?? Path.Combine(
            Environment.GetFolderPath(Environment.SpecialFolder.ApplicationData),
            "revtal",
            "sign-ins.json"
        );

    /// <summary>What proves who asks; null where nobody signed in.</summary>
    /// <param name="person">Null for whoever signed in last.</param>
    public static string? Token(string service, string? person) =>
        Environment.GetEnvironmentVariable("REVTAL_TOKEN") is { Length: > 0 } given && person is null
            ? given
            : Read().LastOrDefault(s => Is(s, service, person))?.Token;

    public static void Keep(SignIn signIn) =>
        Write([.. Read().Where(s => !Is(s, signIn.Service, signIn.Person)), signIn]);

    /// <param name="person">Null for whoever signed in last.</param>
    public static void Forget(string service, string? person)
    {
        var kept = Read();
        if (kept.LastOrDefault(s => Is(s, service, person)) is { } gone)
        {
            Write([.. kept.Where(s => s != gone)]);
        }
    }

    private static bool Is(SignIn kept, string service, string? person) =>
        kept.Service == Plain(service) && (person is null || kept.Person == person);

    /// <summary>An address as it is kept.</summary>
    public static string Plain(string service) => service.TrimEnd('/');

    private static IReadOnlyList<SignIn> Read()
    {
        if (!System.IO.File.Exists(File))
        {
            return [];
        }

        try
        {
            return JsonSerializer.Deserialize(System.IO.File.ReadAllText(File), Kept) ?? [];
        }
        catch (JsonException)
        {
            throw RefusedException.Invalid(
                "sign-ins-damaged",
                $"{File} cannot be read. Delete it, then sign in again."
            );
        }
    }

    // Whole or not at all, and never readable by others, not even for a moment.
    private static void Write(IReadOnlyList<SignIn> signIns)
    {
        var folder = Path.GetDirectoryName(Path.GetFullPath(File))!;
        Directory.CreateDirectory(folder);
        var next = Path.Combine(folder, $".sign-ins-{Environment.ProcessId}");
        var options = new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows())
        {
            options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        }

        using (var file = new FileStream(next, options))
        {
            JsonSerializer.Serialize(file, signIns, Kept);
        }

        System.IO.File.Move(next, File, overwrite: true);
    }
}
