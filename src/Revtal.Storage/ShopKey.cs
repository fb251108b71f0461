using System.Security.Cryptography;
using System.Text;
using Revtal.Core;

namespace Revtal.Storage;

/// <summary>
/// The key by which the shop signs: ECDSA over P-256 with SHA-256. It lies in a file of the service's machine, where
/// whoever writes the store does not reach it; else in the store, where it proves less. What an earlier key signed
/// stays signed: the public ones are kept for ever.
/// </summary>
/// <param name="file">In PEM; null for one of the store's own.</param>
public sealed class ShopKey(KeyStore keys, string? file)
{
    // Read once as long as it is the same; put in its place as one.
    private Held? own;

    private sealed record Held(string Pem, string Id, ECDsa Key);

    /// <summary>
    /// The key with its private half, and its id, the hash of its public half: read as one, since it may be turned
    /// between two.
    /// </summary>
    public (string Id, ECDsa Key) Own
    {
        get
        {
            var now = Now();
            return (now.Id, now.Key);
        }
    }

    /// <returns>The key's id, and the signature as IEEE P1363 writes it, 64 bytes.</returns>
    public (string Id, byte[] Signature) Sign(string text)
    {
        var (id, key) = Own;
        return (id, key.SignData(Encoding.UTF8.GetBytes(text), HashAlgorithmName.SHA256));
    }

    /// <summary>Whether a key of this shop signed it, the one of now or an earlier one.</summary>
    public bool IsSigned(string text, byte[] signature, string id)
    {
        using var key = Public(id);
        return key?.VerifyData(Encoding.UTF8.GetBytes(text), signature, HashAlgorithmName.SHA256) == true;
    }

    /// <summary>The public key of this id; null where the shop never signed by it.</summary>
    public ECDsa? Public(string id)
    {
        if (keys.Public(id) is not { } pem)
        {
            return null;
        }

        var key = ECDsa.Create();
        key.ImportFromPem(pem);
        if (IdOf(key) == id)
        {
            return key;
        }

        key.Dispose();
        return null;
    }

    /// <summary>Ids of all keys that it ever signed by, this one first.</summary>
    public IReadOnlyList<string> Ids()
    {
        var now = Now().Id;
        return [now, .. keys.PublicIds().Where(id => id != now)];
    }

    /// <summary>From now on it signs by a new key.</summary>
    /// <exception cref="RefusedException">The key lies in a file, and so is another one's to change.</exception>
    public string Turn()
    {
        if (file is not null)
        {
            throw RefusedException.Rule(
                "key-in-file",
                "The shop signs by a key in a file. Start the service with the file of another; what this one signed "
                    + "stays good."
            );
        }

        using var made = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        keys.AddPublic(IdOf(made), made.ExportSubjectPublicKeyInfoPem());
        keys.ReplacePrivate(IdOf(made), made.ExportPkcs8PrivateKeyPem());
        return Now().Id;
    }

    /// <summary>A key's file, read.</summary>
    /// <exception cref="CryptographicException">It holds no private key on P-256.</exception>
    /// <exception cref="ArgumentException">It holds no key.</exception>
    public static ECDsa Read(string pem)
    {
        var key = ECDsa.Create();
        key.ImportFromPem(pem);
        var parameters = key.ExportParameters(includePrivateParameters: true);
        return parameters.D is not null && parameters.Curve.Oid.Value == ECCurve.NamedCurves.nistP256.Oid.Value
            ? key
            : throw new CryptographicException("It is no private key on P-256.");
    }

    // Another instance may have turned it: the store is asked each time.
    private Held Now()
    {
        if (file is not null && own is { } read)
        {
            return read;
        }

        if (file is null && keys.Private() is null)
        {
            using var made = ECDsa.Create(ECCurve.NamedCurves.nistP256);
            keys.AddPrivate(IdOf(made), made.ExportPkcs8PrivateKeyPem());
        }

        // Where two instances made one at once, all go by the same.
        var pem = file is null ? keys.Private()! : File.ReadAllText(file);
        if (own is { } known && known.Pem == pem)
        {
            return known;
        }

        var key = Read(pem);
        keys.AddPublic(IdOf(key), key.ExportSubjectPublicKeyInfoPem());
        var now = new Held(pem, IdOf(key), key);
        own = now;
        return now;
    }

    private static string IdOf(ECDsa key) =>
        Convert.ToHexStringLower(SHA256.HashData(key.ExportSubjectPublicKeyInfo()))[..16];
}
