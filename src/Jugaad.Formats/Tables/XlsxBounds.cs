using System.IO.Compression;
using System.Xml;
using Jugaad.Core;

namespace Jugaad.Formats.Tables;

/// <summary>
/// Looks through a workbook before it is read, in a stream and keeping nothing: how large it is unpacked, how many
/// cells it has, and how far to the right and below they lie. A small file can say that it is endlessly wide.
/// </summary>
internal static class XlsxBounds
{
    private const long MostUnpacked = 200L * 1024 * 1024;
    private const int MostParts = 2_000;
    private const int MostCells = 4_000_000;
    private const int MostDeep = 64;

    /// <exception cref="RefusalException">When it is more than a table may be.</exception>
    /// <exception cref="InvalidDataException">When it is no archive.</exception>
    internal static void Check(byte[] file)
    {
        using var zip = new ZipArchive(new MemoryStream(file, writable: false), ZipArchiveMode.Read);
        if (zip.Entries.Count > MostParts)
            throw new RefusalException(
                "file",
                "This workbook has too many parts to be a table. Save the one sheet as CSV."
            );
        var left = MostUnpacked;
        foreach (var part in zip.Entries)
        {
            using var counted = new Counted(part.Open(), left);
            if (
                part.FullName.StartsWith("xl/worksheets/", StringComparison.Ordinal)
                && part.FullName.EndsWith(".xml", StringComparison.Ordinal)
            )
                CheckSheet(counted);
            else
                counted.CopyTo(Stream.Null);
            left = counted.Left;
        }
    }

    private static void CheckSheet(Stream sheet)
    {
        using var xml = XmlReader.Create(
            sheet,
            new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Prohibit,
                XmlResolver = null,
                MaxCharactersInDocument = MostUnpacked,
                IgnoreWhitespace = true,
            }
        );
        var (cells, inRow, rows) = (0, 0, 0);
        while (xml.Read())
        {
            if (xml.Depth > MostDeep)
                throw new InvalidDataException("It nests too deep.");
            if (xml.NodeType != XmlNodeType.Element)
                continue;
            switch (xml.LocalName)
            {
                case "dimension":
                    foreach (var corner in (xml.GetAttribute("ref") ?? "").Split(':'))
                        Column(corner);
                    break;
                case "row":
                    (rows, inRow) = (rows + 1, 0);
                    if (
                        rows > TableFiles.MostRows + 1
                        || (int.TryParse(xml.GetAttribute("r"), out var row) && row > TableFiles.MostRows + 1)
                    )
                        throw TableFiles.TooMany();
                    break;
                case "c":
                    if (++cells > MostCells)
                        throw TableFiles.TooMany();
                    if (++inRow > TableFiles.MostColumns)
                        throw TooWide($"row {rows}");
                    Column(xml.GetAttribute("r") ?? "");
                    break;
            }
        }
    }

    private static void Column(string reference)
    {
        var column = 0;
        foreach (var letter in reference.TakeWhile(char.IsAsciiLetterUpper).Take(6))
            column = (column * 26) + (letter - 'A' + 1);
        if (column > TableFiles.MostColumns)
            throw TooWide(reference);
    }

    private static RefusalException TooWide(string where) =>
        new(
            "file",
            $"The sheet goes further to the right than {TableFiles.MostColumns} columns ({where}). Delete what stands there, or save the table alone."
        );

    /// <summary>Says when more comes out of an archive than there may.</summary>
    private sealed class Counted(Stream inner, long left) : Stream
    {
        internal long Left { get; private set; } = left;

        public override bool CanRead => true;

        public override bool CanSeek => false;

        public override bool CanWrite => false;

        public override long Length => throw new NotSupportedException();

        public override long Position
        {
            get => throw new NotSupportedException();
            set => throw new NotSupportedException();
        }

        public override int Read(byte[] buffer, int offset, int count)
        {
            var read = inner.Read(buffer, offset, count);
            if ((Left -= read) < 0)
                throw new RefusalException(
                    "file",
                    "Unpacked, this workbook is larger than 200 MB. Save the one sheet as CSV, or split it."
                );
            return read;
        }

        public override void Flush() { }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        protected override void Dispose(bool disposing)
        {
            if (disposing)
                inner.Dispose();
            base.Dispose(disposing);
        }
    }
}
