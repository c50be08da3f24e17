using System.Text;
using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>An import is taken back as one, and nothing that was built on it since is lost.</summary>
public sealed class ImportUndoTests
{
    private static async Task<int> TakenAsync(Loft loft, MovingKind kind, string text)
    {
        var id = await loft.WithAsync<Importing, int>(i =>
            i.BeginAsync(kind, "file.csv", Encoding.UTF8.GetBytes(text))
        );
        (
            await loft.WithAsync<ImportTaking, ImportReport>(i => i.RunAsync(id, allOrNone: true))
        ).Refused.ShouldBeEmpty();
        return id;
    }

    private static Task<TakenBackReport> BackAsync(Loft loft, int id) =>
        loft.WithAsync<ImportUndo, TakenBackReport>(u => u.TakeBackAsync(id));

    private static Task<TakenBackReport> OutlookAsync(Loft loft, int id) =>
        loft.WithAsync<ImportUndo, TakenBackReport>(u => u.OutlookAsync(id));

    /// <summary>Everything that imports touch, as one text.</summary>
    private static Task<string> PictureAsync(Loft loft) =>
        loft.WithAsync<BooksContext, string>(async db =>
        {
            var customers = await db
                .Customers.Include(c => c.Contacts)
                .Include(c => c.Places)
                .Include(c => c.Certificates)
                .AsNoTracking()
                .OrderBy(c => c.Code)
                .ToListAsync();
            var items = await db.Items.AsNoTracking().OrderBy(i => i.Code).ToListAsync();
            var entries = await db.Journal.AsNoTracking().Include(e => e.Lines).ToListAsync();
            var balances = entries
                .SelectMany(e => e.Lines)
                .GroupBy(l => l.AccountId)
                .Select(g => $"{g.Key}: {g.Sum(l => l.Debit - l.Credit)}")
                .Order();
            return string.Join(
                '\n',
                customers
                    .Select(c =>
                        $"{c.Details() with { Contacts = [], Places = [], Certificates = [] }} {string.Join(",", c.Contacts.Select(k => k.Name))} {string.Join(",", c.Places.Select(p => $"{p.Label} {p.Address}"))} {string.Join(",", c.Certificates.Select(k => k.Number))}"
                    )
                    .Concat(
                        items.Select(i =>
                            $"{i.Details() with { Prices = new Dictionary<int, decimal>() }} {string.Join(",", i.Details().Prices.OrderBy(p => p.Key).Select(p => $"{p.Key}={p.Value}"))}"
                        )
                    )
                    .Concat(
                        (await db.ItemNumbers.AsNoTracking().OrderBy(n => n.ItemId).ToListAsync()).Select(n =>
                            $"{n.CustomerId} {n.ItemId} {n.Number}"
                        )
                    )
                    .Concat((await db.PriceLists.AsNoTracking().ToListAsync()).Select(l => l.Name))
                    .Concat(
                        (await db.AccountItems.AsNoTracking().OrderBy(i => i.Id).ToListAsync()).Select(i =>
                            $"{i.CustomerId} {i.Number} {i.Open}"
                        )
                    )
                    .Concat(balances.Where(b => !b.EndsWith(": 0", StringComparison.Ordinal)))
            );
        });

    [Fact]
    public async Task Each_kind_of_import_taken_back_leaves_the_books_as_they_were()
    {
        await using var loft = await Loft.OpenAsync();
        await TakenAsync(loft, MovingKind.Items, "code,name,price\nOLD,Old thing,5\nKEPT,Kept,7\n");
        await TakenAsync(loft, MovingKind.Customers, "code,name,places\nOLD,Old one,Shed; Quay 2; 1; Nasva; ; EE\n");
        foreach (
            var (kind, file, gone, asBefore) in new[]
            {
                (
                    MovingKind.Customers,
                    "code,name,places,contacts,credit limit\nOLD,Renamed,Barn; Quay 9; 1; Nasva; ; EE,Ann; ann@k.example,5\nN1,New one,,,\nN2,New two,,,\n",
                    2,
                    1
                ),
                (MovingKind.Items, "code,name,price\nOLD,Renamed,6\nN1,New thing,1\n", 1, 1),
                (
                    MovingKind.Prices,
                    "item,price list,currency,price\nOLD,Trade,EUR,4\nKEPT,Trade,EUR,6\nOLD,Export,USD,9\n",
                    2,
                    2
                ),
                (
                    MovingKind.OpenItems,
                    "customer,number,date,open\nOLD,A-1,2025-06-01,100\nOLD,A-2,2025-06-02,50\nOLD,K-1,2025-06-03,-20\n",
                    3,
                    0
                ),
                (MovingKind.ItemNumbers, "customer,item,number\nOLD,OLD,47\nOLD,KEPT,11\n", 2, 0),
                (MovingKind.Balances, "account,date,debit,credit\n1000,2025-01-01,2500,\n1010,2025-01-01,80,\n", 2, 0),
            }
        )
        {
            var before = await PictureAsync(loft);
            var id = await TakenAsync(loft, kind, file);
            (await PictureAsync(loft)).ShouldNotBe(before);
            var outlook = await OutlookAsync(loft, id);
            (outlook.Gone, outlook.AsBefore, outlook.Stays.Count).ShouldBe((gone, asBefore, 0), kind.ToString());
            (await PictureAsync(loft)).ShouldNotBe(before, "looking changes nothing");
            var report = await BackAsync(loft, id);
            (report.Gone, report.AsBefore, report.Stays.Count).ShouldBe((gone, asBefore, 0), kind.ToString());
            (await PictureAsync(loft)).ShouldBe(before, kind.ToString());
            (await loft.CheckAsync()).Differences.ShouldBeEmpty();
            (await Should.ThrowAsync<RefusalException>(() => BackAsync(loft, id))).Message.ShouldContain(
                "taken back already"
            );
            // Undone, it can be done again.
            await TakenAsync(loft, kind, file);
            (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        }
    }

    [Fact]
    public async Task What_is_in_use_or_was_changed_since_stays_and_is_named()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await TakenAsync(
            loft,
            MovingKind.Customers,
            "code,name,country\nUSED,Used,EE\nEDIT,Edited,EE\nTYPED,Typed,EE\nMERGE,Merged,EE\nFREE,Free,EE\nYARD,Yard renamed,EE\n"
        );
        var ids = await loft.WithAsync<BooksContext, Dictionary<string, int>>(db =>
            db.Customers.ToDictionaryAsync(c => c.Code, c => c.Id)
        );
        await loft.IssuedAsync(loft.Content(1, 100, customer: ids["USED"]));
        await loft.WithAsync<CustomersDesk>(async c =>
            await c.SaveAsync(
                ids["EDIT"],
                1,
                new CustomerDetails
                {
                    Code = "EDIT",
                    Name = "Edited by hand",
                    Currency = "EUR",
                    Address = new Address(Country: "EE"),
                }
            )
        );
        await loft.WithAsync<CustomersDesk>(c => c.MergeAsync(ids["USED"], ids["MERGE"]));
        await loft.WithAsync<Drafting.Shelf>(s =>
            s.KeepAsync(
                new Drafting.TypedEditor(
                    DocumentKind.Quote,
                    null,
                    $$"""{"customerId":{{ids["TYPED"]}},"lines":[]}""",
                    "Typed",
                    ""
                )
            )
        );
        var report = await BackAsync(loft, id);
        report.Gone.ShouldBe(1);
        report.AsBefore.ShouldBe(1);
        report
            .Stays.Select(s => s.Name)
            .ShouldBe(["Used (USED)", "Edited by hand (EDIT)", "Typed (TYPED)", "Merged (MERGE)"]);
        report.Stays[3].Why.ShouldContain("merged");
        (
            await loft.WithAsync<BooksContext, List<string>>(db =>
                db.Customers.OrderBy(c => c.Code).Select(c => c.Code).ToListAsync()
            )
        ).ShouldNotContain("FREE");
        (
            await loft.WithAsync<BooksContext, string>(db =>
                db.Customers.Where(c => c.Id == loft.Yard).Select(c => c.Name).SingleAsync()
            )
        ).ShouldBe("Yard");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task An_item_in_a_line_or_a_price_list_that_a_customer_has_stays()
    {
        await using var loft = await Loft.OpenAsync();
        var items = await TakenAsync(loft, MovingKind.Items, "code,name,price\nA,Thing A,5\nB,Thing B,5\n");
        var prices = await TakenAsync(loft, MovingKind.Prices, "item,price list,currency,price\nA,Trade,EUR,4\n");
        var (a, list) = await loft.WithAsync<BooksContext, (int, int)>(async db =>
            (
                await db.Items.Where(i => i.Code == "A").Select(i => i.Id).SingleAsync(),
                await db.PriceLists.Select(l => l.Id).SingleAsync()
            )
        );
        await loft.DraftAsync(loft.Content() with { Lines = [loft.Content().Lines[0] with { ItemId = a }] });
        await loft.WithAsync<CustomersDesk>(async c =>
            await c.SaveAsync(
                null,
                0,
                new CustomerDetails
                {
                    Name = "Has it",
                    Currency = "EUR",
                    PriceListId = list,
                    Address = new Address(Country: "EE"),
                }
            )
        );
        // The price goes; the list that a customer has stays.
        (await BackAsync(loft, prices)).Stays.ShouldBe([new StaysThere("the price list Trade", "is in use")]);
        // Taking the price back changed the item, which is in a line besides.
        var report = await BackAsync(loft, items);
        (report.Gone, report.Stays.Single().Name).ShouldBe((1, "Thing A (A)"));
    }

    [Fact]
    public async Task An_item_that_was_given_texts_in_other_languages_stays()
    {
        await using var loft = await Loft.OpenAsync();
        var items = await TakenAsync(loft, MovingKind.Items, "code,name,price\nA,Thing A,5\nB,Thing B,5\n");
        var a = await loft.WithAsync<BooksContext, int>(db =>
            db.Items.Where(i => i.Code == "A").Select(i => i.Id).SingleAsync()
        );
        await loft.WithAsync<WordingsDesk, int>(d =>
            d.WriteItemAsync(a, new Dictionary<string, string> { ["sv"] = "Sak A" })
        );
        (await BackAsync(loft, items)).Stays.ShouldBe([new StaysThere("Thing A (A)", "was changed since")]);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_a_customer_had_and_is_gone_by_now_is_not_given_back()
    {
        await using var loft = await Loft.OpenAsync();
        await TakenAsync(loft, MovingKind.Items, "code,name,price\nA,Thing A,5\n");
        var prices = await TakenAsync(loft, MovingKind.Prices, "item,price list,currency,price\nA,Trade,EUR,4\n");
        await TakenAsync(loft, MovingKind.Customers, "code,price list\nYARD,Trade\n");
        var away = await TakenAsync(loft, MovingKind.Customers, "code,price list\nYARD,\n");
        (await BackAsync(loft, prices)).Stays.ShouldBeEmpty();
        (await Should.ThrowAsync<RefusalException>(() => BackAsync(loft, away))).Message.ShouldContain(
            "had a price list that is gone"
        );

        // Billed in another currency since: the currency that it had is no longer its.
        await TakenAsync(loft, MovingKind.Customers, "code,name,currency,country\nNEW,New one,EUR,EE\n");
        var crowns = await TakenAsync(loft, MovingKind.Customers, "code,currency\nNEW,SEK\n");
        var id = await loft.WithAsync<BooksContext, int>(db =>
            db.Customers.Where(c => c.Code == "NEW").Select(c => c.Id).SingleAsync()
        );
        await loft.IssuedAsync(loft.Content(1, 100, customer: id));
        (await Should.ThrowAsync<RefusalException>(() => BackAsync(loft, crowns))).Message.ShouldContain(
            "documents in its new currency"
        );
    }

    [Fact]
    public async Task Imports_go_out_in_the_order_against_that_in_which_they_came()
    {
        await using var loft = await Loft.OpenAsync();
        var before = await PictureAsync(loft);
        int[] runs =
        [
            await TakenAsync(loft, MovingKind.Customers, "code,name\nN1,New one\n"),
            await TakenAsync(loft, MovingKind.Customers, "code,phone\nN1,555\n"),
            await TakenAsync(loft, MovingKind.Items, "code,name,price\nA,Thing,5\n"),
            await TakenAsync(loft, MovingKind.Items, "code,price\nA,6\n"),
            await TakenAsync(
                loft,
                MovingKind.Prices,
                "item,price list,currency,price\nA,Trade,EUR,4\nA,Export,USD,9\n"
            ),
        ];
        foreach (var run in runs.Reverse())
            (await BackAsync(loft, run)).Stays.ShouldBeEmpty($"run {run}");
        (await PictureAsync(loft)).ShouldBe(before);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();

        // What somebody changed between two imports is not lost with the second.
        var first = await TakenAsync(loft, MovingKind.Customers, "code,name\nN2,New two\n");
        var id = await loft.WithAsync<BooksContext, int>(db =>
            db.Customers.Where(c => c.Code == "N2").Select(c => c.Id).SingleAsync()
        );
        await loft.WithAsync<CustomersDesk>(async c =>
            await c.SaveAsync(
                id,
                1,
                new CustomerDetails
                {
                    Code = "N2",
                    Name = "By hand",
                    Currency = "EUR",
                    Address = new Address(Country: "EE"),
                }
            )
        );
        var second = await TakenAsync(loft, MovingKind.Customers, "code,phone\nN2,555\n");
        (await BackAsync(loft, second)).AsBefore.ShouldBe(1);
        (await Should.ThrowAsync<RefusalException>(() => BackAsync(loft, first))).Message.ShouldContain(
            "changed since"
        );
    }

    [Theory]
    [InlineData("UPDATE ImportEffects SET \"On\" = 'Item'", "another kind")]
    [InlineData("UPDATE ImportEffects SET TargetId = 999 WHERE Before = ''", "not there")]
    [InlineData("UPDATE ImportEffects SET VersionAfter = 99", "newer")]
    [InlineData("UPDATE ImportEffects SET Before = '{' WHERE Before <> ''", "cannot be read")]
    [InlineData("UPDATE ImportEffects SET Before = ''", "something else than it reported")]
    [InlineData("DELETE FROM ImportEffects WHERE Before = ''", "something else than it reported")]
    [InlineData("UPDATE ImportRuns SET State = 'TakenBack'", "does not go with")]
    [InlineData("UPDATE ImportRuns SET TakenBackText = '{}'", "does not go with")]
    [InlineData("UPDATE ImportRuns SET State = 'Begun'", "never taken")]
    public async Task The_check_finds_what_was_tampered_with(string sql, string said)
    {
        await using var loft = await Loft.OpenAsync();
        await TakenAsync(loft, MovingKind.Customers, "code,name\nYARD,Renamed\nN1,New one\n");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        await loft.ExecuteAsync(
            sql.Replace("{", "{{", StringComparison.Ordinal).Replace("}", "}}", StringComparison.Ordinal)
        );
        (await loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(said, StringComparison.Ordinal));
    }

    [Fact]
    public async Task What_money_was_set_against_or_was_closed_or_put_right_stays()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await TakenAsync(
            loft,
            MovingKind.OpenItems,
            "customer,number,date,open\nYARD,A-1,2025-06-01,100\nYARD,A-2,2025-06-02,50\nYARD,A-3,2025-02-01,30\nYARD,A-4,2025-06-05,10\n"
        );
        var items = await loft.WithAsync<BooksContext, Dictionary<string, int>>(db =>
            db.AccountItems.ToDictionaryAsync(i => i.Number, i => i.Id)
        );
        await loft.ReceiveAsync(4_000, (items["A-1"], 4_000));
        await loft.WithAsync<OpeningDesk>(o =>
            o.PutItemRightAsync(
                new OpeningItemToPutRight(items["A-2"], "A-2", new DateOnly(2025, 6, 2), null, 5_500, null, "misread")
            )
        );
        await loft.WithAsync<Periods>(p => p.CloseUpToAsync(new DateOnly(2025, 3, 31)));
        var report = await BackAsync(loft, id);
        report.Stays.ShouldBe([
            new StaysThere("invoice A-1", "has, or had, something set against it"),
            new StaysThere("invoice A-2", "was put right since"),
            new StaysThere("invoice A-3", "is in closed books"),
        ]);
        report.Gone.ShouldBe(1);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Nothing_to_take_back_is_refused_and_so_is_whoever_may_not()
    {
        await using var loft = await Loft.OpenAsync();
        var begun = await loft.WithAsync<Importing, int>(i =>
            i.BeginAsync(MovingKind.Customers, "f.csv", "code,name\nA,A\n"u8.ToArray())
        );
        (await Should.ThrowAsync<RefusalException>(() => BackAsync(loft, begun))).Message.ShouldContain("never taken");
        var id = await TakenAsync(loft, MovingKind.OpenItems, "customer,number,date,open\nYARD,A-1,2025-06-01,100\n");
        var item = await loft.WithAsync<BooksContext, int>(db => db.AccountItems.Select(i => i.Id).SingleAsync());
        await loft.ReceiveAsync(10_000, (item, 10_000));
        (await Should.ThrowAsync<RefusalException>(() => BackAsync(loft, id))).Message.ShouldContain("A-1");
        (
            await loft.WithAsync<BooksContext, ImportState>(db =>
                db.ImportRuns.Where(r => r.Id == id).Select(r => r.State).SingleAsync()
            )
        ).ShouldBe(ImportState.Done);
    }
}
