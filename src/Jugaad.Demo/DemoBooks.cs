using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Setup;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Demo;

/// <summary>
/// Makes the demo's books through the same desks that people use, from a fixed seed, so that they are the same every
/// time.
/// </summary>
public sealed class DemoBooks(IServiceProvider services)
{
    /// <summary>What the sign-in page tells of, in demo books.</summary>
    public static IReadOnlyList<(string Name, string Email)> People { get; } =
    [(DemoWorld.OwnerName, DemoWorld.OwnerEmail), (DemoWorld.ClerkName, DemoWorld.ClerkEmail)];

    public static string Password => DemoWorld.Password;

    /// <summary>The day on which the demo's books stand when they are made.</summary>
    public static DateOnly Today => DemoWorld.Today;

    /// <summary>Makes the books where there are none.</summary>
    /// <param name="said">Told what is being done.</param>
    /// <returns>Whether they were made.</returns>
    public async Task<bool> MakeAsync(Action<string> said, CancellationToken stop = default)
    {
        await using (var scope = services.CreateAsyncScope())
        {
            if (await scope.ServiceProvider.GetRequiredService<BooksHead>().FindBusinessAsync(stop) is not null)
                return false;
        }

        said("Making the demo's books");
        Acting.As(DemoWorld.OwnerName);
        await MastersAsync(stop);
        await new DemoHistory(services).PlayAsync(said, stop);
        return true;
    }

    private async Task MastersAsync(CancellationToken stop)
    {
        await using var scope = services.CreateAsyncScope();
        T Desk<T>()
            where T : notnull => scope.ServiceProvider.GetRequiredService<T>();
        await Desk<BooksSetup>()
            .MakeAsync(
                new FirstRun(
                    DemoWorld.Business,
                    "VAT",
                    22,
                    DemoWorld.OwnerName,
                    DemoWorld.OwnerEmail,
                    DemoWorld.Password
                ),
                DemoWorld.FirstDay,
                stop
            );
        foreach (var (name, email, role) in DemoWorld.Others)
            await Desk<UserManager<Person>>()
                .CreateAsync(
                    new Person
                    {
                        UserName = email,
                        Email = email,
                        EmailConfirmed = true,
                        FullName = name,
                        Role = role,
                        LockoutEnabled = true,
                    },
                    DemoWorld.Password
                );

        var tax = Desk<TaxDesk>();
        var rules = Desk<TaxRulesDesk>();
        var ledger = Desk<AccountsDesk>();
        await tax.AddRateAsync("VAT", new DateOnly(2025, 7, 1), 24, stop);
        foreach (var name in new[] { "VAT reduced", "VAT zero" })
            await tax.SaveComponentAsync(null, name, 1, stop);
        await tax.AddRateAsync("VAT reduced", new DateOnly(2000, 1, 1), 9, stop);
        await tax.AddRateAsync("VAT zero", new DateOnly(2000, 1, 1), 0, stop);
        await tax.AddCodeAsync(
            new("RED", "VAT, reduced (books)", TaxCategory.Standard, null, [("VAT reduced", false)]),
            stop
        );
        await tax.AddCodeAsync(new("ZERO", "VAT, zero rate", TaxCategory.Zero, null, [("VAT zero", false)]), stop);
        await tax.AddCodeAsync(
            new(
                "RC",
                "Reverse charge, services",
                TaxCategory.ReverseCharge,
                "Reverse charge: the customer accounts for the VAT.",
                []
            ),
            stop
        );
        await tax.AddCodeAsync(
            new(
                "EU",
                "Goods within the union",
                TaxCategory.IntraUnion,
                "Supply of goods to another member state, without VAT.",
                []
            ),
            stop
        );
        await tax.AddCodeAsync(
            new("EXP", "Export", TaxCategory.Export, "Export outside the European Union, without VAT.", []),
            stop
        );
        await tax.AddCodeAsync(
            new("EX", "Exempt (training)", TaxCategory.Exempt, "Training, exempt from VAT.", []),
            stop
        );
        var ids = await Desk<BooksContext>().TaxCodes.ToDictionaryAsync(c => c.Code, c => c.Id, stop);
        await rules.AddRuleAsync(Supply.Goods, Buyer.BusinessWithNumber, Place.Union, ids["EU"], stop);
        await rules.AddRuleAsync(Supply.Services, Buyer.BusinessWithNumber, Place.Union, ids["RC"], stop);
        await rules.AddRuleAsync(Supply.Goods, Buyer.Anybody, Place.Abroad, ids["EXP"], stop);
        await rules.AddRuleAsync(Supply.Services, Buyer.BusinessWithNumber, Place.Abroad, ids["NONE"], stop);
        foreach (
            var (code, name) in new[]
            {
                ("3010", "Sales: goods and cloth"),
                ("3020", "Sales: storage"),
                ("3030", "Sales: handbooks"),
                ("3040", "Sales: courses"),
                ("3050", "Sales: freight"),
            }
        )
            await ledger.AddAccountAsync(code, name, AccountRole.Sales, stop);
        await ledger.AddTermsAsync(
            new PaymentTerms("Trade, 30 days", DueRule.DaysAfter, 30, earlyPercent: 2, earlyDays: 8),
            stop
        );
        await ledger.AddTermsAsync(
            new PaymentTerms("15th of the month after next", DueRule.DayOfMonth, 0, 15, 2),
            stop
        );

        var business = Desk<BusinessDesk>();
        await business.DescribeAsync(DemoWorld.Business, new PictureChange(DemoLogo.Png(), false), null, stop);
        await Desk<TaxDesk>()
            .SaveAuthorityAsync(
                1,
                new AuthorityDetails
                {
                    Name = "National Tax Board",
                    OurNumber = DemoWorld.Business.TaxNumber,
                    RegisteredFrom = new DateOnly(2019, 4, 1),
                },
                null,
                stop
            );
        await Desk<TaxDesk>().SaveBoxesAsync(1, DemoWorld.Boxes, stop);
        // A levy on what is done on the harbour's slip, told to the harbour as it is paid.
        var harbour = await Desk<TaxDesk>()
            .SaveAuthorityAsync(
                null,
                new AuthorityDetails
                {
                    Name = DemoWorld.Harbour,
                    OurNumber = "NS-0417",
                    EveryMonths = 3,
                    Basis = TaxBasis.ByPayment,
                    DueAfterDays = 30,
                    RegisteredFrom = new DateOnly(2019, 4, 1),
                },
                null,
                stop
            );
        foreach (var component in await Desk<BooksContext>().TaxComponents.AsNoTracking().ToListAsync(stop))
            await tax.SaveComponentAsync(component.Id, component.Name, 1, stop);
        await tax.SaveComponentAsync(null, "Harbour levy", harbour, stop);
        await tax.AddRateAsync("Harbour levy", new DateOnly(2019, 4, 1), 5, stop);
        await tax.AddCodeAsync(
            new("SLIP", "Harbour levy, use of the slip", TaxCategory.Standard, null, [("Harbour levy", false)]),
            stop
        );
        await ledger.SaveAccountAsync(1, DemoWorld.Bank, stop);
        var crowns = await ledger.SaveAccountAsync(null, DemoWorld.Crowns, stop);
        await Desk<KeptListsDesk>().AddWayAsync(DemoForeign.Way, crowns, stop);
        foreach (var (currency, month, rate) in DemoRates.All)
            await Desk<RatesDesk>().EnterAsync(new(currency, month, rate), once: stop);

        var db = Desk<BooksContext>();
        var terms = await db.Terms.ToDictionaryAsync(t => t.Name, t => t.Id, stop);
        var codes = await db.TaxCodes.ToDictionaryAsync(t => t.Code, t => t.Id, stop);
        foreach (var (code, said) in DemoWorld.TaxReasons)
            await Desk<WordingsDesk>().WriteTaxReasonAsync(codes[code], said, stop);
        var accounts = await db.LedgerAccounts.ToDictionaryAsync(a => a.Code, a => a.Id, stop);
        var trade = await Desk<ItemsDesk>().AddPriceListAsync(new PriceList("Trade", "EUR", false), stop);
        var seller = await db.Users.Where(u => u.Role == PersonRole.Seller).Select(u => u.Id).SingleAsync(stop);
        foreach (var (details, term) in DemoWorld.Customers)
        {
            var more = details with
            {
                TermsId = terms[term],
                SellerId = details.Kind == CustomerKind.Business ? seller : null,
                PriceListId = details.Code == "KAIJO" ? trade : null,
            };
            await Desk<CustomersDesk>().SaveAsync(null, 0, DemoEInvoices.With(more), stop);
        }

        await new DemoLayouts(Desk<LayoutRoom>(), Desk<LayoutRules>(), Desk<CustomersDesk>()).MakeAsync(
            terms["30 days"],
            stop
        );
        foreach (var i in DemoWorld.Items)
        {
            await Desk<ItemsDesk>()
                .SaveAsync(
                    null,
                    0,
                    new ItemDetails
                    {
                        Code = i.Code,
                        Name = i.Name,
                        Text = i.Text,
                        IsGoods = i.Goods,
                        Unit = i.Unit,
                        Price = i.Price,
                        TaxCodeId = codes[i.Tax],
                        LedgerAccountId = accounts[i.Account],
                        Barcode = i.Barcode,
                        ClassificationList = DemoEInvoices.ClassOf(i.Code).List,
                        Classification = DemoEInvoices.ClassOf(i.Code).Code,
                        KeepsCount = DemoWorld.Counts.Any(c => c.Item == i.Code),
                        Prices = DemoWorld
                            .TradePrices.Where(p => p.Item == i.Code)
                            .ToDictionary(_ => trade, p => p.Price),
                    },
                    stop
                );
        }

        foreach (var (customer, numbers) in DemoEInvoices.TheirNumbers)
        {
            var id = await db.Customers.Where(c => c.Code == customer).Select(c => c.Id).SingleAsync(stop);
            await Desk<ItemNumbersDesk>().SaveAsync(id, [], numbers, stop);
        }

        var items = await db.Items.ToDictionaryAsync(i => i.Code, i => i.Id, stop);
        foreach (var (item, count) in DemoWorld.Counts)
            await Desk<ItemsDesk>().CorrectCountAsync(items[item], count, "counted when the books began", stop);
    }
}

/// <summary>Made-up exchange rates, one a month.</summary>
internal static class DemoRates
{
    internal static IEnumerable<(string Currency, DateOnly From, decimal Rate)> All =>
        from month in Enumerable.Range(2, 8)
        from pair in new[] { ("SEK", 0.0874m, 0.0006m), ("NOK", 0.0859m, -0.0004m), ("GBP", 1.1985m, -0.0061m) }
        select (pair.Item1, new DateOnly(2025, month, 1), pair.Item2 + (pair.Item3 * (month - 2)));
}
