using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Random histories of every event on accounts in two currencies: the books check after each step, ageing is balance is
/// journal on every day, and undoing all that can be undone, newest first, leads back through every state there was.
/// </summary>
public sealed class HistoryTests
{
    private sealed class Player(Loft loft, int seed)
    {
        private readonly Random _random = new(seed);
        private readonly List<int> _customers = [loft.Yard, loft.Swede];
        private int _cash;

        /// <summary>The picture before each booking, by the booking's id.</summary>
        public Dictionary<int, string> Before { get; } = [];

        public int Done { get; private set; }

        private T? Pick<T>(IReadOnlyList<T> from) => from.Count == 0 ? default : from[_random.Next(from.Count)];

        private DateOnly Day(int back = 40) => Loft.Today.AddDays(-_random.Next(back));

        public async Task SetUpAsync()
        {
            _customers.Add(
                await loft.WithAsync<CustomersDesk, int>(c =>
                    c.SaveAsync(null, 0, new CustomerDetails { Name = "Second yard", Currency = "EUR" })
                )
            );
            _cash = await loft.WithAsync<BooksContext, int>(db =>
                db.LedgerAccounts.Where(a => a.Kind == MoneyKind.Cash).Select(a => a.Id).SingleAsync()
            );
            // An old rate, so that money and invoices of the same account differ in theirs.
            await loft.WithAsync<RatesDesk>(r => r.EnterAsync(new("SEK", Loft.Today.AddDays(-20), 0.0931m)));
        }

        public async Task StepAsync()
        {
            var picture = await loft.PictureAsync();
            var last = await LastAsync();
            try
            {
                await (
                    _random.Next(14) switch
                    {
                        0 or 1 or 2 => IssueAsync(),
                        3 or 4 => ReceiveAsync(),
                        5 => SetAgainstAsync(),
                        6 => TakeAwayAsync(),
                        7 => RefundAsync(),
                        8 => ReturnAsync(),
                        9 => MoveAsync(),
                        10 => WriteOffAsync(),
                        11 => RecoverAsync(),
                        12 => TakeTaxOffAsync(),
                        _ => RestOrOtherAsync(),
                    }
                );
                Done++;
            }
            catch (RefusalException)
            {
                // Not possible just now; then nothing has happened.
                (await loft.PictureAsync()).ShouldBe(picture);
                return;
            }

            if (await LastAsync() is var now && now > last)
                Before[now] = picture;
            (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        }

        private Task<int> LastAsync() =>
            loft.WithAsync<BooksContext, int>(async db => await db.Bookings.MaxAsync(b => (int?)b.Id) ?? 0);

        private Task<List<AccountItem>> ItemsAsync(System.Linq.Expressions.Expression<Func<AccountItem, bool>> which) =>
            loft.WithAsync<BooksContext, List<AccountItem>>(db =>
                db.AccountItems.AsNoTracking().Where(which).OrderBy(i => i.Id).ToListAsync()
            );

        private async Task IssueAsync() =>
            await loft.IssuedAsync(
                loft.Content(_random.Next(1, 9), _random.Next(1, 90_000) / 100m, Pick(_customers), Day())
            );

        private async Task ReceiveAsync()
        {
            var customer = Pick(_customers);
            var open = await ItemsAsync(i => i.CustomerId == customer && i.Sign > 0 && i.Open > 0);
            var credits =
                _random.Next(3) == 0
                    ? (await ItemsAsync(i => i.CustomerId == customer && i.Sign < 0 && i.Open > 0)).ConvertAll(i =>
                        i.Id
                    )
                    : [];
            var against = open.Where(_ => _random.Next(2) == 0)
                .Select(i =>
                    (i.Id, Amount: _random.Next(2) == 0 ? i.Open : Math.Max(1, i.Open * _random.Next(100) / 100))
                )
                .ToList();
            var amount = Math.Max(1, against.Sum(a => a.Amount) + _random.Next(-3, 3_000));
            List<int> rest = _random.Next(3) == 0 ? [.. against.Select(a => a.Id)] : [];
            await loft.WithAsync<Receipts>(r =>
                r.PostAsync(
                    new ReceiptToPost(customer, Day(), loft.Bank, amount, "", against)
                    {
                        Credits = credits,
                        GiveUp = rest,
                    }
                )
            );
        }

        private async Task SetAgainstAsync()
        {
            if (Pick(await ItemsAsync(i => i.Sign < 0 && i.Open > 0)) is { } credit)
                await loft.WithAsync<Receipts>(r => r.PlaceOldestFirstAsync(credit.Id));
        }

        private async Task TakeAwayAsync()
        {
            var ids = await loft.WithAsync<BooksContext, List<int>>(db =>
                db.Allocations.OrderBy(a => a.Id).Select(a => a.Id).ToListAsync()
            );
            if (ids.Count > 0)
                await loft.WithAsync<Receipts>(r => r.TakeAwayAsync(Pick(ids)));
        }

        private async Task RefundAsync()
        {
            if (Pick(await ItemsAsync(i => i.Sign < 0 && i.Open > 0)) is { } credit)
                await loft.WithAsync<Refunds>(r =>
                    r.PayAsync(
                        new RefundToPay(
                            credit.Id,
                            Math.Max(1, credit.Open * _random.Next(1, 101) / 100),
                            _cash,
                            Day(),
                            null,
                            ""
                        )
                    )
                );
        }

        private async Task ReturnAsync()
        {
            if (Pick(await ItemsAsync(i => i.ReceiptId != null)) is { } item)
                await loft.WithAsync<Returns>(r =>
                    r.ReturnAsync(item.ReceiptId!.Value, item.Date.AddDays(_random.Next(5)), "no cover")
                );
        }

        private async Task MoveAsync()
        {
            if (Pick(await ItemsAsync(i => i.ReceiptId != null)) is { } item)
                await loft.WithAsync<Transfers>(t => t.MoveAsync(item.ReceiptId!.Value, Pick(_customers)));
        }

        private async Task WriteOffAsync()
        {
            if (Pick(await ItemsAsync(i => i.Sign > 0 && i.Open > 0)) is { } item)
                await loft.WithAsync<Settlements>(s =>
                    s.WriteOffAsync(
                        item.Id,
                        Math.Max(1, item.Open * _random.Next(1, 101) / 100),
                        "gone",
                        Day(10),
                        lowersTax: _random.Next(3) > 0
                    )
                );
        }

        private async Task RecoverAsync()
        {
            var given = await loft.WithAsync<BooksContext, List<Settlement>>(db =>
                db.Settlements.Where(s => s.Kind == SettlementKind.BadDebt).OrderBy(s => s.Id).ToListAsync()
            );
            if (Pick(given) is { } one)
                await loft.WithAsync<Settlements>(s =>
                    s.RecoverAsync(one.Id, Math.Max(1, one.Amount * _random.Next(1, 101) / 100))
                );
        }

        private async Task TakeTaxOffAsync()
        {
            var given = await loft.WithAsync<BooksContext, List<Settlement>>(db =>
                db.Settlements.Where(s => s.Kind == SettlementKind.BadDebt && !s.Taxes.Any())
                    .OrderBy(s => s.Id)
                    .ToListAsync()
            );
            if (Pick(given) is { } one)
                await loft.WithAsync<Settlements>(s => s.TakeTaxOffAsync(one.Id, "wound up", Day(5)));
        }

        private async Task RestOrOtherAsync()
        {
            if (_random.Next(2) == 0 && Pick(await ItemsAsync(i => i.Open > 0 && i.Open <= 100)) is { } small)
                await loft.WithAsync<Settlements>(s => s.GiveUpRestAsync(small.Id));
            else
                await loft.WithAsync<OtherMoneyDesk>(o =>
                    o.PostAsync(
                        new OtherMoneyToPost(
                            Day(),
                            loft.Bank,
                            loft.Sales,
                            _random.Next(1, 5_000),
                            loft.Std,
                            "At the quay"
                        )
                    )
                );
        }
    }

    [Theory]
    [InlineData(11)]
    [InlineData(12)]
    [InlineData(13)]
    [InlineData(14)]
    public async Task Ageing_is_balance_is_journal_on_every_day_and_undoing_leads_all_the_way_back(int seed)
    {
        await using var loft = await Loft.OpenAsync();
        var player = new Player(loft, seed);
        await player.SetUpAsync();
        for (var i = 0; i < 45; i++)
            await player.StepAsync();
        player.Done.ShouldBeGreaterThan(15);
        await loft.AgreesOnAsync(Enumerable.Range(0, 45).Select(d => Loft.Today.AddDays(5 - d)));

        // Newest first, each undoing gives back the state before it, but for what was issued in between.
        var bookings = await loft.WithAsync<BooksContext, List<Booking>>(db =>
            db.Bookings.Where(b => b.UndoneOn == null).OrderByDescending(b => b.Id).ToListAsync()
        );
        foreach (var booking in bookings)
        {
            await loft.WithAsync<Undoing>(u => u.UndoAsync(booking.Id));
            (await loft.CheckAsync()).Differences.ShouldBeEmpty($"after undoing “{booking.Words}”");
            if (player.Before.TryGetValue(booking.Id, out var before))
                Paid(await loft.PictureAsync()).ShouldBe(Paid(before), $"after undoing “{booking.Words}”");
        }

        await loft.AgreesOnAsync(Enumerable.Range(0, 45).Select(d => Loft.Today.AddDays(5 - d)));
        await loft.WithAsync<BooksContext>(async db =>
        {
            (await db.AccountItems.AllAsync(i => i.Open == i.Amount && i.DocumentId != null)).ShouldBeTrue();
            (await db.Allocations.IgnoreQueryFilters().CountAsync()).ShouldBe(0);
        });
    }

    /// <summary>What money did: invoices that were issued since are no part of it.</summary>
    private static List<string> Paid(string picture) =>
        [
            .. picture
                .Split('\n')
                .Where(l =>
                    l.StartsWith("allocation", StringComparison.Ordinal)
                    || (
                        l.StartsWith("item", StringComparison.Ordinal)
                        && !l.Contains(" Invoice ", StringComparison.Ordinal)
                    )
                ),
        ];
}
