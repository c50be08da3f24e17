using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How backups are kept.</summary>
internal static class KeepingMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<BackupSettings>().Ignore(s => s.Retention);
        builder.Entity<BackupRun>(run =>
        {
            run.Ignore(r => r.IsGood);
            run.HasIndex(r => r.At);
        });
    }
}
