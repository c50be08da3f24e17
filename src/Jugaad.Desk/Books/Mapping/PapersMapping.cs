using Jugaad.Core.Documents;
using Jugaad.Core.Numbering;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How documents, their files, links and words are kept.</summary>
internal static class PapersMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<Document>(document =>
        {
            document.HasMany(d => d.Lines).WithOne().HasForeignKey(l => l.DocumentId);
            document.HasMany(d => d.Charges).WithOne().HasForeignKey(c => c.DocumentId);
            document.HasMany(d => d.Taxes).WithOne().HasForeignKey(t => t.DocumentId);
            document
                .HasOne(d => d.Customer)
                .WithMany()
                .HasForeignKey(d => d.CustomerId)
                .OnDelete(DeleteBehavior.Restrict);
            document.HasOne<Series>().WithMany().HasForeignKey(d => d.SeriesId).OnDelete(DeleteBehavior.Restrict);
            document.Property(d => d.Addressee).HasConversion(KeptAs.Json<Addressee>());
            document.Property(d => d.Facts).HasConversion(KeptAs.Json<IssuedFacts>());
            document.Property(d => d.Sender).HasConversion(KeptAs.Json<Sender>());
            document.Property(d => d.Place).HasConversion(KeptAs.Json<Address>());
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
            // What all of them come to is summed from this alone.
            document.HasIndex(
                d => new
                {
                    d.Currency,
                    d.State,
                    d.Kind,
                    d.Payable,
                },
                "IX_Documents_Sums"
            );
            document.HasIndex(d => d.FromDocumentId);
            document.HasIndex(d => d.RevisesId);
        });
        builder.Entity<DocumentLine>(line =>
        {
            // What a year was billed for is summed from these alone.
            line.HasIndex(
                l => new
                {
                    l.DocumentId,
                    l.Net,
                    l.ItemId,
                    l.LedgerAccountId,
                },
                "IX_DocumentLine_Billed"
            );
            line.HasIndex(l => l.FromLineId);
            line.HasIndex(l => l.FromChargeId);
            line.Ignore(l => l.Counts);
        });
        builder.Entity<DocumentCharge>().HasIndex(c => c.FromChargeId);
        builder.Entity<PaperPlace>(place =>
        {
            place.HasKey(p => p.DocumentId);
            place.Property(p => p.DocumentId).ValueGeneratedNever();
            place.HasOne<Document>().WithMany().HasForeignKey(p => p.DocumentId).OnDelete(DeleteBehavior.Restrict);
        });
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
        builder.Entity<MailWords>().HasIndex(w => new { w.Text, w.Language }).IsUnique();
    }
}
