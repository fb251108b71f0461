using Microsoft.AspNetCore.Http.HttpResults;

namespace Revtal.Service.Http;

/// <summary>Answers that say whether something was made (RFC 9110 9.3.4, 15.3.2).</summary>
internal static class Made
{
    /// <summary>201 with its address where it is new, 200 where it was there.</summary>
    public static Results<Created<T>, Ok<T>> At<T>(string path, T value, bool isNew) =>
        isNew ? TypedResults.Created(Address(path), value) : TypedResults.Ok(value);

    /// <summary>201 with its address.</summary>
    public static Created<T> At<T>(string path, T value) => TypedResults.Created(Address(path), value);

    private static string Address(string path) => $"/api/v1/{path}";
}
