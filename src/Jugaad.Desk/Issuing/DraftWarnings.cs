using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Making;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Stock;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Issuing;

/// <summary>What is worth a second look before a document goes out. None of it is refused.</summary>
public sealed class DraftWarnings(
    BooksContext db,
    BooksHead head,
    PaperRoom papers,
    Numbers numbers,
    Deposits deposits,
    StockKeeping stock,
    UnsaidPlaces places,
    CreditStanding credit,
    AuthorityRates rates,
    IActor actor
)
{
    /// <summary>The same, with what its e-invoice would lack; said before it is issued, while it is typed.</summary>
    /// <inheritdoc cref="OfAsync"/>
    public async Task<IReadOnlyList<Refusal>> WhileTypingAsync(
        Document document,
        int? id,
        CancellationToken stop = default
    )
    {
        var customer = await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == document.CustomerId, stop);
        var needs = customer is null
            ? []
            : EInvoiceNeeds
                .Of(document, customer, await head.BusinessAsync(stop))
                .Select(n => new Refusal(n.Field, n.Words));
        return [.. await OfAsync(document, id, stop), .. needs];
    }

    /// <param name="document">Computed, whether it is kept yet or not.</param>
    public async Task<IReadOnlyList<Refusal>> OfAsync(Document document, int? id, CancellationToken stop = default)
    {
        var warnings = new List<Refusal>();
        var format = (await head.BusinessAsync(stop)).Format;
        if (document.NumberByHand.Length > 0 && numbers.IsUsed(document.Kind, document.NumberByHand, id))
            warnings.Add(
                new(
                    "numberByHand",
                    $"{document.NumberByHand} is used already. Choose another, or leave it empty for the next one."
                )
            );
        if (document.Policy.Posts)
            warnings.AddRange(await DatesAsync(document, format, stop));
        var corrected = id is null
            ? document.FromDocumentId
            : await db.Documents.Where(d => d.Id == id).Select(d => d.FromDocumentId).SingleOrDefaultAsync(stop);
        warnings.AddRange(
            (await rates.PutAsync(document, corrected, stop)).Select(missing => new Refusal("taxDate", missing))
        );
        warnings.AddRange(await papers.UnprintableAsync(document, stop));
        if (document.Policy.MovesStock < 0)
            warnings.AddRange(await ShortAsync(document, format, stop));
        if (document.Policy.ShowsPrices && document.Policy.Raises >= 0)
        {
            warnings.AddRange(await BelowCostAsync(document, format, stop));
            warnings.AddRange(await places.OfAsync(document, stop));
        }

        // What a customer owes is not a seller's to see.
        if (actor.May(Right.See) && await credit.PassedByAsync(document, id, stop) is { } passed)
            warnings.Add(
                new(
                    "customer",
                    $"With this {document.Policy.Word} {passed.Customer.Name} uses {format.WithCode(passed.Use, passed.Customer.Currency)} of credit, {format.WithCode(passed.Over, passed.Customer.Currency)} over the limit. Ask for a payment first, {(passed.Stops ? "or have somebody let it pass" : "or go on knowingly")}."
                )
            );
        if (document.Kind != DocumentKind.Invoice)
            return warnings;

        if (await deposits.ForgottenOnAsync(document, id, stop) is > 0 and var forgotten)
            warnings.Add(
                new(
                    "lines",
                    $"{format.WithCode(forgotten, document.Currency)} of a deposit is not taken off, and nothing is left to bill after this. Take it off here, or go on knowingly."
                )
            );
        var customer = await db.Customers.AsNoTracking().SingleAsync(c => c.Id == document.CustomerId, stop);
        if (customer.NoMoreOnAccount)
            warnings.Add(
                new(
                    "customer",
                    $"{customer.Name} gets nothing more on account ({customer.NoMoreReason}), so this falls due on its date. Ask for the money first."
                )
            );
        var (from, until) = (document.Date.AddDays(-10), document.Date.AddDays(10));
        // Sales without a name are all one customer's, and the same thing is sold many times a day.
        var nameless = (await head.BusinessAsync(stop)).CounterCustomerId == customer.Id;
        var alike =
            document.Payable == 0 || nameless
                ? null
                : await db
                    .Documents.AsNoTracking()
                    .Where(d =>
                        d.Kind == DocumentKind.Invoice
                        && d.State != DocumentState.Cancelled
                        && d.CustomerId == document.CustomerId
                        && d.Payable == document.Payable
                        && d.Date >= from
                        && d.Date <= until
                        && d.Id != (id ?? 0)
                    )
                    .OrderByDescending(d => d.Id)
                    .FirstOrDefaultAsync(stop);
        if (alike is not null)
            warnings.Add(
                new(
                    "lines",
                    $"This looks like a duplicate of {alike.Title} of {format.Date(alike.Date)}: same customer, same total. Compare the two before you issue it."
                )
            );
        var fromIds = document.Lines.Select(l => l.FromLineId).OfType<int>().ToList();
        var sources = await db.Set<DocumentLine>().AsNoTracking().Where(l => fromIds.Contains(l.Id)).ToListAsync(stop);
        if (RateChanges.Of(sources, document) is { Count: > 0 } changes)
            warnings.Add(
                new(
                    "taxDate",
                    $"It is taxed otherwise than what it was made from: {Phrase.Join(", ", changes)}. Tell the customer, or choose the code again."
                )
            );

        return warnings;
    }

    /// <summary>A date that numbers, returns or common sense speak against.</summary>
    private async Task<List<Refusal>> DatesAsync(
        Document document,
        Core.Amounts.DisplayFormat format,
        CancellationToken stop
    )
    {
        var found = new List<Refusal>();
        var (date, today) = (document.Date, await head.TodayAsync(stop));
        if (date > today)
            found.Add(new("date", $"{format.Date(date)} is in the future. Issue it then, or date it today."));
        if ((await head.BusinessAsync(stop)).ClosedUpTo is { } closed && date <= closed)
            found.Add(
                new(
                    "date",
                    $"The books are closed up to {format.Date(closed)}, and what was told of that time is told. Choose a later date."
                )
            );
        if (document.Number is null)
        {
            var last = await db
                .Documents.AsNoTracking()
                .Where(d =>
                    d.Kind == document.Kind
                    && d.Number != null
                    && d.SeriesId != null
                    && (document.SeriesByHand == null || d.SeriesId == document.SeriesByHand)
                )
                .OrderByDescending(d => d.Date)
                .ThenByDescending(d => d.Id)
                .Select(d => new { d.Number, d.Date })
                .FirstOrDefaultAsync(stop);
            if (last is not null && date < last.Date)
                found.Add(
                    new(
                        "date",
                        $"{last.Number} is of {format.Date(last.Date)} already, so this number would come after it with an earlier date."
                    )
                );
        }

        return found;
    }

    /// <summary>Lines that bring less than what they cost, discounts counted.</summary>
    private async Task<List<Refusal>> BelowCostAsync(
        Document document,
        Core.Amounts.DisplayFormat format,
        CancellationToken stop
    )
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        var ids = document.Lines.Select(l => l.ItemId).OfType<int>().Distinct().ToList();
        var costs = await db
            .Items.AsNoTracking()
            .Where(i => ids.Contains(i.Id) && i.Cost > 0)
            .ToDictionaryAsync(i => i.Id, i => i.Cost, stop);
        var below = new List<Refusal>();
        foreach (
            var line in document
                .Lines.Where(l =>
                    l.Role == LineRole.Item && l.Counts && l.Quantity > 0 && l.ItemId is { } id && costs.ContainsKey(id)
                )
                .OrderBy(l => l.Position)
        )
        {
            var brings = Core.Exchange.HomeAmount.Of(line.Net, document.Currency, document.ExchangeRate, home);
            var cost = Math.Round(
                costs[line.ItemId!.Value] * line.Quantity * home.MinorPerUnit,
                0,
                MidpointRounding.AwayFromZero
            );
            if (brings < cost)
                below.Add(
                    new(
                        $"lines[{line.Position}].unitPrice",
                        $"This brings {format.WithCode(brings, home)} without tax and costs {format.WithCode((long)cost, home)}. Raise the price, or go on knowingly."
                    )
                );
        }

        return below;
    }

    /// <summary>
    /// Goods of which more would go than are on hand. Lines whose goods have gone already do not count.
    /// </summary>
    private async Task<List<Refusal>> ShortAsync(
        Document document,
        Core.Amounts.DisplayFormat format,
        CancellationToken stop
    )
    {
        var wanted = (await stock.MovesOfAsync(document, stop))
            .GroupBy(m => m.ItemId)
            .ToDictionary(g => g.Key, g => -g.Sum(m => m.Quantity));
        var items = await db
            .Items.AsNoTracking()
            .Where(i => wanted.Keys.Contains(i.Id) && i.KeepsCount)
            .ToListAsync(stop);
        return items
            .Where(i => wanted[i.Id] > i.OnHand)
            .Select(i => new Refusal(
                "lines",
                $"{format.Figure(wanted[i.Id])} of {i.Name} would go, and {format.Figure(i.OnHand)} are on hand. Order more, or correct the count on its page."
            ))
            .ToList();
    }
}
