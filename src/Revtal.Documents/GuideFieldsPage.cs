using System.Text;
using Revtal.Core.Guides;

namespace Revtal.Documents;

/// <summary>Every key of a guide file as a page to read, in Markdown: one table for each map.</summary>
public static class GuideFieldsPage
{
    public static string Text { get; } = Page();

    private static string Page()
    {
        var page = new StringBuilder("# The keys of a guide file\n\n");
        page.Append("As the reader and the writer of guide files have them; see [guide files](guide-format.md).\n");
        Tell(page, "the file", GuideFormat.File);
        return page.ToString();
    }

    private static void Tell(StringBuilder page, string path, ValueShape.Map map)
    {
        page.Append($"\n## {(path.Contains(' ', StringComparison.Ordinal) ? path : $"`{path}`")}\n\n");
        page.Append("| key | value | holds |\n|---|---|---|\n");
        foreach (var field in map.Fields)
        {
            var needed = field.Needed ? ", needed" : "";
            page.Append($"| `{field.Key}` | {Value(field.Shape)}{needed} | {field.Says} |\n");
        }

        foreach (var field in map.Fields)
        {
            var own = path.Contains(' ', StringComparison.Ordinal) ? field.Key : $"{path}.{field.Key}";
            switch (field.Shape)
            {
                case ValueShape.Map part:
                    Tell(page, own, part);
                    break;
                case ValueShape.List { Item: ValueShape.Map part }:
                    Tell(page, $"{own}[]", part);
                    break;
            }
        }
    }

    private static string Value(ValueShape shape) =>
        shape switch
        {
            ValueShape.Text { Pattern: null } => "text",
            ValueShape.Map => "map",
            ValueShape.List { Item: ValueShape.Text { Pattern: null } } => "list of texts",
            ValueShape.List { Item: ValueShape.Map } => "list of maps",
            ValueShape.List list => $"list: {Value(list.Item)}",
            _ => shape.Wants,
        };
}
