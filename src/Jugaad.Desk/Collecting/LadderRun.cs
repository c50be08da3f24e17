using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>What a run decides for a customer, and why.</summary>
/// <param name="Step">The step that is taken; null where none is.</param>
/// <param name="Ladder">The ladder by which they are written to; null for none.</param>
/// <param name="Asked">What stands in the letter, the earliest due first.</param>
/// <param name="Why">Why it goes, or why none does.</param>
/// <param name="Waits">Whether only money of theirs that is not placed keeps the letter back: a person may send it all
/// the same.</param>
/// <param name="IsLate">Whether something of theirs is late.</param>
public sealed record LadderCase(
    int CustomerId,
    string Name,
    LadderDecision Decision,
    LetterLadder? Ladder,
    LetterStep? Step,
    IReadOnlyList<AskedItem> Asked,
    Phrase Why,
    bool Waits,
    bool IsLate
)
{
    public Sums Sum => Sums.Of(Asked.Select(a => new Money(a.Asked, a.Currency)));
}

/// <summary>What came of a run.</summary>
/// <param name="Taken">How many steps were taken.</param>
/// <param name="Left">Those for whom one was to be taken and was not, with the reason.</param>
public sealed record LadderReport(int Taken, IReadOnlyList<(int CustomerId, string Why)> Left);

/// <summary>How far a run is, for whoever wants to see.</summary>
public sealed class LadderProgress
{
    public int Total { get; private set; }

    public int Done { get; private set; }

    public bool Running { get; private set; }

    internal void Begin(int total) => (Total, Done, Running) = (total, 0, true);

    internal void Step() => Done++;

    internal void End() => Running = false;
}

/// <summary>
/// Writes to customers by the steps of their ladder: one letter a customer, at the highest step that something has
/// reached and not had. Each is one transaction that decides once more what is right: whenever the program stops, a
/// letter, its post and its note are all there, or none is; and a run that is begun again goes on with the rest.
/// </summary>
public sealed class LadderRun(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    OwedBook owed,
    CollectingRules rules,
    MoneyWaiting waiting,
    MailComposing compose,
    PostTray tray,
    LateCharges charges,
    LadderProgress progress
)
{
    /// <summary>What all decisions of a run look at.</summary>
    private sealed record Rules(
        CollectingSettings Settings,
        Currency Home,
        IReadOnlyDictionary<int, LetterLadder> Ladders,
        WorkingDays Days,
        ILookup<int, long> AtTheBank
    );

    /// <summary>Decides for all who owe something, and changes nothing.</summary>
    /// <returns>Those who get a letter first; of the others those who are late.</returns>
    public async Task<IReadOnlyList<LadderCase>> LookAsync(CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var read = await ReadRulesAsync(stop);
        var cases = await DecideAsync(read, today, null, false, stop);
        return
        [
            .. cases
                .Where(c => c.Decision.Step > 0 || c.Waits || c.IsLate)
                .OrderBy(c => c.Decision.Step == 0)
                .ThenBy(c => !c.Waits)
                .ThenByDescending(c => c.Decision.Step)
                .ThenBy(c => c.Name, StringComparer.OrdinalIgnoreCase),
        ];
    }

    /// <summary>Decides for one customer, and changes nothing.</summary>
    /// <param name="allTheSame">Whether money of theirs that waits keeps nothing back.</param>
    /// <returns>Null where there is no such customer.</returns>
    public async Task<LadderCase?> LookAtAsync(
        int customerId,
        bool allTheSame = false,
        CancellationToken stop = default
    )
    {
        var today = await head.TodayAsync(stop);
        var read = await ReadRulesAsync(stop);
        return (await DecideAsync(read, today, customerId, allTheSame, stop)).SingleOrDefault();
    }

    /// <summary>The letter as it would go.</summary>
    /// <exception cref="RefusalException">When no letter would.</exception>
    public async Task<MailToSend> ComposeAsync(LadderCase of, CancellationToken stop = default) =>
        of.Step is { } step
            ? await ComposeAsync(
                of,
                step,
                SumsOf(await ChargesAsync(of, step, await head.TodayAsync(stop), stop)),
                [],
                stop
            )
            : throw new RefusalException("", $"Nothing is written to {of.Name} today: {of.Why}.");

    private Task<MailToSend> ComposeAsync(
        LadderCase of,
        LetterStep step,
        Sums charged,
        IReadOnlyList<int> notes,
        CancellationToken stop
    ) =>
        compose.ForStepAsync(
            of.CustomerId,
            step.Text,
            WayOf(step),
            step.WithInvoices,
            step.WithStatement,
            of.Asked,
            charged,
            notes,
            stop
        );

    /// <summary>Takes the step of one customer that is due now.</summary>
    /// <param name="allTheSame">Also where money of theirs is not placed that may pay some of it.</param>
    /// <param name="changed">The letter as somebody changed it; null as it is composed.</param>
    /// <returns>The letter's id.</returns>
    /// <exception cref="RefusalException">When none is due any more, with the reason.</exception>
    public async Task<int> TakeAsync(int customerId, bool allTheSame, MailToSend? changed, Once once = default) =>
        await TakeAsync(await ReadRulesAsync(once.Stop), customerId, allTheSame, changed, once);

    /// <summary>Takes all steps that are due today, but for those that a person has to look at.</summary>
    /// <param name="only">Those who were picked; null for all.</param>
    public async Task<LadderReport> RunAsync(IReadOnlyCollection<int>? only = null, CancellationToken stop = default)
    {
        writer.Must(Right.Mail);
        var today = await head.TodayAsync(stop);
        var read = await ReadRulesAsync(stop);
        var due = (await DecideAsync(read, today, null, false, stop))
            .Where(c => c.Decision.Step > 0 && only?.Contains(c.CustomerId) != false)
            .Select(c => c.CustomerId)
            .ToList();
        var left = new List<(int, string)>();
        var taken = 0;
        progress.Begin(due.Count);
        try
        {
            foreach (var customer in due)
            {
                stop.ThrowIfCancellationRequested();
                try
                {
                    await TakeAsync(read, customer, false, null, stop);
                    taken++;
                }
                catch (RefusalException refused) when (refused is not NotAllowedException)
                {
                    left.Add((customer, refused.In((await head.BusinessAsync(stop)).Format)));
                }

                progress.Step();
                db.ChangeTracker.Clear();
            }
        }
        finally
        {
            progress.End();
        }

        return new LadderReport(taken, left);
    }

    /// <summary>What a day brings, where the business has the ladder run by itself.</summary>
    /// <returns>How many steps were taken.</returns>
    public async Task<int> RunDailyAsync(CancellationToken stop = default) =>
        (await rules.ReadAsync(stop)).RunsByItself ? (await RunAsync(null, stop)).Taken : 0;

    private Task<int> TakeAsync(Rules read, int customerId, bool allTheSame, MailToSend? changed, Once once) =>
        writer.WriteAsync(
            Right.Mail,
            once,
            async stop =>
            {
                var today = await head.TodayAsync(stop);
                // Decided once more, with nobody else writing: what was paid or sent a moment ago is known now.
                var of =
                    (await DecideAsync(read, today, customerId, allTheSame, stop)).SingleOrDefault()
                    ?? throw new RefusalException("", "This customer is not there.");
                if (of.Step is not { } step || of.Ladder is not { } ladder)
                    throw new RefusalException("", $"Nothing is written to {of.Name} today: {of.Why}.");
                int? post = null;
                if (step.Way != StepWay.Call)
                {
                    var due = await ChargesAsync(of, step, today, stop);
                    // A debit note is in one currency.
                    var notes = new List<int>();
                    foreach (var same in due.GroupBy(d => d.Item.Currency))
                        notes.Add(await charges.ChargeAsync(customerId, [.. same], today, stop));
                    var mail = await ComposeAsync(of, step, SumsOf(due), notes, stop);
                    post = await tray.AddAsync(
                        changed is null
                            ? mail
                            : mail with
                            {
                                To = changed.To,
                                Subject = changed.Subject,
                                Body = changed.Body,
                            },
                        stop
                    );
                }

                var letter = new ChaseLetter
                {
                    CustomerId = customerId,
                    Day = today,
                    LadderId = ladder.Id,
                    Step = step.Number,
                    Way = step.Way,
                    PostItemId = post,
                    By = writer.Who,
                    Items =
                    [
                        .. of.Asked.Select(a => new ChaseLetterItem
                        {
                            ItemId = a.ItemId,
                            Step = of.Decision.Noted.GetValueOrDefault(a.ItemId),
                            Asked = a.Asked,
                        }),
                    ],
                };
                db.ChaseLetters.Add(letter);
                await writer.TrailAsync($"Step {step.Number} of {ladder.Name} taken: {of.Sum} asked for", customerId);
                await writer.SaveAsync(stop);
                return letter.Id;
            }
        );

    private static Sums SumsOf(IEnumerable<ChargeDue> due) =>
        Sums.Of(due.Select(d => new Money(d.Amount, d.Item.Currency)));

    private static PostWay WayOf(LetterStep step) =>
        step.Way switch
        {
            StepWay.Print => PostWay.Print,
            StepWay.Message => PostWay.Message,
            _ => PostWay.Mail,
        };

    private async Task<Rules> ReadRulesAsync(CancellationToken stop)
    {
        var settings = await rules.ReadAsync(stop);
        var holidays = await db.Holidays.Select(h => h.Day).ToListAsync(stop);
        return new Rules(
            settings,
            (await head.BusinessAsync(stop)).HomeCurrency,
            await db.Ladders.AsNoTracking().Include(l => l.Steps).ToDictionaryAsync(l => l.Id, stop),
            new WorkingDays(settings.WritesOn, holidays),
            (await waiting.LinesAsync(stop))
                .SelectMany(g => g.Select(l => (Customer: g.Key, l.Left)))
                .ToLookup(l => l.Customer, l => l.Left)
        );
    }

    private async Task<List<LadderCase>> DecideAsync(
        Rules read,
        DateOnly today,
        int? only,
        bool allTheSame,
        CancellationToken stop
    )
    {
        var owes = (await owed.OnAsync(today, only, stop)).Where(o => only is not null || o.Items.Count > 0).ToList();
        var ids = owes.ConvertAll(o => o.CustomerId);
        var customers = await db
            .Customers.AsNoTracking()
            .Where(c => ids.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, stop);
        var left = (await db.LeftOut.AsNoTracking().Where(l => only == null || l.CustomerId == only).ToListAsync(stop))
            .Where(l => l.HoldsOn(today))
            .ToLookup(l => l.CustomerId);
        var (had, last) = await HadAsync(only, stop);
        var chargedOn = await ChargedOnAsync(stop);
        return
        [
            .. owes.Where(o => customers.ContainsKey(o.CustomerId))
                .Select(o =>
                    Decide(
                        read,
                        today,
                        o,
                        customers[o.CustomerId],
                        [.. left[o.CustomerId]],
                        had,
                        chargedOn,
                        last.TryGetValue(o.CustomerId, out var day) ? day : null,
                        allTheSame
                    )
                ),
        ];
    }

    /// <summary>What items of debit notes for late payment were charged on.</summary>
    private async Task<ILookup<int, int>> ChargedOnAsync(CancellationToken stop) =>
        (
            await (
                from charge in db.LateCharges
                join item in db.AccountItems on charge.NoteId equals item.DocumentId
                where item.Open > 0
                select new { item.Id, charge.ItemId }
            ).ToListAsync(stop)
        ).ToLookup(c => c.Id, c => c.ItemId);

    /// <summary>What a letter charges: nothing where its step is repeated for what has had it.</summary>
    private async Task<IReadOnlyList<ChargeDue>> ChargesAsync(
        LadderCase of,
        LetterStep step,
        DateOnly today,
        CancellationToken stop
    ) => of.Decision.Noted.ContainsValue(step.Number) ? await charges.DueAsync(step, of.Asked, today, stop) : [];

    private static LadderCase Decide(
        Rules read,
        DateOnly today,
        CustomerOwes owes,
        Customer customer,
        IReadOnlyList<LeftOut> left,
        IReadOnlyDictionary<int, int> had,
        ILookup<int, int> chargedOn,
        DateOnly? lastLetter,
        bool allTheSame
    )
    {
        var isLate = owes.Items.Any(i => i.Due < today);
        LadderCase None(Phrase why) =>
            new(
                customer.Id,
                customer.Name,
                LadderDecision.None(NoLetter.NothingToAsk),
                null,
                null,
                [],
                why,
                false,
                isLate
            );

        var ladder = customer.NoLadder
            ? null
            : read.Ladders.GetValueOrDefault(customer.LadderId ?? read.Settings.LadderId ?? 0);
        if (ladder is null)
            return None(customer.NoLadder ? "they are never written to by steps" : "no ladder is set");
        if (left.FirstOrDefault(l => l.ItemId is null) is { } whole)
        {
            Phrase until = $"left out until {whole.Until}: {whole.Reason}";
            Phrase open = $"left out: {whole.Reason}";
            return None(whole.Until is null ? open : until);
        }

        var asked = owes
            .Items.Where(i => left.All(l => l.ItemId != i.ItemId))
            .Select(i => (Item: i, Askable: owes.Askable(i.ItemId)))
            .ToList();
        var credit = Sums.Of(owes.Credits.Select(c => new Money(c.Open, c.Currency)));
        var bank = read.AtTheBank[customer.Id].Sum();
        var rule = ladder.Rule(read.Days, read.Settings.Tolerance, read.Settings.DaysBetween);
        var decision = rule.Decide(
            today,
            [
                .. asked.Select(a => new LadderItem(
                    a.Item.ItemId,
                    a.Item.Due,
                    a.Askable == 0 ? 0 : Rounding.Share(a.Item.HomeOpen, a.Askable, a.Item.Open),
                    had.GetValueOrDefault(a.Item.ItemId)
                )
                {
                    FollowsAnother = chargedOn[a.Item.ItemId].Any(i => owes.Askable(i) > 0),
                }),
            ],
            lastLetter,
            !allTheSame && (credit.Count > 0 || bank > 0)
        );
        var step = ladder.Steps.FirstOrDefault(s => s.Number == decision.Step);
        return new LadderCase(
            customer.Id,
            customer.Name,
            decision,
            ladder,
            step,
            [
                .. asked
                    .Where(a => decision.Items.Contains(a.Item.ItemId))
                    .Select(a => new AskedItem(
                        a.Item.ItemId,
                        a.Item.Number,
                        a.Item.Date,
                        a.Item.Due,
                        a.Askable,
                        a.Item.Currency,
                        a.Item.DocumentId
                    )),
            ],
            Why(read, today, decision, step, lastLetter, owes, credit),
            decision.Why == NoLetter.MoneyWaits,
            isLate
        );
    }

    private static Phrase Why(
        Rules read,
        DateOnly today,
        LadderDecision decision,
        LetterStep? step,
        DateOnly? lastLetter,
        CustomerOwes owes,
        Sums credit
    )
    {
        Phrase goes = $"step {step?.Number}, reached by what fell due {DaysWords(step?.Days ?? 0)}";
        Phrase tolerance = $"it comes to less than {new Money(read.Settings.Tolerance, read.Home)} {read.Home}";
        Phrase tooSoon = $"the last letter went on {lastLetter}";
        Phrase noWorkingDay = $"nobody is written to on {today.DayOfWeek}, {today}";
        // What lies at the bank may be in another currency than the account, and is not added to it.
        Phrase credited = $"{credit} of theirs is not placed: look there first";
        Phrase money = credit.Count > 0 ? credited : "money at the bank is likely theirs: look there first";
        return decision.Why switch
        {
            null => goes,
            NoLetter.UnderTolerance => tolerance,
            NoLetter.TooSoon => tooSoon,
            NoLetter.NoWorkingDay => noWorkingDay,
            NoLetter.MoneyWaits => money,
            NoLetter.NoStepReached => "nothing has reached a step anew",
            _ => owes.Portions.Any(p => p.Kind != PortionKind.Free)
                ? "all of it is promised, planned or in dispute"
                : "nothing can be asked for",
        };
    }

    private static string DaysWords(int days) =>
        days switch
        {
            0 => "today",
            > 0 => $"{MailComposing.Days(days)} ago or earlier",
            _ => $"in {MailComposing.Days(-days)} or earlier",
        };

    /// <summary>The highest step that each item has had, and the day of the last letter to each customer.</summary>
    private async Task<(Dictionary<int, int> Had, Dictionary<int, DateOnly> Last)> HadAsync(
        int? only,
        CancellationToken stop
    )
    {
        var counting = db.ChaseLetters.Where(l =>
            (only == null || l.CustomerId == only)
            && (l.PostItemId == null || db.Post.Any(p => p.Id == l.PostItemId && p.State != PostState.Withdrawn))
        );
        var had = await counting
            .SelectMany(l => l.Items)
            .GroupBy(i => i.ItemId)
            .Select(g => new { g.Key, Step = g.Max(i => i.Step) })
            .ToDictionaryAsync(g => g.Key, g => g.Step, stop);
        // A call that was asked for leaves them in peace for as long as a letter does.
        var steps = await counting
            .GroupBy(l => l.CustomerId)
            .Select(g => new { g.Key, Day = g.Max(l => l.Day) })
            .ToListAsync(stop);
        // What somebody wrote by hand is a letter too.
        var written = await db
            .Post.Where(p =>
                p.Kind == PostKind.Reminder
                && p.CustomerId != null
                && (only == null || p.CustomerId == only)
                && p.State != PostState.Withdrawn
            )
            .GroupBy(p => p.CustomerId!.Value)
            .Select(g => new { g.Key, Day = g.Max(p => p.Day) })
            .ToListAsync(stop);
        var last = steps.Concat(written).GroupBy(d => d.Key).ToDictionary(g => g.Key, g => g.Max(d => d.Day));
        return (had, last);
    }
}
