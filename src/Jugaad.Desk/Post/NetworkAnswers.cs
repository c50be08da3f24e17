using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Post;

/// <summary>Takes in what receivers said of e-invoices. An answer is kept once; one that cannot be changes nothing.</summary>
public sealed class NetworkAnswers(BooksContext db, BookWriter writer, BooksHead head, IAccessPoint network)
{
    /// <returns>How many answers were new.</returns>
    public async Task<int> TakeAsync(CancellationToken stop = default)
    {
        if (
            await head.FindBusinessAsync(stop) is null or { IsResting: true }
            || !await db.Post.AnyAsync(
                p => p.Way == PostWay.Network && (p.State == PostState.Sent || p.State == PostState.Unknown),
                stop
            )
        )
            return 0;
        var told = await network.AnswersAsync(await head.TodayAsync(stop), stop);
        var known = await db.NetworkAnswers.Select(a => a.MessageId).ToHashSetAsync(stop);
        if (told.All(t => known.Contains(t.Id)))
            return 0;
        return await writer.WriteAsync(
            Right.See,
            stop,
            async inside =>
            {
                var taken = 0;
                foreach (var answer in told)
                {
                    if (await OneAsync(answer, inside))
                        taken++;
                }

                return taken;
            }
        );
    }

    private async Task<bool> OneAsync(ReceiversAnswer told, CancellationToken stop)
    {
        if (await db.NetworkAnswers.AnyAsync(a => a.MessageId == told.Id, stop))
            return false;
        var item = await db
            .Post.Include(p => p.Attachments)
            .SingleOrDefaultAsync(p => p.Key == told.Key && p.Way == PostWay.Network, stop);
        if (item is null || item.State is not (PostState.Sent or PostState.Unknown))
            return false;
        // Who answers has got it.
        if (item.State == PostState.Unknown)
        {
            const string receiver = "the receiver's answer";
            item.Settle(receiver, told.Day.ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc));
            await writer.TrailAsync(
                $"{item.Subject} arrived, as {receiver} says",
                item.CustomerId,
                item.Attachments.FirstOrDefault()?.DocumentId
            );
        }

        var before = await db
            .NetworkAnswers.Where(a => a.PostItemId == item.Id && a.Counts)
            .OrderByDescending(a => a.Id)
            .Select(a => (AnswerKind?)a.Kind)
            .FirstOrDefaultAsync(stop);
        var answer = new NetworkAnswer
        {
            PostItemId = item.Id,
            MessageId = told.Id,
            Kind = told.Kind,
            Reason = told.Reason.Length > 500 ? told.Reason[..500] : told.Reason,
            Day = told.Day,
            Counts = Answers.CanFollow(before, told.Kind),
        };
        db.NetworkAnswers.Add(answer);
        await writer.SaveAsync(stop);
        if (!answer.Counts)
            return true;
        var why = answer.Reason.Length > 0 ? $": {answer.Reason}" : "";
        await writer.TrailAsync(
            $"{item.Subject}, the receiver says: {answer.Kind.Word()}{why}",
            item.CustomerId,
            item.Attachments.FirstOrDefault()?.DocumentId
        );
        return true;
    }
}
