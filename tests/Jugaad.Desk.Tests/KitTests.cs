using System.Text;
using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Setup;
using Jugaad.Formats.Taxes;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Each kit that ships, in books of its own, with figures worked out by hand.</summary>
public sealed class KitTests
{
    private static readonly DateOnly Registered = new(2020, 1, 1);
    private static readonly Address Home = new("Street 1", "42101", "Hometown", "US", "KY");

    /// <summary>
    /// Kit, what the customer is, where the goods go, and what 3 × 33.33 come to: net, each tax, total, and the words
    /// on the paper.
    /// </summary>
    public static TheoryData<string, string, Address, bool, long, long[], string> Worked =>
        new()
        {
            // 99.99 × 24 % = 23.9976
            { "1-one-tax", "consumer", new Address(Country: "EE"), true, 9_999, [2_400], "" },
            {
                "1-one-tax",
                "FI29134571",
                new Address(Country: "FI"),
                true,
                9_999,
                [],
                "Supply of goods to another member state, without VAT."
            },
            {
                "1-one-tax",
                "FI29134571",
                new Address(Country: "FI"),
                false,
                9_999,
                [],
                "Reverse charge: the customer accounts for the VAT."
            },
            {
                "1-one-tax",
                "consumer",
                new Address(Country: "NO"),
                true,
                9_999,
                [],
                "Export outside the union, without VAT."
            },
            { "1-one-tax", "certificate", new Address(Country: "EE"), true, 9_999, [], "Exempt from VAT." },
            // 99.99 × 5 % = 4.9995, × 9.975 % = 9.974
            { "2-federal-and-regional", "consumer", Home, true, 9_999, [500, 997], "" },
            { "2-federal-and-regional", "consumer", new Address(Country: "US", Region: "TN"), true, 9_999, [500], "" },
            {
                "2-federal-and-regional",
                "consumer",
                new Address(Country: "EE"),
                true,
                9_999,
                [],
                "Exported, without sales tax."
            },
            // (99.99 + 5.00) × 10 % = 10.499
            { "3-regional-on-federal", "consumer", Home, true, 9_999, [500, 1_050], "" },
            { "3-regional-on-federal", "consumer", new Address(Country: "US", Region: "TN"), true, 9_999, [500], "" },
            // 99.99 × 9 % = 8.9991 twice, or × 18 % = 17.9982 once
            { "4-halves-or-whole", "consumer", Home, true, 9_999, [900, 900], "" },
            { "4-halves-or-whole", "consumer", new Address(Country: "US", Region: "TN"), true, 9_999, [1_800], "" },
            { "4-halves-or-whole", "certificate", Home, true, 9_999, [], "Exempt supply." },
            // 99.99 × 6.25 % = 6.249375, × 1 % = 0.9999, × 0.75 % = 0.749925
            { "5-by-destination", "consumer", Home, true, 9_999, [625, 100, 75], "" },
            { "5-by-destination", "consumer", Home with { PostalCode = "42177" }, true, 9_999, [625, 100], "" },
            { "5-by-destination", "consumer", Home with { PostalCode = "50000" }, true, 9_999, [625], "" },
            {
                "5-by-destination",
                "consumer",
                Home with
                {
                    Region = "TN",
                },
                true,
                9_999,
                [],
                "Delivered out of state: not subject to this state's sales tax."
            },
            {
                "5-by-destination",
                "certificate",
                Home,
                true,
                9_999,
                [],
                "Exempt from sales tax under the certificate on file."
            },
            { "6-no-tax", "consumer", Home, true, 9_999, [], "Not subject to tax." },
        };

    [Theory]
    [MemberData(nameof(Worked))]
    public async Task A_kit_gives_the_figures_worked_out_by_hand(
        string kit,
        string buyer,
        Address to,
        bool goods,
        long net,
        long[] taxes,
        string words
    )
    {
        await using var loft = await Loft.WithKitAsync(
            kit,
            kit[0] == '1' ? new Address("Quay 1", "1", "Harbour", "EE") : Home,
            Registered
        );
        var customer = await CustomerAsync(loft, buyer, to);
        var item = await loft.WithAsync<ItemsDesk, int>(i =>
            i.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "X",
                    Name = "Thing",
                    IsGoods = goods,
                    Price = 33.33m,
                    TaxCodeId = loft.Std,
                    LedgerAccountId = loft.Sales,
                }
            )
        );
        var answer = (
            await loft.WithAsync<TaxRulesDesk, IReadOnlyList<TaxAnswer>>(r =>
                r.DecideAsync(new TaxQuestion(customer, null, Loft.Today, [item]))
            )
        ).Single();
        var invoice = await loft.IssuedAsync(
            new DraftContent
            {
                CustomerId = customer,
                Date = Loft.Today,
                Lines = [new DraftLine(item, "Thing", 3, "H87", 33.33m, null, null, answer.TaxCodeId, loft.Sales)],
            }
        );
        var kept = await loft.WithAsync<BooksContext, Document>(db =>
            db.Documents.AsNoTracking().Include(d => d.Taxes).SingleAsync(d => d.Id == invoice.Id)
        );
        kept.Net.ShouldBe(net);
        kept.Taxes.OrderBy(t => t.Position).Where(t => t.Tax != 0).Select(t => t.Tax).ShouldBe(taxes);
        kept.Payable.ShouldBe(net + taxes.Sum());
        kept.TaxWords.ShouldBe(buyer == "certificate" ? $"{words}\nExemption certificate RS-1." : words);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public void Six_kits_ship_and_each_is_the_same_after_writing_and_reading()
    {
        var kits = new ShippedKits();
        kits.All.Count.ShouldBe(6);
        foreach (var (key, kit) in kits.All)
        {
            var again = kits.Read(kits.Write(kit));
            Encoding.UTF8.GetString(kits.Write(again)).ShouldBe(Encoding.UTF8.GetString(kits.Write(kit)), key);
            again.Rules.ShouldBe(kit.Rules);
            kit.About.Length.ShouldBeGreaterThan(20);
        }
    }

    [Theory]
    [InlineData("1-one-tax")]
    [InlineData("2-federal-and-regional")]
    [InlineData("3-regional-on-federal")]
    [InlineData("4-halves-or-whole")]
    [InlineData("5-by-destination")]
    [InlineData("6-no-tax")]
    public async Task Taxes_exported_and_taken_into_other_books_are_exported_the_same_again(string key)
    {
        await using var first = await Loft.WithKitAsync(key, Home, Registered);
        var file = await ExportAsync(first);
        await using var second = await Loft.OpenAsync(f =>
            f with
            {
                TaxName = "",
                TaxPercent = 0,
                Kit = new ShippedKits().Read(file),
                RegisteredFrom = Registered,
                Business = f.Business with { Address = Home, TaxNumber = "" },
            }
        );
        Encoding.UTF8.GetString(await ExportAsync(second)).ShouldBe(Encoding.UTF8.GetString(file));
    }

    [Fact]
    public async Task A_kit_taken_into_books_with_taxes_leaves_what_is_there()
    {
        await using var loft = await Loft.OpenAsync();
        var kit = new ShippedKits().Find("1-one-tax")!;
        var took = await loft.WithAsync<TaxKitsDesk, int>(k => k.AdoptAsync(kit, Registered));
        took.ShouldBeGreaterThan(8);
        await loft.WithAsync<BooksContext>(async db =>
        {
            (await db.TaxCodes.SingleAsync(c => c.Code == "STD")).Name.ShouldBe("VAT, standard");
            (await db.TaxComponents.SingleAsync(c => c.Name == "VAT")).Rates.Count.ShouldBe(1);
            (await db.TaxRules.CountAsync()).ShouldBe(kit.Rules.Count);
        });
        (await loft.WithAsync<TaxKitsDesk, int>(k => k.AdoptAsync(kit, Registered))).ShouldBe(0);
    }

    [Theory]
    [InlineData("", "line 1")]
    [InlineData("{", "line 1")]
    [InlineData("[]", "not a kit")]
    [InlineData(
        """{ "name": "X", "codes": [{ "code": "A", "name": "A", "category": "Q", "reason": "", "parts": [] }] }""",
        "“Q” is not a tax category"
    )]
    [InlineData("""{ "name": "X", "codes": [{ "code": "A", "name": "A" }] }""", "codes[0]")]
    [InlineData("""{ "name": "X", "colour": 1 }""", "colour")]
    [InlineData(
        """{ "name": "X", "components": [{ "name": "V", "authority": "", "rates": [{ "from": "2020-01-01", "percent": "1.23456" }] }] }""",
        "more than 4 decimals"
    )]
    [InlineData("""{ "name": "X", "codes": [] }""", "at least one code")]
    public void A_file_that_is_no_kit_is_refused_with_the_place(string json, string said) =>
        Should.Throw<RefusalException>(() => TaxKitJson.Read(Encoding.UTF8.GetBytes(json))).Message.ShouldContain(said);

    [Fact]
    public void A_kit_that_contradicts_itself_is_refused_at_each_place()
    {
        var kit = new TaxKit
        {
            Name = "X",
            Authorities = [new KitAuthority("A", 5)],
            Components =
            [
                new KitComponent("V", "B", []),
                new KitComponent("v", "", [new KitRate(Registered, 101), new KitRate(Registered, 1)]),
            ],
            Codes =
            [
                new KitCode("C", "C", TaxCategory.Standard, "", [new KitPart("W")]),
                new KitCode("D", "D", TaxCategory.Exempt, "", [new KitPart("V")]),
                new KitCode("E", "E", TaxCategory.Exempt, "So it is.", []) { Exemption = "VATEX-NONE" },
            ],
            Rules = [new KitRule(Code: "Z", Prefers: "Y", Country: "QQ")],
            DefaultCode = "Z",
        };
        Should
            .Throw<RefusalException>(kit.Check)
            .Refusals.Select(r => r.Field)
            .Distinct()
            .ShouldBe([
                "components",
                "authorities[0].everyMonths",
                "components[0].authority",
                "components[0].rates",
                "components[1].rates[0].percent",
                "components[1].rates[0].from",
                "components[1].rates[1].from",
                "codes[0].parts[0].component",
                "codes[1].components",
                "codes[2].exemptionCode",
                "rules[0].code",
                "rules[0].prefers",
                "rules[0].country",
                "defaultCode",
            ]);
    }

    [Fact]
    public async Task Not_registered_yet_means_no_tax_and_no_word_of_it_until_the_day()
    {
        await using var loft = await Loft.WithKitAsync("1-one-tax", new Address("Quay 1", "1", "Harbour", "EE"), null);
        await loft.WithAsync<BusinessDesk>(b =>
            b.DescribeAsync(
                new BusinessDetails
                {
                    Name = "Little Loft",
                    TaxNumber = "EE101188342",
                    Address = new Address("Quay 1", "1", "Harbour", "EE"),
                }
            )
        );
        var before = await loft.IssuedAsync(loft.Content(1, 100));
        (before.Payable, before.Sender!.TaxNumber).ShouldBe((10_000, ""));
        TextOf(await loft.WithAsync<PaperRoom, IReadOnlyList<string>>(p => p.SvgAsync(before.Id)))
            .ShouldNotContain("ax");
        var answer = await loft.WithAsync<TaxRulesDesk, IReadOnlyList<TaxAnswer>>(r =>
            r.DecideAsync(new TaxQuestion(loft.Yard, null, Loft.Today, [null]))
        );
        answer[0].Why.ShouldContain("not registered");

        await loft.WithAsync<TaxDesk>(t =>
            t.SaveAuthorityAsync(
                1,
                new AuthorityDetails
                {
                    Name = "Tax office",
                    OurNumber = "T-77",
                    RegisteredFrom = Loft.Today,
                }
            )
        );
        var after = await loft.IssuedAsync(loft.Content(1, 100));
        (after.Payable, after.Sender!.TaxNumber).ShouldBe((12_400, "EE101188342"));
        after.Sender.OtherNumbers.ShouldBe(["Tax office: T-77"]);
        TextOf(await loft.WithAsync<PaperRoom, IReadOnlyList<string>>(p => p.SvgAsync(after.Id)))
            .ShouldContain("VAT 24");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    /// <summary>
    /// Kit, the address, and the field words of each warning; whoever chose a code by hand is not asked.
    /// </summary>
    [Theory]
    [InlineData("4-halves-or-whole", "", "42101", "the region it goes to")]
    [InlineData("4-halves-or-whole", "Kentucky", "", "")]
    [InlineData("4-halves-or-whole", "TN", "", "")]
    [InlineData("5-by-destination", "", "", "the region it goes to, the postal code it goes to")]
    [InlineData("5-by-destination", "KY", "", "the postal code it goes to")]
    [InlineData("5-by-destination", "TN", "", "")]
    [InlineData("6-no-tax", "", "", "")]
    public async Task What_the_rules_need_of_an_address_and_it_lacks_is_warned_of(
        string kit,
        string region,
        string postal,
        string lacking
    )
    {
        await using var loft = await Loft.WithKitAsync(kit, Home, Registered);
        var customer = await CustomerAsync(
            loft,
            "consumer",
            new Address("Street 2", postal, "Elsewhere", "US", region)
        );
        var warned = await WarnedAsync(loft, customer, loft.Std);
        warned.Select(w => w.Field).Distinct().ShouldBe(lacking.Length == 0 ? [] : ["customer"]);
        foreach (var part in lacking.Split(", ", StringSplitOptions.RemoveEmptyEntries))
            warned.ShouldContain(w =>
                w.Message.Contains(part, StringComparison.Ordinal)
                && w.Message.Contains("Buyer", StringComparison.Ordinal)
            );
        warned.Count.ShouldBe(lacking.Length == 0 ? 0 : lacking.Split(", ").Length);
        var other = await loft.WithAsync<BooksContext, int>(db =>
            db.TaxCodes.Where(c => c.Id != loft.Std).Select(c => c.Id).FirstOrDefaultAsync()
        );
        if (other > 0)
            (await WarnedAsync(loft, customer, other)).ShouldBeEmpty("a code that was chosen by hand");
    }

    [Fact]
    public async Task A_kit_by_region_wants_the_own_region_and_says_so_when_it_is_gone()
    {
        var begun = await Should.ThrowAsync<RefusalException>(() =>
            Loft.WithKitAsync("4-halves-or-whole", Home with { Region = "" }, Registered)
        );
        begun.Refusals.Select(r => r.Field).ShouldBe(["region"]);

        await using var loft = await Loft.WithKitAsync("4-halves-or-whole", Home, Registered);
        (await StepsAsync(loft)).ShouldNotContain(s => s.Words.Contains("region", StringComparison.Ordinal));
        await loft.WithAsync<BusinessDesk>(b =>
            b.DescribeAsync(new BusinessDetails { Name = "Little Loft", Address = Home with { Region = "" } })
        );
        (await StepsAsync(loft)).ShouldContain(s =>
            s.Words.Contains("region", StringComparison.Ordinal) && s.Address == "/setup"
        );
        var customer = await CustomerAsync(loft, "consumer", Home with { Region = "TN" });
        (await WarnedAsync(loft, customer, loft.Std)).Single().Message.ShouldContain("our own region");
        (await WarnedAsync(loft, customer, loft.Std, place: 0)).ShouldBeEmpty("what is handed over here is at home");
    }

    [Fact]
    public async Task A_rule_for_a_region_is_refused_for_one_that_is_none_and_is_kept_by_its_code()
    {
        await using var loft = await Loft.WithKitAsync("2-federal-and-regional", Home, Registered);
        Task<int> Add(string region) =>
            loft.WithAsync<TaxRulesDesk, int>(t =>
                t.AddRuleAsync(
                    new TaxRuleCase(Supply.Goods, Buyer.Anybody, Place.Anywhere) { Region = region },
                    loft.Std
                )
            );
        (await Should.ThrowAsync<RefusalException>(() => Add("Bavaria")))
            .Refusals.Select(r => r.Field)
            .ShouldBe(["region"]);
        var id = await Add("tennessee");
        var rule = await loft.WithAsync<BooksContext, TaxRule>(db => db.TaxRules.SingleAsync(r => r.Id == id));
        (rule.Country, rule.Region).ShouldBe(("US", "TN"));
        (await Should.ThrowAsync<RefusalException>(() => Add("TN"))).Refusals.Select(r => r.Field).ShouldBe(["supply"]);
    }

    private static async Task<IReadOnlyList<Refusal>> WarnedAsync(Loft loft, int customer, int code, int? place = null)
    {
        var content = new DraftContent
        {
            CustomerId = customer,
            PlaceId = place,
            Date = Loft.Today,
            Lines = [new DraftLine(null, "Thing", 3, "H87", 33.33m, null, null, code, loft.Sales)],
        };
        var draft = await loft.WithAsync<Drafts, Document>(d => d.TryOutAsync(DocumentKind.Quote, content));
        return await loft.WithAsync<DraftWarnings, IReadOnlyList<Refusal>>(w => w.OfAsync(draft, null));
    }

    private static Task<IReadOnlyList<Screens.SetUpStep>> StepsAsync(Loft loft) =>
        loft.WithAsync<Screens.StillToSetUp, IReadOnlyList<Screens.SetUpStep>>(s => s.ListAsync());

    private static string TextOf(IReadOnlyList<string> svg) =>
        string.Concat(svg)
            .Split('>')
            .Select(p => p.Split('<')[0])
            .Where(t => t.Trim().Length > 0)
            .Aggregate("", (a, b) => $"{a}\n{b}");

    private static Task<byte[]> ExportAsync(Loft loft) =>
        loft.WithAsync<TaxKitsDesk, byte[]>(async k => TaxKitJson.Write(await k.MakeAsync()));

    private static Task<int> CustomerAsync(Loft loft, string buyer, Address to) =>
        loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(
                null,
                0,
                new CustomerDetails
                {
                    Name = "Buyer",
                    Currency = "EUR",
                    Address = to,
                    Kind = buyer == "consumer" ? CustomerKind.Consumer : CustomerKind.Business,
                    TaxNumber = buyer is "consumer" or "certificate" ? "" : buyer,
                    Certificates = buyer == "certificate" ? [new CertificateDetails("RS-1")] : [],
                }
            )
        );
}
