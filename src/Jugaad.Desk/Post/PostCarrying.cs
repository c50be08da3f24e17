using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;

namespace Jugaad.Desk.Post;

/// <summary>
/// Carries what waits in the post tray. An item is marked as on its way before it is handed over and as sent after,
/// each in a commit of its own. What broke off in between is unknown, and a person decides about it: so nothing goes
/// twice by itself, and one item that fails holds no other up.
/// </summary>
public sealed partial class PostCarrying(
    BooksContext db,
    IMailCarrier carrier,
    IMessageGateway gateway,
    EInvoiceCarrying einvoices,
    PaperRoom papers,
    Statements statements,
    IPostReports reports,
    SentPapers sent,
    BooksHead head,
    Connections connections,
    TimeProvider clock,
    ILogger<PostCarrying> log
)
{
    private const int MinutesHeld = 30;

    /// <summary>
    /// At the start of the program nothing can be on its way: what is marked so was being handed over when it was
    /// stopped.
    /// </summary>
    public async Task FindStoppedAsync(CancellationToken stop = default)
    {
        foreach (
            var item in await db
                .Post.Include(p => p.History)
                .Where(p => p.State == PostState.OnItsWay)
                .ToListAsync(stop)
        )
            item.Lose("Jugaad was stopped while it was being handed over. It may have gone or not.");
        await db.SaveChangesAsync(stop);
    }

    /// <summary>Carries all that is due now; nothing from books that rest.</summary>
    /// <returns>How many were handed over, and when the next try is due.</returns>
    public async Task<(int Sent, DateTime? Next)> CarryAsync(CancellationToken stop = default)
    {
        if (await head.FindBusinessAsync(stop) is null or { IsResting: true })
            return (0, null);
        var carried = 0;
        var now = clock.GetUtcNow().UtcDateTime;
        var due = await db
            .Post.Where(p =>
                p.State == PostState.Waiting && p.Way != PostWay.Print && (p.NextTryAt == null || p.NextTryAt <= now)
            )
            .OrderBy(p => p.Id)
            .Select(p => p.Id)
            .ToListAsync(stop);
        foreach (var id in due)
        {
            if (await CarryOneAsync(id, stop))
                carried++;
            db.ChangeTracker.Clear();
        }

        var next = await db
            .Post.Where(p => p.State == PostState.Waiting && p.Way != PostWay.Print)
            .MinAsync(p => (DateTime?)(p.NextTryAt ?? now), stop);
        return (carried, next);
    }

    private async Task<bool> CarryOneAsync(int id, CancellationToken stop)
    {
        var item = await db.Post.Include(p => p.Attachments).Include(p => p.History).SingleAsync(p => p.Id == id, stop);
        if (item.State != PostState.Waiting)
            return false;
        try
        {
            if (await connections.HeldAsync(item.Way, stop) is { } held)
            {
                item.Hold(held, clock.GetUtcNow().UtcDateTime.AddMinutes(MinutesHeld));
                await db.SaveChangesAsync(stop);
                return false;
            }

            item.HandOver(clock.GetUtcNow().UtcDateTime);
            await db.SaveChangesAsync(stop);
        }
        catch (DbUpdateConcurrencyException)
        {
            // Taken back in this very moment.
            return false;
        }

        var handed = false;
        try
        {
            var hand = item.Way switch
            {
                PostWay.Message => () => gateway.CarryAsync(item.Key, item.To, item.Body, stop),
                PostWay.Network => await einvoices.ReadyAsync(item, stop),
                _ => await ReadyAsync(item, stop),
            };
            handed = true;
            var said = await hand();
            item.Arrived(clock.GetUtcNow().UtcDateTime, said);
        }
        catch (CarrierException lost) when (lost.Fate == CarrierFate.Unknown)
        {
            item.Lose(lost.Message);
        }
        catch (CarrierException failed)
        {
            item.CameBack(failed.Message, failed.Fate == CarrierFate.Refused, clock.GetUtcNow().UtcDateTime);
        }
        catch (OperationCanceledException) when (!handed)
        {
            item.CameBack("Jugaad was stopped before it was handed over.", false, clock.GetUtcNow().UtcDateTime);
        }
        catch (OperationCanceledException)
        {
            item.Lose("Jugaad was stopped while it was being handed over. It may have gone or not.");
        }
        catch (Exception broken)
        {
            // Whatever goes wrong with one item must not hold the others up.
            CarryingFailed(broken, id);
            if (handed)
                item.Lose($"Handing it over ended in a way that is not known: {broken.Message}");
            else
                item.CameBack(
                    $"It could not be made ready to go: {broken.Message}",
                    false,
                    clock.GetUtcNow().UtcDateTime
                );
        }

        await db.SaveChangesAsync(CancellationToken.None);
        return item.State == PostState.Sent;
    }

    /// <summary>Makes a mail with all that goes along.</summary>
    /// <returns>What hands it over.</returns>
    private async Task<Func<Task<string>>> ReadyAsync(PostItem item, CancellationToken stop)
    {
        var settings = await db.MailSettings.AsNoTracking().FirstOrDefaultAsync(stop) ?? new MailSettings();
        var business = await head.BusinessAsync(stop);
        var attachments = new List<(string, byte[])>();
        if (!item.LinkOnly)
            foreach (var attachment in item.Attachments.OrderBy(a => a.Id))
                attachments.Add(
                    item.Hybrid
                        ? await einvoices.HybridAsync(attachment.DocumentId, stop)
                        : await papers.PdfAsync(attachment.DocumentId, stop)
                );
        if (item.CustomerId is { } customer && StatementWish.Read(item.Statement) is { } wish)
            attachments.Add(await statements.PdfAsync(customer, wish, null, stop));
        if (item.Report.Length > 0)
            attachments.AddRange(await reports.AttachmentsAsync(item.Report, stop));
        var files = item
            .FileIds.Split(',', StringSplitOptions.RemoveEmptyEntries)
            .Select(id => int.Parse(id, System.Globalization.CultureInfo.InvariantCulture))
            .ToList();
        attachments.AddRange(
            (
                await db
                    .DocumentFiles.AsNoTracking()
                    .Where(f => files.Contains(f.Id))
                    .OrderBy(f => f.Id)
                    .ToListAsync(stop)
            ).Select(f => (f.Name, f.Content))
        );
        await sent.KeepAsync(item, attachments, stop);
        var mail = new OutgoingMail(
            item.Key,
            await head.NowAsync(stop),
            settings.FromName.Length > 0 ? settings.FromName : business.Name,
            settings.FromAddress.Length > 0 ? settings.FromAddress : business.Email,
            item.To,
            item.Subject,
            item.Body,
            attachments
        );
        return () => carrier.CarryAsync(mail, settings, stop);
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "Post item {Id} could not be carried")]
    private partial void CarryingFailed(Exception exception, int id);
}
