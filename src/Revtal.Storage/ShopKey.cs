using System.Security.Cryptography;
using System.Text;

namespace Revtal.Storage;

/// <summary>
/// The key by which the shop signs: ECDSA over P-256 with SHA-256. It lies in a file of the service's machine, where
/// whoever writes the store does not reach it; else in the store, where it proves less.
/// </summary>
/// <param name="file">In PEM; null for one of the store's own.</param>
public sealed class ShopKey(KeyStore keys, string? file)
{
    private readonly Lazy<(string Id, ECDsa Key)> own = new(() => Own(keys, file));

    /// <summary>The hash of its public key, in hex, short.</summary>
    public string Id => own.Value.Id;

    /// <returns>As IEEE P1363 writes it, 64 bytes.</returns>
    public byte[] Sign(string text) => own.Value.Key.SignData(Encoding.UTF8.GetBytes(text), HashAlgorithmName.SHA256);

    /// <summary>Whether a key of this shop signed it, the one of now or an earlier one.</summary>
    public bool IsSigned(string text, byte[] signature, string id)
    {
        if (keys.Public(id) is not { } pem)
        {
            return false;
        }

        using var key = ECDsa.Create();
        key.ImportFromPem(pem);
        return IdOf(key) == id && key.VerifyData(Encoding.UTF8.GetBytes(text), signature, HashAlgorithmName.SHA256);
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

    private static (string, ECDsa) Own(KeyStore keys, string? file)
    {
        if (file is null && keys.Private() is null)
        {
            using var made = ECDsa.Create(ECCurve.NamedCurves.nistP256);
            keys.AddPrivate(IdOf(made), made.ExportPkcs8PrivateKeyPem());
        }

        // Where two instances made one at once, all go by the same.
        var key = Read(file is null ? keys.Private()! : File.ReadAllText(file));
        keys.AddPublic(IdOf(key), key.ExportSubjectPublicKeyInfoPem());
        return (IdOf(key), key);
    }

    private static string IdOf(ECDsa key) =>
        Convert.ToHexStringLower(SHA256.HashData(key.ExportSubjectPublicKeyInfo()))[..16];
}
