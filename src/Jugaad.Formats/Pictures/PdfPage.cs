using System.Diagnostics;
using Jugaad.Core;

namespace Jugaad.Formats.Pictures;

/// <summary>
/// The first page of a PDF as a picture, such as a letterhead that a printer's shop made; by <c>pdftoppm</c> of
/// poppler, where the machine has it.
/// </summary>
internal static class PdfPage
{
    /// <summary>As many dots to the inch as a sheet of A4 has room for in the largest picture that is kept.</summary>
    private const int Dots = 200;

    private const int MostSide = 2_400;
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(20);

    internal static bool Is(byte[] file) => file.AsSpan().StartsWith("%PDF-"u8);

    /// <returns>A PNG.</returns>
    /// <exception cref="RefusalException">Where it cannot be read, or the machine has nothing to read it with.</exception>
    internal static byte[] Picture(byte[] file, string field)
    {
        var folder = Directory.CreateTempSubdirectory("jugaad-page-").FullName;
        try
        {
            var (from, to) = (Path.Combine(folder, "page.pdf"), Path.Combine(folder, "page"));
            File.WriteAllBytes(from, file);
            using var made = Process.Start(
                new ProcessStartInfo(
                    "pdftoppm",
                    ["-png", "-f", "1", "-l", "1", "-singlefile", "-r", $"{Dots}", "-scale-to", $"{MostSide}", from, to]
                )
                {
                    RedirectStandardError = true,
                    RedirectStandardOutput = true,
                    WorkingDirectory = folder,
                }
            )!;
            // What it says is read away, so that it never waits for somebody to listen.
            var said = made.StandardError.ReadToEndAsync();
            if (!made.WaitForExit(Longest))
            {
                made.Kill(entireProcessTree: true);
                throw new RefusalException(field, "This PDF takes too long to draw. Save its page as a PNG instead.");
            }

            _ = said.Result;
            return made.ExitCode == 0 && File.Exists($"{to}.png")
                ? File.ReadAllBytes($"{to}.png")
                : throw new RefusalException(
                    field,
                    "This PDF cannot be read: it is damaged, or locked by a password. Save its page as a PNG instead."
                );
        }
        catch (System.ComponentModel.Win32Exception)
        {
            throw new RefusalException(
                field,
                "This machine has nothing to read a PDF with (poppler-utils). Save the page as a PNG instead."
            );
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
