using System.Text.Json;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Schedules;
using Jugaad.Desk.Books;
using Jugaad.Desk.Counter;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Standing;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Demo;

/// <summary>
/// The rest of the demo's selling: orders and deliveries, stages and deposits, standing invoices, credits, the counter,
/// the shelf.
/// </summary>
internal sealed class DemoSelling(DemoHistory history)
{
    /// <summary>The order of a customer billed in euros that is for their shop in Sweden, and billed in crowns.</summary>
    private static readonly (string Customer, int Month) InCrowns = ("KAIJO", 7);

    private readonly HashSet<int> _planned = [];

    internal void Plan()
    {
        // Customer, month, day, what is ordered, and in how many parts of how many days it goes; billed or not yet.
        (string, int, int, (string, decimal)[], int, bool)[] orders =
        [
            ("KORALL", 3, 3, [("M-BOLT", 120), ("P-SHACK", 24)], 3, true),
            ("KAIJO", 3, 17, [("M-TAPE", 800), ("M-WEB25", 300)], 3, true),
            ("PIIRI", 4, 7, [("Q-CLOTH", 60), ("P-HANK", 30)], 3, true),
            ("SVART", 5, 5, [("Q-CLOTH", 36)], 2, true),
            ("KORALL", 6, 2, [("Q-CLOTH", 90), ("P-BLOCK", 12)], 3, true),
            ("KAIJO", 7, 9, [("M-TAPE", 1200)], 3, true),
            ("PIIRI", 8, 25, [("M-WEB25", 160), ("P-HANK", 36)], 2, false),
            ("KORALL", 8, 28, [("M-BOLT", 90), ("P-BLOCK", 6), ("P-SHACK", 30)], 3, false),
            ("KAIJO", 9, 1, [("M-TAPE", 900), ("P-EYE", 300)], 3, false),
            ("NORTHP", 9, 12, [("P-BATT", 20)], 1, false),
        ];
        foreach (var (customer, month, day, lines, parts, billed) in orders)
            At(month, day, () => OrderAsync(customer, lines, parts, billed));
        At(2, 10, StandingAsync);
        for (var month = 3; month <= 9; month++)
            At(month, 4, PayStandingAsync);
        At(5, 12, StagedAsync);
        At(6, 5, DepositAsync);
        At(9, 3, RevisedAsync);
        At(9, 12, ChoiceAsync);
        foreach (
            var (month, day) in new[] { (3, 26), (4, 28), (5, 27), (6, 16), (7, 2), (7, 21), (8, 11), (8, 27), (9, 1) }
        )
            At(month, day, CreditAsync);
        foreach (var (month, day) in new[] { (5, 26), (8, 4) })
            At(month, day, CancelAsync);
        foreach (
            var (month, day, item, quantity, card) in new[]
            {
                (4, 11, "P-SHACK", 2m, false),
                (5, 9, "B-HAND1", 1m, true),
                (6, 13, "P-HANK", 6m, false),
                (7, 4, "B-HAND2", 2m, true),
                (8, 8, "M-WEB25", 5.5m, false),
                (9, 5, "P-BLOCK", 1m, true),
                (9, 16, "P-SHACK", 3m, false),
            }
        )
            At(month, day, () => CounterAsync(item, quantity, card));
        At(9, 17, ShelfAsync);
    }

    private void At(int month, int day, Func<Task> work)
    {
        var date = new DateOnly(2025, month, day);
        while (date.DayOfWeek is DayOfWeek.Saturday or DayOfWeek.Sunday)
            date = date.AddDays(1);
        history.At(date, work);
    }

    private static Habit HabitOf(string customer) => DemoWorld.Habits.Single(h => h.Code == customer);

    private async Task OrderAsync(string customer, (string, decimal)[] lines, int parts, bool billed)
    {
        var currency = Core.Amounts.Currency.Of(InCrowns == (customer, history.Day.Month) ? "SEK" : "EUR");
        var tax = HabitOf(customer).TaxCode;
        var content = (
            customer == InCrowns.Customer
                ? await history.ContentAsync(customer, currency, tax, lines)
                : await history.ContentAsync(customer, tax, lines)
        ) with
        {
            PurchaseOrder = $"{customer}-{history.Day:MMdd}",
            Particulars = new Particulars { Carrier = "Saarte Veod", DeliveryTerms = "to the door, unpacked" },
        };
        var order = await history.DraftAsync(DocumentKind.Order, content);
        await history.IssueAsync(order, false);
        for (var i = 1; i <= parts; i++)
        {
            var (part, last) = (i, i == parts);
            history.At(history.Day.AddDays(2 + (3 * i)), () => DeliverAsync(order, parts, part, last && billed));
        }
    }

    /// <summary>
    /// An equal part of each line; the last one takes what is left. Where all is billed, that happens a little later.
    /// </summary>
    private async Task DeliverAsync(int order, int parts, int part, bool bill)
    {
        var note = await history.WithAsync<MakingDesk, int>(m => m.DeliveryAsync(order));
        if (part < parts)
        {
            var draft = await LoadAsync(note);
            var content = draft.Content();
            content = content with
            {
                Lines = content
                    .Lines.Select(l => l with { Quantity = Math.Max(1, Math.Floor(l.Quantity / (parts - part + 1))) })
                    .ToList(),
                Particulars = content.Particulars with { DeliveredFrom = history.Day },
            };
            await history.WithAsync<Drafts>(d =>
                d.SaveAsync(new DraftToSave(note, DocumentKind.DeliveryNote, draft.Version, content, order))
            );
        }

        await history.IssueAsync(note, false);
        if (bill)
            history.At(history.Day.AddDays(3), () => BillAsync(order));
    }

    private async Task BillAsync(int order)
    {
        var notes = await history.WithAsync<BooksContext, List<int>>(db =>
            db.Documents.Where(d => d.FromDocumentId == order && d.Kind == DocumentKind.DeliveryNote)
                .Select(d => d.Id)
                .ToListAsync()
        );
        foreach (var invoice in await history.WithAsync<Deliveries, IReadOnlyList<int>>(d => d.BillAsync(notes, false)))
            await IssueAndPlanAsync(invoice);
    }

    private async Task IssueAndPlanAsync(int invoice)
    {
        await history.IssueAsync(invoice, true);
        var issued = await LoadAsync(invoice);
        var habit = HabitOf(issued.Customer!.Code);
        // What they owe for the other shore comes in three parts, of which the last is still out.
        var isAbroad = !issued.Currency.Equals(issued.Customer.Currency);
        await history.PlanPaymentAsync(isAbroad ? habit with { Instalments = 3 } : habit, invoice);
        _planned.Add(invoice);
    }

    private async Task StandingAsync()
    {
        async Task Begin(
            string customer,
            string name,
            Schedule schedule,
            StandingWay way,
            string text,
            int before,
            params (string, decimal)[] lines
        )
        {
            var content = await history.ContentAsync(customer, HabitOf(customer).TaxCode, lines);
            content = content with
            {
                Lines = content.Lines.Select((l, i) => i == 0 ? l with { Text = text } : l).ToList(),
            };
            await history.WithAsync<StandingDesk>(s =>
                s.SaveAsync(
                    null,
                    new StandingDetails
                    {
                        Name = name,
                        Schedule = schedule,
                        Way = way,
                        TellBefore = before,
                        TellAfter = 3,
                        PricesOfTheDay = way == StandingWay.Draft,
                    },
                    content.CustomerId,
                    content
                )
            );
        }

        await Begin(
            "MERIV",
            "Winter storage, Liis Meriväli",
            new Schedule(new DateOnly(2025, 2, 28), 1, Pace.Months),
            StandingWay.IssueAndSend,
            "Storage of sails for {{ Month }}",
            3,
            ("S-STORE", 2)
        );
        await Begin(
            "TAMBRG",
            "Winter storage, Elo Tamberg",
            new Schedule(new DateOnly(2025, 2, 15), 1, Pace.Months, Until: new DateOnly(2025, 5, 31)),
            StandingWay.Issue,
            "Storage of sails for {{ Month }}",
            0,
            ("S-STORE", 1)
        );
        await Begin(
            "SKERRY",
            "Fleet check, Skerry Charter",
            new Schedule(new DateOnly(2025, 3, 31), 3, Pace.Months),
            StandingWay.Draft,
            "Rig check of the fleet, {{ Quarter }}",
            7,
            ("F-RIGCHK", 3)
        );
        await Begin(
            "NORTHP",
            "Storage of the school's sails",
            new Schedule(new DateOnly(2025, 3, 20), 1, Pace.Months),
            StandingWay.IssueAndSend,
            "Storage of sails from {{ From }} to {{ Until }}",
            5,
            ("S-STORE", 6)
        );
        await Begin(
            "KORALL",
            "Handbooks for the yard's apprentices",
            new Schedule(new DateOnly(2025, 9, 30), 1, Pace.Years),
            StandingWay.Issue,
            "Handbook “Mending Sails at Sea”, apprentices of {{ Year }}",
            30,
            ("B-HAND1", 4)
        );
        var school = await history.ContentAsync("NORTHP", "STD", ("F-WASH", 4), ("H-SAIL", 6), ("P-BATT", 8));
        await history.WithAsync<StartersDesk>(s =>
            s.KeepAsync(
                DocumentKind.Quote,
                "Spring service of a small fleet",
                "Wash, mend and re-batten four dinghies",
                school,
                Currency.Of("EUR")
            )
        );
        var rig = await history.ContentAsync("THISTL", "STD", ("F-RIGCHK", 1), ("H-RIG", 2));
        await history.WithAsync<StartersDesk>(s =>
            s.KeepAsync(
                DocumentKind.Invoice,
                "Rig check with two hours aloft",
                "The usual for a cruising yacht",
                rig,
                Currency.Of("EUR")
            )
        );
    }

    /// <summary>What the standing invoices gave is paid by habit too; a draft that waits is issued.</summary>
    private async Task PayStandingAsync()
    {
        var made = await history.WithAsync<BooksContext, List<Document>>(db =>
            db.Documents.AsNoTracking()
                .Include(d => d.Customer)
                .Where(d => db.Set<StandingOccurrence>().Any(o => o.DocumentId == d.Id))
                .OrderBy(d => d.Id)
                .ToListAsync()
        );
        foreach (var document in made.Where(d => _planned.Add(d.Id)))
        {
            if (document.IsDraft)
                await history.IssueAsync(document.Id, true);
            await history.PlanPaymentAsync(HabitOf(document.Customer!.Code), document.Id);
        }
    }

    /// <summary>The museum ship's rigging, in stages: two are billed, the last waits for the mast.</summary>
    private async Task StagedAsync()
    {
        var content = await history.ContentAsync(
            "MUSEUM",
            "STD",
            ("H-RIG", 120),
            ("H-SAIL", 64),
            ("Q-CLOTH", 210),
            ("P-BLOCK", 40)
        );
        content = content with
        {
            ValidUntil = history.Day.AddMonths(1),
            DiscountPercent = 4,
            Particulars = new Particulars
            {
                Project = "Mizzen, 2025",
                Opening = "For the mizzen of the Tuuleratas, as surveyed in April.",
            },
            Lines =
            [
                DraftLine.Words("Work", LineRole.Section),
                content.Lines[0],
                content.Lines[1],
                DraftLine.Words("Materials", LineRole.Section),
                content.Lines[2],
                content.Lines[3],
            ],
        };
        var quote = await history.DraftAsync(DocumentKind.Quote, content);
        await history.IssueAsync(quote, true);
        At(
            5,
            20,
            async () => await history.WithAsync<Quotes>(q => q.AnswerAsync(quote, true, "Approved by the board"))
        );
        At(
            6,
            2,
            async () =>
                await IssueAndPlanAsync(
                    await history.WithAsync<Stages, int>(s => s.BillAsync(quote, new StageWish(Percent: 30)))
                )
        );
        At(
            8,
            1,
            async () =>
                await IssueAndPlanAsync(
                    await history.WithAsync<Stages, int>(s => s.BillAsync(quote, new StageWish(Percent: 35)))
                )
        );
    }

    /// <summary>A sprayhood for which a deposit was asked, and taken off at the end.</summary>
    private async Task DepositAsync()
    {
        var content = await history.ContentAsync("SKERRY", "STD", ("Q-SPRAY", 18), ("H-SAIL", 22));
        var quote = await history.DraftAsync(
            DocumentKind.Quote,
            content with
            {
                ValidUntil = history.Day.AddMonths(1),
                Particulars = new Particulars { DepositPercent = 30 },
            }
        );
        await history.IssueAsync(quote, true);
        At(6, 9, async () => await history.WithAsync<Quotes>(q => q.AnswerAsync(quote, true)));
        At(
            6,
            10,
            async () =>
                await IssueAndPlanAsync(await history.WithAsync<AcceptedDeposits, int>(d => d.DraftAsync(quote)))
        );
        At(
            7,
            10,
            async () => await IssueAndPlanAsync(await history.WithAsync<MakingDesk, int>(m => m.InvoiceAsync(quote)))
        );
    }

    private async Task RevisedAsync()
    {
        var first = await history.DraftAsync(
            DocumentKind.Quote,
            await history.ContentAsync("KALLAS", "STD", ("Q-COVER", 16), ("F-MEAS", 1)) with
            {
                ValidUntil = history.Day.AddMonths(1),
            }
        );
        await history.IssueAsync(first, true);
        At(
            9,
            10,
            async () =>
            {
                var second = await history.WithAsync<Quotes, int>(q => q.ReviseAsync(first));
                var draft = await LoadAsync(second);
                var cheaper = draft.Content() with
                {
                    Lines = draft
                        .Content()
                        .Lines.Select((l, i) => i == 0 ? l with { Quantity = 14.5m, DiscountPercent = 5 } : l)
                        .ToList(),
                    Particulars = new Particulars { FollowUp = new DateOnly(2025, 9, 17), DepositPercent = 30 },
                };
                await history.WithAsync<Drafts>(d =>
                    d.SaveAsync(new DraftToSave(second, DocumentKind.Quote, draft.Version, cheaper))
                );
                await history.IssueAsync(second, true);
            }
        );
    }

    /// <summary>A quote with things to choose, which the customer has looked at.</summary>
    private async Task ChoiceAsync()
    {
        var content = await history.ContentAsync(
            "THISTL",
            "STD",
            ("F-RIGCHK", 1),
            ("H-RIG", 6),
            ("F-WASH", 2),
            ("Q-CLOTH", 4),
            ("Q-SPRAY", 4)
        );
        var lines = content.Lines.ToList();
        lines[2] = lines[2] with { Choice = LineChoice.Optional };
        lines[3] = lines[3] with { Choice = LineChoice.Alternative, Chosen = true };
        lines[4] = lines[4] with { Choice = LineChoice.Alternative };
        var quote = await history.DraftAsync(
            DocumentKind.Quote,
            content with
            {
                ValidUntil = history.Day.AddMonths(1),
                Lines = lines,
                Particulars = new Particulars { FollowUp = new DateOnly(2025, 9, 19) },
            }
        );
        await history.IssueAsync(quote, true);
        At(9, 15, async () => await history.WithAsync<CustomerLinks>(l => l.SeeAsync(quote)));
    }

    /// <summary>Half of the first line of the newest unpaid invoice is credited.</summary>
    private async Task CreditAsync()
    {
        var invoice = await NewestOpenAsync();
        var credit = await history.WithAsync<Credits, int>(c =>
            c.DraftAsync(invoice, "Less was needed than we billed")
        );
        var draft = await LoadAsync(credit);
        var content = draft.Content();
        var first = content.Lines.First(l => l.Role == LineRole.Item);
        await history.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    credit,
                    DocumentKind.CreditNote,
                    draft.Version,
                    content with
                    {
                        Lines =
                        [
                            first with
                            {
                                Quantity = Math.Max(1, Math.Floor(first.Quantity / 2)),
                                DiscountAmount = null,
                            },
                        ],
                        Charges = [],
                        DiscountPercent = null,
                        DiscountAmount = null,
                    },
                    invoice
                )
            )
        );
        await history.IssueAsync(credit, true);
        await history.WithAsync<Credits>(async c => await c.SetAgainstAsync(await LoadAsync(credit)));
    }

    private async Task CancelAsync() =>
        await history.WithAsync<Credits>(async c =>
            await c.CancelAsync(await NewestOpenAsync(), "Sent to the wrong customer")
        );

    private Task<int> NewestOpenAsync() =>
        history.WithAsync<BooksContext, int>(db =>
            db.Documents.Where(d =>
                    d.Kind == DocumentKind.Invoice
                    && d.State == DocumentState.Issued
                    && d.Lines.All(l => l.Role == LineRole.Item)
                    && d.Lines.Any(l => l.Position == 0 && l.FromLineId == null)
                    && db.AccountItems.Any(i => i.DocumentId == d.Id && i.Open == i.Amount)
                )
                .OrderByDescending(d => d.Id)
                .Select(d => d.Id)
                .FirstAsync()
        );

    private async Task CounterAsync(string item, decimal quantity, bool card)
    {
        var kind = card ? MoneyKind.CardClearing : MoneyKind.Cash;
        var account = await history.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Role == AccountRole.Money && a.Kind == kind).Select(a => a.Id).FirstAsync()
        );
        var content = await history.CounterContentAsync(item, quantity);
        await history.WithAsync<CounterSales>(c =>
            c.SellAsync(new CounterSale(null, content, [new CounterPart(account, null)], card ? null : 10_000, false))
        );
    }

    private async Task ShelfAsync()
    {
        foreach (var (customer, item, quantity) in new[] { ("PIIRI", "H-SAIL", "4.5"), ("LAINE", "P-BLOCK", "2") })
        {
            var content = await history.ContentAsync(customer, "STD", (item, 1));
            var line = content.Lines[0];
            var form = JsonSerializer.Serialize(
                new
                {
                    kind = "invoice",
                    customerId = content.CustomerId,
                    date = history.Day.ToString("yyyy-MM-dd"),
                    placeId = -1,
                    lines = new[]
                    {
                        new
                        {
                            itemId = line.ItemId,
                            text = line.Text,
                            quantity,
                            unit = line.Unit,
                            unitPrice = line.UnitPrice.ToString(
                                "0.00",
                                System.Globalization.CultureInfo.InvariantCulture
                            ),
                            discount = line.DiscountPercent is { } percent ? $"{percent:0.##}%" : "",
                            taxCodeId = line.TaxCodeId,
                            accountId = line.LedgerAccountId,
                            role = "item",
                        },
                    },
                    charges = Array.Empty<object>(),
                }
            );
            var name = await history.WithAsync<BooksContext, string>(db =>
                db.Customers.Where(c => c.Id == content.CustomerId).Select(c => c.Name).SingleAsync()
            );
            var whole = await history.WithAsync<Drafts, Document>(d =>
                d.TryOutAsync(
                    DocumentKind.Invoice,
                    content with
                    {
                        Lines =
                        [
                            line with
                            {
                                Quantity = decimal.Parse(quantity, System.Globalization.CultureInfo.InvariantCulture),
                            },
                        ],
                    }
                )
            );
            var total = $"{new Core.Amounts.Money(whole.Payable, whole.Currency)} {whole.Currency}";
            await history.WithAsync<Shelf>(s =>
                s.PutAsync(new TypedEditor(DocumentKind.Invoice, null, form, name, total))
            );
        }
    }

    private Task<Document> LoadAsync(int id) =>
        history.WithAsync<BooksContext, Document>(db =>
            db.Documents.AsNoTracking()
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .Include(d => d.Customer)
                .SingleAsync(d => d.Id == id)
        );
}
