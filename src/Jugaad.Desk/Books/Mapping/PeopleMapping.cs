using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How people and their ways in are kept.</summary>
internal static class PeopleMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<IdentityUserPasskey<int>>(passkey =>
        {
            passkey.ToTable("AspNetUserPasskeys").HasKey(p => p.CredentialId);
            passkey.OwnsOne(p => p.Data).ToJson();
            passkey.HasOne<Person>().WithMany().HasForeignKey(p => p.UserId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<OpenSession>(session =>
        {
            session.HasOne<Person>().WithMany().HasForeignKey(s => s.PersonId);
            session.HasIndex(s => s.KeyHash).IsUnique();
        });
        builder.Entity<CalendarKey>(key =>
        {
            key.HasOne<Person>().WithMany().HasForeignKey(k => k.PersonId);
            key.HasIndex(k => k.PersonId).IsUnique();
            key.HasIndex(k => k.TokenHash).IsUnique();
        });
        builder.Entity<PasswordReset>(reset =>
        {
            reset.HasOne<Person>().WithMany().HasForeignKey(r => r.PersonId);
            reset.HasIndex(r => r.TokenHash).IsUnique();
        });
        builder.Entity<Invitation>().HasIndex(i => i.TokenHash).IsUnique();
    }
}
