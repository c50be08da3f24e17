using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>Until the day of registration there is no tax and no word of it.</summary>
public sealed class TaxStandingTests
{
    private static readonly DateOnly Registered = new(2025, 10, 1);

    private static TaxAuthority Authority(DateOnly? from, string name = "Federal") =>
        new(new AuthorityDetails { Name = name, RegisteredFrom = from });

    private static TaxComponent Tax(string name, decimal percent, TaxAuthority? authority) =>
        new(name, authority, [new TaxRate(new DateOnly(2020, 1, 1), percent)]);

    private static TaxCode Code(params TaxComponent[] components) =>
        new("STD", "Standard", TaxCategory.Standard, null, components.Select((c, i) => new TaxCodePart(i, c, false)));

    [Fact]
    public void A_component_is_left_out_until_the_day_of_registration_with_its_authority()
    {
        var (federal, regional) = (Authority(new DateOnly(2020, 1, 1)), Authority(Registered, "Regional"));
        var code = Code(Tax("Federal tax", 5, federal), Tax("Regional tax", 9.975m, regional));
        var standing = TaxStanding.With([federal, regional]);
        code.TreatmentOn(Registered.AddDays(-1), "date", standing).Rates.ToString().ShouldBe("5 %");
        code.TreatmentOn(Registered, "date", standing).Rates.ToString().ShouldBe("5 % + 9.975 %");
    }

    [Fact]
    public void Before_any_registration_every_code_is_outside_the_scope_of_tax()
    {
        var none = Authority(null);
        var standing = TaxStanding.With([none, Authority(Registered, "Other")]);
        var exempt = new TaxCode("EX", "Exempt", TaxCategory.Exempt, "Exempt because.", []);
        Code(Tax("VAT", 24, none)).TreatmentOn(Registered.AddDays(-1), "date", standing).ShouldBe(Treatment.OutOfScope);
        exempt.TreatmentOn(Registered.AddDays(-1), "date", standing).Category.ShouldBe(TaxCategory.OutOfScope);
        exempt.TreatmentOn(Registered, "date", standing).Category.ShouldBe(TaxCategory.Exempt);
        TaxStanding.With([none]).IsRegisteredOn(DateOnly.MaxValue).ShouldBeFalse();
        TaxStanding.With([]).IsRegisteredOn(DateOnly.MinValue).ShouldBeTrue();
    }

    [Theory]
    [InlineData("2025-09-30", 100_00, "")]
    [InlineData("2025-10-01", 124_00, "Said on the paper.")]
    public void A_document_follows_its_tax_date_and_says_nothing_before(string day, long payable, string words)
    {
        var authority = Authority(Registered);
        var code = new TaxCode(
            "STD",
            "Standard",
            TaxCategory.Standard,
            "Said on the paper.",
            [new TaxCodePart(0, Tax("VAT", 24, authority), false)]
        );
        var masters = new DraftMasters(
            new Customer(
                new CustomerDetails
                {
                    Code = "C",
                    Name = "C",
                    Currency = "EUR",
                }
            ),
            null,
            new Dictionary<int, TaxCode> { [1] = code },
            TaxRounding.Document,
            TaxStanding.With([authority])
        );
        var document = new Document(DocumentKind.Invoice, "me");
        document.Rewrite(
            new DraftContent
            {
                Date = DateOnly.Parse(day),
                Lines = [new DraftLine(null, "Work", 1, "HUR", 100, null, null, 1, 1)],
            },
            masters
        );
        document.Payable.ShouldBe(payable);
        document.TaxWords.ShouldBe(words);
    }

    [Fact]
    public void A_compound_tax_that_is_left_alone_taxes_the_price()
    {
        var (late, now) = (Authority(Registered), Authority(new DateOnly(2020, 1, 1), "Now"));
        var code = new TaxCode(
            "T",
            "Top",
            TaxCategory.Standard,
            null,
            [new TaxCodePart(0, Tax("First", 5, late), false), new TaxCodePart(1, Tax("Top", 10, now), true)]
        );
        var standing = TaxStanding.With([late, now]);
        code.TreatmentOn(Registered.AddDays(-1), "d", standing).Factor.ShouldBe(1.1m);
        code.TreatmentOn(Registered, "d", standing).Factor.ShouldBe(1.155m);
    }

    [Theory]
    [InlineData(1, 1, "2025-09-17", "2025-09-01")]
    [InlineData(3, 1, "2025-09-17", "2025-07-01")]
    [InlineData(3, 2, "2025-01-17", "2024-11-01")]
    [InlineData(12, 4, "2025-03-31", "2024-04-01")]
    [InlineData(2, 1, "2025-12-31", "2025-11-01")]
    public void A_period_begins_with_its_first_month(int every, int first, string day, string start) =>
        new TaxAuthority(
            new AuthorityDetails
            {
                Name = "A",
                EveryMonths = every,
                FirstMonth = first,
            }
        ).PeriodStart(DateOnly.Parse(day)).ShouldBe(DateOnly.Parse(start));

    [Fact]
    public void What_cannot_be_is_refused_by_field()
    {
        var refused = Should.Throw<RefusalException>(() =>
            new TaxAuthority(
                new AuthorityDetails
                {
                    Name = " ",
                    EveryMonths = 5,
                    FirstMonth = 13,
                }
            )
        );
        refused.Refusals.Select(r => r.Field).ShouldBe(["name", "everyMonths", "firstMonth"]);
        TaxCode
            .Problem(
                TaxCategory.ReverseCharge,
                [
                    [5m],
                ],
                "Reverse charge."
            )!
            .Message.ShouldContain("charges no tax");
        TaxCode
            .Problem(
                TaxCategory.Zero,
                [
                    [0m],
                ],
                null
            )
            .ShouldBeNull();
        TaxCode
            .Problem(
                TaxCategory.Zero,
                [
                    [0m, 5m],
                ],
                null
            )!
            .Field.ShouldBe("components");
        TaxCode.Problem(TaxCategory.Standard, [], null)!.Field.ShouldBe("components");
        foreach (
            var category in new[]
            {
                TaxCategory.Exempt,
                TaxCategory.ReverseCharge,
                TaxCategory.IntraUnion,
                TaxCategory.Export,
                TaxCategory.OutOfScope,
            }
        )
        {
            TaxCode.Problem(category, [], " ")!.Field.ShouldBe("reason");
            TaxCode.Problem(category, [], "Because.").ShouldBeNull();
        }
        var twice = Tax("VAT", 24, null);
        Should.Throw<RefusalException>(() => Code(twice, twice));
    }

    [Fact]
    public void A_rate_that_was_used_stays_and_another_can_be_taken_away()
    {
        var tax = Tax("VAT", 24, null);
        tax.AddRate(new TaxRate(Registered, 25));
        Should.Throw<RefusalException>(() => tax.RemoveRate(Registered, true));
        Should.Throw<RefusalException>(() => tax.RemoveRate(Registered.AddDays(1), false));
        tax.RemoveRate(Registered, false);
        tax.RateOn(Registered)!.Percent.ShouldBe(24);
    }
}
