using System.Security.Cryptography;
using System.Text;

namespace Jugaad.Formats.Papers;

/// <summary>
/// The name that a PDF/A file has for itself is drawn by lot. It is made of what the file says instead, so that the
/// same paper gives the same bytes.
/// </summary>
internal static class PdfName
{
    private const int Length = 36;

    private static readonly byte[] Mark = "uuid:"u8.ToArray();

    internal static byte[] Settled(byte[] pdf)
    {
        var at = pdf.AsSpan().IndexOf(Mark);
        if (at < 0 || at + Mark.Length + Length > pdf.Length)
            return pdf;
        var drawn = Encoding.ASCII.GetString(pdf, at + Mark.Length, Length);
        if (!Guid.TryParse(drawn, out _))
            return pdf;
        pdf = Plainly(pdf);
        Replace(pdf, drawn, new Guid().ToString());
        var settled = new Guid(SHA256.HashData(pdf).AsSpan(0, 16)).ToString();
        Replace(pdf, new Guid().ToString(), settled);
        return pdf;
    }

    /// <summary>
    /// With its name at the end in hexadecimal figures of zero: the painter writes it as letters where chance has made it
    /// of such as can be written. It stands behind all that is counted to, so that its length is free.
    /// </summary>
    private static byte[] Plainly(byte[] pdf)
    {
        var trailer = pdf.AsSpan().LastIndexOf("trailer"u8);
        var (from, until) =
            trailer < 0 ? (-1, -1) : (pdf.AsSpan(trailer).IndexOf("/ID ["u8), pdf.AsSpan(trailer).LastIndexOf("]>>"u8));
        if (from < 0 || until < from)
            return pdf;
        var name = new Guid().ToString("N").ToUpperInvariant();
        return
        [
            .. pdf[..(trailer + from)],
            .. Encoding.ASCII.GetBytes($"/ID [<{name}> <{name}>"),
            .. pdf[(trailer + until)..],
        ];
    }

    /// <summary>As it stands in the metadata, and as hexadecimal figures at the file's end.</summary>
    private static void Replace(byte[] pdf, string from, string to)
    {
        static string Plain(string name) => name.Replace("-", "", StringComparison.Ordinal).ToUpperInvariant();
        foreach (var (old, fresh) in new[] { ($"uuid:{from}", $"uuid:{to}"), ($"<{Plain(from)}>", $"<{Plain(to)}>") })
        {
            var (what, with) = (Encoding.ASCII.GetBytes(old), Encoding.ASCII.GetBytes(fresh));
            var start = 0;
            for (int found; (found = pdf.AsSpan(start).IndexOf(what)) >= 0; start += found + what.Length)
                with.CopyTo(pdf, start + found);
        }
    }
}
