using Revtal.Core;

namespace Revtal.Contracts;

/// <summary>The newest look through the whole store, while it goes on and after it.</summary>
/// <param name="BeganAt">UTC; null where there was none since the service started.</param>
/// <param name="By">Who asked for it, by id.</param>
/// <param name="EndedAt">UTC; null while it goes on.</param>
/// <param name="Orders">Looked through so far.</param>
/// <param name="Of">Orders that there are.</param>
/// <param name="Entries">Whose chain was followed so far.</param>
/// <param name="Pictures">Whose bytes were hashed.</param>
/// <param name="Captures">Whose bytes were hashed.</param>
/// <param name="Faults">How many were found.</param>
/// <param name="First">The first 100 of them.</param>
/// <param name="Trouble">Why it ended before it was through; null where it did not.</param>
public sealed record VerifyView(
    DateTimeOffset? BeganAt,
    string? By,
    DateTimeOffset? EndedAt,
    int Orders,
    int Of,
    int Entries,
    int Pictures,
    int Captures,
    int Faults,
    IReadOnlyList<StoreFault> First,
    string? Trouble
);
