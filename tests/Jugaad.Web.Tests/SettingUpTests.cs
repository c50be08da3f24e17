using System.Net;
using System.Text;
using System.Text.Json;

namespace Jugaad.Web.Tests;

/// <summary>A new business sets itself up from the screens alone, over HTTP.</summary>
public sealed class SettingUpTests : IAsyncLifetime
{
    private readonly Site _site = new();

    public Task InitializeAsync() => _site.InitializeAsync();

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    /// <summary>
    /// Kit, region, what 100 comes to, and a word that the paper must say or, after a minus, must not.
    /// </summary>
    [Theory]
    [InlineData("1-one-tax", "", "124.00", "VAT 24")]
    [InlineData("2-federal-and-regional", "QQ", "114.98", "Regional tax 9.975")]
    [InlineData("3-regional-on-federal", "QQ", "115.50", "Regional tax 10")]
    [InlineData("4-halves-or-whole", "QQ", "118.00", "Region tax 9")]
    [InlineData("5-by-destination", "HS", "106.25", "State tax 6.25")]
    [InlineData("6-no-tax", "", "100.00", "Not subject to tax.")]
    public async Task In_each_tax_world_the_first_invoice_has_the_right_tax_and_words(
        string kit,
        string region,
        string total,
        string says
    )
    {
        (
            await _site.PostAsync(
                "/first-run",
                new(Site.FirstRun)
                {
                    ["taxName"] = "",
                    ["taxPercent"] = "",
                    ["kit"] = kit,
                    ["region"] = region,
                    ["registeredFrom"] = "2020-01-01",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await _site.SignInAsync();
        await MoveInAsync(
            "Customers",
            "code,name,country,region,postal code\nA,First Customer,EE," + region + ",99999\n"
        );
        await MoveInAsync("Items", "code,name,price,goods\nX,Thing,50,yes\n");
        await MoveInAsync("OpenItems", "customer,number,date,open\nA,OLD-1,2025-01-31,77.70\n");
        var draft = Site.Draft(1);
        var item = (await GetJsonAsync("/api/items?q=thing&customer=1"))[0];
        draft["lines"] = new[]
        {
            new
            {
                itemId = 1,
                text = "Thing",
                quantity = "2",
                unitPrice = "50",
                unit = "C62",
                taxCodeId = item.GetProperty("taxCodeId").GetInt32(),
                accountId = item.GetProperty("accountId").GetInt32(),
            },
        };
        var (status, saved) = await _site.ApiAsync("/api/drafts", draft);
        status.ShouldBe(HttpStatusCode.OK);
        var id = saved.GetProperty("id").GetInt32();
        (await _site.PostAsync($"/papers/{id}", new() { ["version"] = "1" }, "Issue")).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        var paper = (await _site.GetAsync($"/papers/{id}")).Page;
        paper.QuerySelector("#open")!.TextContent.ShouldBe(total);
        var text = string.Join("\n", paper.QuerySelectorAll("svg.paper-page text").Select(t => t.TextContent));
        if (says[0] == '-')
            text.ShouldNotContain(says[1..]);
        else
            text.ShouldContain(says);
        (await _site.GetAsync("/customers/1")).Page.Body!.TextContent.ShouldContain("OLD-1");
        await using var db = _site.File.Open();
        (await new Desk.Checking.BooksCheck(db).RunAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Accounts_terms_series_and_texts_are_kept_by_their_pages_or_refused_there()
    {
        await _site.SetUpAsync();
        var wrong = await Site.ReadAsync(
            await _site.PostAsync(
                "/setup/accounts",
                new()
                {
                    ["code"] = "1001",
                    ["name"] = "Second bank",
                    ["for"] = "Bank",
                    ["iban"] = "EE38",
                    ["onPapers"] = "on",
                },
                "Account"
            )
        );
        wrong.QuerySelector("#iban-refusal")!.TextContent.ShouldContain("not an IBAN");
        wrong.QuerySelector("#name")!.GetAttribute("value").ShouldBe("Second bank");
        (
            await _site.PostAsync(
                "/setup/accounts",
                new()
                {
                    ["code"] = "1001",
                    ["name"] = "Second bank",
                    ["for"] = "Bank",
                    ["iban"] = "EE38 2200 2210 2014 5685",
                    ["bic"] = "HABAEE2X",
                    ["onPapers"] = "on",
                },
                "Account"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (
            await _site.PostAsync(
                "/setup/accounts?edit=1",
                new() { ["code"] = "1000", ["name"] = "First bank" },
                "Account"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync("/setup/accounts")).Page.Body!.TextContent.ShouldContain("First bank");
        (
            await Site.ReadAsync(
                await _site.PostAsync(
                    "/setup/accounts",
                    new()
                    {
                        ["termsName"] = "",
                        ["rule"] = "NextMonth",
                        ["dayOfMonth"] = "32",
                    },
                    "Terms"
                )
            )
        ).QuerySelectorAll("#termsName-refusal, #dayOfMonth-refusal").Length.ShouldBe(2);
        (
            await _site.PostAsync(
                "/setup/accounts",
                new()
                {
                    ["termsName"] = "10th of next month",
                    ["rule"] = "NextMonth",
                    ["dayOfMonth"] = "10",
                    ["earlyPercent"] = "2",
                    ["earlyDays"] = "5",
                },
                "Terms"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);

        (
            await Site.ReadAsync(
                await _site.PostAsync(
                    "/setup/numbers",
                    new()
                    {
                        ["usedFor"] = "Invoice",
                        ["name"] = "Shop",
                        ["pattern"] = "S-{0000}",
                        ["restarts"] = "CalendarYear",
                    },
                    "Add"
                )
            )
        ).QuerySelector("#pattern-refusal")!.TextContent.ShouldContain("starts afresh each year");
        (
            await _site.PostAsync(
                "/setup/numbers",
                new()
                {
                    ["usedFor"] = "Invoice",
                    ["name"] = "Shop",
                    ["pattern"] = "S-{0000}",
                    ["restarts"] = "Never",
                },
                "Add"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.PostAsync("/setup/numbers", new() { ["id"] = "9", ["next"] = "300" }, "GoOn")).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        (await _site.PostAsync("/setup/numbers", new() { ["id"] = "9" }, "Usual")).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        (
            await _site.PostAsync(
                "/setup/numbers",
                new() { ["note-Invoice"] = "Thank you.", ["footer-Invoice"] = "Foot." },
                "Texts"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await GetJsonAsync("/setup/numbers?handler=Preview&pattern=A-%7B000%7D&restarts=Never"))
            .GetProperty("words")
            .GetString()
            .ShouldBe("Gives A-001, A-002, A-003 … and goes on counting next year.");
        JsonDocument
            .Parse((await _site.GetAsync("/sell/edit?kind=invoice")).Page.QuerySelector("#draft")!.TextContent)
            .RootElement.GetProperty("form")
            .GetProperty("note")
            .GetString()
            .ShouldBe("Thank you.");
        var invoice = await _site.InvoiceAsync(await _site.CustomerAsync());
        var paper = (await _site.GetAsync($"/papers/{invoice}")).Page.Body!.TextContent;
        paper.ShouldContain("S-0300");
        paper.ShouldContain("EE38 2200 2210 2014 5685");
        paper.ShouldContain("Foot.");
    }

    [Fact]
    public async Task Taxes_are_kept_by_their_page_or_refused_there_beside_the_right_field()
    {
        await _site.SetUpAsync();
        (
            await Site.ReadAsync(
                await _site.PostAsync(
                    "/setup/taxes",
                    new()
                    {
                        ["code"] = "EX",
                        ["name"] = "",
                        ["category"] = "Exempt",
                        ["part0"] = "VAT",
                    },
                    "Code"
                )
            )
        ).QuerySelectorAll("#name-refusal").Length.ShouldBe(1);
        (
            await _site.PostAsync(
                "/setup/taxes",
                new()
                {
                    ["code"] = "EX",
                    ["name"] = "Exempt",
                    ["category"] = "Exempt",
                    ["reason"] = "By law.",
                },
                "Code"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (
            await _site.PostAsync(
                "/setup/taxes?code=3",
                new()
                {
                    ["name"] = "Exempt by law",
                    ["category"] = "Exempt",
                    ["reason"] = "By law.",
                },
                "Code"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var words = await _site.PostAsync("/setup/taxes?code=3", new() { ["text-sv"] = "Enligt lag." }, "Reasons");
        words.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var (_, code) = await _site.GetAsync("/setup/taxes?code=3");
        code.QuerySelector("#text-sv")!.TextContent.ShouldContain("Enligt lag.");
        code.QuerySelector("#reasons .hint")!.TextContent.ShouldContain("“By law.”");
        (
            await Site.ReadAsync(
                await _site.PostAsync("/setup/taxes?code=3", new() { ["text-sv"] = new string('x', 501) }, "Reasons")
            )
        )
            .QuerySelector("#text-sv-refusal")!
            .TextContent.ShouldContain("at most 500");
        (
            await Site.ReadAsync(
                await _site.PostAsync(
                    "/setup/taxes",
                    new()
                    {
                        ["authorityName"] = "Tax office",
                        ["everyMonths"] = "3",
                        ["firstMonth"] = "1",
                    },
                    "Authority"
                )
            )
        ).QuerySelector("#authorityName-refusal")!.TextContent.ShouldContain("already");
        (
            await _site.PostAsync(
                "/setup/taxes?authority=1",
                new()
                {
                    ["authorityName"] = "Tax board",
                    ["ourNumber"] = "T1",
                    ["everyMonths"] = "3",
                    ["firstMonth"] = "2",
                    ["basis"] = "ByPayment",
                    ["registeredFrom"] = "2030-01-01",
                },
                "Authority"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var page = (await _site.GetAsync("/setup/taxes")).Page;
        page.QuerySelector(".title .quiet")!.TextContent.ShouldContain("not registered for tax today");
        page.Body!.TextContent.ShouldContain("every quarter");
        (await Site.ReadAsync(await _site.PostAsync("/setup/taxes", new() { ["newTax"] = "VAT" }, "Tax")))
            .QuerySelector("#newTax-refusal")
            .ShouldNotBeNull();
        (
            await _site.PostAsync("/setup/taxes", new() { ["newTax"] = "City tax", ["authorityId"] = "1" }, "Tax")
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (
            await Site.ReadAsync(
                await _site.PostAsync(
                    "/setup/taxes",
                    new()
                    {
                        ["component"] = "City tax",
                        ["from"] = "2025-01-01",
                        ["percent"] = "",
                    },
                    "Rate"
                )
            )
        ).QuerySelector("#percent-refusal").ShouldNotBeNull();
        foreach (var handler in new[] { "Usual", "Retire" })
            (
                await _site.PostAsync(
                    "/setup/taxes",
                    new() { ["id"] = handler == "Usual" ? "3" : "2", ["retired"] = "yes" },
                    handler
                )
            ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync("/setup/change?tax=99&from=2025-01-01")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_kit_is_taken_from_a_file_and_saved_to_one()
    {
        await _site.SetUpAsync();
        var wrong = await _site.UploadAsync("/setup/kits?handler=File", [], "file", "{ \"name\": 1 }"u8.ToArray());
        (await Site.ReadAsync(wrong)).QuerySelector("#file-refusal")!.TextContent.ShouldContain("not a kit");
        (
            await _site.PostAsync(
                "/setup/kits",
                new() { ["key"] = "4-halves-or-whole", ["registeredFrom"] = "2020-01-01" },
                "Adopt"
            )
        )
            .Headers.Location!.ToString()
            .ShouldBe("/setup/taxes");
        var exported = await (await _site.RawAsync("/setup/kits?handler=Export")).Content.ReadAsByteArrayAsync();
        Encoding.UTF8.GetString(exported).ShouldContain("Integrated tax");
        (
            await _site.UploadAsync(
                "/setup/kits?handler=File",
                new() { ["registeredFrom"] = "2020-01-01" },
                "file",
                exported
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.PostAsync("/setup/kits", new() { ["key"] = "nothing like it" }, "Adopt")).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    [Fact]
    public async Task Customers_merge_and_the_register_fills_in_by_their_pages()
    {
        await _site.SetUpAsync();
        var (keep, away) = (
            await _site.CustomerAsync("Korall Boatyard"),
            await _site.CustomerAsync("Korall boat-yard OÜ")
        );
        await _site.InvoiceAsync(away);
        (await _site.GetAsync($"/customers/{keep}/merge"))
            .Page.QuerySelector(".ledger")!
            .TextContent.ShouldContain("has the same mail address");
        (await GetJsonAsync("/api/customers/alike?name=korall+boatyard")).GetArrayLength().ShouldBe(2);
        (await _site.PostAsync($"/customers/{keep}/merge", new() { ["away"] = $"{keep}" })).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await _site.PostAsync($"/customers/{keep}/merge", new() { ["away"] = $"{away}" })).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        (await _site.RawAsync($"/customers/{away}")).Headers.Location!.ToString().ShouldBe($"/customers/{keep}");
        (await _site.GetAsync($"/customers/{keep}"))
            .Page.QuerySelector("#balance")!
            .TextContent.ShouldContain("124.00");

        // Only the demo plays a register; in books of one's own it is said that there is none.
        (await _site.GetAsync("/customers/register")).Page.Body!.TextContent.ShouldContain(
            "No business register is connected"
        );
        await _site.BeTheDemoAsync();
        var page = (await _site.GetAsync("/customers/register")).Page;
        var number = page.QuerySelector("input[name='found[0].number']")!.GetAttribute("value")!;
        var version = page.QuerySelector("input[name='found[0].version']")!.GetAttribute("value")!;
        var found = new Dictionary<string, string>
        {
            ["found[0].customer"] = $"{keep}",
            ["found[0].version"] = version,
            ["found[0].number"] = number,
        };
        (await Site.ReadAsync(await _site.PostAsync("/customers/register", found)))
            .QuerySelector("#refused")!
            .TextContent.ShouldContain("Nothing is ticked");
        (
            await _site.PostAsync(
                "/customers/register",
                new(found) { ["found[0].taxNumber"] = "on", ["found[0].riskGrade"] = "on" }
            )
        )
            .Headers.Location!.ToString()
            .ShouldBe("/customers/register");
        var account = (await _site.GetAsync($"/customers/{keep}")).Page.Body!.TextContent;
        account.ShouldContain("tax number EE102277456");
        account.ShouldContain("risk grade A");
        (await _site.GetAsync("/customers/register?customer=999")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_customer_with_all_its_parts_is_refused_with_everything_still_there_and_kept_once_it_is_right()
    {
        await _site.SetUpAsync();
        var typed = new Dictionary<string, string>
        {
            ["name"] = "Parts",
            ["currency"] = "EUR",
            ["country"] = "EE",
            ["contacts[0].name"] = "Ann",
            ["contacts[0].email"] = "no mail",
            ["contacts[0].invoices"] = "on",
            ["places[3].label"] = "Slip",
            ["places[3].city"] = "Town",
            ["certificates[0].number"] = "C1",
            ["certificates[0].until"] = "2030-01-01",
            ["tradeDiscount"] = "7.5",
            ["noMoreOnAccount"] = "on",
            ["tags"] = "a, b",
        };
        var refused = await Site.ReadAsync(await _site.PostAsync("/customers/new", typed));
        refused.GetElementById("contacts[0].email-refusal")!.TextContent.ShouldContain("not a mail address");
        refused.GetElementById("noMoreReason-refusal").ShouldNotBeNull();
        refused.GetElementById("places[3].label")!.GetAttribute("value").ShouldBe("Slip");
        refused.GetElementById("contacts[0].invoices")!.HasAttribute("checked").ShouldBeTrue();
        typed["contacts[0].email"] = "ann@parts.example";
        typed["noMoreReason"] = "owes since May";
        var id = (await _site.PostAsync("/customers/new", typed)).Headers.Location!.ToString().Split('/')[^1];
        var account = (await _site.GetAsync($"/customers/{id}")).Page.Body!.TextContent;
        foreach (
            var words in new[]
            {
                "Ann, gets invoices",
                "Slip",
                "exempt with certificate C1 until",
                "trade discount 7.5",
                "owes since May",
                "tags: a, b",
            }
        )
            account.ShouldContain(words);
        (await GetJsonAsync("/api/customers?q=parts"))[0].GetProperty("discount").GetString().ShouldBe("7.5%");
    }

    [Fact]
    public async Task Goods_are_counted_priced_by_list_and_changed_many_at_once()
    {
        await _site.SetUpAsync();
        (await _site.PostAsync("/items/lists", new() { ["name"] = "Trade", ["currency"] = "EUR" })).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        (
            await Site.ReadAsync(
                await _site.PostAsync("/items/lists", new() { ["name"] = "Trade", ["currency"] = "EUR" })
            )
        )
            .QuerySelector("#name-refusal")
            .ShouldNotBeNull();
        (
            await _site.PostAsync(
                "/items/new",
                new()
                {
                    ["code"] = "R",
                    ["name"] = "Rope",
                    ["unit"] = "MTR",
                    ["price"] = "10",
                    ["price-1"] = "8",
                    ["taxCodeId"] = "1",
                    ["ledgerAccountId"] = "6",
                    ["goods"] = "on",
                    ["keepsCount"] = "on",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await Site.ReadAsync(await _site.PostAsync("/items/1", new() { ["counted"] = "", ["reason"] = "x" }, "Count")))
            .QuerySelector("#counted-refusal")
            .ShouldNotBeNull();
        (
            await _site.PostAsync("/items/1", new() { ["counted"] = "40", ["reason"] = "stocktaking" }, "Count")
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await _site.GetAsync("/items/1")).Page.QuerySelector("#on-hand")!.TextContent.ShouldBe("40");
        var customer = await _site.CustomerAsync();
        await _site.PostAsync(
            $"/customers/{customer}/edit",
            new()
            {
                ["name"] = "Yard",
                ["code"] = "YARD",
                ["currency"] = "EUR",
                ["country"] = "EE",
                ["priceListId"] = "1",
                ["version"] = "1",
            }
        );
        (await GetJsonAsync($"/api/items?q=rope&customer={customer}"))[0]
            .GetProperty("price")
            .GetString()
            .ShouldBe("8.00");
        (await GetJsonAsync($"/api/items?q=rope&customer={customer}&withTax=true"))[0]
            .GetProperty("price")
            .GetString()
            .ShouldBe("9.92");

        (await _site.RawAsync("/items/change")).Headers.Location!.ToString().ShouldBe("/items");
        var preview = await Site.ReadAsync(
            await _site.PostAsync(
                "/items/change",
                new()
                {
                    ["ids"] = "1",
                    ["percent"] = "10",
                    ["step"] = "0.05",
                    ["priceListId"] = "1",
                },
                "Preview"
            )
        );
        preview.QuerySelector("#preview")!.TextContent.ShouldContain("8.8");
        (
            await _site.PostAsync(
                "/items/change",
                new()
                {
                    ["ids"] = "1",
                    ["percent"] = "10",
                    ["step"] = "0.05",
                    ["priceListId"] = "1",
                },
                "Apply"
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await GetJsonAsync($"/api/items?q=rope&customer={customer}"))[0]
            .GetProperty("price")
            .GetString()
            .ShouldBe("8.80");
        (await _site.PostAsync("/items/change", new() { ["batch"] = "1" }, "Undo")).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        (await GetJsonAsync($"/api/items?q=rope&customer={customer}"))[0]
            .GetProperty("price")
            .GetString()
            .ShouldBe("8.00");
    }

    [Fact]
    public async Task Tables_and_the_whole_books_go_out_and_refused_rows_come_back()
    {
        await _site.SetUpAsync();
        await _site.CustomerAsync("=Formula & Söhne");
        foreach (var kind in new[] { "customers", "items", "prices", "open-items", "balances" })
        {
            (
                await _site.RawAsync($"/moving/export/{kind}?form=Csv")
            ).Content.Headers.ContentDisposition!.FileName.ShouldBe($"{kind}.csv");
            (await (await _site.RawAsync($"/moving/export/{kind}?form=Xlsx")).Content.ReadAsByteArrayAsync())[..2]
                .ShouldBe("PK"u8.ToArray());
        }

        (await (await _site.RawAsync("/moving/export/customers")).Content.ReadAsStringAsync()).ShouldContain(
            ",'=Formula & Söhne,"
        );
        (await _site.RawAsync("/moving/export/secrets")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        using var zip = new System.IO.Compression.ZipArchive(
            await (await _site.RawAsync("/moving/books")).Content.ReadAsStreamAsync()
        );
        zip.Entries.Select(e => e.FullName).ShouldContain("books/README.md");

        (await Site.ReadAsync(await _site.PostAsync("/moving", new() { ["kind"] = "Boats" })))
            .QuerySelector("#kind-refusal")
            .ShouldNotBeNull();
        (await Site.ReadAsync(await _site.PostAsync("/moving", new() { ["kind"] = "Customers" })))
            .QuerySelector("#file-refusal")!
            .TextContent.ShouldContain("Choose the file");
        var at = (
            await _site.UploadAsync(
                "/moving",
                new() { ["kind"] = "Customers" },
                "file",
                "first,second\nA,x\n"u8.ToArray()
            )
        ).Headers.Location!.ToString();
        (
            await _site.PostAsync(
                at,
                new()
                {
                    ["column-name"] = "0",
                    ["column-mail"] = "1",
                    ["decimalMark"] = ".",
                }
            )
        ).Headers.Location!.ToString().ShouldBe($"{at}?tried=yes");
        (await _site.GetAsync($"{at}?tried=yes"))
            .Page.QuerySelector("#counts")!
            .TextContent.ShouldBe("0 new, 0 changed, 0 there already, 1 refused");
        (await (await _site.RawAsync($"{at}/refused?form=Csv")).Content.ReadAsStringAsync()).ShouldContain(
            "A,x,mail: “x” is not a mail address"
        );
        (
            await Site.ReadAsync(await _site.PostAsync(at, new() { ["column-name"] = "0", ["column-mail"] = "0" }))
        ).Body!.TextContent.ShouldContain("Give it to one of them");

        // 1.234 alone may be a thousand or not, and 3/4 a day in March or in April: it is asked.
        at = (
            await _site.UploadAsync(
                "/moving",
                new() { ["kind"] = "OpenItems" },
                "file",
                "customer;number;date;open\nA;1;3/4/2025;1.234\n"u8.ToArray()
            )
        ).Headers.Location!.ToString();
        (await _site.GetAsync(at))
            .Page.QuerySelector("#in-doubt")!
            .TextContent.ShouldContain("whether decimals stand after a point or a comma, nor whether dates begin");
        var columns = new Dictionary<string, string>
        {
            ["column-customer"] = "0",
            ["column-number"] = "1",
            ["column-date"] = "2",
            ["column-open"] = "3",
        };
        (
            await Site.ReadAsync(await _site.PostAsync(at, new(columns) { ["dates"] = "DayFirst" }))
        ).Body!.TextContent.ShouldContain("Say whether decimals stand");
        (
            await Site.ReadAsync(await _site.PostAsync(at, new(columns) { ["decimalMark"] = "," }))
        ).Body!.TextContent.ShouldContain("Say whether dates begin");
        (await _site.PostAsync(at, new(columns) { ["decimalMark"] = ",", ["dates"] = "DayFirst" }))
            .Headers.Location!.ToString()
            .ShouldBe($"{at}?tried=yes");
        (await _site.GetAsync(at)).Page.QuerySelector("#in-doubt").ShouldBeNull();
    }

    [Fact]
    public async Task An_import_is_taken_back_on_its_page()
    {
        await _site.SetUpAsync();
        var at = await MoveInAsync("Customers", "code,name,country,region\nN,Northern,CA,Ontario\n");
        (await GetJsonAsync("/api/customers?q=northern")).GetArrayLength().ShouldBe(1);
        (await _site.GetAsync($"{at}?back=yes"))
            .Page.QuerySelector("#taken-back")!
            .TextContent.ShouldContain("1 thing that it made would go out");
        (await _site.PostAsync(at, [], "Back")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await GetJsonAsync("/api/customers?q=northern")).GetArrayLength().ShouldBe(0);
        var page = (await _site.GetAsync(at)).Page;
        page.QuerySelector("#taken-back")!
            .TextContent.ShouldContain("1 thing that it made went out of the books again");
        page.QuerySelector("form[action*='Back']").ShouldBeNull();
        (await _site.GetAsync("/moving")).Page.Body!.TextContent.ShouldContain("1 taken back");
        await _site.PostAsync(at, [], "Back");
        (await _site.GetAsync(at)).Page.QuerySelector("[role=alert]")!.TextContent.ShouldContain("taken back already");
    }

    [Fact]
    public async Task A_customer_added_in_the_editor_has_a_region_of_the_list()
    {
        await _site.SetUpAsync();
        var (status, said) = await _site.ApiAsync(
            "/api/customers",
            new
            {
                name = "Maple",
                country = "CA",
                region = "Bavaria",
            }
        );
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        said.GetProperty("refusals")[0].GetProperty("field").GetString().ShouldBe("region");
        (status, said) = await _site.ApiAsync(
            "/api/customers",
            new
            {
                name = "Maple",
                country = "CA",
                region = "ontario",
            }
        );
        status.ShouldBe(HttpStatusCode.OK);
        (await _site.GetAsync($"/customers/{said.GetProperty("id").GetInt32()}/edit"))
            .Page.QuerySelector("#region")!
            .GetAttribute("value")
            .ShouldBe("ON");
        (await _site.GetAsync("/sell/edit?kind=invoice"))
            .Page.QuerySelector("datalist#regions-CA option[value=ON]")!
            .TextContent.ShouldBe("Ontario");
    }

    /// <returns>The address of the import's page.</returns>
    private async Task<string> MoveInAsync(string kind, string text)
    {
        var at = (
            await _site.UploadAsync("/moving", new() { ["kind"] = kind }, "file", Encoding.UTF8.GetBytes(text))
        ).Headers.Location!.ToString();
        (await _site.PostAsync(at, new() { ["mode"] = "all" }, "ReadIn")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        for (var i = 0; i < 50; i++)
        {
            if ((await _site.GetAsync(at)).Page.QuerySelector("#counts") is { } counts)
            {
                counts.TextContent.ShouldBe("1 new, 0 changed, 0 there already, 0 refused");
                return at;
            }

            await Task.Delay(100);
        }

        throw new TimeoutException(
            $"{kind} did not move in: {(await _site.GetAsync(at)).Page.QuerySelector("main")!.TextContent}"
        );
    }

    private async Task<JsonElement> GetJsonAsync(string path) =>
        JsonDocument.Parse(await (await _site.RawAsync(path)).Content.ReadAsStringAsync()).RootElement;
}
