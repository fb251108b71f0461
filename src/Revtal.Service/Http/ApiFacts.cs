namespace Revtal.Service.Http;

/// <summary>What an endpoint does that its handler's parameters do not show, for the API's description.</summary>
/// <param name="IsChange">It changes something, though it binds no <see cref="Sender"/>.</param>
/// <param name="LooksAtState">It reads If-Match.</param>
/// <param name="RefusesByRule">It only computes, and a rule of the bench may be in the way.</param>
/// <param name="Example">A body in JSON, where the record that it becomes is not of the contracts.</param>
/// <param name="MayBeMissing">What it leads to may not be set up in this shop.</param>
internal sealed record ApiFacts(
    bool IsChange = false,
    bool LooksAtState = false,
    bool RefusesByRule = false,
    string? Example = null,
    bool MayBeMissing = false
);
