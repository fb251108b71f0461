namespace Revtal.Core;

/// <summary>One running service on the shop's store.</summary>
/// <param name="Name">Its machine, and where it listens.</param>
/// <param name="Version">Of its program.</param>
/// <param name="BeganAt">UTC.</param>
/// <param name="SeenAt">When it last said that it is there, UTC.</param>
/// <param name="Position">The last position of the journal that its listeners were told of, as it last said.</param>
public sealed record Instance(
    string Name,
    string Version,
    DateTimeOffset BeganAt,
    DateTimeOffset SeenAt,
    long Position
);
