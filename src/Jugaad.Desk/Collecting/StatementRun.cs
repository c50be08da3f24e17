using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>Who may get a statement.</summary>
/// <param name="HomeBalance">What the balance is kept at, in minor units of the home currency.</param>
public sealed record StatementFor(int CustomerId, string Name, Sums Balance, Sums Late, long HomeBalance, bool ByMail);

/// <summary>Sends statements of account to one or to many, each once.</summary>
public sealed class StatementRun(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    OpenItems openItems,
    Agreements agreements,
    CollectingRules rules,
    MailComposing compose,
    PostTray tray
)
{
    /// <summary>All who owed something at the end of a day, by name.</summary>
    public async Task<IReadOnlyList<StatementFor>> WhoAsync(DateOnly day, CancellationToken stop = default)
    {
        var open = await openItems.OnAsync(day, null, stop);
        var agreed = await agreements.OnAsync(day, null, stop);
        var ids = open.Select(i => i.CustomerId).Distinct().ToList();
        var customers = await db
            .Customers.AsNoTracking()
            .Include(c => c.Contacts)
            .Where(c => ids.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, stop);
        return
        [
            .. open.Where(i => customers.ContainsKey(i.CustomerId))
                .GroupBy(i => customers[i.CustomerId])
                .Select(g => new StatementFor(
                    g.Key.Id,
                    g.Key.Name,
                    Sums.Of(g.Select(i => new Money(i.Sign * i.Open, i.Currency))),
                    Sums.Of(g.Select(i => new Money(agreed.Late(i), i.Currency))),
                    g.Sum(i => i.Sign * i.HomeOpen),
                    g.Key.ReminderEmail.Length > 0
                ))
                .Where(s => s.Balance.Above.Count > 0)
                .OrderBy(s => s.Name, StringComparer.OrdinalIgnoreCase)
                .ThenBy(s => s.CustomerId),
        ];
    }

    /// <summary>Sends one, unless the same went already.</summary>
    /// <returns>The post item's id.</returns>
    /// <exception cref="RefusalException">When the same statement is in the post or went already.</exception>
    public Task<int> SendAsync(int customerId, StatementWish wish, Once once = default) =>
        writer.WriteAsync(
            Right.Mail,
            once,
            async stop =>
            {
                var text = wish.Text;
                if (
                    await db.Post.AnyAsync(
                        p =>
                            p.Kind == PostKind.Statement
                            && p.CustomerId == customerId
                            && p.Statement == text
                            && p.State != PostState.Withdrawn
                            && p.State != PostState.Failed,
                        stop
                    )
                )
                    throw new RefusalException("", "This statement was put in the post already.");
                var agreed = await agreements.OnAsync(wish.Day, customerId, stop);
                var open = await openItems.OnAsync(wish.Day, customerId, stop);
                var late = Sums.Of(open.Select(i => new Money(agreed.Late(i), i.Currency)));
                return await tray.AddAsync(await compose.ForStatementAsync(customerId, wish, late, stop), stop);
            }
        );

    /// <summary>Says whether all who owe get one on the first of each month.</summary>
    public Task<int> SetMonthlyAsync(bool monthly, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                if (await db.CollectingSettings.SingleOrDefaultAsync(stop) is not { } settings)
                    db.CollectingSettings.Add(settings = new Core.Collecting.CollectingSettings());
                settings.SendStatements(monthly);
                await writer.TrailAsync($"Statements on the first of the month: {(monthly ? "yes" : "no")}");
                await writer.SaveAsync(stop);
                return settings.Id;
            }
        );

    /// <summary>
    /// On the first day of a month on which it runs: to all who owed something at the end of the month before, once.
    /// </summary>
    /// <returns>How many were sent.</returns>
    public async Task<int> RunDailyAsync(CancellationToken stop = default)
    {
        if (!(await rules.ReadAsync(stop)).StatementsMonthly)
            return 0;
        var today = await head.TodayAsync(stop);
        var wish = new StatementWish(null, new DateOnly(today.Year, today.Month, 1).AddDays(-1));
        var text = wish.Text;
        var had = (
            await db
                .Post.Where(p => p.Kind == PostKind.Statement && p.Statement == text && p.CustomerId != null)
                .Select(p => p.CustomerId!.Value)
                .ToListAsync(stop)
        ).ToHashSet();
        var sent = 0;
        foreach (var who in (await WhoAsync(wish.Day, stop)).Where(w => !had.Contains(w.CustomerId)))
        {
            try
            {
                await SendAsync(who.CustomerId, wish, stop);
                sent++;
            }
            catch (RefusalException refused) when (refused is not NotAllowedException)
            {
                // Somebody sent it by hand a moment ago, or it cannot be composed: the others go all the same.
            }

            db.ChangeTracker.Clear();
        }

        return sent;
    }
}
