using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.People;
using Jugaad.Desk.Post;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>What is asked for on the first-run page.</summary>
/// <param name="TaxName">The name of the sales tax, such as VAT; empty where none is charged.</param>
/// <param name="TaxPercent">Its usual rate.</param>
public sealed record FirstRun(BusinessDetails Business, string TaxName, decimal TaxPercent, string OwnerName, string OwnerEmail, string Password);

/// <summary>Makes the business, its owner, and the few masters without which nothing can be billed.</summary>
public sealed class BooksSetup(BooksContext db, BookWriter writer, BooksHead head, UserManager<Person> people)
{
    /// <exception cref="RefusalException">When the books are not empty, or with every field that is wrong.</exception>
    public Task<int> MakeAsync(FirstRun first, DateOnly? pinnedDay = null, CancellationToken stop = default) => writer.WriteAsync(Right.Begin, null, async () =>
    {
        if (await head.FindBusinessAsync(stop) is not null) throw new RefusalException("", "These books have been set up already. Sign in instead.");
        var business = Describe(first);
        if (pinnedDay is { } day) business.PinDay(day);
        db.Businesses.Add(business);
        db.Series.AddRange(KindPolicy.All.Select(p => new Series(p.Title + "s", p.Kind.ToString(), p.Pattern, true)));
        db.Series.Add(new Series("Receipts", "Receipt", "RCT-{yyyy}-{0000}", true));
        db.LedgerAccounts.AddRange(Chart());
        db.MailSettings.Add(new MailSettings());
        var terms = UsualTerms();
        db.Terms.AddRange(terms);
        var codes = TaxCodes(first);
        db.TaxCodes.AddRange(codes);
        await writer.SaveAsync(stop);
        var sales = await db.LedgerAccounts.FirstAsync(a => a.Role == AccountRole.Sales, stop);
        business.SetDefaults(terms[1].Id, codes[0].Id, sales.Id);
        await AddOwnerAsync(first);
        await writer.TrailAsync($"Books of {business.Name} begun");
        await writer.SaveAsync(stop);
        return business.Id;
    }, stop);

    private static Business Describe(FirstRun first)
    {
        var refusals = new Refusals();
        Business? business = null;
        refusals.Try(() => business = new Business(first.Business));
        Texts.Required(refusals, "ownerName", first.OwnerName, 100, "Give your name; it stands on what you send.");
        Texts.Required(refusals, "ownerEmail", first.OwnerEmail, 254, "Give your mail address; you sign in with it.");
        Texts.Email(refusals, "ownerEmail", first.OwnerEmail);
        if (first.TaxPercent is < 0 or > 100 || PlainDecimal.DecimalsOf(first.TaxPercent) > Limits.PercentDecimals) refusals.Add("taxPercent", "Give a rate from 0 to 100 with at most 4 decimals.");
        if (first.TaxName.Trim().Length == 0 && first.TaxPercent > 0) refusals.Add("taxName", "Give the tax its name, or leave the rate at 0.");
        refusals.ThrowIfAny();
        return business!;
    }

    private async Task AddOwnerAsync(FirstRun first)
    {
        var owner = new Person { UserName = first.OwnerEmail.Trim(), Email = first.OwnerEmail.Trim(), EmailConfirmed = true, FullName = first.OwnerName.Trim(), Role = PersonRole.Owner, LockoutEnabled = true };
        PasswordRefusals.Throw(await people.CreateAsync(owner, first.Password), "ownerEmail");
    }

    private static List<TaxCode> TaxCodes(FirstRun first)
    {
        var none = new TaxCode("NONE", "No tax", TaxCategory.OutOfScope, null, []);
        if (first.TaxName.Trim().Length == 0) return [none];
        var component = new TaxComponent(first.TaxName.Trim(), "", [new TaxRate(new DateOnly(2000, 1, 1), first.TaxPercent)]);
        return [new TaxCode("STD", $"{first.TaxName.Trim()}, standard", TaxCategory.Standard, null, [new TaxCodePart(0, component, false)]), none];
    }

    private static List<PaymentTerms> UsualTerms() =>
    [
        new("On receipt", DueRule.OnReceipt),
        new("14 days", DueRule.DaysAfter, 14),
        new("30 days", DueRule.DaysAfter, 30),
        new("End of next month", DueRule.DayOfMonth, 0, 31, 1),
    ];

    private static LedgerAccount[] Chart() =>
    [
        new("1000", "Bank account", AccountRole.Money),
        new("1010", "Cash box", AccountRole.Money),
        new("1020", "Card clearing", AccountRole.Money),
        new("1200", "Receivables", AccountRole.Receivables),
        new("2200", "Tax owed", AccountRole.TaxOwed),
        new("3000", "Sales", AccountRole.Sales),
        new("4900", "Exchange differences", AccountRole.ExchangeDifferences),
        new("4910", "Rounding differences", AccountRole.RoundingDifferences),
    ];
}
