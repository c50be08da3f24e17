using Jugaad.Core.Amounts;

namespace Jugaad.Core.Tests;

/// <summary>What is said has its figures and days as the business writes them, and plain for programs.</summary>
public sealed class PhraseTests
{
    private static readonly DisplayFormat Comma = new(',', "dd.MM.yyyy");
    private static readonly Currency Eur = Currency.Of("EUR");

    [Fact]
    public void Amounts_figures_and_days_are_written_by_the_reader_s_format()
    {
        Phrase said =
            $"{new Money(123_456_789, Eur)} of {1234.5678m} h on {new DateOnly(2025, 9, 17)}, line {12000}, “{"as typed 1.5"}”";
        said.ToString().ShouldBe("1234567.89 of 1234.5678 h on 2025-09-17, line 12000, “as typed 1.5”");
        said.In(Comma)
            .ShouldBe("1\u202f234\u202f567,89 of 1\u202f234,5678 h on 17.09.2025, line 12000, “as typed 1.5”");
    }

    [Fact]
    public void Phrases_go_into_phrases_and_keep_their_figures()
    {
        Phrase tail = $" and {new Money(-150, Eur)}";
        Phrase whole = $"{2.5m} %{tail}{(Phrase)""}, {Phrase.Join(" + ", [$"{5m} %", $"{9.975m} %"])}";
        whole.ToString().ShouldBe("2.5 % and -1.50, 5 % + 9.975 %");
        whole.In(Comma).ShouldBe("2,5 % and \u22121,50, 5 % + 9,975 %");
        Phrase.Join(", ", []).ToString().ShouldBe("");
    }

    [Fact]
    public void A_day_in_part_and_a_day_that_is_none_stay_as_they_were_asked_for()
    {
        DateOnly? none = null,
            some = new(2025, 9, 17);
        Phrase said = $"{none:yyyy-MM-dd}|{some:yyyy-MM-dd}|{new DateOnly(2025, 9, 17):MMMM yyyy}|{(object?)null}";
        said.ToString().ShouldBe("|2025-09-17|September 2025|");
        said.In(Comma).ShouldBe("|17.09.2025|September 2025|");
    }

    [Fact]
    public void Refusals_are_the_same_when_they_say_the_same()
    {
        new Refusal("amount", $"{new Money(100, Eur)} is too much.").ShouldBe(
            new Refusal("amount", "1.00 is too much.")
        );
        var refused = new RefusalException([new("a", $"{1.5m} one."), new("b", "Two.")]);
        refused.Message.ShouldBe("1.5 one. Two.");
        refused.In(Comma).ShouldBe("1,5 one. Two.");
        refused.Refusals[0].In(Comma).Message.ShouldBe("1,5 one.");
        refused.Below("lines[0]").Refusals[0].Phrase.In(Comma).ShouldBe("1,5 one.");
    }
}
