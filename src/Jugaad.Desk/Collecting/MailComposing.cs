using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>Composes the mails that go with documents and reminders; a person sees them before they go.</summary>
public sealed class MailComposing(BooksContext db, BooksHead head, BookWriter writer)
{
    /// <summary>The mail for a document that is about to be issued or has been.</summary>
    /// <exception cref="RefusalException">When there is no such document.</exception>
    public async Task<MailToSend> ForDocumentAsync(int id, CancellationToken stop = default)
    {
        var document = await db.Documents.AsNoTracking().Include(d => d.Customer!).ThenInclude(c => c.Contacts).SingleOrDefaultAsync(d => d.Id == id, stop)
            ?? throw new RefusalException("", $"There is no document {id}.");
        var business = await head.BusinessAsync(stop);
        var format = business.Format;
        var number = document.Number ?? await NextNumberAsync(document, stop);
        var until = document.DueDate ?? document.ValidUntil;
        var (subject, body) = MailTexts.Write(document.Kind == DocumentKind.Quote ? MailText.Quote : MailText.Invoice, (await CommonAsync(business, document.Customer!, stop)) with
        {
            Number = number,
            Total = format.WithCode(document.Payable, document.Currency),
            Date = format.Date(document.Date),
            Until = until is { } day ? format.Date(day) : "",
        });
        return new MailToSend(document.Customer!.InvoiceEmail, subject, body) { Kind = PostKind.Document, CustomerId = document.CustomerId, DocumentIds = [id] };
    }

    /// <summary>A reminder of all that is late in one currency; its tone follows how late the oldest is.</summary>
    /// <exception cref="RefusalException">When nothing is late.</exception>
    public async Task<MailToSend> ReminderAsync(int customerId, IReadOnlyCollection<int>? only = null, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var customer = await db.Customers.AsNoTracking().Include(c => c.Contacts).SingleOrDefaultAsync(c => c.Id == customerId, stop) ?? throw new RefusalException("", $"There is no customer {customerId}.");
        var today = await head.TodayAsync(stop);
        var late = OldestFirst.Order(await db.AccountItems.AsNoTracking().Where(i => i.CustomerId == customerId && i.Open > 0 && i.Sign > 0 && i.Due < today).ToListAsync(stop)).ToList();
        if (only is not null) late = late.Where(i => only.Contains(i.Id)).ToList();
        if (late.Count == 0) throw new RefusalException("", $"Nothing of {customer.Name} is late, so there is nothing to remind of.");
        var format = business.Format;
        var oldest = today.DayNumber - late[0].Due.DayNumber;
        // The tone never runs ahead of what was sent before.
        var sent = await db.Post.CountAsync(p => p.Kind == PostKind.Reminder && p.CustomerId == customerId && p.State != PostState.Withdrawn && p.State != PostState.Failed, stop);
        var text = oldest <= 20 || sent == 0 ? MailText.GentleReminder : oldest <= 60 || sent == 1 ? MailText.FirmReminder : MailText.LastReminder;
        var lines = late.Select(i => $"  {i.Number} of {format.Date(i.Date)}, due {format.Date(i.Due)}, {Days(today.DayNumber - i.Due.DayNumber)} late: {format.WithCode(i.Open, i.Currency)}");
        var (subject, body) = MailTexts.Write(text, (await CommonAsync(business, customer, stop)) with
        {
            Date = format.Date(today),
            Items = string.Join('\n', lines),
            Overdue = format.WithCode(late.Sum(i => i.Open), customer.Currency),
        });
        return new MailToSend(customer.ReminderEmail, subject, body) { Kind = PostKind.Reminder, CustomerId = customerId, DocumentIds = late.Select(i => i.DocumentId).OfType<int>().ToList() };
    }

    public static string Days(int days) => days == 1 ? "1 day" : $"{days} days";

    private async Task<MailFields> CommonAsync(Business business, Customer customer, CancellationToken stop) => new()
    {
        Business = business.PaperName,
        Greeting = customer.ContactName.Length > 0 ? $"Dear {customer.ContactName}" : "Good day",
        Account = Iban.Grouped(await db.LedgerAccounts.Where(a => a.OnPapers && !a.Retired).OrderBy(a => a.Code).Select(a => a.Iban).FirstOrDefaultAsync(stop) ?? ""),
        Sender = writer.Who,
    };

    /// <summary>What the number will be; it is taken for good when the document is issued.</summary>
    private async Task<string> NextNumberAsync(Document document, CancellationToken stop)
    {
        if (document.NumberByHand.Length > 0) return document.NumberByHand;
        var usedFor = document.Kind.ToString();
        var series = await db.Series.AsNoTracking().Where(s => s.UsedFor == usedFor && !s.Retired).OrderByDescending(s => s.Id == document.SeriesByHand).ThenByDescending(s => s.IsUsual).ThenBy(s => s.Id).FirstAsync(stop);
        return series.Peek(document.Date).Number;
    }
}
