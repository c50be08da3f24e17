using Jugaad.Core.Documents;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How starters and the shelf are kept.</summary>
internal static class DraftingMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<Starter>().Property(s => s.Content).HasConversion(KeptAs.Content());
        builder.Entity<ShelfEntry>().HasIndex(s => new { s.OnShelf, s.Who });
    }
}
