using System.Net;
using System.Net.Http.Headers;
using System.Text;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Paying;
using Jugaad.Outside;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>What payers see and do through their links, and what the card service tells, over HTTP.</summary>
public sealed class PayerOverHttpTests : IAsyncLifetime
{
    private const string Secret = "a key that both sides have";

    private readonly Site _site = new();
    private int _yard;
    private int _invoice;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _yard = await _site.CustomerAsync("Yard & Söhne");
        _invoice = await _site.InvoiceAsync(_yard);
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private async Task TakeCardsAsync(string percent = "", string pattern = "")
    {
        await using var db = _site.File.Open();
        var fees = await db
            .LedgerAccounts.Where(a => a.Role == Core.Journal.AccountRole.Other)
            .Select(a => a.Id)
            .FirstAsync();
        await _site.PostAsync(
            "/setup/money",
            new() { ["smallDifference"] = "1.00", ["feeAccountId"] = $"{fees}" },
            "Settle"
        );
        (
            await _site.PostAsync(
                "/setup/paying",
                new()
                {
                    ["card"] = "yes",
                    ["secret"] = Secret,
                    ["surchargePercent"] = percent,
                    ["pattern"] = pattern,
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    private async Task<string> PageOfAsync(int customer)
    {
        await _site.PostAsync($"/customers/{customer}", [], "Link");
        await using var db = _site.File.Open();
        return "/a/" + await db.AccountLinks.Where(l => l.CustomerId == customer).Select(l => l.Token).SingleAsync();
    }

    private async Task<int> ItemAsync(int document)
    {
        await using var db = _site.File.Open();
        return await db.AccountItems.Where(i => i.DocumentId == document).Select(i => i.Id).SingleAsync();
    }

    private async Task<T> CountAsync<T>(Func<Desk.Books.BooksContext, Task<T>> count)
    {
        await using var db = _site.File.Open();
        return await count(db);
    }

    /// <summary>Every language in which customers are written to.</summary>
    public static TheoryData<string> Languages() => [.. Customer.Languages.Select(l => l.Code)];

    [Theory]
    [MemberData(nameof(Languages))]
    public async Task Customers_read_their_pages_in_the_language_in_which_they_are_written_to(string language)
    {
        await TakeCardsAsync("2.5");
        await using (var db = _site.File.Open())
            await db
                .Customers.Where(c => c.Id == _yard)
                .ExecuteUpdateAsync(c =>
                    c.SetProperty(x => x.Language, language).SetProperty(x => x.Kind, CustomerKind.Business)
                );
        var late = await _site.InvoiceAsync(_yard);
        var account = await PageOfAsync(_yard);
        await _site.PostAsync($"/papers/{late}", [], "Link");
        string paper;
        await using (var db = _site.File.Open())
            paper = "/p/" + await db.DocumentLinks.Where(l => l.DocumentId == late).Select(l => l.Token).SingleAsync();
        _site.As("somebody outside");
        var words = PaperWords.Of(language);
        // Also why something is not done.
        var refused = await Site.ReadAsync(await _site.PostAsync(account, [], "Choose"));
        refused.QuerySelector("#refused")!.TextContent.ShouldContain(words[PaperWord.SiteNoItems]);
        foreach (
            var (address, said) in new[]
            {
                (account, new[] { PaperWord.SiteWhatIsOpen, PaperWord.SitePayTicked, PaperWord.SitePapers }),
                (paper, [PaperWord.Total, PaperWord.SiteKeepPdf]),
            }
        )
        {
            var page = (await _site.GetAsync(address)).Page;
            page.DocumentElement.GetAttribute("lang").ShouldBe(language);
            var text = page.QuerySelector("main")!.TextContent;
            foreach (var word in said)
                text.ShouldContain(words[word]);
            // Nothing of it is left in English; short words may be those of another language too.
            foreach (var word in Enum.GetValues<PaperWord>().Where(w => words[w] != PaperWords.English[w]))
            foreach (var part in PaperWords.English[word].Split('{', '}').Where(p => p.Length > 12))
                text.ShouldNotContain(part, Case.Sensitive, $"{word} on {address}");
        }
    }

    [Fact]
    public async Task A_customers_page_says_what_is_open_and_nothing_of_anybody_else()
    {
        var other = await _site.CustomerAsync("Other Yard");
        var theirs = await _site.InvoiceAsync(other);
        var page = await PageOfAsync(_yard);
        _site.As("somebody outside");
        var (status, seen) = await _site.GetAsync(page);
        status.ShouldBe(HttpStatusCode.OK);
        var text = seen.QuerySelector("main")!.TextContent;
        text.ShouldContain("Yard & Söhne");
        text.ShouldNotContain("Other Yard");
        seen.QuerySelector("nav").ShouldBeNull();
        seen.QuerySelector("#choose").ShouldBeNull("cards are not taken");
        (await _site.RawAsync($"{page}/papers/{_invoice}")).Content.Headers.ContentType!.MediaType.ShouldBe(
            "application/pdf"
        );
        (await _site.RawAsync($"{page}/statement")).Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        foreach (
            var wrong in new[]
            {
                $"{page}/papers/{theirs}",
                $"{page}x",
                "/a/x",
                $"{page}x/statement",
                "/paid/x",
                "/card-stand-in/x",
            }
        )
            (await _site.RawAsync(wrong)).StatusCode.ShouldBe(HttpStatusCode.NotFound, wrong);
        _site.As("");
        await _site.SignInAsync();
        (await _site.GetAsync($"/customers/{_yard}"))
            .Page.QuerySelector("#own-page")!
            .TextContent.ShouldContain("seen once");
        await _site.PostAsync($"/customers/{_yard}", [], "NewLink");
        (await _site.RawAsync(page)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var anew = await CountAsync(db => db.AccountLinks.Select(l => "/a/" + l.Token).SingleAsync());
        (await _site.RawAsync(anew)).StatusCode.ShouldBe(HttpStatusCode.OK);
        await _site.PostAsync($"/customers/{_yard}", [], "EndLink");
        (await _site.RawAsync(anew)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_payer_chooses_sees_the_surcharge_pays_and_is_told_so()
    {
        await TakeCardsAsync("2.5");
        await CountAsync(db => db.Database.ExecuteSqlRawAsync("UPDATE Customers SET Email = 'yard@slip.example'"));
        var (page, item) = (await PageOfAsync(_yard), await ItemAsync(_invoice));
        _site.As("somebody outside");
        var (_, before) = await _site.GetAsync(page);
        before.QuerySelector("#surcharge-words")!.TextContent.ShouldContain("2.5");
        var refused = await Site.ReadAsync(await _site.PostAsync(page, [], "Choose"));
        refused.QuerySelector(".refused")!.TextContent.ShouldContain("Choose what you want to pay");
        var chosen = await Site.ReadAsync(await _site.PostAsync(page, new() { ["item"] = $"{item}" }, "Choose"));
        var total = chosen.QuerySelector("input[name=total]")!.GetAttribute("value")!;
        chosen.QuerySelector("#surcharge").ShouldNotBeNull();
        (await _site.PostAsync(page, new() { ["item"] = $"{item}", ["total"] = "0.01" }, "Pay")).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        var away = await _site.PostAsync(page, new() { ["item"] = $"{item}", ["total"] = total }, "Pay");
        var service = away.Headers.Location!.ToString();
        service.ShouldStartWith("/card-stand-in/");
        (await _site.GetAsync(service)).Page.QuerySelector("#amount")!.TextContent.ShouldContain(total);
        var declined = await _site.PostAsync(service, [], "Decline");
        (await _site.GetAsync(declined.Headers.Location!.ToString()))
            .Page.QuerySelector("h1")!
            .TextContent.ShouldContain("not accepted");
        var paid = await _site.PostAsync(service, new() { ["comes"] = "twice" }, "Pay");
        (await _site.GetAsync(paid.Headers.Location!.ToString()))
            .Page.QuerySelector("h1")!
            .TextContent.ShouldBe("Thank you");
        (await _site.GetAsync(page)).Page.QuerySelector("#nothing-open").ShouldNotBeNull();
        (await CountAsync(db => db.Receipts.CountAsync())).ShouldBe(1);
        (await CountAsync(db => db.Post.CountAsync(p => p.To == "yard@slip.example"))).ShouldBe(1, "thanked once");
        (await CountAsync(db => db.AccountItems.SumAsync(i => i.Open))).ShouldBe(0);
    }

    [Fact]
    public async Task A_papers_page_asks_for_what_is_still_open_by_card_and_by_our_own_address()
    {
        await TakeCardsAsync("", "https://pay.example/{{ Amount }}/{{ Reference }}");
        await _site.PostAsync($"/papers/{_invoice}", [], "Link");
        var token = await CountAsync(db =>
            db.DocumentLinks.Where(l => l.DocumentId == _invoice).Select(l => l.Token).SingleAsync()
        );
        var open = await CountAsync(db => db.AccountItems.Select(i => i.Open).SingleAsync());
        _site.As("somebody outside");
        var (_, page) = await _site.GetAsync($"/p/{token}");
        page.QuerySelector("#own-link")!
            .GetAttribute("href")!
            .ShouldContain($"/{(open / 100m).ToString("F2", System.Globalization.CultureInfo.InvariantCulture)}/");
        var total = page.QuerySelector("#pay")!
            .ParentElement!.QuerySelector("input[name=total]")!
            .GetAttribute("value")!;
        var away = await _site.PostAsync($"/p/{token}", new() { ["total"] = total }, "Pay");
        await _site.PostAsync(away.Headers.Location!.ToString(), new() { ["comes"] = "once" }, "Pay");
        var (_, after) = await _site.GetAsync($"/p/{token}");
        after.QuerySelector("#pay").ShouldBeNull();
        after.QuerySelector("#own-link").ShouldBeNull();
        (await Site.ReadAsync(await _site.PostAsync($"/p/{token}", new() { ["total"] = total }, "Pay")))
            .QuerySelector(".refused")!
            .TextContent.ShouldContain("paid already");
    }

    [Fact]
    public async Task What_is_told_needs_the_right_signature_and_is_taken_once()
    {
        await TakeCardsAsync();
        async Task<(HttpStatusCode, string)> TellAsync(string body, string? signature = null)
        {
            using var content = new StringContent(body, Encoding.UTF8, new MediaTypeHeaderValue("application/json"));
            using var request = new HttpRequestMessage(HttpMethod.Post, "/card/told") { Content = content };
            request.Headers.Add("Card-Signature", signature ?? CardStandIn.Sign(Encoding.UTF8.GetBytes(body), Secret));
            return await _site.SendAsync(request);
        }

        const string Odd =
            """{"key":"K1","news":"Paid","about":"nobody","amount":100,"currency":"EUR","day":"2025-09-17"}""";
        (await TellAsync(Odd, "00")).Item1.ShouldBe(HttpStatusCode.Unauthorized);
        (await TellAsync("{}")).Item1.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await TellAsync("[1")).Item1.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await TellAsync(new string(' ', 300_000))).Item1.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
        (await TellAsync(Odd)).ShouldBe((HttpStatusCode.OK, """{"taken":"problem"}"""));
        (await TellAsync(Odd)).ShouldBe((HttpStatusCode.OK, """{"taken":"known"}"""));
        (await _site.GetAsync("/")).Page.QuerySelector(".card-problem").ShouldNotBeNull();
        var (_, page) = await _site.GetAsync("/receive/online");
        var id = page.QuerySelector(".problem input[name=id]")!.GetAttribute("value")!;
        await _site.PostAsync("/receive/online", new() { ["id"] = id }, "SeenTo");
        (await _site.GetAsync("/")).Page.QuerySelector(".card-problem").ShouldBeNull();
        (await _site.PostAsync("/receive/online", [], "Ask")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task What_cannot_be_set_up_is_refused_beside_its_field_and_what_can_is_tried()
    {
        var refused = await Site.ReadAsync(
            await _site.PostAsync("/setup/paying", new() { ["pattern"] = "https://pay.example/€{{ Amount }}" })
        );
        refused.QuerySelector("main")!.TextContent.ShouldContain("Take the currency sign out");
        refused
            .QuerySelector("input[name=pattern]")!
            .GetAttribute("value")
            .ShouldBe("https://pay.example/€{{ Amount }}");
        await TakeCardsAsync("", $"https://pay.example/{new string('x', 60)}/{{{{ Amount }}}}");
        var (_, page) = await _site.GetAsync("/setup/paying");
        page.QuerySelector("#pattern-warning").ShouldNotBeNull();
        var tried = await _site.PostAsync("/setup/paying", [], "Try");
        (await _site.RawAsync(tried.Headers.Location!.ToString())).StatusCode.ShouldBe(HttpStatusCode.OK);
        var texts = await Site.ReadAsync(
            await _site.PostAsync(
                "/setup/texts",
                new()
                {
                    ["text"] = "Invoice",
                    ["language"] = "",
                    ["subject"] = "Invoice",
                    ["body"] = "Pay at https://pay.example/?a={{ Total }} please",
                }
            )
        );
        texts.QuerySelector("main")!.TextContent.ShouldContain("{{ Total }} stands in an address");
    }

    [Fact]
    public async Task A_deposit_of_a_quote_is_billed_as_it_is_accepted_and_paid_from_its_page()
    {
        await TakeCardsAsync();
        await CountAsync(db => db.Database.ExecuteSqlRawAsync("UPDATE Customers SET Email = 'yard@slip.example'"));
        var form = Site.Draft(_yard, "quote");
        form["deposit"] = "30%";
        var quote = (await _site.ApiAsync("/api/drafts", form)).Item2.GetProperty("id").GetInt32();
        await _site.PostAsync($"/papers/{quote}", new() { ["version"] = "1" }, "Issue");
        await _site.PostAsync($"/papers/{quote}", [], "Link");
        var token = await CountAsync(db =>
            db.DocumentLinks.Where(l => l.DocumentId == quote).Select(l => l.Token).SingleAsync()
        );
        _site.As("somebody outside");
        (await _site.GetAsync($"/p/{token}")).Page.QuerySelector("#deposit-asked").ShouldNotBeNull();
        await _site.PostAsync($"/p/{token}", new() { ["version"] = "2", ["name"] = "Ada" }, "Accept");
        var bill = (await _site.GetAsync($"/p/{token}")).Page.QuerySelector("#deposit")!.GetAttribute("href")!;
        var (status, page) = await _site.GetAsync(bill);
        status.ShouldBe(HttpStatusCode.OK);
        page.QuerySelector("main")!.TextContent.ShouldContain("Deposit of 30 %");
        var total = page.QuerySelector("input[name=total]")!.GetAttribute("value")!;
        (await _site.PostAsync(bill, new() { ["total"] = total }, "Pay")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task A_plan_is_a_paper_for_its_customer_and_for_nobody_else()
    {
        var (item, other) = (await ItemAsync(_invoice), await _site.CustomerAsync("Other Yard"));
        var open = await CountAsync(db => db.AccountItems.Select(i => i.Open).SingleAsync());
        string Euro(long cents) => (cents / 100m).ToString("F2", System.Globalization.CultureInfo.InvariantCulture);
        var agreed = await _site.PostAsync(
            $"/collect/{_yard}/plan",
            new()
            {
                ["items"] = $"{item}",
                ["parts[0].day"] = "+10",
                ["parts[0].amount"] = Euro(open - 1_00),
                ["parts[1].day"] = "+40",
                ["parts[1].amount"] = "1.00",
            }
        );
        agreed.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var (page, theirs) = (await PageOfAsync(_yard), await PageOfAsync(other));
        (await _site.RawAsync($"/collect/{_yard}/plans/1")).Content.Headers.ContentType!.MediaType.ShouldBe(
            "application/pdf"
        );
        (await _site.RawAsync($"/collect/{other}/plans/1")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        _site.As("somebody outside");
        (await _site.GetAsync(page)).Page.QuerySelector("#plan").ShouldNotBeNull();
        (await _site.RawAsync($"{page}/plan/1")).Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        (await _site.RawAsync($"{theirs}/plan/1")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
