using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How accounts, their bookings and the journal are kept.</summary>
internal static class AccountsMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<AccountItem>(item =>
        {
            item.HasOne<Customer>().WithMany().HasForeignKey(i => i.CustomerId).OnDelete(DeleteBehavior.Restrict);
            item.HasOne<Document>().WithMany().HasForeignKey(i => i.DocumentId).OnDelete(DeleteBehavior.Restrict);
            item.HasOne<Receipt>().WithMany().HasForeignKey(i => i.ReceiptId).OnDelete(DeleteBehavior.Restrict);
            item.Ignore(i => i.Raises).Ignore(i => i.Allocations);
            item.HasOne(i => i.Booking).WithMany().HasForeignKey(i => i.BookingId).OnDelete(DeleteBehavior.Restrict);
            item.HasIndex(i => new { i.CustomerId, i.Date });
            // What was billed within some days, without its papers.
            item.HasIndex(
                    i => new
                    {
                        i.Date,
                        i.DocumentId,
                        i.CustomerId,
                        i.Sign,
                        i.Currency,
                    },
                    "IX_AccountItems_Billed"
                )
                .HasFilter("\"DocumentId\" IS NOT NULL");
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
            // Few are ever taken apart again, and every question of a day asks for those.
            allocation.HasIndex(a => a.Until).HasFilter("\"Until\" IS NOT NULL");
        });
        builder.Entity<Booking>(booking =>
        {
            booking.HasIndex(b => new { b.CustomerId, b.Id });
            booking.Ignore(b => b.IsUndone);
        });
        builder.Entity<JournalEntry>(entry =>
        {
            entry.HasMany(e => e.Lines).WithOne().HasForeignKey(l => l.EntryId);
            entry.HasIndex(e => e.Date);
            // How what each customer owes came about, one customer after the other.
            entry.HasIndex(
                e => new
                {
                    e.CustomerId,
                    e.Date,
                    e.Event,
                    e.IsMirrored,
                },
                "IX_Journal_Customer"
            );
            entry.HasIndex(e => e.DocumentId);
            entry.HasIndex(e => e.ReceiptId);
            entry.HasOne(e => e.Item).WithMany().HasForeignKey(e => e.ItemId).OnDelete(DeleteBehavior.SetNull);
            entry.HasOne(e => e.Booking).WithMany().HasForeignKey(e => e.BookingId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<JournalLine>(line =>
        {
            line.ToTable("JournalLines");
            // An account's balance, and what came after a day, are summed from these alone.
            line.HasIndex(l => new
            {
                l.AccountId,
                l.Debit,
                l.Credit,
            });
            line.HasIndex(l => new
            {
                l.EntryId,
                l.AccountId,
                l.Debit,
                l.Credit,
            });
            line.HasOne<LedgerAccount>().WithMany().HasForeignKey(l => l.AccountId).OnDelete(DeleteBehavior.Restrict);
        });
    }
}
