using Revtal.Core.Bench;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Whom an entry concerns.</summary>
public sealed class NoticeTests
{
    private static readonly Person[] People =
    [
        new("ines", "Ines Havgard", Role.Lead),
        new("mara", "Mara Lind", Role.Technician),
        new("tobi", "Tobi Quist", Role.Technician),
        new("sanne", "Sanne Dyk", Role.Desk),
    ];

    private static readonly DateTimeOffset Now = new(2026, 11, 27, 9, 0, 0, TimeSpan.Zero);

    [Fact]
    public void It_is_told_to_whose_hands_it_is_put_into_and_not_to_who_takes_it()
    {
        var order = Make.Order([.. Make.Agreed()]);
        Assert.Equal(
            [new Notice("tobi", NoticeKind.HandedOver, "the clip is worn")],
            Told(order, "mara", new OwnerNamed("tobi", "the clip is worn"))
        );
        Assert.Empty(Told(order, "tobi", new OwnerNamed("tobi")));
        Assert.Empty(Told(order, "tobi", new OwnerNamed(null)));
    }

    [Theory]
    [InlineData("@tobi: look at S1", "tobi")]
    [InlineData("for @tobi, @sanne and @tobi", "tobi sanne")]
    // An address, a stranger, oneself, and a name that only begins like one.
    [InlineData("mail to desk@sanne.example, ask @olaf; @mara @tobias", "")]
    public void A_note_is_told_to_whom_it_names(string text, string named) =>
        Assert.Equal(
            named.Split(' ', StringSplitOptions.RemoveEmptyEntries),
            Told(Make.Order([.. Make.Agreed()]), "mara", new NoteAdded(text)).Select(n => n.For)
        );

    [Fact]
    public void What_wakes_by_itself_is_told_to_its_owner_or_to_who_parked_it()
    {
        var order = Make.Order([.. Make.Agreed()]).With(new OwnerNamed("tobi"));
        var until = order.With(new Parked("the array rebuilds", Now));
        Assert.Equal("tobi", Assert.Single(Told(until, "revtal", new Resumed())).For);
        Assert.Empty(Told(until, "tobi", new Resumed()));
        var nobodys = until.With(new OwnerNamed(null));
        Assert.Equal("mara", Assert.Single(Told(nobodys, "revtal", new Resumed())).For);
        var parts = order.With(new Parked("ordered", null, WakeOn.PartsArrive));
        Assert.Contains("parts are there", Assert.Single(Told(parts, "revtal", new Resumed())).Text);
    }

    [Fact]
    public void An_answer_by_the_link_is_told_once_to_owner_and_sender()
    {
        var order = Make.Order([.. Make.Agreed()]) with { OfferedBy = "sanne", Owner = "mara" };
        Assert.Equal(
            ["mara", "sanne"],
            Told(order, "customer", new PlanAgreed("M. Alto", null, ByLink: true)).Select(n => n.For)
        );
        Assert.Empty(Told(order, "sanne", new PlanAgreed("M. Alto", null)));
        Assert.Single(Told(order with { Owner = "sanne" }, "customer", new QuoteDeclined("M. Alto", null, true)));

        // Who parked it for that is not told twice.
        var parked = order.With(new Parked("asks", null, WakeOn.CustomerAnswers));
        Assert.Empty(Told(parked, "revtal", new Resumed()));
    }

    [Fact]
    public void What_stops_a_run_is_told_to_its_owner_and_to_the_leads()
    {
        var order = Make.Order([.. Make.Agreed()]) with { Owner = "mara" };
        var swollen = new FoundInside(1, FindKind.SwollenBattery, null, null);
        Assert.Equal(["mara", "ines"], Told(order, "tobi", swollen).Select(n => n.For));
        Assert.All(Told(order, "tobi", swollen), n => Assert.Equal(NoticeKind.Stopped, n.Kind));
        Assert.Empty(Told(order, "tobi", new FoundInside(1, FindKind.Dust, null, null)));
    }

    private static IReadOnlyList<Notice> Told(Order order, string by, EntryBody body)
    {
        var entry = new Entry(order.Number, order.Head + 1, Guid.Empty, Now, by, body);
        return Notices.Of(order, order.Apply(entry), entry, Make.Fjell, People);
    }
}
