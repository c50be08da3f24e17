using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>Receipts and refunds on paper, in the layout that is chosen for them.</summary>
public sealed class MoneyPapers(BooksContext db, BooksHead head, PaperRoom papers)
{
    /// <exception cref="RefusalException">When there is no such receipt.</exception>
    public async Task<DisplayList> ReceiptAsync(int id, CancellationToken stop = default)
    {
        var receipt =
            await db.Receipts.AsNoTracking().SingleOrDefaultAsync(r => r.Id == id, stop)
            ?? throw new RefusalException("", $"There is no receipt {id}.");
        var placed = await db
            .Allocations.AsNoTracking()
            .Include(a => a.Raising)
            .Where(a => a.Lowering.ReceiptId == id && a.Until == null)
            .OrderBy(a => a.Id)
            .ToListAsync(stop);
        return await SetAsync(
            receipt.CustomerId,
            words => new MoneyFacts(
                PaperKinds.Receipt,
                receipt.Number,
                receipt.CameOn ?? receipt.Date,
                receipt.Currency,
                receipt.Amount,
                receipt.Way,
                receipt.Reference,
                [.. placed.Select(a => Part(a.Raising, a.Amount, words))],
                receipt.IsUndone ? 0 : receipt.Amount - placed.Sum(a => a.Amount),
                receipt.IsUndone
            ),
            stop
        );
    }

    /// <exception cref="RefusalException">When there is no such refund.</exception>
    public async Task<DisplayList> RefundAsync(int id, CancellationToken stop = default)
    {
        var refund =
            await db.Refunds.AsNoTracking().Include(r => r.Booking).SingleOrDefaultAsync(r => r.Id == id, stop)
            ?? throw new RefusalException("", $"There is no refund {id}.");
        var placed = await db
            .Allocations.AsNoTracking()
            .Include(a => a.Lowering)
            .Where(a =>
                a.Raising.Kind == AccountItemKind.Refund && a.Raising.BookingId == refund.BookingId && a.Until == null
            )
            .OrderBy(a => a.Id)
            .ToListAsync(stop);
        return await SetAsync(
            refund.CustomerId,
            words => new MoneyFacts(
                PaperKinds.Refund,
                refund.Number,
                refund.Date,
                refund.Currency,
                refund.Amount,
                Iban.Grouped(refund.Iban),
                refund.Reference,
                [.. placed.Select(a => Part(a.Lowering, a.Amount, words))],
                0,
                refund.Booking?.IsUndone == true
            ),
            stop
        );
    }

    /// <summary>The refund that a booking is; null where it is none.</summary>
    public Task<int?> RefundOfAsync(int bookingId, CancellationToken stop = default) =>
        db.Refunds.Where(r => r.BookingId == bookingId).Select(r => (int?)r.Id).SingleOrDefaultAsync(stop);

    private static MoneyPart Part(AccountItem item, long amount, PaperWords words) =>
        new(words.Entry(item.Kind), item.Number, item.Date, amount, item.Open);

    private async Task<DisplayList> SetAsync(
        int customerId,
        Func<PaperWords, MoneyFacts> factsIn,
        CancellationToken stop
    )
    {
        var customer = await db.Customers.AsNoTracking().SingleAsync(c => c.Id == customerId, stop);
        var business = await head.BusinessAsync(stop);
        var facts = factsIn(PaperWords.English);
        var sender = await papers.SenderAsync(facts.On, null, customer.Language, null, stop);
        return await papers.SetAsync(
            facts.Kind,
            customer,
            facts.Currency,
            words => MoneyContent.Of(factsIn(words), business, customer, sender, words),
            stop
        );
    }

    /// <summary>One as a PDF.</summary>
    public async Task<(string Name, byte[] Content)> PdfAsync(DisplayList paper, CancellationToken stop = default) =>
        ($"{PaperRoom.FileName(paper.Title)}.pdf", await papers.PrintAsync([paper], await head.TodayAsync(stop), stop));

    /// <summary>The pages of one as SVG.</summary>
    public Task<IReadOnlyList<string>> SvgAsync(DisplayList paper, CancellationToken stop = default) =>
        papers.DrawAsync(paper, "", stop);
}
