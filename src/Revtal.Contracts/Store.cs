using Revtal.Core;

namespace Revtal.Contracts;

/// <summary>The newest look through the whole store, while it goes on and after it.</summary>
/// <param name="BeganAt">UTC; null where there was none.</param>
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

/// <summary>Where the shop's data lies, what works on it and how it is kept.</summary>
/// <param name="Place">The folder, or the database and its server.</param>
/// <param name="Version">Of the instance that answers.</param>
/// <param name="Room">Bytes that are free where it lies; null where that is another machine's to know.</param>
/// <param name="Position">The last position of the journal.</param>
/// <param name="Instances">The services that work on it now.</param>
/// <param name="Plan">How backups are made by the service itself; null where none are.</param>
/// <param name="Backups">The newest first, 20 at most.</param>
/// <param name="Warnings">What is amiss with them, in sentences.</param>
/// <param name="Look">The newest look through it.</param>
/// <param name="Head">The newest hash of all that was recorded until the end of a day; null before the first.</param>
/// <param name="DeadMessages">Messages to other programs that are not tried again by themselves.</param>
public sealed record StoreView(
    string Place,
    string Version,
    long? Room,
    long Position,
    IReadOnlyList<Instance> Instances,
    BackupPlan? Plan,
    IReadOnlyList<BackupMade> Backups,
    IReadOnlyList<string> Warnings,
    VerifyView Look,
    DayHead? Head,
    int DeadMessages
);
