using CsCheck;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using static Jugaad.Core.Accounts.AccountItemKind;

namespace Jugaad.Core.Tests;

public sealed class AccountTests
{
    private static readonly DateOnly Start = new(2025, 1, 1);
    private static readonly PostingAccounts Accounts = new(1, 2, 3, 4, 5, 6);

    /// <summary>
    /// A random history of one account in a foreign currency: items, allocations, and some taken away again.
    /// </summary>
    private static readonly Gen<(
        List<AccountItem> Items,
        List<Allocation> Allocations,
        List<JournalEntry> Journal
    )> Histories =
        from seeds in Gen.Select(
            Gen.Int[0, 5],
            Gen.Int[0, 200],
            Gen.Int[0, 60],
            Gen.Long[1, 500_000],
            Gen.Long[800_000_000, 1_200_000_000]
        ).List[2, 14]
        from moves in Gen.Select(Gen.Int[0, 13], Gen.Int[0, 13], Gen.Int[1, 100], Gen.Int[0, 260], Gen.Int[0, 4]).List[
            0,
            25
        ]
        select Play(seeds, moves);

    private static (List<AccountItem>, List<Allocation>, List<JournalEntry>) Play(
        List<(int, int, int, long, long)> seeds,
        List<(int, int, int, int, int)> moves
    )
    {
        var sek = Currency.Of("SEK");
        var items = seeds
            .Select(
                (s, i) =>
                    Generators.Item(
                        (AccountItemKind)s.Item1,
                        i,
                        Start.AddDays(s.Item2),
                        s.Item1 < 2 ? s.Item3 : 0,
                        s.Item4,
                        s.Item5 / 10_000_000_000m,
                        sek
                    )
            )
            .ToList();
        var journal = new List<JournalEntry>();
        void Post(JournalEntry? entry)
        {
            if (entry is not null)
                journal.Add(entry);
        }

        var made = new List<Allocation>();
        foreach (var (a, b, share, day, take) in moves)
        {
            if (take == 0 && made.Count > 0)
            {
                var gone = made[a % made.Count];
                if (b % 2 == 0)
                    gone.Forget();
                else
                    gone.End(new Booking(BookingKind.Returned, Start.AddDays(day), 1, "me"), Start.AddDays(day));
                Post(PostingRules.ForAllocation(gone, Accounts, gone.Until ?? gone.Date, takenBack: true));
                made.Remove(gone);
                continue;
            }

            var (raising, lowering) = (items[a % items.Count], items[b % items.Count]);
            var amount = Math.Min(raising.Open, lowering.Open) * share / 100;
            if (!raising.Raises || lowering.Raises || amount == 0)
                continue;
            var allocation = Allocation.Make(raising, lowering, amount, Start.AddDays(day));
            Post(PostingRules.ForAllocation(allocation, Accounts, allocation.Date));
            made.Add(allocation);
        }

        return (items, made, journal);
    }

    private static long Posted(JournalEntry entry) =>
        entry.Lines.Where(l => l.AccountId == Accounts.Receivables).Sum(l => l.Debit - l.Credit);

    [Fact]
    public void Never_is_more_allocated_than_either_side_has() =>
        Histories.Sample(h =>
            h.Items.ForEach(item =>
            {
                item.Open.ShouldBeInRange(0, item.Amount);
                item.Open.ShouldBe(
                    item.Amount - h.Allocations.Where(a => a.Raising == item || a.Lowering == item).Sum(a => a.Amount)
                );
                if (item.Open == 0)
                    item.HomeOpen.ShouldBe(0);
            })
        );

    [Fact]
    public void The_balance_is_the_sum_of_what_is_open_on_every_day() =>
        Histories.Sample(h =>
        {
            for (var day = Start.AddDays(-1); day < Start.AddDays(270); day = day.AddDays(9))
            {
                var balance = h.Items.Where(i => i.Date <= day).Sum(i => i.Sign * i.Amount);
                h.Items.Sum(i => i.Sign * i.OpenOn(day)).ShouldBe(balance);
                Ageing.On(day, h.Items).Balance.ShouldBe(balance);
            }
        });

    [Fact]
    public void Receivables_in_home_currency_are_what_is_open_on_every_day() =>
        Histories.Sample(h =>
        {
            h.Items.Sum(i => i.Sign * i.HomeOpen)
                .ShouldBe(h.Items.Sum(i => i.Sign * i.HomeAmount) + h.Journal.Sum(Posted));
            for (var day = Start; day < Start.AddDays(270); day = day.AddDays(13))
            {
                var open = h
                    .Items.Where(i => i.Date <= day)
                    .Sum(i =>
                        i.Sign
                        * (
                            i.HomeAmount
                            - i.Allocations.Where(a => a.CountsOn(day))
                                .Sum(a => i.Raises ? a.HomeRaising : a.HomeLowering)
                        )
                    );
                open.ShouldBe(
                    h.Items.Where(i => i.Date <= day).Sum(i => i.Sign * i.HomeAmount)
                        + h.Journal.Where(e => e.Date <= day).Sum(Posted)
                );
            }
        });

    [Fact]
    public void Taking_everything_away_leaves_the_items_as_they_were() =>
        Histories.Sample(h =>
        {
            foreach (var allocation in h.Allocations.AsEnumerable().Reverse())
                allocation.Forget();
            h.Items.ShouldAllBe(i =>
                i.Open == i.Amount && i.HomeOpen == i.HomeAmount && i.Allocations.All(a => a.Until != null)
            );
        });

    [Fact]
    public void Oldest_first_goes_by_due_day_then_date_then_number_and_never_over()
    {
        var items = new[]
        {
            Generators.Item(Invoice, 3, Start, 30, 100),
            Generators.Item(Invoice, 1, Start.AddDays(10), 5, 100),
            Generators.Item(Invoice, 2, Start, 30, 100),
            Generators.Item(DebitNote, 4, Start.AddDays(1), 29, 100),
        };
        OldestFirst
            .Propose(250, items)
            .Select(p => (p.Item.Number, p.Amount))
            .ShouldBe([("Invoice-0001", 100), ("Invoice-0002", 100), ("Invoice-0003", 50)]);
        OldestFirst.Propose(1000, items).Sum(p => p.Amount).ShouldBe(400);
        OldestFirst.Propose(0, items).ShouldBeEmpty();
    }

    [Fact]
    public void More_than_is_open_is_refused_with_what_to_do()
    {
        var (invoice, receipt) = (
            Generators.Item(Invoice, 1, Start, 14, 38_347),
            Generators.Item(AccountItemKind.Receipt, 1, Start, 0, 50_000)
        );
        var refusal = Should.Throw<RefusalException>(() => Allocation.Make(invoice, receipt, 50_000, Start)).Refusals[
            0
        ];
        refusal.Message.ShouldContain("116.53 more than is open");
        (invoice.Open, receipt.Open).ShouldBe((38_347, 50_000));
    }

    [Fact]
    public void What_does_not_go_together_is_refused()
    {
        var invoice = Generators.Item(Invoice, 1, Start, 14, 100);
        Should.Throw<RefusalException>(() =>
            Allocation.Make(invoice, Generators.Item(AccountItemKind.Refund, 2, Start, 0, 100), 50, Start)
        );
        Should.Throw<RefusalException>(() =>
            Allocation.Make(
                Generators.Item(CreditNote, 2, Start, 0, 100),
                Generators.Item(CreditNote, 3, Start, 0, 100),
                50,
                Start
            )
        );
        Should.Throw<RefusalException>(() =>
            Allocation.Make(invoice, Generators.Item(CreditNote, 2, Start, 0, 100, 0.1m, Currency.Of("SEK")), 50, Start)
        );
        Should.Throw<RefusalException>(() =>
            Allocation.Make(
                invoice,
                new AccountItem(CreditNote, 2, "C", Start, Start, Generators.Eur, 100, 1, Generators.Eur),
                50,
                Start
            )
        );
        Should.Throw<RefusalException>(() =>
            Allocation.Make(invoice, Generators.Item(CreditNote, 2, Start, 0, 100), 0, Start)
        );
        Should.Throw<RefusalException>(() => Generators.Item(Invoice, 1, Start, -1, 100));
        invoice.Open.ShouldBe(100);
    }

    [Fact]
    public void An_allocation_is_never_dated_before_its_items() =>
        Allocation
            .Make(
                Generators.Item(Invoice, 1, Start.AddDays(5), 14, 100),
                Generators.Item(AccountItemKind.Receipt, 1, Start, 0, 100),
                60,
                Start
            )
            .Date.ShouldBe(Start.AddDays(5));

    [Fact]
    public void An_exchange_gain_is_the_difference_on_the_allocated_part_and_nothing_remains()
    {
        var nok = Currency.Of("NOK");
        var invoice = Generators.Item(Invoice, 1, Start, 14, 100_000, 0.0859m, nok);
        var first = Generators.Item(AccountItemKind.Receipt, 1, Start, 0, 33_333, 0.0851m, nok);
        var second = Generators.Item(AccountItemKind.Receipt, 2, Start, 0, 66_667, 0.0871m, nok);
        var loss = Allocation.Make(invoice, first, 33_333, Start);
        var gain = Allocation.Make(invoice, second, 66_667, Start);
        loss.ExchangeGain.ShouldBe(2837 - 2863);
        gain.ExchangeGain.ShouldBe(5807 - 5727);
        (invoice.HomeOpen, first.HomeOpen, second.HomeOpen).ShouldBe((0, 0, 0));
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(1, 1)]
    [InlineData(30, 1)]
    [InlineData(31, 2)]
    [InlineData(60, 2)]
    [InlineData(90, 3)]
    [InlineData(91, 4)]
    public void Ageing_has_its_edges_where_they_are_said(int daysLate, int span)
    {
        var aged = Ageing.On(Start.AddDays(14 + daysLate), [Generators.Item(Invoice, 1, Start, 14, 100)]);
        (span == 0 ? aged.NotYetDue : aged.Late[span - 1]).ShouldBe(100);
        aged.Balance.ShouldBe(100);
        Ageing.Heads(Ageing.UsualEdges).ShouldBe(["1–30", "31–60", "61–90", "over 90"]);
    }
}
