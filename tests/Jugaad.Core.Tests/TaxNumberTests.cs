using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

public sealed class TaxNumberTests
{
    /// <summary>Numbers made up so that their check digits fit; they need not have been given to anybody.</summary>
    public static TheoryData<string, string> Good =>
        new()
        {
            { "AT", "ATU12345675" },
            { "BE", "BE0123456749" },
            { "DE", "DE123456788" },
            { "DK", "DK12345674" },
            { "EE", "EE101188342" },
            { "GR", "EL123456783" },
            { "FI", "FI29134571" },
            { "FR", "FR32123456789" },
            { "HR", "HR12345678903" },
            { "HU", "HU12345676" },
            { "IT", "IT12345678903" },
            { "LU", "LU12345613" },
            { "MT", "MT12345634" },
            { "NL", "NL123456782B12" },
            { "PL", "PL1234563218" },
            { "PT", "PT123456789" },
            { "SE", "SE556731084101" },
            { "SK", "SK1234567895" },
            { "GB", "GB123456782" },
            { "NO", "NO912345688MVA" },
            { "CH", "CHE-123.456.788 MWST" },
            { "ES", "ES12345678Z" },
            { "ES", "ESA12345674" },
            { "IE", "IE1234567T" },
            { "SI", "SI12345679" },
            { "RO", "RO1234567897" },
            { "BG", "BG123456786" },
            { "CY", "CY12345678F" },
            { "LT", "LT123456715" },
            { "LV", "LV41234567891" },
            { "CZ", "CZ12345679" },
        };

    /// <summary>
    /// Changing any one digit of the number's body must be found out, save where a state's rule is weaker.
    /// </summary>
    [Theory]
    [InlineData("EE", "EE101188342")]
    [InlineData("FI", "FI29134571")]
    [InlineData("SE", "SE556731084101")]
    [InlineData("NO", "NO912345688MVA")]
    public void One_wrong_digit_is_found_out(string country, string number)
    {
        TaxNumbers.Problem(number, country).ShouldBeNull();
        for (var i = 2; i < number.Length - (country == "SE" ? 2 : 0); i++)
        {
            if (!char.IsAsciiDigit(number[i]))
                continue;
            for (var digit = '0'; digit <= '9'; digit++)
            {
                if (digit == number[i])
                    continue;
                TaxNumbers.Problem(number[..i] + digit + number[(i + 1)..], country).ShouldNotBeNull();
            }
        }
    }

    [Theory]
    [InlineData("EE", "EE12345", "form")]
    [InlineData("EE", "EE101188343", "check digit")]
    [InlineData("DE", "DE012345678", "form")]
    [InlineData("CH", "CHE123456788", "form")]
    public void What_is_wrong_is_said_in_words(string country, string number, string word) =>
        TaxNumbers.Problem(number, country)!.ShouldContain(word);

    [Theory]
    [InlineData("FR", "DE123456788", "number of Germany")]
    [InlineData("US", "EE101188342", "number of Estonia")]
    [InlineData("IE", "XI123456782", "Northern Ireland")]
    [InlineData("FI", "EU372012345", "outside the union")]
    public void A_number_of_another_state_is_refused_for_this_one(string country, string number, string word) =>
        TaxNumbers.Problem(number, country)!.ShouldContain(word);

    [Theory]
    [InlineData("GB", "XI 123 456 782", "XI123456782")]
    [InlineData("US", "EU372012345", "EU372012345")]
    [InlineData("EE", "101 188 342", "EE101188342")]
    [InlineData("EE", "ee101188342", "EE101188342")]
    [InlineData("GR", "123456783", "EL123456783")]
    [InlineData("CH", "E-123.456.788 MWST", "CHE123456788MWST")]
    [InlineData("US", " 12-3456789 ", "12-3456789")]
    [InlineData("FR", "", "")]
    public void A_number_is_kept_with_the_letters_of_its_state(string country, string typed, string kept)
    {
        TaxNumbers.Problem(typed, country).ShouldBeNull();
        TaxNumbers.Complete(typed, country).ShouldBe(kept);
        TaxNumbers.Complete(kept, country).ShouldBe(kept);
    }

    [Theory]
    [InlineData("US", "anything")]
    [InlineData("EE", "")]
    [InlineData("EE", "ee 101 188 342")]
    [InlineData("EE", "101188342")]
    public void Blanks_case_and_a_missing_prefix_do_no_harm(string country, string number) =>
        TaxNumbers.Problem(number, country).ShouldBeNull();

    [Fact]
    public void All_states_of_the_union_are_known()
    {
        var states = Countries.All.Where(c => c.InUnion).Select(c => TaxNumbers.PrefixOf(c.Code)).ToList();
        states.Count.ShouldBe(27);
        states.Except(TaxNumbers.Prefixes).ShouldBeEmpty();
    }

    [Theory]
    [MemberData(nameof(Good))]
    public void Good_numbers_pass(string country, string number) => TaxNumbers.Problem(number, country).ShouldBeNull();
}
