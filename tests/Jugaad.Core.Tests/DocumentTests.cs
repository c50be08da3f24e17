using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Layouts;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

public sealed class DocumentTests
{
    private static readonly DateOnly Day = new(2025, 9, 17);
    private static readonly TaxCode Vat = new(
        "STD",
        "VAT",
        TaxCategory.Standard,
        null,
        [new TaxCodePart(0, new TaxComponent("VAT", null, [new TaxRate(new DateOnly(2024, 1, 1), 24)]), false)]
    );
    private static readonly Sender From = new("Loft", "Quay 1", "1", "EE1", "", "", "", "", "");
    private static readonly Addressee To = new("Yard", "Slip 2", "EE", "", "", "");

    private static DraftMasters Masters(string currency = "EUR") =>
        new(
            new Customer(
                new CustomerDetails
                {
                    Code = "Y",
                    Name = "Yard",
                    Currency = currency,
                }
            ),
            new PaymentTerms("14 days", DueRule.DaysAfter, 14),
            new Dictionary<int, TaxCode> { [1] = Vat },
            TaxRounding.Document,
            TaxStanding.Always
        );

    private static DraftContent Content(params DraftLine[] lines) =>
        new()
        {
            CustomerId = 0,
            Date = Day,
            Lines = lines,
        };

    private static DraftLine Line(decimal quantity = 2, decimal price = 50, string text = "Work") =>
        new(null, text, quantity, "HUR", price, null, null, 1, 7);

    private static Document Draft(DocumentKind kind = DocumentKind.Invoice, DraftContent? content = null)
    {
        var document = new Document(kind, "me");
        document.Rewrite(content ?? Content(Line()), Masters());
        return document;
    }

    /// <summary>An issued invoice with a line at each price, taxed at its rate.</summary>
    internal static Document Issued(params (decimal Price, decimal Percent)[] lines)
    {
        var rates = lines.Select(l => l.Percent).Distinct().ToList();
        var codes = rates
            .Select(
                (r, i) =>
                    (
                        Key: i + 1,
                        Code: new TaxCode(
                            "T" + i,
                            "Tax",
                            TaxCategory.Standard,
                            null,
                            [
                                new TaxCodePart(
                                    0,
                                    new TaxComponent("Tax " + i, null, [new TaxRate(new DateOnly(2024, 1, 1), r)]),
                                    false
                                ),
                            ]
                        )
                    )
            )
            .ToDictionary(c => c.Key, c => c.Code);
        var invoice = new Document(DocumentKind.Invoice, "me");
        invoice.Rewrite(
            Content([
                .. lines.Select(l => Line(1, Math.Round(l.Price, 2)) with { TaxCodeId = rates.IndexOf(l.Percent) + 1 }),
            ]),
            Masters() with
            {
                TaxCodes = codes,
            }
        );
        invoice.Issue(1, "INV-1", From, To, "en");
        return invoice;
    }

    [Fact]
    public void A_draft_takes_its_totals_and_due_day_from_what_is_typed()
    {
        var draft = Draft();
        (draft.Net, draft.Tax, draft.Payable, draft.DueDate, draft.TermsText).ShouldBe(
            (10_000, 2_400, 12_400, Day.AddDays(14), "14 days")
        );
        draft.Taxes.Single().Percent.ShouldBe(24);
        draft.Content().Lines.Single().Quantity.ShouldBe(2);
    }

    [Fact]
    public void An_issued_document_never_changes()
    {
        var invoice = Draft();
        invoice.Issue(1, "INV-1", From, To, "en");
        invoice.State.ShouldBe(DocumentState.Issued);
        Should.Throw<RefusalException>(() => invoice.Rewrite(Content(Line(9)), Masters()));
        Should.Throw<RefusalException>(() => invoice.Issue(1, "INV-2", From, To, "en"));
        Should.Throw<RefusalException>(invoice.Discard);
        (invoice.Number, invoice.Payable).ShouldBe(("INV-1", 12_400));
    }

    [Fact]
    public void An_empty_draft_is_kept_but_not_issued()
    {
        var empty = Draft(content: Content());
        empty.Payable.ShouldBe(0);
        Should
            .Throw<RefusalException>(() => empty.Issue(1, "INV-1", From, To, "en"))
            .Refusals[0]
            .Field.ShouldBe("lines");
    }

    public static TheoryData<string, DraftContent> Wrong =>
        new()
        {
            { "lines[0].text", Content(Line(text: " ")) },
            { "lines[0].unit", Content(Line() with { Unit = "FURLONG" }) },
            { "lines[0].taxCode", Content(Line() with { TaxCodeId = 9 }) },
            { "lines[0].account", Content(Line() with { LedgerAccountId = 0 }) },
            { "lines[0].taxCode", Content(Line()) with { Date = new DateOnly(2023, 5, 5) } },
            { "dueDate", Content(Line()) with { DueDate = Day.AddDays(-1) } },
            { "note", Content(Line()) with { Note = new string('x', 5_000_000) } },
            { "exchangeRate", Content(Line()) with { ExchangeRate = 0 } },
            { "charges[0].text", Content(Line()) with { Charges = [new DraftCharge("", 5, 1, 7)] } },
            { "lines", Content(Line(-3)) },
            { "date", Content(Line()) with { Date = DateOnly.MaxValue } },
            { "date", Content(Line()) with { Date = new DateOnly(1066, 10, 14), TaxDate = Day, DueDate = Day } },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_cannot_be_is_refused_and_nothing_changes(string field, DraftContent content)
    {
        var draft = Draft();
        Should.Throw<RefusalException>(() => draft.Rewrite(content, Masters())).Refusals[0].Field.ShouldBe(field);
        (draft.Payable, draft.Version, draft.Lines.Count).ShouldBe((12_400, 1, 1));
    }

    [Fact]
    public void An_offer_of_which_nothing_is_chosen_is_refused_in_words_that_customers_have_in_their_language()
    {
        var quote = Draft(DocumentKind.Quote, Content(Line() with { Choice = LineChoice.Optional }));
        quote.Issue(1, "QUO-1", From, To, "en");
        var refused = Should.Throw<RefusalException>(() => quote.Answer(true, Day, ""));
        PaperWords.Saying(refused.Message).ShouldBe(PaperWord.SiteNoneChosen);
    }

    [Fact]
    public void A_quote_waits_is_answered_and_may_wait_again()
    {
        var quote = Draft(DocumentKind.Quote, Content(Line()) with { ValidUntil = Day.AddDays(30) });
        Should.Throw<RefusalException>(() => quote.Answer(true, Day, ""));
        quote.Issue(1, "QUO-1", From, To, "en");
        quote.State.ShouldBe(DocumentState.Sent);
        quote.LapseAfter(Day.AddDays(30)).ShouldBeFalse();
        quote.LapseAfter(Day.AddDays(31)).ShouldBeTrue();
        quote.Answer(true, Day, "");
        quote.State.ShouldBe(DocumentState.Accepted);
        Should.Throw<RefusalException>(() => quote.Answer(false, Day, ""));
        quote.Reopen();
        quote.State.ShouldBe(DocumentState.Sent);
    }

    [Fact]
    public void A_draft_put_away_can_be_brought_back()
    {
        var draft = Draft();
        draft.Discard();
        draft.State.ShouldBe(DocumentState.Cancelled);
        draft.BringBack();
        draft.State.ShouldBe(DocumentState.Draft);
        Should.Throw<RefusalException>(draft.BringBack);
    }

    [Fact]
    public void Every_posting_balances_in_home_currency() =>
        (
            from lines in (
                from q in Gen.Long[1, 90_000_000]
                from p in Gen.Long[0, 90_000_000]
                from account in Gen.Int[5, 8]
                select Line(q / 1_000_000m, p / 1_000_000m) with
                {
                    LedgerAccountId = account,
                }
            ).Array[1, 7]
            from rate in Gen.Long[100_000_000, 90_000_000_000]
            from inclusive in Gen.Bool
            from discount in Gen.Int[0, 100]
            select (lines, rate: rate / 10_000_000_000m, inclusive, discount)
        ).Sample(x =>
        {
            var invoice = new Document(DocumentKind.Invoice, "me");
            invoice.Rewrite(
                Content(x.lines) with
                {
                    ExchangeRate = x.rate,
                    PricesIncludeTax = x.inclusive,
                    DiscountPercent = x.discount,
                },
                Masters("SEK")
            );
            invoice.Issue(1, "INV-1", From, To, "en");
            var entry = PostingRules.ForDocument(invoice, new PostingAccounts(1, 2, 3, 4, 5, 6), Currency.Of("EUR"));
            entry.Lines.Sum(l => l.Debit).ShouldBe(entry.Lines.Sum(l => l.Credit));
            entry.Lines.ShouldAllBe(l => l.Debit >= 0 && l.Credit >= 0);
            invoice.Recompute().Payable.ShouldBe(invoice.Payable);
        });

    [Fact]
    public void Kinds_differ_by_their_policy()
    {
        KindPolicy
            .All.Where(p => p.Posts)
            .Select(p => (p.Kind, p.Raises))
            .ShouldBe([(DocumentKind.Invoice, 1), (DocumentKind.CreditNote, -1), (DocumentKind.DebitNote, 1)]);
        KindPolicy.All.ShouldAllBe(p => p == KindPolicy.Of(p.Kind));
    }
}
