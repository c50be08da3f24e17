using System.Text.RegularExpressions;
using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>The words of papers of the books.</summary>
public sealed partial class ReportWordsTests
{
    [GeneratedRegex(@"\{\d\}")]
    private static partial Regex Gaps();

    [Fact]
    public void Each_word_is_there_in_every_language_with_the_same_gaps()
    {
        ReportWords.All.Count.ShouldBeGreaterThan(190);
        foreach (var (english, words) in ReportWords.All)
        {
            words.Keys.ShouldBe(Customer.Languages.Select(l => l.Code), ignoreOrder: true, english);
            foreach (var (language, word) in words)
            {
                word.ShouldBe(word.Trim(), $"{english}, {language}");
                word.ShouldNotBeEmpty($"{english}, {language}");
                Gaps()
                    .Matches(word)
                    .Select(m => m.Value)
                    .ShouldBe(
                        Gaps().Matches(english).Select(m => m.Value),
                        ignoreOrder: true,
                        $"{english}, {language}"
                    );
            }

            words["en"].ShouldBe(english);
        }
    }

    [Theory]
    [InlineData("Open in EUR", "fi", "Avoinna EUR")]
    [InlineData("Open in EUR", "en", "Open in EUR")]
    [InlineData("2025-01-01 to 2025-03-31", "de", "2025-01-01 bis 2025-03-31")]
    [InlineData("2025-01-01 to 2025-03-31", "fr", "du 2025-01-01 au 2025-03-31")]
    [InlineData("Income by customer", "et", "Tulu klientide kaupa")]
    [InlineData("Reeds OÜ of EUR", "de", "Reeds OÜ of EUR")]
    [InlineData("31.12.2024 to 31.12.2025", "lt", "nuo 31.12.2024 iki 31.12.2025")]
    [InlineData("2025-01-01 to 2025-03-31, in EUR", "de", "2025-01-01 bis 2025-03-31, in EUR")]
    [InlineData("31–60", "de", "31–60")]
    [InlineData("Statement of Late {0} Customers", "de", "Kontoauszug: Late {0} Customers")]
    [InlineData("Income by customer", "xx", "Income by customer")]
    public void Days_and_currencies_within_words_stay(string english, string language, string said) =>
        ReportWords.Say(english, language).ShouldBe(said);

    [Fact]
    public void Days_within_a_text_are_written_as_a_format_writes_them() =>
        ReportWords
            .Dated("2025-01-01 bis 2025-03-31, 12345-01-01", new DisplayFormat(',', "dd.MM.yyyy"))
            .ShouldBe("01.01.2025 bis 31.03.2025, 12345-01-01");

    [Fact]
    public void A_report_has_a_word_of_its_own_for_each_language_but_for_what_trades_share()
    {
        foreach (var language in Customer.Languages.Where(l => l.Code != "en").Select(l => l.Code))
            ReportWords
                .All.Count(w => w.Value[language] == w.Key)
                .ShouldBeLessThan(30, $"{language} is English in disguise");
    }
}
