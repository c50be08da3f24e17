using Jugaad.Core.Accounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Returns;

/// <summary>What a tax figure is told of; kept as it was when it was posted.</summary>
/// <param name="Component">Empty where the treatment has no component.</param>
/// <param name="Place">Home, union or abroad, seen from the business.</param>
/// <param name="Supply">Goods or services.</param>
public sealed record TaxKey(TaxCategory Category, string Component, decimal Percent, Place Place, Supply Supply);

/// <summary>
/// What one posted thing tells an authority of one tax: the amount that the tax is on, and the tax, with the sign of
/// what it came from (credits, discounts and debts given up take away). Minor units of the home currency, as the
/// journal posted them. Made when it is posted, and frozen with it.
/// </summary>
public sealed class TaxFigure
{
    private TaxFigure() { }

    /// <param name="authorityId">Whom it is told to.</param>
    /// <param name="number">Of what it came from, for people.</param>
    /// <param name="date">The tax date.</param>
    /// <param name="position">The place of the tax on what it came from; goods and services of one tax share it.</param>
    internal TaxFigure(
        int authorityId,
        string number,
        DateOnly date,
        int position,
        TaxKey key,
        int? componentId,
        long taxable,
        long tax
    )
    {
        (AuthorityId, Number, Date, Position) = (authorityId, number, date, position);
        (Category, ComponentId, Component, Percent) = (key.Category, componentId, key.Component, key.Percent);
        (Place, Supply, Taxable, Tax) = (key.Place, key.Supply, taxable, tax);
    }

    public int Id { get; private set; }

    public int AuthorityId { get; private set; }

    /// <summary>What is on the customer's account for it; null where nothing is.</summary>
    public AccountItem? Item { get; init; }

    public int? ItemId { get; init; }

    /// <summary>The document that it came from; null for a settlement and for other money.</summary>
    public int? DocumentId { get; init; }

    public int? SettlementId { get; init; }

    public int? OtherMoneyId { get; init; }

    /// <summary>The booking that posted it; null for a document.</summary>
    public int? BookingId { get; init; }

    public string Number { get; private set; } = "";

    public DateOnly Date { get; private set; }

    public int Position { get; private set; }

    public TaxCategory Category { get; private set; }

    public int? ComponentId { get; private set; }

    public string Component { get; private set; } = "";

    public decimal Percent { get; private set; }

    public Place Place { get; private set; }

    public Supply Supply { get; private set; }

    /// <summary>For a compound tax, with the taxes before it.</summary>
    public long Taxable { get; private set; }

    public long Tax { get; private set; }

    public TaxKey Key => new(Category, Component, Percent, Place, Supply);
}
