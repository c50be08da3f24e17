using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Collecting;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>A document that would pass a customer's limit. Minor units of the customer's currency.</summary>
/// <param name="Use">What is in use with it.</param>
/// <param name="Stops">Whether it is not issued so.</param>
public sealed record PassedLimit(Customer Customer, long Use, long Limit, bool Stops)
{
    public long Over => Use - Limit;
}

/// <summary>
/// How much of a customer's credit is used, whether a document would pass the limit, and who let it pass.
/// </summary>
public sealed class CreditStanding(BooksContext db, BookWriter writer, BooksHead head, LineUses uses, RateBook rates)
{
    private static readonly DocumentKind[] Kinds =
    [
        DocumentKind.Order,
        DocumentKind.DeliveryNote,
        DocumentKind.Invoice,
    ];

    /// <param name="except">A document that is left out, as if it were not there.</param>
    public async Task<CreditUse> OfAsync(int customerId, int? except = null, CancellationToken stop = default)
    {
        var customer = await db.Customers.AsNoTracking().SingleAsync(c => c.Id == customerId, stop);
        var into = await IntoAsync(customer, stop);
        var items = await db
            .AccountItems.Where(i => i.CustomerId == customerId && i.Open > 0)
            .GroupBy(i => i.Currency)
            .Select(g => new
            {
                g.Key,
                Open = g.Sum(i => i.Sign * i.Open),
                Home = g.Sum(i => i.Sign * i.HomeOpen),
            })
            .ToListAsync(stop);
        var drafts = await db
            .Documents.AsNoTracking()
            .Where(d =>
                d.CustomerId == customerId
                && d.State == DocumentState.Draft
                && (d.Kind == DocumentKind.Invoice || d.Kind == DocumentKind.DebitNote)
                && d.Id != (except ?? 0)
            )
            .ToListAsync(stop);
        var (delivered, ordered) = await UnbilledAsync(customer, into, except, stop);
        return new CreditUse(
            items.Sum(i => into.Of(i.Open, i.Key, i.Home)),
            delivered,
            ordered,
            drafts.Sum(d => into.Of(d.Payable, d)),
            customer.CreditLimit
        );
    }

    /// <summary>
    /// Brings amounts of a customer's other currencies into the usual one, in which the limit is: what they are kept at
    /// at home, and from there by the newest rate. Each is rounded half away from zero.
    /// </summary>
    /// <param name="Rate">Home for one of the usual currency.</param>
    internal sealed record Into(Currency Usual, Currency Home, QuotedRate Rate)
    {
        internal long FromHome(long home) => Usual.Equals(Home) ? home : HomeAmount.Back(home, Home, Rate, Usual);

        internal long Of(long amount, Document document) =>
            Of(amount, document.Currency, HomeAmount.Of(amount, document.Currency, document.ExchangeRate, Home));

        internal long Of(long amount, Currency currency, long home) => currency.Equals(Usual) ? amount : FromHome(home);
    }

    internal async Task<Into> IntoAsync(Customer customer, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        if (customer.Currency.Equals(home))
            return new Into(home, home, QuotedRate.One);
        var listed = await rates.LastAsync(customer.Currency, await head.TodayAsync(stop), stop);
        // Without a list, every document of theirs has a rate that somebody typed.
        var rate =
            listed?.Rate
            ?? await db
                .Documents.Where(d => d.Currency == customer.Currency)
                .OrderByDescending(d => d.Id)
                .Select(d => (QuotedRate?)d.ExchangeRate)
                .FirstOrDefaultAsync(stop);
        return new Into(customer.Currency, home, rate ?? QuotedRate.One);
    }

    private async Task<(long Delivered, long Ordered)> UnbilledAsync(
        Customer customer,
        Into into,
        int? except,
        CancellationToken stop
    )
    {
        var documents = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Where(d =>
                d.CustomerId == customer.Id
                && (d.Kind == DocumentKind.Order || d.Kind == DocumentKind.DeliveryNote)
                && d.State == DocumentState.Issued
                && d.ClosedOn == null
                && d.Id != (except ?? 0)
            )
            .AsSplitQuery()
            .ToListAsync(stop);
        // What was delivered of an order stands with the order.
        var counted = documents
            .SelectMany(d => d.Lines.Where(l => l.Counts))
            .Where(l => l.Role == LineRole.Item)
            .ToList();
        var left = await uses.OfAsync(counted.ConvertAll(l => l.Id), except, stop);
        var (delivered, ordered) = (0L, 0L);
        foreach (var document in documents)
        {
            var whole = document.Lines.Where(l => l.Counts).Sum(l => l.Base);
            if (whole <= 0)
                continue;
            var isOrder = document.Kind == DocumentKind.Order;
            var lines = document
                .Lines.Where(l => l.Counts && l.Role == LineRole.Item && (isOrder || !IsOfOrder(l, left)))
                .Select(l => Unbilled(l, left[l.Id].Left, isOrder))
                .ToList();
            delivered += into.Of(Rounding.Share(document.Payable, lines.Sum(l => l.DeliveredLeft), whole), document);
            ordered += into.Of(Rounding.Share(document.Payable, lines.Sum(l => l.OrderedLeft), whole), document);
        }

        return (delivered, ordered);
    }

    private static bool IsOfOrder(DocumentLine line, IReadOnlyDictionary<int, SourceLine> known) =>
        line.FromLineId is { } from
        && known.TryGetValue(from, out var source)
        && source.Document.Kind == DocumentKind.Order;

    private static UnbilledLine Unbilled(DocumentLine line, LineUse use, bool isOrder) =>
        isOrder
            ? new UnbilledLine(line.Base, use.PartOf(Math.Min(use.Delivered, line.Quantity)), use.BilledAmount)
            : new UnbilledLine(line.Base, line.Base, line.Base - use.PartOf(use.LeftToBill));

    /// <summary>
    /// Whether a document would pass its customer's limit; null where it would not, or nobody asks. What only goes on
    /// from what was ordered or delivered before adds nothing.
    /// </summary>
    /// <param name="id">The document's own id where it is kept.</param>
    public async Task<PassedLimit?> PassedByAsync(Document document, int? id, CancellationToken stop = default)
    {
        if (!Kinds.Contains(document.Kind) || document.Payable <= 0 || document.PaidWords.Length > 0)
            return null;
        var settings = await db.CollectingSettings.AsNoTracking().FirstOrDefaultAsync(stop) ?? new CollectingSettings();
        var customer = await db.Customers.AsNoTracking().SingleAsync(c => c.Id == document.CustomerId, stop);
        if (settings.LimitCheck == LimitCheck.Off || customer.CreditLimit is not { } limit)
            return null;
        var before = await OfAsync(customer.Id, id, stop);
        var adds = document.Payable;
        if (document.Lines.Any(l => l.FromLineId is not null))
            adds -= await TakenUpAsync(document, stop);
        adds = (await IntoAsync(customer, stop)).Of(adds, document);
        // Rounding of shares alone does not pass a limit.
        if (adds <= document.Lines.Count || before.Firm + adds <= limit)
            return null;
        var use = before.Firm + adds;
        var passed = id is { } kept && await db.CreditPasses.AnyAsync(p => p.DocumentId == kept && p.UpTo >= use, stop);
        return new PassedLimit(customer, use, limit, settings.LimitCheck == LimitCheck.Stop && !passed);
    }

    /// <summary>What of a document was ordered or delivered before, and so was in use already.</summary>
    private async Task<long> TakenUpAsync(Document document, CancellationToken stop)
    {
        var from = document.Lines.Where(l => l.Counts && l.FromLineId is not null).ToList();
        var ids = from.ConvertAll(l => l.FromLineId!.Value);
        var kinds = await (
            from line in db.Set<DocumentLine>()
            join source in db.Documents on line.DocumentId equals source.Id
            where ids.Contains(line.Id)
            select new { line.Id, source.Kind }
        ).ToDictionaryAsync(l => l.Id, l => l.Kind, stop);
        var taken = from.Where(l =>
                kinds.GetValueOrDefault(l.FromLineId!.Value, DocumentKind.Quote)
                    is DocumentKind.Order
                        or DocumentKind.DeliveryNote
            )
            .Sum(l => l.Base);
        var whole = document.Lines.Where(l => l.Counts).Sum(l => l.Base);
        return whole > 0 ? Rounding.Share(document.Payable, Math.Clamp(taken, 0, whole), whole) : 0;
    }

    /// <exception cref="RefusalException">When it would pass the limit, that stops it, and nobody let it pass.</exception>
    internal async Task MustFitAsync(Document document, CancellationToken stop)
    {
        if (await PassedByAsync(document, document.Id, stop) is not { Stops: true } passed)
            return;
        var format = (await head.BusinessAsync(stop)).Format;
        if (!writer.May(Right.See))
            throw new RefusalException(
                "customer",
                $"{passed.Customer.Name} may get nothing more on credit now. Ask whoever keeps the books."
            );
        throw new RefusalException(
            "customer",
            $"With this {passed.Customer.Name} uses {format.WithCode(passed.Use, passed.Customer.Currency)} of credit, {format.WithCode(passed.Over, passed.Customer.Currency)} over the limit. Ask for a payment first, or have somebody let it pass on the customer's credit page."
        );
    }

    /// <summary>Lets a document pass the limit, as it stands now.</summary>
    /// <exception cref="RefusalException">When it does not pass it, or no reason is given.</exception>
    public Task<int> LetPassAsync(int documentId, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Pass,
            once,
            async stop =>
            {
                var document =
                    await db
                        .Documents.Include(d => d.Lines)
                        .SingleOrDefaultAsync(d => d.Id == documentId && d.State == DocumentState.Draft, stop)
                    ?? throw new RefusalException("", "This is no draft any more.");
                var passed =
                    await PassedByAsync(document, documentId, stop)
                    ?? throw new RefusalException("", "This does not pass the limit, so nobody has to let it.");
                var format = (await head.BusinessAsync(stop)).Format;
                var pass = new CreditPass(documentId, passed.Use, await head.TodayAsync(stop), writer.Who, reason);
                db.CreditPasses.Add(pass);
                await writer.TrailAsync(
                    $"Let pass over the credit limit, up to {format.WithCode(passed.Use, passed.Customer.Currency)}: {pass.Reason}",
                    document.CustomerId,
                    documentId
                );
                await writer.SaveAsync(stop);
                return pass.Id;
            }
        );
}
