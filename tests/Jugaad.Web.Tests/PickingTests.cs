using System.Net;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Standing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>Rows of lists that are picked and dealt with together.</summary>
public sealed class PickingTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _yard;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _yard = await _site.CustomerAsync();
    }

    public Task DisposeAsync() => _site.DisposeAsync();

    [Fact]
    public async Task Papers_are_sent_together_once_however_often_the_form_arrives_and_a_draft_is_left_with_its_reason()
    {
        var (first, second) = (await _site.InvoiceAsync(_yard), await _site.InvoiceAsync(_yard));
        var draft = await _site.InvoiceAsync(_yard, issue: false);
        var before = await PostAsync();
        for (var i = 0; i < 2; i++)
        {
            var answer = await _site.PickAsync("/sell?kind=invoice", "send", [first, second, draft], key: "one-form");
            answer.StatusCode.ShouldBe(HttpStatusCode.Redirect);
            answer.Headers.Location!.ToString().ShouldBe("/sell?kind=invoice", "the list is as it was");
            var page = (await _site.GetAsync("/sell?kind=invoice")).Page;
            page.QuerySelector(".said")!.TextContent.ShouldContain("2 of 3 put in the post.");
            page.QuerySelector("#left")!
                .TextContent.ShouldContain("draft invoice: This is still a draft.", Case.Insensitive);
            (await PostAsync()).ShouldBe(before + 2);
        }
    }

    [Fact]
    public async Task Nothing_picked_something_made_up_and_an_act_that_is_none_are_refused_in_words()
    {
        var invoice = await _site.InvoiceAsync(_yard);
        await RefusesAsync(await _site.PickAsync("/sell", "send", []), "No row is picked");
        await RefusesAsync(await _site.PickAsync("/sell", "burn", [invoice]), "Choose what to do");
        await RefusesAsync(
            await _site.PickAsync("/customers", "tag", [_yard], new() { ["tag"] = " , " }),
            "Give one tag"
        );
        var tooMany = await _site.PickAsync("/sell", "print", Enumerable.Range(1, 201));
        await RefusesAsync(tooMany, "At most 200");
        await _site.PickAsync("/sell", "send", [999_999, -4]);
        (await _site.GetAsync("/sell")).Page.QuerySelector("#left")!.TextContent.ShouldContain("no document 999999");
    }

    [Fact]
    public async Task What_is_picked_is_printed_as_one_file_exported_and_checked_before_it_is_issued()
    {
        var (first, second) = (await _site.InvoiceAsync(_yard), await _site.InvoiceAsync(_yard));
        var draft = await _site.InvoiceAsync(_yard, issue: false);
        await _site.InvoiceAsync(_yard, issue: false);
        var print = (await _site.PickAsync("/sell", "print", [second, first])).Headers.Location!.ToString();
        var pile = await _site.RawAsync(print);
        pile.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        (await _site.RawAsync("/papers/pile.pdf?only=987654")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await _site.RawAsync("/papers/pile.pdf")).StatusCode.ShouldBe(HttpStatusCode.NotFound);

        var file = (await _site.PickAsync("/sell?q=yard", "Csv", [first])).Headers.Location!.ToString();
        file.ShouldBe($"/sell/file?q=yard&form=Csv&only={first}");
        (await RowsAsync(file)).ShouldBe(1);
        var all = await _site.PickAsync("/sell?show=drafts", "Csv", [], new() { ["everything"] = "true" });
        (await RowsAsync(all.Headers.Location!.ToString())).ShouldBe(2);

        var issue = (await _site.PickAsync("/sell", "issue", [first, draft])).Headers.Location!.ToString();
        var check = (await _site.GetAsync(issue)).Page;
        check.QuerySelectorAll(".ledger tbody tr").Length.ShouldBe(1, "the other draft was not picked");
        check.QuerySelector(".ledger tbody a")!.GetAttribute("href").ShouldBe($"/sell/edit/{draft}");
    }

    [Fact]
    public async Task Customers_are_tagged_untagged_and_retired_together()
    {
        var slip = await _site.CustomerAsync("Dinghy", "DINGHY");
        await SaysAsync("/customers", "tag", [_yard, slip], "2 tagged “Race”.", new() { ["tag"] = "Race" });
        (await CustomerAsync(slip)).TagList.ShouldBe(["race"]);
        await SaysAsync("/customers", "untag", [slip], "1 tagged “race” no more.", new() { ["tag"] = "race" });
        await SaysAsync("/customers", "untag", [_yard, slip], "1 of 2", new() { ["tag"] = "race" });
        (await CustomerAsync(slip)).TagList.ShouldBeEmpty();
        await SaysAsync("/customers?q=dinghy", "retire", [], "1 inactive now.", new() { ["everything"] = "true" });
        (await CustomerAsync(slip)).Inactive.ShouldBeTrue();
        (await CustomerAsync(_yard)).Inactive.ShouldBeFalse();
        await SaysAsync("/customers", "return", [_yard, slip], "1 of 2 active again.");
        await _site.AsRoleAsync("Seller");
        await _site.PickAsync("/customers", "retire", [_yard]);
        (await _site.GetAsync("/customers")).Page.QuerySelector("#left")!.TextContent.ShouldContain("Your role");
        (await CustomerAsync(_yard)).Inactive.ShouldBeFalse();
    }

    [Fact]
    public async Task Items_stop_being_sold_and_post_is_withdrawn_together()
    {
        await _site.PostAsync(
            "/items/new",
            new()
            {
                ["code"] = "ROPE",
                ["name"] = "Rope",
                ["unit"] = "MTR",
                ["price"] = "8",
                ["taxCodeId"] = "1",
                ["ledgerAccountId"] = "6",
            }
        );
        await SaysAsync("/items", "retire", [1], "1 not sold any more.");
        await SaysAsync("/items", "retire", [1], "0 of 1");
        await SaysAsync("/items", "return", [1], "1 sold again.");

        var invoice = await _site.InvoiceAsync(_yard);
        await _site.PickAsync("/sell", "send", [invoice]);
        var mail = await WithAsync(db => db.Post.OrderByDescending(p => p.Id).Select(p => p.Id).FirstAsync());
        await SaysAsync("/post", "printed", [mail], "0 of 1");
        await SaysAsync("/post", "withdraw", [mail], "1 taken back.");
        await SaysAsync("/post", "withdraw", [mail], "0 of 1");
        (await WithAsync(db => db.Post.SingleAsync(p => p.Id == mail))).State.ShouldBe(PostState.Withdrawn);
    }

    [Fact]
    public async Task Receipts_are_confirmed_and_who_is_late_is_reminded_together()
    {
        var invoice = await _site.InvoiceAsync(_yard);
        var bank = await WithAsync(db =>
            db.LedgerAccounts.Where(a => a.Role == AccountRole.Money).Select(a => a.Id).FirstAsync()
        );
        var today = DateOnly.FromDateTime(DateTime.Now);
        var receipt = await DeskAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(_yard, today, bank, 1000, "by bank", []))
        );
        await SaysAsync("/receive", "confirm", [receipt], "1 confirmed");

        await WithAsync(db =>
            db.Database.ExecuteSqlAsync($"UPDATE AccountItems SET Due = '2020-01-01' WHERE DocumentId = {invoice}")
        );
        var silent = await _site.CustomerAsync("Silent", "SILENT");
        await SaysAsync("/collect/overdue", "remind", [_yard, silent], "1 of 2 reminded");
        var page = (await _site.GetAsync("/collect/overdue?q=yard")).Page;
        page.QuerySelector("main")!.TextContent.ShouldContain("reminded once");
        (await _site.GetAsync("/collect/overdue?q=nobody"))
            .Page.QuerySelector(".empty")!
            .TextContent.ShouldContain("Nobody who fits");
        (await RowsAsync("/collect/overdue/file?form=Csv")).ShouldBe(1);
        (await RowsAsync($"/collect/overdue/file?form=Csv&only={silent}")).ShouldBe(0);
        (await _site.RawAsync("/collect/overdue/totals")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Standing_invoices_are_paused_and_go_on_together_and_the_views_follow()
    {
        var invoice = await _site.InvoiceAsync(_yard);
        var (one, two) = (await StandingAsync(invoice), await StandingAsync(invoice));
        await SaysAsync("/sell/standing", "pause", [one, two], "2 paused.");
        (await CountAsync("/sell/standing?show=paused")).ShouldBe(2);
        await SaysAsync("/sell/standing?show=paused", "resume", [one], "1 going on.");
        (await CountAsync("/sell/standing?show=paused")).ShouldBe(1);
        (await CountAsync("/sell/standing?show=running")).ShouldBe(1);
        (await CountAsync("/sell/standing?q=YÁRD&sort=-name")).ShouldBe(2, "whatever the capitals and accents");
        (await RowsAsync("/sell/standing/file?show=paused")).ShouldBe(1);
        var names = (await _site.GetAsync("/sell/standing?sort=customer")).Page;
        names.QuerySelector("[aria-sort=ascending]")!.TextContent.ShouldContain("Customer");
    }

    private Task<int> StandingAsync(int document) =>
        DeskAsync<StandingDesk, int>(desk => desk.FromDocumentAsync(document));

    private async Task<TResult> DeskAsync<TDesk, TResult>(Func<TDesk, Task<TResult>> work)
        where TDesk : notnull
    {
        await using var scope = _site.Services.CreateAsyncScope();
        return await work(scope.ServiceProvider.GetRequiredService<TDesk>());
    }

    private async Task<Core.Trade.Customer> CustomerAsync(int id) =>
        await WithAsync(db => db.Customers.AsNoTracking().SingleAsync(c => c.Id == id));

    private async Task SaysAsync(
        string list,
        string act,
        int[] ids,
        string said,
        Dictionary<string, string>? more = null
    )
    {
        (await _site.PickAsync(list, act, ids, more)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync(list)).Page.QuerySelector(".said")!.TextContent.ShouldContain(said);
    }

    private static async Task RefusesAsync(HttpResponseMessage answer, string words)
    {
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Site.ReadAsync(answer)).QuerySelector("main")!.TextContent.ShouldContain(words);
    }

    private Task<int> PostAsync() => WithAsync(db => db.Post.CountAsync());

    private async Task<int> CountAsync(string address) =>
        (await _site.GetAsync(address)).Page.QuerySelectorAll("table.ledger > tbody > tr").Length;

    private async Task<int> RowsAsync(string address) =>
        (await (await _site.RawAsync(address)).Content.ReadAsStringAsync())
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Length - 1;

    private async Task<T> WithAsync<T>(Func<BooksContext, Task<T>> ask)
    {
        await using var db = _site.File.Open();
        return await ask(db);
    }
}
