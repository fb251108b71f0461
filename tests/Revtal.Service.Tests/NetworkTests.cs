using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Revtal.Contracts;
using Revtal.Core.Captures;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>The service as the bench's network meets it.</summary>
public sealed class NetworkTests
{
    [Theory]
    [InlineData("127.0.0.1", "/readyz", 200)]
    [InlineData("bench.example", "/readyz", 200)]
    [InlineData("quotes.example", "/readyz", 200)]
    [InlineData("evil.example", "/readyz", 400)]
    [InlineData("evil.example", "/api/v1/session", 400)]
    [InlineData("evil.example", "/", 400)]
    // A machine on the bench calls the collector by whatever name it knows: the code decides.
    [InlineData("evil.example", "/c/ABCD-EFGH", 404)]
    public async Task A_shop_with_a_lead_listens_where_it_is_told_and_answers_to_its_own_names(
        string host,
        string path,
        int status
    )
    {
        var port = FreePort();
        await using var service = await ServiceProcess.StartAsync(
            arguments:
            [
                "--urls",
                $"http://127.0.0.1:0;http://0.0.0.0:{port}",
                "--hosts",
                "bench.example",
                "--shop:url",
                "https://quotes.example/here",
            ]
        );
        using var request = new HttpRequestMessage(HttpMethod.Get, $"http://127.0.0.1:{port}{path}");
        request.Headers.Host = host;
        using var answer = await service.Http.SendAsync(request);
        Assert.Equal(status, (int)answer.StatusCode);
    }

    [Theory]
    [InlineData(null, "http://127.0.0.1:", true)]
    [InlineData("https://bench.example/", "https://bench.example/", false)]
    public async Task An_address_that_is_handed_out_is_the_shop_s_or_says_that_it_opens_here_alone(
        string? url,
        string begins,
        bool hereOnly
    )
    {
        await using var service = await ServiceProcess.StartAsync(arguments: url is null ? [] : ["--shop:url", url]);
        var (ines, mara) = (service.As("ines"), service.As("mara"));
        var order = (await mara.TakeInAsync(Story.TakeIn)).Order;
        var reading = await mara.InviteAsync(order, new InviteRequest(Phase.Before));
        var arrival = await mara.InviteArrivalAsync(new ArrivalInviteRequest());
        var tablet = await ines.MakeTabletAsync(new TabletRequest("Bench 1"));
        var person = await ines.InvitePersonAsync("tobi");
        Assert.All(
            [
                (reading.Lines["linux"].Split(' ')[2], reading.HereOnly),
                (arrival.Lines["macos"].Split(' ')[2], arrival.HereOnly),
                (tablet.Link, tablet.HereOnly),
                (person.Link, person.HereOnly),
            ],
            handed =>
            {
                Assert.StartsWith(begins, handed.Item1, StringComparison.Ordinal);
                Assert.DoesNotContain("//", handed.Item1.Split("://")[1], StringComparison.Ordinal);
                Assert.Equal(hereOnly, handed.Item2);
            }
        );
    }

    [Fact]
    public async Task Over_https_by_a_certificate_of_the_shop_s_own_the_browser_is_held_to_it()
    {
        var folder = Directory.CreateTempSubdirectory("revtal-tls-").FullName;
        using var key = RSA.Create(2048);
        using var certificate = new CertificateRequest(
            "CN=bench.example",
            key,
            HashAlgorithmName.SHA256,
            RSASignaturePadding.Pkcs1
        ).CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1));
        var (file, keyFile) = (Path.Combine(folder, "bench.pem"), Path.Combine(folder, "bench.key"));
        await File.WriteAllTextAsync(file, certificate.ExportCertificatePem());
        await File.WriteAllTextAsync(keyFile, key.ExportPkcs8PrivateKeyPem());
        var port = FreePort();
        await using var service = await ServiceProcess.StartAsync(
            arguments:
            [
                "--urls",
                $"http://127.0.0.1:0;https://0.0.0.0:{port}",
                "--certificate",
                file,
                "--certificateKey",
                keyFile,
                "--hosts",
                "bench.example",
            ]
        );
        using var handler = new HttpClientHandler
        {
            ServerCertificateCustomValidationCallback = (_, shown, _, _) => shown?.Thumbprint == certificate.Thumbprint,
        };
        using var browser = new HttpClient(handler);
        using var request = new HttpRequestMessage(HttpMethod.Get, $"https://127.0.0.1:{port}/");
        request.Headers.Host = "bench.example";
        using var answer = await browser.SendAsync(request);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.StartsWith(
            "max-age=",
            answer.Headers.GetValues("Strict-Transport-Security").Single(),
            StringComparison.Ordinal
        );
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task Only_a_known_proxy_is_believed_where_a_request_came_from()
    {
        foreach (var (proxies, from) in new[] { ("127.0.0.1", "203.0.113.9"), ("192.0.2.1", "127.0.0.1") })
        {
            await using var service = await ServiceProcess.StartAsync(arguments: ["--proxies", proxies]);
            using var request = new HttpRequestMessage(HttpMethod.Post, "api/v1/session")
            {
                Content = new StringContent(
                    """{"person": "nobody", "password": "x"}""",
                    System.Text.Encoding.UTF8,
                    "application/json"
                ),
            };
            request.Headers.Add("X-Forwarded-For", "203.0.113.9");
            using var _ = await service.Http.SendAsync(request);
            var line = (await service.As("ines").AuditAsync(limit: 1)).Items[0];
            Assert.Equal(("nobody", "sign-in-failed", from), (line.By, line.What, line.From));
        }
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
