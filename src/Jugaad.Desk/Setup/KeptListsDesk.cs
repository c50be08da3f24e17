using Jugaad.Core;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>The short lists that the business keeps: ways of payment, and reasons for credit and debit notes.</summary>
public sealed class KeptListsDesk(BooksContext db, BookWriter writer, Retiring retiring)
{
    /// <exception cref="RefusalException">When there is one of that name, or the money has nowhere to come
    /// in.</exception>
    public Task<int> AddWayAsync(string name, int moneyAccountId, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var way = new PayWay(name, moneyAccountId);
                var refusals = new Refusals();
                if (await db.PayWays.AnyAsync(w => w.Name == way.Name, stop))
                    refusals.Add("name", $"{way.Name} is in the list already.");
                if (
                    !await db.LedgerAccounts.AnyAsync(
                        a => a.Id == moneyAccountId && a.Role == AccountRole.Money && !a.Retired,
                        stop
                    )
                )
                    refusals.Add("moneyAccountId", "Choose where this money comes in.");
                refusals.ThrowIfAny();
                db.PayWays.Add(way);
                await writer.TrailAsync($"Way of payment {way.Name} added");
                await writer.SaveAsync(stop);
                return way.Id;
            }
        );

    public Task<int> RetireWayAsync(int id, bool retired, Once once = default) =>
        retiring.RetireAsync<PayWay>(Right.Setup, id, retired, once, way => $"Way of payment {way.Name}");

    /// <exception cref="RefusalException">When it is there already.</exception>
    public Task<int> AddReasonAsync(string text, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var reason = new NoteReason(text);
                if (await db.NoteReasons.AnyAsync(r => r.Text == reason.Text, stop))
                    throw new RefusalException("text", "This reason is in the list already.");
                db.NoteReasons.Add(reason);
                await writer.TrailAsync($"Reason “{reason.Text}” added");
                await writer.SaveAsync(stop);
                return reason.Id;
            }
        );

    public Task<int> RetireReasonAsync(int id, bool retired, Once once = default) =>
        retiring.RetireAsync<NoteReason>(Right.Setup, id, retired, once, reason => $"Reason “{reason.Text}”");
}
