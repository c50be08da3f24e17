using Jugaad.Core;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.People;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>What is asked for on the first-run page.</summary>
/// <param name="TaxName">The name of the sales tax, such as VAT; empty where none is charged.</param>
/// <param name="TaxPercent">Its usual rate.</param>
public sealed record FirstRun(
    BusinessDetails Business,
    string TaxName,
    decimal TaxPercent,
    string OwnerName,
    string OwnerEmail,
    string Password
)
{
    /// <summary>A ready set of taxes instead of one tax by name and rate.</summary>
    public TaxKit? Kit { get; init; }

    /// <summary>Since when the business is registered for the kit's taxes; null for not yet.</summary>
    public DateOnly? RegisteredFrom { get; init; }
}

/// <summary>Makes the business, its owner, and the few masters without which nothing can be billed.</summary>
public sealed class BooksSetup(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    UserManager<Person> people,
    TaxKitsDesk kits
)
{
    /// <exception cref="RefusalException">When the books are not empty, or with every field that is wrong.</exception>
    public Task<int> MakeAsync(FirstRun first, DateOnly? pinnedDay = null, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Begin,
            stop,
            async () =>
            {
                if (await head.FindBusinessAsync(stop) is not null)
                    throw new RefusalException("", "These books have been set up already. Sign in instead.");
                var business = Describe(first);
                if (pinnedDay is { } day)
                    business.PinDay(day);
                db.Businesses.Add(business);
                db.Series.AddRange(
                    KindPolicy.All.Select(p =>
                        Usual(new Series(p.Title + "s", p.Kind.ToString(), p.Pattern, SeriesRestart.CalendarYear))
                    )
                );
                db.Series.Add(
                    Usual(new Series("Receipts", "Receipt", "RCT-{yyyy}-{0000}", SeriesRestart.CalendarYear))
                );
                db.Series.Add(Usual(new Series("Refunds", "Refund", "REF-{yyyy}-{0000}", SeriesRestart.CalendarYear)));
                db.LedgerAccounts.AddRange(Chart());
                db.MailSettings.Add(new MailSettings());
                var terms = UsualTerms();
                db.Terms.AddRange(terms);
                await writer.SaveAsync(stop);
                var money = await db
                    .LedgerAccounts.Where(a => a.Role == AccountRole.Money)
                    .OrderBy(a => a.Code)
                    .ToListAsync(stop);
                db.PayWays.AddRange(
                    money.Select(a => new PayWay(
                        a.Kind switch
                        {
                            MoneyKind.Cash => "Cash",
                            MoneyKind.CardClearing => "Card",
                            _ => "Bank transfer",
                        },
                        a.Id
                    ))
                );
                await AddLadderAsync(stop);
                db.NoteReasons.AddRange(UsualReasons.Select(r => new NoteReason(r)));
                var sales = await db.LedgerAccounts.FirstAsync(a => a.Role == AccountRole.Sales, stop);
                business.SetDefaults(terms[1].Id, 0, sales.Id);
                business.SetFeeAccount(
                    await db.LedgerAccounts.Where(a => a.Code == "4950").Select(a => (int?)a.Id).SingleOrDefaultAsync()
                );
                await kits.AdoptPartsAsync(
                    first.Kit ?? OneTax(first),
                    first.Kit is null ? first.RegisteredFrom ?? new DateOnly(1990, 1, 1) : first.RegisteredFrom,
                    stop
                );
                await AddOwnerAsync(first);
                await writer.TrailAsync($"Books of {business.Name} begun");
                await writer.SaveAsync(stop);
                return business.Id;
            }
        );

    /// <summary>Usual steps of reminders; nothing goes before somebody has looked at it.</summary>
    private async Task AddLadderAsync(CancellationToken stop)
    {
        var ladder = new LetterLadder("Usual", LetterLadder.UsualSteps);
        db.Ladders.Add(ladder);
        await writer.SaveAsync(stop);
        var settings = new CollectingSettings();
        settings.Climb(ladder.Id, false, settings.Tolerance, settings.DaysBetween, [1, 2, 3, 4, 5]);
        db.CollectingSettings.Add(settings);
    }

    private static Business Describe(FirstRun first)
    {
        var refusals = new Refusals();
        Business? business = null;
        refusals.Try(() => business = new Business(first.Business));
        Texts.Required(refusals, "ownerName", first.OwnerName, 100, "Give your name; it stands on what you send.");
        Texts.Required(refusals, "ownerEmail", first.OwnerEmail, 254, "Give your mail address; you sign in with it.");
        Texts.Email(refusals, "ownerEmail", first.OwnerEmail);
        if (!TaxRate.CanBe(first.TaxPercent))
            refusals.Add("taxPercent", TaxRate.CannotBe);
        Taxed(refusals, first);
        refusals.ThrowIfAny();
        return business!;
    }

    /// <summary>What contradicts itself is refused, so that no tax is dropped without a word.</summary>
    private static void Taxed(Refusals refusals, FirstRun first)
    {
        var (name, number) = (first.TaxName.Trim(), first.Business.TaxNumber.Trim());
        if (first.Kit is not null && (name.Length > 0 || first.TaxPercent > 0))
            refusals.Add(
                "taxName",
                "A kit brings its own taxes. Choose the kit, or one tax by name and rate; not both."
            );
        else if (first.Kit is null && name.Length == 0 && first.TaxPercent > 0)
            refusals.Add("taxName", "Give the tax its name, or leave the rate at 0.");
        else if (first.Kit is null && name.Length > 0 && first.TaxPercent == 0)
            refusals.Add("taxPercent", "Give the rate of the tax, or empty its name if you charge none.");
        if (number.Length > 0 && first.Kit is { Authorities.Count: > 0 } && first.RegisteredFrom is null)
            refusals.Add(
                "registeredFrom",
                "With a tax number you are registered: say since when. Or empty the number, if you are not; then no tax is charged."
            );
        else if (
            number.Length > 0
            && first.Kit is null
            && name.Length == 0
            && first.TaxPercent == 0
            && first.RegisteredFrom is null
        )
            refusals.Add(
                "taxName",
                "A tax number is given, and no tax. Name the tax with its rate, or choose a kit; the one without tax, if you charge none."
            );
        if (first.Kit?.GoesByRegion == true && first.Business.Address.Region.Trim().Length == 0)
            refusals.Add(
                "region",
                "This kit taxes by region. Give the region of the business, so that its own can be told from the others."
            );
        if (first.RegisteredFrom is not null && first.Kit is null && name.Length == 0)
            refusals.Add("taxName", "Registered for tax, and no tax is named. Name it with its rate, or choose a kit.");
    }

    private async Task AddOwnerAsync(FirstRun first)
    {
        var owner = new Person
        {
            UserName = first.OwnerEmail.Trim(),
            Email = first.OwnerEmail.Trim(),
            EmailConfirmed = true,
            FullName = first.OwnerName.Trim(),
            Role = PersonRole.Owner,
            LockoutEnabled = true,
        };
        PasswordRefusals.Throw(await people.CreateAsync(owner, first.Password), "ownerEmail");
    }

    private static readonly string[] UsualReasons =
    [
        "Goods came back",
        "Damaged on the way",
        "Billed too much",
        "Billed twice",
        "Agreed afterwards",
        "Billed too little",
    ];

    private static readonly DateOnly EverSince = new(2000, 1, 1);

    private static Series Usual(Series series)
    {
        series.MakeUsual(true);
        return series;
    }

    /// <summary>One tax at one rate, or none.</summary>
    private static TaxKit OneTax(FirstRun first)
    {
        var none = new KitCode("NONE", "No tax", TaxCategory.OutOfScope, "Not subject to tax.", []);
        var name = first.TaxName.Trim();
        return name.Length == 0
            ? new TaxKit { Name = "No tax", Codes = [none] }
            : new TaxKit
            {
                Name = name,
                Authorities = [new KitAuthority("Tax office")],
                Components = [new KitComponent(name, "Tax office", [new KitRate(EverSince, first.TaxPercent)])],
                Codes = [new KitCode("STD", $"{name}, standard", TaxCategory.Standard, "", [new KitPart(name)]), none],
            };
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
            new("1010", "Cash box", AccountRole.Money, MoneyKind.Cash),
            new("1020", "Card clearing", AccountRole.Money, MoneyKind.CardClearing),
            new("1200", "Receivables", AccountRole.Receivables),
            new("2200", "Tax owed", AccountRole.TaxOwed),
            new("3000", "Sales", AccountRole.Sales),
            new("4900", "Exchange differences", AccountRole.ExchangeDifferences),
            new("4910", "Rounding differences", AccountRole.RoundingDifferences),
            new("4920", "Early-payment discounts", AccountRole.DiscountsGiven),
            new("4930", "Bad debts", AccountRole.BadDebts),
            new("4940", "Interest received", AccountRole.Other),
            new("4950", "Bank and card charges", AccountRole.Other),
            new("2900", "Opening balances", AccountRole.OpeningBalances),
        ];
}
