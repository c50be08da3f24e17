using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Journal;
using Jugaad.Desk.Kept;

namespace Jugaad.Web.Shell;

/// <summary>A post item's state in words.</summary>
public static class PostWords
{
    /// <summary>What went or is to go, and to whom.</summary>
    public static string What(PostItem item) =>
        item.Way switch
        {
            PostWay.Print => item.Kind == PostKind.Reminder ? "Printed reminder" : "Printed paper",
            PostWay.Message => $"Message to {item.To}",
            PostWay.Network => $"E-invoice to {item.To}",
            _ => $"{(item.Kind == PostKind.Reminder ? "Reminder" : "Mail")} to {item.To}",
        };

    public static string Of(PostItem item) =>
        item.State switch
        {
            PostState.Sent when item.SettledBy.Length > 0 => $"arrived, as {item.SettledBy} says",
            PostState.Sent => item.Way == PostWay.Print ? "printed" : "sent",
            PostState.Waiting when item.Way == PostWay.Print => "waits to be printed",
            PostState.Waiting when item.Tries == 0 => item.LastProblem.Length > 0
                ? $"waits: {item.LastProblem}"
                : "waiting to go",
            PostState.Waiting => $"came back, is tried again: {item.LastProblem}",
            PostState.OnItsWay => "on its way",
            PostState.Withdrawn => "taken back",
            PostState.Unknown => $"not known whether it went: {item.LastProblem}",
            _ => $"came back: {item.LastProblem}",
        };

    public static string Class(PostState state) =>
        state switch
        {
            PostState.Sent => "settled",
            PostState.Failed or PostState.Unknown => "late",
            PostState.Withdrawn => "quiet",
            _ => "onway",
        };
}

/// <summary>The ink of how far an e-invoice got.</summary>
public static class EInvoiceWords
{
    public static string Ink(EInvoiceFate fate) =>
        fate switch
        {
            EInvoiceFate.Refused or EInvoiceFate.Stuck => "late",
            EInvoiceFate.Taken or EInvoiceFate.Paid => "settled",
            EInvoiceFate.Withdrawn => "quiet",
            _ => "onway",
        };
}

/// <summary>What a journal entry was made for, in words.</summary>
public static class EntryWords
{
    public static string Of(JournalEvent what) =>
        what switch
        {
            JournalEvent.Document => "paper issued",
            JournalEvent.Receipt => "money received",
            JournalEvent.ExchangeDifference => "exchange difference",
            JournalEvent.ExchangeDifferenceTakenBack => "exchange difference, taken back",
            JournalEvent.OpeningItem => "taken over on an account",
            JournalEvent.OpeningBalance => "opening balance",
            JournalEvent.Settlement => "taken off, or owed after all",
            JournalEvent.Refund => "paid back",
            JournalEvent.Returned => "taken back by the bank",
            JournalEvent.Transfer => "moved to another customer",
            JournalEvent.OtherMoney => "money of no customer",
            JournalEvent.TaxFiled => "tax return filed",
            JournalEvent.TaxCharged => "charge of an authority",
            JournalEvent.TaxMoved => "tax became due, or moved",
            _ => "undone",
        };
}

/// <summary>A document's state in words.</summary>
public static class StateWords
{
    public static string Of(DocumentKind kind, DocumentState state, DateOnly? due, long? open, DateOnly today) =>
        state switch
        {
            DocumentState.Issued when open > 0 && due is { } day => LateGauge.Words(day, today),
            DocumentState.Sent => "waits for an answer",
            _ => state.ToString().ToLowerInvariant(),
        };

    public static string Class(DocumentState state, DateOnly? due, long? open, DateOnly today) =>
        state switch
        {
            DocumentState.Issued when open > 0 && due < today => "late",
            DocumentState.Settled or DocumentState.Accepted => "settled",
            DocumentState.Sent => "onway",
            DocumentState.Draft or DocumentState.Cancelled or DocumentState.Lapsed or DocumentState.Declined => "quiet",
            _ => "",
        };
}
