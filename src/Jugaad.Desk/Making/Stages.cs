using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Lines;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Making;

/// <summary>How much a stage bills: exactly one of these.</summary>
/// <param name="Percent">Of each line.</param>
/// <param name="Amount">Minor units, in the price mode of the document, over all lines.</param>
/// <param name="Parts">The parts of which all that is left is billed, by their place in the view.</param>
/// <param name="Rest">All that is left.</param>
public sealed record StageWish(
    decimal? Percent = null,
    long? Amount = null,
    IReadOnlyList<int>? Parts = null,
    bool Rest = false
);

/// <summary>A line or charge that is billed in stages. Amounts are minor units.</summary>
/// <param name="Ordinary">Whether it is billed by quantity already, and so takes no part.</param>
public sealed record StageRow(int? LineId, int? ChargeId, string Text, long Whole, long Before, bool Ordinary)
{
    public long Left => Ordinary ? 0 : Whole - Before;
}

/// <summary>What was billed of a quote or order before, and what is left.</summary>
public sealed record StageView(
    Document Source,
    IReadOnlyList<StageRow> Rows,
    IReadOnlyList<(int Id, string Title, DocumentState State, DateOnly Date, long Payable)> Stages,
    long DepositsOpen
);

/// <summary>Bills a quote or an order in stages, or asks for a deposit.</summary>
public sealed class Stages(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Drafts drafts,
    LineUses uses,
    LineLinks links,
    MakingDesk making,
    Deposits deposits
)
{
    /// <returns>Null where there is no such quote or order.</returns>
    public async Task<StageView?> ViewAsync(int id, CancellationToken stop = default)
    {
        var source = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Include(d => d.Charges)
            .Include(d => d.Customer)
            .SingleOrDefaultAsync(d => d.Id == id, stop);
        if (source is null || source.Kind is not (DocumentKind.Quote or DocumentKind.Order))
            return null;
        var made = await db
            .Documents.AsNoTracking()
            .Where(d => d.FromDocumentId == id && d.Kind == DocumentKind.Invoice && d.State != DocumentState.Cancelled)
            .OrderBy(d => d.Id)
            .ToListAsync(stop);
        var open = (await deposits.OfAsync(id, null, stop)).Sum(c => c.LeftToTakeOff);
        return new StageView(
            source,
            await RowsAsync(source, stop),
            made.ConvertAll(d => (d.Id, d.Title, d.State, d.Date, d.Payable)),
            open
        );
    }

    /// <summary>What a stage would bill of each row, without making it.</summary>
    /// <exception cref="RefusalException">When it is more than is left.</exception>
    public static long[] Now(StageView view, StageWish wish)
    {
        var parts = view
            .Rows.Select(r => r.Ordinary ? new StagedPart(0, 0) : new StagedPart(r.Whole, r.Before))
            .ToList();
        var currency = view.Source.Currency;
        if (wish.Percent is { } percent)
            return Staging.ByPercent(parts, percent, currency);
        if (wish.Amount is { } amount)
            return Staging.ByAmount(parts, amount, currency);
        if (wish.Rest)
            return Staging.Rest(parts, _ => true);
        if (wish.Parts is { Count: > 0 } chosen)
            return Staging.Rest(parts, chosen.Contains);
        throw new RefusalException(
            "percent",
            "Say how much to bill: a percentage, an amount, some of the lines, or all that is left."
        );
    }

    /// <summary>
    /// Makes the draft invoices of the next stages of several quotes and orders in one go: all of them, or none where
    /// one is refused.
    /// </summary>
    /// <returns>The drafts' ids, in the same order.</returns>
    /// <exception cref="RefusalException">With what is wrong with each, by <c>now[id]</c>.</exception>
    public async Task<IReadOnlyList<int>> BillManyAsync(
        IReadOnlyList<(int Id, StageWish Wish)> wishes,
        Once once = default
    )
    {
        var made = new List<int>();
        await writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                foreach (var (id, wish) in wishes)
                {
                    try
                    {
                        made.Add(await BillAsync(id, wish, stop));
                    }
                    catch (RefusalException refused)
                    {
                        refusals.Add($"now[{id}]", refused.Message);
                    }
                }

                refusals.ThrowIfAny();
                return made.Count;
            }
        );
        return made;
    }

    /// <summary>Makes the draft invoice of the next stage, with what it takes off of deposits.</summary>
    /// <returns>The draft's id.</returns>
    public Task<int> BillAsync(int id, StageWish wish, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var source = await OpenSourceAsync(id, stop);
                var view =
                    await ViewAsync(id, stop)
                    ?? throw new RefusalException("", "Only a quote or an order is billed in stages.");
                var now = Now(view, wish);
                if (now.All(n => n == 0))
                    throw new RefusalException("", $"Nothing of the {source.Title} is left to bill.");
                var format = (await head.BusinessAsync(stop)).Format;
                // Which stage it is follows when it is kept.
                var lines = new List<DraftLine>
                {
                    DraftLine.Words(
                        StageText.Heading(view.Stages.Count + 1, $"{source.Policy.Word} {source.Number}", false),
                        LineRole.Section
                    ),
                };
                for (var i = 0; i < now.Length; i++)
                    if (now[i] != 0)
                        lines.Add(await StageLineAsync(source, view.Rows[i], now[i], format, stop));
                return await MakeAsync(source, lines, $"Draft of a stage made from {source.Title}", stop);
            }
        );

    /// <summary>Makes a draft invoice that asks for a part beforehand, one line for each way of taxing.</summary>
    /// <param name="percent">Of the whole; or an amount in <paramref name="amount"/>, in minor units and the price mode
    /// of the document.</param>
    /// <returns>The draft's id.</returns>
    public Task<int> DepositAsync(int id, decimal? percent, long? amount, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var source = await OpenSourceAsync(id, stop);
                return await DepositOnAsync(source, percent, amount, stop);
            }
        );

    /// <summary>Makes the draft of a deposit on an open quote or order.</summary>
    internal async Task<int> DepositOnAsync(Document source, decimal? percent, long? amount, CancellationToken stop)
    {
        var groups = DepositAsked.GroupsOf(source);
        // What is billed already, and what other deposits ask for, cannot be asked for once more.
        var chain = (await deposits.OfAsync(source.Id, null, stop)).Single();
        var gone = chain.Billed + chain.LeftToTakeOff;
        if (gone >= groups.Sum(g => g.Whole))
            throw new RefusalException(
                "",
                $"Nothing of the {source.Title} is left to bill, so a deposit comes too late."
            );
        var now = DepositAsked.Of(groups, gone, percent, amount, source.Currency);
        var words = MadeText.Deposit(percent, source.Kind, source.Number!);
        var account = (await head.BusinessAsync(stop)).DefaultLedgerAccountId ?? 0;
        var lines = groups
            .Select(
                (g, i) =>
                    new DraftLine(
                        null,
                        words,
                        1,
                        "C62",
                        new Money(now[i], source.Currency).Units,
                        null,
                        null,
                        g.TaxCodeId,
                        g.LedgerAccountId == 0 ? account : g.LedgerAccountId
                    )
                    {
                        Role = LineRole.Deposit,
                    }
            )
            .Where(l => l.UnitPrice != 0)
            .ToList();
        return await MakeAsync(source, lines, $"Draft of a deposit made from {source.Title}", stop);
    }

    private async Task<Document> OpenSourceAsync(int id, CancellationToken stop)
    {
        var source = await drafts.LoadAsync(id, stop);
        if (source.Kind is not (DocumentKind.Quote or DocumentKind.Order))
            throw new RefusalException("", "Only a quote or an order is billed in stages.");
        await making.AcceptedAsync(source, stop);
        if (!source.CanBeMadeFrom)
            throw new RefusalException(
                "",
                source.IsDraft
                    ? $"This {source.Policy.Word} is still a draft. Issue it first."
                    : MakingDesk.NotFrom(source)
            );
        if (source.ClosedOn is not null)
            throw new RefusalException("", $"The rest of the {source.Title} is closed. Open it again first.");
        return source;
    }

    private async Task<int> MakeAsync(Document source, List<DraftLine> lines, Phrase trail, CancellationToken stop)
    {
        var content = source.Content().On(await head.TodayAsync(stop)) with
        {
            DiscountPercent = null,
            DiscountAmount = null,
            Lines = lines,
            Charges = [],
        };
        if (lines.Exists(l => l.Role == LineRole.Stage))
            content = content with { Lines = [.. lines, .. await deposits.TakeOffAsync([source.Id], content, stop)] };
        var made = await drafts.MakeAsync(DocumentKind.Invoice, content, source.Id, trail, stop, source.Lines);
        await writer.TrailAsync("Draft invoice made", null, source.Id);
        return made.Id;
    }

    private async Task<IReadOnlyList<StageRow>> RowsAsync(Document source, CancellationToken stop)
    {
        var lines = source.Lines.Where(l => l.Counts && l.Base != 0).OrderBy(l => l.Position).ToList();
        var found = await uses.OfAsync(lines.ConvertAll(l => l.Id), null, stop);
        var charges = await links.ChargesLeftAsync(
            [.. source.Charges.Select(c => c.Id)],
            DocumentKind.Invoice,
            null,
            stop
        );
        return
        [
            .. lines.Select(l => new StageRow(
                l.Id,
                null,
                l.Text,
                l.Base,
                found[l.Id].Left.BilledAmount,
                found[l.Id].Left is { Billed: not 0 } or { Ordered: not 0 }
            )),
            .. source
                .Charges.OrderBy(c => c.Position)
                .Select(c => new StageRow(null, c.Id, c.Text, c.Amount, c.Amount - charges[c.Id], false)),
        ];
    }

    /// <summary>
    /// All of a line goes over with its quantity and price; a part of it is a sum, with what it is a part of.
    /// </summary>
    private async Task<DraftLine> StageLineAsync(
        Document source,
        StageRow row,
        long now,
        DisplayFormat format,
        CancellationToken stop
    )
    {
        var account = (await head.BusinessAsync(stop)).DefaultLedgerAccountId ?? 0;
        if (row.ChargeId is { } chargeId)
        {
            var charge = source.Charges.Single(c => c.Id == chargeId);
            return new DraftLine(
                null,
                Words(row, now, source, format),
                1,
                "C62",
                new Money(now, source.Currency).Units,
                null,
                null,
                charge.TaxCodeId,
                charge.LedgerAccountId == 0 ? account : charge.LedgerAccountId
            )
            {
                Role = LineRole.Stage,
                FromChargeId = chargeId,
            };
        }

        var line = source.Lines.Single(l => l.Id == row.LineId);
        var ledger = line.LedgerAccountId == 0 ? account : line.LedgerAccountId;
        if (now == row.Whole && row.Before == 0)
            return MakingDesk.PartOf(line, line.Quantity) with { Role = LineRole.Stage, LedgerAccountId = ledger };
        return new DraftLine(
            null,
            Words(row, now, source, format),
            Math.Sign(now),
            "C62",
            new Money(Math.Abs(now), source.Currency).Units,
            null,
            null,
            line.TaxCodeId,
            ledger,
            line.Id
        )
        {
            Role = LineRole.Stage,
        };
    }

    private static string Words(StageRow row, long now, Document source, DisplayFormat format) =>
        $"{row.Text}\n{StageText.Progress(row.Whole, row.Before, now, source.Currency, format)}";
}
