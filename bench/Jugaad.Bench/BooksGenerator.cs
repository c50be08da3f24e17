using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Numbering;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Bench;

/// <summary>
/// Books of so many invoices over two years up to today, with receipts, from a seed: the same seed gives the same
/// books. Entities are made and posted by the core's own rules, so that the check of the books holds on them; only the
/// desks' one-by-one way is left out.
/// </summary>
internal sealed class BooksGenerator(Books books, int invoices, int seed)
{
    private const int Batch = 2_000;
    private const int Days = 730;
    private readonly Random _random = new(seed);
    private readonly DateOnly _today = DateOnly.FromDateTime(DateTime.Today);

    private static readonly string[] First =
    [
        "Korall",
        "Tuule",
        "Merelaine",
        "Sadama",
        "Kaljase",
        "Ankru",
        "Purje",
        "Northern",
        "Baltic",
        "Skerry",
        "Harbour",
        "Lighthouse",
        "Heron",
        "Cormorant",
        "Amber",
        "Birch",
    ];
    private static readonly string[] Second =
    [
        "Boatyard",
        "Charter",
        "Marine",
        "Slipway",
        "Sailing School",
        "Yachts",
        "Rigging",
        "Chandlery",
    ];

    internal async Task MakeAsync()
    {
        await books.WithAsync<BooksSetup>(s =>
            s.MakeAsync(
                new FirstRun(
                    new BusinessDetails
                    {
                        Name = "Bench Loft",
                        Address = new Address("Quay 1", "1", "Harbour", "EE"),
                        Email = "loft@bench.example",
                        HomeCurrency = "EUR",
                    },
                    "VAT",
                    24,
                    "Owner",
                    Books.Email,
                    Books.Password
                )
            )
        );
        await CustomersAsync();
        for (var made = 0; made < invoices; made += Batch)
            await InvoicesAsync(made, Math.Min(Batch, invoices - made));
        await books.WithAsync<BooksContext>(db => BooksSchema.FillAsync(db));
        await books.WithAsync<BooksContext>(db => Statistics.RefreshAsync(db));
    }

    private Task CustomersAsync() =>
        books.WithAsync<BooksContext>(async db =>
        {
            var terms = await db.Terms.Select(t => t.Id).ToListAsync();
            for (var i = 0; i < Math.Clamp(invoices / 40, 20, 2_500); i++)
            {
                db.Customers.Add(
                    new Customer(
                        new CustomerDetails
                        {
                            Code = $"C{i + 1:D5}",
                            Name = $"{First[i % First.Length]} {Second[i / First.Length % Second.Length]} {i + 1}",
                            Email = $"pay{i + 1}@customer.example",
                            Currency = "EUR",
                            Address = new Address($"Quay {i % 90}", $"{10_000 + i}", "Harbour", "EE"),
                            TermsId = terms[i % terms.Count],
                        }
                    )
                );
            }

            await db.SaveChangesAsync();
        });

    private Task InvoicesAsync(int from, int count) =>
        books.WithAsync<BooksContext>(async db =>
        {
            db.ChangeTracker.AutoDetectChangesEnabled = false;
            await using var transaction = await db.Database.BeginTransactionAsync();
            var business = await db.Businesses.AsNoTracking().SingleAsync();
            var customers = await db.Customers.AsNoTracking().OrderBy(c => c.Id).ToListAsync();
            var terms = await db.Terms.AsNoTracking().ToDictionaryAsync(t => t.Id);
            var codes = (
                await db
                    .TaxCodes.AsNoTracking()
                    .Include(c => c.Parts)
                        .ThenInclude(p => p.Component)
                            .ThenInclude(c => c.Rates)
                    .ToListAsync()
            ).ToDictionary(c => c.Id);
            var standing = TaxStanding.With(await db.TaxAuthorities.AsNoTracking().ToListAsync());
            var (invoiceSeries, receiptSeries) = (
                await db.Series.Include(s => s.Counters).SingleAsync(s => s.UsedFor == "Invoice"),
                await db.Series.Include(s => s.Counters).SingleAsync(s => s.UsedFor == "Receipt")
            );
            var accounts = await db.PostingAccountsAsync(default);
            var bank = await db
                .LedgerAccounts.Where(a => a.Role == AccountRole.Money && a.Kind == MoneyKind.Bank)
                .Select(a => a.Id)
                .FirstAsync();
            var (code, sales) = (business.DefaultTaxCodeId!.Value, business.DefaultLedgerAccountId!.Value);
            var sender = Parties.SenderOf(business, [], [], true);

            var documents = new List<Document>(count);
            for (var i = 0; i < count; i++)
            {
                var customer = customers[_random.Next(customers.Count)];
                var document = new Document(DocumentKind.Invoice, "Bench");
                document.Rewrite(
                    new DraftContent
                    {
                        CustomerId = customer.Id,
                        Date = _today.AddDays(-Days + (int)((long)Days * (from + i) / invoices)),
                        Lines =
                        [
                            .. Enumerable
                                .Range(0, _random.Next(1, 5))
                                .Select(n => new DraftLine(
                                    null,
                                    $"Sail repair, job {from + i + 1}.{n + 1}",
                                    _random.Next(1, 40) / 2m,
                                    "HUR",
                                    _random.Next(500, 20_000) / 100m,
                                    null,
                                    null,
                                    code,
                                    sales
                                )),
                        ],
                    },
                    new DraftMasters(customer, terms[customer.TermsId!.Value], codes, business.TaxRounding, standing)
                );
                document.Issue(
                    invoiceSeries.Id,
                    invoiceSeries.Take(document.Date, _ => false),
                    sender,
                    Parties.AddresseeOf(customer, business),
                    customer.Language
                );
                documents.Add(document);
            }

            db.Documents.AddRange(documents);
            await SaveAsync(db);
            var billed = documents.ConvertAll(d => new AccountItem(
                AccountItemKind.Invoice,
                d.CustomerId,
                d.Number!,
                d.Date,
                d.DueDate!.Value,
                d.Currency,
                d.Payable,
                1,
                business.HomeCurrency
            )
            {
                DocumentId = d.Id,
            });
            db.AccountItems.AddRange(billed);
            foreach (var document in documents)
            {
                var entry = PostingRules.ForDocument(document, accounts, business.HomeCurrency);
                entry.DocumentId = document.Id;
                db.Journal.Add(entry);
            }

            await SaveAsync(db);
            await PayAsync(db, billed, documents, business, receiptSeries, accounts, bank);
            await transaction.CommitAsync();
            db.ChangeTracker.Clear();
        });

    /// <summary>Most are paid by their time, some in part; of the newest, few.</summary>
    private async Task PayAsync(
        BooksContext db,
        List<AccountItem> billed,
        List<Document> documents,
        Business business,
        Series series,
        PostingAccounts accounts,
        int bank
    )
    {
        var paid = billed
            .Select(
                (item, i) =>
                    (
                        Item: item,
                        Document: documents[i],
                        On: item.Due.AddDays(_random.Next(-10, 40)),
                        Share: _random.Next(100)
                    )
            )
            .Where(p => p.On <= _today && p.Share < 97)
            .OrderBy(p => p.On)
            .Select(p =>
                (
                    p.Item,
                    p.Document,
                    p.On,
                    Amount: p.Share == 0 ? p.Item.Amount / 2 : p.Item.Amount,
                    Booking: new Booking(BookingKind.Receipt, p.On, p.Item.CustomerId, "Bench")
                )
            )
            .Where(p => p.Amount > 0)
            .ToList();
        db.Bookings.AddRange(paid.Select(p => p.Booking));
        await SaveAsync(db);
        var receipts = paid.ConvertAll(p =>
        {
            var receipt = new Receipt(
                series.Id,
                series.Take(p.On, _ => false),
                p.Item.CustomerId,
                p.On,
                bank,
                p.Item.Currency,
                p.Amount,
                MoneySide.Plain(p.Item.Currency, p.Amount, 1),
                p.Item.Number,
                "Bench"
            );
            receipt.Came("Bank transfer", p.On, p.Booking);
            return receipt;
        });
        db.Receipts.AddRange(receipts);
        await SaveAsync(db);
        for (var i = 0; i < paid.Count; i++)
        {
            var item = new AccountItem(
                AccountItemKind.Receipt,
                paid[i].Item.CustomerId,
                receipts[i].Number,
                paid[i].On,
                paid[i].On,
                receipts[i].Currency,
                receipts[i].Amount,
                1,
                business.HomeCurrency
            )
            {
                ReceiptId = receipts[i].Id,
            };
            item.Belong(paid[i].Booking);
            db.AccountItems.Add(item);
            var entry = PostingRules.ForReceipt(receipts[i], accounts, business.HomeCurrency);
            entry.ReceiptId = receipts[i].Id;
            entry.Belong(paid[i].Booking);
            db.Journal.Add(entry);
            var allocation = Allocation.Make(paid[i].Item, item, paid[i].Amount, paid[i].On);
            allocation.Belong(paid[i].Booking);
            db.Allocations.Add(allocation);
            paid[i].Document.FollowOpenAmount(paid[i].Item.Open);
        }

        await SaveAsync(db);
    }

    private static async Task SaveAsync(BooksContext db)
    {
        db.ChangeTracker.DetectChanges();
        await db.SaveChangesAsync();
    }
}
