using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>A rate that changes on a day, and what else of taxes is set up.</summary>
public sealed class TaxChangeTests
{
    private static readonly DateOnly Change = new(2026, 1, 1);

    private static Task<int> TaxAsync(Loft loft) =>
        loft.WithAsync<BooksContext, int>(db => db.TaxComponents.Select(c => c.Id).SingleAsync());

    private static async Task<string[]> RefusedAsync(Func<Task> work) =>
        (await Should.ThrowAsync<RefusalException>(work)).Refusals.Select(r => r.Field).ToArray();

    [Fact]
    public async Task The_drafts_and_open_quotes_that_a_rate_touches_are_listed_with_the_difference()
    {
        await using var loft = await Loft.OpenAsync();
        var draft = await loft.DraftAsync(loft.Content(1, 100));
        var sent = await loft.IssuedAsync(loft.Content(2, 100), DocumentKind.Quote);
        var billed = await loft.IssuedAsync(loft.Content(3, 100), DocumentKind.Quote);
        await loft.WithAsync<MakingDesk>(q => q.InvoiceAsync(billed.Id));
        var issued = await loft.IssuedAsync(loft.Content(4, 100));
        var putAway = await loft.DraftAsync(loft.Content(5, 100));
        await loft.WithAsync<Drafts>(d => d.DiscardAsync(putAway));
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", Change, 25.5m));
        var (touched, more) = await ImpactAsync(loft);
        more.ShouldBeFalse();
        touched
            .Select(t => (t.Id, t.Now, t.Then, t.Difference))
            .ShouldBe(
                [(draft, 12_400, 12_550, 150), (sent.Id, 24_800, 25_100, 300), (billed.Id + 1, 37_200, 37_650, 450)],
                ignoreOrder: true
            );
        touched.ShouldNotContain(t => t.Id == issued.Id);
        (await loft.DocumentAsync(draft)).Payable.ShouldBe(12_400);
    }

    [Fact]
    public async Task A_draft_dated_after_the_change_takes_the_new_rate_and_one_before_it_the_old()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", Change, 25.5m));
        (await loft.IssuedAsync(loft.Content(1, 100, date: Change))).Payable.ShouldBe(12_550);
        (await loft.IssuedAsync(loft.Content(1, 100, date: Change.AddDays(-1)))).Payable.ShouldBe(12_400);
    }

    [Fact]
    public async Task A_quote_billed_after_the_change_says_from_what_to_what()
    {
        await using var loft = await Loft.OpenAsync();
        var quote = await loft.IssuedAsync(loft.Content(1, 100), DocumentKind.Quote);
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", Loft.Today.AddDays(3), 25.5m));
        loft.Clock.Advance(TimeSpan.FromDays(4));
        var invoice = await loft.DocumentAsync(await loft.WithAsync<MakingDesk, int>(q => q.InvoiceAsync(quote.Id)));
        invoice.Payable.ShouldBe(12_550);
        (
            await loft.WithAsync<BooksContext, string>(db =>
                db.Trail.Where(t => t.DocumentId == invoice.Id).Select(t => t.Text).FirstAsync()
            )
        ).ShouldContain("STD 24 % → STD 25.5 %");
    }

    [Theory]
    [InlineData(TaxRounding.Document, 149)]
    [InlineData(TaxRounding.Line, 150)]
    public async Task Tax_is_rounded_once_or_line_by_line_as_the_business_must(TaxRounding rounding, long payable)
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<BusinessDesk>(b =>
            b.DescribeAsync(
                new BusinessDetails
                {
                    Name = "Little Loft",
                    Address = new Address(Country: "EE"),
                    TaxRounding = rounding,
                }
            )
        );
        // 24 percent of 0.40 is 0.096, three times; of 1.20 it is 0.288.
        var line = new DraftLine(null, "Thread", 1, "C62", 0.4m, null, null, loft.Std, loft.Sales);
        (await loft.IssuedAsync(loft.Content() with { Lines = [line, line, line] })).Payable.ShouldBe(payable);
    }

    [Fact]
    public async Task An_unused_rate_can_be_taken_away_also_one_in_force_and_one_on_papers_stays()
    {
        await using var loft = await Loft.OpenAsync();
        var tax = await TaxAsync(loft);
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", Change, 30));
        await loft.WithAsync<TaxDesk>(t => t.RemoveRateAsync(tax, Change));
        (await ImpactAsync(loft)).Touched.ShouldBeEmpty();
        // Mistyped, from a day gone by: drafts do not use it up, papers do.
        var mistyped = Loft.Today.AddDays(-3);
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", mistyped, 42));
        await loft.DraftAsync();
        await loft.WithAsync<TaxDesk>(t => t.RemoveRateAsync(tax, mistyped));
        (await loft.IssuedAsync(loft.Content(1, 100))).Payable.ShouldBe(12_400);
        async Task UsedStays() =>
            (
                await Should.ThrowAsync<RefusalException>(() =>
                    loft.WithAsync<TaxDesk>(t => t.RemoveRateAsync(tax, new DateOnly(2000, 1, 1)))
                )
            ).Message.ShouldContain("stands on issued papers");
        await UsedStays();
        // Entered after the paper and for a day before it, it taxed nothing; the one that did is still known.
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", mistyped, 42));
        await UsedStays();
        await loft.WithAsync<TaxDesk>(t => t.RemoveRateAsync(tax, mistyped));
    }

    [Fact]
    public async Task What_was_issued_before_a_past_rate_or_a_registration_was_put_right_is_listed()
    {
        await using var loft = await Loft.OpenAsync();
        var tax = await TaxAsync(loft);
        var early = await loft.IssuedAsync(loft.Content(1, 100, date: Loft.Today.AddDays(-9)));
        var late = await loft.IssuedAsync(loft.Content(1, 100));
        var cancelled = await loft.IssuedAsync(loft.Content(1, 100));
        await loft.WithAsync<Credits>(c => c.CancelAsync(cancelled.Id, "never ordered"));
        async Task<IReadOnlyList<TaxedOtherwise>> Found(DateOnly from) =>
            (
                await loft.WithAsync<IssuedOtherwise, (IReadOnlyList<TaxedOtherwise> Found, bool More)>(i =>
                    i.OfAsync(c => c.Id == tax, from)
                )
            ).Found;
        (await Found(DateOnly.MinValue)).ShouldBeEmpty();
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", Loft.Today.AddDays(-2), 25.5m));
        (await Found(DateOnly.MinValue))
            .Select(f => (f.Id, f.Payable, f.Was, f.Now))
            .ShouldBe([(late.Id, 12_400, "STD 24 %", "STD 25.5 %")]);
        var authority = await loft.WithAsync<BooksContext, (int Id, AuthorityDetails Details)>(async db =>
            await db.TaxAuthorities.SingleAsync() is var a ? (a.Id, a.Details()) : default
        );
        await loft.WithAsync<TaxDesk>(t =>
            t.SaveAuthorityAsync(authority.Id, authority.Details with { RegisteredFrom = Loft.Today.AddDays(-5) })
        );
        (await Found(DateOnly.MinValue))
            .Select(f => (f.Id, f.Now))
            .ShouldBe([(early.Id, "STD no tax"), (late.Id, "STD 25.5 %")]);
    }

    [Fact]
    public async Task Codes_are_described_anew_retired_and_issued_papers_keep_what_they_say()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.WithAsync<TaxDesk, int>(t =>
            t.AddCodeAsync(new TaxCodeToAdd("EX", "Exempt", TaxCategory.Exempt, "Exempt by paragraph 1.", []))
        );
        var invoice = await loft.IssuedAsync(
            loft.Content() with
            {
                Lines = [new DraftLine(null, "Course", 1, "C62", 120, null, null, id, loft.Sales)],
            }
        );
        await loft.WithAsync<TaxDesk>(t =>
            t.SaveCodeAsync(id, new TaxCodeToAdd("EX", "Exempt now", TaxCategory.Exempt, "Exempt by paragraph 2.", []))
        );
        (await loft.DocumentAsync(invoice.Id)).TaxWords.ShouldBe("Exempt by paragraph 1.");
        (
            await loft.IssuedAsync(
                loft.Content() with
                {
                    Lines = [new DraftLine(null, "Course", 1, "C62", 120, null, null, id, loft.Sales)],
                }
            )
        ).TaxWords.ShouldBe("Exempt by paragraph 2.");

        await loft.WithAsync<TaxRulesDesk>(r => r.AddRuleAsync(Supply.Services, Buyer.Consumer, Place.Home, id));
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<TaxDesk>(t => t.RetireCodeAsync(id, true)))
        ).Message.ShouldContain("A rule chooses EX");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<TaxDesk>(t => t.RetireCodeAsync(loft.Std, true))
            )
        ).Message.ShouldContain("nothing else says");
        await loft.WithAsync<TaxDesk>(t => t.SetUsualCodeAsync(id));
        await loft.WithAsync<TaxDesk>(t => t.RetireCodeAsync(loft.Std, true));
        (
            await RefusedAsync(() =>
                loft.WithAsync<TaxDesk>(t =>
                    t.SaveCodeAsync(id, new TaxCodeToAdd("EX", "", TaxCategory.Exempt, "", [("VAT", false)]))
                )
            )
        ).ShouldBe(["name", "components"]);
        (
            await RefusedAsync(() =>
                loft.WithAsync<TaxDesk>(t =>
                    t.SaveCodeAsync(id, new TaxCodeToAdd("EX", "x", TaxCategory.Exempt, "", [("VAT", false)]))
                )
            )
        ).ShouldBe(["components"]);
    }

    [Fact]
    public async Task Authorities_and_taxes_have_names_of_their_own()
    {
        await using var loft = await Loft.OpenAsync();
        (
            await RefusedAsync(() =>
                loft.WithAsync<TaxDesk>(t => t.SaveAuthorityAsync(null, new AuthorityDetails { Name = " Tax office " }))
            )
        ).ShouldBe(["name"]);
        var city = await loft.WithAsync<TaxDesk, int>(t =>
            t.SaveAuthorityAsync(
                null,
                new AuthorityDetails
                {
                    Name = "City",
                    EveryMonths = 3,
                    Basis = TaxBasis.ByPayment,
                }
            )
        );
        var tax = await loft.WithAsync<TaxDesk, int>(t => t.SaveComponentAsync(null, "City tax", city));
        (
            await RefusedAsync(() => loft.WithAsync<TaxDesk>(t => t.SaveComponentAsync(null, "City tax", null)))
        ).ShouldBe(["component"]);
        (await RefusedAsync(() => loft.WithAsync<TaxDesk>(t => t.SaveComponentAsync(tax, "City tax", 99)))).ShouldBe([
            "authorityId",
        ]);
        (
            await RefusedAsync(() =>
                loft.WithAsync<TaxDesk>(t => t.AddRateAsync("County tax", new DateOnly(2020, 1, 1), 1))
            )
        ).ShouldBe(["component"]);
        await loft.WithAsync<TaxDesk>(t => t.AddRateAsync("City tax", new DateOnly(2020, 1, 1), 1));
        await loft.WithAsync<TaxDesk>(t =>
            t.SaveCodeAsync(
                loft.Std,
                new TaxCodeToAdd("STD", "Both", TaxCategory.Standard, "", [("VAT", false), ("City tax", true)])
            )
        );
        (await loft.IssuedAsync(loft.Content(1, 100))).Payable.ShouldBe(12_524);
    }

    [Fact]
    public async Task The_place_of_supply_and_the_date_decide_and_a_lapsed_certificate_is_named()
    {
        await using var loft = await Loft.WithKitAsync(
            "1-one-tax",
            new Address("Quay 1", "1", "Harbour", "EE"),
            new DateOnly(2020, 1, 1)
        );
        var id = await loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(
                null,
                0,
                new CustomerDetails
                {
                    Name = "Far",
                    Currency = "EUR",
                    Kind = CustomerKind.Consumer,
                    Address = new Address(Country: "NO"),
                    Places = [new PlaceDetails(null, "Berth", new Address("Kai 2", "2", "Harbour", "EE"))],
                    Certificates = [new CertificateDetails("Z-9", null, Loft.Today.AddDays(-1))],
                }
            )
        );
        var berth = await loft.WithAsync<BooksContext, int>(db =>
            db.Set<CustomerPlace>().Select(p => p.Id).SingleAsync()
        );
        var goods = await loft.WithAsync<ItemsDesk, int>(i =>
            i.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "G",
                    Name = "Good",
                    IsGoods = true,
                    TaxCodeId = loft.Std,
                    LedgerAccountId = loft.Sales,
                }
            )
        );
        async Task<string> Decide(int? place, DateOnly? day = null)
        {
            var answer = (
                await loft.WithAsync<TaxRulesDesk, IReadOnlyList<TaxAnswer>>(r =>
                    r.DecideAsync(new TaxQuestion(id, place, day ?? Loft.Today, [goods]))
                )
            ).Single();
            return await loft.WithAsync<BooksContext, string>(db =>
                    db.TaxCodes.Where(c => c.Id == answer.TaxCodeId).Select(c => c.Code).SingleAsync()
                )
                + " "
                + answer.Why;
        }

        (await Decide(null)).ShouldBe("EXP Export: goods to a consumer in Norway");
        (await Decide(berth)).ShouldStartWith("STD taxed: the certificate Z-9 expired on 16 Sep 2025");
        (await Decide(0)).ShouldStartWith("STD");
        (await Decide(berth, Loft.Today.AddDays(-1))).ShouldStartWith("EX Exempt: goods to whoever is exempt");
        var kept = await loft.IssuedAsync(loft.Content(1, 10, customer: id) with { PlaceId = berth });
        kept.Place!.City.ShouldBe("Harbour");
        (await RefusedAsync(() => loft.DraftAsync(loft.Content(1, 10) with { PlaceId = berth }))).ShouldBe(["placeId"]);
    }

    private static async Task<(IReadOnlyList<TouchedDocument> Touched, bool More)> ImpactAsync(Loft loft)
    {
        var tax = await TaxAsync(loft);
        return await loft.WithAsync<RateImpact, (IReadOnlyList<TouchedDocument>, bool)>(i => i.OfAsync(tax, Change));
    }
}
