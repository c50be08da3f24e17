using System.Text.RegularExpressions;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>The lists of words that papers are written with.</summary>
public sealed partial class PaperWordsTests
{
    [GeneratedRegex(@"\{\d\}")]
    private static partial Regex Gaps();

    public static TheoryData<string> Languages() => new(Customer.Languages.Select(l => l.Code));

    private static List<string> GapsOf(string text) =>
        [.. Gaps().Matches(text).Select(m => m.Value).Distinct().Order(StringComparer.Ordinal)];

    [Theory]
    [MemberData(nameof(Languages))]
    public void Each_list_has_every_word_with_the_same_gaps_and_ends_as_the_english_does(string language)
    {
        var words = PaperWords.Of(language);
        words.Language.ShouldBe(language);
        words.Missing.ShouldBeEmpty();
        foreach (var word in Enum.GetValues<PaperWord>())
        {
            words[word].ShouldBe(words[word].Trim(), $"{word}");
            GapsOf(words[word]).ShouldBe(GapsOf(PaperWords.English[word]), $"{word}");
            if (PaperWords.English[word].EndsWith("}.", StringComparison.Ordinal))
                words[word].ShouldEndWith(".", Case.Sensitive, $"{word}");
        }
    }

    [Theory]
    [MemberData(nameof(Languages))]
    public void No_list_is_english_in_disguise(string language)
    {
        if (language == "en")
            return;
        var same = Enum.GetValues<PaperWord>().Count(w => PaperWords.Of(language)[w] == PaperWords.English[w]);
        same.ShouldBeLessThan(14, "some words are the same by chance, such as Total");
    }

    [Fact]
    public void Every_kind_category_and_unit_has_its_word()
    {
        var german = PaperWords.Of("de");
        foreach (var kind in Enum.GetValues<DocumentKind>())
            PaperWords.English.Title(kind).ShouldBe(KindPolicy.Of(kind).Title);
        Enum.GetValues<DocumentKind>().Select(german.Title).Distinct().Count().ShouldBe(6);
        foreach (var category in Enum.GetValues<TaxCategory>())
            PaperWords.English.Category(category).ShouldBe(category.Word());
        foreach (var (code, _, brief) in Units.All)
            PaperWords.English.Unit(code).ShouldBe(brief);
        german.Unit("HUR").ShouldBe("Std");
        german.Unit("KGM").ShouldBe("kg");
    }

    [Fact]
    public void A_language_that_is_not_known_is_written_in_english() =>
        PaperWords.Of("xx")[PaperWord.Invoice].ShouldBe("Invoice");

    [Theory]
    [InlineData("sv", "1\u202f234,50", "2025-09-07")]
    [InlineData("de", "1\u202f234,50", "07.09.2025")]
    [InlineData("fi", "1\u202f234,50", "7.9.2025")]
    [InlineData("fr", "1\u202f234,50", "07/09/2025")]
    public void Figures_and_dates_are_written_as_the_language_writes_them(string language, string amount, string day)
    {
        var format = PaperWords.Of(language).FormatOf(null!);
        format.Amount(123_450, Core.Amounts.Currency.Of("EUR")).ShouldBe(amount);
        format.Date(new DateOnly(2025, 9, 7)).ShouldBe(day);
    }
}
