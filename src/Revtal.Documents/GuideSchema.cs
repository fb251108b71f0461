namespace Revtal.Documents;

/// <summary>The JSON Schema (draft 2020-12) of guide files, as it is published.</summary>
public static class GuideSchema
{
    public static string Text { get; } = Read();

    private static string Read()
    {
        using var stream = typeof(GuideSchema).Assembly.GetManifestResourceStream("guide.schema.json")!;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}
