using Revtal.Core.Captures;
using Revtal.Core.Guides;
using Revtal.Core.Orders;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>By what orders are found.</summary>
public sealed class TraceTests
{
    [Fact]
    public void A_take_in_is_found_by_all_that_was_said_of_it()
    {
        var intake = Make.TakenIn().Intake with
        {
            Contact = "+44 191 000",
            Goal = "two stations",
            Condition = "dented",
        };
        var found = Traces.Of(Make.TakenIn() with { Intake = intake }).ToArray();
        Assert.Contains(new Trace(TraceKind.Customer, intake.Customer), found);
        Assert.Contains(new Trace(TraceKind.Contact, "+44 191 000"), found);
        Assert.Contains(new Trace(TraceKind.Complaint, "two stations"), found);
        Assert.Contains(new Trace(TraceKind.Complaint, "dented"), found);
    }

    [Fact]
    public void A_reading_is_found_by_every_serial_in_it()
    {
        var reading = CaptureDecoder.Decode(Repository.Capture("vm-before-4g"));
        var serials = reading.Memory.Slots.Select(s => s.Module()?.Serial).OfType<string>().ToArray();
        Assert.NotEmpty(serials);
        var found = Traces.Of(new ReadingTaken(Phase.Before, reading, null, null));
        Assert.Superset(serials.Select(s => new Trace(TraceKind.Module, s)).ToHashSet(), found.ToHashSet());
    }

    [Fact]
    public void What_says_nothing_leaves_nothing() =>
        Assert.Empty(
            Traces.Of(new StepConfirmed(1, StepId.Parse("open.hatch"), 4, null, null)).Concat(Traces.Of(new Resumed()))
        );

    [Theory]
    [InlineData("NF14-0417", "nf14 0417")]
    [InlineData("  Chœur d'ÉTÉ  ", "chœur d été")]
    [InlineData("…-–", "")]
    public void Words_are_letters_and_digits_that_stand_together(string text, string words) =>
        Assert.Equal(words, string.Join(' ', Traces.Words(text)));

    [Theory]
    [InlineData("choir")]
    [InlineData("chir")]
    [InlineData("chhoir")]
    [InlineData("cohir")]
    [InlineData("chojr")]
    public void What_a_hand_may_have_meant_is_near(string typed) =>
        Assert.True(typed == "choir" || Traces.Near(typed).Contains("choir"));

    [Fact]
    public void Two_mistakes_are_no_longer_near() => Assert.DoesNotContain("choir", Traces.Near("chxjr"));

    [Fact]
    public void Where_it_stands_is_cut_around_the_word()
    {
        var note = new Trace(TraceKind.Note, $"{new string('a', 100)} the HINGE squeaks {new string('b', 200)}");
        var found = Traces.Where([new(TraceKind.Customer, "Hinge works"), note], ["hinge"])!;
        Assert.Equal(TraceKind.Note, found.Kind);
        Assert.StartsWith("…aaa", found.Text, StringComparison.Ordinal);
        Assert.Contains("the HINGE squeaks", found.Text, StringComparison.Ordinal);
        Assert.InRange(found.Text.Length, 60, 125);

        // The middle of a word is no beginning, that of a serial is a piece of it.
        Assert.Null(Traces.Where([note], ["inge"]));
        Assert.Equal("ZX-8831", Traces.Where([new(TraceKind.Module, "ZX-8831")], ["831"])!.Text);
    }

    [Fact]
    public void A_serial_that_was_corrected_is_no_longer_the_machine_s() =>
        Assert.Equal(
            [TraceKind.Machine],
            Traces.Gone(new IntakeCorrected("NF14-1", null, null, "read from the label"))
        );
}
