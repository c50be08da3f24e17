using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Paying;
using Jugaad.Core.Trade;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How links to accounts, requests for card payments, what was told of them and payouts are kept.</summary>
internal static class PayingMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<AccountLink>(link =>
        {
            link.HasOne<Customer>().WithMany().HasForeignKey(l => l.CustomerId);
            link.HasIndex(l => l.CustomerId).IsUnique();
            link.HasIndex(l => l.Token).IsUnique();
        });
        builder.Entity<PayingSettings>(settings =>
        {
            settings.Ignore(s => s.Surcharge);
            settings.HasOne<LedgerAccount>().WithMany().HasForeignKey(s => s.ClearingAccountId);
            settings.HasOne<LedgerAccount>().WithMany().HasForeignKey(s => s.SurchargeAccountId);
        });
        builder.Entity<PayRequest>(request =>
        {
            request.ToTable("PayRequests");
            request.HasOne<Customer>().WithMany().HasForeignKey(r => r.CustomerId).OnDelete(DeleteBehavior.Restrict);
            request.HasOne<Receipt>().WithMany().HasForeignKey(r => r.ReceiptId).OnDelete(DeleteBehavior.Restrict);
            request.HasMany(r => r.Parts).WithOne().HasForeignKey(p => p.RequestId);
            request.HasMany(r => r.Refunds).WithOne().HasForeignKey(r => r.RequestId);
            request.Ignore(r => r.Total);
            request.HasIndex(r => r.Key).IsUnique();
            request.HasIndex(r => r.ServiceId);
        });
        builder.Entity<PayRequestPart>(part =>
        {
            part.ToTable("PayRequestParts");
            part.HasKey(p => new { p.RequestId, p.ItemId });
            part.HasOne<AccountItem>().WithMany().HasForeignKey(p => p.ItemId).OnDelete(DeleteBehavior.Restrict);
            part.HasOne<Document>().WithMany().HasForeignKey(p => p.ChargedOnId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<CardRefund>(refund =>
        {
            refund.ToTable("CardRefunds");
            refund.HasKey(r => new { r.RequestId, r.BookingId });
            refund.HasOne<Booking>().WithMany().HasForeignKey(r => r.BookingId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<CardCall>(call =>
        {
            call.Ignore(c => c.IsOpen);
            call.HasIndex(c => c.Key).IsUnique();
        });
        builder.Entity<CardPayout>(payout =>
        {
            payout.HasMany(p => p.Parts).WithOne().HasForeignKey(p => p.PayoutId);
            payout.HasOne<Booking>().WithMany().HasForeignKey(p => p.BookingId).OnDelete(DeleteBehavior.Restrict);
            payout.Ignore(p => p.Net);
            payout.HasIndex(p => p.Reference).IsUnique();
        });
        builder.Entity<CardPayoutPart>(part =>
        {
            part.ToTable("CardPayoutParts");
            part.HasKey(p => new { p.PayoutId, p.Position });
            part.HasOne<PayRequest>().WithMany().HasForeignKey(p => p.RequestId).OnDelete(DeleteBehavior.Restrict);
        });
    }
}
