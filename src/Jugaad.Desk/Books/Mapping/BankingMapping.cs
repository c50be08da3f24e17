using Jugaad.Core.Accounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How bank statements and what their lines were placed on are kept.</summary>
internal static class BankingMapping
{
    internal static void Map(ModelBuilder builder)
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
            map.Property(m => m.Columns).HasConversion(KeptAs.Json<CsvColumns>());
        });
    }
}
