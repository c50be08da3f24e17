using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How the till is kept, and how its sales are told.</summary>
internal static class CounterMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<TillCount>(count =>
        {
            count.HasOne(c => c.Booking).WithMany().HasForeignKey(c => c.BookingId).OnDelete(DeleteBehavior.Restrict);
            count.HasOne<LedgerAccount>().WithMany().HasForeignKey(c => c.AccountId).OnDelete(DeleteBehavior.Restrict);
            count.Ignore(c => c.Difference);
        });
        builder.Entity<SalesSummary>(summary =>
        {
            summary.ToTable("SalesSummaries");
            summary.Property(s => s.Sender).HasConversion(KeptAs.Json<Sender>()!).IsRequired();
            summary.Property(s => s.Addressee).HasConversion(KeptAs.Json<Addressee>()!).IsRequired();
            summary.HasOne<Series>().WithMany().HasForeignKey(s => s.SeriesId).OnDelete(DeleteBehavior.Restrict);
            summary.HasIndex(s => s.Number).IsUnique();
            summary.HasMany(s => s.Sales).WithOne().HasForeignKey(s => s.SummaryId);
        });
        builder.Entity<SummarySale>(sale =>
        {
            sale.ToTable("SummarySales");
            sale.HasOne<Document>().WithMany().HasForeignKey(s => s.DocumentId).OnDelete(DeleteBehavior.Restrict);
            // Whatever happens at once, a sale is told once.
            sale.HasIndex(s => s.DocumentId).IsUnique().HasFilter("\"Counts\" = 1");
        });
    }
}
