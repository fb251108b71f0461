using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Revtal.Client;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.CommandLine;

// What a command did, where the service has no more to say of it than that it was done.

internal sealed record DraftGone(string Code, bool Discarded);

internal sealed record FileWritten(string Path);

internal sealed record LibraryWritten(string Path, int Bytes);

internal sealed record MailSet(string? Mail);

internal sealed record SignOutDone(bool SignedOut);

internal sealed record PasswordDone(bool Changed);

internal sealed record AccessShut(string Shut);

internal sealed record SignInEnded(string Ended);

internal sealed record SignInDone(Person Person, DateTimeOffset ExpiresAt);

internal sealed record PinSet(bool Pin);

internal sealed record CodesSet(bool Asked);

/// <summary>What the command line prints or keeps that never crossed the wire.</summary>
[JsonSourceGenerationOptions(GenerationMode = JsonSourceGenerationMode.Metadata)]
[JsonSerializable(typeof(DraftGone))]
[JsonSerializable(typeof(FileWritten))]
[JsonSerializable(typeof(LibraryWritten))]
[JsonSerializable(typeof(MailSet))]
[JsonSerializable(typeof(SignOutDone))]
[JsonSerializable(typeof(PasswordDone))]
[JsonSerializable(typeof(AccessShut))]
[JsonSerializable(typeof(SignInEnded))]
[JsonSerializable(typeof(SignInDone))]
[JsonSerializable(typeof(PinSet))]
[JsonSerializable(typeof(CodesSet))]
[JsonSerializable(typeof(IReadOnlyList<SignIn>))]
internal sealed partial class Outcomes : JsonSerializerContext
{
    public static JsonTypeInfo<T> Of<T>() => (JsonTypeInfo<T>)Of(typeof(T));

    public static JsonTypeInfo Of(Type type) => Printed.Options.GetTypeInfo(type);

    // People read it too: with line breaks, and in their own script. A class of its own, so that Default is there
    // first.
    private static class Printed
    {
        public static readonly JsonSerializerOptions Options = new(RevtalJson.Options)
        {
            TypeInfoResolver = JsonTypeInfoResolver.Combine(Default, WireTypes.Default),
            WriteIndented = true,
            Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        };
    }
}
