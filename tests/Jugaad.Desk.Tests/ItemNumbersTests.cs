using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Setup;
using Jugaad.Formats.EInvoices;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>The numbers by which customers know our items: typed, pasted, moved, found, and on what was issued.</summary>
public sealed class ItemNumbersTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private int _rope;
    private int _hook;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _rope = await AddAsync("ROPE");
        _hook = await AddAsync("HOOK");
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> AddAsync(string code) =>
        _loft.WithAsync<ItemsDesk, int>(i =>
            i.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = code,
                    Name = $"Item {code}",
                    Price = 10,
                    TaxCodeId = _loft.Std,
                    LedgerAccountId = _loft.Sales,
                }
            )
        );

    private Task<int> SaveAsync(string pasted, params NumberTyped[] typed) =>
        _loft.WithAsync<ItemNumbersDesk, int>(d => d.SaveAsync(_loft.Yard, typed, pasted));

    private async Task<IReadOnlyList<(string Field, string Message)>> RefusedAsync(
        string pasted,
        params NumberTyped[] typed
    ) =>
        [
            .. (await Should.ThrowAsync<RefusalException>(() => SaveAsync(pasted, typed))).Refusals.Select(r =>
                (r.Field, r.Message)
            ),
        ];

    private Task<string> KeptAsync(int? customer = null) =>
        _loft.WithAsync<BooksContext, string>(async db =>
            string.Join(
                " ",
                (await db.ItemNumbers.AsNoTracking().OrderBy(n => n.ItemId).ToListAsync())
                    .Where(n => n.CustomerId == (customer ?? _loft.Yard))
                    .Select(n => $"{(n.ItemId == _rope ? "ROPE" : "HOOK")}={n.Number}")
            )
        );

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task Typed_and_pasted_numbers_are_kept_together_and_taken_away_again()
    {
        (await SaveAsync("hook\tH 1;2\r\n\r\n", new NumberTyped(_rope, "", " 4711 "))).ShouldBe(2);
        (await KeptAsync()).ShouldBe("ROPE=4711 HOOK=H 1;2");
        (await SaveAsync("HOOK;H 1;2", new NumberTyped(_rope, "4711", "4711"))).ShouldBe(0);
        (await SaveAsync("HOOK;", new NumberTyped(_rope, "4711", "4712"))).ShouldBe(2);
        (await KeptAsync()).ShouldBe("ROPE=4712");
        var view = (await _loft.WithAsync<ItemNumbersDesk, NumberedItems?>(d => d.ViewAsync(_loft.Yard)))!;
        view.Rows.ShouldBe([new NumberedItem(_rope, "ROPE", "Item ROPE", "4712")]);
        (await _loft.WithAsync<ItemNumbersDesk, NumberedItems?>(d => d.ViewAsync(_loft.Yard, "HOOK")))!.All.ShouldBe(0);
        (await _loft.WithAsync<ItemNumbersDesk, NumberedItems?>(d => d.ViewAsync(99_999))).ShouldBeNull();
        await HealthyAsync();
    }

    [Fact]
    public async Task What_cannot_be_is_refused_by_its_place_and_nothing_is_kept()
    {
        var refused = await RefusedAsync(
            $"NONE;1\nROPE\nHOOK;{new string('9', 61)}\nHOOK;2",
            new NumberTyped(_rope, "", new string('9', 61))
        );
        refused.Select(r => r.Field).ShouldBe([$"items[{_rope}].number", "pasted", "pasted", "pasted", "pasted"]);
        refused[1].Message.ShouldContain("Line 1: there is no item “NONE”");
        refused[2].Message.ShouldContain("Line 2 has one cell");
        refused[3].Message.ShouldContain("at most 60");
        refused[4].Message.ShouldContain("second time");
        (await RefusedAsync("ROPE;5", new NumberTyped(_rope, "", "6"))).Single().Message.ShouldContain("changed above");
        (await RefusedAsync("", new NumberTyped(99_999, "", "1"))).Single().Message.ShouldContain("not there any more");
        (await KeptAsync()).ShouldBe("");
        Should.Throw<RefusalException>(() => new CustomerItemNumber(1, 1, "two\nlines"));
        Should.Throw<RefusalException>(() => new CustomerItemNumber(1, 1, "  "));
    }

    [Fact]
    public async Task Of_two_at_once_the_second_sees_what_the_first_did()
    {
        await SaveAsync("", new NumberTyped(_rope, "", "1"));
        await SaveAsync("", new NumberTyped(_rope, "1", "2"));
        (await RefusedAsync("", new NumberTyped(_rope, "1", "3"))).Single().Message.ShouldContain("changed to 2");
        await SaveAsync("", new NumberTyped(_rope, "2", ""));
        (await RefusedAsync("", new NumberTyped(_rope, "2", "3"))).Single().Message.ShouldContain("taken away");
        (await KeptAsync()).ShouldBe("");
    }

    [Fact]
    public async Task An_issued_document_keeps_the_number_and_names_it_in_both_syntaxes()
    {
        await SaveAsync("ROPE;4711");
        var content = _loft.Content(10, 2);
        var invoice = await _loft.IssuedAsync(content with { Lines = [content.Lines[0] with { ItemId = _rope }] });
        await SaveAsync("ROPE;4712");
        async Task<EInvoice> OfAsync(int id) =>
            (await _loft.WithAsync<EInvoices, CheckedEInvoice>(e => e.OfAsync(id))).Invoice;
        async Task<string> NumberAsync(int id) => (await OfAsync(id)).Lines.Single().BuyersId;
        (await NumberAsync(invoice.Id)).ShouldBe("4711");
        var told = await OfAsync(invoice.Id);
        foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
        {
            var read = EInvoiceFiles.Read(EInvoiceFiles.Write(told, syntax));
            read.Invoice.Lines.Single().BuyersId.ShouldBe("4711");
        }

        // What is issued from now on has the number of now.
        var next = await _loft.IssuedAsync(content with { Lines = [content.Lines[0] with { ItemId = _rope }] });
        (await NumberAsync(next.Id)).ShouldBe("4712");
        await HealthyAsync();
        await _loft.ExecuteAsync("UPDATE Documents SET Facts = replace(Facts, '4711', ' x ')");
        (await _loft.CheckAsync()).Differences.ShouldContain(d =>
            d.Contains("not of its lines", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task The_paper_tells_it_where_there_is_one_in_its_language_and_as_it_was_when_issued()
    {
        var content = _loft.Content(10, 2);
        content = content with { Lines = [content.Lines[0] with { ItemId = _rope }] };
        async Task<string> PaperAsync(int id, string language) =>
            string.Join(
                '\n',
                await _loft.WithAsync<PaperRoom, IReadOnlyList<string>>(p =>
                    p.SvgAsync(id, "", new PaperStyle { Language = language })
                )
            );
        (await PaperAsync(await _loft.DraftAsync(content), "en")).ShouldNotContain("Your no.");
        await SaveAsync("ROPE;4711");
        var draft = await PaperAsync(await _loft.DraftAsync(content), "de");
        draft.ShouldContain("Ihre Nr.");
        draft.ShouldContain("4711");
        var invoice = await _loft.IssuedAsync(content);
        await SaveAsync("ROPE;");
        var issued = await PaperAsync(invoice.Id, "en");
        issued.ShouldContain("Your no.");
        issued.ShouldContain("4711");
        (await PaperAsync(await _loft.DraftAsync(content), "en")).ShouldNotContain("4711");
    }

    [Theory]
    [InlineData("UPDATE CustomerItemNumbers SET Number = ''")]
    [InlineData("UPDATE CustomerItemNumbers SET Number = ' 4711'")]
    [InlineData("UPDATE CustomerItemNumbers SET Number = '47' || char(10) || '11'")]
    [InlineData("UPDATE CustomerItemNumbers SET CustomerId = 99999")]
    [InlineData("UPDATE CustomerItemNumbers SET ItemId = 99999")]
    public async Task What_was_tampered_with_is_found(string tampering)
    {
        await SaveAsync("ROPE;4711");
        await HealthyAsync();
        await _loft.ExecuteAsync($"PRAGMA foreign_keys = OFF; {tampering}");
        (await _loft.CheckAsync()).Differences.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task Two_customers_in_one_keep_each_number_once()
    {
        var twin = await _loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(null, 0, new CustomerDetails { Name = "Twin", Currency = "EUR" })
        );
        await SaveAsync("ROPE;4711");
        await _loft.WithAsync<ItemNumbersDesk, int>(d => d.SaveAsync(twin, [], "ROPE;T-1\nHOOK;T-2"));
        await _loft.WithAsync<CustomersDesk>(c => c.MergeAsync(_loft.Yard, twin));
        (await KeptAsync()).ShouldBe("ROPE=4711 HOOK=T-2");
        (await KeptAsync(twin)).ShouldBe("");
        var trail = await _loft.WithAsync<BooksContext, string>(async db =>
            (await db.Trail.AsNoTracking().OrderBy(t => t.Id).LastAsync()).Text
        );
        trail.ShouldContain("given up: its item numbers ROPE T-1");
        await HealthyAsync();
    }

    [Fact]
    public async Task An_item_is_found_by_the_number_of_the_customer_who_is_asked_about()
    {
        await SaveAsync("ROPE;47_1\nHOOK;47_12");
        async Task<(string Found, string Exactly)> AsAsync(int? customer, string typed) =>
            await _loft.WithAsync<BooksContext, (string, string)>(async db =>
            {
                var theirs = await TheirNumbers.AmongAsync(db, customer, typed, default);
                return (string.Join(' ', theirs.Found), string.Join(' ', theirs.Exactly));
            });
        (await AsAsync(_loft.Yard, "47_1")).ShouldBe(($"{_rope} {_hook}", $"{_rope}"));
        (await AsAsync(_loft.Yard, "4711")).ShouldBe(("", ""));
        (await AsAsync(_loft.Yard, "")).ShouldBe(("", ""));
        (await AsAsync(null, "47_1")).ShouldBe(("", ""));
        (await AsAsync(_loft.Yard + 1, "47_1")).ShouldBe(("", ""));
    }

    [Fact]
    public async Task Numbers_move_in_and_out_as_a_file_and_an_import_is_taken_back()
    {
        var code = await _loft.WithAsync<BooksContext, string>(async db =>
            (await db.Customers.AsNoTracking().SingleAsync(c => c.Id == _loft.Yard)).Code
        );
        await SaveAsync("ROPE;4711");
        var file =
            $"customer,item,number\n{code},ROPE,4712\n{code},HOOK,9\n{code},hook,8\nNOBODY,HOOK,1\n{code},HOOK,\n";
        var run = await MovingTests.BeginAsync(_loft, MovingKind.ItemNumbers, file);
        var report = await _loft.WithAsync<ImportTaking, ImportReport>(i => i.RunAsync(run, false));
        MovingTests.Counts(report).ShouldBe((1, 1, 0, 3));
        (await KeptAsync()).ShouldBe("ROPE=4712 HOOK=9");
        await HealthyAsync();
        var table = await _loft.WithAsync<Exporting, Table>(e => e.TableAsync(MovingKind.ItemNumbers));
        table.Rows.ShouldBe([
            [code, "HOOK", "9"],
            [code, "ROPE", "4712"],
        ]);
        MovingTests
            .Counts(
                await MovingTests.TakeAsync(
                    _loft,
                    MovingKind.ItemNumbers,
                    $"customer,item,number\n{string.Join("\n", table.Rows.Select(r => string.Join(",", r)))}\n"
                )
            )
            .ShouldBe((0, 0, 2, 0));

        // One that somebody changed since stays; the other one goes out again.
        await SaveAsync("HOOK;10");
        var back = await _loft.WithAsync<ImportUndo, TakenBackReport>(u => u.TakeBackAsync(run));
        (back.Gone, back.AsBefore, back.Stays.Single().Why).ShouldBe((0, 1, "was changed since"));
        (await KeptAsync()).ShouldBe("ROPE=4711 HOOK=10");
        await HealthyAsync();
    }
}
