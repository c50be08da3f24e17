using System.Text;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Sell;

/// <summary>
/// Rows as a spreadsheet puts them on the clipboard: tabs between cells, line ends between rows; a cell that has either
/// of them, or a quote, stands in quotes with its own quotes doubled.
/// </summary>
internal static class PastedRows
{
    internal static List<string[]> Of(string text)
    {
        var rows = new List<string[]>();
        var cells = new List<string>();
        var cell = new StringBuilder();
        var quoted = false;
        var typed = text.ReplaceLineEndings("\n");
        void EndCell()
        {
            cells.Add(cell.ToString().Trim());
            cell.Clear();
        }

        void EndRow()
        {
            EndCell();
            if (cells.Exists(c => c.Length > 0))
                rows.Add([.. cells]);
            cells.Clear();
        }

        for (var i = 0; i < typed.Length; i++)
        {
            var c = typed[i];
            if (quoted && c == '"' && i + 1 < typed.Length && typed[i + 1] == '"')
                cell.Append(typed[++i]);
            else if (quoted && c == '"')
                quoted = false;
            else if (quoted)
                cell.Append(c);
            else if (c == '"' && cell.Length == 0 && Closes(typed, i))
                quoted = true;
            else if (c == '\t')
                EndCell();
            else if (c == '\n')
                EndRow();
            else
                cell.Append(c);
        }

        EndRow();
        return rows;
    }

    /// <summary>
    /// Only a quote that is closed at the end of a cell opens one; an inch sign at the beginning of a text does not.
    /// </summary>
    private static bool Closes(string text, int open)
    {
        for (var i = open + 1; i < text.Length; i++)
        {
            if (text[i] != '"')
                continue;
            if (i + 1 < text.Length && text[i + 1] == '"')
                i++;
            else
                return i + 1 == text.Length || text[i + 1] is '\t' or '\n';
        }

        return false;
    }
}
