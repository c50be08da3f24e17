using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Pricing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Demo;

/// <summary>Plays seven months of business, day by day: invoices as customers need them, money as they pay.</summary>
internal sealed class DemoHistory(IServiceProvider services)
{
    private readonly Random _dice = new(20250203);
    private readonly PriorityQueue<Func<Task>, (int Day, int Order)> _plan = new();
    private Dictionary<string, Customer> _customers = [];
    private Dictionary<string, Item> _items = [];
    private Dictionary<string, int> _codes = [];
    private List<PriceList> _lists = [];
    private int _bank;
    private int _crowns;
    private int _order;
    private DateOnly _today = DemoWorld.FirstDay;
    private readonly DemoBank _statements = new();

    internal async Task PlayAsync(Action<string> said, CancellationToken stop)
    {
        await WithAsync<BooksContext>(async db =>
        {
            _customers = await db.Customers.AsNoTracking().ToDictionaryAsync(c => c.Code, stop);
            _items = await db.Items.AsNoTracking().ToDictionaryAsync(i => i.Code, stop);
            _lists = await db.PriceLists.AsNoTracking().ToListAsync(stop);
            _codes = await db.TaxCodes.AsNoTracking().ToDictionaryAsync(c => c.Code, c => c.Id, stop);
            _bank = await db.LedgerAccounts.Where(a => a.Code == "1000").Select(a => a.Id).SingleAsync(stop);
            _crowns = await db.LedgerAccounts.Where(a => a.Code == "1050").Select(a => a.Id).SingleAsync(stop);
        });
        foreach (var habit in DemoWorld.Habits)
            PlanInvoices(habit);
        new DemoQuotes(this).Plan();
        new DemoSelling(this).Plan();
        new DemoMishaps(this, _statements, _bank).Plan();
        new DemoCollecting(this).Plan();
        new DemoPaying(this).Plan();
        new DemoFiling(this, _statements, _bank).Plan();
        new DemoForeign(this, _statements, _bank, _crowns).Plan();
        new DemoEInvoices(this).Plan();

        var month = 0;
        while (_plan.TryPeek(out _, out var at) && at.Day <= DemoWorld.Today.DayNumber)
        {
            var work = _plan.Dequeue();
            var day = DateOnly.FromDayNumber(at.Day);
            if (day > _today)
                await WithAsync<Calendar>(async calendar =>
                    _today = await calendar.ForwardAsync(day.DayNumber - _today.DayNumber, stop)
                );
            Acting.As(at.Order % 3 == 0 ? DemoWorld.OwnerName : DemoWorld.ClerkName);
            if (_today.Month != month)
                said($"  {(month = _today.Month):00}/2025");
            await work();
        }

        if (_today < DemoWorld.Today)
            await WithAsync<Calendar>(c => c.ForwardAsync(DemoWorld.Today.DayNumber - _today.DayNumber, stop));
        await WithAsync<PostCarrying>(post => post.CarryAsync(stop));
        await WithAsync<NetworkAnswers>(answers => answers.TakeAsync(stop));
        await _statements.GiveOutAsync(this, _bank);
    }

    internal DateOnly Day => _today;

    internal void At(DateOnly day, Func<Task> work) => _plan.Enqueue(work, (day.DayNumber, _order++));

    internal async Task WithAsync<T>(Func<T, Task> work)
        where T : notnull
    {
        await using var scope = services.CreateAsyncScope();
        await work(scope.ServiceProvider.GetRequiredService<T>());
    }

    internal async Task<TResult> WithAsync<T, TResult>(Func<T, Task<TResult>> work)
        where T : notnull
    {
        await using var scope = services.CreateAsyncScope();
        return await work(scope.ServiceProvider.GetRequiredService<T>());
    }

    /// <summary>A draft's content: quantities of items at the list price in the customer's usual currency.</summary>
    internal Task<DraftContent> ContentAsync(
        string customerCode,
        string? taxCode,
        params (string Item, decimal Quantity)[] lines
    ) => ContentAsync(customerCode, _customers[customerCode].Currency, taxCode, lines);

    /// <summary>The same in a currency that the customer is billed in.</summary>
    internal async Task<DraftContent> ContentAsync(
        string customerCode,
        Currency currency,
        string? taxCode,
        params (string Item, decimal Quantity)[] lines
    )
    {
        var customer = _customers[customerCode];
        var rate = await WithAsync<MastersLoader, QuotedRate>(m => m.RateAsync(currency, _today));
        return new DraftContent
        {
            CustomerId = customer.Id,
            Currency = currency.Code,
            Date = _today,
            Lines = lines
                .Select(l =>
                {
                    var item = _items[l.Item];
                    var price = OfferedPrice
                        .Of(item, customer.PriceListId, _lists, _today, currency, Currency.Of("EUR"), rate, false, null)
                        .Price;
                    // Handbooks and the course keep their own tax at home; abroad all follows the customer's code.
                    var code = taxCode is null or "STD" ? item.TaxCodeId : _codes[taxCode];
                    return new DraftLine(
                        item.Id,
                        item.PaperText,
                        l.Quantity,
                        item.Unit,
                        price,
                        customer.TradeDiscount > 0 ? customer.TradeDiscount : null,
                        null,
                        code,
                        item.LedgerAccountId
                    );
                })
                .ToList(),
        };
    }

    /// <summary>One thing over the counter, at the price with tax.</summary>
    internal async Task<DraftContent> CounterContentAsync(string itemCode, decimal quantity)
    {
        var offer = (
            await WithAsync<Pricing, IReadOnlyList<Offer>>(p =>
                p.OffersAsync([_items[itemCode]], new PriceQuestion(null, 0, _today, true))
            )
        )[0];
        return new DraftContent
        {
            Date = _today,
            PricesIncludeTax = true,
            Lines =
            [
                new DraftLine(
                    offer.Item.Id,
                    offer.Item.PaperText,
                    quantity,
                    offer.Item.Unit,
                    offer.Price,
                    null,
                    null,
                    offer.TaxCodeId,
                    offer.Item.LedgerAccountId
                ),
            ],
        };
    }

    internal Task<int> DraftAsync(DocumentKind kind, DraftContent content) =>
        WithAsync<Drafts, int>(d => d.SaveAsync(new DraftToSave(null, kind, 0, content)));

    internal async Task IssueAsync(int id, bool mail)
    {
        var version = await WithAsync<BooksContext, int>(db =>
            db.Documents.Where(d => d.Id == id).Select(d => d.Version).SingleAsync()
        );
        var text = mail ? await WithAsync<MailComposing, MailToSend>(m => m.ForDocumentAsync(id)) : null;
        await WithAsync<IssuingDesk>(i => i.IssueAsync(id, version, text));
        if (mail)
            await WithAsync<PostCarrying>(post => post.CarryAsync());
    }

    internal async Task PayAsync(string customerCode, int documentId, decimal share, decimal more = 0)
    {
        var customer = _customers[customerCode];
        var item = await WithAsync<BooksContext, AccountItem>(db =>
            db.AccountItems.AsNoTracking().SingleAsync(i => i.DocumentId == documentId)
        );
        var part =
            share >= 1 ? item.Open : Math.Min(item.Open, Rounding.Percent(item.Amount, Math.Round(share * 100, 4)));
        if (part <= 0)
            return;
        var amount = part + (long)(more * item.Currency.MinorPerUnit);
        if (item.Currency.Code == "SEK")
        {
            await WithAsync<Receipts>(r =>
                r.PostAsync(
                    new ReceiptToPost(customer.Id, _today, _crowns, amount, item.Number, [(item.Id, part)])
                    {
                        Way = DemoForeign.Way,
                    }
                )
            );
            return;
        }

        // The last page of the bank's statements is not worked on yet; what came before was entered as it came.
        int? receipt =
            _today >= DemoBank.LastPage && item.Currency.Code == "EUR"
                ? null
                : await WithAsync<Receipts, int>(r =>
                    r.PostAsync(
                        new ReceiptToPost(customer.Id, _today, _bank, amount, item.Number, [(item.Id, part)])
                        {
                            Way = "Bank transfer",
                        }
                    )
                );
        _statements.Came(_today, customer, item.Number, amount, receipt);
    }

    internal Task RemindAsync(string customerCode) =>
        WithAsync<MailComposing>(async compose =>
        {
            var mail = await compose.ReminderAsync(_customers[customerCode].Id);
            await WithAsync<PostTray>(tray => tray.AddAsync(mail));
            await WithAsync<PostCarrying>(post => post.CarryAsync());
        });

    internal int CustomerId(string code) => _customers[code].Id;

    private void PlanInvoices(Habit habit)
    {
        var day = DemoWorld.FirstDay.AddDays(_dice.Next(0, 12));
        while (day < DemoWorld.Today)
        {
            if (day.DayOfWeek is not (DayOfWeek.Saturday or DayOfWeek.Sunday))
            {
                var lines = Basket(habit);
                At(day, () => BillAsync(habit, lines));
            }

            // The loft is busiest from April to July.
            var season = day.Month is >= 4 and <= 7 ? 1.35 : 1.0;
            day = day.AddDays(Math.Max(3, (int)(25 / (habit.PerMonth * season) * (0.6 + (0.8 * _dice.NextDouble())))));
        }
    }

    private (string, decimal)[] Basket(Habit habit)
    {
        var many = _dice.Next(1, Math.Min(4, habit.Items.Length) + 1);
        return habit.Items.OrderBy(_ => _dice.Next()).Take(many).Select(code => (code, QuantityOf(code))).ToArray();
    }

    private decimal QuantityOf(string item) =>
        item[0] switch
        {
            'H' => _dice.Next(2, 22) / 2m,
            'M' => _dice.Next(4, item == "M-TAPE" ? 400 : 40),
            'Q' => _dice.Next(20, 260) / 10m,
            'P' => _dice.Next(1, 16),
            'S' => _dice.Next(1, 4),
            _ => _dice.Next(1, 3),
        };

    private async Task BillAsync(Habit habit, (string, decimal)[] lines)
    {
        var content = await ContentAsync(habit.Code, habit.TaxCode, lines);
        if (habit.Code == "PIIRI" && content.Lines.Count > 2)
            content = content with { DiscountPercent = 5, PurchaseOrder = $"PO-{_dice.Next(1000, 9999)}" };
        if (habit.Code == DemoWorld.OnTheSlip)
            content = content with
            {
                Lines =
                [
                    .. content.Lines,
                    new DraftLine(
                        null,
                        "Use of the harbour's slip",
                        1,
                        "C62",
                        24,
                        null,
                        null,
                        _codes["SLIP"],
                        content.Lines[0].LedgerAccountId
                    ),
                ],
            };
        if (Day == DemoFiling.LateDay)
            content = content with { TaxDate = DemoFiling.LateTaxDate };
        var id = await DraftAsync(DocumentKind.Invoice, content);
        await IssueAsync(id, habit.Mails);
        await PlanPaymentAsync(habit, id);
    }

    /// <summary>The customer pays by habit, in one part or several.</summary>
    internal async Task PlanPaymentAsync(Habit habit, int id)
    {
        var due = await WithAsync<BooksContext, DateOnly>(db =>
            db.Documents.Where(d => d.Id == id).Select(d => d.DueDate!.Value).SingleAsync()
        );
        if (_dice.NextDouble() < habit.NeverPays)
            return;
        var day = due.AddDays(habit.LateDays + _dice.Next(-habit.Jitter, habit.Jitter + 1));
        for (var i = 1; i <= habit.Instalments; i++)
        {
            if (day <= _today)
                day = _today.AddDays(1);
            var share = i == habit.Instalments ? 1m : 1m / habit.Instalments;
            At(Weekday(day), () => PayAsync(habit.Code, id, share));
            day = day.AddDays(30);
        }
    }

    private static DateOnly Weekday(DateOnly day) =>
        day.DayOfWeek switch
        {
            DayOfWeek.Saturday => day.AddDays(2),
            DayOfWeek.Sunday => day.AddDays(1),
            _ => day,
        };
}
