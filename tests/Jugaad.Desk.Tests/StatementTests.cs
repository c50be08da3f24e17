using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Statements of account as papers, and in the post.</summary>
public sealed class StatementTests
{
    private static async Task<List<string>> TextsAsync(Loft loft, StatementWish wish)
    {
        var papers = await loft.WithAsync<Statements, IReadOnlyList<DisplayList>>(s => s.ComposeAsync(loft.Yard, wish));
        return [.. papers.Single().Pages.SelectMany(p => p.Marks).OfType<TextMark>().Select(m => m.Text)];
    }

    private static async Task<int> OwedAsync(Loft loft, int daysAgo, decimal price = 50) =>
        (
            await loft.ItemOfAsync(
                (await loft.IssuedAsync(loft.Content(2, price, null, Loft.Today.AddDays(-daysAgo)))).Id
            )
        ).Id;

    [Theory]
    [InlineData(
        "sv",
        "Kontoutdrag",
        "Skuld totalt",
        "1–30 dagar försenat",
        "över 90 dagar försenat",
        "Faktura INV",
        "124,00"
    )]
    [InlineData(
        "de",
        "Kontoauszug",
        "Insgesamt geschuldet",
        "1–30 Tage verspätet",
        "über 90 Tage verspätet",
        "Rechnung INV",
        "124,00"
    )]
    [InlineData(
        "et",
        "Saldoteatis",
        "Võlgnevus kokku",
        "1–30 päeva hilinenud",
        "üle 90 päeva hilinenud",
        "Arve INV",
        "124,00"
    )]
    public async Task A_statement_is_in_the_customers_language(
        string language,
        string heading,
        string owed,
        string late,
        string over,
        string invoice,
        string amount
    )
    {
        await using var loft = await Loft.OpenAsync();
        await loft.ExecuteAsync($"UPDATE Customers SET Language = '{language}'");
        var item = await OwedAsync(loft, 50);
        await loft.ReceiveAsync(24_00, (item, 24_00));
        await OwedAsync(loft, 4);
        var open = await TextsAsync(loft, new StatementWish(null, Loft.Today));
        open.ShouldContain(heading);
        open.ShouldContain(owed);
        open.ShouldContain(late);
        open.ShouldContain(over);
        open.ShouldContain(amount);
        open.ShouldContain(t => t.StartsWith(invoice, StringComparison.Ordinal));
        var moved = await TextsAsync(loft, new StatementWish(Loft.Today.AddDays(-90), Loft.Today));
        moved.ShouldContain(PaperWords.Of(language)[PaperWord.BalanceBefore]);
        moved.ShouldContain(t => t.StartsWith(PaperWords.Of(language)[PaperWord.Receipt], StringComparison.Ordinal));
        foreach (var english in new[] { "Owed", "Balance", "late", "Please", "Receipt", "Statement", "Page" })
            open.Concat(moved).ShouldNotContain(t => t.Contains(english, StringComparison.Ordinal), english);
    }

    [Fact]
    public async Task Open_items_stand_with_their_days_late_and_ageing_of_the_day_that_is_asked_for()
    {
        await using var loft = await Loft.OpenAsync();
        var old = await OwedAsync(loft, 50);
        await OwedAsync(loft, 4, 10);
        await loft.ReceiveAsync(24_00, (old, 24_00));
        var now = await TextsAsync(loft, new StatementWish(null, Loft.Today));
        now.ShouldContain("36");
        now.ShouldContain("100.00");
        now.ShouldContain("124.80", "100.00 and 24.80 in all");
        now.ShouldContain("31–60 days late");
        now.ShouldContain(t => t.Contains("100.00 EUR is past its due day"));
        var before = await TextsAsync(loft, new StatementWish(null, Loft.Today.AddDays(-10)));
        before.ShouldContain("124.00");
        before.ShouldNotContain("124.80");
    }

    [Fact]
    public async Task Movement_begins_and_ends_with_a_balance_that_adds_up()
    {
        await using var loft = await Loft.OpenAsync();
        await OwedAsync(loft, 50);
        await OwedAsync(loft, 4, 10);
        await loft.ReceiveAsync(24_00);
        var texts = await TextsAsync(loft, new StatementWish(Loft.Today.AddDays(-30), Loft.Today));
        texts.ShouldBeInOrder(
            "Balance before",
            "124.00",
            "24.80",
            "148.80",
            "24.00",
            "124.80",
            "Owed in all",
            "124.80"
        );
    }

    [Fact]
    public async Task A_long_statement_breaks_over_pages_and_repeats_its_head()
    {
        await using var loft = await Loft.OpenAsync();
        for (var i = 0; i < 45; i++)
            await OwedAsync(loft, 40);
        var papers = await loft.WithAsync<Statements, IReadOnlyList<DisplayList>>(s =>
            s.ComposeAsync(loft.Yard, new StatementWish(null, Loft.Today))
        );
        var paper = papers.Single();
        paper.Pages.Count.ShouldBe(2);
        foreach (var page in paper.Pages)
            page.Marks.OfType<TextMark>().ShouldContain(m => m.Text == "Days late");
        paper.Pages.SelectMany(p => p.Marks).OfType<TextMark>().ShouldAllBe(m => m.Y < 290);
    }

    [Fact]
    public async Task It_goes_along_as_it_was_that_day_and_once()
    {
        await using var loft = await Loft.OpenAsync();
        await OwedAsync(loft, 50);
        var wish = new StatementWish(null, Loft.Today);
        await loft.WithAsync<StatementRun>(s => s.SendAsync(loft.Yard, wish));
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<StatementRun>(s => s.SendAsync(loft.Yard, wish))
            )
        ).Message.ShouldContain("already");
        await loft.WithAsync<PostCarrying>(p => p.CarryAsync());
        var mail = loft.Carrier.Carried.ShouldHaveSingleItem();
        mail.Body.ShouldContain("past its due day");
        mail.Attachments.ShouldHaveSingleItem().Name.ShouldStartWith("statement-");
    }

    [Fact]
    public async Task On_the_first_of_a_month_all_who_owe_get_theirs_once_also_after_days_off()
    {
        await using var loft = await Loft.OpenAsync();
        await OwedAsync(loft, 50);
        await loft.WithAsync<StatementRun>(s => s.SetMonthlyAsync(true));
        Task<long> CountAsync() => loft.NumberAsync("SELECT COUNT(*) FROM Post WHERE Kind = 'Statement'");
        await loft.WithAsync<DailyRun>(r => r.RunAsync());
        (await CountAsync()).ShouldBe(1, "of the end of August");
        // 3 October: the first itself was a day off.
        loft.Clock.Advance(TimeSpan.FromDays(16));
        await loft.WithAsync<DailyRun>(r => r.RunAsync());
        await loft.WithAsync<DailyRun>(r => r.RunAsync());
        (await CountAsync()).ShouldBe(2);
        (
            await loft.WithAsync<BooksContext, string>(db =>
                db.Post.OrderByDescending(p => p.Id).Select(p => p.Statement).FirstAsync()
            )
        ).ShouldBe("2025-09-30");
    }

    [Fact]
    public async Task A_printed_letter_stands_on_the_business_s_paper_in_the_pile()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.ExecuteAsync("UPDATE Customers SET Email = ''");
        await OwedAsync(loft, 50);
        var ladder = (int)await loft.NumberAsync("SELECT MIN(Id) FROM Ladders");
        await loft.WithAsync<Ladders>(l => l.SetAsync(ladder, false, 0, 7, [1, 2, 3, 4, 5]));
        await loft.WithAsync<LadderRun>(r => r.RunAsync());
        (await loft.NumberAsync("SELECT COUNT(*) FROM Post WHERE Way = 'Print' AND Kind = 'Reminder'")).ShouldBe(1);
        var pdf = await loft.WithAsync<PrintPile, byte[]?>(p => p.PdfAsync());
        pdf.ShouldNotBeNull();
        var letter = await loft.WithAsync<Statements, DisplayList>(s =>
            s.LetterAsync(loft.Yard, "A word about what is open", "Dear neighbour,\n\nplease pay.", Loft.Today)
        );
        letter.Pages[0].Marks.OfType<TextMark>().ShouldContain(m => m.Text == "A word about what is open");
        letter.Pages[0].Marks.OfType<TextMark>().ShouldNotContain(m => m.Text == "Quantity");
    }

    [Theory]
    [InlineData("2025-09-17", null, "2025-09-17")]
    [InlineData("2025-08-01/2025-09-17", "2025-08-01", "2025-09-17")]
    public void A_wish_is_kept_as_days(string text, string? from, string day)
    {
        var wish = StatementWish.Read(text)!;
        (wish.From, wish.Day).ShouldBe((from is null ? null : DateOnly.Parse(from), DateOnly.Parse(day)));
        wish.Text.ShouldBe(text);
    }

    [Theory]
    [InlineData("")]
    [InlineData("2025-09-17/2025-08-01")]
    [InlineData("17.9.2025")]
    [InlineData("2025-09-17/2025-09-17/2025-09-17")]
    public void What_is_no_wish_is_none(string text) => StatementWish.Read(text).ShouldBeNull();
}

internal static class InOrder
{
    /// <summary>Each text follows the one before, others between them or not.</summary>
    internal static void ShouldBeInOrder(this IReadOnlyList<string> texts, params string[] wanted)
    {
        var at = 0;
        foreach (var text in wanted)
        {
            var found = texts.Skip(at).TakeWhile(t => t != text).Count() + at;
            found.ShouldBeLessThan(texts.Count, $"{text} does not follow in: {string.Join(" | ", texts)}");
            at = found + 1;
        }
    }
}
