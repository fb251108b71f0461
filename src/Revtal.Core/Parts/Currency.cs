namespace Revtal.Core.Parts;

/// <summary>What ISO 4217 says of currencies (table A.1, column “minor unit”).</summary>
public static class Currency
{
    private static readonly string[] None =
    [
        "BIF",
        "CLP",
        "DJF",
        "GNF",
        "ISK",
        "JPY",
        "KMF",
        "KRW",
        "PYG",
        "RWF",
        "UGX",
        "UYI",
        "VND",
        "VUV",
        "XAF",
        "XOF",
        "XPF",
    ];

    private static readonly string[] Thousandths = ["BHD", "IQD", "JOD", "KWD", "LYD", "OMR", "TND"];

    /// <summary>Decimals of an amount: 0, 2 or 3; 2 for a code that the table does not list there.</summary>
    /// <param name="code">Three letters: <c>EUR</c>.</param>
    public static int Decimals(string code) =>
        None.Contains(code, StringComparer.OrdinalIgnoreCase) ? 0
        : Thousandths.Contains(code, StringComparer.OrdinalIgnoreCase) ? 3
        : 2;

    /// <summary>To the currency's smallest unit, half up.</summary>
    public static decimal Round(decimal amount, string code) =>
        Math.Round(amount, Decimals(code), MidpointRounding.AwayFromZero);
}
