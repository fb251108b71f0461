using System.Diagnostics;
using System.Net;
using System.Net.Sockets;

namespace Revtal.Tests;

/// <summary>
/// A private PostgreSQL cluster on the loopback. The server does not run as root, so whoever tests as root has it run
/// by its own user.
/// </summary>
internal sealed class PostgresServer : IDisposable
{
    private static readonly Lazy<PostgresServer> Begun = new(() =>
    {
        var server = new PostgresServer();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => server.Dispose();
        return server;
    });
    private static int made;

    private readonly string folder = Directory.CreateTempSubdirectory("revtal-postgres-").FullName;
    private readonly int port = FreePort();
    private readonly bool durable;
    private bool isUp;

    /// <param name="durable">What is committed outlives the machine's end: only to measure with.</param>
    public PostgresServer(bool durable = false)
        : this(null, durable) { }

    // With what it takes over from another, by that one's own tools.
    private PostgresServer(PostgresServer? primary, bool durable)
    {
        this.durable = durable;
        Run("chown", User, folder);
        if (primary is null)
        {
            As(Tool("initdb"), "-D", Data, "-A", "trust", "-U", "revtal", "--no-sync", "--locale=C.UTF-8");
        }
        else
        {
            string[] of = ["-h", "127.0.0.1", "-p", $"{primary.port}", "-U", "revtal"];
            As([Tool("pg_basebackup"), "-D", Data, .. of, "-R", "-X", "stream", "-c", "fast"]);
        }

        Start();
    }

    public int Port => port;

    /// <summary>Another server that follows this one; a commit here is answered once it is there too.</summary>
    public PostgresServer Standby()
    {
        var standby = new PostgresServer(this, durable);
        Sql("ALTER SYSTEM SET synchronous_standby_names = '*'");
        Sql("SELECT pg_reload_conf()");
        return standby;
    }

    /// <summary>It follows nobody any more, and is written to.</summary>
    public void Promote() => As(Tool("pg_ctl"), "-D", Data, "-w", "promote");

    /// <summary>The one of this process, begun when it is first asked for and ended with it.</summary>
    public static PostgresServer Here => Begun.Value;

    private string Data => Path.Combine(folder, "data");

    private static string User => Environment.UserName == "root" ? "postgres" : Environment.UserName;

    /// <summary>A new database of it, for <c>--store</c>.</summary>
    /// <param name="like">Another of its databases, that nobody uses now; null for an empty one.</param>
    public string NewDatabase(string? like = null)
    {
        var name = $"revtal_{Interlocked.Increment(ref made)}";
        var template = like is null ? "template0" : like.Split("Database=")[1].Split(';')[0];
        Sql($"CREATE DATABASE {name} TEMPLATE {template}");
        return $"Host=127.0.0.1;Port={port};Database={name};Username=revtal";
    }

    /// <summary>As its administrator.</summary>
    public void Sql(string text, string database = "postgres") =>
        Run(
            Tool("psql"),
            "-X",
            "-q",
            "-v",
            "ON_ERROR_STOP=1",
            "-h",
            "127.0.0.1",
            "-p",
            $"{port}",
            "-U",
            "revtal",
            "-d",
            database,
            "-c",
            text
        );

    public void Start()
    {
        // Killed processes lose nothing that the system has; only its own end would, and that is not tried.
        As(
            Tool("pg_ctl"),
            "-D",
            Data,
            "-w",
            "-l",
            Path.Combine(folder, "log"),
            "-o",
            $"-p {port} -h 127.0.0.1 -k {folder} -c fsync={(durable ? "on" : "off")} -c max_connections=300",
            "start"
        );
        isUp = true;
    }

    /// <param name="mode"><c>fast</c> ends sessions, <c>immediate</c> kills.</param>
    public void Stop(string mode)
    {
        As(Tool("pg_ctl"), "-D", Data, "-m", mode, "-w", "stop");
        isUp = false;
    }

    public void Dispose()
    {
        if (isUp)
        {
            Stop("immediate");
        }

        // Hundreds of databases: whoever ends does not wait until their files are gone.
        Process.Start("rm", ["-rf", folder]).Dispose();
    }

    // Debian keeps each version in a folder of its own.
    private static string Tool(string name) =>
        Directory
            .GetFiles("/usr/lib/postgresql", name, SearchOption.AllDirectories)
            .OrderDescending(StringComparer.Ordinal)
            .FirstOrDefault()
        ?? throw new InvalidOperationException("PostgreSQL is not installed. Run: make setup.");

    private void As(params string[] command)
    {
        if (Environment.UserName == "root")
        {
            Run(["runuser", "-u", User, "--", .. command]);
        }
        else
        {
            Run(command);
        }
    }

    private void Run(params string[] command)
    {
        // pg_ctl leaves a server behind that would hold a pipe open for ever.
        var errors = Path.Combine(folder, $"errors-{Interlocked.Increment(ref made)}");
        using var process = Process.Start(
            new ProcessStartInfo("sh", ["-c", "\"$@\" >/dev/null 2>\"$0\"", errors, .. command])
            {
                WorkingDirectory = "/",
            }
        )!;
        process.WaitForExit();
        if (process.ExitCode != 0)
        {
            throw new InvalidOperationException($"{string.Join(' ', command)}: {File.ReadAllText(errors)}");
        }
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
