using System.Diagnostics;
using System.Net;
using Microsoft.Data.Sqlite;
using Revtal.Client;
using Revtal.Contracts;
using Xunit;

namespace Revtal.Tests.Service;

/// <summary>A lead has the store looked through while the bench goes on with it.</summary>
public class VerifyTests
{
    [Fact]
    public async Task A_note_that_was_changed_in_the_file_is_named_and_everything_stays_readable()
    {
        await using var service = await ServiceProcess.StartAsync();
        var (ines, mara) = (service.As("ines"), service.As("mara"));
        var order = (await ines.TakeInAsync(new TakeInRequest("FJ14", "Choir's archive", "slow"))).Order;
        await mara.NoteAsync(order, new NoteRequest("the hinge is whole"));
        await mara.NoteAsync(order, new NoteRequest("and the lid too"));

        var refused = await Assert.ThrowsAsync<ProblemException>(() => mara.VerifyStoreAsync());
        Assert.Equal((HttpStatusCode.Forbidden, "lead-verifies"), (refused.Status, refused.Code));
        Assert.Null((await ines.VerificationAsync()).BeganAt);

        var (code, told) = await RevtalAsync(service, "shop", "verify");
        Assert.Equal(0, code);
        Assert.Contains("All of it is as it was recorded.", told, StringComparison.Ordinal);
        var clean = await ines.VerificationAsync();
        Assert.Equal((1, 1, 3, 0, "ines"), (clean.Orders, clean.Of, clean.Entries, clean.Faults, clean.By));

        Change(
            service,
            $"""
            UPDATE entries SET "Body" = replace("Body", 'whole', 'broken') WHERE "Order" = {order} AND "Sequence" = 2
            """
        );
        (code, told) = await RevtalAsync(service, "shop", "verify");
        Assert.Equal(1, code);
        Assert.Contains("Entry 2 is not as it was recorded.", told, StringComparison.Ordinal);
        var fault = Assert.Single((await ines.VerificationAsync()).First);
        Assert.Equal((order, 2), (fault.Order, fault.Sequence));
        Assert.Equal(1, (await RevtalAsync(service, "shop", "verify", "--last")).Code);

        // Nothing is refused for it.
        Assert.Equal(3, (await mara.OrderAsync(order)).Head);
        await mara.NoteAsync(order, new NoteRequest("goes on"));
        await Looked(ines);
        Assert.Equal(2, Assert.Single((await ines.VerificationAsync()).First).Sequence);
    }

    [Fact]
    public async Task An_entry_that_nobody_can_read_any_more_is_named_and_the_rest_looked_through()
    {
        await using var service = await ServiceProcess.StartAsync();
        var ines = service.As("ines");
        var one = (await ines.TakeInAsync(new TakeInRequest("FJ14", "Ferry ticket desk", "slow"))).Order;
        var two = (await ines.TakeInAsync(new TakeInRequest("FJ14", "Choir's archive", "slow"))).Order;
        Change(service, $"""UPDATE entries SET "Body" = x'00ff' WHERE "Order" = {one}""");
        var look = await Looked(ines);
        Assert.Null(look.Trouble);
        Assert.Equal(2, look.Orders);
        Assert.All(look.First, f => Assert.Equal((one, 1), (f.Order, f.Sequence)));
        Assert.Contains(look.First, f => f.Sentence.Contains("cannot be read", StringComparison.Ordinal));
        Assert.Equal(1, (await ines.OrderAsync(two)).Head);
    }

    [Fact]
    public async Task An_invoice_s_number_that_is_gone_or_another_order_s_is_named()
    {
        await using var service = await ServiceProcess.StartAsync();
        var ines = service.As("ines");
        var order = (await ines.TakeInAsync(new TakeInRequest("FJ14", "Choir's archive", "slow"))).Order;
        Change(service, $"INSERT INTO invoices VALUES (1, {order}, 1)");
        Change(service, "INSERT INTO invoices VALUES (3, 102, 1)");
        var told = (await Looked(ines)).First.Select(f => f.Sentence).ToArray();
        Assert.Contains(
            told,
            s => s.StartsWith($"The list of invoices has others of order {order}", StringComparison.Ordinal)
        );
        Assert.Contains("Invoice 2 is gone: there are later ones.", told);
    }

    [Fact]
    public async Task The_demo_shop_s_rows_say_what_its_entries_say()
    {
        await using var demo = await ServiceProcess.StartAsync(program: "revtal-demo");
        var look = await Looked(demo.As("ines"));
        Assert.Empty(look.First);
        Assert.True(look is { Orders: > 30, Entries: > 500, Pictures: > 0, Captures: > 0 });
    }

    [Fact]
    public async Task A_machine_whose_serial_was_misread_is_found_by_the_right_one()
    {
        await using var service = await ServiceProcess.StartAsync();
        var sanne = service.As("sanne");
        var order = (
            await sanne.TakeInAsync(new TakeInRequest("FJ14", "Bird-ringing station", "slow") { Serial = "NF14-0640" })
        ).Order;
        await sanne.CorrectAsync(order, new CorrectRequest(Reason: "read from the label", Serial: "NF14-0646"));
        Assert.Equal(order, Assert.Single((await sanne.MachineAsync("NF14-0646")).Orders).Number);
        Assert.Equal((404, "no-such-machine"), await Story.Refused(sanne.MachineAsync("NF14-0640")));
        Assert.Empty((await Looked(service.As("ines"))).First);
    }

    internal static async Task<VerifyView> Looked(RevtalClient lead)
    {
        for (var look = await lead.VerifyStoreAsync(); ; look = await lead.VerificationAsync())
        {
            if (look.EndedAt is not null)
            {
                return look;
            }

            await Task.Delay(50);
        }
    }

    private static void Change(ServiceProcess service, string sql)
    {
        using var connection = new SqliteConnection($"Data Source={service.Folder}/revtal.db;Pooling=false");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        Assert.Equal(1, command.ExecuteNonQuery());
    }

    private static async Task<(int Code, string Output)> RevtalAsync(ServiceProcess service, params string[] arguments)
    {
        var start = new ProcessStartInfo(
            Repository.At("bin", "revtal"),
            [.. arguments, "--service", $"{service.Http.BaseAddress}", "--as", "ines"]
        )
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["REVTAL_SIGN_INS"] = Staff.SignInsFile(service);
        using var process = Process.Start(start)!;
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return (process.ExitCode, output);
    }
}
