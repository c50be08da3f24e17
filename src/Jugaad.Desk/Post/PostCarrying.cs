using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Selling;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;

namespace Jugaad.Desk.Post;

/// <summary>
/// Carries what waits in the post tray. An item is marked as on its way before it is handed over and as sent after, each
/// in a commit of its own; so it goes at most once, and one that fails holds no other up.
/// </summary>
public sealed partial class PostCarrying(BooksContext db, IMailCarrier carrier, IMessageGateway gateway, PaperRoom papers, BooksHead head, Connections connections, TimeProvider clock, ILogger<PostCarrying> log)
{
    private const int MinutesHeld = 30;

    /// <summary>Carries all that is due now.</summary>
    /// <returns>How many were handed over, and when the next try is due.</returns>
    public async Task<(int Sent, DateTime? Next)> CarryAsync(CancellationToken stop = default)
    {
        var sent = 0;
        var now = clock.GetUtcNow().UtcDateTime;
        var due = await db.Post.Where(p => p.State == PostState.Waiting && p.Way != PostWay.Print && (p.NextTryAt == null || p.NextTryAt <= now)).OrderBy(p => p.Id).Select(p => p.Id).ToListAsync(stop);
        foreach (var id in due)
        {
            if (await CarryOneAsync(id, stop)) sent++;
            db.ChangeTracker.Clear();
        }

        var next = await db.Post.Where(p => p.State == PostState.Waiting && p.Way != PostWay.Print).MinAsync(p => (DateTime?)(p.NextTryAt ?? now), stop);
        return (sent, next);
    }

    private async Task<bool> CarryOneAsync(int id, CancellationToken stop)
    {
        var item = await db.Post.Include(p => p.Attachments).SingleAsync(p => p.Id == id, stop);
        if (item.State != PostState.Waiting) return false;
        if (await connections.HeldAsync(item.Way, stop) is { } held)
        {
            item.Hold(held, clock.GetUtcNow().UtcDateTime.AddMinutes(MinutesHeld));
            await db.SaveChangesAsync(stop);
            return false;
        }

        item.HandOver();
        await db.SaveChangesAsync(stop);
        try
        {
            if (item.Way == PostWay.Message) await gateway.CarryAsync(item.Key, item.To, item.Body, stop);
            else await MailAsync(item, stop);
            item.Arrived(clock.GetUtcNow().UtcDateTime);
        }
        catch (CarrierException failed)
        {
            item.CameBack(failed.Message, failed.ForGood, clock.GetUtcNow().UtcDateTime);
        }
        catch (Exception broken) when (broken is not OperationCanceledException)
        {
            // Whatever goes wrong with one item must not hold the others up.
            CarryingFailed(broken, id);
            item.CameBack($"Something went wrong on our side: {broken.Message}", false, clock.GetUtcNow().UtcDateTime);
        }

        await db.SaveChangesAsync(CancellationToken.None);
        return item.State == PostState.Sent;
    }

    private async Task MailAsync(PostItem item, CancellationToken stop)
    {
        var settings = await db.MailSettings.AsNoTracking().FirstOrDefaultAsync(stop) ?? new MailSettings();
        var business = await head.BusinessAsync(stop);
        var attachments = new List<(string, byte[])>();
        if (!item.LinkOnly)
            foreach (var attachment in item.Attachments.OrderBy(a => a.Id)) attachments.Add(await papers.PdfAsync(attachment.DocumentId, stop));
        var files = item.FileIds.Split(',', StringSplitOptions.RemoveEmptyEntries).Select(id => int.Parse(id, System.Globalization.CultureInfo.InvariantCulture)).ToList();
        attachments.AddRange((await db.DocumentFiles.AsNoTracking().Where(f => files.Contains(f.Id)).OrderBy(f => f.Id).ToListAsync(stop)).Select(f => (f.Name, f.Content)));
        var mail = new OutgoingMail(
            item.Key, await head.NowAsync(stop), settings.FromName.Length > 0 ? settings.FromName : business.Name, settings.FromAddress.Length > 0 ? settings.FromAddress : business.Email,
            item.To, item.Subject, item.Body, attachments);
        await carrier.CarryAsync(mail, settings, stop);
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "Post item {Id} could not be carried")]
    private partial void CarryingFailed(Exception exception, int id);
}
