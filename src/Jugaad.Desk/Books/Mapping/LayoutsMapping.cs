using Jugaad.Core.Documents;
using Jugaad.Core.Numbering;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How layouts, and what papers were issued with, are kept.</summary>
internal static class LayoutsMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<KeptLayout>(layout =>
        {
            layout.ToTable("Layouts");
            layout.HasIndex(l => l.Name).IsUnique();
            layout.Property(l => l.Version).IsConcurrencyToken();
        });
        builder.Entity<LayoutState>(state =>
        {
            state.ToTable("LayoutStates");
            state.HasIndex(s => s.LayoutId);
            state.HasIndex(s => s.Hash);
        });
        builder.Entity<KeptPicture>().ToTable("KeptPictures").HasIndex(p => p.Hash).IsUnique();
        builder.Entity<KeptWords>().ToTable("KeptWords").HasIndex(w => w.Hash).IsUnique();
        builder
            .Entity<Wording>()
            .ToTable("Wordings")
            .HasIndex(w => new
            {
                w.Language,
                w.Of,
                w.Key,
            })
            .IsUnique();
        builder.Entity<OwnLanguage>(language =>
        {
            language.ToTable("OwnLanguages");
            language.HasIndex(l => l.Code).IsUnique();
            language.Ignore(l => l.Format);
        });
        builder.Entity<IssuedLook>(look =>
        {
            look.ToTable("IssuedLooks");
            look.HasOne<Document>().WithMany().HasForeignKey(l => l.DocumentId);
            look.HasOne<LayoutState>().WithMany().HasForeignKey(l => l.StateId).OnDelete(DeleteBehavior.Restrict);
            look.HasIndex(l => l.DocumentId).IsUnique();
        });
        builder.Entity<LayoutRule>(rule =>
        {
            rule.ToTable("LayoutRules");
            rule.HasOne<KeptLayout>().WithMany().HasForeignKey(r => r.LayoutId).OnDelete(DeleteBehavior.Restrict);
            rule.HasOne<Customer>().WithMany().HasForeignKey(r => r.CustomerId).OnDelete(DeleteBehavior.Cascade);
            rule.HasOne<Series>().WithMany().HasForeignKey(r => r.SeriesId).OnDelete(DeleteBehavior.Cascade);
        });
    }
}
