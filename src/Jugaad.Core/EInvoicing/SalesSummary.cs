using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;

namespace Jugaad.Core.EInvoicing;

/// <summary>What a summary tells of.</summary>
public enum SummaryKind
{
    /// <summary>Sales, as one invoice.</summary>
    Sales,

    /// <summary>What came back of sales told before, as one credit note.</summary>
    Returns,
}

/// <summary>How long a time one summary tells of.</summary>
public enum SummaryPeriod
{
    Day,
    Month,
}

/// <summary>A sale, or what came back of one, that a summary tells of. It is told once.</summary>
public sealed class SummarySale
{
    private SummarySale() { }

    internal SummarySale(int position, int documentId) => (Position, DocumentId) = (position, documentId);

    public int Id { get; private set; }

    public int SummaryId { get; private set; }

    /// <summary>From 0, in the order in which they are told.</summary>
    public int Position { get; private set; }

    public int DocumentId { get; private set; }

    /// <summary>False once its summary was dissolved: it can be told in another then.</summary>
    public bool Counts { get; private set; } = true;

    internal void LetGo() => Counts = false;
}

/// <summary>
/// Many small sales told in one e-invoice. It is a way of telling: the sales themselves were posted and paid, and it
/// posts nothing. What it tells stays as it is. Amounts are minor units.
/// </summary>
public sealed class SalesSummary
{
    private readonly List<SummarySale> _sales = [];

    private SalesSummary() { }

    /// <param name="gathered">What it tells of, all of one kind and one currency.</param>
    public SalesSummary(
        int seriesId,
        string number,
        DateOnly date,
        SummaryToMake gathered,
        Sender sender,
        Addressee addressee
    )
    {
        (SeriesId, Number, Date, Kind) = (seriesId, number, date, gathered.Kind);
        (From, Until) = (gathered.From, gathered.Until);
        (Sender, Addressee) = (sender, addressee);
        Currency = gathered.Documents[0].Currency;
        (Net, Tax, Total, Payable) = (gathered.Net, gathered.Tax, gathered.Total, gathered.Payable);
        foreach (var document in gathered.Documents)
            _sales.Add(new SummarySale(_sales.Count, document.Id));
    }

    public int Id { get; private set; }

    public int SeriesId { get; private set; }

    /// <summary>Of a series of its own.</summary>
    public string Number { get; private set; } = "";

    public SummaryKind Kind { get; private set; }

    /// <summary>The day on which it was made.</summary>
    public DateOnly Date { get; private set; }

    /// <summary>The first day that it tells of.</summary>
    public DateOnly From { get; private set; }

    /// <summary>The last day that it tells of.</summary>
    public DateOnly Until { get; private set; }

    public Currency Currency { get; private set; } = null!;

    public long Net { get; private set; }

    public long Tax { get; private set; }

    public long Total { get; private set; }

    /// <summary>What was paid; differs from the total where cash was rounded.</summary>
    public long Payable { get; private set; }

    /// <summary>The business as it was when this was made.</summary>
    public Sender Sender { get; private set; } = null!;

    /// <summary>Who stands for all without a name.</summary>
    public Addressee Addressee { get; private set; } = null!;

    /// <summary>The day on which it was taken back; null while it stands.</summary>
    public DateOnly? DissolvedOn { get; private set; }

    /// <summary>Why it was taken back; empty while it stands.</summary>
    public string DissolvedBecause { get; private set; } = "";

    public bool Stands => DissolvedOn is null;

    public IReadOnlyList<SummarySale> Sales => _sales;

    public bool IsReturns => Kind == SummaryKind.Returns;

    /// <summary>Takes it back, which leaves its number used and its sales free to be told in another.</summary>
    /// <exception cref="RefusalException">When it was taken back already, or no reason is given.</exception>
    public void Dissolve(DateOnly day, string because)
    {
        if (!Stands)
            throw new RefusalException("", $"{Number} was taken back already.");
        var why = because.Trim();
        if (why.Length is 0 or > 200)
            throw new RefusalException("reason", "Say in at most 200 characters why it is taken back.");
        (DissolvedOn, DissolvedBecause) = (day, why);
        foreach (var sale in _sales)
            sale.LetGo();
    }
}
