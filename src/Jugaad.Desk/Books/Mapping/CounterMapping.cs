using Jugaad.Core.Accounts;
using Jugaad.Core.Journal;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How the till is kept.</summary>
internal static class CounterMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<TillCount>(count =>
        {
            count.HasOne(c => c.Booking).WithMany().HasForeignKey(c => c.BookingId).OnDelete(DeleteBehavior.Restrict);
            count.HasOne<LedgerAccount>().WithMany().HasForeignKey(c => c.AccountId).OnDelete(DeleteBehavior.Restrict);
            count.Ignore(c => c.Difference);
        });
    }
}
