using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Collect;

/// <summary>Says that money of a customer's waits, so that nobody is asked for what is paid.</summary>
public static class Waiting
{
    public static string Words(DeskPage page, ChaseRow row)
    {
        var credit = row.Credit.Count > 0 ? $"{row.Credit.Words(page.Format)} of theirs is not placed" : "";
        var lines =
            row.WaitingLines.Count > 0 ? $"{row.WaitingLines.Words(page.Format)} at the bank is likely theirs" : "";
        return $"{string.Join(", and ", new[] { credit, lines }.Where(t => t.Length > 0))}: look there first";
    }
}
