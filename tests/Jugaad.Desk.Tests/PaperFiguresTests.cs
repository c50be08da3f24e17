using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>What a paper says of tax, in whatever currency, and what is said of a paper before it is issued.</summary>
public sealed class PaperFiguresTests
{
    private static async Task<IReadOnlyList<string>> TextsAsync(Loft loft, int id) =>
        (await loft.WithAsync<PaperRoom, DisplayList>(p => p.ComposeAsync(id)))
            .Pages.SelectMany(p => p.Marks)
            .OfType<TextMark>()
            .Select(t => t.Text)
            .ToList();

    private static Task<IReadOnlyList<IssueFinding>> FindingsAsync(Loft loft, int id) =>
        loft.WithAsync<IssueCheck, IReadOnlyList<IssueFinding>>(c => c.OfAsync(id, false));

    private static Task<int> CodeAsync(Loft loft, string code) =>
        loft.WithAsync<BooksContext, int>(db => db.TaxCodes.Where(c => c.Code == code).Select(c => c.Id).SingleAsync());

    [Fact]
    public async Task Tax_in_another_currency_stands_in_home_currency_too_with_the_rate_and_is_what_was_posted()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync(loft.Content(3, 333.33m, loft.Swede));
        var texts = await TextsAsync(loft, invoice.Id);
        // 999.99 at 24 % is 240.00 SEK; at 0.0901 that is 21.62 EUR.
        texts.ShouldContain("Tax EUR");
        texts.ShouldContain("21.62");
        texts.ShouldContain("1 SEK = 0.0901 EUR");
        var owed = await loft.WithAsync<BooksContext, long>(db =>
            db.Journal.Where(e => e.DocumentId == invoice.Id)
                .SelectMany(e => e.Lines)
                .Join(db.LedgerAccounts, l => l.AccountId, a => a.Id, (l, a) => new { l, a })
                .Where(x => x.a.Role == Core.Journal.AccountRole.TaxOwed)
                .SumAsync(x => x.l.Credit)
        );
        owed.ShouldBe(2_162);
        (await TextsAsync(loft, (await loft.IssuedAsync()).Id)).ShouldNotContain(
            "Tax EUR",
            "at home the tax stands once"
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_compound_tax_is_printed_and_kept_on_its_true_base()
    {
        await using var loft = await Loft.WithKitAsync(
            "3-regional-on-federal",
            new Address(Country: "US", Region: "KY"),
            new DateOnly(2025, 1, 1)
        );
        var code = await loft.WithAsync<BooksContext, TaxCode>(db =>
            db.TaxCodes.Include(c => c.Parts).FirstAsync(c => c.Parts.Any(p => p.Compound))
        );
        var invoice = await loft.IssuedAsync(
            loft.Content(1, 127.47m) with
            {
                Lines = [new DraftLine(null, "By hand", 1, "C62", 127.47m, null, null, code.Id, loft.Sales)],
            }
        );
        var taxes = await loft.WithAsync<BooksContext, List<DocumentTax>>(db =>
            db.Set<DocumentTax>().Where(t => t.DocumentId == invoice.Id).OrderBy(t => t.Position).ToListAsync()
        );
        taxes[0].Taxable.ShouldBe(12_747);
        taxes[1].Taxable.ShouldBe(12_747 + taxes[0].Tax, "the second is on the first too");
        (await TextsAsync(loft, invoice.Id)).ShouldContain("133.84");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.ExecuteAsync($"UPDATE DocumentTax SET Taxable = 12747 WHERE Id = {taxes[1].Id}");
        (await loft.CheckAsync()).Differences.ShouldContain(d =>
            d.Contains("taxes do not follow", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_group_outside_of_the_tax_stands_beside_the_taxed_ones_so_that_the_bases_add_up()
    {
        await using var loft = await Loft.OpenAsync();
        var outside = await loft.WithAsync<TaxDesk, int>(t =>
            t.AddCodeAsync(new TaxCodeToAdd("OUT", "Outside", TaxCategory.OutOfScope, "Not subject to tax.", []))
        );
        var invoice = await loft.IssuedAsync(
            loft.Content() with
            {
                Lines =
                [
                    new DraftLine(null, "Taxed", 1, "C62", 100, null, null, loft.Std, loft.Sales),
                    new DraftLine(null, "A deposit of yours passed on", 1, "C62", 30, null, null, outside, loft.Sales),
                ],
            }
        );
        var content = await TextsAsync(loft, invoice.Id);
        content.ShouldContain("No tax, outside the scope of tax");
        content.ShouldContain("30.00");
    }

    [Fact]
    public async Task The_number_of_an_exemption_certificate_is_printed_while_it_holds()
    {
        await using var loft = await Loft.OpenAsync();
        var exempt = await loft.WithAsync<TaxDesk, int>(t =>
            t.AddCodeAsync(new TaxCodeToAdd("EX", "Exempt", TaxCategory.Exempt, "Exempt under a certificate.", []))
        );
        var buyer = await loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(
                null,
                0,
                new CustomerDetails
                {
                    Name = "Museum",
                    Currency = "EUR",
                    Certificates =
                    [
                        new CertificateDetails("EC-77", new DateOnly(2025, 1, 1), new DateOnly(2025, 12, 31)),
                    ],
                }
            )
        );
        DraftContent On(DateOnly day) =>
            loft.Content(1, 10, buyer, day) with
            {
                Lines = [new DraftLine(null, "A rig check", 1, "C62", 10, null, null, exempt, loft.Sales)],
            };
        (await TextsAsync(loft, await loft.DraftAsync(On(Loft.Today)))).ShouldContain("Exemption certificate EC-77.");
        (await TextsAsync(loft, await loft.DraftAsync(On(new DateOnly(2026, 1, 2))))).ShouldNotContain(
            "Exemption certificate EC-77."
        );
        (
            await TextsAsync(loft, await loft.DraftAsync(On(Loft.Today) with { Lines = loft.Content().Lines }))
        ).ShouldNotContain("Exemption certificate EC-77.", "what is taxed is not exempt");
    }

    [Fact]
    public async Task An_invoice_that_names_no_bank_account_says_so_before_it_is_issued()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.ExecuteAsync("UPDATE LedgerAccounts SET Iban = ''");
        var draft = await loft.DraftAsync();
        (await FindingsAsync(loft, draft)).ShouldContain(f =>
            f.Words.Contains("names no bank account", StringComparison.Ordinal) && !f.Stops
        );
        await loft.ExecuteAsync(
            "UPDATE LedgerAccounts SET Iban = 'EE382200221020145685', OnPapers = 1 WHERE Code = '1000'"
        );
        (await FindingsAsync(loft, draft)).ShouldNotContain(f =>
            f.Words.Contains("bank account", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task What_cannot_be_printed_is_said_before_it_is_issued_with_its_place()
    {
        await using var loft = await Loft.OpenAsync();
        var draft = await loft.DraftAsync(
            loft.Content() with
            {
                Note = "감사",
                Lines = [loft.Content().Lines[0], loft.Content().Lines[0] with { Text = "돛 Парус" }],
            }
        );
        var findings = await FindingsAsync(loft, draft);
        findings.ShouldContain(f => f.Words.StartsWith("돛 in line 2 cannot be printed", StringComparison.Ordinal));
        findings.ShouldContain(f =>
            f.Words.StartsWith("감 사 in the note cannot be printed", StringComparison.Ordinal)
        );
        (await TextsAsync(loft, draft)).ShouldContain("돛 Парус", "the display list keeps what was typed");
        (
            await FindingsAsync(
                loft,
                await loft.DraftAsync(
                    loft.Content() with
                    {
                        Note = "Спасибо, ευχαριστώ, תודה, شكرا, ありがとう, ขอบคุณ 😀",
                    }
                )
            )
        ).ShouldNotContain(f => f.Words.Contains("printed", StringComparison.Ordinal));
    }

    [Fact]
    public void No_words_of_a_kit_lack_a_glyph()
    {
        var measure = Formats.Papers.PaperFonts.Shared;
        foreach (var (_, kit) in new Formats.Taxes.ShippedKits().All)
        {
            foreach (var words in kit.Codes.SelectMany(c => new[] { c.Name, c.Reason ?? "" }))
                measure.Unprintable(words).ShouldBeEmpty(words);
        }
    }

    private static Task SpeaksAsync(Loft loft, string language) =>
        loft.ExecuteAsync($"UPDATE Customers SET Language = '{language}' WHERE Id = {loft.Yard}");

    [Fact]
    public async Task A_paper_is_written_in_the_customers_language_and_stays_as_it_was_issued()
    {
        await using var loft = await Loft.OpenAsync();
        var english = await loft.IssuedAsync();
        await SpeaksAsync(loft, "sv");
        var swedish = await loft.IssuedAsync();
        var draft = await loft.DraftAsync();
        await SpeaksAsync(loft, "de");
        (await TextsAsync(loft, english.Id)).ShouldContain("Invoice");
        var texts = await TextsAsync(loft, swedish.Id);
        texts.ShouldContain("Faktura");
        texts.ShouldContain("Att betala EUR");
        texts.ShouldContain("124,00");
        texts.ShouldContain("2025-09-17");
        texts.ShouldContain(t => t.StartsWith("Betala senast 2025-10-01", StringComparison.Ordinal));
        texts.ShouldNotContain(t => t.Contains("Quantity") || t.Contains("Page"));
        (await TextsAsync(loft, draft)).ShouldContain("Rechnung", "a draft follows its customer");
        var asked = await loft.WithAsync<PaperRoom, DisplayList>(p =>
            p.ComposeAsync(swedish.Id, new PaperStyle("Copy") { Language = "fi", WithoutPrices = true })
        );
        asked.Title.ShouldStartWith("Pakkausluettelo INV-");
        asked.Pages[0].Marks.OfType<TextMark>().ShouldContain(t => t.Text == "Kopio");
    }

    [Theory]
    [InlineData("de", "Keine Steuer, Steuerschuldnerschaft des Leistungsempfängers")]
    [InlineData("sv", "Ingen moms, omvänd skattskyldighet")]
    [InlineData("en", "No tax, reverse charge")]
    public async Task Why_no_tax_is_charged_stands_on_the_paper_in_full(string language, string says)
    {
        await using var loft = await Loft.OpenAsync();
        await loft.ExecuteAsync("UPDATE Businesses SET TaxNumber = 'EE101188342'");
        await loft.ExecuteAsync($"UPDATE Customers SET TaxNumber = 'EE100000012', Language = '{language}'");
        var code = await loft.WithAsync<TaxDesk, int>(t =>
            t.SaveCodeAsync(null, new TaxCodeToAdd("RC", "Theirs", TaxCategory.ReverseCharge, "Reverse charge.", []))
        );
        var content = loft.Content();
        var invoice = await loft.IssuedAsync(content with { Lines = [content.Lines[0] with { TaxCodeId = code }] });
        foreach (var word in says.Split(' '))
            (await TextsAsync(loft, invoice.Id)).ShouldContain(t => t.Contains(word), word);
    }

    [Theory]
    [MemberData(nameof(Languages))]
    public async Task In_no_language_do_words_run_into_each_other(string language)
    {
        await using var loft = await Loft.OpenAsync();
        await loft.ExecuteAsync("UPDATE Businesses SET TaxNumber = 'EE101188342', RegistrationNumber = '14739926'");
        await SpeaksAsync(loft, language);
        var content = loft.Content(12, 1_234.56m);
        var line = content.Lines[0] with { DiscountPercent = 12.5m };
        var invoice = await loft.IssuedAsync(
            content with
            {
                DiscountPercent = 5,
                PurchaseOrder = "PO-2025-118",
                Lines = [.. Enumerable.Repeat(line, 60)],
            }
        );
        var paper = await loft.WithAsync<PaperRoom, DisplayList>(p => p.ComposeAsync(invoice.Id));
        var measure = await loft.WithAsync<Outside.IPaperPrinter, ITextMeasure>(p => Task.FromResult(p.Measure));
        paper.Pages.Count.ShouldBeGreaterThan(1, "with sums carried over");
        foreach (var row in paper.Pages.SelectMany(p => p.Marks.OfType<TextMark>().GroupBy(m => Math.Round(m.Y, 2))))
        {
            var placed = row.Select(m =>
                {
                    var width = measure.Width(m.Text, m.Size, m.Bold);
                    var left = m.Anchor == Anchor.End ? m.X - width : m.X;
                    return (m.Text, Left: left, Right: left + width);
                })
                .OrderBy(m => m.Left)
                .ToList();
            placed[^1].Right.ShouldBeLessThan(191, placed[^1].Text);
            for (var i = 1; i < placed.Count; i++)
                placed[i]
                    .Left.ShouldBeGreaterThan(
                        placed[i - 1].Right - 0.05,
                        $"“{placed[i - 1].Text}” and “{placed[i].Text}”"
                    );
        }
    }

    public static TheoryData<string> Languages() => new(Customer.Languages.Select(l => l.Code));
}
