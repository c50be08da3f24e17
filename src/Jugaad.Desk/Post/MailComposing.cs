using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
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
    Wordings wordings,
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
        var talk = await WordsAsync(text, document.WrittenIn(customer), stop);
        var fields = await FieldsAsync(document, talk, stop);
        var (subject, body) = MailTexts.Write(talk.Text, fields);
        var files = await db
            .DocumentFiles.Where(f => f.DocumentId == id && f.GoesAlong)
            .Select(f => f.Id)
            .ToListAsync(stop);
        return new MailToSend(to, subject, body)
        {
            Kind = PostKind.Document,
            Way = to.Length > 0 && customer.Takes != PaperForm.Print ? PostWay.Mail : PostWay.Print,
            Hybrid = customer.Takes == PaperForm.HybridPdf && document.Policy.Posts,
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
        var talk = await WordsAsync(MailText.Message, document.WrittenIn(customer), stop);
        var (subject, body) = MailTexts.Write(talk.Text, await FieldsAsync(document, talk, stop));
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
    /// The business's own words in a language, else its own for all languages, else those that ship in it, else those
    /// that ship in English.
    /// </summary>
    /// <returns>With them the language in which amounts, days and what stands around them are said: English, where our
    /// own words are for all languages.</returns>
    public async Task<MailTalk> WordsAsync(MailText text, string language, CancellationToken stop = default)
    {
        var own = await db
            .MailWords.AsNoTracking()
            .Where(w => w.Text == text && (w.Language == language || w.Language == ""))
            .ToListAsync(stop);
        var chosen = own.Find(w => w.Language == language) ?? own.FirstOrDefault();
        var spoken =
            chosen is { Language: "" } ? "en"
            : chosen is not null || ShippedMails.Ship(language) ? language
            : "en";
        return new MailTalk(
            chosen is null ? ShippedMails.Of(language)[text] : (chosen.Subject, chosen.Body),
            spoken,
            await wordings.InAsync(spoken, "", stop),
            await head.BusinessAsync(stop)
        );
    }

    /// <summary>What a document's fields come to, for a preview of words.</summary>
    public async Task<MailFields> FieldsAsync(int id, MailTalk talk, CancellationToken stop = default) =>
        await FieldsAsync(await LoadAsync(id, stop), talk, stop);

    private async Task<Document> LoadAsync(int id, CancellationToken stop) =>
        await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer!)
                .ThenInclude(c => c.Contacts)
            .SingleOrDefaultAsync(d => d.Id == id, stop)
        ?? throw new RefusalException("", $"There is no document {id}.");

    private async Task<MailFields> FieldsAsync(Document document, MailTalk talk, CancellationToken stop)
    {
        var format = talk.Format;
        var until = document.DueDate ?? document.ValidUntil;
        var number = document.Number ?? await numbers.WillBeAsync(document, stop);
        return (await CommonAsync(talk, document.Customer!, document.Currency, stop)) with
        {
            Number = number,
            Pay = await pay.OfDocumentAsync(
                document.Id,
                number,
                new Money(await OpenOfAsync(document, stop), document.Currency),
                document.Customer!,
                stop
            ),
            Page = document.Policy.Raises > 0 ? await links.AccountAddressAsync(document.CustomerId, stop) : "",
            Kind = talk.Kind(document.Kind),
            Total = format.WithCode(document.Payable, document.Currency),
            TotalNumber = new Money(document.Payable, document.Currency).ToString(),
            TotalInWords = talk.Spelled(document.Payable, document.Currency),
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

    /// <summary>Between sums of several currencies, in whatever language.</summary>
    private const string Plus = "+";

    /// <summary>A reminder of what is late; its tone follows how late the oldest is.</summary>
    /// <param name="asked">What is asked for of each item, by id, in minor units; null for all that is open of what is
    /// late.</param>
    /// <exception cref="RefusalException">When nothing is late.</exception>
    public async Task<MailToSend> ReminderAsync(
        int customerId,
        IReadOnlyDictionary<int, long>? asked = null,
        CancellationToken stop = default
    )
    {
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
        var talk = await WordsAsync(text, customer.Language, stop);
        var lines = late.Select(i =>
            talk.Line(new AskedItem(i.Id, i.Number, i.Date, i.Due, Asked(i), i.Currency, i.DocumentId), today)
        );
        var due = Sums.Of(late.Select(i => new Money(Asked(i), i.Currency)));
        var (subject, body) = MailTexts.Write(
            talk.Text,
            (await WithLinksAsync(talk, customer, due, stop)) with
            {
                Date = talk.Format.Date(today),
                Items = string.Join('\n', lines),
                Overdue = due.Words(talk.Format, Plus),
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
    /// <param name="charged">What is charged with it.</param>
    /// <param name="notes">The debit notes that it is on.</param>
    public async Task<MailToSend> ForStepAsync(
        int customerId,
        MailText text,
        PostWay way,
        bool withInvoices,
        bool withStatement,
        IReadOnlyList<AskedItem> items,
        Sums? charged = null,
        IReadOnlyList<int>? notes = null,
        CancellationToken stop = default
    )
    {
        var customer = await db
            .Customers.AsNoTracking()
            .Include(c => c.Contacts)
            .SingleAsync(c => c.Id == customerId, stop);
        var today = await head.TodayAsync(stop);
        if (way == PostWay.Message && customer.Mobile.Length == 0)
            way = PostWay.Mail;
        if (way == PostWay.Mail && customer.ReminderEmail.Length == 0)
            way = PostWay.Print;
        var talk = await WordsAsync(way == PostWay.Message ? MailText.ReminderMessage : text, customer.Language, stop);
        var late = items.Where(i => i.Due < today).ToList();
        var notYet = items.Where(i => i.Due >= today).ToList();
        var lines = late.ConvertAll(i => talk.Line(i, today));
        if (late.Count > 0 && notYet.Count > 0)
            lines.AddRange(["", talk.Say(MailPhrase.NotDueYet), ""]);
        lines.AddRange(notYet.Select(i => talk.Line(i, today)));
        if (charged is { Count: > 0 })
            lines.AddRange(["", $"  {talk.Say(MailPhrase.Charged, charged.Words(talk.Format, Plus))}"]);
        var due = Sums.Of(
            (late.Count > 0 ? late : items).Select(i => new Money(i.Asked, i.Currency)).Concat(charged ?? Sums.None)
        );
        var (subject, body) = MailTexts.Write(
            talk.Text,
            (await WithLinksAsync(talk, customer, due, stop)) with
            {
                Date = talk.Format.Date(today),
                Items = string.Join('\n', lines),
                Overdue = due.Words(talk.Format, Plus),
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
                    : [.. withInvoices ? items.Select(i => i.DocumentId).OfType<int>() : [], .. notes ?? []],
        };
    }

    /// <summary>A statement of account with a few words; into the pile to print where they have no address.</summary>
    /// <param name="late">What is past its due day.</param>
    public async Task<MailToSend> ForStatementAsync(
        int customerId,
        StatementWish wish,
        Sums late,
        CancellationToken stop = default
    )
    {
        var customer = await db
            .Customers.AsNoTracking()
            .Include(c => c.Contacts)
            .SingleAsync(c => c.Id == customerId, stop);
        var talk = await WordsAsync(MailText.Statement, customer.Language, stop);
        var open = await db
            .AccountItems.AsNoTracking()
            .Where(i => i.CustomerId == customerId && i.Open > 0)
            .ToListAsync(stop);
        var balance = Sums.Of(open.Select(i => new Money(i.Sign * i.Open, i.Currency))).Above;
        var (subject, body) = MailTexts.Write(
            talk.Text,
            (await WithLinksAsync(talk, customer, balance, stop)) with
            {
                Date = talk.Format.Date(wish.Day),
                Overdue = late.Words(talk.Format, Plus),
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
        var talk = await WordsAsync(MailText.Receipt, customer.Language, stop);
        var format = talk.Format;
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
            $"  {number}: {format.WithCode(amount, receipt.Currency)}, {(left > 0 ? talk.Say(MailPhrase.StillOpen, format.WithCode(left, receipt.Currency)) : talk.Say(MailPhrase.PaidInFull))}";
        var (subject, body) = MailTexts.Write(
            talk.Text,
            (await CommonAsync(talk, customer, receipt.Currency, stop)) with
            {
                Number = receipt.Number,
                Kind = talk.Receipt,
                Total = format.WithCode(receipt.Amount, receipt.Currency),
                TotalNumber = new Money(receipt.Amount, receipt.Currency).ToString(),
                TotalInWords = talk.Spelled(receipt.Amount, receipt.Currency),
                Currency = receipt.Currency.Code,
                Customer = customer.Name,
                Date = format.Date(receipt.CameOn ?? receipt.Date),
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
        MailTalk talk,
        Customer customer,
        Sums amount,
        CancellationToken stop
    ) =>
        (await CommonAsync(talk, customer, FirstOf(amount, customer), stop)) with
        {
            Pay = MailTexts.Name(talk.Text, nameof(MailFields.Pay))
                ? await pay.OfAccountAsync(customer, amount, stop)
                : "",
            Page = MailTexts.Name(talk.Text, nameof(MailFields.Page))
                ? await links.AccountAddressAsync(customer.Id, stop)
                : "",
        };

    /// <summary>The currency whose account a letter names: the usual one where anything is owed in it.</summary>
    private static Currency FirstOf(Sums owed, Customer customer) =>
        owed.Count == 0 || owed.In(customer.Currency) > 0 ? customer.Currency : owed[0].Currency;

    private async Task<MailFields> CommonAsync(
        MailTalk talk,
        Customer customer,
        Currency currency,
        CancellationToken stop
    ) =>
        new()
        {
            Business = talk.Business.PaperName,
            Greeting = talk.Greeting(customer.ContactName),
            Account = Iban.Grouped((await db.ToPayIntoAsync(currency, stop)) is [var account, ..] ? account.Iban : ""),
            Sender = writer.SignsAs,
        };
}
