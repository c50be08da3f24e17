using Jugaad.Core.Collecting;
using Jugaad.Desk.Reference;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Collect;

/// <summary>What was said and agreed, in words.</summary>
public static class Told
{
    /// <summary>A part of something open, and how it stands.</summary>
    public static string Words(DeskPage page, Portion portion, OpenOnDay item)
    {
        var amount = portion.Amount == item.Open ? "" : $"{page.Amount(portion.Amount, item.Currency)} ";
        return portion.Kind switch
        {
            PortionKind.Promised => $"{amount}promised for {page.Day(portion.Day!.Value)}",
            PortionKind.Planned => $"{amount}planned for {page.Day(portion.Day!.Value)}",
            PortionKind.Disputed => $"{amount}in dispute",
            _ => "",
        };
    }

    public static string Words(ContactNote note) =>
        note.Way switch
        {
            ContactWay.NoAnswer => "nobody answered",
            _ => string.Join(
                ": ",
                new[] { note.SpokeTo, note.Said.Length > 0 ? note.Said : "a promise" }.Where(t => t.Length > 0)
            ),
        };

    public static string Words(PromiseState state) =>
        state switch
        {
            PromiseState.Open => "open",
            PromiseState.Waits => "money waits to be placed",
            PromiseState.Kept => "kept",
            PromiseState.InPart => "kept in part",
            _ => "broken",
        };

    /// <summary>The class of ink in which a state stands.</summary>
    public static string Ink(PromiseState state) =>
        state switch
        {
            PromiseState.Kept => "settled",
            PromiseState.InPart or PromiseState.Broken => "late",
            _ => "onway",
        };
}
