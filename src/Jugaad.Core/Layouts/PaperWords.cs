using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>
/// The words of papers in one language, and how that language writes figures and dates. A word that a list lacks stands
/// in English.
/// </summary>
public sealed partial class PaperWords
{
    private sealed record List(char? DecimalMark, string? Dates, Dictionary<string, string> Words);

    private static readonly JsonSerializerOptions Json = new() { PropertyNameCaseInsensitive = true };

    private static readonly Lazy<IReadOnlyDictionary<string, PaperWords>> All = new(() =>
        Customer.Languages.ToDictionary(l => l.Code, l => Read(l.Code))
    );

    private readonly Dictionary<PaperWord, string> _words;
    private readonly DisplayFormat? _format;

    private PaperWords(string language, List list)
    {
        Language = language;
        _words = list
            .Words.Select(w => (Known: Enum.TryParse<PaperWord>(w.Key, out var word), word, w.Value))
            .Where(w => w.Known)
            .ToDictionary(w => w.word, w => w.Value);
        _format = list is { DecimalMark: { } mark, Dates: { } dates } ? new DisplayFormat(mark, dates) : null;
    }

    private PaperWords(string language, Dictionary<PaperWord, string> words, DisplayFormat? format) =>
        (Language, _words, _format) = (language, words, format);

    private sealed record Kept(
        string Language,
        char? DecimalMark,
        string? Dates,
        SortedDictionary<string, string> Words
    );

    public static PaperWords English => All.Value["en"];

    private static readonly Lazy<IReadOnlyDictionary<string, PaperWord>> Sentences = new(() =>
        English
            ._words.Where(w => w.Key.ToString().StartsWith("Site", StringComparison.Ordinal) && !w.Value.Contains('{'))
            .GroupBy(w => w.Value)
            .ToDictionary(g => g.Key, g => g.First().Key)
    );

    /// <summary>What says this in English to a customer; null where nothing does.</summary>
    public static PaperWord? Saying(string english) => Sentences.Value.TryGetValue(english, out var word) ? word : null;

    /// <summary>The code of the language (ISO 639-1).</summary>
    public string Language { get; }

    /// <summary>Those of a language; in English where there are none of it.</summary>
    public static PaperWords Of(string language) => All.Value.GetValueOrDefault(language) ?? English;

    private static PaperWords Read(string language)
    {
        using var file = typeof(PaperWords).Assembly.GetManifestResourceStream($"Jugaad.Core.Words.{language}.json")!;
        return new PaperWords(language, JsonSerializer.Deserialize<List>(file, Json)!);
    }

    public string this[PaperWord word] => _words.GetValueOrDefault(word) ?? English._words[word];

    /// <summary>Those of a language that has no list here; what is not given stands in English.</summary>
    /// <param name="format">How it writes figures and dates.</param>
    public static PaperWords OfOwn(string language, DisplayFormat format) => new(language, [], format);

    /// <summary>With words of one's own in place of those of the list.</summary>
    public PaperWords With(IReadOnlyDictionary<PaperWord, string> own)
    {
        if (own.Count == 0)
            return this;
        var words = new Dictionary<PaperWord, string>(_words);
        foreach (var (word, text) in own)
            words[word] = text;
        return new PaperWords(Language, words, _format);
    }

    /// <summary>All of them as one text, with how figures are written, to be kept with what is issued with them.</summary>
    public string Write(Business business) =>
        JsonSerializer.Serialize(
            new Kept(
                Language,
                FormatOf(business).DecimalMark,
                FormatOf(business).DatePattern,
                new SortedDictionary<string, string>(
                    Enum.GetValues<PaperWord>().ToDictionary(w => w.ToString(), w => this[w]),
                    StringComparer.Ordinal
                )
            ),
            Json
        );

    /// <summary>As <see cref="Write"/> wrote them.</summary>
    /// <exception cref="RefusalException">When it is no such text.</exception>
    public static PaperWords Parse(string text)
    {
        try
        {
            var kept = JsonSerializer.Deserialize<Kept>(text, Json);
            if (kept is { Language.Length: > 0, Words: { } words })
                return new PaperWords(kept.Language, new List(kept.DecimalMark, kept.Dates, new(words)));
        }
        catch (JsonException)
        {
            // Said below, as what is well formed and is something else.
        }

        throw new RefusalException("words", "These words of papers cannot be read.");
    }

    /// <summary>What is wrong with a word of one's own; null for nothing.</summary>
    /// <param name="text">It names the same gaps as the English one, since something is put into each.</param>
    public static string? ProblemOf(PaperWord word, string text)
    {
        if (text.Length > LongestWord)
            return $"It is longer than {LongestWord} letters.";
        if (text.Any(char.IsControl))
            return "It is one line, without marks that cannot be seen.";
        var gaps = GapsIn(English[word]);
        var bare = Gaps().Replace(text, "");
        if (bare.Contains('{', StringComparison.Ordinal) || bare.Contains('}', StringComparison.Ordinal))
            return "Braces stand only around the number of a gap, such as {0}.";
        return GapsIn(text).SetEquals(gaps) ? null
            : gaps.Count == 0 ? "Nothing is put into this one: write it without gaps."
            : $"It must say {string.Join(" and ", gaps.Order(StringComparer.Ordinal))} once at least, where something is put in, and no other.";
    }

    private const int LongestWord = 400;

    [GeneratedRegex(@"\{\d\}")]
    private static partial Regex Gaps();

    private static HashSet<string> GapsIn(string text) => [.. Gaps().Matches(text).Select(m => m.Value)];

    /// <summary>With those of another language behind its own, where they differ.</summary>
    public PaperWords With(PaperWords other)
    {
        if (other.Language == Language)
            return this;
        var both = Enum.GetValues<PaperWord>()
            .ToDictionary(
                w => w,
                w =>
                    this[w] == other[w] || this[w].Contains('{', StringComparison.Ordinal)
                        ? this[w]
                        : $"{this[w]} / {other[w]}"
            );
        return new PaperWords(Language, both, _format);
    }

    /// <param name="second">The code of the other language; empty for none.</param>
    /// <inheritdoc cref="With(PaperWords)"/>
    public PaperWords With(string second) => second.Length == 0 ? this : With(Of(second));

    /// <summary>What the list lacks.</summary>
    public IReadOnlyList<PaperWord> Missing => [.. Enum.GetValues<PaperWord>().Where(w => !_words.ContainsKey(w))];

    /// <summary>Whether the list itself has a word; words kept long ago lack what was added since.</summary>
    public bool Has(PaperWord word) => _words.ContainsKey(word);

    /// <summary>A word with something put in.</summary>
    public string Fill(PaperWord word, params object[] with) =>
        string.Format(CultureInfo.InvariantCulture, this[word], with);

    /// <summary>How the language writes figures and dates: in English as the business does.</summary>
    public DisplayFormat FormatOf(Business business) => _format ?? business.Format;

    /// <summary>How a paper is headed.</summary>
    public string Title(DocumentKind kind) =>
        this[
            kind switch
            {
                DocumentKind.Quote => PaperWord.Quote,
                DocumentKind.Order => PaperWord.Order,
                DocumentKind.DeliveryNote => PaperWord.DeliveryNote,
                DocumentKind.CreditNote => PaperWord.CreditNote,
                DocumentKind.DebitNote => PaperWord.DebitNote,
                _ => PaperWord.Invoice,
            }
        ];

    /// <summary>The same in the middle of a sentence: German writes it large there too.</summary>
    public string TitleWithin(DocumentKind kind) => Language == "de" ? Title(kind) : Title(kind).ToLowerInvariant();

    /// <summary>What marks a paper of several, such as a copy; anything else stands as it was typed.</summary>
    public string Mark(string mark) =>
        mark switch
        {
            "Original" => this[PaperWord.OriginalMark],
            "Copy" => this[PaperWord.CopyMark],
            "For the driver" => this[PaperWord.DriverMark],
            "Paid" => this[PaperWord.PaidMark],
            _ => mark,
        };

    /// <summary>What something on an account is, as a statement calls it.</summary>
    public string Entry(AccountItemKind kind) =>
        this[
            kind switch
            {
                AccountItemKind.Invoice => PaperWord.Invoice,
                AccountItemKind.DebitNote => PaperWord.DebitNote,
                AccountItemKind.Refund => PaperWord.Refund,
                AccountItemKind.Receipt => PaperWord.Receipt,
                AccountItemKind.CreditNote => PaperWord.CreditNote,
                AccountItemKind.WriteOff => PaperWord.WriteOff,
                AccountItemKind.EarlyPayment => PaperWord.EarlyPayment,
                AccountItemKind.SmallDifference => PaperWord.SmallGivenUp,
                AccountItemKind.SmallGain => PaperWord.SmallKept,
                AccountItemKind.Returned => PaperWord.PaymentReturned,
                AccountItemKind.MovedOut => PaperWord.MovedOut,
                AccountItemKind.MovedIn => PaperWord.MovedIn,
                _ => PaperWord.OwedAfterAll,
            }
        ];

    public string Category(TaxCategory category) => this[Enum.Parse<PaperWord>(category.ToString())];

    /// <summary>A unit as it stands behind a quantity; signs of measure are the same everywhere.</summary>
    public string Unit(string code) =>
        code switch
        {
            "H87" => this[PaperWord.Piece],
            "HUR" => this[PaperWord.Hour],
            "DAY" => this[PaperWord.Day],
            "WEE" => this[PaperWord.Week],
            "MON" => this[PaperWord.Month],
            "ANN" => this[PaperWord.Year],
            "SET" => this[PaperWord.Set],
            "PR" => this[PaperWord.Pair],
            _ => Units.Short(code),
        };
}
