using Xunit;

namespace Revtal.Tests;

/// <summary>One service for the tests of a class.</summary>
public sealed class ServiceFixture : IAsyncLifetime
{
    internal ServiceProcess Service { get; private set; } = null!;

    /// <summary>By which the command line is signed in here.</summary>
    internal string SignIns { get; private set; } = "";

    public async ValueTask InitializeAsync()
    {
        Service = await ServiceProcess.StartAsync();
        SignIns = Staff.SignInsFile(Service);
    }

    public ValueTask DisposeAsync() => Service.DisposeAsync();
}
