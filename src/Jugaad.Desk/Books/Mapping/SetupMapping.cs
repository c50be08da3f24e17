using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How the business and its customers are kept.</summary>
internal static class SetupMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<Business>(business =>
        {
            business.ComplexProperty(b => b.Address);
            business.ComplexProperty(b => b.Electronic);
            business.Property(b => b.AgeingEdges).HasDefaultValue("30,60,90");
            business.Ignore(b => b.Format).Ignore(b => b.PaperName).Ignore(b => b.Edges).Ignore(b => b.IsResting);
        });
        builder.Entity<Customer>(customer =>
        {
            customer.ComplexProperty(c => c.Address);
            customer.ComplexProperty(c => c.Electronic);
            customer.HasIndex(c => c.Code).IsUnique();
            customer.HasIndex(c => c.Name);
            customer.Property(c => c.Version).IsConcurrencyToken();
            customer.HasOne(c => c.Terms).WithMany().HasForeignKey(c => c.TermsId);
            customer.HasMany(c => c.Contacts).WithOne().HasForeignKey("CustomerId").IsRequired();
            customer.HasMany(c => c.Places).WithOne().HasForeignKey("CustomerId").IsRequired();
            customer.HasMany(c => c.Certificates).WithOne().HasForeignKey("CustomerId").IsRequired();
            customer.HasOne<Customer>().WithMany().HasForeignKey(c => c.MergedIntoId).OnDelete(DeleteBehavior.Restrict);
            customer.HasOne<Person>().WithMany().HasForeignKey(c => c.SellerId).OnDelete(DeleteBehavior.SetNull);
            customer
                .Ignore(c => c.TagList)
                .Ignore(c => c.PaperName)
                .Ignore(c => c.InvoiceEmail)
                .Ignore(c => c.ReminderEmail);
            customer.HasIndex(c => c.TaxNumber);
            customer.HasIndex(c => c.RegistrationNumber);
            customer.HasIndex(c => c.Email);
        });
        builder.Entity<CustomerItemNumber>(number =>
        {
            number.ToTable("CustomerItemNumbers");
            number.HasOne<Customer>().WithMany().HasForeignKey(n => n.CustomerId).OnDelete(DeleteBehavior.Restrict);
            number.HasOne<Item>().WithMany().HasForeignKey(n => n.ItemId).OnDelete(DeleteBehavior.Restrict);
            number.HasIndex(n => new { n.CustomerId, n.ItemId }).IsUnique();
            number.Property(n => n.Version).IsConcurrencyToken();
        });
        builder.Entity<CustomerContact>(contact =>
        {
            contact.ToTable("CustomerContacts");
            contact.Ignore(c => c.Details).Ignore(c => c.Parts);
        });
        builder.Entity<CustomerPlace>(place =>
        {
            place.ToTable("CustomerPlaces");
            place.ComplexProperty(p => p.Address);
        });
        builder.Entity<ExemptionCertificate>().ToTable("ExemptionCertificates");
        builder.Entity<KindText>().HasIndex(t => t.Kind).IsUnique();
    }
}
