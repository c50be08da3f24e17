using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How kept views, and what was looked at before closing, are kept.</summary>
internal static class ReportsMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<KeptView>().ToTable("KeptViews").HasIndex(v => v.Name).IsUnique();
        builder.Entity<ClosingTick>().ToTable("ClosingTicks").HasIndex(t => new { t.UpTo, t.Point }).IsUnique();
    }
}
