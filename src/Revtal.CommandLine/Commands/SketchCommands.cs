using System.CommandLine;
using System.Globalization;
using System.Text.RegularExpressions;
using Revtal.CommandLine.Screens;
using Revtal.Contracts;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Core.Orders;

namespace Revtal.CommandLine.Commands;

/// <summary>Telling what is found on a machine of which the shop has but a sketch.</summary>
internal static partial class SketchCommands
{
    [GeneratedRegex(
        @"^(?<count>\d{1,2}) (?<driver>\S+)( (?<length>\d+(\.\d+)?)( ?mm)?)?(?<captive> captive)?(?<seal> seal)?"
            + "( hidden:? (?<hidden>.+))?$"
    )]
    private static partial Regex HeldBy();

    public static Command CameOff()
    {
        var number = Cli.Number();
        var name = new Argument<string>("NAME") { Description = "A word for it: “bottom cover”" };
        var held = new Option<string[]>("--held-by")
        {
            Description =
                "“8 PH0 5 mm”, “2 PH0 8 mm hidden under the feet”, “4 hand captive”, “1 T5 3 mm seal”; once a kind",
        };
        var clips = new Option<int?>("--clips") { Description = "How many it still hung on" };
        var cable = new Option<string[]>("--cable") { Description = "Unplugged from it; once each" };
        var bays = new Option<string[]>("--takes-out") { Description = "A bay whose drive leaves with it; once each" };
        var isolates = new Option<bool>("--cuts-power") { Description = "Power stayed on the board until it was off" };
        var how = new Option<string?>("--how") { Description = "How it came off" };
        var pry = new Option<string?>("--pry") { Description = "With what it was pried" };
        var photo = new Option<string?>("--photo") { Description = "The hash of a photo that is on the order" };
        return Cli.Change(
            "off",
            "Say what came off of a model that the shop only sketches; it is counted with it",
            "revtal run off 124 \"bottom cover\" --held-by \"8 PH0 5 mm\" --clips 6 --as pell",
            (p, client, cancel) =>
                client.CameOffAsync(
                    p.GetValue(number),
                    new CameOffRequest(
                        new CameOffWish(
                            p.GetValue(name)!,
                            [.. (p.GetValue(held) ?? []).Select(Fasteners)],
                            p.GetValue(clips),
                            p.GetValue(cable),
                            p.GetValue(bays),
                            p.GetValue(isolates),
                            p.GetValue(how),
                            p.GetValue(pry),
                            p.GetValue(photo)
                        )
                    ),
                    cancel
                ),
            number,
            name,
            held,
            clips,
            cable,
            bays,
            isolates,
            how,
            pry,
            photo
        );
    }

    public static Command Seen()
    {
        var number = Cli.Number();
        var position = new Argument<string>("POSITION") { Description = "As printed on the board: S1, DIMM-A2, D1" };
        var bay = new Option<bool>("--bay") { Description = "It is a bay for a drive, not a slot" };
        var label = new Option<string?>("--label") { Description = "What is printed beside it, or its colour" };
        var channel = new Option<string?>("--channel");
        var soldered = new Option<bool>("--soldered");
        var below = new Option<string?>("--below") { Description = "The slot that lies over it" };
        var max = new Option<string?>("--max") { Description = "The largest module: 16 GB" };
        var angle = new Option<int?>("--angle") { Description = "At which the module goes in: 0 to 90" };
        var latch = new Option<string?>("--latch") { Description = string.Join(", ", GuideTerms.Latches) };
        var press = new Option<string?>("--press") { Description = string.Join(", ", GuideTerms.Presses) };
        var notch = new Option<string?>("--notch") { Description = "Where the notch points" };
        var form = new Option<string?>("--form") { Description = "A bay's: M.2 2280" };
        var key = new Option<string?>("--key") { Description = "An M.2 socket's: M" };
        var link = new Option<string?>("--link") { Description = "A bay's: PCIe 3.0 x4" };
        var pad = new Option<decimal?>("--pad") { Description = "Its thermal pad, in mm" };
        var hold = new Option<string?>("--hold") { Description = "The cable, tray or cage that holds the drive" };
        return Cli.Change(
            "seen",
            "Say what is seen of a slot or bay of a model that the shop only sketches",
            "revtal run seen 124 S2 --angle 30 --latch spread-both --notch \"short side to the hinge\" --as pell",
            (p, client, cancel) =>
                client.PositionAsync(
                    p.GetValue(number),
                    new PositionRequest(
                        new SeenPosition(
                            p.GetValue(position)!,
                            p.GetValue(bay),
                            p.GetValue(label),
                            p.GetValue(channel),
                            p.GetValue(soldered) ? true : null,
                            p.GetValue(below),
                            p.GetValue(max) is { } m ? MemorySize.Parse(m) : null,
                            p.GetValue(angle),
                            p.GetValue(latch),
                            p.GetValue(press),
                            p.GetValue(notch),
                            p.GetValue(form),
                            p.GetValue(key),
                            p.GetValue(link),
                            p.GetValue(pad),
                            p.GetValue(hold)
                        )
                    ),
                    cancel
                ),
            number,
            position,
            bay,
            label,
            channel,
            soldered,
            below,
            max,
            angle,
            latch,
            press,
            notch,
            form,
            key,
            link,
            pad,
            hold
        );
    }

    public static Command Adopt()
    {
        var number = Cli.Number();
        var revision = new Option<int?>("--revision") { Description = "The newest where none is named" };
        var look = new Option<bool>("--look") { Description = "Only tells what would change" };
        return Cli.Command(
            "adopt",
            "Go on by a newer revision of the guide, where nothing that was done is contradicted",
            "revtal order adopt 124 --look",
            async (p, client, cancel) =>
            {
                var order = p.GetValue(number);
                if (p.GetValue(look))
                {
                    Cli.Show(p, await client.AdoptionAsync(order, p.GetValue(revision), cancel), Changes);
                    return;
                }

                Cli.Show(
                    p,
                    await client.AdoptAsync(order, new AdoptRequest(p.GetValue(revision)), cancel),
                    OrderScreen.Receipt
                );
            },
            number,
            revision,
            look
        );
    }

    private static void Changes(Adoption adoption)
    {
        Screen.Marked($"[bold]revision {adoption.Revision}[/]");
        if (adoption.WhyNot is { } no)
        {
            Screen.Marked($"[red]not now[/]  {Screen.Safe(no)}");
        }

        if (adoption.PlanDropped)
        {
            Screen.Marked("[yellow]the plan does not suit it and would be made anew[/]");
        }

        foreach (var title in adoption.New)
        {
            Screen.Marked($"[green]+[/] {Screen.Safe(title)}");
        }

        foreach (var title in adoption.Gone)
        {
            Screen.Marked($"[red]-[/] {Screen.Safe(title)}");
        }

        if (adoption is { New.Count: 0, Gone.Count: 0, PlanDropped: false, WhyNot: null })
        {
            Screen.Marked("[grey]its steps stay as they are[/]");
        }
    }

    private static CameOffFasteners Fasteners(string text)
    {
        var told = HeldBy().Match(text.Trim());
        return told.Success
            ? new CameOffFasteners(
                int.Parse(told.Groups["count"].Value, CultureInfo.InvariantCulture),
                told.Groups["driver"].Value,
                told.Groups["length"] is { Success: true, Value: var length }
                    ? decimal.Parse(length, CultureInfo.InvariantCulture)
                    : null,
                told.Groups["captive"].Success,
                told.Groups["seal"].Success,
                told.Groups["hidden"] is { Success: true, Value: var hidden } ? hidden : null
            )
            : throw RefusedException.Invalid(
                "held-by",
                $"“{text}” is no kind of fastener. Write count, driver, length and what is special: “8 PH0 5 mm”, "
                    + "“2 PH0 8 mm hidden under the feet”."
            );
    }
}
