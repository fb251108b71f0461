using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Standard Webhooks 1.0.</summary>
public sealed class WebhookTests
{
    // As the specification's own library (npm, standardwebhooks 1.1.1) signs the same.
    [Theory]
    [InlineData(
        "msg_p5jXN8AQM9LWM0D4loKWxJek",
        1614265330,
        """{"test": 2432232314}""",
        "v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE="
    )]
    [InlineData(
        "msg_x",
        1700000000,
        """{"type":"order.noted","words":"Größe → 16 GB"}""",
        "v1,992H8ZnI6wOghVSRqY9vjkRboR0PxpOmOM2gFa4FqgQ="
    )]
    public void A_message_is_signed_as_its_receivers_prove_it(string id, long at, string body, string signature) =>
        Assert.Equal(signature, Webhooks.Signature("whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw", id, at, body));

    [Fact]
    public void A_new_secret_has_the_specified_form_and_is_no_others()
    {
        var (one, other) = (Webhooks.NewSecret(), Webhooks.NewSecret());
        Assert.StartsWith("whsec_", one, StringComparison.Ordinal);
        Assert.InRange(Convert.FromBase64String(one[6..]).Length, 24, 64);
        Assert.NotEqual(one, other);
        Assert.Throws<FormatException>(() => Webhooks.Signature("c2VjcmV0", "msg_x", 0, "{}"));
    }

    // The specification, "Deliverability and reliability": at once, 5 s, 5 m, 30 m, 2 h, 5 h, 10 h, 14 h, 20 h, 24 h.
    [Fact]
    public void Ten_tries_take_more_than_three_days()
    {
        var waits = Enumerable.Range(1, 10).Select(Webhooks.WaitAfter).ToArray();
        Assert.Equal(TimeSpan.FromSeconds(5), waits[0]);
        Assert.Equal(TimeSpan.FromHours(24), waits[8]);
        Assert.Null(waits[9]);
        Assert.Equal(waits[..9].Order(), waits[..9]);
        Assert.Equal(new TimeSpan(3, 3, 35, 5), waits[..9].Aggregate(TimeSpan.Zero, (sum, w) => sum + w!.Value));
    }
}
