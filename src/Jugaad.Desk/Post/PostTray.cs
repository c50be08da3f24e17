using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
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
public sealed class PostTray(BooksContext db, BookWriter writer, BooksHead head, PostBell bell, TimeProvider clock)
{
    /// <summary>Writes an item; within a use case, in its transaction.</summary>
    /// <exception cref="RefusalException">When the address or the text cannot be.</exception>
    public Task<int> AddAsync(MailToSend mail, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                // A seller mails quotes; all other mail is the bookkeeper's.
                if (!await IsQuoteAsync(mail, stop))
                    writer.Must(Right.Mail);
                return await AddOurOwnAsync(mail, stop);
            }
        );

    /// <summary>Writes an item that the program itself sends in the use case of whoever may do that.</summary>
    /// <inheritdoc cref="AddAsync"/>
    internal async Task<int> AddOurOwnAsync(MailToSend mail, CancellationToken stop)
    {
        Check(mail);
        var item = new PostItem
        {
            Key = Guid.NewGuid().ToString("N"),
            Kind = mail.Kind,
            CustomerId = mail.CustomerId,
            Way = mail.Way,
            LinkOnly = mail.LinkOnly,
            Hybrid = mail.Hybrid,
            SummaryId = mail.SummaryId,
            Marks = mail.Marks,
            Statement = mail.Statement?.Text ?? "",
            Report = mail.Report,
            FileIds = string.Join(',', mail.FileIds),
            To = mail.Way == PostWay.Mail ? string.Join(", ", Addresses(mail.To)) : mail.To.Trim(),
            Subject = mail.Subject.Trim(),
            Body = mail.Body.ReplaceLineEndings("\n"),
            Attachments = mail.DocumentIds.Select(id => new PostAttachment { DocumentId = id }).ToList(),
            Day = await head.TodayAsync(stop),
            CreatedBy = writer.Who,
        };
        item.Begin(clock.GetUtcNow().UtcDateTime);
        db.Post.Add(item);
        await writer.SaveAsync(stop);
        var words = WordsOf(item.Way, item.Kind, item.To);
        // One line for the customer and the first paper, and one for each other: neither a thread nor the whole
        // trail says it twice.
        await writer.TrailAsync($"{words}", mail.CustomerId, mail.DocumentIds.Select(id => (int?)id).FirstOrDefault());
        foreach (var id in mail.DocumentIds.Skip(1))
            await writer.TrailAsync($"{words}", null, id);
        writer.AfterCommit(bell.Ring);
        return item.Id;
    }

    /// <summary>How the trail says that an item was put into the tray.</summary>
    internal static string WordsOf(PostWay way, PostKind kind, string to) =>
        way switch
        {
            PostWay.Print => "Put into the pile to print",
            PostWay.Message => $"Message to {to} put in the post tray",
            PostWay.Network => $"E-invoice to {to} put in the post tray",
            _ => $"{(kind == PostKind.Reminder ? "Reminder" : "Mail")} to {to} put in the post tray",
        };

    /// <summary>Sends an item that failed, or whose fate is not known, once more.</summary>
    public Task<int> TryAgainAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Mail,
            once,
            async stop =>
            {
                var item = await FindAsync(id, stop);
                if (item.State is PostState.Sent)
                    throw new RefusalException("", "This has been sent already.");
                if (item.State is PostState.OnItsWay)
                    throw new RefusalException("", "This is being handed over right now. Look again in a minute.");
                if (item.Way == PostWay.Print)
                    throw new RefusalException("", "This waits in the pile to be printed. Print the pile.");
                if (
                    item.SummaryId is { } summary
                    && await db.SalesSummaries.AnyAsync(s => s.Id == summary && s.DissolvedOn != null, stop)
                )
                    throw new RefusalException("", "This summary was taken back. Gather its sales anew.");
                if (item.Way == PostWay.Network && await WentOtherwiseAsync(item, stop))
                    throw new RefusalException("", "This paper went as an e-invoice meanwhile, and goes so only once.");
                if (item.State == PostState.Unknown)
                    await writer.TrailAsync(
                        $"Sent once more to {item.To}, though it may have gone before",
                        item.CustomerId,
                        item.Attachments.FirstOrDefault()?.DocumentId
                    );
                item.TryAgain(clock.GetUtcNow().UtcDateTime);
                writer.AfterCommit(bell.Ring);
                return id;
            }
        );

    /// <summary>Takes an item back that has not gone yet.</summary>
    public Task<int> WithdrawAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Mail,
            once,
            async stop =>
            {
                var item = await FindAsync(id, stop);
                if (item.State is PostState.Sent)
                    throw new RefusalException("", "This has left the house already and cannot be taken back.");
                if (item.State is PostState.OnItsWay)
                    throw new RefusalException("", "This is being handed over right now and cannot be taken back.");
                if (item.State is PostState.Withdrawn)
                    throw new RefusalException("", "This was taken back already.");
                var words = item.State == PostState.Unknown ? "let be; it may have gone" : "taken back before it went";
                item.Withdraw();
                await writer.TrailAsync(
                    $"Mail to {item.To} {words}",
                    item.CustomerId,
                    item.Attachments.FirstOrDefault()?.DocumentId
                );
                return id;
            }
        );

    /// <summary>Notes a person's word that an item arrived of which nobody knew.</summary>
    public Task<int> SettleAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Mail,
            once,
            async stop =>
            {
                var item = await FindAsync(id, stop);
                item.Settle(writer.Who, clock.GetUtcNow().UtcDateTime);
                await writer.TrailAsync(
                    $"Mail to {item.To} arrived, as {writer.Who} says",
                    item.CustomerId,
                    item.Attachments.FirstOrDefault()?.DocumentId
                );
                return id;
            }
        );

    /// <summary>Takes what was printed off the pile.</summary>
    /// <param name="ids">The items that were printed.</param>
    public Task<int> PrintedAsync(IReadOnlyCollection<int> ids, Once once = default) =>
        writer.WriteAsync(
            Right.Mail,
            once,
            async stop =>
            {
                var items = await db
                    .Post.Include(p => p.Attachments)
                    .Where(p => ids.Contains(p.Id) && p.Way == PostWay.Print && p.State == PostState.Waiting)
                    .ToListAsync(stop);
                foreach (var item in items)
                {
                    item.Arrived(clock.GetUtcNow().UtcDateTime);
                    foreach (var attachment in item.Attachments)
                        await writer.TrailAsync("Printed with the pile", null, attachment.DocumentId);
                }

                return items.Count;
            }
        );

    /// <summary>The addresses of a mail, one by one.</summary>
    public static IReadOnlyList<string> Addresses(string to) =>
        to.Split([',', ';', '\n'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    private static void Check(MailToSend mail)
    {
        var refusals = new Refusals();
        switch (mail.Way)
        {
            case PostWay.Mail when Addresses(mail.To).Count == 0:
                refusals.Add("to", "There is no mail address to send this to. Type one.");
                break;
            case PostWay.Mail:
                foreach (var address in Addresses(mail.To))
                    Texts.Email(refusals, "to", address);
                break;
            case PostWay.Message when !IsNumber(mail.To):
                refusals.Add("to", "Give the telephone number with its country, such as +372 5550 0142.");
                break;
        }

        if (mail.Way == PostWay.Message && mail.Body.Length > MostMessage)
            refusals.Add(
                "body",
                $"A message has at most {MostMessage} characters; this has {mail.Body.Length}. Shorten it."
            );
        Texts.Required(refusals, "subject", mail.Subject, 200, "Give the mail a subject.");
        if (mail.Subject.AsSpan().IndexOfAny('\r', '\n') >= 0)
            refusals.Add("subject", "A subject is one line.");
        Texts.Required(refusals, "body", mail.Body, Limits.Note, "The mail has no text. Write a line or two.");
        refusals.ThrowIfAny();
    }

    private const int MostMessage = 480;

    private static bool IsNumber(string text)
    {
        var digits = text.Count(char.IsAsciiDigit);
        return text.TrimStart().StartsWith('+')
            && digits is >= 7 and <= 15
            && text.All(c => char.IsAsciiDigit(c) || c is '+' or ' ' or '-' or '(' or ')');
    }

    private async Task<bool> IsQuoteAsync(MailToSend mail, CancellationToken stop) =>
        mail.Kind == PostKind.Document
        && !await db.Documents.AnyAsync(
            d => mail.DocumentIds.Contains(d.Id) && d.Kind != Core.Documents.DocumentKind.Quote,
            stop
        );

    /// <summary>Whether another item carries the same paper through the network, or has.</summary>
    private async Task<bool> WentOtherwiseAsync(PostItem item, CancellationToken stop)
    {
        var papers = item.Attachments.Select(a => a.DocumentId).ToList();
        return await db
            .Post.OnNetwork()
            .AnyAsync(
                p =>
                    p.Id != item.Id
                    && (
                        p.Attachments.Any(a => papers.Contains(a.DocumentId))
                        || (item.SummaryId != null && p.SummaryId == item.SummaryId)
                    ),
                stop
            );
    }

    private async Task<PostItem> FindAsync(int id, CancellationToken stop) =>
        await db.Post.Include(p => p.Attachments).SingleOrDefaultAsync(p => p.Id == id, stop)
        ?? throw new RefusalException("", $"There is no post item {id}.");
}
