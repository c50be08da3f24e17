using System.IO.Compression;
using UglyToad.PdfPig.Filters;
using UglyToad.PdfPig.Tokens;

namespace Jugaad.Formats.EInvoices;

/// <summary>
/// Unpacks the streams of a PDF as ever, but none that would come to more than a file may have: some few hundred kilobytes
/// could else fill the memory.
/// </summary>
internal sealed class BoundedFilters(int most) : IFilterProvider
{
    private static readonly IFilterProvider Usual = DefaultFilterProvider.Instance;

    public IReadOnlyList<IFilter> GetFilters(DictionaryToken dictionary) => Bounded(Usual.GetFilters(dictionary));

    public IReadOnlyList<IFilter> GetNamedFilters(IReadOnlyList<NameToken> names) =>
        Bounded(Usual.GetNamedFilters(names));

    public IReadOnlyList<IFilter> GetAllFilters() => Bounded(Usual.GetAllFilters());

    private List<IFilter> Bounded(IReadOnlyList<IFilter> filters) =>
        [.. filters.Select(f => new BoundedFilter(f, most))];

    private sealed class BoundedFilter(IFilter filter, int most) : IFilter
    {
        public bool IsSupported => filter.IsSupported;

        public Memory<byte> Decode(
            Memory<byte> input,
            DictionaryToken streamDictionary,
            IFilterProvider filterProvider,
            int filterIndex
        )
        {
            if (filter.GetType().Name.StartsWith("Lzw", StringComparison.Ordinal) || IsTooMuch(input))
                throw new InvalidDataException("A stream of the PDF unpacks to more than it may.");
            return filter.Decode(input, streamDictionary, filterProvider, filterIndex);
        }

        /// <summary>Unpacked piece by piece, keeping none of it.</summary>
        private bool IsTooMuch(Memory<byte> input)
        {
            try
            {
                using var packed = new MemoryStream(input.ToArray());
                using var unpacked = new ZLibStream(packed, CompressionMode.Decompress);
                var piece = new byte[81920];
                var sum = 0L;
                for (int read; (read = unpacked.Read(piece)) > 0; )
                    if ((sum += read) > most)
                        return true;
            }
            catch (InvalidDataException)
            {
                // Packed in another way, which grows little; the usual filter says what is wrong with it.
            }

            return false;
        }
    }
}
