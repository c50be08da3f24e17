using Jugaad.Core.Taxes;

namespace Jugaad.Core.Returns;

/// <summary>A row of a filed return, as it was told. Minor units of the home currency.</summary>
public sealed class FiledRow
{
    private FiledRow() { }

    internal FiledRow(ReturnRow row)
    {
        (FigureId, Number, Date, Day, IsLate) = (row.Figure, row.Number, row.Date, row.Day, row.IsLate);
        (Category, Component, Percent, Place, Supply) = row.Key;
        (Taxable, Tax) = (row.Taxable, row.Tax);
    }

    public int Id { get; private set; }

    public int ReturnId { get; private set; }

    /// <summary>The figure that it told of, which may be gone since.</summary>
    public int FigureId { get; private set; }

    public string Number { get; private set; } = "";

    /// <summary>The tax date of what it came from.</summary>
    public DateOnly Date { get; private set; }

    /// <summary>The day on which it counts.</summary>
    public DateOnly Day { get; private set; }

    public TaxCategory Category { get; private set; }

    public string Component { get; private set; } = "";

    public decimal Percent { get; private set; }

    public Place Place { get; private set; }

    public Supply Supply { get; private set; }

    public long Taxable { get; private set; }

    public long Tax { get; private set; }

    public bool IsLate { get; private set; }

    public ReturnRow Row() =>
        new(FigureId, Number, Date, Day, new TaxKey(Category, Component, Percent, Place, Supply), Taxable, Tax, IsLate);
}

/// <summary>What was told to an authority for a period. Once it is filed it never changes.</summary>
public sealed class TaxReturn
{
    private readonly List<FiledRow> _rows = [];

    private TaxReturn() => (Authority, FiledBy, Reference) = ("", "", "");

    /// <param name="filedOn">The business day on which it was filed.</param>
    /// <param name="reference">What the authority answered, such as a receipt number; may be empty.</param>
    /// <exception cref="RefusalException">When the period has not ended, or the reference is too long.</exception>
    public TaxReturn(
        TaxAuthority authority,
        DateOnly from,
        DateOnly to,
        DateOnly filedOn,
        string filedBy,
        string reference,
        IReadOnlyCollection<ReturnRow> rows,
        Amounts.Currency home
    )
        : this()
    {
        var refusals = new Refusals();
        Texts.Short(refusals, "reference", reference, 100);
        if (filedOn <= to)
            refusals.Add("", $"The period ends on {to:yyyy-MM-dd}. File the return on a later day.");
        refusals.ThrowIfAny();
        (AuthorityId, Authority, Basis) = (authority.Id, authority.Name, authority.BasisOn(to));
        (From, To, FiledOn, FiledBy, Reference) = (from, to, filedOn, filedBy, reference.Trim());
        _rows.AddRange(rows.Select(r => new FiledRow(r)));
        BoxSet = authority.Boxes;
        Boxes = BoxFigure.Of(BoxSet, rows, home);
        (Taxable, Tax) = (_rows.Sum(r => r.Taxable), _rows.Sum(r => r.Tax));
    }

    public int Id { get; private set; }

    public int AuthorityId { get; private set; }

    /// <summary>Its name, as it was.</summary>
    public string Authority { get; private set; }

    public DateOnly From { get; private set; }

    public DateOnly To { get; private set; }

    public TaxBasis Basis { get; private set; }

    public DateOnly FiledOn { get; private set; }

    public string FiledBy { get; private set; }

    public string Reference { get; private set; }

    /// <summary>All that its rows are on; minor units of the home currency.</summary>
    public long Taxable { get; private set; }

    /// <summary>All tax that it tells; minor units of the home currency.</summary>
    public long Tax { get; private set; }

    public IReadOnlyList<FiledRow> Rows => _rows;

    /// <summary>The set that it was told by, as it was.</summary>
    public IReadOnlyList<ReturnBox> BoxSet { get; private set; } = [];

    /// <summary>What its boxes said.</summary>
    public IReadOnlyList<BoxFigure> Boxes { get; private set; } = [];
}
