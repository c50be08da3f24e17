using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;

namespace Jugaad.Desk.Tests;

/// <summary>Papers of the books in the language that is asked for.</summary>
public sealed class ReportPapersTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync() => _loft = await Loft.OpenAsync();

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<Report> MakeAsync(ReportKind kind) =>
        _loft.WithAsync<ReportCatalog, Report>(r =>
            r.MakeAsync(
                kind,
                new ReportAsk(
                    Loft.Today.AddYears(-1),
                    Loft.Today,
                    new Dictionary<string, string> { ["account"] = "1", ["customer"] = "YARD" }
                )
            )
        );

    private async Task<List<string>> PrintedAsync(Report report, string language) =>
        [
            .. (await _loft.WithAsync<ReportPapers, DisplayList>(p => p.ComposeAsync(report, language)))
                .Pages.SelectMany(p => p.Marks)
                .OfType<TextMark>()
                .Select(t => t.Text),
        ];

    [Fact]
    public async Task Every_report_has_words_in_every_language_for_its_title_and_heads()
    {
        await _loft.IssuedAsync(_loft.Content());
        var unknown = new List<string>();
        foreach (var kind in ReportCatalog.All)
        {
            var report = await MakeAsync(kind);
            unknown.AddRange(
                report
                    .Columns.Where(c => !c.InFilesOnly)
                    .Select(c => c.Head)
                    .Prepend(report.Title)
                    .Where(w => !ReportWords.Knows(w))
                    .Select(w => $"{kind.Name}: {w}")
            );
        }

        unknown.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_days_that_a_report_is_compared_with_are_written_as_its_reader_writes_them()
    {
        await _loft.IssuedAsync(_loft.Content());
        var report = await _loft.WithAsync<ReportCatalog, Report>(r =>
            r.MakeAsync(
                ReportCatalog.Find("income-by-customer")!,
                new ReportAsk(new DateOnly(2025, 9, 1), Loft.Today),
                ReportAgainst.YearBefore
            )
        );
        report.Columns.ShouldContain(c => c.Head == "2024-09-01 to 2024-09-17");
        (await PrintedAsync(report, "de")).ShouldContain("01.09.2024 bis 17.09.2024");
        (await PrintedAsync(report, "lv")).ShouldContain("Vairāk vai mazāk");
    }

    [Fact]
    public async Task A_return_is_printed_in_a_language_with_the_same_figures()
    {
        await _loft.IssuedAsync(_loft.Content());
        var authority = (int)await _loft.NumberAsync("SELECT Id FROM TaxAuthorities");
        var look = await _loft.WithAsync<ReturnLooks, ReturnLook?>(l =>
            l.LookAsync(authority, new DateOnly(2025, 9, 1), new DateOnly(2025, 9, 30), 0)
        );
        var texts = (await _loft.WithAsync<ReturnPapers, DisplayList>(p => p.ComposeAsync(look!.Then, "de")))
            .Pages.SelectMany(p => p.Marks)
            .OfType<TextMark>()
            .Select(t => t.Text)
            .ToList();
        texts.ShouldContain(t => t.StartsWith("Entwurf einer Steuererklärung", StringComparison.Ordinal));
        texts.ShouldContain("01.09.2025 bis 30.09.2025.");
        texts.ShouldContain("steuerpflichtig");
        texts.ShouldContain("24,00");
        texts.ShouldContain("Insgesamt");
        texts.ShouldNotContain("In all");
    }

    [Fact]
    public async Task A_wide_report_is_broken_between_words_and_a_number_stays_in_one_piece()
    {
        // As wide as the widest there is, with the heads of the longest language.
        string[] texts = ["Number", "Kind", "Tax date", "Code", "Customer", "Tax code", "Category", "Tax"];
        string[] figures = ["Percent", "Taxable", "Tax amount", "Its total", "Difference"];
        var report = new Report(
            "wide",
            "Tax by document",
            "",
            [
                .. texts.Select(t => new ReportColumn(t, t)),
                .. figures.Select(f => new ReportColumn(f, f, IsFigure: true)),
            ],
            [
                new ReportRow([
                    "INV-2025-012345",
                    "credit note",
                    Loft.Today,
                    "MUSEUM",
                    "Northern Point Sailing School and Workshop of the Harbour",
                    "STANDARD",
                    "S",
                    "Value added tax of the islands",
                    "24",
                    "1 240 000.00",
                    "297 600.00",
                    "1 537 600.00",
                    "0.00",
                ]),
            ]
        );
        var printed = await PrintedAsync(report, "es");
        foreach (var whole in new[] { "INV-2025-012345", "MUSEUM", "STANDARD", "1 537 600.00", "Categoría" })
            printed.ShouldContain(whole);
        string.Join(' ', printed).ShouldContain("Northern");
    }

    [Fact]
    public async Task A_report_is_printed_in_a_language_and_what_a_person_typed_stays()
    {
        // An item that is called as one of the program's own words.
        await _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines = [new DraftLine(null, "Services", 1, "H87", 100, null, null, _loft.Std, _loft.Sales)],
            }
        );
        var lines = await PrintedAsync(await MakeAsync(ReportCatalog.Find("income-lines")!), "de");
        lines.ShouldContain("Erlöse nach Zeile");
        lines.ShouldContain("Kunde");
        lines.ShouldContain("Services");
        lines.ShouldNotContain("Dienstleistungen");
        lines.ShouldContain("100,00");
        lines.ShouldContain("17.09.2024 bis 17.09.2025,");
        var items = await PrintedAsync(await MakeAsync(ReportCatalog.Find("income-by-item")!), "fr");
        items.ShouldContain("saisi à la main, sans article");
        var english = await PrintedAsync(await MakeAsync(ReportCatalog.Find("income-by-item")!), "");
        english.ShouldContain("typed by hand, without an item");
    }
}
