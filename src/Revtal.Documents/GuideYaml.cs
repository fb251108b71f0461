using Revtal.Core.Guides;
using YamlDotNet.Core;
using YamlDotNet.Core.Events;

namespace Revtal.Documents;

/// <summary>
/// Guide files as YAML 1.2. Only plain values are taken: no anchors, aliases or tags, so a file is never larger than it
/// looks.
/// </summary>
public static class GuideYaml
{
    /// <summary>The longest guide file, in characters.</summary>
    public const int Longest = 1 << 20;
    private const int Deepest = 12;

    /// <summary>Reads and checks a guide file; every problem names its line.</summary>
    /// <param name="published">It was accepted once, maybe by an earlier version: it is read whatever is checked
    /// today.</param>
    public static GuideResult Read(string yaml, bool published = false)
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
            return GuideReader.Read(Node(parser, 0), published);
        }
        catch (YamlException e)
        {
            return Failed((int)e.Start.Line, e.InnerException?.Message ?? e.Message);
        }
    }

    /// <summary>A guide as its file: what fits on a line stands on one.</summary>
    public static string Write(Guide guide)
    {
        var text = new StringWriter { NewLine = "\n" };
        var emitter = new Emitter(
            text,
            new EmitterSettings().WithBestWidth(int.MaxValue).WithNewLine("\n").WithIndentedSequences()
        );
        emitter.Emit(new StreamStart());
        emitter.Emit(new DocumentStart(null, null, isImplicit: true));
        Emit(emitter, GuideWriter.Write(guide), 0);
        emitter.Emit(new DocumentEnd(isImplicit: true));
        emitter.Emit(new StreamEnd());
        return text.ToString();
    }

    private const int LineWidth = 180;

    private static void Emit(Emitter emitter, GuideNode node, int depth)
    {
        switch (node)
        {
            case GuideNode.Scalar s:
                // Plain where YAML reads the very same text back.
                emitter.Emit(
                    new Scalar(
                        null,
                        null,
                        s.Text,
                        IsPlain(s.Text) ? ScalarStyle.Plain : ScalarStyle.DoubleQuoted,
                        true,
                        true
                    )
                );
                break;
            case GuideNode.List list:
                emitter.Emit(
                    new SequenceStart(
                        null,
                        null,
                        isImplicit: true,
                        Short(list, depth) ? SequenceStyle.Flow : SequenceStyle.Block
                    )
                );
                foreach (var item in list.Items)
                {
                    Emit(emitter, item, depth + 1);
                }

                emitter.Emit(new SequenceEnd());
                break;
            case GuideNode.Map map:
                emitter.Emit(
                    new MappingStart(
                        null,
                        null,
                        isImplicit: true,
                        Short(map, depth) ? MappingStyle.Flow : MappingStyle.Block
                    )
                );
                foreach (var (key, value) in map.Fields)
                {
                    emitter.Emit(new Scalar(key));
                    Emit(emitter, value, depth + 1);
                }

                emitter.Emit(new MappingEnd());
                break;
        }
    }

    // Sections stand in blocks; below them what fits goes on a line.
    private static bool Short(GuideNode node, int depth) =>
        depth > 1 && Width(node) < LineWidth
        || node is GuideNode.List { Items: var items }
            && items.All(i => i is GuideNode.Scalar)
            && Width(node) < LineWidth;

    private static int Width(GuideNode node) =>
        node switch
        {
            GuideNode.Scalar s => s.Text.Length + 2,
            GuideNode.List l => l.Items.Sum(i => Width(i) + 2),
            GuideNode.Map m => m.Fields.Sum(f => f.Key.Length + 4 + Width(f.Value)),
            _ => 0,
        };

    private static bool IsPlain(string text) =>
        text.Length > 0
        && text.All(c => char.IsAsciiLetterOrDigit(c) || c is ' ' or '.' or '-' or '/')
        && char.IsAsciiLetterOrDigit(text[0])
        && text[^1] != ' ';

    private static GuideResult Failed(int line, string message) => new(null, [new GuideProblem(line, message)]);

    private static GuideNode Node(Parser parser, int depth)
    {
        var start = parser.Current?.Start ?? Mark.Empty;
        var line = (int)start.Line;
        if (depth > Deepest)
        {
            throw new YamlException(start, start, $"it is nested more than {Deepest} deep");
        }

        if (
            parser.Current is NodeEvent { } node && (!node.Anchor.IsEmpty || !node.Tag.IsEmpty)
            || parser.Current is AnchorAlias
        )
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
