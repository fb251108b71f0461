using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Revtal.Core.Orders;

namespace Revtal.Service.Board;

/// <summary>The bench's dates as calendars read them (RFC 5545).</summary>
internal static class CalendarFile
{
    public const string MediaType = "text/calendar";

    // A date is a moment; what is shorter than this some calendars hide.
    private static readonly Duration Shown = Duration.FromMinutes(15);

    /// <param name="shop">As it calls itself.</param>
    /// <param name="address">Of the console, without a slash at its end; null where nobody elsewhere reaches
    /// it.</param>
    /// <param name="now">When it is written.</param>
    public static string Write(IEnumerable<BenchDate> dates, string shop, string? address, DateTimeOffset now)
    {
        var calendar = new Ical.Net.Calendar { ProductId = "-//Revtal//Bench dates//EN" };
        calendar.AddProperty("X-WR-CALNAME", shop);
        foreach (var date in dates)
        {
            var at = date.At is { } moment
                ? new CalDateTime(moment.UtcDateTime)
                : new CalDateTime(date.On!.Value.Year, date.On.Value.Month, date.On.Value.Day);
            calendar.Events.Add(
                new CalendarEvent
                {
                    // The same from reading to reading: a promise that moves is moved, and not doubled.
                    Uid = $"{date.Order}-{date.Kind.ToString().ToLowerInvariant()}@revtal",
                    DtStamp = new CalDateTime(now.UtcDateTime),
                    Start = at,
                    Duration = date.At is null ? Duration.FromDays(1) : Shown,
                    Summary = date.Title,
                    Description = date.Text,
                    Url = address is null ? null : new Uri($"{address}/orders/{date.Order}"),
                }
            );
        }

        return new CalendarSerializer().SerializeToString(calendar) ?? "";
    }
}
