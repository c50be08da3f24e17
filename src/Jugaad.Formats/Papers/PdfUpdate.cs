using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Jugaad.Formats.Papers;

/// <summary>
/// Changes objects of a PDF that our painter made, and adds others, by an update at its end (ISO 32000-1, 7.5.6), so that
/// all before it stays as it was painted.
/// </summary>
internal sealed partial class PdfUpdate
{
    private readonly byte[] _pdf;
    private readonly List<(int Number, byte[] Object)> _objects = [];
    private readonly string _id;
    private readonly string _info;
    private readonly string _previous;
    private int _size;

    private PdfUpdate(byte[] pdf, int root, int size, string info, string id, string previous)
    {
        (_pdf, Root, _size, _info, _id, _previous) = (pdf, root, size, info, id, previous);
        Catalog = Encoding.Latin1.GetString(ObjectOf(root) ?? []);
    }

    /// <returns>Null where it is no file whose end and catalog we find.</returns>
    internal static PdfUpdate? Of(byte[] pdf)
    {
        var end = Encoding.Latin1.GetString(pdf, Math.Max(0, pdf.Length - 600), Math.Min(600, pdf.Length));
        var (roots, sizes, starts) = (RootForm().Matches(end), SizeForm().Matches(end), StartForm().Match(end));
        if (roots.Count == 0 || sizes.Count == 0 || !starts.Success)
            return null;
        var info = InfoForm().Matches(end);
        var update = new PdfUpdate(
            pdf,
            Number(roots[^1]),
            Number(sizes[^1]),
            info.Count > 0 ? info[^1].Value : "",
            IdForm().Match(end).Value,
            starts.Groups[1].Value
        );
        return update.Catalog.StartsWith("<</Type /Catalog", StringComparison.Ordinal) ? update : null;
    }

    internal int Root { get; }

    /// <summary>The catalog's dictionary as it stands.</summary>
    internal string Catalog { get; }

    /// <summary>What an object holds, the last time that it was written; null where it is not there.</summary>
    internal byte[]? ObjectOf(int number)
    {
        var head = Encoding.Latin1.GetBytes(string.Create(CultureInfo.InvariantCulture, $"\n{number} 0 obj\n"));
        var at = _pdf.AsSpan().LastIndexOf(head);
        if (at < 0)
            return null;
        var from = at + head.Length;
        var length = _pdf.AsSpan(from).IndexOf("\nendobj"u8);
        return length < 0 ? null : _pdf[from..(from + length)];
    }

    /// <summary>Puts another object in the place of one.</summary>
    internal void Change(int number, byte[] content) => _objects.Add((number, content));

    /// <returns>The number of a new object.</returns>
    internal int Add(byte[] content)
    {
        _objects.Add((_size, content));
        return _size++;
    }

    internal static byte[] Stream(string dictionary, byte[] content) =>
        [
            .. Encoding.Latin1.GetBytes(
                string.Create(CultureInfo.InvariantCulture, $"<<{dictionary}\n/Length {content.Length}>> stream\n")
            ),
            .. content,
            .. "\nendstream"u8,
        ];

    internal byte[] Write()
    {
        using var file = new MemoryStream();
        file.Write(_pdf);
        if (_pdf[^1] != '\n')
            file.WriteByte((byte)'\n');
        var table = new StringBuilder("xref\n");
        foreach (var (number, content) in _objects.OrderBy(o => o.Number))
        {
            table.Append(CultureInfo.InvariantCulture, $"{number} 1\n{file.Position:0000000000} 00000 n \n");
            file.Write(Encoding.Latin1.GetBytes(string.Create(CultureInfo.InvariantCulture, $"{number} 0 obj\n")));
            file.Write(content);
            file.Write("\nendobj\n"u8);
        }

        var start = file.Position;
        table.Append(CultureInfo.InvariantCulture, $"trailer\n<</Size {_size}\n/Root {Root} 0 R\n");
        foreach (var part in new[] { _info, _id }.Where(p => p.Length > 0))
            table.Append(part).Append('\n');
        table.Append(CultureInfo.InvariantCulture, $"/Prev {_previous}>>\nstartxref\n{start}\n%%EOF\n");
        file.Write(Encoding.Latin1.GetBytes(table.ToString()));
        return file.ToArray();
    }

    private static int Number(Match match) => int.Parse(match.Groups[1].ValueSpan, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"/Root (\d+) 0 R")]
    private static partial Regex RootForm();

    [GeneratedRegex(@"/Info \d+ 0 R")]
    private static partial Regex InfoForm();

    [GeneratedRegex(@"/Size (\d+)")]
    private static partial Regex SizeForm();

    [GeneratedRegex(@"/ID \[<[0-9A-F]+> <[0-9A-F]+>\]")]
    private static partial Regex IdForm();

    [GeneratedRegex(@"startxref\s+(\d+)\s+%%EOF\s*$")]
    private static partial Regex StartForm();
}
