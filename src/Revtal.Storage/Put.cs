namespace Revtal.Storage;

/// <summary>What was put in its place.</summary>
/// <param name="IsNew">Nothing stood there before.</param>
public sealed record Put<T>(T Value, bool IsNew);
