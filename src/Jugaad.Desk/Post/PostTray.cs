using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Post;

/// <summary>Wakes whoever carries the post.</summary>
public sealed class PostBell : IDisposable
{
    private readonly SemaphoreSlim _bell = new(0, 1);

    public void Ring()
    {
        try
        {
            _bell.Release();
        }
        catch (SemaphoreFullException)
        {
            // It rings already.
        }
    }

    public void Dispose() => _bell.Dispose();

    /// <summary>Waits for a ring, or for the time to pass.</summary>
    public Task WaitAsync(TimeSpan most, CancellationToken stop) => _bell.WaitAsync(most, stop);
}

/// <summary>What is to be sent. Items are written with their cause and carried after the commit.</summary>
public sealed class PostTray(BooksContext db, BookWriter writer, BooksHead head, PostBell bell)
{
    /// <summary>Writes an item; within a use case, in its transaction.</summary>
    /// <exception cref="RefusalException">When the address or the text cannot be.</exception>
    public Task<int> AddAsync(MailToSend mail, CancellationToken stop = default) => AddAsync(mail, null, stop);

    /// <inheritdoc cref="AddAsync(MailToSend, CancellationToken)"/>
    public Task<int> AddAsync(MailToSend mail, string? formKey, CancellationToken stop = default) => writer.WriteAsync(Right.Draft, formKey, async () =>
    {
        // A seller mails quotes; all other mail is the bookkeeper's.
        if (!await IsQuoteAsync(mail, stop)) writer.Must(Right.Mail);
        var refusals = new Refusals();
        if (string.IsNullOrWhiteSpace(mail.To)) refusals.Add("to", "There is no mail address to send this to. Type one.");
        else Texts.Email(refusals, "to", mail.To);
        Texts.Required(refusals, "subject", mail.Subject, 200, "Give the mail a subject.");
        if (mail.Subject.AsSpan().IndexOfAny('\r', '\n') >= 0) refusals.Add("subject", "A subject is one line.");
        Texts.Required(refusals, "body", mail.Body, Limits.Note, "The mail has no text. Write a line or two.");
        refusals.ThrowIfAny();
        var item = new PostItem
        {
            Key = Guid.NewGuid().ToString("N"),
            Kind = mail.Kind,
            CustomerId = mail.CustomerId,
            To = mail.To.Trim(),
            Subject = mail.Subject.Trim(),
            Body = mail.Body.ReplaceLineEndings("\n"),
            Attachments = mail.DocumentIds.Select(id => new PostAttachment { DocumentId = id }).ToList(),
            Day = await head.TodayAsync(stop),
            CreatedBy = writer.Who,
        };
        db.Post.Add(item);
        await writer.SaveAsync(stop);
        // Once for the customer, and once for each paper, so that neither's thread says it twice.
        var words = $"{(mail.Kind == PostKind.Reminder ? "Reminder" : "Mail")} to {item.To} put in the post tray";
        await writer.TrailAsync(words, mail.CustomerId);
        foreach (var id in mail.DocumentIds) await writer.TrailAsync(words, null, id);
        writer.AfterCommit(bell.Ring);
        return item.Id;
    }, stop);

    /// <summary>Sends an item that failed, or whose fate is not known, once more.</summary>
    public Task<int> TryAgainAsync(int id, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Mail, formKey, async () =>
    {
        var item = await FindAsync(id, stop);
        if (item.State is PostState.Sent) throw new RefusalException("", "This has been sent already.");
        item.TryAgain();
        writer.AfterCommit(bell.Ring);
        return id;
    }, stop);

    /// <summary>Takes an item back that has not gone yet.</summary>
    public Task<int> WithdrawAsync(int id, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Mail, formKey, async () =>
    {
        var item = await FindAsync(id, stop);
        if (item.State is PostState.Sent or PostState.OnItsWay) throw new RefusalException("", "This has left the house already and cannot be taken back.");
        item.Withdraw();
        await writer.TrailAsync($"Mail to {item.To} taken back before it went", item.CustomerId, item.Attachments.FirstOrDefault()?.DocumentId);
        return id;
    }, stop);

    private async Task<bool> IsQuoteAsync(MailToSend mail, CancellationToken stop) =>
        mail.Kind == PostKind.Document && !await db.Documents.AnyAsync(d => mail.DocumentIds.Contains(d.Id) && d.Kind != Core.Documents.DocumentKind.Quote, stop);

    private async Task<PostItem> FindAsync(int id, CancellationToken stop) =>
        await db.Post.Include(p => p.Attachments).SingleOrDefaultAsync(p => p.Id == id, stop) ?? throw new RefusalException("", $"There is no post item {id}.");
}
