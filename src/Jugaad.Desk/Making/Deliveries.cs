using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Stock;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Making;

/// <summary>A delivery note of which something is not billed yet.</summary>
/// <param name="Net">What is left to bill, without tax where prices are without; minor units.</param>
/// <param name="Order">The number of the order that it belongs to, if any.</param>
/// <param name="Drafted">The draft invoice that takes it up already, if any.</param>
public sealed record DeliveryToBill(
    int Id,
    string Number,
    DateOnly Date,
    int CustomerId,
    string Customer,
    Core.Amounts.Currency Currency,
    long Net,
    string Order,
    string What,
    int? Drafted
);

/// <summary>What narrows the list of deliveries to bill; it stands in the address.</summary>
public sealed record DeliveryFilter(int? CustomerId = null, DateOnly? From = null, DateOnly? Until = null);

/// <summary>
/// Finds what was delivered and not billed, bills it, and corrects or cancels delivery notes until then.
/// </summary>
public sealed class Deliveries(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Drafts drafts,
    LineUses uses,
    MakingDesk making,
    StockKeeping stock,
    Completion completion,
    Deposits deposits,
    Wordings wordings
)
{
    /// <summary>All that was delivered and not billed, by customer and date.</summary>
    public async Task<IReadOnlyList<DeliveryToBill>> ToBillAsync(
        DeliveryFilter filter,
        CancellationToken stop = default
    )
    {
        var notes = db
            .Documents.AsNoTracking()
            .Where(d => d.Kind == DocumentKind.DeliveryNote && d.State == DocumentState.Issued && d.ClosedOn == null);
        if (filter.CustomerId is { } customer)
            notes = notes.Where(d => d.CustomerId == customer);
        if (filter.From is { } from)
            notes = notes.Where(d => d.Date >= from);
        if (filter.Until is { } until)
            notes = notes.Where(d => d.Date <= until);
        var found = await notes
            .Include(d => d.Lines)
            .Include(d => d.Customer)
            .OrderBy(d => d.Customer!.Name)
            .ThenBy(d => d.Date)
            .ThenBy(d => d.Id)
            .ToListAsync(stop);
        var left = await uses.OfAsync([.. found.SelectMany(d => d.Lines).Select(l => l.Id)], null, stop);
        var orders = found.Select(d => d.FromDocumentId).OfType<int>().Distinct().ToList();
        var numbers = await db
            .Documents.Where(d => orders.Contains(d.Id))
            .ToDictionaryAsync(d => d.Id, d => d.Number ?? "", stop);
        var drafted = await (
            from line in db.Set<DocumentLine>()
            join source in db.Set<DocumentLine>() on line.FromLineId equals source.Id
            join invoice in db.Documents on line.DocumentId equals invoice.Id
            where invoice.Kind == DocumentKind.Invoice && invoice.State == DocumentState.Draft
            select new { Note = source.DocumentId, Invoice = invoice.Id }
        )
            .Distinct()
            .ToListAsync(stop);
        var ordered = await OrderLinesAsync(left, stop);
        return found
            .Select(d => (Note: d, Parts: PartsOf(d, left, ordered)))
            .Where(d => d.Parts.Count > 0)
            .Select(d => (d.Note, Net: d.Parts.Sum(p => AmountOf(p, left, ordered, d.Note.Currency))))
            .Select(d => new DeliveryToBill(
                d.Note.Id,
                d.Note.Number!,
                d.Note.Date,
                d.Note.CustomerId,
                d.Note.Customer!.Name,
                d.Note.Currency,
                d.Net,
                d.Note.FromDocumentId is { } order ? numbers.GetValueOrDefault(order, "") : "",
                string.Join(
                    ", ",
                    d.Note.Lines.Where(l => l.Counts).OrderBy(l => l.Position).Select(l => l.Text.Split('\n')[0])
                ),
                drafted.Find(m => m.Note == d.Note.Id)?.Invoice
            ))
            .ToList();
    }

    /// <summary>
    /// Bills delivery notes: those of one customer onto one draft invoice, or each on one of its own.
    /// </summary>
    /// <returns>The ids of the drafts, in the order of the notes.</returns>
    public async Task<IReadOnlyList<int>> BillAsync(IReadOnlyCollection<int> noteIds, bool oneEach, Once once = default)
    {
        var before = await LastIdAsync(once.Stop);
        var last = await writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                before = await LastIdAsync(stop);
                var notes = await db
                    .Documents.Include(d => d.Lines)
                    .Where(d => noteIds.Contains(d.Id))
                    .OrderBy(d => d.Date)
                    .ThenBy(d => d.Id)
                    .ToListAsync(stop);
                if (notes.Count == 0)
                    throw new RefusalException("", "Choose the delivery notes that you want to bill.");
                var made = 0;
                foreach (
                    var pile in notes.GroupBy(n =>
                        oneEach ? $"{n.Id}" : $"{n.CustomerId} {n.Currency} {n.PricesIncludeTax} {n.PlaceId}"
                    )
                )
                    made = await BillPileAsync([.. pile], stop);
                return made;
            }
        );
        var made = await db
            .Documents.Where(d => d.Id > before && d.Id <= last && d.Kind == DocumentKind.Invoice)
            .OrderBy(d => d.Id)
            .Select(d => d.Id)
            .ToListAsync(once.Stop);
        // The second arrival of a form makes nothing; it is told of the last that the first one made.
        return made.Count > 0 ? made : [last];
    }

    /// <summary>Lines of what is left to bill of notes, to be put onto an invoice.</summary>
    /// <exception cref="RefusalException">When one of them cannot be billed.</exception>
    public async Task<(IReadOnlyList<DraftLine> Lines, IReadOnlyList<DraftCharge> Charges)> LinesAsync(
        IReadOnlyList<Document> notes,
        CancellationToken stop
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var left = await uses.OfAsync([.. notes.SelectMany(n => n.Lines).Select(l => l.Id)], null, stop);
        var ordered = await OrderLinesAsync(left, stop);
        var lines = new List<DraftLine>();
        foreach (var note in notes)
        {
            if (note.Kind != DocumentKind.DeliveryNote || !note.CanBeMadeFrom)
                throw new RefusalException("", $"The {note.Title} is not one that can be billed now.");
            var parts = PartsOf(note, left, ordered);
            if (parts.Count == 0)
                throw new RefusalException("", $"All of the {note.Title} is billed already, or on a draft.");
            lines.Add(DraftLine.Words(MadeText.Delivery(note.Number!, note.Date, format), LineRole.Section));
            lines.AddRange(parts);
        }

        var charges = new List<DraftCharge>();
        foreach (var orderId in notes.Select(n => n.FromDocumentId).OfType<int>().Distinct())
        {
            var order = await db
                .Documents.AsNoTracking()
                .Include(d => d.Charges)
                .SingleAsync(d => d.Id == orderId, stop);
            charges.AddRange(await making.ChargesAsync(order, DocumentKind.Invoice, stop));
        }

        return (lines, charges);
    }

    /// <summary>
    /// Makes an unbilled delivery note a draft again, to be corrected and issued under the same number. Its goods come
    /// back first.
    /// </summary>
    public Task<int> CorrectAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                var note = await UnusedAsync(id, stop);
                note.Correct();
                await stock.TakeBackAsync(note, stop);
                await completion.FollowAsync(note, stop);
                await writer.TrailAsync(
                    $"{note.Policy.Title} {note.Number} taken up again to be corrected",
                    note.CustomerId,
                    id
                );
                return id;
            }
        );

    /// <summary>Cancels an order of which nothing was made, or a delivery note that is not billed.</summary>
    public Task<int> CancelAsync(int id, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                var document = await UnusedAsync(id, stop);
                if (reason.Trim().Length is 0 or > 300)
                    throw new RefusalException("reason", "Say in a few words why it is cancelled.");
                document.Cancel();
                await stock.TakeBackAsync(document, stop);
                await completion.FollowAsync(document, stop);
                await writer.TrailAsync(
                    $"{document.Policy.Title} {document.Number} cancelled: {reason.Trim()}",
                    document.CustomerId,
                    id
                );
                return id;
            }
        );

    /// <summary>Closes what is left of a quote, an order or a delivery note.</summary>
    public Task<int> CloseAsync(int id, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var document = await drafts.LoadAsync(id, stop);
                document.Close(await head.TodayAsync(stop), reason);
                await writer.TrailAsync($"The rest closed: {reason.Trim()}", document.CustomerId, id);
                return id;
            }
        );

    public Task<int> OpenAgainAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var document = await drafts.LoadAsync(id, stop);
                document.OpenAgain();
                await writer.TrailAsync("The rest opened again", document.CustomerId, id);
                return id;
            }
        );

    private async Task<int> BillPileAsync(IReadOnlyList<Document> notes, CancellationToken stop)
    {
        var (lines, charges) = await LinesAsync(notes, stop);
        var first = notes[0];
        var today = await head.TodayAsync(stop);
        string Common(Func<Document, string> of) =>
            notes.Select(of).Where(t => t.Length > 0).Distinct().ToList() is [var only] ? only : "";
        var content = new DraftContent
        {
            CustomerId = first.CustomerId,
            Currency = first.Currency.Code,
            Date = today,
            PricesIncludeTax = first.PricesIncludeTax,
            PlaceId = first.PlaceId,
            PurchaseOrder = Common(n => n.PurchaseOrder),
            Note = await wordings.NoteAsync(DocumentKind.Invoice, first.CustomerId, first.Particulars.Language, stop),
            Particulars = new Particulars
            {
                Project = Common(n => n.Particulars.Project),
                Reference = Common(n => n.Particulars.Reference),
                SellerId = notes.Select(n => n.Particulars.SellerId).FirstOrDefault(s => s is not null),
                DeliveredFrom = notes.Min(n => n.Particulars.DeliveredFrom ?? n.Date),
                DeliveredUntil = notes.Count > 1 ? notes.Max(n => n.Particulars.DeliveredFrom ?? n.Date) : null,
            },
            Lines = lines,
            Charges = charges,
        };
        content = content with
        {
            Lines = [.. lines, .. await deposits.TakeOffAsync([.. notes.Select(n => n.Id)], content, stop)],
        };
        var numbers = string.Join(", ", notes.Select(n => n.Number));
        var made = await drafts.MakeAsync(
            DocumentKind.Invoice,
            content,
            notes.Count == 1 ? first.Id : null,
            $"Draft invoice made from {numbers}",
            stop,
            notes.SelectMany(n => n.Lines)
        );
        foreach (var note in notes)
            await writer.TrailAsync("Put on a draft invoice", null, note.Id);
        return made.Id;
    }

    private async Task<Document> UnusedAsync(int id, CancellationToken stop)
    {
        var document = await drafts.LoadAsync(id, stop);
        var ids = document.Lines.Select(l => l.Id).ToList();
        var used = await (
            from line in db.Set<DocumentLine>()
            join other in db.Documents on line.DocumentId equals other.Id
            where
                line.FromLineId != null && ids.Contains(line.FromLineId.Value) && other.State != DocumentState.Cancelled
            select other
        ).FirstOrDefaultAsync(stop);
        used ??= await db.Documents.FirstOrDefaultAsync(
            d => d.FromDocumentId == id && d.State != DocumentState.Cancelled,
            stop
        );
        return used is null
            ? document
            : throw new RefusalException(
                "",
                $"The {document.Title} is part of the {used.Title} already. {(used.IsDraft ? "Put that draft away first." : "Credit or cancel that one first.")}"
            );
    }

    private async Task<Dictionary<int, SourceLine>> OrderLinesAsync(
        IReadOnlyDictionary<int, SourceLine> notes,
        CancellationToken stop
    ) => new(await uses.OfAsync([.. notes.Values.Select(n => n.Line.FromLineId).OfType<int>()], null, stop));

    /// <summary>
    /// What is left to bill of a note, line by line; what it takes of an order is noted there for the notes after it.
    /// </summary>
    private static List<DraftLine> PartsOf(
        Document note,
        IReadOnlyDictionary<int, SourceLine> left,
        Dictionary<int, SourceLine> ordered
    )
    {
        var parts = new List<DraftLine>();
        foreach (
            var line in note.Lines.Where(l => l.Counts && left[l.Id].Left.LeftToBill != 0).OrderBy(l => l.Position)
        )
        {
            var quantity = left[line.Id].Left.LeftToBill;
            var order = line.FromLineId is { } from ? ordered.GetValueOrDefault(from) : null;
            parts.Add(MakingDesk.PartOf(line, quantity));
            if (order is not null)
                ordered[order.Line.Id] = order with
                {
                    Left = order.Left with { Billed = order.Left.Billed + quantity },
                };
        }

        return parts;
    }

    /// <summary>
    /// What a part of a note will come to: its share of the order's line, where the note belongs to one and has its
    /// price.
    /// </summary>
    private static long AmountOf(
        DraftLine part,
        IReadOnlyDictionary<int, SourceLine> notes,
        Dictionary<int, SourceLine> ordered,
        Core.Amounts.Currency currency
    )
    {
        var note = notes[part.FromLineId!.Value];
        if (
            note.Line.FromLineId is { } from
            && ordered.GetValueOrDefault(from) is { } order
            && order.Line.UnitPrice == part.UnitPrice
        )
            return order.Left.PartOf(part.Quantity);
        var extension = Calculator.Extension(part.Quantity, part.UnitPrice, currency);
        return extension
            - (
                part.DiscountPercent is { } percent
                    ? Core.Amounts.Rounding.Percent(extension, percent)
                    : part.DiscountAmount ?? 0
            );
    }

    private Task<int> LastIdAsync(CancellationToken stop) =>
        db.Documents.OrderByDescending(d => d.Id).Select(d => d.Id).FirstOrDefaultAsync(stop);
}
