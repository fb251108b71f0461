using System.Reflection;

namespace Revtal.Service;

/// <summary>The version that this service was built as.</summary>
internal static class BuildVersion
{
    public static string Text { get; } =
        typeof(BuildVersion).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion
        ?? "0";
}
