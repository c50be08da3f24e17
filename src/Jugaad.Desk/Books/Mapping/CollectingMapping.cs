using Jugaad.Core.Accounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How contacts, promises, disputes and plans are kept.</summary>
internal static class CollectingMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<CollectingSettings>(settings =>
        {
            settings.ComplexProperty(s => s.Weights);
            settings.Ignore(s => s.WritesOn);
        });
        builder.Entity<LateCharge>(charge =>
        {
            charge.HasOne<Document>().WithMany().HasForeignKey(c => c.NoteId).OnDelete(DeleteBehavior.Restrict);
            charge.HasOne<AccountItem>().WithMany().HasForeignKey(c => c.ItemId).OnDelete(DeleteBehavior.Restrict);
            charge.Property(c => c.Basis).HasConversion(KeptAs.JsonList<InterestStretch>());
        });
        builder.Entity<LateRate>(rate => rate.HasIndex(r => r.From).IsUnique());
        builder.Entity<CreditPass>(pass =>
        {
            pass.HasOne<Document>().WithMany().HasForeignKey(p => p.DocumentId);
            pass.HasIndex(p => p.DocumentId);
        });
        builder.Entity<ContactNote>(note =>
        {
            note.HasOne<Customer>().WithMany().HasForeignKey(n => n.CustomerId).OnDelete(DeleteBehavior.Restrict);
            note.HasIndex(n => new { n.CustomerId, n.Day });
        });
        builder.Entity<CustomerPromise>(promise =>
        {
            promise.ToTable("Promises");
            promise.HasOne<Customer>().WithMany().HasForeignKey(p => p.CustomerId).OnDelete(DeleteBehavior.Restrict);
            promise.HasOne(p => p.Note).WithMany().HasForeignKey(p => p.NoteId).OnDelete(DeleteBehavior.Restrict);
            promise.HasMany(p => p.Items).WithOne().HasForeignKey(i => i.PromiseId);
            promise.Ignore(p => p.Promised);
            promise.HasIndex(p => new { p.CustomerId, p.Until });
        });
        builder.Entity<PromiseItem>(item =>
        {
            item.ToTable("PromiseItems");
            item.HasKey(i => new { i.PromiseId, i.ItemId });
            item.HasOne<AccountItem>().WithMany().HasForeignKey(i => i.ItemId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Dispute>(dispute =>
        {
            dispute.HasOne<Customer>().WithMany().HasForeignKey(d => d.CustomerId).OnDelete(DeleteBehavior.Restrict);
            dispute.HasOne<AccountItem>().WithMany().HasForeignKey(d => d.ItemId).OnDelete(DeleteBehavior.Restrict);
            dispute.HasOne<Person>().WithMany().HasForeignKey(d => d.SeesToId).OnDelete(DeleteBehavior.SetNull);
            dispute.HasOne(d => d.Note).WithMany().HasForeignKey(d => d.NoteId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<AgreedPlan>(plan =>
        {
            plan.ToTable("Plans");
            plan.HasOne<Customer>().WithMany().HasForeignKey(p => p.CustomerId).OnDelete(DeleteBehavior.Restrict);
            plan.HasMany(p => p.Items).WithOne().HasForeignKey(i => i.PlanId);
            plan.HasMany(p => p.Parts).WithOne().HasForeignKey(p => p.PlanId);
            plan.Ignore(p => p.Plan);
        });
        builder.Entity<PlanItem>(item =>
        {
            item.ToTable("PlanItems");
            item.HasKey(i => new { i.PlanId, i.ItemId });
            item.HasOne<AccountItem>().WithMany().HasForeignKey(i => i.ItemId).OnDelete(DeleteBehavior.Restrict);
        });
        Letters(builder);
        builder.Entity<AgreedPart>(part =>
        {
            part.ToTable("PlanParts");
            part.HasKey(p => new { p.PlanId, p.Position });
        });
    }

    private static void Letters(ModelBuilder builder)
    {
        builder.Entity<LetterLadder>(ladder =>
        {
            ladder.ToTable("Ladders");
            ladder.HasMany(l => l.Steps).WithOne().HasForeignKey(s => s.LadderId);
        });
        builder.Entity<LetterStep>(step =>
        {
            step.ToTable("LadderSteps");
            step.HasKey(s => new { s.LadderId, s.Number });
        });
        builder.Entity<ChaseLetter>(letter =>
        {
            letter.HasOne<Customer>().WithMany().HasForeignKey(l => l.CustomerId).OnDelete(DeleteBehavior.Restrict);
            letter.HasOne<LetterLadder>().WithMany().HasForeignKey(l => l.LadderId).OnDelete(DeleteBehavior.Restrict);
            letter.HasOne<PostItem>().WithMany().HasForeignKey(l => l.PostItemId).OnDelete(DeleteBehavior.Restrict);
            letter.HasMany(l => l.Items).WithOne().HasForeignKey(i => i.LetterId);
            letter.HasIndex(l => new { l.CustomerId, l.Day });
        });
        builder.Entity<ChaseLetterItem>(item =>
        {
            item.ToTable("ChaseLetterItems");
            item.HasKey(i => new { i.LetterId, i.ItemId });
            item.HasOne<AccountItem>().WithMany().HasForeignKey(i => i.ItemId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<LeftOut>(left =>
        {
            left.HasOne<Customer>().WithMany().HasForeignKey(l => l.CustomerId).OnDelete(DeleteBehavior.Restrict);
            left.HasOne<AccountItem>().WithMany().HasForeignKey(l => l.ItemId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Holiday>(holiday => holiday.HasIndex(h => h.Day).IsUnique());
    }
}
