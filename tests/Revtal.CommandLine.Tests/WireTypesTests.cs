using System.Reflection;
using System.Reflection.Metadata;
using System.Reflection.Metadata.Ecma335;
using System.Reflection.PortableExecutable;
using Revtal.Client;
using Revtal.CommandLine;
using Revtal.Contracts;
using Revtal.Core;
using Xunit;

namespace Revtal.Tests.CommandLine;

/// <summary>A program compiled ahead reads and writes only types that it was told of: none may be forgotten.</summary>
public class WireTypesTests
{
    [Fact]
    public void All_that_the_client_asks_for_can_be_read()
    {
        var read = Instantiations(
            typeof(RevtalClient),
            "GetAsync",
            "PostAsync",
            "ChangeAsync",
            "AllAsync",
            "EventsAsync"
        );
        Assert.True(read.Length > 70, $"{read.Length}");
        Assert.DoesNotContain(read, t => !Known(WireTypes.Of, t));
    }

    [Fact]
    public void All_that_the_client_sends_can_be_written()
    {
        var given = typeof(RevtalClient)
            .GetMethods(BindingFlags.Public | BindingFlags.Instance | BindingFlags.DeclaredOnly)
            .SelectMany(m => m.GetParameters())
            .Select(p => p.ParameterType)
            .Where(t => t.IsClass && t.Assembly.GetName().Name!.StartsWith("Revtal.", StringComparison.Ordinal));
        // Some it makes itself.
        var made = typeof(TakeInRequest)
            .Assembly.GetTypes()
            .Where(t => t.Name.EndsWith("Request", StringComparison.Ordinal));
        var sent = given.Concat(made).Distinct().ToArray();
        Assert.True(sent.Length > 70, $"{sent.Length}");
        Assert.DoesNotContain(sent, t => !Known(WireTypes.Of, t));
    }

    [Fact]
    public void All_that_is_printed_can_be_written()
    {
        var printed = Instantiations(typeof(Cli), "Show");
        Assert.True(printed.Length > 70, $"{printed.Length}");
        Assert.DoesNotContain(printed, t => !Known(Outcomes.Of, t));
    }

    private static bool Known(Func<Type, object> of, Type type)
    {
        try
        {
            _ = of(type);
            return true;
        }
        catch (NotSupportedException)
        {
            return false;
        }
    }

    // What the assembly of a class puts for T where it calls its Method<T>, by its table of methods made of generic
    // ones (ECMA-335, II.22.29). Who only passes a T of its own on is not meant.
    private static Type[] Instantiations(Type of, params string[] methods)
    {
        using var file = new PEReader(File.OpenRead(of.Assembly.Location));
        var rows = file.GetMetadataReader().GetTableRowCount(TableIndex.MethodSpec);
        return
        [
            .. Enumerable
                .Range(1, rows)
                .Select(row => MetadataTokens.GetToken(MetadataTokens.MethodSpecificationHandle(row)))
                .Select(token => Resolved(of.Module, token))
                .Where(m => m?.DeclaringType == of && methods.Contains(m.Name))
                .Select(m => (m!.Name, Type: m.GetGenericArguments().Single()))
                .Select(m => m.Name == "AllAsync" ? typeof(Page<>).MakeGenericType(m.Type) : m.Type)
                .Distinct(),
        ];
    }

    private static MethodBase? Resolved(Module module, int token)
    {
        try
        {
            return module.ResolveMethod(token);
        }
        catch (ArgumentException)
        {
            // One that passes its own T on.
            return null;
        }
    }
}
