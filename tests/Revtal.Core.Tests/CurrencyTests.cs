using Revtal.Core;
using Revtal.Core.Parts;
using Xunit;

namespace Revtal.Tests.Core;

/// <summary>Amounts in the smallest unit of their currency, as ISO 4217 has it.</summary>
public sealed class CurrencyTests
{
    [Theory]
    [InlineData("EUR", "1234.57 EUR")]
    [InlineData("JPY", "1235 JPY")]
    [InlineData("KWD", "1234.568 KWD")]
    [InlineData("XOF", "1235 XOF")]
    public void An_amount_has_the_decimals_of_its_currency(string code, string said) =>
        Assert.Equal(said, Phrases.Amount(Currency.Round(1234.5675m, code), code));
}
