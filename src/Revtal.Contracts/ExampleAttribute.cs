namespace Revtal.Contracts;

/// <summary>A request as somebody would send it, for the API's description.</summary>
/// <param name="json">Conforms to the record's schema; the linter of the description sees to it.</param>
[AttributeUsage(AttributeTargets.Class)]
public sealed class ExampleAttribute(string json) : Attribute
{
    public string Json => json;
}
