using System.Net;
using System.Text;
using System.Text.Json;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Reports;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>A business that sells abroad, through the pages: rates, an account in crowns, money, a conversion.</summary>
public sealed class CurrenciesOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private DateOnly _today;
    private int _crowns;
    private int _way;
    private int _customer;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        await using var db = _site.File.Open();
        _today = DateOnly.FromDateTime(DateTime.Now);
        _customer = await _site.CustomerAsync();
        await db.Database.ExecuteSqlRawAsync("UPDATE Customers SET Currency = 'SEK'");
        await GoesAsync(
            "/setup/rates",
            new()
            {
                ["currency"] = "SEK",
                ["from"] = $"{_today.AddDays(-40):yyyy-MM-dd}",
                ["rate"] = "11.30",
                ["perHome"] = "1",
            },
            "Exchange"
        );
        await GoesAsync(
            "/setup/accounts",
            new()
            {
                ["code"] = "1110",
                ["name"] = "Crowns",
                ["for"] = "Bank",
                ["currency"] = "SEK",
            },
            "Account"
        );
        _crowns = await db.LedgerAccounts.Where(a => a.Code == "1110").Select(a => a.Id).SingleAsync();
        await db.Database.ExecuteSqlAsync(
            $"INSERT INTO PayWays (Name, MoneyAccountId, Retired) VALUES ('In crowns', {_crowns}, 0)"
        );
        _way = await db.PayWays.Where(w => w.Name == "In crowns").Select(w => w.Id).SingleAsync();
    }

    public Task DisposeAsync() => _site.DisposeAsync();

    private async Task GoesAsync(string path, Dictionary<string, string> fields, string? handler = null)
    {
        var answer = await _site.PostAsync(path, fields, handler);
        answer.StatusCode.ShouldBe(
            HttpStatusCode.Redirect,
            (await Site.ReadAsync(answer)).QuerySelector(".refusal")?.TextContent
        );
    }

    private async Task<string> SeenAsync(string path) =>
        (await _site.GetAsync(path)).Page.Body!.TextContent.Replace('\u00a0', ' ').Replace('\u202f', ' ');

    private async Task HealthyAsync()
    {
        await using var scope = _site.Services.CreateAsyncScope();
        (await scope.ServiceProvider.GetRequiredService<BooksCheck>().RunAsync()).Differences.ShouldBeEmpty();
    }

    private async Task<(long Home, long Own)> CrownsAsync()
    {
        await using var db = _site.File.Open();
        var lines = db.Set<JournalLine>().Where(l => l.AccountId == _crowns);
        return (await lines.SumAsync(l => l.Debit - l.Credit), await lines.SumAsync(l => l.OriginalAmount ?? 0));
    }

    [Fact]
    public async Task Each_report_of_what_was_billed_in_crowns_has_its_sums_once_and_a_cell_of_them_under_each_head()
    {
        await _site.InvoiceAsync(_customer);
        var asked = ReportCatalog
            .All.Where(k => k.Page is null && k.Needs.Length == 0)
            .Select(k => $"/reports/{k.Name}?days=this-year")
            .Append("/reports/account?days=this-year&account=1");
        foreach (var address in asked)
        {
            var page = (await _site.GetAsync(address)).Page;
            var heads = page.QuerySelectorAll("table.report thead th").Length;
            foreach (var row in page.QuerySelectorAll("table.report tbody tr"))
                row.Children.Length.ShouldBe(heads, address);
            page.QuerySelectorAll("table.report tr.party").Select(r => r.TextContent).ShouldBeUnique(address);
        }

        (await SeenAsync("/reports/tax-by-document?days=this-year")).ShouldContain("Billed in");
    }

    [Fact]
    public async Task From_the_bill_to_the_emptied_account()
    {
        // 124.00 SEK ÷ 11.30 are 10.97.
        var paper = await _site.InvoiceAsync(_customer);
        var rated = await _site.UploadAsync(
            "/setup/rates?handler=File",
            [],
            "file",
            Encoding.UTF8.GetBytes($"Date,SEK,USD\n{_today:yyyy-MM-dd},11.10,1.17\n")
        );
        rated.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync("/setup/rates")).Page.Body!.TextContent.ShouldContain("11.1");
        await using var db = _site.File.Open();
        var item = await db.AccountItems.Where(i => i.DocumentId == paper).Select(i => i.Id).SingleAsync();
        var typed = new Dictionary<string, string>
        {
            ["customerId"] = $"{_customer}",
            ["amount"] = "124.00",
            ["date"] = $"{_today:yyyy-MM-dd}",
            ["way"] = $"{_way}",
            ["arrived"] = "123.00",
            ["charge"] = "1.00",
            [$"against[{item}]"] = "124.00",
        };
        var proposed = await _site.PostAsync("/receive/new", typed, "Propose");
        var said = JsonDocument.Parse(await proposed.Content.ReadAsStringAsync()).RootElement;
        // 124.00 ÷ 11.10 = 11.17.
        said.GetProperty("worth")
            .GetString()!
            .Replace('\u00a0', ' ')
            .ShouldBe("123.00 SEK come in, worth 11.17 EUR; exchange gain of 0.20 EUR");
        await GoesAsync("/receive/new", typed);
        (await CrownsAsync()).ShouldBe((1_108, 12_300));
        (await _site.GetAsync("/money")).Page.Body!.TextContent.ShouldContain("123.00");
        var entries = (
            await _site.GetAsync($"/reports/account?account={_crowns}&from=2020-01-01&until={_today:yyyy-MM-dd}")
        ).Page;
        entries.Body!.TextContent.ShouldContain("1 EUR = 11.1 SEK");

        var nothing = await _site.PostAsync("/reports/valuations", new() { ["on"] = $"{_today:yyyy-MM-dd}" });
        nothing.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(nothing)).Body!.TextContent.ShouldContain("nothing to post");
        await GoesAsync(
            "/money",
            new()
            {
                ["from"] = $"{_crowns}",
                ["to"] = $"{await db.LedgerAccounts.Where(a => a.Code == "1000").Select(a => a.Id).SingleAsync()}",
                ["amount"] = "123.00",
                ["got"] = "11.00",
                ["charge"] = "0.05",
                ["chargeOn"] = "to",
                ["date"] = $"{_today:yyyy-MM-dd}",
                ["text"] = "Sold",
            }
        );
        (await CrownsAsync()).ShouldBe((0, 0));
        (await _site.GetAsync("/money")).Page.Body!.TextContent.ShouldContain("1 SEK = 0.0898");
        (
            await _site.GetAsync($"/reports/exchange-differences?from=2020-01-01&until={_today:yyyy-MM-dd}")
        ).Page.Body!.TextContent.ShouldContain("came to nothing");
        await HealthyAsync();
    }

    [Fact]
    public async Task A_customer_in_two_currencies_pays_both_with_one_payment()
    {
        var crowns = await _site.InvoiceAsync(_customer);
        await using var db = _site.File.Open();
        await db.Database.ExecuteSqlRawAsync("UPDATE Customers SET Currency = 'EUR', AlsoIn = 'SEK'");
        var euros = await _site.InvoiceAsync(_customer);
        async Task<int> ItemAsync(int paper) =>
            await db.AccountItems.Where(i => i.DocumentId == paper).Select(i => i.Id).SingleAsync();

        (await SeenAsync($"/customers/{_customer}?in=SEK")).ShouldContain("Owes 124.00 SEK");
        // 124.00 and 10.97.
        (await SeenAsync($"/customers/{_customer}?in=all")).ShouldContain("Owes 134.97 EUR");
        (await SeenAsync($"/customers/{_customer}/statement?in=all")).ShouldContain("134.97");
        (await SeenAsync($"/receive/new?customer={_customer}")).ShouldContain("also pays what they owe in SEK");
        var typed = new Dictionary<string, string>
        {
            ["customerId"] = $"{_customer}",
            ["currency"] = "EUR",
            ["amount"] = "124.00",
            ["date"] = $"{_today:yyyy-MM-dd}",
            ["way"] = $"{await db.PayWays.Where(w => w.Id != _way).Select(w => w.Id).FirstAsync()}",
            [$"against[{await ItemAsync(euros)}]"] = "124.00",
            [$"also[{await ItemAsync(crowns)}]"] = "125.00",
            ["arrived[SEK]"] = "11.00",
        };
        var refused = await Site.ReadAsync(await _site.PostAsync("/receive/new", typed));
        refused.Body!.TextContent.ShouldContain("What it pays in SEK:");
        (await db.Receipts.CountAsync()).ShouldBe(0);
        await GoesAsync("/receive/new", new(typed) { [$"also[{await ItemAsync(crowns)}]"] = "124.00" });
        (await db.Receipts.CountAsync()).ShouldBe(2);
        (await SeenAsync($"/receive/new?customer={_customer}")).ShouldContain("owes nothing now");
        (await SeenAsync($"/customers/{_customer}?in=all")).ShouldContain("Owes 0.00 EUR");
        await HealthyAsync();
    }

    [Fact]
    public async Task Money_of_another_currency_says_which_wherever_currencies_meet()
    {
        await using var db = _site.File.Open();
        var account = await db.LedgerAccounts.Where(a => a.Id == _crowns).Select(a => a.Id).SingleAsync();
        var interest = await db
            .LedgerAccounts.Where(a => a.Role == AccountRole.Other)
            .OrderBy(a => a.Code)
            .Select(a => a.Id)
            .FirstAsync();
        await GoesAsync(
            "/receive/other",
            new()
            {
                ["amount"] = "113.00",
                ["date"] = $"{_today:yyyy-MM-dd}",
                ["moneyAccountId"] = $"{account}",
                ["ledgerAccountId"] = $"{interest}",
                ["text"] = "Interest of the crowns",
            }
        );
        var booked = await SeenAsync("/receive/other");
        booked.ShouldContain("10.00");
        booked.ShouldContain("113.00 SEK");

        await GoesAsync(
            "/receive/new",
            new()
            {
                ["customerId"] = $"{_customer}",
                ["amount"] = "500.00",
                ["date"] = $"{_today:yyyy-MM-dd}",
                ["way"] = $"{_way}",
            }
        );
        var credit = await db.AccountItems.Where(i => i.ReceiptId != null).Select(i => i.Id).SingleAsync();
        var place = (await _site.GetAsync($"/receive/place/{credit}")).Page;
        place.QuerySelector("#moneyAccountId option[selected]")!.GetAttribute("value").ShouldBe($"{account}");

        var statement = $"""
            <Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt><Stmt>
            <Id>S1</Id><Acct><Id><IBAN>EE409922001234567903</IBAN></Id><Ccy>SEK</Ccy></Acct>
            <Ntry><Amt Ccy="SEK">77.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts><Cd>BOOK</Cd></Sts>
            <BookgDt><Dt>{_today:yyyy-MM-dd}</Dt></BookgDt><AcctSvcrRef>A1</AcctSvcrRef></Ntry>
            </Stmt></BkToCstmrStmt></Document>
            """;
        await db
            .LedgerAccounts.Where(a => a.Id == account)
            .ExecuteUpdateAsync(set => set.SetProperty(a => a.Iban, "EE409922001234567903"));
        var taken = await _site.UploadAsync("/bank?handler=ReadIn", [], "file", Encoding.UTF8.GetBytes(statement));
        taken.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync("/bank")).Page.QuerySelector(".bank-line .fig")!.TextContent.ShouldBe("77.00\u00a0SEK");
    }

    [Fact]
    public async Task A_standing_invoice_bills_in_another_of_the_currencies()
    {
        await using var db = _site.File.Open();
        await db.Database.ExecuteSqlRawAsync("UPDATE Customers SET Currency = 'EUR', AlsoIn = 'SEK'");
        var typed = new Dictionary<string, string>
        {
            ["name"] = "Berth",
            ["customer"] = $"{_customer}",
            ["shownIn"] = "EUR",
            ["every"] = "1",
            ["pace"] = "Months",
            ["first"] = $"{_today.AddDays(5):yyyy-MM-dd}",
            ["way"] = "Draft",
            ["tellBefore"] = "0",
            ["tellAfter"] = "0",
            ["lines[0].text"] = "Berth",
            ["lines[0].quantity"] = "1",
            ["lines[0].price"] = "100",
        };
        await GoesAsync("/sell/standing/new", typed);
        var made = await db.StandingInvoices.AsNoTracking().SingleAsync();
        // 100.00 EUR are 1130.00 SEK.
        await GoesAsync($"/sell/standing/{made.Id}", new(typed) { ["currency"] = "SEK" });
        var content = (await db.StandingInvoices.AsNoTracking().SingleAsync()).Content;
        (content.Currency, content.Lines.Single().UnitPrice).ShouldBe(("SEK", 1_130m));
        (await _site.GetAsync($"/sell/standing/{made.Id}")).Page.Body!.TextContent.ShouldContain("Price SEK");
        await HealthyAsync();
    }

    [Fact]
    public async Task A_price_list_is_computed_looked_at_and_kept_for_some_days()
    {
        await GoesAsync("/items/lists", new() { ["name"] = "Crowns", ["currency"] = "SEK" });
        await using var db = _site.File.Open();
        var list = await db.PriceLists.Select(l => l.Id).SingleAsync();
        await GoesAsync(
            "/items/new",
            new()
            {
                ["code"] = "ROPE",
                ["name"] = "Rope",
                ["unit"] = "C62",
                ["price"] = "4.35",
                ["taxCodeId"] = $"{await db.TaxCodes.Select(c => c.Id).FirstAsync()}",
                ["ledgerAccountId"] =
                    $"{await db.LedgerAccounts.Where(a => a.Role == AccountRole.Sales).Select(a => a.Id).FirstAsync()}",
            }
        );
        var item = await db.Items.Select(i => i.Id).SingleAsync();
        var how = new Dictionary<string, string> { ["factor"] = "11.3", ["ending"] = "Ninety" };
        var look = await Site.ReadAsync(await _site.PostAsync($"/items/lists/{list}", how, "Look"));
        look.QuerySelector("#computed")!.TextContent.ShouldContain("1 price");
        look.QuerySelector($"input[name='price[{item}]']")!.GetAttribute("value").ShouldBe("48.90");
        await GoesAsync($"/items/lists/{list}", how, "Compute");
        (await db.Items.AsNoTracking().SingleAsync()).Prices.Single().Price.ShouldBe(48.90m);
        await GoesAsync($"/items/lists/{list}", new() { [$"price[{item}]"] = "50" }, "Prices");
        (await db.Items.AsNoTracking().SingleAsync()).Prices.Single().Price.ShouldBe(50);
        var wrong = await _site.PostAsync($"/items/lists/{list}", new() { [$"price[{item}]"] = "-5" }, "Prices");
        wrong.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await GoesAsync(
            $"/items/lists/{list}",
            new() { ["holdsFrom"] = $"{_today:yyyy-MM-dd}", ["until"] = $"{_today.AddDays(30):yyyy-MM-dd}" },
            "Hold"
        );
        (await _site.GetAsync("/items/lists")).Page.Body!.TextContent.ShouldContain("until");
    }

    [Fact]
    public async Task An_authority_has_rates_of_its_own_that_are_typed_taken_in_and_taken_out()
    {
        await using var db = _site.File.Open();
        var authority = await db.TaxAuthorities.Select(a => a.Id).FirstAsync();
        var page = $"/setup/authority-rates/{authority}";
        (await _site.GetAsync(page)).Page.Body!.TextContent.ShouldContain("takes tax at the rate of each document");
        var typed = new Dictionary<string, string>
        {
            ["currency"] = "SEK",
            ["from"] = $"{_today:yyyy-MM-dd}",
            ["rate"] = "0.085",
        };
        await GoesAsync(page, typed);
        typed["rate"] = "0.85";
        typed["from"] = $"{_today.AddDays(1):yyyy-MM-dd}";
        var asked = await _site.PostAsync(page, typed);
        asked.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(asked)).Body!.TextContent.ShouldContain("far off the last rate");
        var none = await _site.PostAsync(page, [], "File");
        (await Site.ReadAsync(none)).Body!.TextContent.ShouldContain("Choose a file of exchange rates");
        var id = await db.AuthorityRates.Select(r => r.Id).SingleAsync();
        await GoesAsync(page, new() { ["id"] = $"{id}" }, "Remove");
        (await db.AuthorityRates.CountAsync()).ShouldBe(0);
        (await _site.RawAsync("/setup/authority-rates/99")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_rate_is_changed_asked_about_and_taken_out()
    {
        await using var db = _site.File.Open();
        var id = await db.ExchangeRates.Select(r => r.Id).SingleAsync();
        await _site.InvoiceAsync(_customer, issue: false);
        var change = new Dictionary<string, string>
        {
            ["changing"] = "yes",
            ["currency"] = "SEK",
            ["from"] = $"{_today.AddDays(-40):yyyy-MM-dd}",
            ["rate"] = "11.35",
            ["perHome"] = "1",
        };
        var changed = await _site.PostAsync($"/setup/rates?change={id}", change, "Exchange");
        changed.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync(changed.Headers.Location!.ToString())).Page.Body!.TextContent.ShouldContain(
            "1 draft has another rate now"
        );
        var off = new Dictionary<string, string>
        {
            ["currency"] = "SEK",
            ["from"] = $"{_today:yyyy-MM-dd}",
            ["rate"] = "1.135",
            ["perHome"] = "1",
        };
        var asked = await _site.PostAsync("/setup/rates", off, "Exchange");
        asked.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(asked)).Body!.TextContent.ShouldContain("more than 10 % off the last rate");
        off["evenIfOff"] = "on";
        await GoesAsync("/setup/rates", off, "Exchange");
        await GoesAsync("/setup/rates", new() { ["id"] = $"{id}" }, "Remove");
        (await db.ExchangeRates.CountAsync()).ShouldBe(1);
        await GoesAsync(
            "/setup/rates",
            new()
            {
                ["forDocuments"] = "Buying",
                ["forMoney"] = "Middle",
                ["forConversions"] = "Middle",
                ["forValuation"] = "Selling",
                ["oldest"] = "10",
                ["warn"] = "25",
                ["fetches"] = "on",
            },
            "Rules"
        );
        await GoesAsync("/setup/rates", [], "Fetch");
        (await db.ExchangeRates.CountAsync(r => r.Source != "")).ShouldBeGreaterThan(3);
        await HealthyAsync();
    }
}
