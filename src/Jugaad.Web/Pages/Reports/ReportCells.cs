using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Lists;

namespace Jugaad.Web.Pages.Reports;

/// <summary>Cells of reports as people read them.</summary>
internal static class ReportCells
{
    internal static string Text(object? cell, DisplayFormat format) =>
        cell switch
        {
            DateOnly day => format.Date(day),
            Money money => format.Amount(money),
            decimal number => format.Typed(number),
            _ => Report.Text(cell),
        };
}
