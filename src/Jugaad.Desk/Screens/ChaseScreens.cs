using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Screens;

/// <summary>A customer who owes something, as whoever collects looks at them. Amounts are minor units.</summary>
/// <param name="AskFor">Whom to ask for; empty where nobody is known.</param>
/// <param name="LooksAfterId">Who of the business collects from them; null for nobody.</param>
/// <param name="Currency">Their usual one.</param>
/// <param name="Late">What is late and can be asked for.</param>
/// <param name="LateHome">The same in home currency.</param>
/// <param name="HasOwnHabit">Whether the habit is theirs, or that of all customers.</param>
/// <param name="Broke">The promise that was not kept since nobody spoke to them; null for none.</param>
/// <param name="WaitingLines">How much of what waits at the bank is likely theirs.</param>
/// <param name="Worth">What a contact is worth, in minor units of the home currency.</param>
/// <param name="IsToday">Whether a contact is due today.</param>
/// <param name="Why">Why, in words; the largest reasons first.</param>
public sealed record ChaseRow(
    int CustomerId,
    string Name,
    Currency Currency,
    string AskFor,
    string Phone,
    int? LooksAfterId,
    string LooksAfter,
    DateOnly? AskAgainOn,
    CustomerOwes Owes,
    PayingHabit Habit,
    bool HasOwnHabit,
    Sums Late,
    long LateHome,
    DateOnly? LastContact,
    PromiseThen? Broke,
    Sums WaitingLines,
    long Worth,
    bool IsToday,
    Phrase Why,
    int? LadderId,
    bool NoLadder
)
{
    public Sums Open => Sums.Of(Owes.Items.Select(i => new Money(i.Open, i.Currency)));

    /// <summary>Money and credit of theirs that is not placed.</summary>
    public Sums Credit => Sums.Of(Owes.Credits.Select(c => new Money(c.Open, c.Currency)));

    /// <summary>Whether money of theirs waits that may pay some of it: look there first.</summary>
    public bool MoneyWaits => Credit.Count > 0 || WaitingLines.Count > 0;
}

/// <summary>What narrows the chase list.</summary>
/// <param name="Show">today (the usual one), promised, broken, dispute, silent, all.</param>
/// <param name="SilentDays">For silent: nobody spoke to them for so many days.</param>
/// <param name="Who">The id of who looks after them; 0 for all.</param>
/// <param name="Least">At least so much late in home currency, in minor units.</param>
public sealed record ChaseFilter(string Show, int SilentDays, int Who, long Least, string Search);

/// <summary>Reads whom to ask for money today, the most worthwhile first.</summary>
public sealed class ChaseScreens(
    BooksContext db,
    BooksHead head,
    OwedBook owed,
    PayingHabits habits,
    MoneyWaiting waiting,
    CollectingRules rules
)
{
    /// <summary>All that fit, in order.</summary>
    public async Task<IReadOnlyList<ChaseRow>> ListAsync(ChaseFilter filter, CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var fits = (await ReadAsync(null, stop))
            .Where(r => filter.Who == 0 || r.LooksAfterId == filter.Who)
            .Where(r => r.LateHome >= filter.Least)
            .Where(r =>
                filter.Show switch
                {
                    "promised" => r.Owes.Promises.Any(p => p.Judged.Holds && p.Judged.Missing > 0),
                    "broken" => r.Broke is not null,
                    "dispute" => r.Owes.Disputes.Count > 0,
                    "silent" => r.Late.Count > 0
                        && (r.LastContact is not { } last || today.DayNumber - last.DayNumber >= filter.SilentDays),
                    "all" => true,
                    _ => r.IsToday,
                }
            );
        if (filter.Search.Trim().Length > 0)
        {
            var searched = await CustomerFinder.FittingAsync(db, db.Customers.AsNoTracking(), filter.Search, stop);
            var found = (await searched.Select(c => c.Id).ToListAsync(stop)).ToHashSet();
            fits = fits.Where(r => found.Contains(r.CustomerId));
        }

        return
        [
            .. fits.OrderByDescending(r => r.Worth)
                .ThenByDescending(r => r.LateHome)
                .ThenBy(r => r.Name, StringComparer.OrdinalIgnoreCase)
                .ThenBy(r => r.CustomerId),
        ];
    }

    /// <returns>Null where there is no such customer.</returns>
    public async Task<ChaseRow?> OneAsync(int customerId, CancellationToken stop = default) =>
        (await ReadAsync(customerId, stop)).SingleOrDefault();

    /// <summary>What was said and agreed with a customer, the newest first.</summary>
    public async Task<IReadOnlyList<ContactNote>> NotesAsync(
        int customerId,
        int most,
        CancellationToken stop = default
    ) =>
        await db
            .ContactNotes.AsNoTracking()
            .Where(n => n.CustomerId == customerId)
            .OrderByDescending(n => n.Day)
            .ThenByDescending(n => n.Id)
            .Take(most)
            .ToListAsync(stop);

    /// <summary>Those who may collect, by name.</summary>
    public async Task<IReadOnlyList<(int Id, string Name)>> PeopleAsync(CancellationToken stop = default) =>
        [
            .. (await db.Users.OrderBy(u => u.FullName).Select(u => new { u.Id, u.FullName }).ToListAsync(stop)).Select(
                u => (u.Id, u.FullName)
            ),
        ];

    private async Task<List<ChaseRow>> ReadAsync(int? only, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        var today = await head.TodayAsync(stop);
        var weights = (await rules.ReadAsync(stop)).Weights;
        var owes = (await owed.OnAsync(today, only, stop)).Where(o => only is not null || o.Items.Count > 0).ToList();
        var ids = owes.ConvertAll(o => o.CustomerId);
        var customers = await db
            .Customers.AsNoTracking()
            .Include(c => c.Contacts)
            .Where(c => ids.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, stop);
        var usual = await habits.OnAsync(today, stop);
        var people = (await PeopleAsync(stop)).ToDictionary(p => p.Id, p => p.Name);
        var notes = await LastNotesAsync(ids, stop);
        var spoken = await LastContactsAsync(notes, ids, stop);
        var (calls, failed) = await AskedByStepsAsync(ids, stop);
        var lines = await waiting.LinesAsync(stop);
        var rows = new List<ChaseRow>();
        foreach (var of in owes)
        {
            if (!customers.TryGetValue(of.CustomerId, out var customer))
                continue;
            rows.Add(Row(of, customer));
        }

        return rows;

        ChaseRow Row(CustomerOwes of, Customer customer)
        {
            var habit = usual.Of(customer.Id);
            var late = of
                .Items.Where(i => i.Due < today)
                .Select(i => (Item: i, Askable: of.Askable(i.ItemId)))
                .Where(l => l.Askable > 0)
                .Select(l =>
                    (
                        l.Item,
                        l.Askable,
                        // What the books say that it is worth; the order of the list needs no newer rate.
                        Home: Rounding.Share(l.Item.HomeOpen, l.Askable, l.Item.Open)
                    )
                )
                .ToList();
            var lateSums = Sums.Of(late.Select(l => new Money(l.Askable, l.Item.Currency)));
            DateOnly? last = spoken.TryGetValue(customer.Id, out var day) ? day : null;
            DateOnly? spoke = notes.TryGetValue(customer.Id, out var said) ? said : null;
            var broke = of.Promises.FirstOrDefault(p =>
                p.Judged.IsBroken && (spoke is null || p.Promise.Until >= spoke)
            );
            var since = last is { } l ? today.DayNumber - l.DayNumber : (int?)null;
            var risk = RiskOf(customer.RiskGrade);
            var worth = ContactWorth.Of(
                new ContactCase(
                    [.. late.Select(i => new AskedFor(i.Home, today.DayNumber - i.Item.Due.DayNumber))],
                    habit.Mean,
                    broke is not null,
                    risk,
                    since
                ),
                weights
            );
            var looksAfter = customer.CollectorId ?? customer.SellerId;
            var leftAlone = customer.AskAgainOn > today;
            bool SinceNote(Dictionary<int, DateOnly> days, out DateOnly on) =>
                days.TryGetValue(customer.Id, out on)
                && !(notes.TryGetValue(customer.Id, out var noted) && noted >= on);
            var isCall = SinceNote(calls, out var callOn);
            var cameBack = SinceNote(failed, out var failedOn);
            var contact =
                customer.Contacts.FirstOrDefault(c => c.GetsReminders)
                ?? customer.Contacts.FirstOrDefault(c => c.GetsInvoices);
            return new ChaseRow(
                customer.Id,
                customer.Name,
                customer.Currency,
                contact?.Name.Length > 0 ? contact.Name : customer.ContactName,
                FirstOf(contact?.Phone, customer.Phone, customer.Mobile),
                looksAfter,
                looksAfter is { } who ? people.GetValueOrDefault(who, "") : "",
                customer.AskAgainOn,
                of,
                habit,
                usual.Own.ContainsKey(customer.Id),
                lateSums,
                late.Sum(i => i.Home),
                last,
                broke,
                Sums.Of(lines[customer.Id].Select(b => new Money(b.Left, b.Currency))),
                worth,
                (late.Count > 0 && !leftAlone && (worth > 0 || broke is not null || customer.AskAgainOn is not null))
                    || ((isCall || cameBack) && late.Count > 0),
                ChaseWords.Why(
                    business.Format,
                    new ChaseFacts(
                        lateSums,
                        late.Count == 0 ? 0 : late.Max(i => today.DayNumber - i.Item.Due.DayNumber),
                        broke,
                        usual.Own.ContainsKey(customer.Id) ? habit.Mean : null,
                        customer.RiskGrade,
                        risk,
                        weights,
                        since,
                        isCall ? callOn : null,
                        cameBack ? failedOn : null
                    )
                ),
                customer.LadderId,
                customer.NoLadder
            );
        }
    }

    private static string FirstOf(params string?[] texts) => texts.FirstOrDefault(t => !string.IsNullOrEmpty(t)) ?? "";

    /// <summary>By the register's grade: nothing for the best, twice as much for the worst.</summary>
    private static int RiskOf(string grade) =>
        grade switch
        {
            "B" => 110,
            "C" => 130,
            "D" => 160,
            "E" => 200,
            _ => 100,
        };

    /// <summary>Calls that a step asked for, and letters that could not be delivered: the newest day of each.</summary>
    private async Task<(Dictionary<int, DateOnly> Calls, Dictionary<int, DateOnly> Failed)> AskedByStepsAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop
    )
    {
        var calls = await db
            .ChaseLetters.Where(l => l.Way == StepWay.Call && ids.Contains(l.CustomerId))
            .GroupBy(l => l.CustomerId)
            .Select(g => new { g.Key, Day = g.Max(l => l.Day) })
            .ToDictionaryAsync(g => g.Key, g => g.Day, stop);
        var failed = await db
            .Post.Where(p =>
                p.Kind == PostKind.Reminder
                && p.State == PostState.Failed
                && p.CustomerId != null
                && ids.Contains(p.CustomerId.Value)
            )
            .GroupBy(p => p.CustomerId!.Value)
            .Select(g => new { g.Key, Day = g.Max(p => p.Day) })
            .ToDictionaryAsync(g => g.Key, g => g.Day, stop);
        return (calls, failed);
    }

    private async Task<Dictionary<int, DateOnly>> LastNotesAsync(
        IReadOnlyCollection<int> ids,
        CancellationToken stop
    ) =>
        await db
            .ContactNotes.Where(n => !n.TakenBack && ids.Contains(n.CustomerId))
            .GroupBy(n => n.CustomerId)
            .Select(g => new { g.Key, Day = g.Max(n => n.Day) })
            .ToDictionaryAsync(g => g.Key, g => g.Day, stop);

    /// <summary>When somebody last spoke or wrote to each.</summary>
    private async Task<Dictionary<int, DateOnly>> LastContactsAsync(
        Dictionary<int, DateOnly> notes,
        IReadOnlyCollection<int> ids,
        CancellationToken stop
    )
    {
        var written = await db
            .Post.Where(p =>
                p.Kind == PostKind.Reminder
                && p.CustomerId != null
                && ids.Contains(p.CustomerId.Value)
                && p.State != PostState.Withdrawn
                && p.State != PostState.Failed
            )
            .GroupBy(p => p.CustomerId!.Value)
            .Select(g => new { g.Key, Day = g.Max(p => p.Day) })
            .ToListAsync(stop);
        return notes
            .Select(n => (n.Key, Day: n.Value))
            .Concat(written.Select(w => (w.Key, w.Day)))
            .GroupBy(d => d.Key)
            .ToDictionary(g => g.Key, g => g.Max(d => d.Day));
    }
}
