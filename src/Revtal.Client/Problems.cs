using System.Net;

namespace Revtal.Client;

/// <summary>The service refused, and says why and what to do.</summary>
public sealed class ProblemException(HttpStatusCode status, string code, string detail) : Exception(detail)
{
    public HttpStatusCode Status { get; } = status;

    /// <summary>Stable short name of the rule: <c>power-not-isolated</c>.</summary>
    public string Code { get; } = code;
}

/// <summary>The service did not answer.</summary>
public sealed class UnreachableException(Uri address, Exception inner)
    : Exception($"No service answers at {address}. Start it with “revtald”, or name another with --service.", inner);
