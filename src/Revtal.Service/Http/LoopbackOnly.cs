using System.Net;

namespace Revtal.Service.Http;

/// <summary>Until a lead has a password, the service listens to its own machine alone.</summary>
internal static class LoopbackOnly
{
    public const string DefaultUrl = "http://127.0.0.1:7420";

    /// <summary>The first of the addresses that others could reach; null when there is none.</summary>
    public static string? FirstOpen(string urls) =>
        urls.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .FirstOrDefault(url => !IsLoopback(url));

    /// <summary>Whether the server can read it.</summary>
    public static bool IsAddress(string url)
    {
        try
        {
            BindingAddress.Parse(url);
            return true;
        }
        catch (FormatException)
        {
            return false;
        }
    }

    // Read as the server reads it: a host that is no address and not localhost is bound to every address there is.
    private static bool IsLoopback(string url)
    {
        if (!IsAddress(url))
        {
            return false;
        }

        var host = BindingAddress.Parse(url).Host;
        return host.Equals("localhost", StringComparison.OrdinalIgnoreCase)
            || (IPAddress.TryParse(host.Trim('[', ']'), out var ip) && IPAddress.IsLoopback(ip));
    }
}
