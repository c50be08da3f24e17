using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>Statements of account and letters as papers, for the screen and as a PDF, from the same display list.</summary>
public sealed class Statements(
    BooksContext db,
    BooksHead head,
    OpenItems openItems,
    IAgreements agreements,
    PaperRoom papers,
    CustomerLinks links
)
{
    /// <exception cref="RefusalException">When there is no such customer.</exception>
    public async Task<DisplayList> ComposeAsync(int customerId, StatementWish wish, CancellationToken stop = default)
    {
        var customer = await CustomerAsync(customerId, stop);
        var business = await head.BusinessAsync(stop);
        var facts = await FactsAsync(customer, wish, business.Edges, stop) with
        {
            Page = await links.KnownAccountAddressAsync(customerId, stop),
        };
        var sender = await papers.SenderAsync(wish.Day, null, customer.Language, customer.Currency, stop);
        return await papers.SetAsync(
            PaperKinds.Statement,
            customer,
            customer.Currency,
            words => StatementContent.Of(facts, business, customer, sender, words),
            stop
        );
    }

    public async Task<(string Name, byte[] Content)> PdfAsync(
        int customerId,
        StatementWish wish,
        CancellationToken stop = default
    )
    {
        var paper = await ComposeAsync(customerId, wish, stop);
        var code = (await CustomerAsync(customerId, stop)).Code;
        return (
            $"{PaperRoom.FileName($"statement-{code}-{wish.Day:yyyy-MM-dd}")}.pdf",
            await papers.PrintAsync([paper], wish.Day, stop)
        );
    }

    public async Task<IReadOnlyList<string>> SvgAsync(
        int customerId,
        StatementWish wish,
        CancellationToken stop = default
    ) => await papers.DrawAsync(await ComposeAsync(customerId, wish, stop), "", stop);

    /// <summary>A letter on the business's paper, for the pile to print.</summary>
    public async Task<DisplayList> LetterAsync(
        int customerId,
        string subject,
        string body,
        DateOnly day,
        CancellationToken stop = default
    )
    {
        var customer = await CustomerAsync(customerId, stop);
        var business = await head.BusinessAsync(stop);
        var sender = await papers.SenderAsync(day, null, customer.Language, customer.Currency, stop);
        return await papers.SetAsync(
            PaperKinds.Letter,
            customer,
            customer.Currency,
            words => LetterContent.Of(subject, body, day, business, customer, sender, words),
            stop
        );
    }

    private async Task<StatementFacts> FactsAsync(
        Customer customer,
        StatementWish wish,
        IReadOnlyList<int> edges,
        CancellationToken stop
    )
    {
        // A statement is in the customer's currency.
        var agreed = await agreements.OnAsync(wish.Day, customer.Id, stop);
        var open = (await openItems.OnAsync(wish.Day, customer.Id, stop))
            .Where(i => i.Currency.Equals(customer.Currency))
            .ToList();
        var balance = open.Sum(i => i.Sign * i.Open);
        var aged = Ageing.On(wish.Day, open.SelectMany(agreed.Aged), edges);
        if (wish.From is not { } from)
            return new StatementFacts(
                null,
                wish.Day,
                [
                    .. open.Select(agreed.Due)
                        .OrderBy(i => i.Sign < 0)
                        .ThenBy(i => i.Due)
                        .ThenBy(i => i.ItemId)
                        .Select(i => new StatementItem(
                            i.Kind,
                            i.Number,
                            i.Date,
                            i.Sign > 0 ? i.Due : null,
                            i.Sign * i.Amount,
                            i.Sign * i.Open
                        )),
                ],
                0,
                balance,
                aged,
                edges
            );
        var moved = await db
            .AccountItems.AsNoTracking()
            .Where(i =>
                i.CustomerId == customer.Id && i.Currency == customer.Currency && i.Date >= from && i.Date <= wish.Day
            )
            .OrderBy(i => i.Date)
            .ThenBy(i => i.Id)
            .Select(i => new StatementItem(i.Kind, i.Number, i.Date, i.Sign > 0 ? i.Due : null, i.Sign * i.Amount, 0))
            .ToListAsync(stop);
        return new StatementFacts(from, wish.Day, moved, balance - moved.Sum(m => m.Amount), balance, aged, edges);
    }

    private async Task<Customer> CustomerAsync(int id, CancellationToken stop) =>
        await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, stop)
        ?? throw new RefusalException("", $"There is no customer {id}.");
}
