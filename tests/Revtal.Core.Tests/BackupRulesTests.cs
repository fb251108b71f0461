using Revtal.Core;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>When a backup is due, and what a lead is told.</summary>
public class BackupRulesTests
{
    private static readonly DateTimeOffset Now = new(2026, 3, 2, 9, 30, 0, TimeSpan.Zero);
    private static readonly BackupPlan Daily = new(24, 14);

    [Theory]
    // Hours since the last good one, hours since one that failed; whether it is time.
    [InlineData(null, null, true)]
    [InlineData(23.9, null, false)]
    [InlineData(24.1, null, true)]
    [InlineData(30.0, 0.5, false)]
    [InlineData(30.0, 1.1, true)]
    [InlineData(null, 0.5, false)]
    [InlineData(2.0, 1.5, false)]
    public void It_is_due_a_day_after_a_good_one_and_an_hour_after_a_failure(
        double? good,
        double? failed,
        bool isDue
    ) => Assert.Equal(isDue, BackupRules.IsDue(Daily, Made(good, failed), Now));

    [Fact]
    public void One_that_goes_on_is_not_begun_anew_within_the_hour() =>
        Assert.False(BackupRules.IsDue(Daily, [Of(Now.AddMinutes(-20)) with { EndedAt = null }], Now));

    [Theory]
    [InlineData(true, null, null, "There is no backup yet.")]
    [InlineData(false, null, null, "none is made by itself")]
    [InlineData(true, 47.0, null, null)]
    [InlineData(true, 49.0, null, "The last backup is 2 days old.")]
    [InlineData(false, 100.0, null, "The last backup is 4 days old.")]
    [InlineData(true, 20.0, 2.0, "The backup of 2026-03-02 07:30 UTC failed: the disk is full")]
    [InlineData(true, 2.0, 20.0, null)]
    public void A_lead_is_warned_of_one_that_is_missing_old_or_failed(
        bool byItself,
        double? good,
        double? failed,
        string? said
    )
    {
        var warnings = BackupRules.Warnings(byItself ? Daily : null, Made(good, failed), Now);
        if (said is null)
        {
            Assert.Empty(warnings);
        }
        else
        {
            Assert.Contains(said, Assert.Single(warnings), StringComparison.Ordinal);
        }
    }

    [Fact]
    public void One_that_holds_what_was_not_recorded_so_is_named() =>
        Assert.Contains(
            "not as it was recorded",
            Assert.Single(BackupRules.Warnings(Daily, [Of(Now) with { Faults = 2 }], Now))
        );

    [Theory]
    [InlineData("2026-03-01 300 {a}|2026-03-02 335 {b}", 2, null)]
    [InlineData("2025-01-01 1 {a}|2026-03-02 335 {b}", 1, null)]
    [InlineData("2026-03-02 335 {a}", 0, "other-heads")]
    [InlineData("2026-03-02 334 {b}", 0, "other-heads")]
    [InlineData("2026-03-03 340 {b}", 0, "other-heads")]
    [InlineData("2025-01-01 1 {a}", 0, "no-heads")]
    [InlineData("", 0, "no-heads")]
    [InlineData("2026-03-02 335", 0, "no-head")]
    [InlineData("letters", 0, "no-head")]
    public void Heads_that_were_kept_are_all_there_or_one_is_named(string kept, int compared, string? refused)
    {
        var (a, b) = (new string('a', 64), new string('b', 64));
        DayHead[] now = [new("2026-03-02", 335, b, "k"), new("2026-03-01", 300, a, "k")];
        var lines = kept.Replace("{a}", a, StringComparison.Ordinal)
            .Replace("{b}", b, StringComparison.Ordinal)
            .Split('|', StringSplitOptions.RemoveEmptyEntries);
        if (refused is null)
        {
            Assert.Equal(compared, DayHead.Compare(lines, now));
        }
        else
        {
            Assert.Equal(refused, Assert.Throws<RefusedException>(() => DayHead.Compare(lines, now)).Code);
        }
    }

    // Newest first.
    private static List<BackupMade> Made(double? good, double? failed) =>
        [
            .. new[]
            {
                good is { } g ? Of(Now.AddHours(-g)) : null,
                failed is { } f ? Of(Now.AddHours(-f)) with { Trouble = "the disk is full" } : null,
            }
                .OfType<BackupMade>()
                .OrderByDescending(b => b.BeganAt),
        ];

    private static BackupMade Of(DateTimeOffset at) => new(at, null, at.AddMinutes(1), "f", 1, 1, 1, 1, 0, "", null);
}
