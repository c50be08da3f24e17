using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

public sealed class TaxDecisionTests
{
    private const int Eu = 1;
    private const int Reverse = 2;
    private const int Export = 3;

    /// <summary>A usual table for a business in the union.</summary>
    private static readonly TaxRule[] Usual =
    [
        new(0, Supply.Goods, Buyer.BusinessWithNumber, Place.Union, Eu), new(1, Supply.Services, Buyer.BusinessWithNumber, Place.Union, Reverse), new(2, Supply.Goods, Buyer.Anybody, Place.Abroad, Export),
    ];

    private static Customer Customer(CustomerKind kind, string country, string taxNumber = "") =>
        new(new CustomerDetails { Code = "C", Name = "C", Kind = kind, Currency = "EUR", TaxNumber = taxNumber, Address = new Address(Country: country) });

    [Theory]
    [InlineData(true, CustomerKind.Business, "FI", "FI29134571", Eu)]
    [InlineData(false, CustomerKind.Business, "FI", "FI29134571", Reverse)]
    [InlineData(true, CustomerKind.Business, "FI", "", null)]
    [InlineData(true, CustomerKind.Consumer, "FI", "", null)]
    [InlineData(false, CustomerKind.PublicBody, "FI", "", null)]
    [InlineData(true, CustomerKind.Business, "EE", "EE101188342", null)]
    [InlineData(true, CustomerKind.Consumer, "NO", "", Export)]
    [InlineData(true, CustomerKind.Business, "NO", "NO912345688MVA", Export)]
    [InlineData(false, CustomerKind.Business, "NO", "NO912345688MVA", null)]
    [InlineData(true, CustomerKind.Consumer, "", "", null)]
    [InlineData(true, CustomerKind.Business, "GB", "", Export)]
    public void The_first_row_that_fits_decides(bool goods, CustomerKind kind, string country, string number, int? code) =>
        TaxDecision.By(Usual, goods, Customer(kind, country, number), "EE").TaxCodeId.ShouldBe(code);

    [Fact]
    public void It_says_why() =>
        TaxDecision.By(Usual, false, Customer(CustomerKind.Business, "FI", "FI29134571"), "EE").Why.ShouldBe("services to a business with a tax number in Finland");

    [Fact]
    public void The_order_of_the_rows_counts()
    {
        TaxRule[] swapped = [new(1, Supply.Anything, Buyer.Anybody, Place.Anywhere, 9), .. Usual.Take(1)];
        TaxDecision.By(swapped, true, Customer(CustomerKind.Business, "FI", "FI29134571"), "EE").TaxCodeId.ShouldBe(Eu);
        swapped[0].MoveTo(-1);
        TaxDecision.By(swapped, true, Customer(CustomerKind.Business, "FI", "FI29134571"), "EE").TaxCodeId.ShouldBe(9);
    }

    [Fact]
    public void A_union_counts_only_for_its_members()
    {
        TaxDecision.PlaceOf("FI", "NO").ShouldBe(Place.Abroad);
        TaxDecision.PlaceOf("FI", "FI").ShouldBe(Place.Home);
        TaxDecision.PlaceOf("FI", "EE").ShouldBe(Place.Union);
    }

    [Fact]
    public void Every_case_has_words()
    {
        Enum.GetValues<Buyer>().Select(TaxDecision.Words).Distinct().Count().ShouldBe(5);
        Enum.GetValues<Place>().Select(TaxDecision.Words).Distinct().Count().ShouldBe(4);
        Enum.GetValues<Supply>().Select(TaxDecision.Words).Distinct().Count().ShouldBe(3);
    }
}
