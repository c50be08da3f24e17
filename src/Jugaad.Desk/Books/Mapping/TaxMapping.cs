using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How taxes, their rates and rules are kept.</summary>
internal static class TaxMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<TaxAuthority>(authority =>
        {
            authority.HasIndex(a => a.Name).IsUnique();
            authority.HasMany<BasisChange>("_changes").WithOne().HasForeignKey("AuthorityId").IsRequired();
            authority.Navigation("_changes").AutoInclude();
            authority.Ignore(a => a.Changes);
            authority.Property(a => a.Boxes).HasConversion(KeptAs.JsonList<ReturnBox>());
            authority.Property(a => a.PaidCategories).HasConversion(KeptAs.JsonList<TaxCategory>());
        });
        builder.Entity<BasisChange>().ToTable("TaxBasisChanges");
        builder.Entity<AuthorityRate>(rate =>
        {
            rate.HasOne<TaxAuthority>().WithMany().HasForeignKey(r => r.AuthorityId).OnDelete(DeleteBehavior.Restrict);
            rate.HasIndex(r => new
                {
                    r.AuthorityId,
                    r.Currency,
                    r.From,
                })
                .IsUnique();
        });
        builder.Entity<TaxComponent>(component =>
        {
            component.HasMany(c => c.Rates).WithOne().HasForeignKey("ComponentId").IsRequired();
            component.Navigation(c => c.Rates).AutoInclude();
            component
                .HasOne(c => c.Authority)
                .WithMany()
                .HasForeignKey("AuthorityId")
                .OnDelete(DeleteBehavior.Restrict);
            component.Navigation(c => c.Authority).AutoInclude();
            component.HasIndex(c => c.Name).IsUnique();
        });
        builder.Entity<TaxRate>().ToTable("TaxRates").HasIndex("ComponentId", nameof(TaxRate.From)).IsUnique();
        builder.Entity<TaxCodePart>(part =>
        {
            part.ToTable("TaxCodeParts");
            part.HasOne(p => p.Component)
                .WithMany()
                .HasForeignKey("ComponentId")
                .IsRequired()
                .OnDelete(DeleteBehavior.Restrict);
            part.Navigation(p => p.Component).AutoInclude();
        });
        builder.Entity<TaxCode>(code =>
        {
            code.HasMany(c => c.Parts).WithOne().HasForeignKey("TaxCodeId").IsRequired();
            code.Navigation(c => c.Parts).AutoInclude();
            code.HasIndex(c => c.Code).IsUnique();
        });
        builder.Entity<TaxFigure>(figure =>
        {
            figure.ToTable("TaxFigures").Ignore(f => f.Key);
            figure
                .HasOne<TaxAuthority>()
                .WithMany()
                .HasForeignKey(f => f.AuthorityId)
                .OnDelete(DeleteBehavior.Restrict);
            figure.HasOne(f => f.Item).WithMany().HasForeignKey(f => f.ItemId).OnDelete(DeleteBehavior.Cascade);
            figure.HasIndex(f => new { f.AuthorityId, f.Date });
            figure.HasIndex(f => f.DocumentId);
            figure.HasIndex(f => f.BookingId);
        });
        builder.Entity<TaxReturn>(filed =>
        {
            filed.ToTable("TaxReturns");
            filed.Property(r => r.BoxSet).HasConversion(KeptAs.JsonList<ReturnBox>());
            filed.Property(r => r.Boxes).HasConversion(KeptAs.JsonList<BoxFigure>());
            filed.HasOne<TaxAuthority>().WithMany().HasForeignKey(r => r.AuthorityId).OnDelete(DeleteBehavior.Restrict);
            filed.HasMany(r => r.Rows).WithOne().HasForeignKey(r => r.ReturnId).IsRequired();
            filed.Property(r => r.Typed).HasConversion(KeptAs.JsonList<TypedBox>());
            filed.Ignore(r => r.Title);
            filed
                .HasIndex(r => new
                {
                    r.AuthorityId,
                    r.From,
                    r.Amendment,
                })
                .IsUnique();
        });
        builder.Entity<TaxPayment>(payment =>
        {
            payment.ToTable("TaxPayments");
            payment.HasOne<TaxReturn>().WithMany().HasForeignKey(p => p.ReturnId).OnDelete(DeleteBehavior.Cascade);
            payment
                .HasOne<Core.Accounts.OtherMoney>()
                .WithMany()
                .HasForeignKey(p => p.OtherMoneyId)
                .OnDelete(DeleteBehavior.Restrict);
            payment.HasIndex(p => p.OtherMoneyId).IsUnique();
        });
        builder.Entity<TaxCharge>(charge =>
        {
            charge.ToTable("TaxCharges");
            charge.HasOne<TaxReturn>().WithMany().HasForeignKey(c => c.ReturnId).OnDelete(DeleteBehavior.Cascade);
            charge.HasOne<LedgerAccount>().WithMany().HasForeignKey(c => c.AccountId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<TaxCarry>(carry =>
        {
            carry.ToTable("TaxCarries");
            carry.HasOne<TaxReturn>().WithMany().HasForeignKey(c => c.FromReturnId).OnDelete(DeleteBehavior.Cascade);
            carry.HasOne<TaxReturn>().WithMany().HasForeignKey(c => c.ToReturnId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<FiledRow>().ToTable("FiledRows").HasIndex(r => r.FigureId);
        builder.Entity<TaxRule>(rule =>
        {
            rule.HasOne<TaxCode>().WithMany().HasForeignKey(r => r.TaxCodeId).OnDelete(DeleteBehavior.Restrict);
            rule.HasOne<TaxCode>().WithMany().HasForeignKey(r => r.PreferredCodeId).OnDelete(DeleteBehavior.Restrict);
            rule.Ignore(r => r.Case);
        });
    }
}
