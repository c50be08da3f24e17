using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>The table that decides which tax code applies, tried as a table.</summary>
public sealed class TaxDecisionTests
{
    private const int Eu = 1;
    private const int Reverse = 2;
    private const int Export = 3;
    private const int Exempt = 4;
    private const int Standard = 5;
    private const int Low = 6;
    private const int Whole = 7;
    private const int WholeLow = 8;
    private const int City = 9;
    private const int County = 10;

    private static readonly DateOnly Day = new(2025, 9, 17);
    private static readonly Address Estonia = new(Country: "EE");
    private static readonly Address Texas = new(Country: "US", Region: "TX", PostalCode: "73301");

    private static TaxRule Rule(
        int position,
        int? code,
        Supply supply = Supply.Anything,
        Buyer buyer = Buyer.Anybody,
        Place place = Place.Anywhere,
        int? prefers = null,
        string country = "",
        string region = "",
        string postal = ""
    ) =>
        new(
            position,
            new TaxRuleCase(supply, buyer, place)
            {
                PreferredCodeId = prefers,
                Country = country,
                Region = region,
                Postal = postal,
            },
            code
        );

    /// <summary>A usual table for a business in the union.</summary>
    private static readonly TaxRule[] Usual =
    [
        Rule(0, Exempt, buyer: Buyer.ExemptWithCertificate),
        Rule(1, Eu, Supply.Goods, Buyer.BusinessWithNumber, Place.Union),
        Rule(2, Reverse, Supply.Services, Buyer.BusinessWithNumber, Place.Union),
        Rule(3, Export, Supply.Goods, place: Place.Abroad),
    ];

    /// <summary>
    /// A table for a country with regions: halves at home, the whole elsewhere, by what the item prefers.
    /// </summary>
    private static readonly TaxRule[] Regional =
    [
        Rule(0, Export, place: Place.Abroad),
        Rule(1, Whole, place: Place.OtherRegion, prefers: Standard),
        Rule(2, WholeLow, place: Place.OtherRegion, prefers: Low),
        Rule(3, City, place: Place.HomeRegion, prefers: Standard, postal: "73301 73302"),
        Rule(4, County, place: Place.HomeRegion, prefers: Standard, postal: "733"),
    ];

    private static Customer Customer(
        CustomerKind kind,
        string country,
        string taxNumber = "",
        params CertificateDetails[] certificates
    ) =>
        new(
            new CustomerDetails
            {
                Code = "C",
                Name = "C",
                Kind = kind,
                Currency = "EUR",
                TaxNumber = taxNumber,
                Address = new Address(Country: country),
                Certificates = certificates,
            }
        );

    private static TaxDecision Decide(
        TaxRule[] rules,
        bool goods,
        Customer customer,
        Address? to = null,
        Address? from = null,
        int prefers = Standard,
        DateOnly? day = null
    ) =>
        TaxDecision.By(
            rules,
            TaxCase.Of(goods, customer, to ?? customer.Address, from ?? Estonia, day ?? Day, prefers)
        );

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
    public void The_first_row_that_fits_decides(
        bool goods,
        CustomerKind kind,
        string country,
        string number,
        int? code
    ) => Decide(Usual, goods, Customer(kind, country, number)).TaxCodeId.ShouldBe(code);

    [Theory]
    [InlineData("US", "TX", "73301", Standard, City)]
    [InlineData("US", "tx", "73302-1", Standard, City)]
    [InlineData("US", "TX", "73399", Standard, County)]
    [InlineData("US", "TX", "79901", Standard, null)]
    [InlineData("US", "TX", "73301", Low, null)]
    [InlineData("US", "NM", "73301", Standard, Whole)]
    [InlineData("US", "NM", "", Low, WholeLow)]
    [InlineData("US", "", "73301", Standard, City)]
    [InlineData("", "", "", Standard, null)]
    [InlineData("CA", "TX", "73301", Standard, Export)]
    public void Regions_postal_codes_and_what_the_item_prefers_narrow_a_row(
        string country,
        string region,
        string postal,
        int prefers,
        int? code
    ) =>
        Decide(
            Regional,
            true,
            Customer(CustomerKind.Consumer, "US"),
            new Address(Country: country, Region: region, PostalCode: postal),
            Texas,
            prefers
        )
            .TaxCodeId.ShouldBe(code);

    [Theory]
    [InlineData("2025-08-31", null)]
    [InlineData("2025-09-01", Exempt)]
    [InlineData("2025-09-30", Exempt)]
    [InlineData("2025-10-01", null)]
    public void A_certificate_exempts_from_its_first_day_to_its_last(string day, int? code)
    {
        var customer = Customer(
            CustomerKind.Business,
            "EE",
            "",
            new CertificateDetails("X-1", new DateOnly(2025, 9, 1), new DateOnly(2025, 9, 30))
        );
        Decide(Usual, true, customer, day: DateOnly.Parse(day)).TaxCodeId.ShouldBe(code);
    }

    [Fact]
    public void Of_several_certificates_the_one_that_lasts_longest_counts()
    {
        var customer = Customer(
            CustomerKind.Business,
            "EE",
            "",
            new CertificateDetails("OLD", null, new DateOnly(2025, 9, 20)),
            new CertificateDetails("EVER"),
            new CertificateDetails("NEW", null, new DateOnly(2026, 9, 20))
        );
        customer.CertificateOn(Day)!.Number.ShouldBe("EVER");
    }

    [Fact]
    public void The_place_of_supply_counts_and_not_where_the_customer_lives()
    {
        var finn = Customer(CustomerKind.Consumer, "NO");
        Decide(Usual, true, finn).TaxCodeId.ShouldBe(Export);
        Decide(Usual, true, finn, to: Estonia).TaxCodeId.ShouldBeNull();
    }

    [Fact]
    public void It_says_why()
    {
        Decide(Usual, false, Customer(CustomerKind.Business, "FI", "FI29134571"))
            .Why.ShouldBe("services to a business with a tax number in Finland");
        Decide(Regional, true, Customer(CustomerKind.Consumer, "US"), new Address(Country: "US", Region: "NM"), Texas)
            .Why.ShouldBe("goods to a consumer in the region NM");
        Decide(Usual, true, Customer(CustomerKind.Consumer, "EE", "", new CertificateDetails("X")))
            .Why.ShouldBe("goods to whoever is exempt with a certificate at home");
    }

    [Fact]
    public void The_order_of_the_rows_counts()
    {
        TaxRule[] swapped = [Rule(5, 99), .. Usual];
        Decide(swapped, true, Customer(CustomerKind.Business, "FI", "FI29134571")).TaxCodeId.ShouldBe(Eu);
        swapped[0].MoveTo(-1);
        Decide(swapped, true, Customer(CustomerKind.Business, "FI", "FI29134571")).TaxCodeId.ShouldBe(99);
    }

    [Theory]
    [InlineData("FI", "NO", Place.Abroad)]
    [InlineData("FI", "FI", Place.HomeRegion)]
    [InlineData("FI", "EE", Place.Union)]
    [InlineData("", "EE", Place.HomeRegion)]
    public void A_union_counts_only_for_its_members(string to, string from, Place place) =>
        new TaxCase(Supply.Goods, Buyer.Consumer, new Address(Country: to), new Address(Country: from)).Place.ShouldBe(
            place
        );

    [Fact]
    public void A_rule_for_home_fits_every_region_of_it()
    {
        TaxRule[] home = [Rule(0, 77, place: Place.Home)];
        foreach (var region in new[] { "TX", "NM", "" })
            Decide(home, true, Customer(CustomerKind.Consumer, "US"), new Address(Country: "US", Region: region), Texas)
                .TaxCodeId.ShouldBe(77);
        Decide(home, true, Customer(CustomerKind.Consumer, "US"), new Address(Country: "MX"), Texas)
            .TaxCodeId.ShouldBeNull();
    }

    [Fact]
    public void Every_case_has_words()
    {
        Enum.GetValues<Buyer>().Select(TaxWords.Of).Distinct().Count().ShouldBe(6);
        Enum.GetValues<Place>().Select(TaxWords.Of).Distinct().Count().ShouldBe(6);
        Enum.GetValues<Supply>().Select(TaxWords.Of).Distinct().Count().ShouldBe(3);
        Rule(0, 1, place: Place.HomeRegion, region: "TX", postal: "733 734")
            .PlaceWords()
            .ShouldBe("in the home region, region TX, postal code 733 or 734…");
        Rule(0, 1, country: "SE").PlaceWords().ShouldBe("Sweden");
    }
}
