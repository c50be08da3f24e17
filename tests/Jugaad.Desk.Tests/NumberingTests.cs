using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Numbering;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Making;
using Jugaad.Desk.Post;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// One rule for numbers: what is told before is what is given, and no number comes twice in the books.
/// </summary>
public sealed class NumberingTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync() => _loft = await Loft.OpenAsync();

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<MailToSend> MailAsync(int id) =>
        _loft.WithAsync<MailComposing, MailToSend>(m => m.ForDocumentAsync(id));

    private Task SeriesAsync(string name, string pattern, SeriesRestart restarts = SeriesRestart.CalendarYear) =>
        _loft.WithAsync<SeriesDesk>(s => s.AddAsync(name, "Invoice", pattern, restarts));

    private Task<int> SeriesIdAsync(string name) =>
        _loft.WithAsync<BooksContext, int>(db => db.Series.Where(s => s.Name == name).Select(s => s.Id).SingleAsync());

    [Fact]
    public async Task Two_series_whose_patterns_meet_never_give_one_number_twice()
    {
        await SeriesAsync("Shop", "INV-2025-{0000}", SeriesRestart.Never);
        var shop = await SeriesIdAsync("Shop");
        var numbers = new List<string>();
        for (var i = 0; i < 6; i++)
            numbers.Add(
                (await _loft.IssuedAsync(_loft.Content() with { SeriesId = i % 2 == 0 ? null : shop })).Number!
            );
        numbers.ShouldBe([
            "INV-2025-0001",
            "INV-2025-0002",
            "INV-2025-0003",
            "INV-2025-0004",
            "INV-2025-0005",
            "INV-2025-0006",
        ]);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.ExecuteAsync("DROP INDEX IX_Documents_Kind_Number");
        await _loft.ExecuteAsync("UPDATE Documents SET Number = 'INV-2025-0001' WHERE Number = 'INV-2025-0002'");
        (await _loft.CheckAsync()).Differences.ShouldContain(d =>
            d.StartsWith("INV-2025-0001: the number is there 2 times", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_number_typed_by_hand_in_one_series_is_stepped_over_in_another()
    {
        await SeriesAsync("Shop", "SHOP-{0000}", SeriesRestart.Never);
        await _loft.IssuedAsync(
            _loft.Content() with
            {
                SeriesId = await SeriesIdAsync("Shop"),
                NumberByHand = "INV-2025-0001",
            }
        );
        (await MailAsync(await _loft.DraftAsync())).Body.ShouldContain("INV-2025-0002");
        (await _loft.IssuedAsync()).Number.ShouldBe("INV-2025-0002");
        await Should.ThrowAsync<RefusalException>(() =>
            _loft.IssuedAsync(_loft.Content() with { NumberByHand = "INV-2025-0002" })
        );
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_number_that_was_moved_in_is_not_given_again_and_none_that_was_given_is_moved_in()
    {
        await _loft.IssuedAsync();
        var text =
            "customer;kind;number;date;due;open\nYARD;invoice;INV-2025-0002;2025-08-01;2025-08-15;100.00\nYARD;invoice;INV-2025-0001;2025-08-01;2025-08-15;100.00\nVARV;invoice;INV-2025-0002;2025-08-01;2025-08-15;100.00\n";
        var run = await MovingTests.TakeAsync(_loft, MovingKind.OpenItems, text);
        run.Refused.Select(r => r.Row).ShouldBe([2, 3]);
        (await _loft.IssuedAsync()).Number.ShouldBe("INV-2025-0003");
        await Should.ThrowAsync<RefusalException>(() =>
            _loft.IssuedAsync(_loft.Content() with { NumberByHand = "INV-2025-0002" })
        );
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_mail_names_the_number_that_its_document_gets_also_of_a_revised_quote()
    {
        var quote = await _loft.IssuedAsync(kind: DocumentKind.Quote);
        var revision = await _loft.WithAsync<Quotes, int>(q => q.ReviseAsync(quote.Id));
        var mail = await MailAsync(revision);
        mail.Body.ShouldContain($"{quote.Number}/2");
        await _loft.WithAsync<IssuingDesk>(async i =>
            await i.IssueAsync(revision, (await _loft.DocumentAsync(revision)).Version, mail)
        );
        (await _loft.DocumentAsync(revision)).Number.ShouldBe($"{quote.Number}/2");
    }

    [Fact]
    public async Task A_number_that_went_elsewhere_meanwhile_is_put_right_in_the_mail()
    {
        var (first, second) = (await _loft.DraftAsync(), await _loft.DraftAsync());
        var mail = await MailAsync(first) with { Subject = "INV-2025-0001 and INV-2025-00011" };
        await _loft.WithAsync<IssuingDesk>(i => i.IssueAsync(second, 1));
        await _loft.WithAsync<IssuingDesk>(i => i.IssueAsync(first, 1, mail));
        var post = await _loft.WithAsync<BooksContext, PostItem>(db =>
            db.Post.OrderByDescending(p => p.Id).FirstAsync()
        );
        post.Subject.ShouldBe("INV-2025-0002 and INV-2025-00011");
        post.Body.ShouldContain("INV-2025-0002");
        post.Body.ShouldNotContain("INV-2025-0001");
    }

    [Fact]
    public async Task A_series_counts_with_the_financial_year()
    {
        await _loft.ExecuteAsync("UPDATE Businesses SET YearBegins = 7");
        await SeriesAsync("Year", "Y{yy}-{000}", SeriesRestart.FinancialYear);
        var id = await SeriesIdAsync("Year");
        var numbers = new List<string>();
        foreach (
            var day in new[]
            {
                new DateOnly(2025, 6, 30),
                new DateOnly(2025, 7, 1),
                new DateOnly(2026, 2, 1),
                new DateOnly(2026, 7, 2),
            }
        )
            numbers.Add((await _loft.IssuedAsync(_loft.Content(date: day) with { SeriesId = id })).Number!);
        numbers.ShouldBe(["Y24-001", "Y25-001", "Y25-002", "Y26-001"]);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.ExecuteAsync("UPDATE Documents SET Number = 'Y25-009' WHERE Number = 'Y25-001'");
        (await _loft.CheckAsync()).Differences.ShouldContain(d =>
            d.StartsWith("Y25-001: the number is missing", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_date_that_cannot_be_meant_is_warned_of_and_one_far_ahead_refused()
    {
        await _loft.IssuedAsync();
        async Task<IReadOnlyList<string>> WarnedAsync(DateOnly date)
        {
            var id = await _loft.DraftAsync(_loft.Content(date: date));
            return
            [
                .. (await _loft.WithAsync<IssueCheck, IReadOnlyList<IssueFinding>>(c => c.OfAsync(id, false))).Select(
                    f => f.Words
                ),
            ];
        }

        (await WarnedAsync(Loft.Today.AddDays(1))).ShouldContain(w =>
            w.Contains("in the future", StringComparison.Ordinal)
        );
        (await WarnedAsync(Loft.Today.AddDays(-1))).ShouldContain(w =>
            w.StartsWith("INV-2025-0001 is of 17 Sep 2025 already", StringComparison.Ordinal)
        );
        (await WarnedAsync(Loft.Today)).ShouldNotContain(w =>
            w.Contains("2025", StringComparison.Ordinal) && !w.Contains("duplicate", StringComparison.Ordinal)
        );
        await _loft.WithAsync<Periods>(p => p.CloseUpToAsync(new DateOnly(2025, 7, 31)));
        (await WarnedAsync(new DateOnly(2025, 7, 31))).ShouldContain(w =>
            w.Contains("closed up to", StringComparison.Ordinal)
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.DraftAsync(_loft.Content(date: Loft.Today.AddYears(1).AddDays(1)))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("date");
        await _loft.DraftAsync(_loft.Content(date: Loft.Today.AddYears(1)));
    }
}
