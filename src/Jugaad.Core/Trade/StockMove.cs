using Jugaad.Core.Amounts;

namespace Jugaad.Core.Trade;

/// <summary>Goods that came or went: one line of an item's count on hand. Moves are only ever added.</summary>
public sealed class StockMove
{
    private StockMove() => (Reason, Who) = ("", "");

    /// <summary>Moves an item's count.</summary>
    /// <param name="quantity">Above zero for what came, below for what went.</param>
    /// <param name="documentId">The paper that moved it; null where it was corrected by hand.</param>
    /// <exception cref="RefusalException">When the item has no count, or nothing moves.</exception>
    public StockMove(Item item, DateOnly date, decimal quantity, string reason, string who, int? documentId = null)
        : this()
    {
        var refusals = new Refusals();
        if (!item.KeepsCount)
            refusals.Add("", $"{item.Name} has no count on hand. Tick it on the item's page first.");
        Texts.Required(
            refusals,
            "reason",
            reason,
            300,
            "Say why the count changes, such as counted, broken or delivered."
        );
        if (quantity == 0)
            refusals.Add(
                "quantity",
                "The count would stay as it is. Give what came, or what went with a minus before it."
            );
        if (Math.Abs(item.OnHand + quantity) > Limits.Figure)
            refusals.Add("quantity", "So many do not fit. Give a smaller figure.");
        refusals.ThrowIfAny();
        (ItemId, Date, Quantity, Reason, Who, DocumentId) = (item.Id, date, quantity, reason.Trim(), who, documentId);
        item.Count(quantity);
    }

    public int Id { get; private set; }

    public int ItemId { get; private set; }

    public DateOnly Date { get; private set; }

    public decimal Quantity { get; private set; }

    public string Reason { get; private set; }

    public string Who { get; private set; }

    public int? DocumentId { get; private set; }
}
