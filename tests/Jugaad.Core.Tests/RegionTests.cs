using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>Regions by code and by name, and what the tax rules need of an address.</summary>
public sealed class RegionTests
{
    [Theory]
    [InlineData("CA", "ON", "ON")]
    [InlineData("CA", " ontario ", "ON")]
    [InlineData("CA", "CA-ON", "ON")]
    [InlineData("CA", "Quebec", "QC")]
    [InlineData("CA", "QUÉBEC", "QC")]
    [InlineData("CA", "P.E.I.", "PE")]
    [InlineData("CA", "Newfoundland & Labrador", "NL")]
    [InlineData("IN", "Karnātaka", "KA")]
    [InlineData("IN", "OR", "OD")]
    [InlineData("IN", "Telangana", "TS")]
    [InlineData("US", "Washington, D.C.", "DC")]
    [InlineData("US", "washington", "WA")]
    [InlineData("AU", "WA", "WA")]
    [InlineData("MX", "Veracruz", "VER")]
    [InlineData("BR", "Sao Paulo", "SP")]
    [InlineData("IE", "Co. Kerry", "Co. Kerry")]
    [InlineData("CA", "Nowhere", "Nowhere")]
    public void A_region_is_known_by_its_code_and_by_its_name(string country, string typed, string kept) =>
        new Address(Country: country, Region: typed).Tidied().Region.ShouldBe(kept);

    [Theory]
    [InlineData("CA", "TX", true)]
    [InlineData("US", "Bavaria", true)]
    [InlineData("US", "", false)]
    [InlineData("US", "Texas", false)]
    [InlineData("IE", "Anything", false)]
    public void A_region_that_the_list_lacks_is_refused(string country, string typed, bool refused)
    {
        var refusals = new Refusals();
        new Address(Country: country, Region: typed).Check(refusals, "places[2].");
        if (!refused)
            refusals.ThrowIfAny();
        else
            Should.Throw<RefusalException>(refusals.ThrowIfAny).Refusals.Single().Field.ShouldBe("places[2].region");
    }

    [Fact]
    public void No_list_has_a_code_or_a_name_twice_and_each_entry_is_found_by_both()
    {
        Regions.Listed.ShouldBe(["AU", "BR", "CA", "IN", "MX", "US"], ignoreOrder: true);
        Regions
            .Listed.ToDictionary(c => c, c => Regions.Of(c).Count)
            .ShouldBe(
                new Dictionary<string, int>
                {
                    ["AU"] = 8,
                    ["BR"] = 27,
                    ["CA"] = 13,
                    ["IN"] = 36,
                    ["MX"] = 32,
                    ["US"] = 57,
                }
            );
        foreach (var country in Regions.Listed)
        {
            Regions.Of(country).Select(r => r.Code).ShouldBeUnique();
            Regions
                .Of(country)
                .Select(r => r.Name)
                .ShouldBeInOrder(
                    SortDirection.Ascending,
                    Comparer<string>.Create((a, b) => string.CompareOrdinal(PlainLetters.Of(a), PlainLetters.Of(b)))
                );
            foreach (var region in Regions.Of(country))
            {
                Countries.Knows(country).ShouldBeTrue();
                Regions.Find(country, region.Code.ToLowerInvariant()).ShouldBe(region);
                Regions.Find(country, region.Name.ToUpperInvariant()).ShouldBe(region);
            }
        }
    }

    [Fact]
    public void An_address_prints_its_region_as_post_in_the_country_does()
    {
        new Address("1 Main St", "73301", "Austin", "US", "Texas")
            .Lines("US")
            .ShouldBe(["1 Main St", "73301 Austin, TX"]);
        new Address("5 MG Road", "560001", "Bengaluru", "IN", "KA")
            .Lines("IN")
            .ShouldBe(["5 MG Road", "560001 Bengaluru, Karnataka"]);
        new Address("", "", "Tralee", "IE", "Co. Kerry").Lines("IE").ShouldBe(["Tralee, Co. Kerry"]);
    }

    private static readonly Address Texas = new(Country: "US", Region: "TX", PostalCode: "73301");

    private static TaxRule Rule(
        int position,
        int? code,
        Place place,
        string region = "",
        string postal = "",
        string country = ""
    ) =>
        new(
            position,
            new TaxRuleCase(Supply.Anything, Buyer.Anybody, place)
            {
                Country = country,
                Region = region,
                Postal = postal,
            },
            code
        );

    private static TaxDecision Decide(TaxRule[] rules, Address to, Address? from = null) =>
        TaxDecision.By(rules, new TaxCase(Supply.Goods, Buyer.Consumer, to, from ?? Texas, 5));

    [Theory]
    [InlineData("Texas", 5)]
    [InlineData("US-TX", 5)]
    [InlineData("new mexico", 7)]
    public void Rules_read_a_region_however_it_was_written(string region, int code) =>
        (Decide([Rule(0, 7, Place.OtherRegion)], new Address(Country: "US", Region: region)).TaxCodeId ?? 5).ShouldBe(
            code
        );

    [Fact]
    public void A_region_without_its_country_is_one_at_home()
    {
        TaxRule[] washington = [Rule(0, 8, Place.Anywhere, "WA")];
        Decide(washington, new Address(Country: "US", Region: "Washington")).TaxCodeId.ShouldBe(8);
        Decide(washington, new Address(Country: "AU", Region: "WA")).TaxCodeId.ShouldBeNull();
        Decide(
            [Rule(0, 8, Place.Anywhere, "WA", country: "AU")],
            new Address(Country: "AU", Region: "Western Australia")
        )
            .TaxCodeId.ShouldBe(8);
        Decide([Rule(0, 8, Place.Anywhere, postal: "73")], new Address(Country: "MX", PostalCode: "73301"))
            .TaxCodeId.ShouldBeNull();
    }

    /// <summary>
    /// What is said of the place, of our own, and what is lacking under a table by region and postal code.
    /// </summary>
    [Theory]
    [InlineData("US", "", "73301", "TX", AddressPart.Region)]
    [InlineData("US", "", "", "TX", AddressPart.Region | AddressPart.PostalCode)]
    [InlineData("US", "TX", "", "TX", AddressPart.PostalCode)]
    [InlineData("US", "TX", "73301", "TX", AddressPart.None)]
    [InlineData("US", "NM", "", "TX", AddressPart.None)]
    [InlineData("US", "NM", "88001", "", AddressPart.OwnRegion)]
    [InlineData("US", "", "99999", "", AddressPart.Region | AddressPart.OwnRegion)]
    [InlineData("MX", "", "", "TX", AddressPart.None)]
    [InlineData("", "", "73301", "TX", AddressPart.Region)]
    public void What_the_rules_need_and_an_address_lacks_is_named(
        string country,
        string region,
        string postal,
        string own,
        AddressPart lacking
    ) =>
        Decide(
            [Rule(0, 3, Place.Abroad), Rule(1, 7, Place.OtherRegion), Rule(2, 9, Place.HomeRegion, postal: "733")],
            new Address(Country: country, Region: region, PostalCode: postal),
            new Address(Country: "US", Region: own)
        )
            .Lacks.ShouldBe(lacking);

    [Fact]
    public void What_would_change_nothing_is_not_lacking()
    {
        var nowhere = new Address(Country: "US");
        Decide([], nowhere).Lacks.ShouldBe(AddressPart.None);
        Decide([Rule(0, 5, Place.OtherRegion)], nowhere).Lacks.ShouldBe(AddressPart.None);
        Decide([Rule(0, null, Place.OtherRegion)], nowhere).Lacks.ShouldBe(AddressPart.None);
        Decide([Rule(0, 7, Place.Home), Rule(1, 8, Place.OtherRegion)], nowhere).Lacks.ShouldBe(AddressPart.None);
        Decide([Rule(0, 7, Place.OtherRegion), Rule(1, 7, Place.Home)], nowhere).Lacks.ShouldBe(AddressPart.None);
        Decide([Rule(0, 7, Place.OtherRegion), Rule(1, 8, Place.Home)], nowhere).Lacks.ShouldBe(AddressPart.Region);
    }
}
