using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Revtal.Contracts;
using SkiaSharp;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>What is too much is refused, and what is much costs no more than it may.</summary>
public sealed partial class BoundsTests(ServiceFixture fixture) : IClassFixture<ServiceFixture>
{
    private const int Megabyte = 1 << 20;
    private readonly ServiceProcess service = fixture.Service;

    // What a capture, a picture, a table or a library may weigh; anything else 1 MB.
    private static readonly Dictionary<string, int> Larger = new()
    {
        ["takeReading"] = 24,
        ["decode"] = 24,
        ["takeArrival"] = 24,
        ["addPhoto"] = 13,
        ["keepPicture"] = 13,
        ["importCatalogue"] = 8,
        ["importShelf"] = 8,
        ["importLibrary"] = 64,
        ["compareExchange"] = 32,
        ["mergeExchange"] = 32,
        ["verifyCopy"] = 48,
    };

    public static TheoryData<string, string, string, string> Bodies
    {
        get
        {
            var api = JsonNode.Parse(File.ReadAllText(Repository.At("docs", "openapi.json")))!;
            var data = new TheoryData<string, string, string, string>();
            foreach (var (path, methods) in api["paths"]!.AsObject())
            {
                foreach (var (method, operation) in methods!.AsObject())
                {
                    if (operation!["requestBody"]?["content"] is JsonObject content)
                    {
                        data.Add(
                            (string)operation["operationId"]!,
                            method.ToUpperInvariant(),
                            path,
                            content.First().Key
                        );
                    }
                }
            }

            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Bodies))]
    public async Task A_body_that_is_larger_than_is_taken_is_refused_before_it_is_read(
        string operation,
        string method,
        string path,
        string type
    )
    {
        await service.As("ines").TakeInAsync(Story.TakeIn);
        var most = Larger.GetValueOrDefault(operation, 1);
        using var request = new HttpRequestMessage(
            new HttpMethod(method),
            Braces().Replace(path.TrimStart('/'), m => m.Value is "{step}" ? "open.hatch" : "101") + "?phase=before"
        )
        {
            Content = new ByteArrayContent(new byte[(most * Megabyte) + Megabyte]),
        };
        request.Content.Headers.ContentType = new MediaTypeHeaderValue(type);
        request.Headers.Authorization = fixture.Service.Bearer("ines");

        // The service says no to the headers alone; nothing of the body travels.
        request.Headers.ExpectContinue = true;
        using var answer = await service.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, answer.StatusCode);
        Assert.Equal("too-large", (string?)JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["code"]);
    }

    // 36 million pixels each: 144 MB once unfolded, from a file of some kilobytes.
    [Fact]
    public async Task Large_pictures_that_come_at_once_are_unfolded_one_by_one()
    {
        using var bitmap = new SKBitmap(6000, 6000);
        bitmap.Erase(SKColors.SeaGreen);
        var png = bitmap.Encode(SKEncodedImageFormat.Png, 100).ToArray();
        Assert.InRange(png.Length, 1, Megabyte);
        var mara = service.As("mara");
        var most = 0L;
        using var stop = new CancellationTokenSource();
        var watch = Task.Run(async () =>
        {
            while (!stop.IsCancellationRequested)
            {
                most = Math.Max(most, service.ResidentBytes);
                await Task.Delay(20);
            }
        });
        var kept = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => mara.KeepPictureAsync(png)));
        await stop.CancelAsync();
        await watch;
        Assert.Single(kept.Select(k => k.Hash).Distinct());
        Assert.Equal((2048, 2048), (kept[0].Width, kept[0].Height));

        // One unfolded picture and its copies, not eight.
        Assert.InRange(most / Megabyte, 1, 650);
    }

    [Fact]
    public async Task Many_who_come_and_go_leave_nothing_behind()
    {
        var ines = service.As("ines");
        var order = (await ines.TakeInAsync(Story.TakeIn)).Order;
        await RoundAsync(40);
        var before = service.ResidentBytes;
        for (var i = 0; i < 6; i++)
        {
            await RoundAsync(48);
        }

        Assert.InRange((service.ResidentBytes - before) / Megabyte, -1000, 60);

        async Task RoundAsync(int listeners)
        {
            using var cancel = new CancellationTokenSource(TimeSpan.FromSeconds(30));
            var since = (await ines.BoardAsync(cancel.Token)).Position;
            var heard = Enumerable
                .Range(0, listeners)
                .Select(async i =>
                {
                    await foreach (var change in service.As(Listener(i)).ChangesAsync(since, cancel.Token))
                    {
                        return change.Order;
                    }

                    return 0;
                })
                .ToArray();
            await ines.NoteAsync(order, new NoteRequest("heard by all"), cancel: cancel.Token);
            Assert.All(await Task.WhenAll(heard), o => Assert.Equal(order, o));
        }
    }

    // More than one sign-in may listen.
    private string Listener(int i) => service.People.Order().ElementAt(i % 4);

    [Theory]
    [InlineData("application/json; charset=utf-16", "{}", HttpStatusCode.UnsupportedMediaType)]
    [InlineData("application/json; charset=klingon", "{}", HttpStatusCode.UnsupportedMediaType)]
    [InlineData("text/plain", "{}", HttpStatusCode.UnsupportedMediaType)]
    [InlineData("application/json; charset=utf-8", "[]", HttpStatusCode.BadRequest)]
    [InlineData("application/json", "", HttpStatusCode.BadRequest)]
    [InlineData("application/json", "null", HttpStatusCode.BadRequest)]
    [InlineData("application/json", "\"text\"", HttpStatusCode.BadRequest)]
    public async Task A_body_of_another_kind_is_refused_with_what_to_send(
        string type,
        string body,
        HttpStatusCode status
    )
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, "api/v1/orders")
        {
            Content = new ByteArrayContent(Encoding.UTF8.GetBytes(body)),
        };
        request.Content.Headers.ContentType = MediaTypeHeaderValue.Parse(type);
        request.Headers.Authorization = fixture.Service.Bearer("ines");
        using var answer = await service.Http.SendAsync(request);
        Assert.Equal(status, answer.StatusCode);
        var problem = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        Assert.NotEmpty((string)problem["code"]!);
        Assert.NotEmpty((string)problem["detail"]!);
    }

    // What is made has an address; what was there is only changed.
    [Fact]
    public async Task Who_makes_something_is_told_where_it_is()
    {
        var made = await PutAsync(
            "parts/kind/BOUNDS-1",
            """{ "name": "8 GB", "price": 9, "module": { "size": "8 GB" } }"""
        );
        Assert.Equal((HttpStatusCode.Created, "/api/v1/parts/kind/BOUNDS-1"), made);
        var again = await PutAsync(
            "parts/kind/BOUNDS-1",
            """{ "name": "8 GB", "price": 8, "module": { "size": "8 GB" } }"""
        );
        Assert.Equal((HttpStatusCode.OK, null), again);
        Assert.Equal(
            (HttpStatusCode.Created, "/api/v1/shop/people/newhand"),
            await PutAsync("shop/people/newhand", """{ "name": "New Hand", "role": "desk" }""")
        );
        Assert.Equal(
            (HttpStatusCode.OK, null),
            await PutAsync("shop/people/newhand", """{ "name": "New Hand", "role": "technician" }""")
        );

        async Task<(HttpStatusCode, string?)> PutAsync(string path, string body)
        {
            using var request = new HttpRequestMessage(HttpMethod.Put, $"api/v1/{path}")
            {
                Content = new StringContent(body, Encoding.UTF8, "application/json"),
            };
            request.Headers.Authorization = fixture.Service.Bearer("ines");
            using var answer = await service.Http.SendAsync(request);
            return (answer.StatusCode, answer.Headers.Location?.ToString());
        }
    }

    [GeneratedRegex(@"\{\w+\}")]
    private static partial Regex Braces();
}
