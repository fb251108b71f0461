using MailKit.Security;
using MimeKit;

namespace Revtal.Service.Outward;

/// <summary>The server that carries the shop's mail; from the configuration section <c>Smtp</c>.</summary>
public sealed class MailOptions
{
    /// <summary>Null where the shop sends none.</summary>
    public string? Host { get; set; }

    public int Port { get; set; } = 587;

    /// <summary>
    /// <c>start-tls</c>: TLS begun within the connection (RFC 3207), or no mail at all; <c>tls</c>: from the first byte
    /// on (RFC 8314); <c>none</c>: for a server on this very machine.
    /// </summary>
    public string Security { get; set; } = "start-tls";

    /// <summary>Whom mail comes from: <c>Bench &lt;bench@shop.example&gt;</c>.</summary>
    public string From { get; set; } = "";

    /// <summary>Null where the server asks for nobody.</summary>
    public string? User { get; set; }

    public string? Password { get; set; }

    /// <summary>How long a notice lies unread before it is mailed, in minutes; 0 to 1440.</summary>
    public int After { get; set; } = 5;

    /// <summary>How the mail library names it.</summary>
    internal SecureSocketOptions Way =>
        Security switch
        {
            "tls" => SecureSocketOptions.SslOnConnect,
            "start-tls" => SecureSocketOptions.StartTls,
            _ => SecureSocketOptions.None,
        };

    /// <summary>What keeps these settings from being used; null for nothing.</summary>
    public string? Problem =>
        Host is null ? null
        : !MailboxAddress.TryParse(From, out _)
            ? $"“{From}” is nobody whom mail can come from: give --smtp:from bench@shop.example."
        : Security is not ("start-tls" or "tls" or "none")
            ? $"“{Security}” is no way to a mail server: start-tls, tls or none."
        : Port is < 1 or > 65_535 ? $"There is no port {Port}."
        : After is < 0 or > 1440 ? $"A notice cannot lie unread for {After} minutes before it is mailed: 0 to 1440."
        : User is null != (Password is null) ? "A mail server wants both --smtp:user and --smtp:password, or neither."
        : Security == "none" && User is not null && Host is not ("localhost" or "127.0.0.1" or "::1")
            ? "A password is not sent to another machine in the open: use --smtp:security start-tls or tls."
        : null;
}
