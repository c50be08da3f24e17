using Jugaad.Core;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

public sealed class SetupTests
{
    private static async Task<List<string>> RefusedAsync(Func<Task> work) =>
        (await Should.ThrowAsync<RefusalException>(work)).Refusals.Select(r => r.Field).ToList();

    [Fact]
    public async Task Books_are_begun_once_with_what_billing_needs()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<BooksContext>(async db =>
        {
            (await db.Series.CountAsync()).ShouldBe(8);
            (await db.Users.SingleAsync()).FullName.ShouldBe("Owner");
            (await db.Users.SingleAsync()).PasswordHash!.ShouldNotContain("long");
        });
        (
            await RefusedAsync(() =>
                loft.WithAsync<BooksSetup>(s => s.MakeAsync(new FirstRun(new BusinessDetails(), "", 0, "", "", "")))
            )
        ).ShouldBe([""]);
    }

    [Fact]
    public async Task Taxes_that_contradict_themselves_are_refused_when_books_are_begun()
    {
        var kit = new Jugaad.Formats.Taxes.ShippedKits().Find("1-one-tax")!;
        async Task<List<string>> Begin(Func<FirstRun, FirstRun> change) =>
            await RefusedAsync(async () => await (await Loft.OpenAsync(change)).DisposeAsync());
        (await Begin(f => f with { Kit = kit })).ShouldBe(["taxName"], "a kit and one tax");
        (await Begin(f => f with { TaxPercent = 0 })).ShouldBe(["taxPercent"]);
        (
            await Begin(f =>
                f with
                {
                    Kit = kit,
                    TaxName = "",
                    TaxPercent = 0,
                    Business = f.Business with { TaxNumber = "EE101188342" },
                }
            )
        ).ShouldBe(["registeredFrom"]);
        (
            await Begin(f => f with { TaxName = "", TaxPercent = 0, RegisteredFrom = new DateOnly(2025, 1, 1) })
        ).ShouldBe(["taxName"]);
        (
            await Begin(f =>
                f with
                {
                    TaxName = "",
                    TaxPercent = 0,
                    Business = f.Business with { TaxNumber = "EE101188342" },
                }
            )
        ).ShouldBe(["taxName"], "a tax number and no tax");
        kit.RatesOn(Loft.Today).ShouldBe("VAT 24 %, VAT reduced 9 %");
        // Before the day of registration one tax by name is not charged either.
        await using var loft = await Loft.OpenAsync(f => f with { RegisteredFrom = Loft.Today });
        (await loft.IssuedAsync(loft.Content(date: Loft.Today.AddDays(-1)))).Tax.ShouldBe(0);
        (await loft.IssuedAsync()).Tax.ShouldBe(2_400);
    }

    [Fact]
    public async Task A_customers_fields_are_refused_together_and_a_code_is_made_from_the_name()
    {
        await using var loft = await Loft.OpenAsync();
        var wrong = new CustomerDetails
        {
            Name = "",
            Code = "X",
            Email = "no at sign",
            Currency = "XXX",
            Address = new Address("", "", "", "QQ"),
            CreditLimit = -1,
        };
        (await RefusedAsync(() => loft.WithAsync<CustomersDesk>(c => c.SaveAsync(null, 0, wrong)))).ShouldBe([
            "name",
            "email",
            "country",
            "creditLimit",
            "currency",
        ]);
        var good = new CustomerDetails { Name = "Yard", Currency = "EUR" };
        var id = await loft.WithAsync<CustomersDesk, int>(c => c.SaveAsync(null, 0, good));
        (
            await loft.WithAsync<BooksContext, string>(db =>
                db.Customers.Where(c => c.Id == id).Select(c => c.Code).SingleAsync()
            )
        ).ShouldBe("YARD2");
    }

    [Fact]
    public async Task An_items_fields_are_refused_together()
    {
        await using var loft = await Loft.OpenAsync();
        var wrong = new ItemDetails
        {
            Code = "",
            Name = "",
            Unit = "FURLONG",
            Price = -1,
        };
        (await RefusedAsync(() => loft.WithAsync<ItemsDesk>(i => i.SaveAsync(null, 0, wrong)))).ShouldBe([
            "code",
            "name",
            "unit",
            "price",
            "taxCodeId",
            "ledgerAccountId",
        ]);
        var good = new ItemDetails
        {
            Code = "N",
            Name = "Needle",
            TaxCodeId = loft.Std,
            LedgerAccountId = loft.Sales,
        };
        var id = await loft.WithAsync<ItemsDesk, int>(i => i.SaveAsync(null, 0, good));
        (await RefusedAsync(() => loft.WithAsync<ItemsDesk>(i => i.SaveAsync(null, 0, good)))).ShouldBe(["code"]);
        (await RefusedAsync(() => loft.WithAsync<ItemsDesk>(i => i.SaveAsync(id, 7, good)))).ShouldBe([""]);
        (
            await RefusedAsync(() =>
                loft.WithAsync<ItemsDesk>(i => i.SaveAsync(id, 1, good with { LedgerAccountId = loft.Bank }))
            )
        ).ShouldBe(["ledgerAccountId"]);
        (await loft.WithAsync<ItemsDesk, int>(i => i.SaveAsync(id, 1, good with { Price = 1.234567m }))).ShouldBe(id);
    }

    [Fact]
    public async Task Mail_settings_keep_the_password_out_of_sight_and_an_empty_one_keeps_it()
    {
        await using var loft = await Loft.OpenAsync();
        var typed = new MailSetup(
            true,
            "mail.example",
            587,
            MailEncryption.StartTls,
            "loft",
            "secret",
            "Loft",
            "loft@little.example"
        );
        await loft.WithAsync<BusinessDesk>(b => b.SetMailAsync(typed));
        await loft.WithAsync<BusinessDesk>(b => b.SetMailAsync(typed with { Password = "", FromName = "The Loft" }));
        var kept = await loft.WithAsync<BooksContext, MailSettings>(db => db.MailSettings.SingleAsync());
        (kept.ProtectedPassword, kept.FromName).ShouldBe(("kept:secret", "The Loft"));
        await loft.WithAsync<BusinessDesk>(b => b.SetMailAsync(typed with { User = "" }));
        (
            await loft.WithAsync<BooksContext, string>(db =>
                db.MailSettings.Select(m => m.ProtectedPassword).SingleAsync()
            )
        ).ShouldBeEmpty();
        (
            await RefusedAsync(() =>
                loft.WithAsync<BusinessDesk>(b => b.SetMailAsync(typed with { Host = "", Port = 0, FromAddress = "" }))
            )
        ).ShouldBe(["host", "port", "fromAddress"]);
    }

    [Fact]
    public async Task Rates_are_entered_once_for_a_day()
    {
        await using var loft = await Loft.OpenAsync();
        var day = new DateOnly(2025, 5, 5);
        await loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("NOK", day, 0.0859m)));
        (await RefusedAsync(() => loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("NOK", day, 0.1m))))).ShouldBe([
            "from",
        ]);
        (await RefusedAsync(() => loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("EUR", day, 1))))).ShouldBe([
            "currency",
        ]);
        (
            await RefusedAsync(() => loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("NOK", day.AddDays(1), 0))))
        ).ShouldBe(["rate"]);
        (
            await RefusedAsync(() => loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", new DateOnly(2026, 1, 1), 101)))
        ).ShouldBe(["percent"]);
        (
            await RefusedAsync(() =>
                loft.WithAsync<TaxDesk>(t => t.AddCodeAsync(new TaxCodeToAdd("STD", "x", TaxCategory.Zero, null, [])))
            )
        ).ShouldBe(["code"]);
        (
            await RefusedAsync(() =>
                loft.WithAsync<TaxDesk>(t =>
                    t.AddCodeAsync(new TaxCodeToAdd("NEW", "x", TaxCategory.Standard, null, [("No such tax", false)]))
                )
            )
        ).ShouldBe(["components"]);
    }

    [Fact]
    public async Task Tax_rules_are_looked_at_in_order_and_say_why()
    {
        await using var loft = await Loft.OpenAsync();
        var none = await loft.WithAsync<BooksContext, int>(db =>
            db.TaxCodes.Where(c => c.Code == "NONE").Select(c => c.Id).SingleAsync()
        );
        var abroad = await loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(
                null,
                0,
                new CustomerDetails
                {
                    Name = "Far",
                    Currency = "EUR",
                    Kind = CustomerKind.Consumer,
                    Address = new Address(Country: "NO"),
                }
            )
        );
        Task<IReadOnlyList<TaxAnswer>> Decide(int customer) =>
            loft.WithAsync<TaxRulesDesk, IReadOnlyList<TaxAnswer>>(t =>
                t.DecideAsync(new TaxQuestion(customer, null, Loft.Today, [null]))
            );
        (await Decide(abroad)).Single().ShouldBe(new TaxAnswer(loft.Std, ""));
        var wide = await loft.WithAsync<TaxRulesDesk, int>(t =>
            t.AddRuleAsync(Supply.Anything, Buyer.Anybody, Place.Anywhere, null)
        );
        var rule = await loft.WithAsync<TaxRulesDesk, int>(t =>
            t.AddRuleAsync(Supply.Services, Buyer.Consumer, Place.Abroad, none)
        );
        (await Decide(abroad)).Single().TaxCodeId.ShouldBe(loft.Std);
        await loft.WithAsync<TaxRulesDesk>(t => t.MoveRuleUpAsync(rule));
        (await Decide(abroad)).Single().ShouldBe(new TaxAnswer(none, "No tax: services to a consumer in Norway"));
        (await Decide(loft.Yard)).Single().TaxCodeId.ShouldBe(loft.Std);
        (
            await RefusedAsync(() =>
                loft.WithAsync<TaxRulesDesk>(t => t.AddRuleAsync(Supply.Services, Buyer.Consumer, Place.Abroad, none))
            )
        ).ShouldBe(["supply"]);
        (
            await RefusedAsync(() =>
                loft.WithAsync<TaxRulesDesk>(t => t.AddRuleAsync(Supply.Goods, Buyer.Consumer, Place.Abroad, 99))
            )
        ).ShouldBe(["taxCodeId"]);
        await loft.WithAsync<TaxRulesDesk>(t => t.RemoveRuleAsync(rule));
        (await Decide(abroad)).Single().TaxCodeId.ShouldBe(loft.Std);
        wide.ShouldBeGreaterThan(0);
    }

    [Fact]
    public async Task A_tax_number_with_a_wrong_check_digit_is_refused()
    {
        await using var loft = await Loft.OpenAsync();
        var typed = new CustomerDetails
        {
            Name = "Wrong",
            Currency = "EUR",
            TaxNumber = "FI29134572",
            Address = new Address(Country: "FI"),
        };
        (await RefusedAsync(() => loft.WithAsync<CustomersDesk>(c => c.SaveAsync(null, 0, typed)))).ShouldBe([
            "taxNumber",
        ]);
    }

    [Fact]
    public async Task The_business_is_described_or_refused_whole()
    {
        await using var loft = await Loft.OpenAsync();
        var wrong = new BusinessDetails
        {
            Name = "",
            Address = new Address("", "", "", ""),
            Email = "x",
            DecimalMark = ";",
            DatePattern = "yy",
        };
        (
            await RefusedAsync(() =>
                loft.WithAsync<BusinessDesk>(b =>
                    b.DescribeAsync(
                        wrong,
                        new PictureChange("no picture"u8.ToArray(), false),
                        new PictureChange("nor this"u8.ToArray(), false)
                    )
                )
            )
        ).ShouldBe(["name", "email", "country", "decimalMark", "datePattern", "logo", "signature"]);
        (await loft.WithAsync<BooksHead, Business>(h => h.BusinessAsync())).Name.ShouldBe("Little Loft");
    }

    [Fact]
    public async Task An_older_file_is_copied_before_it_is_brought_up_to_date()
    {
        var folder = Directory.CreateTempSubdirectory("jugaad-migrate-").FullName;
        var file = new BooksFile(folder);
        await using (var db = file.Open())
        {
            Directory.CreateDirectory(folder);
            await db.Database.ExecuteSqlRawAsync("CREATE TABLE Old (Id INTEGER)");
        }

        await file.PrepareAsync();
        Directory.EnumerateFiles(folder, "books-before-*.db").Count().ShouldBe(1);
        await using (var db = file.Open())
            (await db.Database.GetPendingMigrationsAsync()).ShouldBeEmpty();
        await file.PrepareAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(folder, true);
    }

    [Fact]
    public async Task Only_the_demos_calendar_moves()
    {
        await using var loft = await Loft.OpenAsync();
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<Calendar>(c => c.ForwardAsync(1)))
        ).Message.ShouldContain("Only the demo's");
        await loft.WithAsync<BooksContext>(async db =>
        {
            (await db.Businesses.SingleAsync()).PinDay(Loft.Today);
            await db.SaveChangesAsync();
        });
        (await loft.WithAsync<Calendar, DateOnly>(c => c.ForwardAsync(7))).ShouldBe(Loft.Today.AddDays(7));
        (await RefusedAsync(() => loft.WithAsync<Calendar>(c => c.ForwardAsync(0)))).ShouldBe(["days"]);
    }

    [Fact]
    public async Task The_model_and_the_migrations_agree()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<BooksContext>(db =>
        {
            db.Database.HasPendingModelChanges().ShouldBeFalse();
            return Task.CompletedTask;
        });
    }
}
