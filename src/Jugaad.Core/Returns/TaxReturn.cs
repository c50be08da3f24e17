using Jugaad.Core.Taxes;

namespace Jugaad.Core.Returns;

/// <summary>A row of a filed return, as it was told. Minor units of the home currency.</summary>
public sealed class FiledRow
{
    private FiledRow() { }

    internal FiledRow(ReturnRow row)
    {
        (FigureId, Number, Date, Day, IsLate) = (row.Figure, row.Number, row.Date, row.Day, row.IsLate);
        Origin = row.Origin;
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

    public RowOrigin Origin { get; private set; }

    public ReturnRow Row() =>
        new(
            FigureId,
            Number,
            Date,
            Day,
            new TaxKey(Category, Component, Percent, Place, Supply),
            Taxable,
            Tax,
            IsLate,
            Origin
        );
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
        Amounts.Currency home,
        IReadOnlyList<TypedBox>? typed = null
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
        Typed = typed ?? [];
        CheckTyped();
        Boxes = BoxFigure.Of(BoxSet, rows, home, Typed);
        (Taxable, Tax) = (_rows.Sum(r => r.Taxable), _rows.Sum(r => r.Tax));
        var asked = ReturnOwed.Of(BoxSet, Boxes, Typed, Tax);
        asked.Check(BoxSet, home.MinorPerUnit);
        Owed = asked.Owed;
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

    /// <summary>The day on which the authority said that it has it; null until then. After it nothing is opened
    /// again.</summary>
    public DateOnly? TakenOn { get; private set; }

    /// <summary>0 for the return itself; 1, 2 … for what was told in its place afterwards.</summary>
    public int Amendment { get; private set; }

    /// <summary>Why it was amended; empty for the return itself.</summary>
    public string Reason { get; private set; } = "";

    /// <summary>What was typed into boxes.</summary>
    public IReadOnlyList<TypedBox> Typed { get; private set; } = [];

    /// <summary>
    /// What is to be paid, as its box to be paid says, or all its tax; minor units of the home currency, below zero for
    /// what comes back.
    /// </summary>
    public long Owed { get; private set; }

    /// <summary>Which of the returns for one period it is, in words.</summary>
    public string Title => Amendment == 0 ? "Tax return" : $"Amendment {Amendment} of the tax return";

    /// <summary>Notes that the authority has it.</summary>
    /// <param name="reference">What it answered, such as a receipt number.</param>
    /// <exception cref="RefusalException">When it has it already, or the reference is too long.</exception>
    public void Take(DateOnly day, string reference)
    {
        if (TakenOn is { } taken)
            throw new RefusalException("", $"{Authority} has it since {taken:yyyy-MM-dd}.");
        var refusals = new Refusals();
        Texts.Required(refusals, "reference", reference, 100, "Give what they answered, such as a receipt number.");
        refusals.ThrowIfAny();
        (TakenOn, Reference) = (day, reference.Trim());
    }

    /// <summary>A later correction of a period that was told: what should have been, less what was told.</summary>
    /// <param name="of">The return of the period.</param>
    /// <param name="ordinal">Its number among the amendments of the period.</param>
    /// <inheritdoc cref="TaxReturn(TaxAuthority, DateOnly, DateOnly, DateOnly, string, string, IReadOnlyCollection{ReturnRow}, Amounts.Currency, IReadOnlyList{TypedBox})"/>
    public static TaxReturn Amending(
        TaxReturn of,
        int ordinal,
        TaxAuthority authority,
        DateOnly filedOn,
        string filedBy,
        string reason,
        IReadOnlyCollection<ReturnRow> rows,
        Amounts.Currency home
    )
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "reason", reason, 300, "Say why it is amended; it stands on the amendment.");
        if (rows.Count == 0)
            refusals.Add("", "Nothing of that period was told otherwise than it counts.");
        refusals.ThrowIfAny();
        return new TaxReturn(authority, of.From, of.To, filedOn, filedBy, "", rows, home)
        {
            Amendment = ordinal,
            Reason = reason.Trim(),
        };
    }

    private void CheckTyped()
    {
        var refusals = new Refusals();
        foreach (var (typed, i) in Typed.Select((t, i) => (t, i)))
        {
            if (BoxSet.All(b => b.Number != typed.Number || b.Sum != BoxSum.Typed))
                refusals.Add($"typed[{i}]", $"Box {typed.Number} is not one that is typed in.");
            if (typed.Amount != 0)
                Texts.Required(refusals, $"reason-{typed.Number}", typed.Reason, 200, "Say what this amount is.");
        }

        refusals.ThrowIfAny();
    }

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
