namespace Jugaad.Core.Layouts;

/// <summary>A column of a table on a paper.</summary>
/// <param name="At">Where its texts begin, or end, in millimetres from the paper's left edge.</param>
public sealed record PaperColumn(string Head, double At, Anchor Anchor = Anchor.Start);

/// <summary>A row of a table on a paper; figures are written out already.</summary>
/// <param name="Strong">Whether it sums up.</param>
public sealed record PaperRow(IReadOnlyList<string> Cells, bool Strong = false);

/// <summary>
/// A table that is no bill: such as what is open, or how late it is. It breaks between rows, with its head repeated.
/// </summary>
public sealed record PaperTable(IReadOnlyList<PaperColumn> Columns, IReadOnlyList<PaperRow> Rows)
{
    /// <summary>Between which millimetres its columns stand; a layout stretches them to the room that it has.</summary>
    public double From { get; init; } = 20;

    /// <inheritdoc cref="From"/>
    public double To { get; init; } = 190;
}
