using System.Diagnostics;

namespace Revtal.Tests.Documents;

/// <summary>Papers read back by Debian's PDF tools.</summary>
internal static class Pdf
{
    /// <summary>Without blanks: a line may break anywhere.</summary>
    public static string Bare(string text) => string.Concat(text.Where(c => !char.IsWhiteSpace(c)));

    /// <summary>All that is written; the foot stands between the pages, maybe within a step.</summary>
    public static string Text(byte[] pdf) =>
        string.Join(
            '\n',
            Read(pdf, "-raw").Split('\n').Where(line => !line.StartsWith("page ", StringComparison.Ordinal))
        );

    /// <param name="how">An option of <c>pdftotext</c>.</param>
    public static string Read(byte[] pdf, string how) => Run(pdf, "pdftotext", file => [how, file, "-"]);

    /// <summary>Its pages and what it says of itself.</summary>
    public static string Info(byte[] pdf) => Run(pdf, "pdfinfo", file => [file]);

    /// <summary>Its fonts, a line each.</summary>
    public static string[] Fonts(byte[] pdf) => [.. Run(pdf, "pdffonts", file => [file]).Trim().Split('\n').Skip(2)];

    /// <summary>What a reader of codes finds on its first page.</summary>
    public static string Codes(byte[] pdf)
    {
        var picture = Path.Combine(Path.GetTempPath(), Path.GetRandomFileName());
        Run(pdf, "pdftoppm", file => ["-png", "-r", "150", "-singlefile", file, picture]);
        try
        {
            return Start("zbarimg", ["-q", "--raw", $"{picture}.png"]).Trim();
        }
        finally
        {
            File.Delete($"{picture}.png");
        }
    }

    private static string Run(byte[] pdf, string program, Func<string, string[]> arguments)
    {
        var file = Path.GetTempFileName();
        try
        {
            File.WriteAllBytes(file, pdf);
            return Start(program, arguments(file));
        }
        finally
        {
            File.Delete(file);
        }
    }

    private static string Start(string program, string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var text = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return text;
    }
}
