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
}
