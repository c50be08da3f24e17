using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Machine;
using Jugaad.Desk.Moving;
using Jugaad.Desk.People;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Selling;
using Jugaad.Desk.Setup;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.DependencyInjection.Extensions;

namespace Jugaad.Desk;

/// <summary>Registers the books and all desks for one folder.</summary>
public static class DeskServices
{
    /// <summary>Of PBKDF2 with SHA-512, by OWASP's advice of 2025.</summary>
    private const int HashRounds = 220_000;

    /// <summary>
    /// Whoever composes the program adds an <see cref="IActor"/> and what stands in <see cref="Outside"/>.
    /// </summary>
    public static IServiceCollection AddDesks(this IServiceCollection services, BooksFile file)
    {
        services.AddSingleton(file);
        services.TryAddSingleton(TimeProvider.System);
        services.AddSingleton<PostBell>();
        services.AddSingleton<StandingProgress>();
        services.AddDbContext<BooksContext>((_, options) => file.Configure(options));
        services
            .AddIdentityCore<Person>(identity =>
            {
                // What a password must be, our own rules say.
                identity.Password.RequiredLength = 1;
                identity.Password.RequireNonAlphanumeric = false;
                identity.Password.RequireUppercase = false;
                identity.Password.RequireDigit = false;
                identity.Password.RequireLowercase = false;
                identity.User.RequireUniqueEmail = true;
            })
            .AddRoles<IdentityRole<int>>()
            .AddPasswordValidator<PasswordRules>()
            .AddTokenProvider<OnceCodes>(TokenOptions.DefaultAuthenticatorProvider)
            .AddEntityFrameworkStores<BooksContext>()
            .AddUserStore<PeopleStore>();
        services.Configure<PasswordHasherOptions>(hashing => hashing.IterationCount = HashRounds);
        services.AddSingleton<SignInGuard>();
        foreach (
            var desk in new[]
            {
                typeof(BooksHead),
                typeof(BookWriter),
                typeof(DailyRun),
                typeof(Calendar),
                typeof(BooksSetup),
                typeof(CustomerFinder),
                typeof(Numbers),
                typeof(CustomersDesk),
                typeof(RegisterDesk),
                typeof(ItemsDesk),
                typeof(ItemBatches),
                typeof(StockKeeping),
                typeof(BusinessDesk),
                typeof(TaxDesk),
                typeof(TaxRulesDesk),
                typeof(TaxKitsDesk),
                typeof(AccountsDesk),
                typeof(SeriesDesk),
                typeof(MastersLoader),
                typeof(Drafts),
                typeof(DraftWarnings),
                typeof(UnsaidPlaces),
                typeof(Issuing),
                typeof(Quotes),
                typeof(LineUses),
                typeof(Wholes),
                typeof(LineLinks),
                typeof(Deposits),
                typeof(Pricing),
                typeof(Making),
                typeof(Stages),
                typeof(StageWords),
                typeof(OrderChanges),
                typeof(Deliveries),
                typeof(Credits),
                typeof(Copies),
                typeof(MailWordsDesk),
                typeof(CounterSales),
                typeof(CounterReturns),
                typeof(Tills),
                typeof(StartersDesk),
                typeof(StandingDesk),
                typeof(StandingRun),
                typeof(CustomerLinks),
                typeof(Completion),
                typeof(IssueCheck),
                typeof(IssuingMany),
                typeof(Files),
                typeof(Shelf),
                typeof(CustomerChange),
                typeof(PaperRoom),
                typeof(Receipts),
                typeof(AccountBook),
                typeof(Settlements),
                typeof(Refunds),
                typeof(PaymentFiles),
                typeof(ReceiptSheet),
                typeof(Returns),
                typeof(Transfers),
                typeof(OtherMoneyDesk),
                typeof(Undoing),
                typeof(Statements),
                typeof(BankDays),
                typeof(MatchingBench),
                typeof(BankConversion),
                typeof(PayerLearning),
                typeof(OpeningDesk),
                typeof(OwnTransfers),
                typeof(OutgoingLines),
                typeof(Periods),
                typeof(KeptListsDesk),
                typeof(MailComposing),
                typeof(PostTray),
                typeof(PostCarrying),
                typeof(Connections),
                typeof(BooksCheck),
                typeof(SellScreens),
                typeof(ProgressScreens),
                typeof(AccountScreens),
                typeof(DayScreens),
                typeof(ItemScreens),
                typeof(PostScreens),
                typeof(ReceiveScreens),
                typeof(BankScreens),
                typeof(MoneyScreens),
                typeof(StillToSetUp),
                typeof(TrailScreens),
                typeof(SettlementScreens),
                typeof(AgedReports),
                typeof(JournalReports),
                typeof(RateImpact),
                typeof(IssuedOtherwise),
                typeof(Importing),
                typeof(ImportTaking),
                typeof(ImportUndo),
                typeof(ImportUses),
                typeof(Exporting),
                typeof(BooksFolder),
                typeof(PeopleDesk),
                typeof(OwnSignIn),
                typeof(ForgottenPasswords),
                typeof(SigningIn),
                typeof(Passkeys),
                typeof(ArchiveWriter),
                typeof(BackupMaking),
                typeof(Restoring),
                typeof(TakingUp),
                typeof(Backups),
                typeof(BackupSetup),
                typeof(BackupScreens),
                typeof(MachineSetup),
                typeof(OutsideAddress),
            }
        )
            services.AddScoped(desk);
        return services;
    }
}
