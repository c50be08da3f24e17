using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts.Spelling;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Post;

/// <summary>Composes the mails that go with documents and reminders; a person sees them before they go.</summary>
public sealed class MailComposing(
    BooksContext db,
    BooksHead head,
    BookWriter writer,
    CustomerLinks links,
    PayLinks pay,
    Numbers numbers
)
{
    /// <summary>
    /// The mail for a document that is about to be issued or has been; into the pile to print where there is no mail
    /// address.
    /// </summary>
    /// <exception cref="RefusalException">When there is no such document, or a text of the business's own cannot be
    /// filled in.</exception>
    public async Task<MailToSend> ForDocumentAsync(int id, CancellationToken stop = default)
    {
        var document = await LoadAsync(id, stop);
        var customer = document.Customer!;
        var to = Recipients(document.Kind, customer);
        var text = TextOf(document.Kind);
        var fields = await FieldsAsync(document, stop);
        var (subject, body) = MailTexts.Write(await WordsAsync(text, customer.Language, stop), fields);
        var files = await db
            .DocumentFiles.Where(f => f.DocumentId == id && f.GoesAlong)
            .Select(f => f.Id)
            .ToListAsync(stop);
        return new MailToSend(to, subject, body)
        {
            Kind = PostKind.Document,
            Way = to.Length > 0 ? PostWay.Mail : PostWay.Print,
            CustomerId = document.CustomerId,
            DocumentIds = [id],
            FileIds = files,
            NumberInText = fields.Number,
        };
    }

    /// <summary>A short message with a link to a document, to the customer's telephone.</summary>
    /// <inheritdoc cref="ForDocumentAsync"/>
    public async Task<MailToSend> MessageAsync(int id, CancellationToken stop = default)
    {
        var document = await LoadAsync(id, stop);
        var customer = document.Customer!;
        var (subject, body) = MailTexts.Write(
            await WordsAsync(MailText.Message, customer.Language, stop),
            await FieldsAsync(document, stop)
        );
        return new MailToSend(customer.Mobile.Length > 0 ? customer.Mobile : customer.Phone, subject, body)
        {
            Kind = PostKind.Document,
            Way = PostWay.Message,
            LinkOnly = true,
            CustomerId = customer.Id,
            DocumentIds = [id],
            NumberInText = await numbers.WillBeAsync(document, stop),
        };
    }

    /// <summary>Which text goes with a kind of document.</summary>
    public static MailText TextOf(DocumentKind kind) =>
        kind switch
        {
            DocumentKind.Quote => MailText.Quote,
            DocumentKind.Order => MailText.Order,
            DocumentKind.DeliveryNote => MailText.DeliveryNote,
            DocumentKind.CreditNote => MailText.CreditNote,
            _ => MailText.Invoice,
        };

    /// <summary>
    /// The business's own words in the customer's language, else its own for all languages, else those that ship.
    /// </summary>
    public async Task<(string Subject, string Body)> WordsAsync(
        MailText text,
        string language,
        CancellationToken stop = default
    )
    {
        var own = await db
            .MailWords.AsNoTracking()
            .Where(w => w.Text == text && (w.Language == language || w.Language == ""))
            .ToListAsync(stop);
        var chosen = own.Find(w => w.Language == language) ?? own.FirstOrDefault();
        return chosen is null ? MailTexts.ShippedWords(text) : (chosen.Subject, chosen.Body);
    }

    /// <summary>An amount is said in the language of the text around it: English, where that is the one that ships.</summary>
    private async Task<string> SpelledInAsync(MailText text, string language, CancellationToken stop) =>
        await db.MailWords.AnyAsync(w => w.Text == text && w.Language == language, stop) ? language : "en";

    /// <summary>What a document's fields come to, for its mail or for a preview.</summary>
    public async Task<MailFields> FieldsAsync(int id, CancellationToken stop = default) =>
        await FieldsAsync(await LoadAsync(id, stop), stop);

    private async Task<Document> LoadAsync(int id, CancellationToken stop) =>
        await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer!)
                .ThenInclude(c => c.Contacts)
            .SingleOrDefaultAsync(d => d.Id == id, stop)
        ?? throw new RefusalException("", $"There is no document {id}.");

    private async Task<MailFields> FieldsAsync(Document document, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        var format = business.Format;
        var until = document.DueDate ?? document.ValidUntil;
        var number = document.Number ?? await numbers.WillBeAsync(document, stop);
        return (await CommonAsync(business, document.Customer!, stop)) with
        {
            Number = number,
            Pay = await pay.OfDocumentAsync(
                document.Id,
                number,
                await OpenOfAsync(document, stop),
                document.Customer!,
                stop
            ),
            Page = document.Policy.Raises > 0 ? await links.AccountAddressAsync(document.CustomerId, stop) : "",
            Kind = document.Policy.Word,
            Total = format.WithCode(document.Payable, document.Currency),
            TotalNumber = new Money(document.Payable, document.Currency).ToString(),
            TotalInWords = MoneySpelling.Of(
                document.Payable,
                document.Currency,
                await SpelledInAsync(TextOf(document.Kind), document.Customer!.Language, stop)
            ),
            Currency = document.Currency.Code,
            Customer = document.Customer!.Name,
            PurchaseOrder = document.PurchaseOrder,
            Project = document.Particulars.Project,
            Date = format.Date(document.Date),
            Until = until is { } day ? format.Date(day) : "",
            Link = await links.AddressAsync(document.Id, stop),
        };
    }

    /// <summary>What is open of a document, or will be once it is issued; minor units.</summary>
    private async Task<long> OpenOfAsync(Document document, CancellationToken stop) =>
        document.Policy.Raises <= 0 ? 0
        : document.IsDraft ? document.Payable
        : await db.AccountItems.Where(i => i.DocumentId == document.Id).Select(i => i.Open).SingleOrDefaultAsync(stop);

    /// <summary>
    /// A quote goes to whoever decides, what is to be paid to all who get invoices; else to the customer's own address.
    /// </summary>
    private static string Recipients(DocumentKind kind, Customer customer)
    {
        var contacts = customer
            .Contacts.Where(c =>
                c.Email.Length > 0
                && (kind == DocumentKind.Quote ? c.Decides : KindPolicy.Of(kind).Posts && c.GetsInvoices)
            )
            .Select(c => c.Email)
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .ToList();
        return contacts.Count > 0 ? string.Join(", ", contacts) : customer.Email;
    }

    /// <summary>A reminder of what is late in one currency; its tone follows how late the oldest is.</summary>
    /// <param name="asked">What is asked for of each item, by id, in minor units; null for all that is open of what is
    /// late.</param>
    /// <exception cref="RefusalException">When nothing is late.</exception>
    public async Task<MailToSend> ReminderAsync(
        int customerId,
        IReadOnlyDictionary<int, long>? asked = null,
        CancellationToken stop = default
    )
    {
        var business = await head.BusinessAsync(stop);
        var customer =
            await db
                .Customers.AsNoTracking()
                .Include(c => c.Contacts)
                .SingleOrDefaultAsync(c => c.Id == customerId, stop)
            ?? throw new RefusalException("", $"There is no customer {customerId}.");
        var today = await head.TodayAsync(stop);
        var late = OldestFirst
            .Order(
                await db
                    .AccountItems.AsNoTracking()
                    .Where(i => i.CustomerId == customerId && i.Open > 0 && i.Sign > 0 && i.Due < today)
                    .ToListAsync(stop)
            )
            .ToList();
        if (asked is not null)
            late = late.Where(i => asked.ContainsKey(i.Id)).ToList();
        if (late.Count == 0)
            throw new RefusalException("", $"Nothing of {customer.Name} is late, so there is nothing to remind of.");
        long Asked(AccountItem item) => asked?[item.Id] ?? item.Open;
        var format = business.Format;
        var oldest = today.DayNumber - late[0].Due.DayNumber;
        // The tone never runs ahead of what was sent before.
        var sent = await db.Post.CountAsync(
            p =>
                p.Kind == PostKind.Reminder
                && p.CustomerId == customerId
                && p.State != PostState.Withdrawn
                && p.State != PostState.Failed,
            stop
        );
        var text =
            oldest <= 20 || sent == 0 ? MailText.GentleReminder
            : oldest <= 60 || sent == 1 ? MailText.FirmReminder
            : MailText.LastReminder;
        var lines = late.Select(i =>
            $"  {i.Number} of {format.Date(i.Date)}, due {format.Date(i.Due)}, {Days(today.DayNumber - i.Due.DayNumber)} late: {format.WithCode(Asked(i), i.Currency)}"
        );
        var words = await WordsAsync(text, customer.Language, stop);
        var (subject, body) = MailTexts.Write(
            words,
            (await WithLinksAsync(words, business, customer, late.Sum(Asked), stop)) with
            {
                Date = format.Date(today),
                Items = string.Join('\n', lines),
                Overdue = format.WithCode(late.Sum(Asked), customer.Currency),
            }
        );
        return new MailToSend(customer.ReminderEmail, subject, body)
        {
            Kind = PostKind.Reminder,
            CustomerId = customerId,
            DocumentIds = late.Select(i => i.DocumentId).OfType<int>().ToList(),
        };
    }

    /// <summary>
    /// A letter of a step: in the text of the step and the customer's language, by mail, or otherwise where they have
    /// no address.
    /// </summary>
    /// <param name="items">What it asks for, the earliest due first.</param>
    /// <param name="charged">What is charged with it, in minor units, and the debit note that it is on.</param>
    public async Task<MailToSend> ForStepAsync(
        int customerId,
        MailText text,
        PostWay way,
        bool withInvoices,
        bool withStatement,
        IReadOnlyList<AskedItem> items,
        (long Amount, int? NoteId) charged = default,
        CancellationToken stop = default
    )
    {
        var business = await head.BusinessAsync(stop);
        var customer = await db
            .Customers.AsNoTracking()
            .Include(c => c.Contacts)
            .SingleAsync(c => c.Id == customerId, stop);
        var today = await head.TodayAsync(stop);
        var format = business.Format;
        if (way == PostWay.Message && customer.Mobile.Length == 0)
            way = PostWay.Mail;
        if (way == PostWay.Mail && customer.ReminderEmail.Length == 0)
            way = PostWay.Print;
        string Line(AskedItem item) =>
            $"  {item.Number} of {format.Date(item.Date)}, due {format.Date(item.Due)}{(item.Due < today ? $", {Days(today.DayNumber - item.Due.DayNumber)} late" : "")}: {format.WithCode(item.Asked, item.Currency)}";
        var late = items.Where(i => i.Due < today).ToList();
        var notYet = items.Where(i => i.Due >= today).ToList();
        var lines = late.ConvertAll(Line);
        if (late.Count > 0 && notYet.Count > 0)
            lines.AddRange(["", "Not due yet:", ""]);
        lines.AddRange(notYet.Select(Line));
        if (charged.Amount > 0)
            lines.AddRange([
                "",
                $"  Interest and costs of late payment, on a debit note: {format.WithCode(charged.Amount, items[0].Currency)}",
            ]);
        var words = await WordsAsync(way == PostWay.Message ? MailText.ReminderMessage : text, customer.Language, stop);
        var due = (late.Count > 0 ? late : items).Sum(i => i.Asked) + charged.Amount;
        var (subject, body) = MailTexts.Write(
            words,
            (await WithLinksAsync(words, business, customer, due, stop)) with
            {
                Date = format.Date(today),
                Items = string.Join('\n', lines),
                Overdue = format.WithCode(due, items[0].Currency),
            }
        );
        return new MailToSend(
            way switch
            {
                PostWay.Print => "",
                PostWay.Message => customer.Mobile,
                _ => customer.ReminderEmail,
            },
            subject,
            body
        )
        {
            Kind = PostKind.Reminder,
            Way = way,
            CustomerId = customerId,
            Statement = withStatement && way != PostWay.Message ? new StatementWish(null, today) : null,
            DocumentIds =
                way == PostWay.Message
                    ? []
                    :
                    [
                        .. withInvoices ? items.Select(i => i.DocumentId).OfType<int>() : [],
                        .. charged.NoteId is { } note ? [note] : Array.Empty<int>(),
                    ],
        };
    }

    /// <summary>A statement of account with a few words; into the pile to print where they have no address.</summary>
    /// <param name="late">What is past its due day, in minor units of the customer's currency; 0 for nothing.</param>
    public async Task<MailToSend> ForStatementAsync(
        int customerId,
        StatementWish wish,
        long late,
        CancellationToken stop = default
    )
    {
        var business = await head.BusinessAsync(stop);
        var customer = await db
            .Customers.AsNoTracking()
            .Include(c => c.Contacts)
            .SingleAsync(c => c.Id == customerId, stop);
        var words = await WordsAsync(MailText.Statement, customer.Language, stop);
        var balance = await db
            .AccountItems.Where(i => i.CustomerId == customerId && i.Open > 0 && i.Currency == customer.Currency)
            .SumAsync(i => i.Sign * i.Open, stop);
        var (subject, body) = MailTexts.Write(
            words,
            (await WithLinksAsync(words, business, customer, balance, stop)) with
            {
                Date = business.Format.Date(wish.Day),
                Overdue = late > 0 ? business.Format.WithCode(late, customer.Currency) : "",
            }
        );
        return new MailToSend(customer.ReminderEmail, subject, body)
        {
            Kind = PostKind.Statement,
            Way = customer.ReminderEmail.Length > 0 ? PostWay.Mail : PostWay.Print,
            CustomerId = customerId,
            Statement = wish,
        };
    }

    /// <summary>The mail that confirms a receipt, with what it was set against.</summary>
    /// <exception cref="RefusalException">When there is no such receipt.</exception>
    public async Task<MailToSend> ForReceiptAsync(int receiptId, CancellationToken stop = default)
    {
        var receipt =
            await db.Receipts.AsNoTracking().SingleOrDefaultAsync(r => r.Id == receiptId && !r.IsUndone, stop)
            ?? throw new RefusalException("", "This receipt is not there.");
        var customer = await db.Customers.AsNoTracking().SingleAsync(c => c.Id == receipt.CustomerId, stop);
        var business = await head.BusinessAsync(stop);
        var placed = await db
            .Allocations.Where(a => a.Lowering.ReceiptId == receiptId)
            .OrderBy(a => a.Id)
            .Select(a => new
            {
                a.Raising.Number,
                a.Amount,
                Left = a.Raising.Open,
            })
            .ToListAsync(stop);
        string Line(string number, long amount, long left) =>
            $"  {number}: {business.Format.WithCode(amount, receipt.Currency)}{(left > 0 ? $", {business.Format.WithCode(left, receipt.Currency)} still open" : ", paid in full")}";
        var (subject, body) = MailTexts.Write(
            await WordsAsync(MailText.Receipt, customer.Language, stop),
            (await CommonAsync(business, customer, stop)) with
            {
                Number = receipt.Number,
                Kind = "receipt",
                Total = business.Format.WithCode(receipt.Amount, receipt.Currency),
                TotalNumber = new Money(receipt.Amount, receipt.Currency).ToString(),
                TotalInWords = MoneySpelling.Of(
                    receipt.Amount,
                    receipt.Currency,
                    await SpelledInAsync(MailText.Receipt, customer.Language, stop)
                ),
                Currency = receipt.Currency.Code,
                Customer = customer.Name,
                Date = business.Format.Date(receipt.CameOn ?? receipt.Date),
                Items = string.Join('\n', placed.Select(p => Line(p.Number, p.Amount, p.Left))),
            }
        );
        return new MailToSend(customer.InvoiceEmail.Length > 0 ? customer.InvoiceEmail : customer.Email, subject, body)
        {
            Kind = PostKind.Document,
            CustomerId = customer.Id,
        };
    }

    public static string Days(int days) => days == 1 ? "1 day" : $"{days} days";

    /// <summary>With the addresses that the words name; none is made that nobody asks for.</summary>
    /// <param name="amount">What is asked for, in minor units of the customer's currency.</param>
    private async Task<MailFields> WithLinksAsync(
        (string Subject, string Body) words,
        Business business,
        Customer customer,
        long amount,
        CancellationToken stop
    ) =>
        (await CommonAsync(business, customer, stop)) with
        {
            Pay = MailTexts.Name(words, nameof(MailFields.Pay)) ? await pay.OfAccountAsync(customer, amount, stop) : "",
            Page = MailTexts.Name(words, nameof(MailFields.Page))
                ? await links.AccountAddressAsync(customer.Id, stop)
                : "",
        };

    private async Task<MailFields> CommonAsync(Business business, Customer customer, CancellationToken stop) =>
        new()
        {
            Business = business.PaperName,
            Greeting = customer.ContactName.Length > 0 ? $"Dear {customer.ContactName}" : "Good day",
            Account = Iban.Grouped(
                await db
                    .LedgerAccounts.Where(a => a.OnPapers && !a.Retired)
                    .OrderBy(a => a.Code)
                    .Select(a => a.Iban)
                    .FirstOrDefaultAsync(stop)
                    ?? ""
            ),
            Sender = writer.SignsAs,
        };
}
