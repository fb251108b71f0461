using Xunit;

namespace Revtal.Tests.Core;

/// <summary>
/// What people read, word for word, as somebody read it and found it right: files under <c>tests/data/words</c>. A
/// sentence that changes is read anew: <c>REVTAL_WORDS=write</c> writes them, and whoever commits has read them.
/// </summary>
internal static class WordFile
{
    /// <summary>Proves that these are the lines of the file.</summary>
    public static void Holds(string topic, IEnumerable<string> lines)
    {
        var file = Repository.At("tests", "data", "words", $"{topic}.txt");
        var said = string.Join('\n', lines) + "\n";
        if (Environment.GetEnvironmentVariable("REVTAL_WORDS") == "write")
        {
            File.WriteAllText(file, said);
        }

        Assert.Equal(File.ReadAllText(file).Split('\n'), said.Split('\n'));
    }
}
