using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How the post tray is kept.</summary>
internal static class PostMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<PostItem>(post =>
        {
            post.HasMany(p => p.Attachments).WithOne().HasForeignKey(a => a.PostItemId);
            post.HasIndex(p => new { p.State, p.NextTryAt });
            post.HasIndex(p => p.CustomerId);
            post.HasIndex(p => p.SummaryId);
            post.HasIndex(p => p.Key).IsUnique();
            post.HasMany(p => p.History).WithOne().HasForeignKey(t => t.PostItemId);
            // Whoever takes it back and whoever carries it find out of each other.
            post.Property(p => p.State).IsConcurrencyToken();
        });
        builder.Entity<NetworkAnswer>(answer =>
        {
            answer.ToTable("NetworkAnswers");
            answer.HasOne<PostItem>().WithMany().HasForeignKey(a => a.PostItemId);
            // Each answer once, however often the network tells it.
            answer.HasIndex(a => a.MessageId).IsUnique();
            answer.HasIndex(a => a.PostItemId);
        });
        builder.Entity<SentFile>().ToTable("SentFiles").HasIndex(f => f.Hash).IsUnique();
        builder.Entity<SentPaper>(paper =>
        {
            paper.ToTable("SentPapers");
            paper.HasOne<PostItem>().WithMany().HasForeignKey(p => p.PostItemId);
            paper.HasOne<SentFile>().WithMany().HasForeignKey(p => p.FileId).OnDelete(DeleteBehavior.Restrict);
            paper.HasIndex(p => new { p.PostItemId, p.Position }).IsUnique();
        });
    }
}
