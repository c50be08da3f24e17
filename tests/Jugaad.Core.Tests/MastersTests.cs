using System.Globalization;
using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Jugaad.Core.Pricing;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>Customers, items, price lists, stock, accounts and series as they keep themselves.</summary>
public sealed class MastersTests
{
    private static readonly DateOnly Day = new(2025, 9, 17);

    private static Currency Eur => Currency.Of("EUR", "c");

    private static CustomerDetails Somebody =>
        new()
        {
            Code = "C",
            Name = "Somebody",
            Currency = "EUR",
            Address = new Address(Country: "EE"),
        };

    [Fact]
    public void A_tag_is_given_once_and_taken_away_and_the_others_stay()
    {
        var customer = new Customer(Somebody with { Tags = "sails" });
        customer.Tag(" Race ");
        customer.Tag("race");
        customer.TagList.ShouldBe(["race", "sails"]);
        customer.Untag("SAILS");
        customer.TagList.ShouldBe(["race"]);
        foreach (var none in new[] { "", " , ", "a,b" })
            Should.Throw<RefusalException>(() => customer.Tag(none)).Message.ShouldContain("one tag");
        Should.Throw<RefusalException>(() => customer.Untag("sails")).Message.ShouldContain("not tagged");
        Should
            .Throw<RefusalException>(() => customer.Tag(new string('x', Customer.MostOfTags)))
            .Message.ShouldContain("longer than");
        customer.TagList.ShouldBe(["race"]);
    }

    [Fact]
    public void What_is_retired_is_brought_back_and_neither_twice()
    {
        var (customer, item) = (new Customer(Somebody), new Item(Rope));
        customer.Retire(true);
        item.Retire(true);
        (customer.Inactive, item.Inactive).ShouldBe((true, true));
        Should.Throw<RefusalException>(() => customer.Retire(true));
        Should.Throw<RefusalException>(() => item.Retire(true));
        customer.Retire(false);
        item.Retire(false);
        (customer.Inactive, item.Inactive).ShouldBe((false, false));
        var other = new Customer(Somebody with { Code = "D" });
        customer.MergeInto(other);
        Should.Throw<RefusalException>(() => customer.Retire(false)).Message.ShouldContain("merged");
    }

    private static ItemDetails Rope =>
        new()
        {
            Code = "R",
            Name = "Rope",
            IsGoods = true,
            KeepsCount = true,
            Unit = "MTR",
            Price = 10,
            TaxCodeId = 1,
            LedgerAccountId = 1,
        };

    private static string[] Fields(Action work) =>
        Should.Throw<RefusalException>(work).Refusals.Select(r => r.Field).ToArray();

    [Theory]
    [InlineData("4006381333931", true)]
    [InlineData("4006381333932", false)]
    [InlineData("73513537", true)]
    [InlineData("73513536", false)]
    [InlineData("036000291452", true)]
    [InlineData("10614141000415", true)]
    [InlineData("10614141000416", false)]
    [InlineData("ROPE-8MM", true)]
    [InlineData("12345", true)]
    [InlineData("Ülle", false)]
    public void Barcodes_of_GS1_lengths_must_have_their_check_digit_right(string code, bool fine) =>
        (Barcodes.Problem(code) is null).ShouldBe(fine);

    [Fact]
    public void A_check_digit_that_is_made_holds_and_any_other_does_not() =>
        Gen.Select(Gen.Char['0', '9'].Array[12], Gen.Int[1, 9])
            .Sample(
                (digits, off) =>
                {
                    var code = new string(digits);
                    var check = Barcodes.CheckDigit(code);
                    Barcodes.Problem(code + check).ShouldBeNull();
                    Barcodes.Problem(code + (char)('0' + ((check - '0' + off) % 10))).ShouldNotBeNull();
                }
            );

    [Fact]
    public void A_customers_parts_are_checked_each_by_its_place()
    {
        Fields(() =>
                _ = new Customer(
                    Somebody with
                    {
                        Contacts =
                        [
                            new ContactDetails("Ann"),
                            new ContactDetails("", "not a mail", GetsInvoices: true),
                            new ContactDetails("Bo", GetsReminders: true),
                        ],
                        Places = [new PlaceDetails(null, "", new Address(Country: "??"))],
                        Certificates = [new CertificateDetails("", new DateOnly(2025, 2, 1), new DateOnly(2025, 1, 1))],
                    }
                )
            )
            .ShouldBe([
                "contacts[1].name",
                "contacts[1].email",
                "contacts[2].email",
                "places[0].label",
                "places[0].country",
                "certificates[0].number",
                "certificates[0].until",
            ]);
        Fields(() =>
                _ = new Customer(
                    Somebody with
                    {
                        TradeDiscount = 101,
                        NoMoreOnAccount = true,
                        Language = "xxx",
                        RiskGrade = "F",
                    }
                )
            )
            .ShouldBe(["language", "noMoreReason", "riskGrade", "tradeDiscount"]);
    }

    [Fact]
    public void Mail_goes_to_whoever_gets_it()
    {
        var customer = new Customer(
            Somebody with
            {
                Email = "office@c.example",
                Contacts = [new ContactDetails("Ann", "ann@c.example", GetsInvoices: true)],
            }
        );
        (customer.InvoiceEmail, customer.ReminderEmail).ShouldBe(("ann@c.example", "ann@c.example"));
        customer.Describe(
            customer.Details() with
            {
                Contacts = [new ContactDetails("Bo", "bo@c.example", GetsReminders: true)],
            }
        );
        (customer.InvoiceEmail, customer.ReminderEmail).ShouldBe(("office@c.example", "bo@c.example"));
    }

    [Fact]
    public void Details_that_are_read_back_and_typed_again_change_nothing()
    {
        var customer = new Customer(
            Somebody with
            {
                Tags = "Trade, boat yard, trade",
                TradeDiscount = 5,
                NoMoreOnAccount = true,
                NoMoreReason = "owes since May",
                Contacts = [new ContactDetails("Ann", Decides: true)],
                Places = [new PlaceDetails(null, "Slip", new Address("Kai 1", "1", "Harbour", "EE"))],
                Certificates = [new CertificateDetails("X", Until: Day)],
            }
        );
        customer.TagList.ShouldBe(["boat yard", "trade"]);
        var again = new Customer(customer.Details());
        again.Details().ShouldBeEquivalentTo(customer.Details());
    }

    [Fact]
    public void Nothing_more_on_account_means_that_invoices_fall_due_on_their_date()
    {
        var customer = new Customer(Somebody with { NoMoreOnAccount = true, NoMoreReason = "owes since May" });
        var masters = new DraftMasters(
            customer,
            new PaymentTerms("30 days", DueRule.DaysAfter, 30),
            new Dictionary<int, TaxCode> { [1] = new("N", "None", TaxCategory.OutOfScope, null, []) },
            TaxRounding.Document,
            TaxStanding.Always
        );
        var content = new DraftContent
        {
            Date = Day,
            Lines = [new DraftLine(null, "Work", 1, "HUR", 100, null, null, 1, 1)],
        };
        var invoice = new Document(DocumentKind.Invoice, "me");
        invoice.Rewrite(content, masters);
        invoice.DueDate.ShouldBe(Day);
        Should
            .Throw<RefusalException>(() => invoice.Rewrite(content with { DueDate = Day.AddDays(1) }, masters))
            .Refusals[0]
            .ShouldSatisfyAllConditions(
                r => r.Field.ShouldBe("dueDate"),
                r => r.Message.ShouldContain("owes since May")
            );
        new Document(DocumentKind.Quote, "me").Rewrite(content with { ValidUntil = Day.AddDays(30) }, masters);
    }

    [Theory]
    [InlineData("Korall Boatyard OÜ", "KORALL Boat-yard", true)]
    [InlineData("Korall Boatyard OÜ", "Corall Boatyard Ltd", true)]
    [InlineData("Brännholm Varvsservice AB", "Brannholm Varvservice", true)]
    [InlineData("Õunapuu Talu", "Ounapuu talu OÜ", true)]
    [InlineData("Korall Boatyard OÜ", "Kalda Bakery OÜ", false)]
    [InlineData("Piiri Slip OÜ", "Korall OÜ", false)]
    [InlineData("OÜ", "AS", false)]
    public void Names_that_are_near_are_told_from_those_that_are_not(string a, string b, bool near) =>
        (Alike.Nearness(a, b) >= Alike.Near).ShouldBe(near);

    [Fact]
    public void Nearness_is_the_same_both_ways_and_whole_for_the_same_name() =>
        Gen.Select(Gen.String[Gen.Char['a', 'z'], 3, 12], Gen.String[Gen.Char['a', 'z'], 3, 12])
            .Sample(
                (a, b) =>
                {
                    Alike.Nearness(a, b).ShouldBe(Alike.Nearness(b, a), 1e-12);
                    Alike.Nearness(a, a).ShouldBe(1, 1e-12);
                    Alike.Nearness(a, b).ShouldBeInRange(0, 1);
                }
            );

    [Fact]
    public void The_same_number_tells_more_than_the_name()
    {
        var typed = new CustomerDetails
        {
            Name = "Quite Another",
            TaxNumber = "EE 101188342",
            Email = "A@c.example",
        };
        Alike.Reason(typed, "Korall", "", "", "EE101188342", "").ShouldBe("has the same tax number");
        Alike.Reason(typed, "Korall", "", "", "", "a@c.example").ShouldBe("has the same mail address");
        Alike.Reason(typed, "Korall", "", "", "", "").ShouldBeNull();
    }

    [Theory]
    [InlineData(10, 5, 0.01, 10.5)]
    [InlineData(9.99, 3, 0.05, 10.3)]
    [InlineData(9.99, -100, 0.01, 0)]
    [InlineData(2.375, 2, 0.001, 2.423)]
    [InlineData(0.05, 10, 0.05, 0.05)]
    [InlineData(48, 2.5, 1, 49)]
    [InlineData(1.25, 0.8, 0.02, 1.26)]
    public void Prices_move_by_a_percentage_to_the_nearest_step(
        decimal price,
        decimal percent,
        decimal step,
        decimal moved
    ) => PriceMove.Apply(price, percent, step).ShouldBe(moved);

    [Fact]
    public void A_moved_price_is_a_multiple_of_the_step_and_within_half_of_it() =>
        Gen.Select(
                Gen.Int[0, 100_000_00],
                Gen.Int[-9_999, 50_000],
                Gen.Int[0, 5].Select(i => new[] { 0.01m, 0.05m, 0.1m, 0.25m, 1m, 5m }[i])
            )
            .Sample(
                (cents, basis, step) =>
                {
                    var (price, percent) = (cents / 100m, basis / 100m);
                    var moved = PriceMove.Apply(price, percent, step);
                    (moved % step).ShouldBe(0);
                    Math.Abs(moved - (price * (100 + percent) / 100)).ShouldBeLessThanOrEqualTo(step / 2);
                }
            );

    [Fact]
    public void A_customers_list_comes_first_then_the_items_own_price_or_a_list_in_their_currency()
    {
        var (trade, crowns) = (new PriceList("Trade", "EUR", false), new PriceList("Crowns", "SEK", true));
        Id(trade, 1);
        Id(crowns, 2);
        var item = new Item(
            Rope with
            {
                Prices = new Dictionary<int, decimal> { [1] = 8, [2] = 150 },
            }
        );
        PriceList[] lists = [trade, crowns];
        var vat = new Treatment(TaxCategory.Standard, [new TreatmentPart(0, "VAT", 25, false)]);
        OfferedPrice Offer(int? list, string currency, QuotedRate? rate, bool withTax) =>
            OfferedPrice.Of(item, list, lists, Day, Currency.Of(currency, "c"), Generators.Eur, rate, withTax, vat);
        Offer(1, "EUR", QuotedRate.One, false).ShouldBe(new OfferedPrice(8, "price list Trade"));
        Offer(null, "EUR", QuotedRate.One, false).ShouldBe(new OfferedPrice(10, ""));
        Offer(null, "EUR", QuotedRate.One, true).Price.ShouldBe(12.5m);
        Offer(1, "SEK", QuotedRate.FromDecimal(0.08m), true).ShouldBe(new OfferedPrice(150, "price list Crowns"));
        Offer(null, "SEK", QuotedRate.FromDecimal(0.08m), false).Price.ShouldBe(120);
        Offer(null, "NOK", QuotedRate.FromDecimal(0.08m), false)
            .ShouldBe(new OfferedPrice(125, "own price, converted at the rate of the day"));
        Offer(1, "NOK", QuotedRate.FromDecimal(0.08m), false)
            .ShouldBe(new OfferedPrice(100, "price list Trade, converted at the rate of the day"));
        Offer(null, "NOK", null, false).Price.ShouldBe(0);
        Offer(null, "NOK", new QuotedRate(11.37m, PerHome: true), false).Price.ShouldBe(113.7m);
        trade.Retire(true);
        Offer(1, "EUR", QuotedRate.One, false).Price.ShouldBe(10);
    }

    [Fact]
    public void The_count_on_hand_is_the_sum_of_its_moves() =>
        Gen.Decimal[-50, 50]
            .Select(d => Math.Round(d, 3))
            .Where(d => d != 0)
            .Array[1, 30]
            .Sample(moves =>
            {
                var item = new Item(Rope);
                foreach (var quantity in moves)
                    _ = new StockMove(item, Day, quantity, "moved", "me");
                item.OnHand.ShouldBe(moves.Sum());
            });

    [Fact]
    public void A_move_needs_a_count_a_reason_and_a_quantity()
    {
        Fields(() => _ = new StockMove(new Item(Rope with { KeepsCount = false }), Day, 0, "", "me"))
            .ShouldBe(["", "reason", "quantity"]);
        Fields(() => _ = new Item(Rope with { IsGoods = false })).ShouldBe(["keepsCount"]);
        Fields(() =>
                _ = new Item(
                    Rope with
                    {
                        Barcode = "4006381333932",
                        Cost = -1,
                        Prices = new Dictionary<int, decimal> { [3] = 0.0000001m },
                    }
                )
            )
            .ShouldBe(["barcode", "cost", "price-3"]);
    }

    [Fact]
    public void A_change_of_many_says_what_is_missing()
    {
        Fields(() => new ItemChange().Check()).ShouldBe([""]);
        Fields(() => new ItemChange { Percent = -101, Step = 0 }.Check()).ShouldBe(["percent", "step"]);
        Fields(() => new ItemChange { Percent = 0 }.Check()).ShouldBe(["percent"]);
        var before = Rope with { Prices = new Dictionary<int, decimal> { [1] = 20 } };
        new ItemChange { Percent = 10, PriceListId = 1 }
            .Apply(before)
            .Prices[1]
            .ShouldBe(22);
        new ItemChange { Percent = 10, PriceListId = 2 }
            .Apply(before)
            .ShouldBe(before);
        new ItemChange { TaxCodeId = 3, Classification = "5607" }
            .Apply(before)
            .ShouldBe(before with { TaxCodeId = 3, Classification = "5607" });
    }

    [Theory]
    [InlineData("EE382200221020145685", "HABAEE2X", true)]
    [InlineData("EE382200221020145685", "HABAEE2XXXX", true)]
    [InlineData("EE382200221020145685", "NDEAFIHH", false)]
    [InlineData("EE382200221020145685", "HABAEE2", false)]
    [InlineData("EE382200221020145685", "1234EE2X", false)]
    [InlineData("", "NDEAFIHH", true)]
    public void A_BIC_has_its_form_and_the_accounts_country(string iban, string bic, bool fine)
    {
        var account = () =>
            new LedgerAccount(
                new AccountDetails
                {
                    Code = "1",
                    Name = "Bank",
                    Role = AccountRole.Money,
                    Iban = iban,
                    Bic = bic,
                }
            );
        if (fine)
            account().Bic.ShouldBe(bic);
        else
            Should.Throw<RefusalException>(account).Refusals[0].Field.ShouldBe("bic");
    }

    [Fact]
    public void Accounts_that_the_program_needs_are_renamed_and_never_retired()
    {
        var receivables = new LedgerAccount("1200", "Receivables", AccountRole.Receivables);
        receivables.Describe(
            new AccountDetails
            {
                Code = "1201",
                Name = "Debtors",
                Role = AccountRole.Receivables,
            }
        );
        receivables.Name.ShouldBe("Debtors");
        Should.Throw<RefusalException>(() => receivables.Retire(true));
        Fields(() =>
                _ = new LedgerAccount(
                    new AccountDetails
                    {
                        Code = "",
                        Name = "",
                        Role = AccountRole.Money,
                        OnPapers = true,
                    }
                )
            )
            .ShouldBe(["code", "name", "iban"]);
    }

    [Fact]
    public void A_series_goes_on_from_elsewhere_only_before_its_first_number()
    {
        var series = new Series("Shop", "Invoice", "S{yy}-{000}", SeriesRestart.CalendarYear);
        series.GoOnFrom(Day, 118);
        series.Take(Day, _ => false).ShouldBe("S25-118");
        series.Counters.Single().First.ShouldBe(118);
        Fields(() => series.GoOnFrom(Day, 200)).ShouldBe(["next"]);
        series.GoOnFrom(Day.AddYears(1), 7);
        series.Next(Day.AddYears(1), _ => false).Number.ShouldBe("S26-007");
        series.MakeUsual(true);
        Should.Throw<RefusalException>(() => series.Retire(true));
        Eur.Decimals.ShouldBe(2);
    }

    [Theory]
    [InlineData(1, "2025-09-17", "2025-01-01")]
    [InlineData(4, "2025-03-31", "2024-04-01")]
    [InlineData(10, "2025-10-01", "2025-10-01")]
    public void The_financial_year_begins_with_its_month(int month, string day, string begins) => new Business(
            new BusinessDetails
            {
                Name = "B",
                Address = new Address(Country: "EE"),
                YearBegins = month,
            }
        ).YearOf(DateOnly.Parse(day)).ShouldBe(DateOnly.Parse(begins));

    private static void Id(PriceList list, int id) =>
        typeof(PriceList).GetProperty(nameof(PriceList.Id))!.SetValue(list, id);

    [Theory]
    [InlineData("49.155", PriceEnding.Cent, "49.16")]
    [InlineData("49.155", PriceEnding.Whole, "49")]
    [InlineData("49.26", PriceEnding.Half, "49.50")]
    [InlineData("49.155", PriceEnding.Fifty, "49.50")]
    [InlineData("49.40", PriceEnding.Ninety, "49.90")]
    [InlineData("49.39", PriceEnding.Ninety, "48.90")]
    [InlineData("0.10", PriceEnding.Ninety, "0.90")]
    [InlineData("0.01", PriceEnding.Whole, "1")]
    [InlineData("0", PriceEnding.Ninety, "0")]
    public void A_computed_price_ends_as_it_is_told(string price, PriceEnding ending, string expected) =>
        ComputedPrice
            .Of(decimal.Parse(price, CultureInfo.InvariantCulture), 1, ending)
            .ShouldBe(decimal.Parse(expected, CultureInfo.InvariantCulture));
}
