using System.Text.Json;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Jugaad.Core.Schedules;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

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

    public DbSet<PriceList> PriceLists => Set<PriceList>();

    public DbSet<StockMove> StockMoves => Set<StockMove>();

    public DbSet<ItemBatch> ItemBatches => Set<ItemBatch>();

    public DbSet<PaymentTerms> Terms => Set<PaymentTerms>();

    public DbSet<TaxAuthority> TaxAuthorities => Set<TaxAuthority>();

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

    public DbSet<Document> Documents => Set<Document>();

    public DbSet<Receipt> Receipts => Set<Receipt>();

    public DbSet<DocumentFile> DocumentFiles => Set<DocumentFile>();

    public DbSet<DocumentLink> DocumentLinks => Set<DocumentLink>();

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

    public DbSet<OtherMoney> OtherMoney => Set<OtherMoney>();

    public DbSet<TillCount> TillCounts => Set<TillCount>();

    public DbSet<LedgerAccount> LedgerAccounts => Set<LedgerAccount>();

    public DbSet<JournalEntry> Journal => Set<JournalEntry>();

    public DbSet<PostItem> Post => Set<PostItem>();

    public DbSet<MailSettings> MailSettings => Set<MailSettings>();

    public DbSet<ImportRun> ImportRuns => Set<ImportRun>();

    public DbSet<ImportEffect> ImportEffects => Set<ImportEffect>();

    public DbSet<Invitation> Invitations => Set<Invitation>();

    public DbSet<OpenSession> OpenSessions => Set<OpenSession>();

    public DbSet<PasswordReset> PasswordResets => Set<PasswordReset>();

    public DbSet<TrailEntry> Trail => Set<TrailEntry>();

    public DbSet<AnsweredForm> AnsweredForms => Set<AnsweredForm>();

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        configurationBuilder.Properties<Enum>().HaveConversion<string>().HaveMaxLength(40);
        configurationBuilder.Properties<decimal>().HaveConversion<Millionths>();
        configurationBuilder.Properties<Currency>().HaveConversion<CurrencyCode>().HaveMaxLength(3);
    }

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.Entity<IdentityUserPasskey<int>>(passkey =>
        {
            passkey.ToTable("AspNetUserPasskeys").HasKey(p => p.CredentialId);
            passkey.OwnsOne(p => p.Data).ToJson();
            passkey.HasOne<Person>().WithMany().HasForeignKey(p => p.UserId).OnDelete(DeleteBehavior.Cascade);
        });
        Masters(builder);
        builder.Entity<Document>(Documents_);
        builder.Entity<DocumentLine>(line =>
        {
            line.HasIndex(l => l.FromLineId);
            line.HasIndex(l => l.FromChargeId);
            line.Ignore(l => l.Counts);
        });
        builder.Entity<DocumentCharge>().HasIndex(c => c.FromChargeId);
        AroundDocuments(builder);
        Accounts(builder);
        Journal_(builder);

        builder.Entity<PostItem>(post =>
        {
            post.HasMany(p => p.Attachments).WithOne().HasForeignKey(a => a.PostItemId);
            post.HasIndex(p => new { p.State, p.NextTryAt });
            post.HasIndex(p => p.CustomerId);
            post.HasIndex(p => p.Key).IsUnique();
            post.HasMany(p => p.History).WithOne().HasForeignKey(t => t.PostItemId);
            // Whoever takes it back and whoever carries it find out of each other.
            post.Property(p => p.State).IsConcurrencyToken();
        });
        builder.Entity<TrailEntry>(trail =>
        {
            trail.HasIndex(t => t.DocumentId);
            trail.HasIndex(t => t.CustomerId);
            trail.HasIndex(t => t.ReceiptId);
            trail.HasIndex(t => t.Day);
        });
        builder.Entity<ImportRun>().Ignore(r => r.Settings).Ignore(r => r.Report).Ignore(r => r.TakenBack);
        builder.Entity<ImportEffect>(effect =>
        {
            effect.HasOne<ImportRun>().WithMany().HasForeignKey(e => e.RunId);
            effect.HasIndex(e => e.RunId);
        });
        builder.Entity<OpenSession>(session =>
        {
            session.HasOne<Person>().WithMany().HasForeignKey(s => s.PersonId);
            session.HasIndex(s => s.KeyHash).IsUnique();
        });
        builder.Entity<PasswordReset>(reset =>
        {
            reset.HasOne<Person>().WithMany().HasForeignKey(r => r.PersonId);
            reset.HasIndex(r => r.TokenHash).IsUnique();
        });
        builder.Entity<Invitation>().HasIndex(i => i.TokenHash).IsUnique();
        builder.Entity<AnsweredForm>(form =>
        {
            form.HasKey(f => f.Key);
            form.Property(f => f.Key).HasMaxLength(80);
        });
    }

    private static void Masters(ModelBuilder builder)
    {
        builder.Entity<Business>(business =>
        {
            business.ComplexProperty(b => b.Address);
            business.Property(b => b.AgeingEdges).HasDefaultValue("30,60,90");
            business.Ignore(b => b.Format).Ignore(b => b.PaperName).Ignore(b => b.Edges).Ignore(b => b.IsResting);
        });
        builder.Entity<Customer>(customer =>
        {
            customer.ComplexProperty(c => c.Address);
            customer.HasIndex(c => c.Code).IsUnique();
            customer.HasIndex(c => c.Name);
            customer.Property(c => c.Version).IsConcurrencyToken();
            customer.HasOne(c => c.Terms).WithMany().HasForeignKey(c => c.TermsId);
            customer.HasMany(c => c.Contacts).WithOne().HasForeignKey("CustomerId").IsRequired();
            customer.HasMany(c => c.Places).WithOne().HasForeignKey("CustomerId").IsRequired();
            customer.HasMany(c => c.Certificates).WithOne().HasForeignKey("CustomerId").IsRequired();
            customer.HasOne<Customer>().WithMany().HasForeignKey(c => c.MergedIntoId).OnDelete(DeleteBehavior.Restrict);
            customer.HasOne<Person>().WithMany().HasForeignKey(c => c.SellerId).OnDelete(DeleteBehavior.SetNull);
            customer
                .Ignore(c => c.TagList)
                .Ignore(c => c.PaperName)
                .Ignore(c => c.InvoiceEmail)
                .Ignore(c => c.ReminderEmail);
            customer.HasIndex(c => c.TaxNumber);
            customer.HasIndex(c => c.RegistrationNumber);
            customer.HasIndex(c => c.Email);
        });
        builder.Entity<CustomerContact>(contact =>
        {
            contact.ToTable("CustomerContacts");
            contact.Ignore(c => c.Details).Ignore(c => c.Parts);
        });
        builder.Entity<CustomerPlace>(place =>
        {
            place.ToTable("CustomerPlaces");
            place.ComplexProperty(p => p.Address);
        });
        builder.Entity<ExemptionCertificate>().ToTable("ExemptionCertificates");
        builder.Entity<Item>(item =>
        {
            item.HasIndex(i => i.Code).IsUnique();
            item.HasIndex(i => i.Name);
            item.HasIndex(i => i.Barcode);
            item.HasMany(i => i.Prices).WithOne().HasForeignKey("ItemId").IsRequired();
            item.Navigation(i => i.Prices).AutoInclude();
            item.Ignore(i => i.PaperText);
            item.Property(i => i.Version).IsConcurrencyToken();
            item.HasOne<TaxCode>().WithMany().HasForeignKey(i => i.TaxCodeId).OnDelete(DeleteBehavior.Restrict);
            item.HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(i => i.LedgerAccountId)
                .OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<ItemPrice>(price =>
        {
            price.ToTable("ItemPrices");
            price.HasOne<PriceList>().WithMany().HasForeignKey(p => p.PriceListId).OnDelete(DeleteBehavior.Restrict);
            price.HasIndex("ItemId", nameof(ItemPrice.PriceListId)).IsUnique();
        });
        builder.Entity<StockMove>(move =>
        {
            move.HasOne<Item>().WithMany().HasForeignKey(m => m.ItemId).OnDelete(DeleteBehavior.Restrict);
            move.HasIndex(m => new { m.ItemId, m.Date });
            move.HasIndex(m => m.DocumentId);
        });
        builder.Entity<ItemBatch>().HasMany(b => b.Rows).WithOne().HasForeignKey("BatchId").IsRequired();
        builder.Entity<ItemBatchRow>().ToTable("ItemBatchRows");
        builder.Entity<TaxAuthority>().HasIndex(a => a.Name).IsUnique();
        builder.Entity<TaxComponent>(component =>
        {
            component.HasMany(c => c.Rates).WithOne().HasForeignKey("ComponentId").IsRequired();
            component.Navigation(c => c.Rates).AutoInclude();
            component
                .HasOne(c => c.Authority)
                .WithMany()
                .HasForeignKey("AuthorityId")
                .OnDelete(DeleteBehavior.Restrict);
            component.Navigation(c => c.Authority).AutoInclude();
            component.HasIndex(c => c.Name).IsUnique();
        });
        builder.Entity<TaxRate>().ToTable("TaxRates").HasIndex("ComponentId", nameof(TaxRate.From)).IsUnique();
        builder.Entity<TaxCodePart>(part =>
        {
            part.ToTable("TaxCodeParts");
            part.HasOne(p => p.Component)
                .WithMany()
                .HasForeignKey("ComponentId")
                .IsRequired()
                .OnDelete(DeleteBehavior.Restrict);
            part.Navigation(p => p.Component).AutoInclude();
        });
        builder.Entity<TaxCode>(code =>
        {
            code.HasMany(c => c.Parts).WithOne().HasForeignKey("TaxCodeId").IsRequired();
            code.Navigation(c => c.Parts).AutoInclude();
            code.HasIndex(c => c.Code).IsUnique();
        });
        builder.Entity<TaxRule>(rule =>
        {
            rule.HasOne<TaxCode>().WithMany().HasForeignKey(r => r.TaxCodeId).OnDelete(DeleteBehavior.Restrict);
            rule.HasOne<TaxCode>().WithMany().HasForeignKey(r => r.PreferredCodeId).OnDelete(DeleteBehavior.Restrict);
            rule.Ignore(r => r.Case);
        });
        builder.Entity<Series>(series =>
        {
            series.HasMany(s => s.Counters).WithOne().HasForeignKey("SeriesId").IsRequired();
            series.Navigation(s => s.Counters).AutoInclude();
        });
        builder
            .Entity<SeriesCounter>()
            .ToTable("SeriesCounters")
            .HasIndex("SeriesId", nameof(SeriesCounter.Year))
            .IsUnique();
        builder
            .Entity<NumberGap>()
            .Ignore(g => g.Words)
            .HasOne<Series>()
            .WithMany()
            .HasForeignKey(g => g.SeriesId)
            .OnDelete(DeleteBehavior.Restrict);
        builder.Entity<BackupSettings>().Ignore(s => s.Retention);
        builder.Entity<BackupRun>(run =>
        {
            run.Ignore(r => r.IsGood);
            run.HasIndex(r => r.At);
        });
        builder.Entity<ExchangeRate>(rate =>
        {
            rate.Property(r => r.Rate).HasConversion<TenDecimals>();
            rate.HasIndex(r => new { r.Currency, r.From }).IsUnique();
        });
        builder.Entity<LedgerAccount>().HasIndex(a => a.Code).IsUnique();
        builder.Entity<KindText>().HasIndex(t => t.Kind).IsUnique();
    }

    private static void Documents_(EntityTypeBuilder<Document> document)
    {
        document.HasMany(d => d.Lines).WithOne().HasForeignKey(l => l.DocumentId);
        document.HasMany(d => d.Charges).WithOne().HasForeignKey(c => c.DocumentId);
        document.HasMany(d => d.Taxes).WithOne().HasForeignKey(t => t.DocumentId);
        document.HasOne(d => d.Customer).WithMany().HasForeignKey(d => d.CustomerId).OnDelete(DeleteBehavior.Restrict);
        document.HasOne<Series>().WithMany().HasForeignKey(d => d.SeriesId).OnDelete(DeleteBehavior.Restrict);
        document.Property(d => d.ExchangeRate).HasConversion<TenDecimals>();
        document.Property(d => d.Addressee).HasConversion(AsJson<Addressee>());
        document.Property(d => d.Sender).HasConversion(AsJson<Sender>());
        document.Property(d => d.Place).HasConversion(AsJson<Address>());
        document.Property(d => d.Version).IsConcurrencyToken();
        document.ComplexProperty(d => d.Particulars);
        document
            .Ignore(d => d.CanBeChanged)
            .Ignore(d => d.Policy)
            .Ignore(d => d.IsDraft)
            .Ignore(d => d.Title)
            .Ignore(d => d.CanBeMadeFrom);
        // One number for each kind, whatever series or hand it came from.
        document.HasIndex(d => new { d.Kind, d.Number }).IsUnique();
        document.HasIndex(d => new { d.SeriesId, d.Number });
        document.HasIndex(d => new
        {
            d.Kind,
            d.State,
            d.Date,
        });
        document.HasIndex(d => new { d.CustomerId, d.Kind });
        document.HasIndex(d => d.Date);
        document.HasIndex(d => new { d.Kind, d.Date });
        document.HasIndex(d => new { d.State, d.Date });
        document.HasIndex(d => d.Number);
        document.HasIndex(d => d.Payable);
        document.HasIndex(d => d.FromDocumentId);
        document.HasIndex(d => d.RevisesId);
    }

    private static void AroundDocuments(ModelBuilder builder)
    {
        builder.Entity<DocumentFile>(file =>
        {
            file.HasOne<Document>().WithMany().HasForeignKey(f => f.DocumentId);
            file.HasIndex(f => f.DocumentId);
        });
        builder.Entity<DocumentLink>(link =>
        {
            link.HasOne<Document>().WithMany().HasForeignKey(l => l.DocumentId);
            link.HasIndex(l => l.DocumentId).IsUnique();
            link.HasIndex(l => l.Token).IsUnique();
        });
        builder.Entity<Starter>().Property(s => s.Content).HasConversion(ContentAsJson());
        builder.Entity<StandingInvoice>(standing =>
        {
            standing.Property(s => s.Content).HasConversion(ContentAsJson());
            standing.ComplexProperty(s => s.Schedule);
            standing.Ignore(s => s.Details).Ignore(s => s.NextDay).Ignore(s => s.HasEnded);
            standing.Property(s => s.Version).IsConcurrencyToken();
            standing.HasOne<Customer>().WithMany().HasForeignKey(s => s.CustomerId).OnDelete(DeleteBehavior.Restrict);
            standing.HasMany(s => s.Occurrences).WithOne().HasForeignKey(o => o.StandingInvoiceId);
        });
        builder.Entity<StandingOccurrence>(occurrence =>
        {
            occurrence.ToTable("StandingOccurrences");
            occurrence.HasOne<Document>().WithMany().HasForeignKey(o => o.DocumentId).OnDelete(DeleteBehavior.Restrict);
            // One occurrence gives at most one document, whatever happens in between.
            occurrence.HasIndex(o => new { o.StandingInvoiceId, o.Index }).IsUnique();
            occurrence.HasIndex(o => o.DocumentId);
        });
        builder.Entity<ShelfEntry>().HasIndex(s => new { s.OnShelf, s.Who });
        builder.Entity<MailWords>().HasIndex(w => new { w.Text, w.Language }).IsUnique();
    }

    private static void Accounts(ModelBuilder builder)
    {
        builder.Entity<Receipt>(receipt =>
        {
            receipt.Property(r => r.ExchangeRate).HasConversion<TenDecimals>();
            receipt.HasOne<Customer>().WithMany().HasForeignKey(r => r.CustomerId).OnDelete(DeleteBehavior.Restrict);
            receipt
                .HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(r => r.MoneyAccountId)
                .OnDelete(DeleteBehavior.Restrict);
            receipt.HasIndex(r => r.Number).IsUnique();
            receipt.HasIndex(r => r.Date);
            receipt.HasIndex(r => r.Amount);
            receipt.HasIndex(r => r.CustomerId);
            receipt.HasOne(r => r.Booking).WithMany().HasForeignKey(r => r.BookingId).OnDelete(DeleteBehavior.Restrict);
        });
        AroundMoney(builder);
        builder.Entity<AccountItem>(item =>
        {
            item.HasOne<Customer>().WithMany().HasForeignKey(i => i.CustomerId).OnDelete(DeleteBehavior.Restrict);
            item.HasOne<Document>().WithMany().HasForeignKey(i => i.DocumentId).OnDelete(DeleteBehavior.Restrict);
            item.HasOne<Receipt>().WithMany().HasForeignKey(i => i.ReceiptId).OnDelete(DeleteBehavior.Restrict);
            item.Ignore(i => i.Raises).Ignore(i => i.Allocations);
            item.HasOne(i => i.Booking).WithMany().HasForeignKey(i => i.BookingId).OnDelete(DeleteBehavior.Restrict);
            item.HasIndex(i => new { i.CustomerId, i.Date });
            item.HasIndex(i => i.DocumentId).IsUnique();
            item.HasIndex(i => i.ReceiptId).IsUnique();
            // The lists of what is open read only this small part of the table.
            item.HasIndex(
                    i => new
                    {
                        i.Due,
                        i.CustomerId,
                        i.Sign,
                        i.HomeOpen,
                    },
                    "IX_AccountItems_Open"
                )
                .HasFilter("\"Open\" > 0");
            item.HasIndex(
                    i => new
                    {
                        i.Kind,
                        i.Date,
                        i.HomeOpen,
                    },
                    "IX_AccountItems_OpenByKind"
                )
                .HasFilter("\"Open\" > 0");
            item.HasIndex(
                    i => new
                    {
                        i.CustomerId,
                        i.Sign,
                        i.Due,
                        i.Open,
                        i.HomeOpen,
                    },
                    "IX_AccountItems_OpenOf"
                )
                .HasFilter("\"Open\" > 0");
        });
        builder.Entity<Allocation>(allocation =>
        {
            allocation
                .HasOne(a => a.Raising)
                .WithMany()
                .HasForeignKey(a => a.RaisingId)
                .OnDelete(DeleteBehavior.Restrict);
            allocation
                .HasOne(a => a.Lowering)
                .WithMany()
                .HasForeignKey(a => a.LoweringId)
                .OnDelete(DeleteBehavior.Restrict);
            allocation
                .HasOne(a => a.Booking)
                .WithMany()
                .HasForeignKey(a => a.BookingId)
                .OnDelete(DeleteBehavior.Restrict);
            allocation
                .HasOne(a => a.EndedBy)
                .WithMany()
                .HasForeignKey(a => a.EndedById)
                .OnDelete(DeleteBehavior.Restrict);
            // What was taken apart again is history: only what asks for a day in the past looks at it.
            allocation.HasQueryFilter(a => a.Until == null);
            allocation.Ignore(a => a.ExchangeGain);
            allocation.HasIndex(a => a.Date);
        });
    }

    private static void AroundMoney(ModelBuilder builder)
    {
        builder.Entity<BankStatement>(statement =>
        {
            statement
                .HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(s => s.AccountId)
                .OnDelete(DeleteBehavior.Restrict);
            statement.HasMany(s => s.Lines).WithOne().HasForeignKey(l => l.StatementId);
            statement.HasIndex(s => new { s.AccountId, s.From });
        });
        builder.Entity<BankLine>(line =>
        {
            line.HasMany(l => l.Placements).WithOne().HasForeignKey(p => p.LineId);
            line.HasIndex(l => new
            {
                l.AccountId,
                l.Date,
                l.Amount,
            });
            line.HasIndex(l => l.Date);
            // What is still to be placed is looked for all the time.
            line.HasIndex(l => new { l.AccountId, l.Id }, "IX_BankLines_ToPlace")
                .HasFilter("\"Placed\" <> \"Amount\"");
            line.Ignore(l => l.Left);
        });
        builder.Entity<LinePlacement>(placement =>
        {
            placement.ToTable("LinePlacements");
            placement.HasOne<Booking>().WithMany().HasForeignKey(p => p.BookingId).OnDelete(DeleteBehavior.Restrict);
            placement.HasOne<Receipt>().WithMany().HasForeignKey(p => p.ReceiptId).OnDelete(DeleteBehavior.Restrict);
            placement.HasIndex(p => p.ReceiptId);
            placement.HasIndex(p => p.JoinedBookingId);
            placement
                .HasOne<Booking>()
                .WithMany()
                .HasForeignKey(p => p.JoinedBookingId)
                .OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<PayerRule>(rule =>
        {
            rule.HasIndex(r => r.Account);
            rule.HasOne<Customer>().WithMany().HasForeignKey(r => r.CustomerId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<CsvMap>(map =>
        {
            map.HasKey(m => m.AccountId);
            map.Property(m => m.AccountId).ValueGeneratedNever();
            map.Property(m => m.Columns).HasConversion(AsJson<CsvColumns>());
        });
        builder.Entity<PayWay>(way =>
        {
            way.HasIndex(w => w.Name).IsUnique();
            way.HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(w => w.MoneyAccountId)
                .OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<NoteReason>().HasIndex(r => r.Text).IsUnique();
        builder.Entity<Booking>(booking =>
        {
            booking.HasIndex(b => new { b.CustomerId, b.Id });
            booking.Ignore(b => b.IsUndone);
        });
        builder.Entity<Settlement>(settlement =>
        {
            settlement.Property(s => s.ExchangeRate).HasConversion<TenDecimals>();
            settlement.HasMany(s => s.Taxes).WithOne().HasForeignKey(t => t.SettlementId);
            settlement
                .HasOne(s => s.Booking)
                .WithMany()
                .HasForeignKey(s => s.BookingId)
                .OnDelete(DeleteBehavior.Restrict);
            settlement.HasOne<Document>().WithMany().HasForeignKey(s => s.DocumentId).OnDelete(DeleteBehavior.Restrict);
            settlement.Ignore(s => s.Tax).Ignore(s => s.Net);
        });
        builder.Entity<Refund>(refund =>
        {
            refund.Property(r => r.ExchangeRate).HasConversion<TenDecimals>();
            refund.HasOne(r => r.Booking).WithMany().HasForeignKey(r => r.BookingId).OnDelete(DeleteBehavior.Restrict);
            refund.HasOne<Customer>().WithMany().HasForeignKey(r => r.CustomerId).OnDelete(DeleteBehavior.Restrict);
            refund
                .HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(r => r.MoneyAccountId)
                .OnDelete(DeleteBehavior.Restrict);
            refund.HasIndex(r => r.Number).IsUnique();
            refund
                .HasOne<PaymentFile>()
                .WithMany()
                .HasForeignKey(r => r.PaymentFileId)
                .OnDelete(DeleteBehavior.Restrict);
            refund.Ignore(r => r.ByBank);
        });
        builder.Entity<PaymentFile>(file =>
        {
            file.HasIndex(f => f.Reference).IsUnique();
            file.HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(f => f.MoneyAccountId)
                .OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<OtherMoney>(money =>
        {
            money.HasOne(m => m.Booking).WithMany().HasForeignKey(m => m.BookingId).OnDelete(DeleteBehavior.Restrict);
            money
                .HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(m => m.MoneyAccountId)
                .OnDelete(DeleteBehavior.Restrict);
            money
                .HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(m => m.LedgerAccountId)
                .OnDelete(DeleteBehavior.Restrict);
            money.HasIndex(m => m.Date);
            money.Ignore(m => m.Tax);
        });
        builder.Entity<TillCount>(count =>
        {
            count.HasOne(c => c.Booking).WithMany().HasForeignKey(c => c.BookingId).OnDelete(DeleteBehavior.Restrict);
            count.HasOne<LedgerAccount>().WithMany().HasForeignKey(c => c.AccountId).OnDelete(DeleteBehavior.Restrict);
            count.Ignore(c => c.Difference);
        });
    }

    private static void Journal_(ModelBuilder builder)
    {
        builder.Entity<JournalEntry>(entry =>
        {
            entry.HasMany(e => e.Lines).WithOne().HasForeignKey(l => l.EntryId);
            entry.HasIndex(e => e.Date);
            entry.HasIndex(e => e.DocumentId);
            entry.HasIndex(e => e.ReceiptId);
            entry.HasOne(e => e.Item).WithMany().HasForeignKey(e => e.ItemId).OnDelete(DeleteBehavior.SetNull);
            entry.HasOne(e => e.Booking).WithMany().HasForeignKey(e => e.BookingId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<JournalLine>(line =>
        {
            line.ToTable("JournalLines");
            line.HasOne<LedgerAccount>().WithMany().HasForeignKey(l => l.AccountId).OnDelete(DeleteBehavior.Restrict);
        });
    }

    private static ValueConverter<DraftContent, string> ContentAsJson() =>
        new(
            value => JsonSerializer.Serialize(value, (JsonSerializerOptions?)null),
            text => JsonSerializer.Deserialize<DraftContent>(text, (JsonSerializerOptions?)null)!
        );

    private static ValueConverter<T?, string?> AsJson<T>()
        where T : class =>
        new(
            value => value == null ? null : JsonSerializer.Serialize(value, (JsonSerializerOptions?)null),
            text => text == null ? null : JsonSerializer.Deserialize<T>(text, (JsonSerializerOptions?)null)
        );

    /// <summary>Figures of at most 6 decimals as whole millionths.</summary>
    private sealed class Millionths()
        : ValueConverter<decimal, long>(value => (long)(value * 1_000_000m), kept => kept / 1_000_000m);

    /// <summary>Exchange rates of at most 10 decimals as whole 10^-10.</summary>
    private sealed class TenDecimals()
        : ValueConverter<decimal, long>(value => (long)(value * 10_000_000_000m), kept => kept / 10_000_000_000m);

    private sealed class CurrencyCode()
        : ValueConverter<Currency, string>(currency => currency.Code, code => Currency.Of(code, "currency"));
}
