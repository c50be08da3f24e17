using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How numbers, exchange rates and ledger accounts are kept.</summary>
internal static class ReferenceMapping
{
    internal static void Map(ModelBuilder builder)
    {
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
        builder.Entity<ExchangeRate>(rate =>
        {
            rate.HasIndex(r => new { r.Currency, r.From }).IsUnique();
        });
        builder.Entity<LedgerAccount>().HasIndex(a => a.Code).IsUnique();
        builder.Entity<ValuationPosting>(posting =>
        {
            posting.Property(p => p.Parts).HasConversion(KeptAs.JsonList<ValuedPart>());
            posting.Ignore(p => p.Difference);
            posting.HasIndex(p => p.BookingId).IsUnique();
            posting.HasIndex(p => p.Day);
        });
    }
}
