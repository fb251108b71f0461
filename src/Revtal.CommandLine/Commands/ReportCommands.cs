using System.CommandLine;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;

namespace Revtal.CommandLine.Commands;

/// <summary>What the customer takes home, and the proof of it.</summary>
internal static class ReportCommands
{
    private const long LargestProof = 1 << 20;

    public static Command Make() =>
        Cli.Noun(
            "report",
            "What the customer takes home, and its proof",
            Show(),
            New(),
            Link(),
            Save(),
            Verify(),
            Keys()
        );

    private static Command Show()
    {
        var number = Cli.Number();
        return Cli.Command(
            "show",
            "The report that was made last, else as it would be made now",
            "revtal report show 107",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    await client.ReportAsync(p.GetValue(number), cancel),
                    view =>
                    {
                        ReportScreen.Show(view.Report);
                        ReportScreen.Made(view);
                    }
                ),
            number
        );
    }

    private static Command New()
    {
        var number = Cli.Number();
        return Cli.Change(
            "make",
            "Make the report as the order stands, and sign it",
            "revtal report make 107 --as sanne",
            (p, client, cancel) => client.MakeReportAsync(p.GetValue(number), cancel),
            number
        );
    }

    private static Command Link()
    {
        var number = Cli.Number();
        return PlanCommands.Link(
            "revtal report link 107 --days 30 --as sanne",
            "Make a link by which the customer reads the report; it is shown once",
            number,
            null,
            (client, order, request, cancel) => client.OfferReportAsync(order, request, cancel)
        );
    }

    private static Command Save()
    {
        var number = Cli.Number();
        var pdf = new Option<string?>("--pdf") { Description = "Write the report as a PDF to this file" };
        var proof = new Option<string?>("--proof") { Description = "Write its proof to this file" };
        return Cli.Command(
            "save",
            "Write the report that was made last, or its proof, to a file",
            "revtal report save 107 --pdf report.pdf --proof report.jws",
            async (p, client, cancel) =>
            {
                if (p.GetValue(pdf) is null && p.GetValue(proof) is null)
                {
                    throw RefusedException.Invalid("save-what", "Say what to write: --pdf FILE, --proof FILE or both.");
                }

                if (p.GetValue(pdf) is { } paper)
                {
                    Files.Write(paper, await client.ReportPaperAsync(p.GetValue(number), cancel));
                    Screen.Line(paper);
                }

                if (p.GetValue(proof) is { } file)
                {
                    Files.Write(file, await client.ProofAsync(p.GetValue(number), cancel));
                    Screen.Line(file);
                }
            },
            number,
            pdf,
            proof
        );
    }

    private static Command Verify()
    {
        var file = new Argument<string>("FILE") { Description = "A proof; or its id, as it stands on the paper" };
        return Cli.Command(
            "verify",
            "Whether the shop signed a proof and nothing of it was changed; nobody need sign in",
            "revtal report verify report.jws",
            async (p, client, cancel) =>
            {
                var given = p.GetValue(file)!;
                if (!File.Exists(given) && Core.Reports.ProofId.TryParse(given, out _))
                {
                    Cli.Show(p, await client.ProofMarkAsync(given, cancel), ReportScreen.Mark);
                    return;
                }

                var view = await client.CheckProofAsync(new ProofCheckRequest(Files.Text(given, LargestProof)), cancel);
                Cli.Show(p, view, ReportScreen.Proof);
                if (!view.Genuine)
                {
                    throw RefusedException.Rule("not-genuine", view.Sentence);
                }
            },
            file
        );
    }

    private static Command Keys()
    {
        var turn = new Option<bool>("--turn") { Description = "Sign by a new key from now on (leads)" };
        return Cli.Command(
            "keys",
            "The keys by which the shop signs or signed; what an old one signed stays good",
            "revtal report keys --turn --as ines",
            async (p, client, cancel) =>
                Cli.Show(
                    p,
                    p.GetValue(turn) ? await client.TurnKeyAsync(cancel) : await client.KeysAsync(cancel),
                    keys =>
                        Screen.Table(
                            ["key", "", "algorithm"],
                            keys.Keys.Select((k, i) => new[] { k.Kid, i == 0 ? "signs now" : "signed", k.Alg })
                        )
                ),
            turn
        );
    }
}
