using Revtal.Core.Guides;
using Revtal.Core.Hardware;
using Riok.Mapperly.Abstractions;

namespace Revtal.Storage.Shapes;

/// <summary>
/// Between what the heart works with and what the journal keeps. A member that the one wants and the other lacks does
/// not compile; a word of a choice is written in kebab case.
/// </summary>
[Mapper(
    EnumNamingStrategy = EnumNamingStrategy.KebabCase,
    RequiredMappingStrategy = RequiredMappingStrategy.Target,
    ThrowOnMappingNullMismatch = true,
    ThrowOnPropertyMappingNullMismatch = true
)]
internal static partial class StoredMapper
{
    private static long Bytes(MemorySize size) => size.Bytes;

    private static MemorySize MemorySize(long bytes) => new(bytes);

    private static long Bytes(DriveSize size) => size.Bytes;

    private static DriveSize DriveSize(long bytes) => new(bytes);

    private static string Text(StepId step) => step.ToString();

    private static StepId StepId(string text) => Core.Guides.StepId.Parse(text);

    private static string Text(PartNumber number) => number.ToString();

    private static PartNumber PartNumber(string text) => new(text);
}
