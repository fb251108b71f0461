namespace Revtal.Core.Orders;

/// <summary>What a session is used with.</summary>
public enum SessionKind
{
    /// <summary>A browser's cookie.</summary>
    Console,

    /// <summary>What a command line or another program sends.</summary>
    Token,

    /// <summary>Somebody's hands at a bench tablet, by badge or PIN.</summary>
    Tablet,

    /// <summary>A calendar that reads the bench's dates by a link; it opens nothing else.</summary>
    Calendar,
}

/// <summary>Somebody who is signed in.</summary>
/// <param name="Id">Names it to its owner; it opens nothing.</param>
/// <param name="Looks">It only looks, whatever its owner may do.</param>
/// <param name="Tablet">The bench tablet's id; null elsewhere.</param>
public sealed record Session(
    string Id,
    string Person,
    SessionKind Kind,
    string Name,
    bool Looks,
    DateTimeOffset MadeAt,
    DateTimeOffset UsedAt,
    DateTimeOffset ExpiresAt,
    string? Tablet = null
);

/// <summary>A screen that lies on the bench: whoever stands at it says so by badge or PIN.</summary>
/// <param name="EnrolledAt">Null while its link has not been opened on it.</param>
/// <param name="UsedAt">When somebody last came in at it; null for never.</param>
public sealed record Tablet(
    string Id,
    string Name,
    DateTimeOffset MadeAt,
    DateTimeOffset? EnrolledAt,
    DateTimeOffset? UsedAt
);

/// <summary>One line of who came in, who could not, and what leads did about people.</summary>
/// <param name="By">An id; what was typed where nobody is called so.</param>
/// <param name="About">Whom or what it was about; null where that is who did it.</param>
/// <param name="From">The address it came from; null where it came from the service's own machine.</param>
public sealed record AuditLine(long Position, DateTimeOffset At, string By, string What, string? About, string? From);
