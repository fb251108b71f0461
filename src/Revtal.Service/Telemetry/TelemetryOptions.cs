namespace Revtal.Service.Telemetry;

/// <summary>What the service tells whoever watches it; from the configuration sections <c>Otlp</c> and
/// <c>Metrics</c>.</summary>
/// <param name="Endpoint">Where traces, metrics and logs go by OTLP over gRPC; null for nowhere.</param>
/// <param name="Metrics">Whether <c>/metrics</c> answers.</param>
internal sealed record TelemetryOptions(string? Endpoint, bool Metrics)
{
    public static TelemetryOptions Read(IConfiguration from) => new(from["Otlp:Endpoint"], from["Metrics"] is "true");

    /// <summary>What keeps these settings from being used; null for nothing.</summary>
    public string? Problem =>
        Endpoint is null || (Uri.TryCreate(Endpoint, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https")
            ? null
            : $"“{Endpoint}” is no address for telemetry. Write one like http://127.0.0.1:4317.";
}
