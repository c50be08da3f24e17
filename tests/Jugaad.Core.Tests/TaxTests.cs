using Jugaad.Core.Taxes;

namespace Jugaad.Core.Tests;

public sealed class TaxTests
{
    private static TaxCode Standard(params (string From, decimal Percent)[] rates) =>
        new(
            "STD",
            "Standard",
            TaxCategory.Standard,
            null,
            [
                new TaxCodePart(
                    0,
                    new TaxComponent("VAT", null, rates.Select(r => new TaxRate(DateOnly.Parse(r.From), r.Percent))),
                    false
                ),
            ]
        );

    [Theory]
    [InlineData("2025-06-30", 22)]
    [InlineData("2025-07-01", 24)]
    [InlineData("2030-01-01", 24)]
    public void The_rate_is_the_one_in_force_on_the_day(string day, decimal percent) =>
        Standard(("2025-07-01", 24), ("2024-01-01", 22))
            .TreatmentOn(DateOnly.Parse(day), "date", TaxStanding.Always)
            .Parts[0]
            .Percent.ShouldBe(percent);

    [Fact]
    public void A_day_before_the_first_rate_is_refused_with_the_first_day()
    {
        var refusal = Should
            .Throw<RefusalException>(() =>
                Standard(("2024-01-01", 22)).TreatmentOn(new DateOnly(2023, 12, 31), "date", TaxStanding.Always)
            )
            .Refusals[0];
        refusal.Field.ShouldBe("date");
        refusal.Message.ShouldContain("2024-01-01");
    }

    [Fact]
    public void A_second_rate_on_one_day_is_refused()
    {
        var component = new TaxComponent("VAT", null, [new TaxRate(new DateOnly(2024, 1, 1), 22)]);
        Should.Throw<RefusalException>(() => component.AddRate(new TaxRate(new DateOnly(2024, 1, 1), 23)));
        component.Rates.Count.ShouldBe(1);
    }

    [Fact]
    public void A_treatments_text_gives_the_treatment_back()
    {
        var treatment = new Treatment(
            TaxCategory.Standard,
            [new TreatmentPart(3, "Fed; #1 @ home*", 5.25m, false), new TreatmentPart(4, "Õismäe", 9.975m, true)]
        );
        Treatment.Parse(treatment.ToString()).ShouldBe(treatment);
        Treatment.Parse(treatment.ToString()).Parts.ShouldBe(treatment.Parts);
        Treatment.Parse("AE").Parts.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("S", "S")]
    [InlineData("AE", "AE")]
    [InlineData("K", "K")]
    public void Categories_have_the_letters_of_the_code_list(string letters, string back) =>
        TaxCategories.Of(letters, "category").Letters().ShouldBe(back);

    [Fact]
    public void Unknown_letters_are_refused() =>
        Should.Throw<RefusalException>(() => TaxCategories.Of("Q", "category")).Refusals[0].Field.ShouldBe("category");
}
