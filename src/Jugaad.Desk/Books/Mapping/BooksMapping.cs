using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How the trail and the forms that were answered are kept.</summary>
internal static class BooksMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<TrailEntry>(trail =>
        {
            trail.HasIndex(t => t.DocumentId);
            trail.HasIndex(t => t.CustomerId);
            trail.HasIndex(t => t.ReceiptId);
            trail.HasIndex(t => t.Day);
        });
        builder.Entity<AnsweredForm>(form =>
        {
            form.HasKey(f => f.Key);
            form.Property(f => f.Key).HasMaxLength(80);
        });
    }
}
