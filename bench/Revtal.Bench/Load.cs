using System.Diagnostics;
using System.Globalization;
using System.Net.Sockets;
using System.Text;

namespace Revtal.Bench;

/// <summary>
/// A load from bare sockets on the loopback: each connection asks again as soon as it is answered. Bounded in time.
/// </summary>
internal static class Load
{
    /// <summary>Answers a second, over all connections.</summary>
    public static async Task<double> RateAsync(
        Uri address,
        Func<int, int, string> request,
        int connections,
        TimeSpan duration
    )
    {
        var watch = Stopwatch.StartNew();
        var counts = await Task.WhenAll(
            Enumerable
                .Range(0, connections)
                .Select(c =>
                    Task.Run(async () =>
                    {
                        using var connection = new RawConnection(address);
                        var count = 0;
                        for (; watch.Elapsed < duration; count++)
                        {
                            await connection.AskAsync(request(c, count));
                        }

                        return count;
                    })
                )
        );
        return counts.Sum() / watch.Elapsed.TotalSeconds;
    }

    /// <summary>Milliseconds of each of a row of requests on one connection.</summary>
    public static async Task<double[]> TimesAsync(Uri address, string request, int count)
    {
        using var connection = new RawConnection(address);
        var times = new double[count];
        for (var i = 0; i < count; i++)
        {
            var start = Stopwatch.GetTimestamp();
            await connection.AskAsync(request);
            times[i] = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
        }

        return times;
    }

    /// <summary>Milliseconds of each request of many clients, of which each asks again some while after its answer, as
    /// people do.</summary>
    public static async Task<double[]> LatenciesAsync(
        Uri address,
        Func<int, int, string> request,
        int connections,
        TimeSpan pause,
        TimeSpan duration
    )
    {
        var watch = Stopwatch.StartNew();
        var times = await Task.WhenAll(
            Enumerable
                .Range(0, connections)
                .Select(c =>
                    Task.Run(async () =>
                    {
                        using var connection = new RawConnection(address);
                        // Not all at the same moment.
                        await Task.Delay(pause * ((double)c / connections));
                        var (own, random) = (new List<double>(), new Random(c));
                        for (var i = 0; watch.Elapsed < duration; i++)
                        {
                            var start = Stopwatch.GetTimestamp();
                            await connection.AskAsync(request(c, i));
                            own.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
                            // People do not ask in step: whoever waited together would wait together ever after.
                            await Task.Delay(pause * (0.5 + random.NextDouble()));
                        }

                        return own;
                    })
                )
        );
        return [.. times.SelectMany(t => t)];
    }

    /// <param name="token">Of whoever asks.</param>
    public static string Get(Uri address, string path, string token = "none") =>
        $"GET {path} HTTP/1.1\r\nHost: {address.Authority}\r\nAuthorization: Bearer {token}\r\n\r\n";

    /// <param name="token">Of whoever asks.</param>
    public static string Post(Uri address, string path, string body, string token = "none") =>
        $"POST {path} HTTP/1.1\r\nHost: {address.Authority}\r\nAuthorization: Bearer {token}\r\nIdempotency-Key: "
        + $"{Guid.CreateVersion7()}\r\nContent-Type: application/json\r\nContent-Length: "
        + $"{Encoding.UTF8.GetByteCount(body)}\r\n\r\n{body}";

    /// <summary>One kept connection that understands Content-Length and chunks, and nothing else.</summary>
    private sealed class RawConnection : IDisposable
    {
        private const int Unknown = -1,
            Chunked = -2;
        private readonly Socket socket = new(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        private readonly byte[] buffer = new byte[1 << 20];

        public RawConnection(Uri address) => socket.Connect(address.Host, address.Port);

        public async Task AskAsync(string request)
        {
            await socket.SendAsync(Encoding.ASCII.GetBytes(request));
            var (have, want) = (0, Unknown);
            while (want is Unknown or Chunked || have < want)
            {
                var n = await socket.ReceiveAsync(buffer.AsMemory(have));
                if (n == 0)
                {
                    throw new IOException("The service closed the connection.");
                }

                have += n;
                if (want == Unknown && buffer.AsSpan(0, have).IndexOf("\r\n\r\n"u8) is >= 0 and var end)
                {
                    want = Whole(Encoding.ASCII.GetString(buffer, 0, end), end + 4);
                }

                if (want == Chunked && buffer.AsSpan(0, have).EndsWith("0\r\n\r\n"u8))
                {
                    return;
                }
            }
        }

        public void Dispose() => socket.Dispose();

        private static int Whole(string head, int bodyAt)
        {
            if (!head.StartsWith("HTTP/1.1 2", StringComparison.Ordinal))
            {
                throw new IOException($"The service answered: {head.Split('\r')[0]}");
            }

            var at = head.IndexOf("Content-Length: ", StringComparison.OrdinalIgnoreCase);
            return at < 0
                ? Chunked
                : bodyAt + int.Parse(head.AsSpan(at + 16).ToString().Split('\r')[0], CultureInfo.InvariantCulture);
        }
    }
}
