using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Lines;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Making;

/// <summary>
/// A deposit of a chain: what one of its lines asked for and what of it can still be taken off. Minor units, in the
/// price mode of the document.
/// </summary>
/// <param name="Asked">Less what was credited of it.</param>
public sealed record OpenDeposit(Document Deposit, DocumentLine Line, long Asked, long Left);

/// <summary>
/// A quote with the orders and delivery notes made from it: what all of it comes to, what is billed of it, and its
/// deposits. Minor units, in the price mode of the documents.
/// </summary>
public sealed record Chain(
    IReadOnlySet<int> Documents,
    IReadOnlySet<int> Lines,
    IReadOnlySet<int> Charges,
    long Whole,
    long Billed,
    Currency Currency,
    IReadOnlyList<OpenDeposit> Deposits
)
{
    public long LeftToBill => Whole - Billed;

    /// <summary>What can still be taken off on the bills to come: one figure for the whole chain.</summary>
    public long LeftToTakeOff => Deposits.Sum(d => d.Left);

    public long Asked => Deposits.Sum(d => d.Asked);
}

/// <summary>
/// Deposits of a whole chain of quote, orders, delivery notes, stages and invoices: never forgotten and never taken off
/// twice.
/// </summary>
public sealed class Deposits(BooksContext db, BooksHead head, LineUses uses, LineLinks links, Drafts drafts)
{
    /// <summary>The chains that a document belongs to; an invoice may bill several.</summary>
    /// <param name="except">A document whose own lines do not count, as it is about to be changed.</param>
    public async Task<IReadOnlyList<Chain>> OfAsync(
        int documentId,
        int? except = null,
        CancellationToken stop = default
    )
    {
        var document = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .SingleOrDefaultAsync(d => d.Id == documentId, stop);
        if (document is null)
            return [];
        var sources = document.Kind is DocumentKind.Quote or DocumentKind.Order or DocumentKind.DeliveryNote
            ? [documentId]
            : await SourcesAsync(document, stop);
        return await OfSourcesAsync(sources, except, stop);
    }

    /// <summary>
    /// The lines that take deposits off a bill about to be made, with the tax that they bore: in proportion, or all at
    /// once where the business says so; the last bill takes all that is left.
    /// </summary>
    /// <param name="sources">What is billed.</param>
    /// <param name="content">The bill without them.</param>
    internal async Task<List<DraftLine>> TakeOffAsync(
        IReadOnlyCollection<int> sources,
        DraftContent content,
        CancellationToken stop
    )
    {
        var chains = (await OfSourcesAsync(sources, null, stop)).Where(c => c.LeftToTakeOff > 0).ToList();
        if (chains.Count == 0)
            return [];
        var bill = await drafts.MustBePossibleAsync(DocumentKind.Invoice, content, null, stop);
        var atOnce = (await head.BusinessAsync(stop)).DepositsAtOnce;
        var taken = new List<DraftLine>();
        foreach (var chain in chains)
        {
            var now = BilledOf(chain, bill);
            var (upTo, room) = (chain.Billed + now, Math.Max(now, 0));
            foreach (var deposit in chain.Deposits.Where(d => d.Left > 0))
            {
                var share =
                    atOnce || upTo >= chain.Whole
                        ? deposit.Left
                        : Math.Clamp(
                            Rounding.Share(deposit.Asked, upTo, chain.Whole) - (deposit.Asked - deposit.Left),
                            0,
                            deposit.Left
                        );
                var off = Math.Min(share, room);
                room -= off;
                if (off > 0)
                    taken.Add(Deduction(deposit, off));
            }
        }

        return taken;
    }

    /// <summary>
    /// What a bill leaves of deposits although nothing will be billed after it; 0 where all is well. Minor units.
    /// </summary>
    public async Task<long> ForgottenOnAsync(Document bill, int? id, CancellationToken stop = default)
    {
        if (bill.Kind != DocumentKind.Invoice || bill.Lines.Any(l => l.Role == LineRole.Deposit))
            return 0;
        var forgotten = 0L;
        foreach (var chain in await OfSourcesAsync(await SourcesAsync(bill, stop), id, stop))
            if (chain.LeftToTakeOff > 0 && chain.Billed + BilledOf(chain, bill) >= chain.Whole)
                forgotten +=
                    chain.LeftToTakeOff
                    + bill.Lines.Where(l =>
                            l.Role == LineRole.Deduction && chain.Deposits.Any(d => d.Line.Id == l.FromLineId)
                        )
                        .Sum(l => l.Base);
        return Math.Max(forgotten, 0);
    }

    /// <summary>A deposit of which nothing could ever be taken off is not issued.</summary>
    /// <exception cref="RefusalException">When nothing of its chain is left to bill, or less than it asks
    /// for.</exception>
    internal async Task MustBeOfUseAsync(Document deposit, CancellationToken stop)
    {
        if (!deposit.Lines.Any(l => l.Role == LineRole.Deposit) || deposit.FromDocumentId is not { } source)
            return;
        foreach (var chain in await OfSourcesAsync([source], deposit.Id, stop))
        {
            // A bill that waits as a draft can still take it off.
            var drafted = await db
                .Documents.Where(d =>
                    d.Kind == DocumentKind.Invoice
                    && d.State == DocumentState.Draft
                    && d.Id != deposit.Id
                    && d.FromDocumentId != null
                    && chain.Documents.Contains(d.FromDocumentId.Value)
                )
                .AnyAsync(stop);
            var asked = deposit.Lines.Where(l => l.Role == LineRole.Deposit).Sum(l => l.Base);
            if (!drafted && chain.LeftToBill - chain.LeftToTakeOff < asked)
                throw new RefusalException(
                    "",
                    $"{new Money(Math.Max(chain.LeftToBill - chain.LeftToTakeOff, 0), chain.Currency)} {chain.Currency} is left to bill from which this deposit could be taken off. Put it away, or ask for less."
                );
        }
    }

    private static long BilledOf(Chain chain, Document bill) =>
        bill.Lines.Where(l =>
                l.Counts
                && (
                    (l.FromLineId is { } line && l.Role != LineRole.Deduction && chain.Lines.Contains(line))
                    || (l.FromChargeId is { } part && chain.Charges.Contains(part))
                )
            )
            .Sum(l => l.Base)
        + bill.Charges.Where(c => c.FromChargeId is { } charge && chain.Charges.Contains(charge)).Sum(c => c.Amount);

    private static DraftLine Deduction(OpenDeposit deposit, long off) =>
        deposit.Line.Typed() with
        {
            Text = MadeText.LessDeposit(deposit.Deposit.Number!),
            Quantity = -1,
            UnitPrice = new Money(off, deposit.Deposit.Currency).Units,
            DiscountPercent = null,
            DiscountAmount = null,
            FromLineId = deposit.Line.Id,
            Shares = false,
            Role = LineRole.Deduction,
        };

    private async Task<List<int>> SourcesAsync(Document document, CancellationToken stop)
    {
        var ids = document.Lines.Select(l => l.FromLineId).OfType<int>().ToList();
        var sources = await db.Set<DocumentLine>()
            .Where(l => ids.Contains(l.Id))
            .Select(l => l.DocumentId)
            .Distinct()
            .ToListAsync(stop);
        return [.. sources.Concat(document.FromDocumentId is { } from ? [from] : []).Distinct()];
    }

    private async Task<List<Chain>> OfSourcesAsync(
        IReadOnlyCollection<int> sources,
        int? except,
        CancellationToken stop
    )
    {
        var chains = new List<Chain>();
        foreach (var source in sources)
        {
            if (chains.Exists(c => c.Documents.Contains(source)))
                continue;
            if (await ChainAsync(source, except, stop) is { } chain)
                chains.Add(chain);
        }

        return chains;
    }

    private async Task<Chain?> ChainAsync(int source, int? except, CancellationToken stop)
    {
        var members = await MembersAsync(source, stop);
        if (members.Count == 0)
            return null;
        var lines = members.SelectMany(m => m.Lines).Where(l => l.Counts).ToDictionary(l => l.Id);
        var charges = members.SelectMany(m => m.Charges).ToDictionary(c => c.Id);
        var found = await uses.OfAsync(lines.Keys, except, stop);
        var left = await links.ChargesLeftAsync([.. charges.Keys], DocumentKind.Invoice, except, stop);
        // What one member made from another counts once: with the first.
        var whole =
            lines.Values.Where(l => l.FromLineId is not { } from || !lines.ContainsKey(from)).Sum(l => l.Base)
            + charges
                .Values.Where(c => c.FromChargeId is not { } from || !charges.ContainsKey(from))
                .Sum(c => c.Amount);
        var billed =
            members
                .SelectMany(m => m.Lines.Where(l => l.Counts).Select(l => (Member: m, Line: l)))
                .Where(l =>
                    l.Member.Kind != DocumentKind.DeliveryNote
                    || l.Line.FromLineId is not { } order
                    || !lines.ContainsKey(order)
                )
                .Sum(l => found[l.Line.Id].Left.BilledAmount) + charges.Values.Sum(c => c.Amount - left[c.Id]);
        var documents = members.Select(m => m.Id).ToHashSet();
        return new Chain(
            documents,
            lines.Keys.ToHashSet(),
            charges.Keys.ToHashSet(),
            whole,
            billed,
            members[0].Currency,
            await DepositsAsync(documents, except, stop)
        );
    }

    private async Task<List<Document>> MembersAsync(int source, CancellationToken stop)
    {
        var found = new Dictionary<int, Document>();
        var wanted = new Queue<int>([source]);
        while (wanted.TryDequeue(out var id))
        {
            if (found.ContainsKey(id))
                continue;
            var member = await db
                .Documents.AsNoTracking()
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .SingleOrDefaultAsync(d => d.Id == id, stop);
            if (
                member is null
                || member.Kind is not (DocumentKind.Quote or DocumentKind.Order or DocumentKind.DeliveryNote)
                || member.State == DocumentState.Cancelled
            )
                continue;
            found[id] = member;
            if (member.FromDocumentId is { } from)
                wanted.Enqueue(from);
            foreach (
                var made in await db
                    .Documents.Where(d =>
                        d.FromDocumentId == id && (d.Kind == DocumentKind.Order || d.Kind == DocumentKind.DeliveryNote)
                    )
                    .Select(d => d.Id)
                    .ToListAsync(stop)
            )
                wanted.Enqueue(made);
        }

        return [.. found.Values.OrderBy(d => d.Id)];
    }

    /// <summary>Only what is issued counts; a deposit in draft is nothing yet.</summary>
    private async Task<List<OpenDeposit>> DepositsAsync(HashSet<int> chain, int? except, CancellationToken stop)
    {
        var deposits = await db
            .Documents.AsNoTracking()
            .Include(d => d.Lines)
            .Where(d =>
                d.FromDocumentId != null
                && chain.Contains(d.FromDocumentId.Value)
                && d.Kind == DocumentKind.Invoice
                && (d.State == DocumentState.Issued || d.State == DocumentState.Settled)
                && d.Lines.Any(l => l.Role == LineRole.Deposit)
            )
            .OrderBy(d => d.Id)
            .ToListAsync(stop);
        var lines = deposits
            .SelectMany(d =>
                d.Lines.Where(l => l.Role == LineRole.Deposit)
                    .OrderBy(l => l.Position)
                    .Select(l => (Deposit: d, Line: l))
            )
            .ToList();
        var found = await uses.OfAsync(lines.ConvertAll(l => l.Line.Id), except, stop);
        return lines
            .ConvertAll(l => (l.Deposit, l.Line, Use: found[l.Line.Id].Left))
            .ConvertAll(l => new OpenDeposit(
                l.Deposit,
                l.Line,
                l.Use.LeftToDeduct + l.Use.Deducted,
                l.Use.LeftToDeduct
            ));
    }
}
