namespace Revtal.Core;

/// <summary>What was recorded by the end of a day, in one hash, which the shop signed.</summary>
/// <param name="Day">UTC.</param>
/// <param name="Position">The last entry that it counts.</param>
/// <param name="Hash">SHA-256 in hex, over the head before it and the hashes of the entries since.</param>
/// <param name="Key">By which it was signed: the beginning of the hash of its public key, in hex.</param>
public sealed record DayHead(string Day, long Position, string Hash, string Key);
