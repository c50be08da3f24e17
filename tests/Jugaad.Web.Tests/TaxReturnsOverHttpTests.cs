using System.Globalization;
using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>Tax returns over HTTP: looked over, filed, opened again, and as files.</summary>
public sealed class TaxReturnsOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private DateOnly _first;
    private int _authority;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        var customer = await _site.CustomerAsync();
        var today = DateOnly.FromDateTime(DateTime.Now);
        _first = new DateOnly(today.Year, today.Month, 1).AddMonths(-1);
        var form = Site.Draft(customer);
        form["date"] = _first.AddDays(4).ToString("yyyy-MM-dd");
        var id = (await _site.ApiAsync("/api/drafts", form)).Item2.GetProperty("id").GetInt32();
        await _site.PostAsync($"/papers/{id}", new() { ["version"] = "1" }, "Issue");
        await using var db = _site.File.Open();
        _authority = await db.TaxAuthorities.Select(a => a.Id).SingleAsync();
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private string Address(DateOnly first) =>
        $"/reports/returns/{_authority}/{first:yyyy-MM-dd}/{first.AddMonths(1).AddDays(-1):yyyy-MM-dd}";

    [Fact]
    public async Task The_next_return_is_looked_over_filed_and_opened_again()
    {
        (await _site.GetAsync("/")).Page.QuerySelector(".return-due").ShouldNotBeNull();
        var (_, list) = await _site.GetAsync("/reports/returns");
        list.QuerySelector("a.main")!.GetAttribute("href").ShouldBe(Address(_first));
        var (_, page) = await _site.GetAsync(Address(_first));
        var seen = page.QuerySelector("input[name=seen]")!.GetAttribute("value")!;
        page.QuerySelector("#tax")!.TextContent.ShouldBe(seen);
        page.QuerySelector("#rows tbody a")!.GetAttribute("href")!.ShouldStartWith("/papers/");
        var line = page.QuerySelector("#summary tbody a")!.GetAttribute("href")!;
        (await _site.GetAsync(line)).Page.QuerySelectorAll("#rows tbody tr").Length.ShouldBe(1);

        var refused = await Site.ReadAsync(await _site.PostAsync(Address(_first), new() { ["seen"] = "0.01" }, "File"));
        refused.QuerySelector(".refused")!.TextContent.ShouldContain("Something was posted since");
        var file = new Dictionary<string, string> { ["seen"] = seen, ["reference"] = "R-77" };
        (await _site.PostAsync(Address(_first), file, "File")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var (_, filed) = await _site.GetAsync(Address(_first));
        filed.QuerySelector("#filed")!.TextContent.ShouldContain("R-77");
        filed.QuerySelector("#file").ShouldBeNull();
        (await _site.GetAsync("/")).Page.QuerySelector(".return-due").ShouldBeNull();
        (await _site.GetAsync(Address(_first.AddMonths(1)))).Page.QuerySelector("#only-looked").ShouldNotBeNull();

        var bank = filed.QuerySelector("[name=moneyAccountId] option")!.GetAttribute("value")!;
        var pay = new Dictionary<string, string>
        {
            ["return"] = filed.QuerySelector("input[name=return]")!.GetAttribute("value")!,
            ["amount"] = "0.05",
            ["date"] = DateTime.Now.ToString("yyyy-MM-dd"),
            ["moneyAccountId"] = bank,
        };
        (await _site.PostAsync(Address(_first), pay, "Pay")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var (_, paid) = await _site.GetAsync(Address(_first));
        paid.QuerySelector("#paid")!.TextContent.ShouldContain("0.05");
        pay["amount"] = seen;
        (await Site.ReadAsync(await _site.PostAsync(Address(_first), pay, "Pay")))
            .QuerySelector("main")!
            .TextContent.ShouldContain("is left of this return");
        await using (var db = _site.File.Open())
            pay["booking"] = $"{await db.OtherMoney.Select(m => m.BookingId).SingleAsync()}";
        await _site.PostAsync("/receive/undo", new() { ["booking"] = pay["booking"], ["back"] = Address(_first) });
        (await _site.GetAsync(Address(_first))).Page.QuerySelector("#paid").ShouldBeNull();

        var id = filed.QuerySelector("input[name=return]")!.GetAttribute("value")!;
        await _site.PostAsync(Address(_first), new() { ["return"] = id, ["reason"] = "too early" }, "OpenAgain");
        (await _site.GetAsync(Address(_first))).Page.QuerySelector("#file").ShouldNotBeNull();
    }

    [Fact]
    public async Task Charges_and_what_was_paid_too_much_stand_with_the_return()
    {
        (await _site.GetAsync("/sell")).Page.QuerySelector(".tally")!.TextContent.ShouldContain("tax return");
        var seen = (await _site.GetAsync(Address(_first)))
            .Page.QuerySelector("input[name=seen]")!
            .GetAttribute("value")!;
        await _site.PostAsync(Address(_first), new() { ["seen"] = seen }, "File");
        (await _site.GetAsync("/sell")).Page.QuerySelector(".tally")!.TextContent.ShouldNotContain("tax return");
        var (_, filed) = await _site.GetAsync(Address(_first));
        var charge = new Dictionary<string, string>
        {
            ["return"] = filed.QuerySelector("input[name=return]")!.GetAttribute("value")!,
            ["chargeKind"] = "Interest",
            ["charge"] = "",
            ["chargeDate"] = DateTime.Now.ToString("yyyy-MM-dd"),
            ["chargeAccount"] = "0",
            ["chargeText"] = "letter 12",
        };
        var refused = await Site.ReadAsync(await _site.PostAsync(Address(_first), charge, "Charge"));
        refused.QuerySelector("main")!.TextContent.ShouldContain("above zero");
        charge["charge"] = "7.00";
        refused = await Site.ReadAsync(await _site.PostAsync(Address(_first), charge, "Charge"));
        refused.QuerySelector("main")!.TextContent.ShouldContain("Choose one of the other ledger accounts");
        refused.QuerySelector("[name=charge]")!.GetAttribute("value").ShouldBe("7.00", "nothing is lost");
        await using (var db = _site.File.Open())
        {
            var account = new Core.Journal.LedgerAccount("5300", "Charges", Core.Journal.AccountRole.Other);
            db.LedgerAccounts.Add(account);
            await db.SaveChangesAsync();
            charge["chargeAccount"] = $"{account.Id}";
        }

        await _site.PostAsync(Address(_first), charge, "Charge");
        var (_, charged) = await _site.GetAsync(Address(_first));
        charged.QuerySelector("#paid")!.TextContent.ShouldContain("interest, letter 12");
        var left = decimal.Parse(charged.QuerySelector("#left")!.TextContent, CultureInfo.InvariantCulture);
        left.ShouldBe(decimal.Parse(seen, CultureInfo.InvariantCulture) + 7);
        var pay = new Dictionary<string, string>
        {
            ["return"] = charge["return"],
            ["amount"] = (left + 3).ToString(CultureInfo.InvariantCulture),
            ["date"] = charge["chargeDate"],
            ["moneyAccountId"] = charged.QuerySelector("[name=moneyAccountId] option")!.GetAttribute("value")!,
            ["over"] = "true",
        };
        await _site.PostAsync(Address(_first), pay, "Pay");
        var (_, over) = await _site.GetAsync(Address(_first));
        over.QuerySelector("#paid .sum")!.TextContent.ShouldBe("Paid too much");
        over.QuerySelector("#left")!.TextContent.ShouldBe("3.00");
        refused = await Site.ReadAsync(
            await _site.PostAsync(Address(_first), new() { ["return"] = charge["return"] }, "Carry")
        );
        refused.QuerySelector(".refused")!.TextContent.ShouldContain("Nothing else is to be paid");
        var taken = over.QuerySelector("input[name=charged]")!.GetAttribute("value")!;
        await _site.PostAsync(Address(_first), new() { ["charged"] = taken }, "Uncharge");
        (await _site.GetAsync(Address(_first))).Page.QuerySelector("#left")!.TextContent.ShouldBe("10.00");
    }

    [Fact]
    public async Task A_filed_return_is_handed_in_amended_and_printed()
    {
        var seen = (await _site.GetAsync(Address(_first)))
            .Page.QuerySelector("input[name=seen]")!
            .GetAttribute("value")!;
        await _site.PostAsync(Address(_first), new() { ["seen"] = seen }, "File");
        var (_, filed) = await _site.GetAsync(Address(_first));
        var id = filed.QuerySelector("input[name=return]")!.GetAttribute("value")!;
        filed.QuerySelector("#amend").ShouldBeNull();
        var refused = await Site.ReadAsync(await _site.PostAsync(Address(_first), new() { ["return"] = id }, "HandIn"));
        refused.QuerySelector(".refused")!.TextContent.ShouldContain("who files it");
        refused = await Site.ReadAsync(
            await _site.PostAsync(Address(_first), new() { ["return"] = id, ["answer"] = "" }, "Taken")
        );
        refused.QuerySelector("main")!.TextContent.ShouldContain("Give what they answered");
        await using (var db = _site.File.Open())
            await db.Database.ExecuteSqlRawAsync("UPDATE TaxAuthorities SET OurNumber = 'LOFT 1'");
        await _site.PostAsync(Address(_first), new() { ["return"] = id }, "HandIn");
        (await _site.GetAsync(Address(_first))).Page.QuerySelector("#taken").ShouldNotBeNull();

        var form = Site.Draft(await _site.CustomerAsync("Second Loft"));
        form["date"] = _first.AddDays(6).ToString("yyyy-MM-dd");
        var paper = (await _site.ApiAsync("/api/drafts", form)).Item2.GetProperty("id").GetInt32();
        await _site.PostAsync($"/papers/{paper}", new() { ["version"] = "1" }, "Issue");
        var late = (await _site.GetAsync(Address(_first)))
            .Page.QuerySelector("#amend input[name=late]")!
            .GetAttribute("value")!;
        var amend = new Dictionary<string, string> { ["late"] = late, ["why"] = "one was found" };
        (await _site.PostAsync(Address(_first), amend, "Amend")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var (_, told) = await _site.GetAsync(Address(_first));
        told.QuerySelectorAll("#told li").Length.ShouldBe(2);
        told.QuerySelector("#amend").ShouldBeNull();
        var (_, amended) = await _site.GetAsync($"{Address(_first)}?amendment=1");
        amended.QuerySelector("h1")!.TextContent.ShouldContain("Amendment 1");
        amended.QuerySelectorAll("#rows tbody tr").Length.ShouldBe(1);
        (await _site.RawAsync($"{Address(_first)}?amendment=2")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        foreach (var which in new[] { 0, 1 })
            (
                await (
                    await _site.RawAsync($"{Address(_first)}/file?form=Pdf&amendment={which}")
                ).Content.ReadAsByteArrayAsync()
            )[..5]
                .ShouldBe("%PDF-"u8.ToArray());
    }

    [Fact]
    public async Task A_box_is_set_alone_and_what_is_typed_into_one_is_asked_for_when_it_is_filed()
    {
        var setup = $"/setup/boxes/{_authority}";
        async Task SetAsync(string number, string sum, string formula = "", bool owed = false)
        {
            var box = new Dictionary<string, string>
            {
                ["number"] = number,
                ["name"] = $"Box {number}",
                ["sum"] = sum,
                ["rounding"] = "Cent",
                ["formula"] = formula,
            };
            if (owed)
                box["isOwed"] = "on";
            (await _site.PostAsync($"{setup}", box, "Box")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        }

        await SetAsync("1", "Tax");
        await SetAsync("2", "Typed");
        await SetAsync("3", "Formula", "1 - 2", true);
        var bad = new Dictionary<string, string>
        {
            ["number"] = "4",
            ["name"] = "",
            ["sum"] = "Tax",
            ["rounding"] = "Cent",
            ["percents"] = "lots",
        };
        (await Site.ReadAsync(await _site.PostAsync(setup, bad, "Box")))
            .QuerySelector("main")!
            .TextContent.ShouldContain("is no rate");
        bad["percents"] = "24";
        (await Site.ReadAsync(await _site.PostAsync(setup, bad, "Box")))
            .QuerySelector("main")!
            .TextContent.ShouldContain("Give the box its name");
        var (_, page) = await _site.GetAsync(Address(_first));
        var account = page.QuerySelectorAll("[name='account-2'] option")[^1].GetAttribute("value")!;
        var file = new Dictionary<string, string>
        {
            ["seen"] = page.QuerySelector("input[name=seen]")!.GetAttribute("value")!,
            ["box-2"] = "1.00",
            ["reason-2"] = "",
            ["account-2"] = account,
        };
        (await Site.ReadAsync(await _site.PostAsync(Address(_first), file, "File")))
            .QuerySelector("main")!
            .TextContent.ShouldContain("Say what this amount is");
        file["reason-2"] = "thread";
        (await _site.PostAsync(Address(_first), file, "File")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await using var db = _site.File.Open();
        var filed = await db.TaxReturns.SingleAsync();
        (filed.Tax - filed.Owed).ShouldBe(100);
        await _site.PostAsync($"{setup}", [], "Remove&box=3");
        (await db.TaxAuthorities.AsNoTracking().SingleAsync()).Boxes.Count.ShouldBe(2);
    }

    [Fact]
    public async Task Boxes_are_set_with_what_they_say_and_refused_with_nothing_lost()
    {
        var setup = $"/setup/boxes/{_authority}";
        (await _site.GetAsync(setup)).Page.QuerySelector(".empty").ShouldNotBeNull();
        const string Wrong = """[{"number":"1","name":"Tax","sum":"taxes"}]""";
        var refused = await Site.ReadAsync(await _site.PostAsync(setup, new() { ["boxes"] = Wrong }));
        refused.QuerySelector("main")!.TextContent.ShouldContain("[0].sum");
        refused.QuerySelector("textarea[name=boxes]")!.TextContent.Trim().ShouldBe(Wrong);
        const string Right =
            """[{"number":"1","name":"Tax","sum":"tax"},{"number":"2","name":"Less","formula":"- 1"}]""";
        (await _site.PostAsync(setup, new() { ["boxes"] = Right })).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var preview = (await _site.GetAsync(setup)).Page.QuerySelectorAll("#boxes tbody .fig");
        var (_, page) = await _site.GetAsync(Address(_first));
        page.QuerySelectorAll("#boxes tbody .fig")[0].TextContent.ShouldBe(preview[0].TextContent);
        preview[0].TextContent.ShouldBe(page.QuerySelector("#tax")!.TextContent);
        (await _site.GetAsync($"{Address(_first)}?box=1")).Page.QuerySelectorAll("#rows tbody tr").Length.ShouldBe(1);
        using var json = JsonDocument.Parse(
            await (await _site.RawAsync($"{Address(_first)}/file?form=Json")).Content.ReadAsStringAsync()
        );
        json.RootElement.GetProperty("boxes")[0].GetProperty("number").GetString().ShouldBe("1");
        (await (await _site.RawAsync($"{setup}?handler=File")).Content.ReadAsStringAsync()).ShouldContain(
            "\"formula\""
        );
        (await _site.RawAsync("/setup/boxes/99")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_write_off_says_what_becomes_of_its_tax()
    {
        await using var db = _site.File.Open();
        var paper = await db.AccountItems.Select(i => i.DocumentId).SingleAsync();
        (await _site.GetAsync($"/papers/{paper}")).Page.QuerySelector("#taxBack:checked").ShouldBeNull("by invoice");
        var form = new Dictionary<string, string>
        {
            ["writeOff.amount"] = "10.00",
            ["writeOff.reason"] = "",
            ["asksTax"] = "yes",
        };
        (await Site.ReadAsync(await _site.PostAsync($"/papers/{paper}", form, "WriteOff")))
            .QuerySelector("[id='writeOff.reason-refusal']")!
            .TextContent.ShouldContain("Say why");
        form["writeOff.reason"] = "gone";
        await _site.PostAsync($"/papers/{paper}", form, "WriteOff");
        (await db.TaxFigures.CountAsync()).ShouldBe(1, "its tax stays owed");
        form["taxBack"] = "on";
        await _site.PostAsync($"/papers/{paper}", form, "WriteOff");
        (await db.TaxFigures.CountAsync(f => f.SettlementId != null)).ShouldBe(1);
        var later = new Dictionary<string, string>
        {
            ["settlement"] = (await _site.GetAsync($"/papers/{paper}"))
                .Page.QuerySelector("form[action$=TaxOff] [name=settlement]")!
                .GetAttribute("value")!,
        };
        (await Site.ReadAsync(await _site.PostAsync($"/papers/{paper}", later, "TaxOff")))
            .QuerySelector("[id='taxOff.reason-refusal']")!
            .TextContent.ShouldContain("conditions");
        later["taxOff.reason"] = "wound up";
        (await _site.PostAsync($"/papers/{paper}", later, "TaxOff")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await db.TaxFigures.CountAsync(f => f.SettlementId != null)).ShouldBe(2);
        (await _site.GetAsync($"/papers/{paper}")).Page.QuerySelector("form[action$=TaxOff]").ShouldBeNull();
    }

    [Fact]
    public async Task An_authority_says_when_its_returns_are_due_and_how_they_count_from_now_on()
    {
        var (_, setup) = await _site.GetAsync($"/setup/taxes?authority={_authority}");
        string Of(string field) => setup.QuerySelector($"[name={field}]")!.GetAttribute("value") ?? "";
        var form = new Dictionary<string, string>
        {
            ["authorityName"] = Of("authorityName"),
            ["everyMonths"] = "1",
            ["firstMonth"] = "1",
            ["basis"] = "ByPayment",
            ["basisSince"] = _first.AddMonths(1).AddDays(2).ToString("yyyy-MM-dd"),
            ["dueAfterDays"] = "25",
            ["registeredFrom"] = Of("registeredFrom"),
        };
        var refused = await Site.ReadAsync(
            await _site.PostAsync($"/setup/taxes?authority={_authority}", form, "Authority")
        );
        refused.QuerySelector("main")!.TextContent.ShouldContain("It changes with a period");
        form["basisSince"] = _first.AddMonths(1).ToString("yyyy-MM-dd");
        (await _site.PostAsync($"/setup/taxes?authority={_authority}", form, "Authority")).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        (await _site.GetAsync(Address(_first.AddMonths(1))))
            .Page.QuerySelector(".title")!
            .TextContent.ShouldContain("by payment");
        (await _site.GetAsync(Address(_first))).Page.QuerySelector(".title")!.TextContent.ShouldContain("by invoice");
    }

    [Fact]
    public async Task A_return_is_taken_along_as_a_file_and_days_that_cannot_be_are_not_there()
    {
        var json = await _site.RawAsync($"{Address(_first)}/file?form=Json");
        json.Content.Headers.ContentType!.MediaType.ShouldBe("application/json");
        using var read = JsonDocument.Parse(await json.Content.ReadAsStringAsync());
        read.RootElement.GetProperty("rows").GetArrayLength().ShouldBe(1);
        (await (await _site.RawAsync($"{Address(_first)}/file?form=Csv")).Content.ReadAsStringAsync()).ShouldContain(
            "Number,Date,Counted"
        );
        (await _site.RawAsync($"{Address(_first)}/file?form=Xlsx")).StatusCode.ShouldBe(HttpStatusCode.OK);
        foreach (
            var wrong in new[]
            {
                "/reports/returns/99/2025-08-01/2025-08-31",
                $"/reports/returns/{_authority}/2025-08-31/2025-08-01",
                $"/reports/returns/{_authority}/2025-08-31/soon",
                $"/reports/returns/{_authority}/2025-08-31/2025-08-01/file",
            }
        )
            (await _site.RawAsync(wrong)).StatusCode.ShouldBe(HttpStatusCode.NotFound, wrong);
        var away = await _site.RawAsync($"/reports/returns?authority={_authority}&first=2025-01-05&last=2025-02-10");
        away.Headers.Location!.ToString().ShouldEndWith("/2025-01-05/2025-02-10");
    }
}
