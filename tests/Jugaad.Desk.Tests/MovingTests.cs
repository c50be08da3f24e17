using System.Text;
using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Formats.Tables;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Moving in from files as people have them, and out again.</summary>
public sealed class MovingTests
{
    internal static Task<int> BeginAsync(Loft loft, MovingKind kind, string text) =>
        BeginAsync(loft, kind, Encoding.UTF8.GetBytes(text));

    private static Task<int> BeginAsync(Loft loft, MovingKind kind, byte[] file) =>
        loft.WithAsync<Importing, int>(i => i.BeginAsync(kind, "file.csv", file));

    internal static async Task<ImportReport> TakeAsync(Loft loft, MovingKind kind, string text, bool allOrNone = false)
    {
        var id = await BeginAsync(loft, kind, text);
        return await loft.WithAsync<ImportTaking, ImportReport>(i => i.RunAsync(id, allOrNone));
    }

    private static Task<byte[]> ExportAsync(Loft loft, MovingKind kind, TableForm form) =>
        loft.WithAsync<Exporting, byte[]>(e => e.FileAsync(kind, form));

    internal static (int, int, int, int) Counts(ImportReport report) =>
        (report.New, report.Changed, report.Same, report.Refused.Count);

    [Fact]
    public async Task Five_bad_rows_of_five_hundred_are_shown_and_handed_back_and_the_good_ones_go_in()
    {
        await using var loft = await Loft.OpenAsync();
        var rows = Enumerable
            .Range(1, 500)
            .Select(i =>
                i switch
                {
                    17 => "K17;;Tallinn;;0,00",
                    90 => "K90;Nobody;Tallinn;not a mail;0,00",
                    222 => "K222;Bad limit;Tallinn;;abc",
                    333 => "K12;Same code as before;Tallinn;;1,00",
                    499 => $"K499;Long {new string('x', 300)};Tallinn;;1,00",
                    _ => $"K{i};Customer {i};Kärdla;c{i}@k.example;1 {i:000},50",
                }
            );
        var file = $"Customer no;Name;City;E-mail;Credit limit\r\n{string.Join("\r\n", rows)}\r\n";
        var id = await BeginAsync(loft, MovingKind.Customers, file);
        var tried = await loft.WithAsync<Importing, ImportReport>(i => i.TryOutAsync(id));
        Counts(tried).ShouldBe((495, 0, 0, 5));
        tried.Refused.Select(r => r.Row).ShouldBe([17, 90, 222, 333, 499]);
        tried.Refused[1].Why.ShouldContain("not a mail");
        tried.Refused[3].Why.ShouldContain("second time");
        (await loft.WithAsync<BooksContext, int>(db => db.Customers.CountAsync())).ShouldBe(2);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<ImportTaking>(i => i.RunAsync(id, allOrNone: true))
            )
        ).Message.ShouldContain("5 rows are refused, so nothing was taken");
        (await loft.WithAsync<BooksContext, int>(db => db.Customers.CountAsync())).ShouldBe(2);

        Counts(await loft.WithAsync<ImportTaking, ImportReport>(i => i.RunAsync(id, allOrNone: false)))
            .ShouldBe((495, 0, 0, 5));
        var kept = await loft.WithAsync<BooksContext, Customer>(db =>
            db.Customers.SingleAsync(c => c.Code == "K90" || c.Code == "K91")
        );
        (kept.Name, kept.CreditLimit, kept.Address.City).ShouldBe(("Customer 91", 109_150L, "Kärdla"));
        var run = (await loft.WithAsync<Importing, ImportRun?>(i => i.FindAsync(id)))!;
        var refused = await loft.WithAsync<Importing, Table>(i => Task.FromResult(i.RefusedRows(run, run.Report!)));
        refused.Columns.ShouldBe(["Customer no", "Name", "City", "E-mail", "Credit limit", "Reason"]);
        refused.Rows[0].ShouldBe(["K17", "", "Tallinn", "", "0,00", "name: Give the customer a name."]);

        // The same file once more makes no doubles, and the refused rows, corrected, go in.
        Counts(await TakeAsync(loft, MovingKind.Customers, file)).ShouldBe((0, 0, 495, 5));
        Counts(await TakeAsync(loft, MovingKind.Customers, "Customer no;Name\r\nK17;Now named\r\nK90;Somebody\r\n"))
            .ShouldBe((2, 0, 0, 0));
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<ImportTaking>(i => i.RunAsync(id, false)))
        ).Message.ShouldContain("taken already");
    }

    [Fact]
    public async Task Columns_that_the_file_has_not_leave_what_is_there()
    {
        await using var loft = await Loft.OpenAsync();
        Counts(await TakeAsync(loft, MovingKind.Customers, "code,phone\nYARD,555 1\n")).ShouldBe((0, 1, 0, 0));
        var yard = await loft.WithAsync<AccountScreens, Customer>(async s => (await s.FindAsync(loft.Yard))!);
        (yard.Name, yard.Phone, yard.Email, yard.CreditLimit).ShouldBe(
            ("Yard", "555 1", "yard@slip.example", 100_000L)
        );
    }

    [Fact]
    public async Task A_column_that_is_needed_or_given_twice_is_refused_by_its_field()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await BeginAsync(loft, MovingKind.Items, "colour,size\nred,1\n");
        var settings = new ImportSettings(
            new Dictionary<string, int> { ["text"] = 0, ["unit"] = 0 },
            '.',
            DateOrder.DayFirst
        );
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Importing>(i => i.SetAsync(id, settings))))
            .Refusals.Select(r => r.Field)
            .ShouldBe(["column-code", "column-unit"]);
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Importing>(i => i.TryOutAsync(id))))
            .Refusals[0]
            .Field.ShouldBe("column-code");
        await loft.WithAsync<Importing>(i =>
            i.SetAsync(
                id,
                new ImportSettings(new Dictionary<string, int> { ["code"] = 0, ["name"] = 1 }, '.', DateOrder.DayFirst)
            )
        );
        Counts(await loft.WithAsync<ImportTaking, ImportReport>(i => i.RunAsync(id, true))).ShouldBe((1, 0, 0, 0));
    }

    [Fact]
    public async Task Items_point_to_taxes_accounts_and_units_by_their_words()
    {
        await using var loft = await Loft.OpenAsync();
        var report = await TakeAsync(
            loft,
            MovingKind.Items,
            """
            SKU,Product,Unit of measure,Price,VAT code,Sales account,EAN,Type
            R8,"Rope 8 mm, white",metres,"3.40",STD,3000,4006381333931,goods
            X1,Wrong,furlong,1,NOPE,9999,4006381333932,perhaps
            R9,Rope 9 mm,MTR,2.5,std,Sales,4006381333931,goods
            R8,Again,m,1,,,,
            """
        );
        Counts(report).ShouldBe((1, 0, 0, 3));
        report
            .Refused[0]
            .Why.ShouldSatisfyAllConditions(
                w => w.ShouldContain("no tax code “NOPE”"),
                w => w.ShouldContain("no sales account “9999”"),
                w => w.ShouldContain("“perhaps” is not one of yes, no")
            );
        report.Refused[1].Why.ShouldContain("that of R8 already");
        report.Refused[2].Why.ShouldContain("second time");
        var rope = await loft.WithAsync<BooksContext, Item>(db => db.Items.SingleAsync());
        (rope.Name, rope.Unit, rope.Price, rope.IsGoods, rope.Barcode).ShouldBe(
            ("Rope 8 mm, white", "MTR", 3.4m, true, ",4006381333931,")
        );
    }

    [Fact]
    public async Task Prices_make_their_list_where_the_currency_is_given()
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, MovingKind.Items, "code,name,price\nA,Rope,10\nB,Tape,20\n");
        Counts(
                await TakeAsync(
                    loft,
                    MovingKind.Prices,
                    "item,price list,currency,price\nA,Trade,EUR,8\nB,Trade,EUR,16\nC,Trade,EUR,1\nA,Trade,EUR,9\nB,Other,,5\n"
                )
            )
            .ShouldBe((2, 0, 0, 3));
        Counts(await TakeAsync(loft, MovingKind.Prices, "item,price list,price\nA,trade,8\nB,Trade,17\n"))
            .ShouldBe((0, 1, 1, 0));
        (await loft.WithAsync<BooksContext, int>(db => db.PriceLists.CountAsync())).ShouldBe(1);
        (
            await loft.WithAsync<BooksContext, decimal>(async db =>
                (await db.Items.SingleAsync(i => i.Code == "B")).Prices.Single().Price
            )
        ).ShouldBe(17);
    }

    [Fact]
    public async Task A_name_that_several_have_is_asked_about_and_nothing_goes_to_the_first()
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, MovingKind.Customers, "code;name;tax number\nA;Twin;\nB;twin;\nC;Single;EE101188342\n");
        var report = await TakeAsync(
            loft,
            MovingKind.Customers,
            "name;tax number;phone\nTwin;;5550 0101\nSingle;EE102277456;5550 0103\nSingle;EE101188342;5550 0102\n"
        );
        Counts(report).ShouldBe((0, 1, 0, 2));
        report.Refused.Select(r => r.Row).ShouldBe([1, 2]);
        report.Refused[0].Why.ShouldContain("is the name of 2 customers: A, B. Give the code");
        report.Refused[1].Why.ShouldContain("Single (C) has the tax number EE101188342");
        Counts(
                await TakeAsync(
                    loft,
                    MovingKind.OpenItems,
                    "customer;number;date;open\nTwin;A-1;01.08.2025;10,00\nB;A-2;01.08.2025;10,00\n"
                )
            )
            .ShouldBe((1, 0, 0, 1));
        await loft.WithAsync<BooksContext>(async db =>
            (
                await db
                    .AccountItems.Where(i => i.Number == "A-2")
                    .Join(db.Customers, i => i.CustomerId, c => c.Id, (i, c) => c.Code)
                    .SingleAsync()
            ).ShouldBe("B")
        );
    }

    [Fact]
    public async Task Nothing_is_taken_of_a_file_that_may_mean_two_things_until_somebody_says_which()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await BeginAsync(loft, MovingKind.OpenItems, "customer;number;date;open\nYARD;A-1;3/4/2025;1.234\n");
        var before = await loft.PictureAsync();
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<ImportTaking>(i => i.RunAsync(id, false)))
        ).Message.ShouldContain("Say it first");
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Importing>(i => i.TryOutAsync(id)))
        ).Message.ShouldContain("Say it first");
        (await loft.PictureAsync()).ShouldBe(before);
        var guessed = (await loft.WithAsync<Importing, ImportRun?>(i => i.FindAsync(id)))!.Settings;
        await loft.WithAsync<Importing>(i =>
            i.SetAsync(id, new ImportSettings(guessed.Columns, ',', DateOrder.MonthFirst))
        );
        Counts(await loft.WithAsync<ImportTaking, ImportReport>(i => i.RunAsync(id, true))).ShouldBe((1, 0, 0, 0));
        await loft.WithAsync<BooksContext>(async db =>
            (
                await db.AccountItems.Where(i => i.Number == "A-1").Select(i => new { i.Amount, i.Date }).SingleAsync()
            ).ShouldBe(new { Amount = 123_400L, Date = new DateOnly(2025, 3, 4) })
        );
    }

    [Theory]
    [InlineData("Kundennummer;Rechnungsnummer;Rechnungsdatum;Fälligkeit;Offener Betrag")]
    [InlineData("Cliente;Número de factura;Fecha;Vencimiento;Importe pendiente")]
    [InlineData("Client;Numéro de facture;Date de facture;Échéance;Montant dû")]
    [InlineData("Cliente;Numero fattura;Data;Scadenza;Importo")]
    [InlineData("Klant;Factuurnummer;Factuurdatum;Vervaldatum;Openstaand")]
    [InlineData("Klient;Numer faktury;Data;Termin płatności;Do zapłaty")]
    public async Task Heads_in_the_larger_languages_are_known(string heads)
    {
        MovingFields
            .Guess(MovingKind.OpenItems, heads.Split(';'))
            .OrderBy(g => g.Value)
            .Select(g => g.Key)
            .ShouldBe(["customer", "number", "date", "due", "open"]);
        await using var loft = await Loft.OpenAsync();
        Counts(await TakeAsync(loft, MovingKind.OpenItems, heads + "\nYARD;A-1;01.08.2025;15.08.2025;10,00\n"))
            .ShouldBe((1, 0, 0, 0));
    }

    [Fact]
    public async Task Open_invoices_and_credits_stand_on_the_account_and_in_the_journal()
    {
        await using var loft = await Loft.OpenAsync();
        const string file =
            "customer;type;invoice no;invoice date;due date;open amount\nYARD;invoice;A-1;01.08.2025;15.08.2025;1.200,00\nYard;credit note;C-1;20.08.2025;;50,00\nVARV;invoice;S-1;01.08.2025;;1.000,00\nNobody;invoice;A-2;01.08.2025;;1,00\nYARD;invoice;A-3;01.13.2025;;1,00\nYARD;invoice;A-4;01.08.2025;;0\n";
        var report = await TakeAsync(loft, MovingKind.OpenItems, file);
        Counts(report).ShouldBe((3, 0, 0, 3));
        Counts(await TakeAsync(loft, MovingKind.OpenItems, file)).ShouldBe((0, 0, 3, 3));
        (await TakeAsync(loft, MovingKind.OpenItems, "customer;number;date;open\nYARD;A-1;01.08.2025;1.300,00\n"))
            .Refused.Single()
            .Why.ShouldContain("has A-1 already, of 1 Aug 2025 and 1\u202f200.00 EUR");
        var account = await loft.WithAsync<AccountScreens, AccountView>(async s =>
            (await s.AccountAsync(loft.Yard, 1))!
        );
        account.Balance.ShouldBe(115_000);
        account.Open.Single().Due.ShouldBe(new DateOnly(2025, 8, 15));
        account.Aged.Late[1].ShouldBe(120_000);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();

        await loft.WithAsync<Receipts>(r => r.PlaceOldestFirstAsync(account.Credits.Single().Id));
        await loft.ReceiveAsync(115_000, (account.Open.Single().Id, 115_000));
        (
            await loft.WithAsync<AccountScreens, AccountView>(async s => (await s.AccountAsync(loft.Yard, 1))!)
        ).Open.ShouldBeEmpty();
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<Receipts>(r => r.PlaceOldestFirstAsync(account.Credits.Single().Id))
            )
        ).Message.ShouldContain("nothing to set");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Opening_balances_are_taken_once_for_an_account()
    {
        await using var loft = await Loft.OpenAsync();
        const string file =
            "account,date,debit,credit\n1000,2025-01-01,2500.00,\n2200,2025-01-01,,310.55\n1200,2025-01-01,1,\n2900,2025-01-01,1,\n7777,2025-01-01,1,\n1010,2025-01-01,5,5\n";
        var report = await TakeAsync(loft, MovingKind.Balances, file);
        Counts(report).ShouldBe((2, 0, 0, 4));
        report.Refused[0].Why.ShouldContain("comes with the open invoices");
        Counts(await TakeAsync(loft, MovingKind.Balances, file)).ShouldBe((0, 0, 2, 4));
        (await TakeAsync(loft, MovingKind.Balances, "account,date,debit,credit\n1000,2025-01-01,2600.00,\n"))
            .Refused.Single()
            .Why.ShouldContain("has an opening balance of 2\u202f500.00");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Theory]
    [InlineData(TableForm.Csv)]
    [InlineData(TableForm.Xlsx)]
    public async Task What_is_moved_out_and_into_empty_books_is_moved_out_the_same_again(TableForm form)
    {
        await using var first = await Loft.OpenAsync();
        await FillAsync(first);
        await using var second = await Loft.OpenAsync();
        await second.WithAsync<BooksContext>(db => db.Customers.ExecuteDeleteAsync());
        foreach (var kind in Enum.GetValues<MovingKind>())
        {
            var file = await ExportAsync(first, kind, form);
            var id = await BeginAsync(second, kind, file);
            var report = await second.WithAsync<ImportTaking, ImportReport>(i => i.RunAsync(id, true));
            report.New.ShouldBeGreaterThan(0, kind.ToString());
            (report.Changed + report.Same).ShouldBe(0, kind.ToString());
            Encoding
                .UTF8.GetString(await ExportAsync(second, kind, TableForm.Csv))
                .ShouldBe(Encoding.UTF8.GetString(await ExportAsync(first, kind, TableForm.Csv)), kind.ToString());
            id = await BeginAsync(second, kind, file);
            var again = await second.WithAsync<ImportTaking, ImportReport>(i => i.RunAsync(id, true));
            again.Same.ShouldBe(report.New, kind.ToString());
        }

        (await second.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_whole_books_come_with_a_description_and_without_secrets()
    {
        await using var loft = await Loft.OpenAsync();
        await FillAsync(loft);
        var files = new Dictionary<string, byte[]>();
        await loft.WithAsync<BooksFolder>(f =>
            f.WriteAsync(
                (name, content) =>
                {
                    files.Add(name, content);
                    return Task.CompletedTask;
                }
            )
        );
        var described = Encoding.UTF8.GetString(files["README.md"]);
        described.ShouldContain("## Customers");
        described.ShouldContain("points to Customers");
        foreach (
            var name in new[] { "Customers", "Items", "Documents", "AccountItems", "JournalLines", "TaxRules", "Trail" }
        )
        {
            var csv = new TableFiles().Read(files[$"{name}.csv"]);
            System
                .Text.Json.JsonDocument.Parse(files[$"{name}.json"])
                .RootElement.GetArrayLength()
                .ShouldBe(csv.Rows.Count, name);
        }

        files.Keys.ShouldNotContain(k =>
            k.Contains("Token", StringComparison.Ordinal) || k.Contains("Invitation", StringComparison.Ordinal)
        );
        foreach (var (name, content) in files)
            Encoding.UTF8.GetString(content).ShouldNotContain("PasswordHash", Case.Sensitive, name);
    }

    [Theory]
    [InlineData(PersonRole.Seller)]
    [InlineData(PersonRole.Reader)]
    public async Task Who_may_not_change_masters_moves_nothing_in(PersonRole role)
    {
        await using var loft = await Loft.OpenAsync();
        var id = await BeginAsync(loft, MovingKind.Customers, "name\nA\n");
        Loft.ActAs(role);
        await Should.ThrowAsync<NotAllowedException>(() => BeginAsync(loft, MovingKind.Customers, "name\nA\n"));
        await Should.ThrowAsync<NotAllowedException>(() => loft.WithAsync<ImportTaking>(i => i.RunAsync(id, false)));
        await Should.ThrowAsync<NotAllowedException>(() => loft.WithAsync<Importing>(i => i.TryOutAsync(id)));
    }

    private static async Task FillAsync(Loft loft)
    {
        var trade = await loft.WithAsync<ItemsDesk, int>(i => i.AddPriceListAsync(new PriceList("Trade", "EUR", true)));
        var without = await loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(
                null,
                0,
                new CustomerDetails
                {
                    Code = "=X",
                    Name = "Õige & Söhne; \"quoted\"",
                    OtherName = "Known",
                    Kind = CustomerKind.PublicBody,
                    TaxNumber = "EE102277456",
                    RegistrationNumber = "10118834",
                    Email = "a@b.example",
                    Phone = "+372 555",
                    Mobile = "-1",
                    ContactName = "Ann",
                    Address = new Address("Kai 1\nYard 2", "00123", "Harbour", "EE", "37"),
                    Language = "et",
                    Currency = "EUR",
                    TermsId = 1,
                    CreditLimit = 123_456,
                    TradeDiscount = 2.5m,
                    Tags = "b, a",
                    PrivateNote = "line\nline",
                    NoMoreOnAccount = true,
                    NoMoreReason = "owes",
                    RiskGrade = "C",
                    SellerId = 1,
                    Inactive = true,
                    Contacts =
                    [
                        new ContactDetails("A; B | C\\", "c@d.example", "1", true, false, true),
                        new ContactDetails("D"),
                    ],
                    Places = [new PlaceDetails(null, "Slip", new Address("S", "1", "T", "FI", "R"))],
                    Certificates =
                    [
                        new CertificateDetails("Z", new DateOnly(2025, 1, 1)),
                        new CertificateDetails("Y", null, new DateOnly(2026, 1, 1)),
                    ],
                }
            )
        );
        await loft.WithAsync<ItemsDesk>(i =>
            i.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "-R",
                    Name = "Rope",
                    Text = "Rope,\nlong",
                    IsGoods = true,
                    KeepsCount = true,
                    Unit = "MTR",
                    Price = 1.234567m,
                    Cost = 0.5m,
                    TaxCodeId = loft.Std,
                    LedgerAccountId = loft.Sales,
                    Barcode = "4006381333931, OWN",
                    Classification = "5607",
                    Prices = new Dictionary<int, decimal> { [trade] = 9.99m },
                }
            )
        );
        await loft.WithAsync<ItemNumbersDesk>(n => n.SaveAsync(without, [], "-R;=00\"17"));
        await loft.WithAsync<ItemNumbersDesk>(n => n.SaveAsync(loft.Yard, [], "-R\t0012"));
        await loft.IssuedAsync(loft.Content(1, 100));
        await loft.WithAsync<TaxRulesDesk>(r =>
            r.AddRuleAsync(Core.Taxes.Supply.Goods, Core.Taxes.Buyer.Consumer, Core.Taxes.Place.Abroad, null)
        );
        await loft.ReceiveAsync(5_000);
        await loft.IssuedAsync(loft.Content(3, 33.33m, customer: loft.Swede));
    }
}
