using Revtal.Core.Guides;
using YamlDotNet.Core;
using YamlDotNet.Core.Events;

namespace Revtal.Documents;

/// <summary>Guide files as YAML 1.2. Only plain values are taken: no anchors, aliases or tags, so a file is never larger than it looks.</summary>
public static class GuideYaml
{
    /// <summary>The longest guide file, in characters.</summary>
    public const int Longest = 1 << 20;
    private const int Deepest = 12;

    /// <summary>Reads and checks a guide file; every problem names its line.</summary>
    public static GuideResult Read(string yaml)
    {
        if (yaml.Length > Longest)
        {
            return Failed(1, "the file is larger than 1 MB");
        }

        try
        {
            var parser = new Parser(new StringReader(yaml));
            parser.Consume<StreamStart>();
            if (parser.TryConsume<StreamEnd>(out _))
            {
                return Failed(1, "the file is empty");
            }

            parser.Consume<DocumentStart>();
            return GuideReader.Read(Node(parser, 0));
        }
        catch (YamlException e)
        {
            return Failed((int)e.Start.Line, e.InnerException?.Message ?? e.Message);
        }
    }

    private static GuideResult Failed(int line, string message) => new(null, [new GuideProblem(line, message)]);

    private static GuideNode Node(Parser parser, int depth)
    {
        var start = parser.Current?.Start ?? Mark.Empty;
        var line = (int)start.Line;
        if (depth > Deepest)
        {
            throw new YamlException(start, start, $"it is nested more than {Deepest} deep");
        }

        if (parser.Current is NodeEvent { } node && (!node.Anchor.IsEmpty || !node.Tag.IsEmpty) || parser.Current is AnchorAlias)
        {
            throw new YamlException(start, start, "anchors, aliases and tags are not taken; write the value out");
        }

        if (parser.TryConsume<Scalar>(out var scalar))
        {
            return new GuideNode.Scalar(scalar.Value, line);
        }

        if (parser.TryConsume<SequenceStart>(out _))
        {
            var items = new List<GuideNode>();
            while (!parser.TryConsume<SequenceEnd>(out _))
            {
                items.Add(Node(parser, depth + 1));
            }

            return new GuideNode.List(items, line);
        }

        parser.Consume<MappingStart>();
        var fields = new List<(string, GuideNode)>();
        var keys = new HashSet<string>();
        while (!parser.TryConsume<MappingEnd>(out _))
        {
            var key = parser.Consume<Scalar>();
            if (!keys.Add(key.Value))
            {
                throw new YamlException(key.Start, key.End, $"“{key.Value}” stands twice");
            }

            fields.Add((key.Value, Node(parser, depth + 1)));
        }

        return new GuideNode.Map(fields, line);
    }
}
