namespace Jugaad.Core.Layouts;

/// <summary>What a table tells.</summary>
public enum TableOf
{
    /// <summary>What is sold; of a paper that is no bill, the tables that it has.</summary>
    Lines,
    Taxes,
    Totals,

    /// <summary>The facts, each beneath its label, beside each other.</summary>
    Facts,
}

/// <summary>A column of a table.</summary>
public sealed record TableColumn
{
    /// <summary>What it tells, of <see cref="TableColumns"/>.</summary>
    public string Key { get; init; } = "";

    /// <summary>Its head; empty for the word that the paper's language has for it, <c>-</c> for none.</summary>
    public string Title { get; init; } = "";

    /// <summary>In millimetres; 0 for what the others leave. One column of a table has 0.</summary>
    public double Width { get; init; }

    /// <summary>Room before it.</summary>
    public double Gap { get; init; }

    public Align Align { get; init; }

    /// <summary>0 for the table's.</summary>
    public double Size { get; init; }

    public bool Bold { get; init; }

    public string Colour { get; init; } = "";

    /// <summary>Whether it is left away, head and all, and its room given to the others, where no row has a value.</summary>
    public bool OnlyWithValues { get; init; }
}

/// <summary>How rows that sum up look.</summary>
public sealed record SumLook
{
    /// <summary>0 for the table's.</summary>
    public double Size { get; init; }

    public bool Bold { get; init; } = true;

    public string Colour { get; init; } = "";

    /// <summary>Whether the double rule of a ledger stands beneath its amount.</summary>
    public bool DoubleRule { get; init; }
}

/// <summary>The design of a table.</summary>
public sealed record PieceTable
{
    public TableOf Of { get; init; }

    public IReadOnlyList<TableColumn> Columns { get; init; } = [];

    /// <summary>Whether its columns have heads.</summary>
    public bool Heads { get; init; }

    /// <summary>Of the heads, in points; 0 for the table's.</summary>
    public double HeadSize { get; init; }

    /// <summary>A named ink or <c>#RRGGBB</c>; empty for quiet.</summary>
    public string HeadColour { get; init; } = "";

    /// <summary>Whether a thin rule stands beneath each row.</summary>
    public bool Ruled { get; init; }

    /// <summary>Behind every second row; empty for nothing.</summary>
    public string Striped { get; init; } = "";

    /// <summary>Room beneath the text of each row.</summary>
    public double RowGap { get; init; }

    /// <summary>Whether each row takes two lines: its text, and its figures below. For strips.</summary>
    public bool Stacked { get; init; }

    /// <summary>How many facts stand beside each other at most.</summary>
    public int PerRow { get; init; } = 6;

    public SumLook Sum { get; init; } = new();
}

/// <summary>What the columns of each table may tell.</summary>
public static class TableColumns
{
    private static readonly Dictionary<TableOf, string[]> All = new()
    {
        [TableOf.Lines] = ["No", "Text", "TheirNumber", "Quantity", "Unit", "Price", "Discount", "Tax", "Amount"],
        [TableOf.Taxes] = ["Label", "Taxable", "Tax", "Home"],
        [TableOf.Totals] = ["Label", "Amount"],
        [TableOf.Facts] = [],
    };

    public static IReadOnlyList<string> Of(TableOf table) => All[table];
}
