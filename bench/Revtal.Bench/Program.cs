using System.Globalization;
using Revtal.Bench;

// What a sign-in may ask is no matter of speed.
Environment.SetEnvironmentVariable("REVTAL_Rate", "0");

// Each figure is measured beside its floor in the same run, in turns, so that a machine that slows down slows both.
if (args is ["bare", var url, var file])
{
    await BareServer.RunAsync(url, file);
    return 0;
}

if (args is ["smallest", var at, var store])
{
    await SmallestService.RunAsync(at, store);
    return 0;
}

if (args is ["truth"])
{
    return TruthTable.Print();
}

if (args is ["million", var orders, var engine, .. var filled])
{
    var large = new Report();
    await MillionBench.RunAsync(large, int.Parse(orders, CultureInfo.InvariantCulture), engine, [.. filled]);
    return large.AllMet ? 0 : 1;
}

if (args is ["kills", var times, var killed])
{
    var all = new Report();
    await KillsBench.RunAsync(all, int.Parse(times, CultureInfo.InvariantCulture), killed);
    return all.AllMet ? 0 : 1;
}

var wanted =
    args.Length == 0 || args[0] == "all"
        ?
        [
            "decode",
            "reach",
            "recognise",
            "plan",
            "batch",
            "measure",
            "start",
            "read",
            "write",
            "board",
            "live",
            "console",
            "run-view",
            "load-plot",
            "tablet",
            "terminal",
            "write-postgres",
            "instances",
        ]
        : args;
var report = new Report();
foreach (var name in wanted)
{
    switch (name)
    {
        case "decode":
            DecodeBench.Run(report);
            break;
        case "reach":
            ReachBench.Run(report);
            break;
        case "recognise":
            await RecogniseBench.RunAsync(report);
            break;
        case "plan":
            await PlanBench.RunAsync(report);
            break;
        case "batch":
            await BatchBench.RunAsync(report);
            break;
        case "measure":
            MeasureBench.Run(report);
            break;
        case "fuzz":
            FuzzBench.Run(report);
            break;
        case "requests":
            await ApiFuzzBench.RunAsync(report);
            break;
        case "run-view":
            await BrowserBench.RunViewAsync(report);
            break;
        case "load-plot":
            await BrowserBench.LoadPlotAsync(report);
            break;
        case "tablet":
            await BrowserBench.TabletAsync(report);
            break;
        case "terminal":
            await TerminalBench.RunAsync(report);
            break;
        case "start":
            await StartBench.RunAsync(report);
            break;
        case "read":
            await ReadBench.RunAsync(report);
            break;
        case "write":
            await WriteBench.RunAsync(report);
            break;
        case "board":
            await BoardBench.RunAsync(report);
            break;
        case "live":
            await LiveBench.RunAsync(report);
            break;
        case "write-postgres":
            await WriteBench.RunPostgresAsync(report);
            break;
        case "instances":
            await InstancesBench.RunAsync(report);
            break;
        case "console":
            ConsoleBench.Run(report);
            break;
        default:
            Console.Error.WriteLine(
                $"There is no benchmark “{name}”: decode, reach, recognise, plan, batch, measure, start, read, "
                    + "write, board, live, console, run-view, load-plot, tablet, terminal, write-postgres, instances, "
                    + "fuzz (ten minutes), requests (50,000 made up), million 1000000 sqlite (or postgres; half an "
                    + "hour), kills 200 sqlite (or postgres; ten minutes), or all (without fuzz and those after it)."
            );
            return 2;
    }
}

return report.AllMet ? 0 : 1;
