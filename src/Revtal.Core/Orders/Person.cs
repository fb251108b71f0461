namespace Revtal.Core.Orders;

/// <summary>What somebody at the bench may decide.</summary>
public enum Role
{
    Desk,
    Technician,
    Lead,

    /// <summary>A screen that all see: it looks, and changes nothing.</summary>
    Wall,
}

/// <summary>Somebody at the bench.</summary>
/// <param name="Id">Short, lower case, unique in the shop.</param>
public sealed record Person(string Id, string Name, Role Role)
{
    /// <summary>Whether guides, releases and people are theirs to decide.</summary>
    public bool IsLead => Role == Role.Lead;

    /// <summary>How somebody is called at the bench: by the first name, unless two have it.</summary>
    /// <param name="people">Everybody of the shop.</param>
    /// <returns>The id as it stands where that is nobody's.</returns>
    public static string Called(IReadOnlyList<Person> people, string id) =>
        people.FirstOrDefault(p => p.Id == id) is not { } person ? id
        : people.Count(p => p.First == person.First) > 1 ? person.Name
        : person.First;

    private string First => Name.Split(' ')[0];
}
