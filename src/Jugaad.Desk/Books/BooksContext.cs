using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Jugaad.Core.Paying;
using Jugaad.Core.Returns;
using Jugaad.Core.Schedules;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books.Mapping;
using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Jugaad.Desk.Books;

/// <summary>
/// All that is kept, in one SQLite file. Amounts are whole minor units, figures whole millionths, dates ISO text and
/// enumerations short text.
/// </summary>
public sealed class BooksContext(DbContextOptions<BooksContext> options)
    : IdentityDbContext<Person, IdentityRole<int>, int>(options)
{
    public DbSet<Business> Businesses => Set<Business>();

    public DbSet<Customer> Customers => Set<Customer>();

    public DbSet<Item> Items => Set<Item>();

    public DbSet<CustomerItemNumber> ItemNumbers => Set<CustomerItemNumber>();

    public DbSet<PriceList> PriceLists => Set<PriceList>();

    public DbSet<PaperPlace> PaperPlaces => Set<PaperPlace>();

    public DbSet<StockMove> StockMoves => Set<StockMove>();

    public DbSet<ItemBatch> ItemBatches => Set<ItemBatch>();

    public DbSet<PaymentTerms> Terms => Set<PaymentTerms>();

    public DbSet<TaxAuthority> TaxAuthorities => Set<TaxAuthority>();

    public DbSet<TaxFigure> TaxFigures => Set<TaxFigure>();

    public DbSet<TaxReturn> TaxReturns => Set<TaxReturn>();
    public DbSet<TaxCharge> TaxCharges => Set<TaxCharge>();
    public DbSet<TaxCarry> TaxCarries => Set<TaxCarry>();

    public DbSet<TaxComponent> TaxComponents => Set<TaxComponent>();

    public DbSet<TaxCode> TaxCodes => Set<TaxCode>();

    public DbSet<TaxRule> TaxRules => Set<TaxRule>();

    public DbSet<KindText> KindTexts => Set<KindText>();

    public DbSet<Series> Series => Set<Series>();

    public DbSet<NumberGap> NumberGaps => Set<NumberGap>();

    public DbSet<BackupSettings> BackupSettings => Set<BackupSettings>();

    public DbSet<BackupRun> BackupRuns => Set<BackupRun>();

    public DbSet<MachineSettings> MachineSettings => Set<MachineSettings>();

    public DbSet<ExchangeRate> ExchangeRates => Set<ExchangeRate>();

    public DbSet<AuthorityRate> AuthorityRates => Set<AuthorityRate>();

    public DbSet<RateRules> RateRules => Set<RateRules>();

    public DbSet<Conversion> Conversions => Set<Conversion>();

    public DbSet<ValuationPosting> Valuations => Set<ValuationPosting>();

    public DbSet<Document> Documents => Set<Document>();

    public DbSet<Receipt> Receipts => Set<Receipt>();

    public DbSet<DocumentFile> DocumentFiles => Set<DocumentFile>();

    public DbSet<DocumentLink> DocumentLinks => Set<DocumentLink>();

    public DbSet<AccountLink> AccountLinks => Set<AccountLink>();

    public DbSet<PayingSettings> PayingSettings => Set<PayingSettings>();

    public DbSet<PayRequest> PayRequests => Set<PayRequest>();

    public DbSet<CardCall> CardCalls => Set<CardCall>();

    public DbSet<CardPayout> CardPayouts => Set<CardPayout>();

    public DbSet<LateCharge> LateCharges => Set<LateCharge>();

    public DbSet<LateRate> LateRates => Set<LateRate>();

    public DbSet<CreditPass> CreditPasses => Set<CreditPass>();

    public DbSet<Starter> Starters => Set<Starter>();

    public DbSet<StandingInvoice> StandingInvoices => Set<StandingInvoice>();

    public DbSet<ShelfEntry> Shelf => Set<ShelfEntry>();

    public DbSet<MailWords> MailWords => Set<MailWords>();

    public DbSet<AccountItem> AccountItems => Set<AccountItem>();

    public DbSet<Allocation> Allocations => Set<Allocation>();

    public DbSet<BankStatement> BankStatements => Set<BankStatement>();

    public DbSet<BankLine> BankLines => Set<BankLine>();

    public DbSet<PayerRule> PayerRules => Set<PayerRule>();

    public DbSet<CsvMap> CsvMaps => Set<CsvMap>();

    public DbSet<PayWay> PayWays => Set<PayWay>();

    public DbSet<NoteReason> NoteReasons => Set<NoteReason>();

    public DbSet<Booking> Bookings => Set<Booking>();

    public DbSet<Settlement> Settlements => Set<Settlement>();

    public DbSet<Refund> Refunds => Set<Refund>();

    public DbSet<PaymentFile> PaymentFiles => Set<PaymentFile>();

    /// <summary>What receivers said of e-invoices.</summary>
    public DbSet<SalesSummary> SalesSummaries => Set<SalesSummary>();

    public DbSet<SummarySale> SummarySales => Set<SummarySale>();

    public DbSet<NetworkAnswer> NetworkAnswers => Set<NetworkAnswer>();

    public DbSet<OtherMoney> OtherMoney => Set<OtherMoney>();

    public DbSet<TillCount> TillCounts => Set<TillCount>();

    public DbSet<LedgerAccount> LedgerAccounts => Set<LedgerAccount>();

    public DbSet<JournalEntry> Journal => Set<JournalEntry>();

    public DbSet<PostItem> Post => Set<PostItem>();

    public DbSet<MailSettings> MailSettings => Set<MailSettings>();

    public DbSet<CollectingSettings> CollectingSettings => Set<CollectingSettings>();

    public DbSet<ContactNote> ContactNotes => Set<ContactNote>();

    public DbSet<CustomerPromise> Promises => Set<CustomerPromise>();

    public DbSet<Dispute> Disputes => Set<Dispute>();

    public DbSet<AgreedPlan> Plans => Set<AgreedPlan>();

    public DbSet<LetterLadder> Ladders => Set<LetterLadder>();

    public DbSet<ChaseLetter> ChaseLetters => Set<ChaseLetter>();

    public DbSet<LeftOut> LeftOut => Set<LeftOut>();

    public DbSet<Holiday> Holidays => Set<Holiday>();

    public DbSet<ImportRun> ImportRuns => Set<ImportRun>();

    public DbSet<ImportEffect> ImportEffects => Set<ImportEffect>();

    public DbSet<Invitation> Invitations => Set<Invitation>();

    public DbSet<CalendarKey> CalendarKeys => Set<CalendarKey>();

    public DbSet<OpenSession> OpenSessions => Set<OpenSession>();

    public DbSet<PasswordReset> PasswordResets => Set<PasswordReset>();

    public DbSet<TrailEntry> Trail => Set<TrailEntry>();

    public DbSet<KeptView> KeptViews => Set<KeptView>();

    public DbSet<ClosingTick> ClosingTicks => Set<ClosingTick>();

    public DbSet<KeptLayout> Layouts => Set<KeptLayout>();

    public DbSet<LayoutState> LayoutStates => Set<LayoutState>();

    public DbSet<LayoutRule> LayoutRules => Set<LayoutRule>();

    public DbSet<KeptPicture> KeptPictures => Set<KeptPicture>();

    public DbSet<IssuedLook> IssuedLooks => Set<IssuedLook>();

    public DbSet<SentPaper> SentPapers => Set<SentPaper>();

    public DbSet<SentFile> SentFiles => Set<SentFile>();

    public DbSet<KeptWords> KeptWords => Set<KeptWords>();

    public DbSet<Wording> Wordings => Set<Wording>();

    public DbSet<OwnLanguage> OwnLanguages => Set<OwnLanguage>();

    public DbSet<AnsweredForm> AnsweredForms => Set<AnsweredForm>();

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        configurationBuilder.Properties<Enum>().HaveConversion<string>().HaveMaxLength(40);
        configurationBuilder.Properties<decimal>().HaveConversion<KeptAs.Millionths>();
        configurationBuilder.Properties<QuotedRate>().HaveConversion<KeptAs.Quoted>().HaveMaxLength(40);
        configurationBuilder.Properties<Currency>().HaveConversion<KeptAs.CurrencyCode>().HaveMaxLength(3);
    }

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        AccountsMapping.Map(builder);
        BankingMapping.Map(builder);
        BooksMapping.Map(builder);
        CollectingMapping.Map(builder);
        CounterMapping.Map(builder);
        DraftingMapping.Map(builder);
        KeepingMapping.Map(builder);
        LayoutsMapping.Map(builder);
        MovingMapping.Map(builder);
        PapersMapping.Map(builder);
        PayingMapping.Map(builder);
        PeopleMapping.Map(builder);
        PostMapping.Map(builder);
        ReceivingMapping.Map(builder);
        ReferenceMapping.Map(builder);
        SetupMapping.Map(builder);
        StandingMapping.Map(builder);
        StockMapping.Map(builder);
        ReportsMapping.Map(builder);
        TaxMapping.Map(builder);
        LeaveEmptyOut(builder);
    }

    /// <summary>
    /// An index of a column that may be empty leaves out the rows in which it is. Where nearly all are, SQLite's
    /// statistics would otherwise say that the index finds nothing sooner than reading the whole table does, and each
    /// look would read it.
    /// </summary>
    private static void LeaveEmptyOut(ModelBuilder builder)
    {
        var sparse =
            from type in builder.Model.GetEntityTypes()
            from index in type.GetIndexes()
            where !index.IsUnique && index.Properties is [{ IsNullable: true }] && index.GetFilter() is null
            select (type, index);
        foreach (var (type, index) in sparse.ToList())
        {
            var table = StoreObjectIdentifier.Table(type.GetTableName()!, type.GetSchema());
            index.SetFilter($"\"{index.Properties[0].GetColumnName(table)}\" IS NOT NULL");
        }
    }
}
