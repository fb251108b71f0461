using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.IdentityModel.JsonWebTokens;
using Microsoft.IdentityModel.Tokens;
using Revtal.Core;
using Revtal.Core.Reports;
using Revtal.Storage;

namespace Revtal.Service.Reports;

/// <summary>A proof that was read: what the shop signed.</summary>
/// <param name="Key">The id of the key that signed it.</param>
public sealed record ReadProof(ProofId Id, Report Report, DateTimeOffset At, string Key);

/// <summary>
/// Reports into proofs and back: the facts in a JSON Web Signature (RFC 7515), compact, by ES256 (RFC 7518). Its form
/// is docs/proof-format.md.
/// </summary>
public sealed class Proofs(ShopKey key)
{
    /// <summary>As the header names the form.</summary>
    public const string Type = "revtal-proof+jws";

    private const string Told = "report";

    private static readonly JsonWebTokenHandler Handler = new() { SetDefaultTimesOnTokenCreation = false };

    /// <summary>Signs a report by the shop's key of now.</summary>
    public string Sign(ProofId id, Report report)
    {
        var (kid, own) = key.Own;
        var payload = new JsonObject
        {
            [JwtRegisteredClaimNames.Iss] = report.Shop,
            [JwtRegisteredClaimNames.Jti] = id.ToString(),
            [JwtRegisteredClaimNames.Iat] = report.At.ToUnixTimeSeconds(),
            [Told] = JsonSerializer.SerializeToNode(report, RevtalJson.Options),
        };
        return Handler.CreateToken(
            payload.ToJsonString(),
            new SigningCredentials(new ECDsaSecurityKey(own) { KeyId = kid }, SecurityAlgorithms.EcdsaSha256),
            new Dictionary<string, object> { [JwtHeaderParameterNames.Typ] = Type }
        );
    }

    /// <summary>Reads a proof that a key of this shop signed; null for anything else.</summary>
    public async Task<ReadProof?> ReadAsync(string text)
    {
        var token = text.Trim();
        if (!Handler.CanReadToken(token) || KeyOf(token) is not { } kid)
        {
            return null;
        }

        using var signed = key.Public(kid);
        if (signed is null)
        {
            return null;
        }

        var read = await Handler.ValidateTokenAsync(
            token,
            new TokenValidationParameters
            {
                // Keys of a library's own keeping would outlive this one.
                CryptoProviderFactory = new CryptoProviderFactory { CacheSignatureProviders = false },
                IssuerSigningKey = new ECDsaSecurityKey(signed) { KeyId = kid },
                ValidAlgorithms = [SecurityAlgorithms.EcdsaSha256],
                ValidTypes = [Type],
                ValidateAudience = false,
                ValidateIssuer = false,
                // A proof does not run out.
                ValidateLifetime = false,
                RequireExpirationTime = false,
            }
        );
        return read is { IsValid: true, SecurityToken: JsonWebToken good } ? Of(good, kid) : null;
    }

    /// <summary>What a proof of the journal says; what lies there was signed here.</summary>
    public static Report Report(string proof) => Of(new JsonWebToken(proof), "")!.Report;

    private static ReadProof? Of(JsonWebToken token, string kid)
    {
        var payload = JsonNode.Parse(Base64UrlEncoder.DecodeBytes(token.EncodedPayload));
        return
            ProofId.TryParse(token.Id, out var id)
            && payload?[Told].Deserialize<Report>(RevtalJson.Options) is { } report
            ? new ReadProof(id, report, DateTimeOffset.FromUnixTimeSeconds((long)payload["iat"]!), kid)
            : null;
    }

    private static string? KeyOf(string token)
    {
        try
        {
            return new JsonWebToken(token).Kid;
        }
        catch (ArgumentException)
        {
            // Its header is no JSON.
            return null;
        }
    }
}
