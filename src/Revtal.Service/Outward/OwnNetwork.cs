using System.Net;
using System.Net.Sockets;

namespace Revtal.Service.Outward;

/// <summary>
/// Where the service may be sent by an address that somebody typed: proved of the address that a name comes to, when
/// it is connected to, so that no name says one thing and later another.
/// </summary>
internal static class OwnNetwork
{
    /// <summary>Connects for a <see cref="SocketsHttpHandler"/>.</summary>
    /// <exception cref="HttpRequestException">The name leads nowhere that is allowed; the message says why.</exception>
    public static async ValueTask<Stream> ConnectAsync(SocketsHttpConnectionContext to, CancellationToken cancel)
    {
        var isPlain = to.InitialRequestMessage.RequestUri?.Scheme == Uri.UriSchemeHttp;
        var addresses = await Dns.GetHostAddressesAsync(to.DnsEndPoint.Host, cancel);
        if (addresses.Select(a => WhyNot(a, isPlain)).OfType<string>().FirstOrDefault() is { } why)
        {
            throw new HttpRequestException(why);
        }

        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            await socket.ConnectAsync(addresses, to.DnsEndPoint.Port, cancel);
            return new NetworkStream(socket, ownsSocket: true);
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }

    /// <param name="isPlain">Whether nothing hides what is said: http.</param>
    /// <returns>Null where it may be spoken to.</returns>
    public static string? WhyNot(IPAddress address, bool isPlain)
    {
        var plain = address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address;
        return IsLinkLocal(plain) ? $"{plain} is an address of this very link: hosts keep their own secrets there."
            : isPlain && !IsOwn(plain) ? $"{plain} is outside of this network: it is spoken to by https alone."
            : null;
    }

    // RFC 3927 and RFC 4291, 2.5.6; machines in the cloud read their own credentials at such addresses.
    private static bool IsLinkLocal(IPAddress address) =>
        address.IsIPv6LinkLocal
        || (address.AddressFamily == AddressFamily.InterNetwork && address.GetAddressBytes() is [169, 254, _, _]);

    // RFC 1918, RFC 4193 and the machine itself.
    private static bool IsOwn(IPAddress address) =>
        IPAddress.IsLoopback(address)
        || address.IsIPv6UniqueLocal
        || (
            address.AddressFamily == AddressFamily.InterNetwork
            && address.GetAddressBytes() is [10, _, _, _] or [192, 168, _, _] or [172, >= 16 and <= 31, _, _]
        );
}
