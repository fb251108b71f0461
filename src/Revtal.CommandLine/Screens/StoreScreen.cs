using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.CommandLine.Screens;

/// <summary>The store as leads see it.</summary>
internal static class StoreScreen
{
    private const double Mega = 1e6;

    public static void Show(StoreView store)
    {
        Screen.Line($"{Screen.Safe(store.Place)}, {store.Position:N0} entries; Revtal {store.Version}.");
        if (store.Room is { } room)
        {
            Screen.Line($"{room / Mega:N0} MB are free there.");
        }

        foreach (var warning in store.Warnings)
        {
            Screen.Line($"! {Screen.Safe(warning)}");
        }

        if (store.DeadMessages > 0)
        {
            Screen.Line(
                $"! {Phrases.Counted(store.DeadMessages, "message", "messages")} to other programs went nowhere. See: "
                    + "revtal shop webhooks."
            );
        }

        Screen.Line("");
        Screen.Table(
            ["service", "version", "since", "seen", "told of"],
            store.Instances.Select(i =>
                new[]
                {
                    Screen.Safe(i.Name),
                    i.Version,
                    Screen.Ago(i.BeganAt),
                    Screen.Ago(i.SeenAt),
                    $"{i.Position:N0} of {store.Position:N0}",
                }
            )
        );
        Screen.Line("");
        Screen.Line(
            store.Plan is { } plan
                ? $"A backup every {Phrases.Counted(plan.EveryHours, "hour", "hours")}; {plan.Keep} are kept."
                : "No backup is made by itself."
        );
        foreach (var backup in store.Backups)
        {
            Screen.Line(Told(backup));
        }

        Screen.Line("");
        Look(store.Look);
    }

    /// <summary>One backup in a line.</summary>
    public static string Told(BackupMade backup)
    {
        var from = $"{Screen.Ago(backup.BeganAt)}: {(backup.By is { } by ? Screen.Safe(by) : "by itself")}";
        return backup switch
        {
            { Trouble: { } why } => $"✗ {from}; {Screen.Safe(why)}",
            { EndedAt: null } => $"… {from}; {backup.Rows:N0} rows so far",
            { File: { } file } =>
                $"{(backup.Faults > 0 ? "!" : "✓")} {from}; {Screen.Safe(file)}, {backup.Bytes / Mega:N1} MB, "
                    + $"{backup.Orders:N0} orders proved, {Phrases.Counted(backup.Faults, "fault", "faults")}",
            _ => $"✓ {from}; fetched, {backup.Rows:N0} rows",
        };
    }

    /// <summary>How a look through the store goes or went.</summary>
    public static void Look(VerifyView look)
    {
        if (look.BeganAt is not { } began)
        {
            Screen.Line("Nobody looked through it yet.");
            return;
        }

        Screen.Line(
            $"{look.Orders:N0} of {look.Of:N0} orders, {look.Entries:N0} entries, {look.Pictures:N0} pictures and "
                + $"{look.Captures:N0} captures looked through, {Screen.Ago(began)}."
        );
        if (look.Faults == 0)
        {
            Screen.Line(look.EndedAt is null ? "Nothing found so far." : "All of it is as it was recorded.");
            return;
        }

        Screen.Table(
            ["order", "entry", $"{look.Faults:N0} found"],
            look.First.Select(f => new[] { $"{f.Order}", $"{f.Sequence}", Screen.Safe(f.Sentence) })
        );
    }
}
