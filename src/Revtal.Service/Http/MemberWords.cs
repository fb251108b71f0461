using Microsoft.OpenApi;

namespace Revtal.Service.Http;

/// <summary>What each member of the API is, in words, where the record itself does not say.</summary>
internal static class MemberWords
{
    /// <summary>Describes what is not described yet.</summary>
    /// <exception cref="InvalidOperationException">A member is told nowhere, or a line tells of none.</exception>
    public static void Describe(IDictionary<string, IOpenApiSchema> schemas)
    {
        var told = Read();
        var unused = told.Keys.ToHashSet();
        foreach (var (type, schema) in schemas)
        {
            foreach (var (name, member) in schema.Properties ?? new Dictionary<string, IOpenApiSchema>())
            {
                if (IsDescribed(member))
                {
                    continue;
                }

                var key = told.ContainsKey($"{type}.{name}") ? $"{type}.{name}" : name;
                member.Description = told.TryGetValue(key, out var words)
                    ? words
                    : throw new InvalidOperationException($"members.txt does not say what {type}.{name} is.");
                unused.Remove(key);
            }
        }

        if (unused.Count > 0)
        {
            throw new InvalidOperationException(
                $"members.txt tells of what is not there: {string.Join(", ", unused)}."
            );
        }
    }

    private static Dictionary<string, string> Read()
    {
        using var file = new StreamReader(typeof(MemberWords).Assembly.GetManifestResourceStream("members.txt")!);
        return file.ReadToEnd()
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Where(l => !l.StartsWith('#'))
            .Select(l => l.Split(": ", 2))
            .ToDictionary(l => l[0], l => l[1]);
    }

    // What may be null and is one of ours carries its words a level deeper.
    private static bool IsDescribed(IOpenApiSchema member) =>
        member is OpenApiSchemaReference reference
            ? reference.Reference.Description is not null
            : member.Description is not null
                || (member.OneOf ?? []).OfType<OpenApiSchemaReference>().Any(r => r.Reference.Description is not null);
}
