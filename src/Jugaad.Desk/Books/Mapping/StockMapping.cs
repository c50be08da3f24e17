using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books.Mapping;

/// <summary>How items, their prices and their stock are kept.</summary>
internal static class StockMapping
{
    internal static void Map(ModelBuilder builder)
    {
        builder.Entity<Item>(item =>
        {
            item.HasIndex(i => i.Code).IsUnique();
            item.HasIndex(i => i.Name);
            item.HasIndex(i => i.Barcode);
            item.HasMany(i => i.Prices).WithOne().HasForeignKey("ItemId").IsRequired();
            item.Navigation(i => i.Prices).AutoInclude();
            item.Ignore(i => i.PaperText);
            item.Property(i => i.Version).IsConcurrencyToken();
            item.HasOne<TaxCode>().WithMany().HasForeignKey(i => i.TaxCodeId).OnDelete(DeleteBehavior.Restrict);
            item.HasOne<LedgerAccount>()
                .WithMany()
                .HasForeignKey(i => i.LedgerAccountId)
                .OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<ItemPrice>(price =>
        {
            price.ToTable("ItemPrices");
            price.HasOne<PriceList>().WithMany().HasForeignKey(p => p.PriceListId).OnDelete(DeleteBehavior.Restrict);
            price.HasIndex("ItemId", nameof(ItemPrice.PriceListId)).IsUnique();
        });
        builder.Entity<StockMove>(move =>
        {
            move.HasOne<Item>().WithMany().HasForeignKey(m => m.ItemId).OnDelete(DeleteBehavior.Restrict);
            move.HasIndex(m => new { m.ItemId, m.Date });
            move.HasIndex(m => m.DocumentId);
        });
        builder.Entity<ItemBatch>().HasMany(b => b.Rows).WithOne().HasForeignKey("BatchId").IsRequired();
        builder.Entity<ItemBatchRow>().ToTable("ItemBatchRows");
    }
}
