namespace Revtal.Contracts;

/// <summary>What somebody does on an order's page.</summary>
public enum Doing
{
    /// <summary>It is open.</summary>
    Looks,

    /// <summary>Something is being written in it.</summary>
    Types,

    /// <summary>It is no longer open.</summary>
    Leaves,
}

/// <param name="Screen">Made by the page when it was opened, so that two pages of one person are two.</param>
[Example("""{"screen": "7d0f3c5e-6b1a-4f0e-9a53-2f4f1c9f7b10", "doing": "types"}""")]
public sealed record HereRequest(string Screen, Doing Doing);

/// <summary>Somebody who has an order open.</summary>
/// <param name="Person">By id.</param>
/// <param name="Types">Whether they write something there.</param>
/// <param name="Since">Since when it is open, UTC.</param>
public sealed record Here(string Person, bool Types, DateTimeOffset Since);

/// <summary>
/// Who has an order open now; sent as a server-sent event of the type <c>here</c> when that changes, without an id.
/// </summary>
/// <param name="People">Each once, who came first first.</param>
/// <param name="At">When that was so, UTC: of two that overtook each other the later one counts.</param>
public sealed record HereView(int Order, IReadOnlyList<Here> People, DateTimeOffset At);
