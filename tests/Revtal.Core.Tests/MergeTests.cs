using CsCheck;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Revtal.Documents;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Two shops' guides of one model, brought together.</summary>
public sealed class MergeTests
{
    private static readonly string Fjell = File.ReadAllText(Repository.At("guides", "FJ14.yaml"));

    // One change a line, each of another fact, with the path at which it is told.
    private static readonly (string Was, string Becomes, string Path)[] Changes =
    [
        ("stated-max: 32 GB", "stated-max: 24 GB", "memory.stated-max"),
        ("built: 2021..2023", "built: 2021..2024", "model.built"),
        ("hold-power: 10 s", "hold-power: 15 s", "isolate"),
        ("driver: PH0, length: 5 mm", "driver: PH00, length: 5 mm", "removals[hatch].fasteners[hatch].driver"),
        ("pairing: any", "pairing: alike-in-pairs", "memory.pairing"),
    ];

    [Fact]
    public void What_only_they_changed_is_taken_what_only_we_changed_stays_and_both_is_asked()
    {
        var common = Read(Fjell);
        var ours = Read(With(Fjell, 0, 1).Replace("angle: 30", "angle: 25", StringComparison.Ordinal));
        var theirs = Read(With(Fjell, 2).Replace("angle: 30", "angle: 20", StringComparison.Ordinal));
        var merged = GuideMerge.Of(common, ours, theirs, [], []);
        Assert.Equal(
            [
                ("model.built", MergeSide.Ours),
                ("memory.stated-max", MergeSide.Ours),
                ("memory.slots[S1].angle", MergeSide.Both),
                ("memory.slots[S2].angle", MergeSide.Both),
                ("isolate", MergeSide.Theirs),
            ],
            merged.Facts.Select(f => (f.Path, f.Changed))
        );
        Assert.Equal(("30", "25", "20"), Told(merged, "memory.slots[S1].angle"));
        Assert.Equal(MemorySize.Gigabytes(24), merged.Guide.Memory.StatedMax);
        Assert.Equal(15, merged.Guide.Isolate.Single(i => i.Kind == "hold-power").Duration!.Value.Seconds);
        Assert.Equal([25, 25], merged.Guide.Memory.Slots.Select(s => s.Angle!.Value));
        var decided = GuideMerge.Of(common, ours, theirs, ["memory.slots[S2].angle"], ["isolate"]).Guide;
        Assert.Equal([25, 20], decided.Memory.Slots.Select(s => s.Angle!.Value));
        Assert.Equal(10, decided.Isolate.Single(i => i.Kind == "hold-power").Duration!.Value.Seconds);
        Assert.Equal(
            "merge-path",
            Assert.Throws<RefusedException>(() => GuideMerge.Of(common, ours, theirs, ["model.maker"], [])).Code
        );
    }

    [Fact]
    public void Changes_of_different_facts_never_meet_and_each_shop_gets_the_same_from_the_other() =>
        Gen.Select(Gen.Int[0, (1 << 5) - 1], Gen.Int[0, (1 << 5) - 1])
            .Sample(
                (mine, yours) =>
                {
                    var ours = Read(With(Fjell, Bits(mine & ~yours)));
                    var theirs = Read(With(Fjell, Bits(yours & ~mine)));
                    var (common, all) = (Read(Fjell), Read(With(Fjell, Bits(mine ^ yours))));
                    var here = GuideMerge.Of(common, ours, theirs, [], []);
                    var there = GuideMerge.Of(common, theirs, ours, [], []);
                    Assert.Empty(GuideComparison.Of(all, here.Guide));
                    Assert.Empty(GuideComparison.Of(all, there.Guide));
                    Assert.DoesNotContain(here.Facts, f => f.Changed == MergeSide.Both);
                    // Taking all of theirs is theirs, and keeping all of ours is ours.
                    string[] paths = [.. here.Facts.Select(f => f.Path)];
                    Assert.Empty(GuideComparison.Of(theirs, GuideMerge.Of(common, ours, theirs, paths, []).Guide));
                    Assert.Empty(GuideComparison.Of(ours, GuideMerge.Of(common, ours, theirs, [], paths).Guide));
                }
            );

    [Fact]
    public void A_thing_that_only_one_has_comes_or_goes_whole()
    {
        const string Trap = "  - { at: fit.S2, text: \"told by the other bench\" }\n";
        var common = Read(Fjell);
        var theirs = Read(Fjell.Replace("\ntraps:\n", $"\ntraps:\n{Trap}", StringComparison.Ordinal));
        Assert.Contains(GuideMerge.Of(common, common, theirs, [], []).Guide.Traps, t => t.Text.Contains("other bench"));

        // They took a build away that we still have as it was; and where we changed it, somebody decides.
        var fewer = common with
        {
            Variants = [],
        };
        Assert.Empty(GuideMerge.Of(common, common, fewer, [], []).Guide.Variants);
        var changed = common with { Variants = [common.Variants[0] with { TellApart = "a red label" }] };
        var both = GuideMerge.Of(common, changed, fewer, [], []);
        Assert.Contains(
            both.Facts,
            f => f.Path.StartsWith("variants", StringComparison.Ordinal) && f.Changed == MergeSide.Both
        );
        Assert.Equal("a red label", Assert.Single(both.Guide.Variants).TellApart);
    }

    [Fact]
    public void With_nothing_in_common_all_that_differs_is_asked_and_stays_ours()
    {
        var ours = Read(Fjell);
        var theirs = Read(With(Fjell, 0, 1, 2));
        var merged = GuideMerge.Of(null, ours, theirs, [], []);
        Assert.Equal(3, merged.Facts.Count);
        Assert.All(merged.Facts, f => Assert.Equal(MergeSide.Both, f.Changed));
        Assert.Empty(GuideComparison.Of(ours, merged.Guide));
    }

    [Fact]
    public void What_orders_proved_is_each_shops_own()
    {
        var ours = Read(Fjell) is var g
            ? g with
            {
                Memory = g.Memory with { ConfirmedMax = new ConfirmedMax(MemorySize.Gigabytes(40), [131]) },
            }
            : null!;
        var theirs = g with
        {
            Memory = g.Memory with { ConfirmedMax = new ConfirmedMax(MemorySize.Gigabytes(64), [7]) },
        };
        var merged = GuideMerge.Of(GuideMerge.Bare(g), ours, theirs, [], []);
        Assert.Empty(merged.Facts);
        Assert.Equal(
            (MemorySize.Gigabytes(40), 131),
            (merged.Guide.Memory.ConfirmedMax!.Size, merged.Guide.Memory.ConfirmedMax.Orders[0])
        );
        Assert.Empty(GuideMerge.ForOthers(ours).Memory.ConfirmedMax!.Orders);
        Assert.NotNull(GuideMerge.Common([GuideMerge.Bare(ours)], [GuideMerge.Bare(theirs)]));
        Assert.Null(GuideMerge.Common([GuideMerge.Bare(ours)], [Read(With(Fjell, 1))]));
    }

    private static (string?, string?, string?) Told(Merged merged, string path) =>
        merged.Facts.Single(f => f.Path == path) is var f ? (f.Common, f.Ours, f.Theirs) : default;

    private static string With(string yaml, params int[] changes) =>
        changes.Aggregate(
            yaml,
            (y, i) =>
            {
                Assert.Contains(Changes[i].Was, y, StringComparison.Ordinal);
                return y.Replace(Changes[i].Was, Changes[i].Becomes, StringComparison.Ordinal);
            }
        );

    private static int[] Bits(int bits) => [.. Enumerable.Range(0, Changes.Length).Where(i => (bits & (1 << i)) != 0)];

    private static Guide Read(string yaml) => GuideYaml.Read(yaml).Guide!;
}
