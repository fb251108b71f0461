using CsCheck;
using Revtal.Core;
using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class ReachTests
{
    [Fact]
    public void The_hatch_slot_leaves_the_keyboard_on() =>
        Assert.Equal(["hatch"], Reach.To(Repository.Guide("FJ14"), ["S2"]).Select(r => r.Id));

    [Fact]
    public void Two_slots_share_their_way() =>
        Assert.Equal(["hatch", "keyboard"], Reach.To(Repository.Guide("FJ14"), ["S1", "S2"]).Select(r => r.Id));

    [Fact]
    public void An_unknown_position_is_refused_with_those_there_are() =>
        Assert.Contains(
            "S1, S2",
            Assert.Throws<RefusedException>(() => Reach.To(Repository.Guide("FJ14"), ["S9"])).Message,
            StringComparison.Ordinal
        );

    // A random graph without circles: removal i may need only lower ones.
    private static readonly Gen<(bool[] Edges, int First, int Second)> Graphs = Gen.Select(
        Gen.Bool.Array[28],
        Gen.Int[0, 7],
        Gen.Int[0, 7]
    );

    [Fact]
    public void Is_the_smallest_set_in_an_order_that_works() =>
        Graphs.Sample(g =>
        {
            var guide = Make(g.Edges, g.First, g.Second);
            var way = Reach.To(guide, ["P", "Q"]).Select(r => r.Id).ToArray();
            var smallest = Enumerable
                .Range(0, 256)
                .Where(set => Opens(guide, set, g.First, g.Second))
                .Min(set => int.PopCount(set));
            Assert.Equal(smallest, way.Length);
            for (var i = 0; i < way.Length; i++)
            {
                Assert.All(
                    guide.Removals.Single(r => r.Id == way[i]).Needs.Where(n => n != Reach.Isolated),
                    n => Assert.Contains(n, way[..i])
                );
            }
        });

    [Fact]
    public void A_circle_is_found_and_named()
    {
        var guide = Make(new bool[28], 0, 1);
        var circular = guide with
        {
            Removals = [guide.Removals[0] with { Needs = ["r1"] }, guide.Removals[1] with { Needs = ["r0"] }],
        };
        Assert.Equal(["r0", "r1", "r0"], Reach.FindCircle(circular));
        Assert.Contains(GuideChecker.Check(circular), p => p.Message.Contains("circle", StringComparison.Ordinal));
        Assert.Null(Reach.FindCircle(guide));
    }

    // Brute force: a set opens both positions if it holds their removals and all that its members need.
    private static bool Opens(Guide guide, int set, int first, int second) =>
        Has(set, first)
        && Has(set, second)
        && guide
            .Removals.Where((_, i) => Has(set, i))
            .All(r => r.Needs.All(n => n == Reach.Isolated || Has(set, n[1] - '0')));

    private static bool Has(int set, int removal) => (set & (1 << removal)) != 0;

    private static Guide Make(bool[] edges, int first, int second)
    {
        var removals = Enumerable
            .Range(0, 8)
            .Select(i =>
                Removal.Named(
                    $"r{i}",
                    [
                        Reach.Isolated,
                        .. Enumerable.Range(0, i).Where(j => edges[(i * (i - 1) / 2) + j]).Select(j => $"r{j}"),
                    ]
                )
            );
        return new Guide(
            new ModelFacts("Norrland", "Test", "T1", "laptop", null, null),
            new MemoryFacts(
                "DDR4",
                "SO-DIMM",
                [3200],
                MemorySize.Gigabytes(64),
                null,
                [Slot("P", $"r{first}"), Slot("Q", $"r{second}")],
                FillOrder.Unsaid with
                {
                    Any = true,
                },
                null,
                null
            ),
            [],
            [],
            [.. removals],
            [],
            null,
            null,
            [],
            []
        );
    }

    private static MemorySlot Slot(string id, string reach) => MemorySlot.Named(id) with { Reach = reach };
}
