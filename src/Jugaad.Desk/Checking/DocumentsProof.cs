using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Everything that an issued document holds of figures follows from its frozen lines, and its state from what happened
/// to it.
/// </summary>
internal sealed class DocumentsProof(BooksContext db) : IProof
{
    private const int Batch = 300;

    private Core.Amounts.Currency? _home;
    private Dictionary<int, Core.Trade.PaymentTerms> _terms = [];
    private Dictionary<int, string> _codes = [];
    private HashSet<int> _items = [];
    private HashSet<string> _languages = [];

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var last = 0;
        long checkedDocuments = 0;
        _home = await db.Businesses.Select(b => b.HomeCurrency).FirstOrDefaultAsync(stop);
        _terms = await db.Terms.ToDictionaryAsync(t => t.Id, stop);
        _codes = await db.TaxCodes.IgnoreAutoIncludes().ToDictionaryAsync(c => c.Id, c => c.Code, stop);
        _items = (await db.Items.Select(i => i.Id).ToListAsync(stop)).ToHashSet();
        _languages =
        [
            .. Customer.Languages.Select(l => l.Code),
            .. await db.OwnLanguages.Select(l => l.Code).ToListAsync(stop),
        ];
        while (true)
        {
            // A few hundred at a time, so that large books do not fill the memory.
            var batch = await db
                .Documents.Where(d => d.Id > last && d.Number != null)
                .OrderBy(d => d.Id)
                .Take(Batch)
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .Include(d => d.Taxes)
                .ToListAsync(stop);
            if (batch.Count == 0)
                break;
            foreach (var document in batch)
                Frozen(findings, document);
            await SharesAsync(findings, batch, stop);
            checkedDocuments += batch.Count;
            last = batch[^1].Id;
        }

        findings.Count("issued documents", checkedDocuments);
        await StatesAsync(findings, stop);
    }

    private void Frozen(Findings findings, Document document)
    {
        var (number, currency) = (document.Number, document.Currency);
        var lines = document.Lines.OrderBy(l => l.Position).ToList();
        var charges = document.Charges.OrderBy(c => c.Position).ToList();
        if (
            !lines.Select(l => l.Position).SequenceEqual(Enumerable.Range(0, lines.Count))
            || !charges.Select(c => c.Position).SequenceEqual(Enumerable.Range(0, charges.Count))
        )
        {
            findings.Add($"{number}: a line is missing, or out of its place");
            return;
        }

        if (lines.Count == 0)
            return;
        Totals totals;
        try
        {
            totals = document.Recompute();
        }
        catch (Exception broken)
            when (broken
                    is Core.RefusalException
                        or FormatException
                        or OverflowException
                        or ArgumentException
                        or InvalidOperationException
            )
        {
            findings.Add($"{number}: its lines give no totals any more: {broken.Message}");
            return;
        }

        if (
            (totals.Net, totals.Tax, totals.Payable, totals.Subtotal, totals.Discount)
                != (document.Net, document.Tax, document.Payable, document.Subtotal, document.Discount)
            || totals.Total != document.Total
            || totals.Charges != document.ChargesTotal
        )
            findings.Add(
                $"{number}: its totals are kept as {Findings.Text(document.Payable, currency)}, its lines give {Findings.Text(totals.Payable, currency)}"
            );
        var rows = totals.Treatments.SelectMany(t =>
            t.Rows()
                .Select(r =>
                    (
                        Treatment: t.Treatment.ToString(),
                        t.Treatment.Category,
                        Component: r.Part?.Name ?? "",
                        ComponentId: r.Part?.ComponentId,
                        Percent: r.Part?.Percent ?? 0,
                        r.Taxable,
                        r.Tax
                    )
                )
        );
        findings.Unless(
            rows.SequenceEqual(
                document
                    .Taxes.OrderBy(t => t.Position)
                    .Select(t => (t.Treatment, t.Category, t.Component, t.ComponentId, t.Percent, t.Taxable, t.Tax))
            ),
            $"{number}: its taxes do not follow from its lines"
        );
        findings.Unless(
            document.Taxes.Select(t => t.Position).Order().SequenceEqual(Enumerable.Range(0, document.Taxes.Count)),
            $"{number}: its taxes are out of their places"
        );
        findings.Unless(
            totals.LineNets.SequenceEqual(lines.Select(l => l.Net))
                && totals.ChargeNets.SequenceEqual(charges.Select(c => c.Net)),
            $"{number}: what its lines post does not follow from them"
        );
        findings.Unless(
            totals.LineBases.SequenceEqual(lines.Select(l => l.Base)),
            $"{number}: what its lines come to after its discount does not follow from them"
        );
        findings.Unless(
            totals.Lines.SequenceEqual(lines.Select(l => new LineTotals(l.Extension, l.Discount, l.Amount))),
            $"{number}: what its lines come to does not follow from them"
        );
        foreach (var line in lines)
        {
            findings.Unless(
                line.Share is not { } share || !line.Counts || line.Amount == share,
                $"{number}: line {line.Position + 1} does not come to the share that it has"
            );
            findings.Unless(
                line.Shares == line.Share is not null,
                $"{number}: line {line.Position + 1} says that it is a part, and not what of it; or has a share and says that it is none"
            );
            findings.Unless(
                !line.Shares
                    || line.DiscountPercent is not null
                    || line.DiscountAmount == (line.Discount == 0 ? null : line.Discount),
                $"{number}: line {line.Position + 1} says otherwise what it is reduced by"
            );
            if (!line.Role.HasFigures())
                continue;
            findings.Unless(
                line.ItemId is not { } item || _items.Contains(item),
                $"{number}: line {line.Position + 1} is of an item that is not there"
            );
            findings.Unless(
                _codes.GetValueOrDefault(line.TaxCodeId) == line.TaxCode,
                $"{number}: line {line.Position + 1} names its tax code otherwise than that is called"
            );
            findings.Unless(
                Core.Trade.Units.All.Any(u => u.Code == line.Unit),
                $"{number}: line {line.Position + 1} is counted in a unit that is none"
            );
            findings.Unless(
                line.FromLineId is not null
                    || line.FromChargeId is not null
                    || (line.Before == 0 && line.TaxesBefore.Length == 0),
                $"{number}: line {line.Position + 1} goes on from something, and was made from nothing"
            );
            findings.Unless(
                line.Choice != LineChoice.Firm || !line.Chosen,
                $"{number}: line {line.Position + 1} is chosen, and there was nothing to choose"
            );
        }

        foreach (var charge in charges)
            findings.Unless(
                _codes.GetValueOrDefault(charge.TaxCodeId) == charge.TaxCode,
                $"{number}: charge {charge.Position + 1} names its tax code otherwise than that is called"
            );
        if (_home is not null && currency.Equals(_home))
            findings.Unless(document.ExchangeRate == 1, $"{number}: is in the home currency and has a rate");
        else if (
            document.Particulars.TypedRate is { } typed
            && document.Kind is not (DocumentKind.CreditNote or DocumentKind.DebitNote)
        )
            findings.Unless(document.ExchangeRate == typed, $"{number}: has another rate than was typed for it");
        if (document.TermsId is { } termsId && document.Policy.HasDueDay && _terms.TryGetValue(termsId, out var terms))
        {
            findings.Unless(
                document.DueByHand
                    || document.DueDate == terms.DueOn(document.Date)
                    || document.DueDate == document.Date,
                $"{number}: is due on another day than its terms say"
            );
            findings.Unless(
                document.EarlyPercent == terms.EarlyPercent && document.EarlyUntil == terms.EarlyUntil(document.Date),
                $"{number}: its early-payment discount is not that of its terms"
            );
        }

        findings.Unless(document.DueDate is not { } due || due >= document.Date, $"{number}: is due before its date");
        findings.Unless(
            document.Policy.HasDueDay == document.DueDate is not null,
            $"{number}: has a day on which it is due and should not, or the other way round"
        );
        findings.Unless(
            document.EarlyPercent == 0 == document.EarlyUntil is null
                && (document.EarlyUntil is not { } until || until >= document.Date),
            $"{number}: its early-payment discount and its day do not agree"
        );
        findings.Unless(
            document.CashStep is not null || document.PaidExactly == 0,
            $"{number}: says what is paid exactly, and nothing is rounded"
        );
        findings.Unless(
            document.IsDraft
                ? document.Language is null
                : _languages.Contains(document.Language ?? "")
                    && (
                        document.Particulars.Language.Length == 0 || document.Particulars.Language == document.Language
                    ),
            $"{document.Number ?? "A draft"}: is written in no language that there is"
        );
        findings.Unless(
            document.Sender is not null && document.Addressee is not null || document.IsDraft,
            $"{number}: does not hold whose it is and whom it is to"
        );
    }

    /// <summary>
    /// Parts of others: what of the other's discount went into them, and what they take back, are as the other has it.
    /// </summary>
    private async Task SharesAsync(Findings findings, List<Document> batch, CancellationToken stop)
    {
        var ids = batch.SelectMany(d => d.Lines).Select(l => l.FromLineId).OfType<int>().Distinct().ToList();
        var lines = await db.Set<DocumentLine>().Where(l => ids.Contains(l.Id)).ToDictionaryAsync(l => l.Id, stop);
        var above = lines.Values.Select(l => l.FromLineId).OfType<int>().Distinct().ToList();
        var roots = await db.Set<DocumentLine>().Where(l => above.Contains(l.Id)).ToDictionaryAsync(l => l.Id, stop);
        var charges = batch.SelectMany(d => d.Charges).Select(c => c.FromChargeId).OfType<int>().Distinct().ToList();
        var ofCharges = await db.Set<DocumentCharge>()
            .Where(c => charges.Contains(c.Id))
            .ToDictionaryAsync(c => c.Id, c => c.DocumentId, stop);
        var documents = lines
            .Values.Concat(roots.Values)
            .Select(l => l.DocumentId)
            .Concat(ofCharges.Values)
            .Distinct()
            .ToList();
        var sources = await db
            .Documents.Include(d => d.Lines)
            .Include(d => d.Charges)
            .Where(d => documents.Contains(d.Id))
            .ToDictionaryAsync(d => d.Id, stop);
        foreach (var document in batch)
        {
            foreach (var line in document.Lines)
            {
                if (line.FoldedPercent is { } folded)
                {
                    var source = line.FromLineId is { } from && lines.TryGetValue(from, out var direct) ? direct : null;
                    var percents = new[] { source, source?.FromLineId is { } up ? roots.GetValueOrDefault(up) : null }
                        .Where(l => l is not null)
                        .Select(l => sources[l!.DocumentId].DiscountPercent);
                    findings.Unless(
                        percents.Contains(folded),
                        $"{document.Number}: line {line.Position + 1} says that {Core.Amounts.PlainDecimal.Text(folded)} % went into it, and what it was made from says otherwise"
                    );
                }

                if (line.TakesBack.Length > 0)
                    TakesBack(
                        findings,
                        document,
                        line.TakesBack,
                        line.FromLineId is { } of && lines.TryGetValue(of, out var whole)
                            ? sources[whole.DocumentId]
                            : null
                    );
            }

            foreach (var charge in document.Charges.Where(c => c.TakesBack.Length > 0))
                TakesBack(
                    findings,
                    document,
                    charge.TakesBack,
                    charge.FromChargeId is { } of && ofCharges.TryGetValue(of, out var whose) ? sources[whose] : null
                );
        }
    }

    private static void TakesBack(Findings findings, Document document, string text, Document? source)
    {
        var what = $"{document.Number}: what it takes back is not what was billed";
        TakenBack? told = null;
        try
        {
            told = TakenBack.Parse(text);
        }
        catch (Exception broken) when (broken is FormatException or OverflowException)
        {
            // Said below, as for any other text that does not fit.
        }

        if (told is null || source is null || source.Lines.Count == 0)
        {
            findings.Add(what);
            return;
        }

        var groups = source.Recompute().Groups;
        var named = told.Group.Split('.');
        var fits =
            named.Length == 2
            && named[0] == source.Id.ToString(System.Globalization.CultureInfo.InvariantCulture)
            && int.TryParse(named[1], out var n)
            && n >= 0
            && n < groups.Count
            && groups[n].Base == told.Whole
            && groups[n].Totals.Taxes.Select(t => t.Tax).SequenceEqual(told.Taxes);
        findings.Unless(
            fits
                && Math.Abs(told.Before) <= Math.Abs(told.Whole)
                && told.TaxesBefore.Count == told.Taxes.Count
                && told.TaxesBefore.Zip(told.Taxes).All(t => Math.Abs(t.First) <= Math.Abs(t.Second)),
            what
        );
    }

    private async Task StatesAsync(Findings findings, CancellationToken stop)
    {
        void Say(IEnumerable<string?> numbers, string what) =>
            findings.AddRange(numbers.Select(n => $"{n ?? "A draft"}: {what}"));
        var all = db.Documents;
        Say(
            await all.Where(d =>
                    d.Kind == DocumentKind.Quote
                    && (d.State == DocumentState.Issued || d.State == DocumentState.Settled)
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "is a quote in a state of other documents"
        );
        Say(
            await all.Where(d =>
                    d.Kind != DocumentKind.Quote
                    && (
                        d.State == DocumentState.Sent
                        || d.State == DocumentState.Accepted
                        || d.State == DocumentState.Declined
                        || d.State == DocumentState.Lapsed
                    )
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "is in a state of quotes and is none"
        );
        Say(
            await all.Where(d =>
                    d.Number == null && d.State != DocumentState.Draft && d.State != DocumentState.Cancelled
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "was issued without a number"
        );
        Say(
            await all.Where(d => d.Kind == DocumentKind.Quote && d.State == DocumentState.Draft && d.Number != null)
                .Select(d => d.Number)
                .ToListAsync(stop),
            "has its number and is a draft"
        );
        Say(
            await all.Where(d =>
                    (
                        d.Kind == DocumentKind.Invoice
                        || d.Kind == DocumentKind.CreditNote
                        || d.Kind == DocumentKind.DebitNote
                    )
                    && d.State == DocumentState.Draft
                    && d.Number != null
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "has its number and is a draft"
        );
        Say(
            await all.Where(d =>
                    (d.State == DocumentState.Accepted || d.State == DocumentState.Declined) != (d.AnsweredOn != null)
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "its answer and the day of that do not agree"
        );
        Say(
            await all.Where(d =>
                    d.State == DocumentState.Declined
                    && (
                        d.LostBy == null || all.Any(m => m.FromDocumentId == d.Id && m.State != DocumentState.Cancelled)
                    )
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "is called declined and was not"
        );
        Say(
            await all.Where(d =>
                    (
                        d.Kind != DocumentKind.Quote
                        && (d.Particulars.DepositPercent != null || d.Particulars.DepositAmount != null)
                    )
                    || (d.Particulars.DepositPercent != null && d.Particulars.DepositAmount != null)
                    || d.Particulars.DepositPercent <= 0
                    || d.Particulars.DepositPercent > 100
                    || d.Particulars.DepositAmount <= 0
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "asks for a deposit that cannot be"
        );
        Say(
            await all.Where(d =>
                    (d.Kind == DocumentKind.CreditNote || d.Kind == DocumentKind.DebitNote)
                    && d.Number != null
                    && d.FromDocumentId != null
                    && !all.Any(f => f.Id == d.FromDocumentId && f.Number == d.Particulars.Corrects)
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "corrects another document than it says"
        );
        Say(
            await all.Where(d =>
                    d.FromDocumentId != null
                    && d.Lines.Any(l => l.FromLineId != null)
                    && !d.Lines.Any(l =>
                        db.Set<DocumentLine>().Any(s => s.Id == l.FromLineId && s.DocumentId == d.FromDocumentId)
                    )
                    && !d.Lines.Any(l => l.FromChargeId != null)
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "was made from another document than its lines"
        );
        Say(
            await (
                from charge in db.Set<DocumentCharge>()
                join document in all on charge.DocumentId equals document.Id
                join source in db.Set<DocumentCharge>() on charge.FromChargeId equals source.Id
                where
                    source.DocumentId != document.FromDocumentId
                    && !all.Any(n => n.Id == document.FromDocumentId && n.FromDocumentId == source.DocumentId)
                    && document.FromDocumentId != null
                select document.Number
            ).ToListAsync(stop),
            "has a charge that was made from another document"
        );
        Say(
            await (
                from line in db.Set<DocumentLine>()
                join document in all on line.DocumentId equals document.Id
                where
                    line.FromChargeId != null
                    && !db.Set<DocumentCharge>()
                        .Any(c => c.Id == line.FromChargeId && c.DocumentId == document.FromDocumentId)
                    && document.Number != null
                select document.Number
            )
                .Distinct()
                .ToListAsync(stop),
            "bills a charge of another document in stages"
        );
        Say(
            await all.Where(d => d.LostBy != null && d.State != DocumentState.Declined)
                .Select(d => d.Number)
                .ToListAsync(stop),
            "says why it was lost and was not"
        );
        Say(
            await all.Where(d =>
                    d.IsReplaced
                    != all.Any(r => r.RevisesId == d.Id && r.State != DocumentState.Draft && r.Number != null)
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "is replaced by a revision that is not there, or the other way round"
        );
        Say(
            await all.Where(d =>
                    (d.RevisesId == null && d.Revision != 1)
                    || (
                        d.RevisesId != null
                        && !all.Any(e =>
                            e.Id == d.RevisesId && e.Revision == d.Revision - 1 && e.Kind == DocumentKind.Quote
                        )
                    )
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "is not the revision that it says"
        );
        Say(
            await all.Where(d => (d.ClosedOn == null) != (d.ClosedReason == ""))
                .Select(d => d.Number)
                .ToListAsync(stop),
            "is closed without a reason, or the other way round"
        );
        Say(
            await all.Where(d => d.FromDocumentId != null && !all.Any(f => f.Id == d.FromDocumentId))
                .Select(d => d.Number)
                .ToListAsync(stop),
            "was made from something that is not there"
        );
        // What cancelled an invoice is a credit note over all of it.
        Say(
            await all.Where(d =>
                    d.State == DocumentState.Cancelled
                    && d.Number != null
                    && (d.Kind == DocumentKind.Invoice || d.Kind == DocumentKind.DebitNote)
                    && !all.Any(c =>
                        c.FromDocumentId == d.Id
                        && c.Kind == DocumentKind.CreditNote
                        && c.Payable == d.Payable
                        && c.State != DocumentState.Draft
                        && c.State != DocumentState.Cancelled
                    )
                )
                .Select(d => d.Number)
                .ToListAsync(stop),
            "is cancelled, and no credit note is over all of it"
        );
    }
}
