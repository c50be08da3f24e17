using Jugaad.Core.Documents;
using Jugaad.Core.Schedules;
using Jugaad.Core.Trade;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How standing invoices are kept.</summary>
internal static class StandingMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<StandingInvoice>(standing =>
        {
            standing.Property(s => s.Content).HasConversion(KeptAs.Content());
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
    }
}
