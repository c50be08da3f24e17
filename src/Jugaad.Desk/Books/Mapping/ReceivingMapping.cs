using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How money that came and went are kept.</summary>
internal static class ReceivingMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<Receipt>(receipt =>
        {
            receipt.HasOne<Customer>().WithMany().HasForeignKey(r => r.CustomerId).OnDelete(DeleteBehavior.Restrict);
            receipt
                .HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(r => r.MoneyAccountId)
                .OnDelete(DeleteBehavior.Restrict);
            receipt.ComplexProperty(r => r.Money);
            receipt.HasIndex(r => r.Number).IsUnique();
            receipt.HasIndex(r => r.Date);
            receipt.HasIndex(r => r.Amount);
            receipt.HasIndex(r => r.CustomerId);
            receipt.HasOne(r => r.Booking).WithMany().HasForeignKey(r => r.BookingId).OnDelete(DeleteBehavior.Restrict);
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
        builder.Entity<Settlement>(settlement =>
        {
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
            refund.HasOne(r => r.Booking).WithMany().HasForeignKey(r => r.BookingId).OnDelete(DeleteBehavior.Restrict);
            refund.HasOne<Customer>().WithMany().HasForeignKey(r => r.CustomerId).OnDelete(DeleteBehavior.Restrict);
            refund
                .HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(r => r.MoneyAccountId)
                .OnDelete(DeleteBehavior.Restrict);
            refund.ComplexProperty(r => r.Money);
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
            money.ComplexProperty(m => m.Money);
            money.HasIndex(m => m.Date);
            money.Ignore(m => m.Tax);
        });
        builder.Entity<Conversion>(conversion =>
        {
            conversion
                .HasOne(c => c.Booking)
                .WithMany()
                .HasForeignKey(c => c.BookingId)
                .OnDelete(DeleteBehavior.Restrict);
            conversion
                .HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(c => c.FromAccountId)
                .OnDelete(DeleteBehavior.Restrict);
            conversion
                .HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(c => c.ToAccountId)
                .OnDelete(DeleteBehavior.Restrict);
            conversion.HasIndex(c => c.Date);
            conversion.Ignore(c => c.BankRate);
        });
    }
}
