using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Reports: that each can be made, that their sums are those of the journal, and that they lead further.</summary>
public sealed class ReportCatalogTests : IAsyncLifetime
{
    private static readonly ReportAsk Year = new(new DateOnly(2025, 1, 1), new DateOnly(2025, 12, 31));
    private Loft _loft = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<Report> MakeAsync(string name, ReportAsk? ask = null, ReportAgainst against = ReportAgainst.Nothing) =>
        _loft.WithAsync<ReportCatalog, Report>(c => c.MakeAsync(ReportCatalog.Find(name)!, ask ?? Year, against));

    private static long SumOf(Report report, string column)
    {
        var at = report.Columns.ToList().FindIndex(c => c.Key == column);
        var rows = report.Rows.Where(r => !r.IsSum).Sum(r => ((Money)r.Cells[at]!).Minor);
        if (report.Rows.LastOrDefault(r => r.IsSum)?.Cells[at] is Money sum)
            sum.Minor.ShouldBe(rows, $"the sum of {column} in {report.Name}");
        return rows;
    }

    private Task<long> PostedAsync(AccountRole role) =>
        _loft.WithAsync<BooksContext, long>(db =>
            (
                from line in db.Set<JournalLine>()
                where db.LedgerAccounts.Any(a => a.Id == line.AccountId && a.Role == role)
                select line.Credit - line.Debit
            ).SumAsync()
        );

    /// <summary>Bills in two currencies with freight, a credit note, a part paid, and a debt given up.</summary>
    private async Task TradeAsync()
    {
        var bill = await _loft.IssuedAsync(_loft.Content(3, 33.33m, date: new DateOnly(2025, 7, 3)));
        await _loft.IssuedAsync(_loft.Content(1, 40, date: new DateOnly(2025, 8, 3)));
        var swedish = _loft.Content(7, 19.99m, _loft.Swede, new DateOnly(2025, 8, 5));
        await _loft.IssuedAsync(
            swedish with
            {
                Lines = [.. swedish.Lines, swedish.Lines[0] with { Quantity = 1, UnitPrice = 0.37m }],
            }
        );
        await _loft.WithAsync<Credits>(c => c.CancelAsync(bill.Id, "wrong"));
        var other = await _loft.IssuedAsync(_loft.Content(2, 61, date: new DateOnly(2025, 9, 1)));
        var item = await _loft.ItemOfAsync(other.Id);
        await _loft.ReceiveAsync(50_00, (item.Id, 50_00));
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, 10_00, "gone"));
    }

    /// <summary>With and without papers in another currency, whose lines the database cannot tell.</summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task Parts_of_a_report_are_the_whole_cut_up_and_its_sums_are_the_same(bool foreign)
    {
        await TradeAsync();
        await _loft.IssuedAsync(_loft.Content(2, 12.5m, date: new DateOnly(2025, 9, 2)));
        if (!foreign)
            await _loft.ExecuteAsync(
                "DELETE FROM TaxFigures WHERE DocumentId IN (SELECT Id FROM Documents WHERE Currency <> 'EUR'); DELETE FROM PaperPlaces WHERE DocumentId IN (SELECT Id FROM Documents WHERE Currency <> 'EUR'); DELETE FROM Journal WHERE DocumentId IN (SELECT Id FROM Documents WHERE Currency <> 'EUR'); DELETE FROM AccountItems WHERE DocumentId IN (SELECT Id FROM Documents WHERE Currency <> 'EUR'); DELETE FROM Documents WHERE Currency <> 'EUR'"
            );
        foreach (var kind in ReportCatalog.All.Where(k => k.IsInParts))
        foreach (var by in kind.Name == "income-lines" ? Enum.GetValues<IncomeBy>().Select(IncomeReports.Word) : [""])
            await CutUpAsync(kind.Name, by);
    }

    private async Task CutUpAsync(string name, string by)
    {
        var keys = new List<string> { "" };
        if (by.Length > 0)
            keys.AddRange((await MakeAsync($"income-by-{by}")).Rows.Where(r => !r.IsSum).Select(r => r.Identity));
        foreach (var key in keys)
        foreach (var from in new[] { Year.From, new DateOnly(2025, 8, 4) })
        {
            var fields = new Dictionary<string, string> { ["account"] = $"{_loft.Bank}", ["by"] = by };
            if (key.Length > 0)
                fields["key"] = key;
            var ask = new ReportAsk(from, Year.Until, fields);
            var whole = await MakeAsync(name, ask);
            static string Told(ReportRow row) => $"{row.Address}|{string.Join('|', row.Cells.Select(Report.Text))}";
            var cut = new List<string>();
            var all = whole.Rows.Count(r => !r.IsSum);
            for (var skip = 0; skip == 0 || skip < all; skip += 2)
            {
                var part = await MakeAsync(name, ask with { Window = new ReportWindow(skip, 2, 0) });
                part.Of.ShouldBe(all);
                part.Rows.Count(r => !r.IsSum).ShouldBeLessThanOrEqualTo(2);
                cut.AddRange(part.Rows.Where(r => !r.IsSum || r == part.Rows[0]).Select(Told));
            }

            var sums = await _loft.WithAsync<ReportCatalog, Report>(c => c.SumsAsync(ReportCatalog.Find(name)!, ask));
            var told = whole.Rows.Select(Told).ToList();
            if (all > 0)
            {
                var once = await MakeAsync(name, ask with { Window = new ReportWindow(0, 500, all) });
                once.Rows.Select(Told).ShouldBe(told);
                once.Rows.ShouldAllBe(r => r.Cells.Count == once.Columns.Count);
            }

            // What another currency adds in columns of its own is told where there is some.
            static IEnumerable<string> Plain(IEnumerable<string> rows) => rows.Select(r => r.TrimEnd('|'));
            Plain(cut)
                .Concat(all == 0 ? [] : Plain(sums.Rows.Select(Told)))
                .ShouldBe(Plain(told), $"{key} from {from}");
        }
    }

    [Fact]
    public async Task A_report_is_of_one_moment_whatever_is_posted_while_it_is_made()
    {
        await TradeAsync();
        static string Told(Report report) => string.Join('\n', report.Rows.Select(r => string.Join('|', r.Cells)));
        var seen = new List<string>();
        var kind = ReportCatalog.Find("trial-balance")! with
        {
            Make = async (desks, ask, stop) =>
            {
                seen.Add(Told(await desks.Journal.TrialBalanceAsync(ask, stop)));
                await _loft.IssuedAsync(_loft.Content(1, 77, date: new DateOnly(2025, 9, 4)));
                var report = await desks.Journal.TrialBalanceAsync(ask, stop);
                seen.Add(Told(report));
                return report;
            },
        };
        await _loft.WithAsync<ReportCatalog, Report>(c => c.MakeAsync(kind, Year));
        seen[1].ShouldBe(seen[0]);
        Told(await MakeAsync("trial-balance")).ShouldNotStartWith(seen[0]);
    }

    [Fact]
    public async Task No_two_reports_have_one_name()
    {
        ReportCatalog.All.Select(k => k.Name).ShouldBeUnique();
        ReportCatalog.All.Select(k => k.Title).ShouldBeUnique();
        await Task.CompletedTask;
    }

    [Theory]
    [InlineData("income-lines")]
    [InlineData("tax-by-document")]
    [InlineData("quotes")]
    [InlineData("discounts")]
    public async Task A_report_at_home_says_so_and_gives_the_paper_in_its_own_currency(string name)
    {
        await TradeAsync();
        await _loft.IssuedAsync(_loft.Content(2, 100, _loft.Swede), DocumentKind.Quote);
        await _loft.IssuedAsync(_loft.Content(2, 100, _loft.Swede) with { DiscountPercent = 10 });
        var report = await MakeAsync(name);
        report.About.ShouldEndWith(", in EUR");
        report.Columns[^1].Key.ShouldBe("original");
        var crowns = report.Rows.Where(r => r.Cells[^2] is "SEK").ToList();
        crowns.ShouldNotBeEmpty();
        foreach (var row in crowns)
        {
            var paper = await _loft.DocumentAsync(int.Parse(row.Address!["/papers/".Length..], null));
            ((Money)row.Cells[^1]!).ShouldBe(new Money(paper.Payable, paper.Currency));
        }

        report.Rows.Any(r => !r.IsSum && r.Cells[^1] is null).ShouldBe(name is "income-lines" or "tax-by-document");
    }

    [Fact]
    public async Task Each_report_is_made_from_empty_books_and_from_full_ones()
    {
        foreach (var kind in ReportCatalog.All.Where(k => k.Needs.Length == 0))
            (await MakeAsync(kind.Name)).Rows.ShouldAllBe(r => r.Cells.Count > 0);
        await TradeAsync();
        foreach (var kind in ReportCatalog.All.Where(k => k.Needs.Length == 0))
        {
            var report = await MakeAsync(kind.Name);
            report.Rows.ShouldAllBe(r => r.Cells.Count == report.Columns.Count, kind.Name);
            // What is compared must tell its rows apart.
            if (kind.Compares is not null)
                report.Rows.Where(r => !r.IsSum).Select(r => r.Identity).ShouldBeUnique(kind.Name);
            report.Columns.Select(c => c.Key).ShouldBeUnique(kind.Name);
        }
    }

    [Fact]
    public async Task Income_is_what_the_journal_has_on_sales_however_it_is_told_apart_and_each_row_leads_to_its_lines()
    {
        await TradeAsync();
        var sales = await PostedAsync(AccountRole.Sales);
        sales.ShouldNotBe(0);
        foreach (var by in Enum.GetValues<IncomeBy>())
        {
            var report = await MakeAsync($"income-by-{IncomeReports.Word(by)}");
            SumOf(report, "income").ShouldBe(sales, by.ToString());
            (SumOf(report, "billed") + SumOf(report, "credited")).ShouldBe(sales);
            foreach (var row in report.Rows.Where(r => !r.IsSum))
            {
                var lines = await MakeAsync(
                    "income-lines",
                    Year with
                    {
                        More = new Dictionary<string, string>
                        {
                            ["by"] = IncomeReports.Word(by),
                            ["key"] = row.Key!.Length == 0 ? "-" : row.Key,
                        },
                    }
                );
                var income = report.Columns.ToList().FindIndex(c => c.Key == "income");
                SumOf(lines, "net").ShouldBe(((Money)row.Cells[income]!).Minor, $"{by} {row.Key}");
                lines.Rows.Where(r => !r.IsSum).ShouldAllBe(r => r.Address!.StartsWith("/papers/"));
            }
        }
    }

    [Fact]
    public async Task A_seller_is_given_their_part_of_what_they_sold_less_what_was_credited()
    {
        var seller = await _loft.WithAsync<BooksContext, int>(db => db.Users.Select(u => u.Id).FirstAsync());
        DraftContent Sold(decimal price) =>
            _loft.Content(1, price) with
            {
                Particulars = new Particulars { SellerId = seller, Reason = "agreed" },
            };
        await _loft.IssuedAsync(Sold(200.10m));
        await _loft.IssuedAsync(Sold(50), DocumentKind.CreditNote);
        await _loft.IssuedAsync(_loft.Content(1, 999));
        await Should.ThrowAsync<RefusalException>(() =>
            _loft.WithAsync<People.PeopleDesk>(p => p.GiveAsync(seller, 101))
        );
        await _loft.WithAsync<People.PeopleDesk>(p => p.GiveAsync(seller, 2.5m));
        var report = await MakeAsync("income-by-seller");
        // 2.5 % of 150.10 is 3.7525.
        SumOf(report, "commission").ShouldBe(3_75);
        Report.Text(report.Rows.Single(r => r.Key == $"{seller}").Cells[^2]).ShouldStartWith("2.5");
    }

    [Fact]
    public async Task Changes_in_what_customers_owe_go_from_one_balance_to_the_next()
    {
        await TradeAsync();
        var july = await MakeAsync("changes", new ReportAsk(new(2025, 7, 1), new(2025, 7, 31)));
        var rest = await MakeAsync("changes", new ReportAsk(new(2025, 8, 1), new(2025, 12, 31)));
        SumOf(july, "closing").ShouldBe(SumOf(rest, "opening"));
        SumOf(rest, "closing").ShouldBe(-await PostedAsync(AccountRole.Receivables));
        string[] moves = ["opening", "billed", "credited", "received", "refunded", "writtenOff", "other"];
        moves.Sum(m => SumOf(rest, m)).ShouldBe(SumOf(rest, "closing"));
        SumOf(rest, "received").ShouldBe(-50_00);
        SumOf(rest, "writtenOff").ShouldBe(-10_00);
    }

    [Fact]
    public async Task The_trial_balance_balances_and_agrees_with_the_book_of_each_account()
    {
        await TradeAsync();
        var balance = await MakeAsync("trial-balance");
        SumOf(balance, "after").ShouldBe(0);
        SumOf(balance, "debit").ShouldBe(SumOf(balance, "credit"));
        await BooksAgreeAsync(balance, Year);
    }

    /// <summary>With what was there before, what came later, and accounts onto which something came only later.</summary>
    [Theory]
    [InlineData("2025-01-01", "2025-07-02")]
    [InlineData("2025-07-04", "2025-08-04")]
    [InlineData("2025-08-05", "2025-08-31")]
    [InlineData("2025-09-18", "2025-12-31")]
    public async Task A_trial_balance_of_any_days_agrees_with_the_books_of_accounts(string from, string until)
    {
        await TradeAsync();
        var ask = new ReportAsk(
            DateOnly.Parse(from, System.Globalization.CultureInfo.InvariantCulture),
            DateOnly.Parse(until, System.Globalization.CultureInfo.InvariantCulture)
        );
        var balance = await MakeAsync("trial-balance", ask);
        SumOf(balance, "before").ShouldBe(0);
        SumOf(balance, "after").ShouldBe(0);
        var told = balance.Rows.Where(r => !r.IsSum).Select(r => int.Parse(r.Key!, null)).ToHashSet();
        var there = await _loft.WithAsync<BooksContext, List<int>>(db =>
            db.LedgerAccounts.Where(a =>
                    db.Journal.Any(e => e.Date <= ask.Until && e.Lines.Any(l => l.AccountId == a.Id))
                )
                .Select(a => a.Id)
                .ToListAsync()
        );
        told.ShouldBe(there, ignoreOrder: true);
        await BooksAgreeAsync(balance, ask);
    }

    private async Task BooksAgreeAsync(Report balance, ReportAsk ask)
    {
        foreach (var row in balance.Rows.Where(r => !r.IsSum))
        {
            var book = await MakeAsync(
                "account",
                ask with
                {
                    More = new Dictionary<string, string> { ["account"] = row.Key! },
                }
            );
            var at = book.Columns.ToList().FindIndex(c => c.Key == "balance");
            ((Money)book.Rows[0].Cells[at]!).ShouldBe((Money)row.Cells[2]!);
            ((Money)book.Rows[^1].Cells[at]!).ShouldBe((Money)row.Cells[^1]!);
        }
    }

    [Fact]
    public async Task Money_by_way_is_what_came_and_what_was_undone_is_gone()
    {
        await TradeAsync();
        SumOf(await MakeAsync("money-by-way"), "amount").ShouldBe(50_00);
        var booking = (int)await _loft.NumberAsync("SELECT MAX(BookingId) FROM Settlements");
        await _loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        booking = (int)await _loft.NumberAsync("SELECT BookingId FROM Receipts");
        await _loft.WithAsync<Undoing>(u => u.UndoAsync(booking));
        (await MakeAsync("money-by-way")).Rows.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_period_is_compared_with_another_and_what_was_only_there_has_its_row()
    {
        await TradeAsync();
        var report = await MakeAsync(
            "income-by-customer",
            new ReportAsk(new(2025, 9, 1), new(2025, 9, 30)),
            ReportAgainst.Before
        );
        report.Columns[^2].Head.ShouldBe("2025-08-01 to 2025-08-31");
        var august = await MakeAsync("income-by-customer", new ReportAsk(new(2025, 8, 1), new(2025, 8, 31)));
        SumOf(report, "before").ShouldBe(SumOf(august, "income"));
        (SumOf(report, "income") - SumOf(report, "before")).ShouldBe(SumOf(report, "change"));
        report.Rows.Count(r => !r.IsSum).ShouldBe(2, "the Swede bought in August only");
    }

    [Fact]
    public async Task Quotes_tell_what_became_of_them()
    {
        var won = await _loft.IssuedAsync(_loft.Content(date: new DateOnly(2025, 9, 10)), DocumentKind.Quote);
        var lost = await _loft.IssuedAsync(_loft.Content(1, 30, date: new DateOnly(2025, 9, 12)), DocumentKind.Quote);
        await _loft.IssuedAsync(_loft.Content(1, 20), DocumentKind.Quote);
        await _loft.WithAsync<Making.Quotes>(q => q.AnswerAsync(won.Id, true, ""));
        await _loft.WithAsync<Making.Quotes>(q => q.AnswerAsync(lost.Id, false, "", LossReason.TooDear));
        var outcomes = await MakeAsync("quote-outcomes");
        outcomes
            .Rows.Where(r => !r.IsSum)
            .Select(r => string.Join("|", r.Cells.Select(Report.Text)))
            .ShouldBe(["waiting|1|20.00|33.3|", "won|1|100.00|33.3|7", "lost: too dear|1|30.00|33.3|5"]);
        (await MakeAsync("quotes")).Rows.Count(r => !r.IsSum).ShouldBe(3);
    }

    [Fact]
    public async Task Days_that_run_backwards_are_refused()
    {
        await Should.ThrowAsync<RefusalException>(() =>
            MakeAsync("income-by-month", new ReportAsk(new(2025, 9, 2), new(2025, 9, 1)))
        );
    }

    [Fact]
    public async Task A_kept_view_is_found_by_its_name_moves_with_the_days_and_goes_out_once_a_month()
    {
        await TradeAsync();
        var id = await _loft.WithAsync<KeptViews, int>(v =>
            v.KeepAsync("Last month's income", "income-by-customer", "days=last-month")
        );
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.WithAsync<KeptViews>(v => v.KeepAsync("Last month's income", "quotes", ""))
            )
        ).Message.ShouldContain("already");
        await Should.ThrowAsync<RefusalException>(() =>
            _loft.WithAsync<KeptViews>(v => v.SendAsync(id, "nobody", ViewPace.Monthly))
        );
        await _loft.WithAsync<KeptViews>(v => v.SendAsync(id, "boss@example.test", ViewPace.Monthly));
        (await _loft.WithAsync<KeptViews, int>(v => v.RunDailyAsync())).ShouldBe(0, "the month goes on");
        _loft.Clock.Advance(TimeSpan.FromDays(20));
        (await _loft.WithAsync<KeptViews, int>(v => v.RunDailyAsync())).ShouldBe(1);
        (await _loft.WithAsync<KeptViews, int>(v => v.RunDailyAsync())).ShouldBe(0, "once a month");
        await _loft.WithAsync<Post.PostCarrying>(p => p.CarryAsync());
        var mail = _loft.Carrier.Carried.Single();
        mail.To.ShouldBe("boss@example.test");
        mail.Subject.ShouldContain("2025-08-01 to 2025-08-31");
        mail.Attachments.Select(a => a.Name).ShouldBe(["income-by-customer.pdf", "income-by-customer.csv"]);
        var august = await MakeAsync("income-by-customer", new ReportAsk(new(2025, 8, 1), new(2025, 8, 31)));
        System
            .Text.Encoding.UTF8.GetString(mail.Attachments[1].Content)
            .ShouldContain(Report.Text(august.Rows[0].Cells[^1]));
        await _loft.WithAsync<KeptViews>(v => v.LetGoAsync(id));
        (await _loft.WithAsync<KeptViews, IReadOnlyList<KeptView>>(v => v.AllAsync())).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_kept_view_that_cannot_be_made_says_why_and_the_day_goes_on()
    {
        await TradeAsync();
        var lost = await _loft.WithAsync<KeptViews, int>(v =>
            v.KeepAsync("Of an account", "account", "account=9999&days=last-month")
        );
        var good = await _loft.WithAsync<KeptViews, int>(v => v.KeepAsync("Quotes", "quotes", "days=last-month"));
        await _loft.WithAsync<KeptViews>(v => v.SendAsync(lost, "boss@example.test", ViewPace.Monthly));
        await _loft.WithAsync<KeptViews>(v => v.SendAsync(good, "boss@example.test", ViewPace.Monthly));
        _loft.Clock.Advance(TimeSpan.FromDays(20));
        (await _loft.WithAsync<KeptViews, int>(v => v.RunDailyAsync())).ShouldBe(1, "the other one goes");
        (await _loft.WithAsync<KeptViews, int>(v => v.RunDailyAsync())).ShouldBe(0, "and it is tried once");
        var views = await _loft.WithAsync<KeptViews, IReadOnlyList<KeptView>>(v => v.AllAsync());
        views.Single(v => v.Id == lost).Trouble.ShouldContain("account");
        views.Single(v => v.Id == good).Trouble.ShouldBeEmpty();
        await _loft.WithAsync<KeptViews>(v => v.SendAsync(lost, "boss@example.test", ViewPace.Weekly));
        (await _loft.WithAsync<KeptViews, IReadOnlyList<KeptView>>(v => v.AllAsync())).ShouldAllBe(v =>
            v.Trouble == ""
        );
    }

    [Fact]
    public async Task The_accountants_file_is_the_same_whenever_it_is_made_and_its_checksums_are_right()
    {
        await TradeAsync();
        async Task<byte[]> FileAsync()
        {
            using var file = new MemoryStream();
            await _loft.WithAsync<Handover>(h => h.WriteAsync(new(2025, 7, 1), new(2025, 9, 30), file));
            return file.ToArray();
        }

        var first = await FileAsync();
        _loft.Clock.Advance(TimeSpan.FromDays(40));
        (await FileAsync()).ShouldBe(first);
        using var zip = new System.IO.Compression.ZipArchive(new MemoryStream(first));
        zip.Entries.Count(e => e.FullName.StartsWith("papers/", StringComparison.Ordinal)).ShouldBe(5);
        using var sums = new StreamReader(zip.GetEntry("checksums.txt")!.Open());
        var lines = (await sums.ReadToEndAsync()).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        lines.Length.ShouldBe(zip.Entries.Count - 1);
        foreach (var line in lines)
        {
            var (sum, name) = (line[..64], line[66..]);
            using var entry = zip.GetEntry(name)!.Open();
            Convert
                .ToHexStringLower(await System.Security.Cryptography.SHA256.HashDataAsync(entry))
                .ShouldBe(sum, name);
        }

        await Should.ThrowAsync<RefusalException>(() =>
            _loft.WithAsync<Handover>(h => h.WriteAsync(new(2025, 7, 2), new(2025, 7, 1), Stream.Null))
        );
    }

    [Fact]
    public async Task A_month_is_closed_once_all_is_done_or_ticked_off_and_that_is_remembered()
    {
        await TradeAsync();
        await _loft.DraftAsync(_loft.Content(date: new DateOnly(2025, 8, 20)));
        var august = await _loft.WithAsync<ClosingDesk, DateOnly>(c => c.NextAsync());
        august.ShouldBe(new DateOnly(2025, 8, 31));
        Task<ClosingList> List() => _loft.WithAsync<ClosingDesk, ClosingList>(c => c.ListAsync(august));
        var list = await List();
        list.IsYear.ShouldBeFalse();
        list.Points.Single(p => p.Key == "drafts").Left.ShouldBe(1);
        list.Points.Single(p => p.Key == "bank").IsDone.ShouldBeTrue();
        list.Points.Single(p => p.Key == "return").Left.ShouldBe(1);
        (
            await Should.ThrowAsync<RefusalException>(() => _loft.WithAsync<ClosingDesk>(c => c.CloseAsync(august)))
        ).Message.ShouldContain("Not yet");
        foreach (var point in list.Points.Where(p => !p.IsDone))
            await _loft.WithAsync<ClosingDesk>(c => c.TickAsync(august, point.Key, true));
        (await List()).Open.ShouldBe(0);
        await _loft.WithAsync<ClosingDesk>(c => c.TickAsync(august, "cash", false));
        (await List()).Open.ShouldBe(1);
        await _loft.WithAsync<ClosingDesk>(c => c.TickAsync(august, "cash", true));
        await _loft.WithAsync<ClosingDesk>(c => c.CloseAsync(august));
        (await List()).IsClosed.ShouldBeTrue();
        (await _loft.WithAsync<ClosingDesk, DateOnly>(c => c.NextAsync())).ShouldBe(august, "September goes on");
        (await _loft.WithAsync<ClosingDesk, ClosingList>(c => c.ListAsync(new(2025, 12, 31)))).IsYear.ShouldBeTrue();
    }
}
