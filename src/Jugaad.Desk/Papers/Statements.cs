using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
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
    /// <summary>
    /// A paper for each currency in which something is open, or moved; for the usual one where nothing is.
    /// </summary>
    /// <param name="only">The key of one side of the account, as in <see cref="AccountSide.Key"/>; null for each
    /// currency.</param>
    /// <exception cref="RefusalException">When there is no such customer.</exception>
    public async Task<IReadOnlyList<DisplayList>> ComposeAsync(
        int customerId,
        StatementWish wish,
        string? only = null,
        CancellationToken stop = default
    )
    {
        var customer = await CustomerAsync(customerId, stop);
        var business = await head.BusinessAsync(stop);
        var page = await links.KnownAccountAddressAsync(customerId, stop);
        IEnumerable<AccountSide> sides = only is null
            ? customer.Currencies.Select(c => new AccountSide(c))
            : [AccountSide.Named(only, customer.Currencies, business.HomeCurrency)];
        var told = new List<StatementFacts>();
        foreach (var side in sides)
            told.Add(await FactsAsync(customer, side, wish, business.Edges, stop) with { Page = page });
        var said = told.FindAll(f => only is not null || !f.IsEmpty);
        var list = new List<DisplayList>();
        foreach (var facts in said.Count > 0 ? said : told[..1])
        {
            var sender = await papers.SenderAsync(wish.Day, null, customer.Language, facts.Currency, stop);
            list.Add(
                await papers.SetAsync(
                    PaperKinds.Statement,
                    customer,
                    facts.Currency,
                    words => StatementContent.Of(facts, business, customer, sender, words),
                    stop
                )
            );
        }

        return list;
    }

    public async Task<(string Name, byte[] Content)> PdfAsync(
        int customerId,
        StatementWish wish,
        string? only = null,
        CancellationToken stop = default
    )
    {
        var list = await ComposeAsync(customerId, wish, only, stop);
        var code = (await CustomerAsync(customerId, stop)).Code;
        return (
            $"{PaperRoom.FileName($"statement-{code}-{wish.Day:yyyy-MM-dd}")}.pdf",
            await papers.PrintAsync(list, wish.Day, stop)
        );
    }

    public async Task<IReadOnlyList<string>> SvgAsync(
        int customerId,
        StatementWish wish,
        string? only = null,
        CancellationToken stop = default
    )
    {
        var pages = new List<string>();
        foreach (var paper in await ComposeAsync(customerId, wish, only, stop))
            pages.AddRange(await papers.DrawAsync(paper, "", stop));
        return pages;
    }

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
        AccountSide side,
        StatementWish wish,
        IReadOnlyList<int> edges,
        CancellationToken stop
    )
    {
        var agreed = await agreements.OnAsync(wish.Day, customer.Id, stop);
        var kept = (await openItems.OnAsync(wish.Day, customer.Id, stop)).Where(i => side.Has(i.Currency)).ToList();
        var aged = Ageing.On(wish.Day, kept.SelectMany(i => agreed.Aged(i, side)), edges);
        var open = kept.ConvertAll(i => (Shown: i.On(side), Original: new Money(i.Amount, i.Currency)));
        var balance = open.Sum(i => i.Shown.Sign * i.Shown.Open);
        // At home rates differ between what is set against each other, so its movement is told by the books and not here.
        if (wish.From is not { } from || side.IsWhole)
            return new StatementFacts(
                side.Currency,
                null,
                wish.Day,
                [
                    .. open.Select(i => (Item: agreed.Due(i.Shown), i.Original))
                        .OrderBy(i => i.Item.Sign < 0)
                        .ThenBy(i => i.Item.Due)
                        .ThenBy(i => i.Item.ItemId)
                        .Select(i => new StatementItem(
                            i.Item.Kind,
                            i.Item.Number,
                            i.Item.Date,
                            i.Item.Sign > 0 ? i.Item.Due : null,
                            i.Item.Sign * i.Item.Amount,
                            i.Item.Sign * i.Item.Open
                        )
                        {
                            Original = i.Original,
                        }),
                ],
                0,
                balance,
                aged,
                edges
            )
            {
                IsWhole = side.IsWhole,
            };
        var currency = side.Currency;
        var moved = await db
            .AccountItems.AsNoTracking()
            .Where(i => i.CustomerId == customer.Id && i.Currency == currency && i.Date >= from && i.Date <= wish.Day)
            .OrderBy(i => i.Date)
            .ThenBy(i => i.Id)
            .Select(i => new StatementItem(i.Kind, i.Number, i.Date, i.Sign > 0 ? i.Due : null, i.Sign * i.Amount, 0))
            .ToListAsync(stop);
        return new StatementFacts(
            currency,
            from,
            wish.Day,
            moved,
            balance - moved.Sum(m => m.Amount),
            balance,
            aged,
            edges
        );
    }

    private async Task<Customer> CustomerAsync(int id, CancellationToken stop) =>
        await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, stop)
        ?? throw new RefusalException("", $"There is no customer {id}.");
}
