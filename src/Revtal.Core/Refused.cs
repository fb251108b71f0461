namespace Revtal.Core;

/// <summary>Why something was not accepted; decides the status and the exit code, never the words.</summary>
public enum RefusalKind
{
    /// <summary>The value itself cannot be used: out of range, wrong shape, unknown name.</summary>
    Invalid,

    /// <summary>What it refers to does not exist.</summary>
    NotFound,

    /// <summary>The value is fine but the bench's rules do not allow it now: wrong stage, closed gate.</summary>
    Rule,

    /// <summary>Somebody else got there first.</summary>
    Conflict,

    /// <summary>Only another role may do this.</summary>
    Role,
}

/// <summary>
/// Nothing was done, and the message says why and what to do instead.
/// Thrown by the core's rules and readers; the faces show the message as it stands.
/// </summary>
public sealed class RefusedException(RefusalKind kind, string code, string message) : Exception(message)
{
    /// <summary>What sort of refusal this is.</summary>
    public RefusalKind Kind { get; } = kind;

    /// <summary>A stable short name of the rule, for scripts: <c>power-not-isolated</c>.</summary>
    public string Code { get; } = code;

    /// <summary>The request cannot be understood or is out of range; mended by who sent it.</summary>
    public static RefusedException Invalid(string code, string message) => new(RefusalKind.Invalid, code, message);

    /// <summary>A rule of the bench forbids it as the order stands.</summary>
    public static RefusedException Rule(string code, string message) => new(RefusalKind.Rule, code, message);

    /// <summary>What it names does not exist.</summary>
    public static RefusedException NotFound(string code, string message) => new(RefusalKind.NotFound, code, message);
}
