using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts.Spelling;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>Amounts in words of money, language by language.</summary>
public sealed class MoneySpellingTests
{
    private static string Say(long minor, string currency, string language) =>
        MoneySpelling.Of(minor, Currency.Of(currency), language);

    [Theory]
    [InlineData(0, "EUR", "zero euros")]
    [InlineData(101, "EUR", "one euro and 1 cent")]
    [InlineData(-250, "EUR", "minus two euros and 50 cents")]
    [InlineData(4_500, "SEK", "forty-five kronor")]
    [InlineData(77, "JPY", "seventy-seven JPY")]
    [InlineData(123_450, "EUR", "one thousand two hundred and thirty-four euros and 50 cents")]
    [InlineData(100_500, "GBP", "one thousand and five pounds")]
    [InlineData(200_000_700, "USD", "two million and seven dollars")]
    [InlineData(100_000_000_001, "EUR", "1000000000 EUR and 1/100")]
    public void Money_is_said_in_english(long minor, string currency, string words) =>
        Say(minor, currency, "en").ShouldBe(words);

    [Theory]
    [InlineData("de", 100, "EUR", "ein Euro")]
    [InlineData("de", 10_100, "EUR", "einhunderteins Euro")]
    [InlineData("de", 123_450, "EUR", "eintausendzweihundertvierunddreißig Euro und 50 Cent")]
    [InlineData("de", 100, "SEK", "eine Krone")]
    [InlineData("nl", 2_200, "EUR", "tweeëntwintig euro")]
    [InlineData("nl", 123_400, "EUR", "duizend tweehonderdvierendertig euro")]
    [InlineData("sv", 100, "SEK", "en krona")]
    [InlineData("sv", 123_450, "SEK", "ettusen tvåhundratrettiofyra kronor och 50 öre")]
    [InlineData("no", 100_500, "NOK", "ett tusen og fem kroner")]
    [InlineData("no", 23_500, "NOK", "to hundre og trettifem kroner")]
    [InlineData("da", 2_100, "DKK", "enogtyve kroner")]
    [InlineData("da", 23_500, "DKK", "to hundrede og femogtredive kroner")]
    [InlineData("fr", 8_000, "EUR", "quatre-vingts euros")]
    [InlineData("fr", 7_100, "EUR", "soixante et onze euros")]
    [InlineData("fr", 8_000_000, "EUR", "quatre-vingt mille euros")]
    [InlineData("fr", 20_000, "EUR", "deux cents euros")]
    [InlineData("fr", 20_100, "GBP", "deux cent une livres")]
    [InlineData("fr", 100_000_000, "EUR", "un million d’euros")]
    [InlineData("es", 2_100, "EUR", "veintiún euros")]
    [InlineData("es", 20_100, "SEK", "doscientas una coronas")]
    [InlineData("es", 10_000, "EUR", "cien euros")]
    [InlineData("es", 200_000_000, "EUR", "dos millones de euros")]
    [InlineData("it", 2_300, "EUR", "ventitré euro")]
    [InlineData("it", 2_800, "EUR", "ventotto euro")]
    [InlineData("it", 200_100, "EUR", "duemilauno euro")]
    [InlineData("pt", 100_500, "EUR", "mil e cinco euros")]
    [InlineData("pt", 123_450, "EUR", "mil duzentos e trinta e quatro euros e 50 cêntimos")]
    [InlineData("pt", 20_200, "GBP", "duzentas e duas libras")]
    [InlineData("pl", 100, "EUR", "jedno euro")]
    [InlineData("pl", 2_200, "SEK", "dwadzieścia dwie korony")]
    [InlineData("pl", 1_200, "PLN", "dwanaście złotych")]
    [InlineData("pl", 500_305, "PLN", "pięć tysięcy trzy złote i 5 groszy")]
    [InlineData("lv", 2_100, "EUR", "divdesmit viens eiro")]
    [InlineData("lv", 1_100, "SEK", "vienpadsmit kronu")]
    [InlineData("lv", 200_200, "USD", "divi tūkstoši divi dolāri")]
    [InlineData("lt", 2_100, "EUR", "dvidešimt vienas euras")]
    [InlineData("lt", 1_100, "EUR", "vienuolika eurų")]
    [InlineData("lt", 10_200, "SEK", "vienas šimtas dvi kronos")]
    [InlineData("et", 100, "EUR", "üks euro")]
    [InlineData("et", 234_550, "EUR", "kaks tuhat kolmsada nelikümmend viis eurot ja 50 senti")]
    [InlineData("et", 1_100, "EUR", "üksteist eurot")]
    [InlineData("fi", 100, "EUR", "yksi euro")]
    [InlineData("fi", 234_501, "EUR", "kaksituhatta kolmesataaneljäkymmentäviisi euroa ja 1 sentti")]
    public void Each_language_bends_its_own_way(string language, long minor, string currency, string words) =>
        Say(minor, currency, language).ShouldBe(words);

    public static TheoryData<string> Languages() => new(Customer.Languages.Select(l => l.Code));

    [Theory]
    [MemberData(nameof(Languages))]
    public void No_two_amounts_are_said_alike_and_none_with_a_hole_in_it(string language)
    {
        var dice = new Random(11);
        var amounts = Enumerable
            .Range(0, 4_000)
            .Select(n => (long)n)
            .Concat(Enumerable.Range(0, 4_000).Select(_ => dice.NextInt64(1_000_000_000)))
            .Distinct()
            .ToList();
        foreach (var currency in new[] { "EUR", "SEK" })
        {
            var said = amounts.ConvertAll(a => Say(a * 100, currency, language));
            said.Distinct().Count().ShouldBe(amounts.Count);
            said.ShouldAllBe(s => s.Trim() == s && !s.Contains("  "));
        }
    }

    [Theory]
    [MemberData(nameof(Languages))]
    public void Every_language_names_the_currencies_of_those_around_it(string language)
    {
        foreach (var currency in new[] { "EUR", "SEK", "NOK", "DKK", "GBP", "USD", "CHF", "CAD", "PLN" })
            Say(100, currency, language).ShouldNotContain(currency, Case.Sensitive);
        Say(100, "EUR", language).ShouldNotBe(language == "en" ? "" : Say(100, "EUR", "en"));
    }
}
