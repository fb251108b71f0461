using CsCheck;
using Revtal.Core;
using Revtal.Core.Bench;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Documents;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class GuideTests
{
    public static TheoryData<string> Codes => ["FJ14", "NS13", "PW24", "QT40", "QW80", "TB6", "NM2", "NL12"];

    [Theory]
    [MemberData(nameof(Codes))]
    public void Written_and_read_again_a_guide_means_the_same(string code)
    {
        var guide = Repository.Guide(code);
        var again = GuideYaml.Read(GuideYaml.Write(guide)).Guide!;
        Assert.Empty(GuideComparison.Of(guide, again));
        Assert.Equal(
            guide.Variants.Select(v => (v.Id, v.TellApart, v.Label)),
            again.Variants.Select(v => (v.Id, v.TellApart, v.Label))
        );
        Assert.All(
            guide.Variants.Zip(again.Variants),
            v => Assert.Empty(GuideComparison.Of(v.First.Guide, v.Second.Guide))
        );
    }

    [Theory]
    [MemberData(nameof(Codes))]
    public void Every_position_can_be_reached_and_every_way_closed(string code)
    {
        var guide = Repository.Guide(code);
        foreach (var facts in guide.Variants.Select(v => v.Guide).Append(guide))
        {
            foreach (var position in facts.Positions)
            {
                var way = Reach.To(facts, [position], handsIn: true);
                Assert.All(facts.Removals.Where(r => r.Isolates), r => Assert.Contains(r, way));
                Assert.All(
                    way,
                    r =>
                        Assert.All(
                            r.Needs.Where(n => n != Reach.Isolated),
                            n => Assert.Contains(way.TakeWhile(w => w != r), w => w.Id == n)
                        )
                );
            }
        }
    }

    [Fact]
    public void A_variant_differs_in_its_facts_and_shares_the_rest()
    {
        var guide = Repository.Guide("FJ14");
        var build = guide.For("FJ14-1");
        Assert.True(build.Slot("S1")!.Soldered);
        Assert.Equal(
            (null, MemorySize.Gigabytes(4), "S2"),
            (build.Slot("S1")!.Reach, build.Slot("S1")!.Max!.Value, build.Slot("S1")!.Below!)
        );
        Assert.Empty(build.Removals.Single(r => r.Id == "keyboard").Fasteners);
        Assert.Equal(
            guide.Removals.Single(r => r.Id == "keyboard").Open,
            build.Removals.Single(r => r.Id == "keyboard").Open
        );
        Assert.Same(guide, guide.For(null));
        Assert.DoesNotContain(Repository.Guide("PW24").For("PW24-T").Removals, r => r.Id == "rear-door");
    }

    // Maps, lists of named things and plain lists, as guides are made of.
    private static readonly Gen<GuideNode> Values = Gen.OneOf<GuideNode>(
        OneOf("a", "b", "c").Select(t => (GuideNode)new GuideNode.Scalar(t, 1)),
        OneOf("a", "b")
            .List[0, 3]
            .Select(l => (GuideNode)new GuideNode.List([.. l.Select(t => new GuideNode.Scalar(t, 1))], 1))
    );

    private static readonly Gen<GuideNode> Things = Gen.Select(OneOf("S1", "S2", "S3"), Fields(Values, "max", "notch"))
        .List[0, 3]
        .Select(l =>
            (GuideNode)
                new GuideNode.List(
                    [
                        .. l.DistinctBy(t => t.Item1)
                            .Select(t => new GuideNode.Map(
                                [("id", new GuideNode.Scalar(t.Item1, 1)), .. t.Item2.Fields],
                                1
                            )),
                    ],
                    1
                )
        );

    private static readonly Gen<GuideNode.Map> Nodes = Fields(
        Gen.OneOf(Values, Things, Fields(Values, "x", "y").Select(m => (GuideNode)m)),
        "slots",
        "name",
        "more"
    );

    [Fact]
    public void What_differs_laid_over_what_is_common_gives_the_other() =>
        Gen.Select(Nodes, Nodes)
            .Sample(
                (common, other) =>
                {
                    var differs = GuideOverlay.Difference(common, other);
                    Assert.True(GuideNode.Same(other, differs is null ? common : GuideOverlay.Lay(common, differs)));
                    Assert.Null(GuideOverlay.Difference(other, other));
                }
            );

    [Fact]
    public void A_suggestion_changes_what_it_names_and_nothing_else()
    {
        var guide = Repository.Guide("PW24");
        string[] Paths(GuideChange change) =>
            [.. GuideComparison.Of(guide, GuideChanges.Apply(guide, change)).Select(d => d.Path)];
        Assert.Equal(["removals[stand].minutes"], Paths(new GuideChange(GuideChangeKind.Minutes, "stand", Number: 6)));
        Assert.Equal(
            ["removals[stand].fasteners[stand].hidden"],
            Paths(new GuideChange(GuideChangeKind.Hidden, "stand", "under the cap"))
        );
        Assert.Equal(
            ["traps[3].at", "traps[3].text"],
            Paths(new GuideChange(GuideChangeKind.Trap, "fit.S1", "Mind the pipe."))
        );
        var proved = GuideChanges.Apply(
            guide,
            new GuideChange(GuideChangeKind.ConfirmedMax, Number: 7, Size: MemorySize.Gigabytes(96))
        );
        Assert.Equal(MemorySize.Gigabytes(96), proved.For("PW24-T").Memory.ConfirmedMax!.Size);
        Assert.Equal(
            [7, 9],
            GuideChanges
                .Apply(proved, new GuideChange(GuideChangeKind.ConfirmedMax, Number: 9, Size: MemorySize.Gigabytes(96)))
                .Memory.ConfirmedMax!.Orders
        );
        Assert.Equal("change-target", Code(new GuideChange(GuideChangeKind.Minutes, "roof", Number: 6)));
        Assert.Equal("change-lacks", Code(new GuideChange(GuideChangeKind.Trap, "fit.S1", " ")));
        Assert.Equal("change-word", Code(new GuideChange(GuideChangeKind.Precaution, "stand", "hot", "wind")));

        string Code(GuideChange change) =>
            Assert.Throws<RefusedException>(() => GuideChanges.Apply(guide, change)).Code;
    }

    [Fact]
    public void The_sheet_gathers_the_tools_of_the_way_and_says_what_usually_holds()
    {
        var plan = Revtal.Core.Planning.Planner.Make(
            Make.Fjell,
            Make.Reading(Make.Fjell, [0, 8]),
            [new("S1", Make.Module(8))]
        );
        var sheet = RunSheetBuilder.ForPlan(Make.Fjell, plan);
        Assert.Contains("Tools: plastic card.", sheet.Find(StepId.Parse("prepare.bench")).Details);
        var prepare = sheet.Find(StepId.Parse("prepare.bench"));
        Assert.Contains("Trays: 2 × keyboard 3 mm.", prepare.Details);
        // Those of the hatch stay in it, and need no tray; the bit turns both.
        Assert.Equal(["PH0"], prepare.Bits);
        Assert.Equal([("keyboard", 2, 3m)], prepare.Trays.Select(t => (t.Group, t.Count, t.Length!.Value)));
        Assert.Equal(
            "A fastener is still in: keyboard, one sits under the hatch.",
            sheet.Find(StepId.Parse("open.keyboard")).Stuck[0]
        );
        Assert.Contains(
            sheet.Find(StepId.Parse("close.keyboard")).Details,
            d => d.StartsWith("It sits right when", StringComparison.Ordinal)
        );
    }

    private static Gen<string> OneOf(params string[] texts) => Gen.Int[0, texts.Length - 1].Select(i => texts[i]);

    private static Gen<GuideNode.Map> Fields(Gen<GuideNode> values, params string[] keys) =>
        Gen.Select(Gen.Bool.Array[keys.Length], values.Array[keys.Length])
            .Select(
                (has, v) =>
                    new GuideNode.Map(
                        [.. keys.Select((k, i) => (k, v[i], has[i])).Where(f => f.Item3).Select(f => (f.k, f.Item2))],
                        1
                    )
            );
}
