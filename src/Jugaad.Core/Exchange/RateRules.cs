namespace Jugaad.Core.Exchange;

/// <summary>How a business uses exchange rates. There is one of it.</summary>
public sealed class RateRules
{
    public int Id { get; private set; }

    public RateKind ForDocuments { get; private set; }

    public RateKind ForMoney { get; private set; }

    public RateKind ForConversions { get; private set; }

    public RateKind ForValuation { get; private set; }

    /// <summary>A rate older than that many days is not used but asked for; null for no limit.</summary>
    public int? OldestDays { get; private set; }

    /// <summary>By how many percent a rate may be off the last one before it is warned of.</summary>
    public int WarnPercent { get; private set; } = 10;

    /// <summary>Whether rates are fetched from the source on each day.</summary>
    public bool Fetches { get; private set; }

    public RateKind For(RateUse use) =>
        use switch
        {
            RateUse.Documents => ForDocuments,
            RateUse.Money => ForMoney,
            RateUse.Conversions => ForConversions,
            _ => ForValuation,
        };

    /// <exception cref="RefusalException">With every figure that cannot be; nothing is changed then.</exception>
    public void Set(
        RateKind documents,
        RateKind money,
        RateKind conversions,
        RateKind valuation,
        int? oldestDays,
        int warnPercent,
        bool fetches
    )
    {
        var refusals = new Refusals();
        if (oldestDays is < 0 or > 3660)
            refusals.Add("oldest", "Give 0 to 3660 days, or leave it empty for no limit.");
        if (warnPercent is < 1 or > 100)
            refusals.Add("warn", "Give 1 to 100 percent.");
        refusals.ThrowIfAny();
        (ForDocuments, ForMoney, ForConversions, ForValuation) = (documents, money, conversions, valuation);
        (OldestDays, WarnPercent, Fetches) = (oldestDays, warnPercent, fetches);
    }
}
