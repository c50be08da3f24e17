using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How imports are kept.</summary>
internal static class MovingMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<ImportRun>().Ignore(r => r.Settings).Ignore(r => r.Report).Ignore(r => r.TakenBack);
        builder.Entity<ImportEffect>(effect =>
        {
            effect.HasOne<ImportRun>().WithMany().HasForeignKey(e => e.RunId);
            effect.HasIndex(e => e.RunId);
        });
    }
}
