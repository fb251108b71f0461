using System.Text;
using Revtal.Core.Captures;
using Xunit;

namespace Revtal.Tests.Core;

public sealed class FuzzTests
{
    public static readonly string[] Models = ["FJ14", "NL12", "NM2", "NS13", "PW24", "QT40", "QW80", "TB6"];

    // The long run is in bench/; this one is the same every time.
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Damaged_captures_are_read_or_refused_and_nothing_else(int seed)
    {
        var seeds = CaptureMutations.Seeds(
            Models.Select(Repository.Guide),
            ReportTests.Shapes.Select(s => new CaptureFile("report.json", Encoding.UTF8.GetBytes(s)))
        );
        var random = new Random(seed);
        for (var i = 0; i < 4000; i++)
        {
            var files = CaptureMutations.Next(random, seeds);
            Assert.True(
                CaptureMutations.Fault(files) is not { } fault,
                $"seed {seed}, capture {i} of {string.Join(", ", files.Select(f => f.Name))}: "
                    + $"{CaptureMutations.Fault(files)}"
            );
        }
    }
}
