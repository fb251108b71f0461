using Xunit;

namespace Revtal.Tests;

/// <summary>One service for the tests of a class.</summary>
public sealed class ServiceFixture : IAsyncLifetime
{
    internal ServiceProcess Service { get; private set; } = null!;

    public async ValueTask InitializeAsync() => Service = await ServiceProcess.StartAsync();

    public ValueTask DisposeAsync() => Service.DisposeAsync();
}
