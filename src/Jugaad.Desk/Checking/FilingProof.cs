using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// What authorities are told follows from what was posted, and filed returns hold together: their rows add up, their
/// periods follow each other, and nothing was told twice.
/// </summary>
internal sealed class FilingProof(BooksContext db) : IProof
{
    private const int Batch = 1_000;

    private sealed record Whole(
        int Position,
        TaxCategory Category,
        string Component,
        decimal Percent,
        Place? Place,
        Supply? Supply,
        DateOnly Date,
        long Taxable,
        long Tax
    );

    private Currency _home = null!;

    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        if (await db.Businesses.Select(b => b.HomeCurrency).FirstOrDefaultAsync(stop) is not { } home)
            return;
        _home = home;
        findings.Count("tax figures", await db.TaxFigures.LongCountAsync(stop));
        await OriginAsync(findings, stop);
        await DocumentsAsync(findings, stop);
        await SettlementsAsync(findings, stop);
        await MoneyAsync(findings, stop);
        await OpeningsAsync(findings, stop);
        await ReturnsAsync(findings, stop);
    }

    /// <summary>Each figure has one origin, and stands on the account where that has put it.</summary>
    private async Task OriginAsync(Findings findings, CancellationToken stop)
    {
        foreach (
            var number in await db
                .TaxFigures.Where(f =>
                    (f.DocumentId != null ? 1 : 0) + (f.SettlementId != null ? 1 : 0) + (f.OtherMoneyId != null ? 1 : 0)
                        > 1
                    || (
                        f.DocumentId == null
                        && f.SettlementId == null
                        && f.OtherMoneyId == null
                        && !db.AccountItems.Any(i =>
                            i.Id == f.ItemId && i.DocumentId == null && i.ReceiptId == null && i.BookingId == null
                        )
                    )
                    || (f.OtherMoneyId == null) == (f.ItemId == null)
                    || (f.SettlementId != null || f.OtherMoneyId != null) == (f.BookingId == null)
                    || (
                        f.DocumentId != null
                        && !db.AccountItems.Any(i => i.Id == f.ItemId && i.DocumentId == f.DocumentId)
                    )
                    || (
                        f.SettlementId != null
                        && !(
                            db.AccountItems.Any(i => i.Id == f.ItemId && i.BookingId == f.BookingId)
                            && db.Settlements.Any(s =>
                                s.Id == f.SettlementId && s.BookingId == f.BookingId && s.Booking!.UndoneOn == null
                            )
                        )
                    )
                    || (
                        f.OtherMoneyId != null
                        && !db.OtherMoney.Any(m =>
                            m.Id == f.OtherMoneyId && m.BookingId == f.BookingId && m.Booking!.UndoneOn == null
                        )
                    )
                )
                .Select(f => f.Number)
                .Distinct()
                .ToListAsync(stop)
        )
            findings.Add($"{number}: is told to an authority and was not posted so");
    }

    private async Task DocumentsAsync(Findings findings, CancellationToken stop)
    {
        var last = 0;
        while (true)
        {
            var items = await db
                .AccountItems.AsNoTracking()
                .Where(i => i.DocumentId != null && i.Id > last)
                .OrderBy(i => i.Id)
                .Take(Batch)
                .ToListAsync(stop);
            if (items.Count == 0)
                return;
            last = items[^1].Id;
            var ids = items.ConvertAll(i => i.DocumentId!.Value);
            var documents = await db
                .Documents.AsNoTracking()
                .AsSplitQuery()
                .Include(d => d.Lines)
                .Include(d => d.Charges)
                .Include(d => d.Taxes)
                .Where(d => ids.Contains(d.Id))
                .ToDictionaryAsync(d => d.Id, stop);
            var kept = (
                await db
                    .TaxFigures.AsNoTracking()
                    .Where(f => f.DocumentId != null && ids.Contains(f.DocumentId.Value))
                    .ToListAsync(stop)
            ).ToLookup(f => f.DocumentId);
            var told = (
                await db
                    .TaxComponents.AsNoTracking()
                    .Where(c => c.Authority != null)
                    .Select(c => c.Id)
                    .ToListAsync(stop)
            ).ToHashSet();
            foreach (var item in items)
            {
                var document = documents[item.DocumentId!.Value];
                await SuppliedAsync(findings, document, stop);
                var own = kept[document.Id].ToList();
                var positions = own.Select(f => f.Position).ToHashSet();
                foreach (
                    var tax in document.Taxes.Where(t =>
                        t.ComponentId is { } id && told.Contains(id) && !positions.Contains(t.Position)
                    )
                )
                    findings.Add($"{document.Number}: its {tax.Component} is told to no authority");
                Compare(
                    findings,
                    document.Number!,
                    own,
                    TaxFigures.Of(
                        document,
                        item,
                        _home,
                        document.Facts?.SuppliedIn ?? Place.Home,
                        line => document.Facts?.Of(line.ItemId)?.IsGoods ?? false,
                        tax => positions.Contains(tax.Position) ? 0 : null
                    ),
                    withSupply: document.Facts?.SuppliedIn is not null
                );
            }
        }
    }

    /// <summary>
    /// What a document keeps of where it was supplied follows from its addresses, or from what it corrects; what was
    /// goods in that was goods in this.
    /// </summary>
    private async Task SuppliedAsync(Findings findings, Document document, CancellationToken stop)
    {
        if (document.Facts is not { SuppliedIn: { } place } facts)
            return;
        var corrected = await db.CorrectedAsync(document, stop);
        var follows =
            corrected?.SuppliedIn is { } there ? place == there
            : (document.Place ?? document.Addressee?.Parts?.Address) is { } to
            && document.Sender?.Parts?.Address is { } from
                ? place == TaxCase.ToldPlace(to, from)
            : false;
        findings.Unless(
            follows
                && facts.Items.All(i =>
                    i.IsGoods is not null && (corrected?.Facts?.Of(i.ItemId)?.IsGoods ?? i.IsGoods) == i.IsGoods
                ),
            $"{document.Number}: where it was supplied, or whether as goods, does not follow from it"
        );
    }

    private async Task SettlementsAsync(Findings findings, CancellationToken stop)
    {
        var settlements = await db
            .Settlements.AsNoTracking()
            .Include(s => s.Taxes)
            .Where(s => s.Booking!.UndoneOn == null && s.Taxes.Any())
            .ToListAsync(stop);
        if (settlements.Count == 0)
            return;
        var documents = settlements.Select(s => s.DocumentId).ToHashSet();
        var kept = await db
            .TaxFigures.AsNoTracking()
            .Include(f => f.Item)
            .Where(f => f.SettlementId != null || documents.Contains(f.DocumentId))
            .ToListAsync(stop);
        var billed = kept.ToLookup(f => f.DocumentId);
        var own = kept.ToLookup(f => f.SettlementId);
        foreach (var settlement in settlements)
        {
            var figures = own[settlement.Id].ToList();
            var invoice = billed[settlement.DocumentId].Where(f => f.DocumentId is not null).ToList();
            if (figures.Count == 0)
            {
                if (TaxFigures.AreTold(settlement, invoice))
                    findings.Add($"Settlement {settlement.Id}: is told to no authority, and its invoice is");
                continue;
            }

            if (figures[0].Item is not { } item || item.Amount != settlement.Amount)
            {
                findings.Add($"Settlement {settlement.Id}: is told with another amount than is on the account");
                continue;
            }

            Compare(findings, item.Number, figures, TaxFigures.Of(settlement, item, _home, invoice), withSupply: true);
        }
    }

    private async Task MoneyAsync(Findings findings, CancellationToken stop)
    {
        var taxes = (await db.TaxFigures.Where(f => f.OtherMoneyId != null).ToListAsync(stop)).ToLookup(f =>
            f.OtherMoneyId
        );
        foreach (var money in await db.OtherMoney.Where(m => m.Booking!.UndoneOn == null).ToListAsync(stop))
        {
            var own = taxes[money.Id].ToList();
            findings.Unless(
                own.Count == 0
                    || (
                        own.Sum(f => f.Tax) == money.Tax
                        && own[0].Taxable == money.Net
                        && own.TrueForAll(f =>
                            (f.Date, f.Number, f.Place, f.Supply)
                            == (money.Date, money.Text, Place.Home, Supply.Services)
                        )
                    ),
                $"{money.Text}: is told to an authority otherwise than it was posted"
            );
        }
    }

    /// <summary>What was taken over tells of itself and of no more than itself, at the rate that it names.</summary>
    private async Task OpeningsAsync(Findings findings, CancellationToken stop)
    {
        var taken = await db
            .TaxFigures.AsNoTracking()
            .Include(f => f.Item)
            .Where(f => f.DocumentId == null && f.SettlementId == null && f.OtherMoneyId == null && f.Item != null)
            .ToListAsync(stop);
        foreach (var one in taken.GroupBy(f => f.Item!.Id))
        {
            var item = one.First().Item!;
            findings.Unless(
                one.All(f =>
                    (f.Number, f.Date) == (item.Number, item.Date)
                    && f.Taxable * item.Sign >= 0
                    && Math.Abs(f.Tax - Rounding.Percent(f.Taxable, f.Percent)) <= 1
                    && Math.Abs(f.Taxable) + Math.Abs(f.Tax) <= item.HomeAmount
                )
                    && Math.Abs(one.Sum(f => f.Tax)) <= item.HomeAmount,
                $"{item.Number}: its tax, as taken over, does not follow from what is open of it"
            );
        }
    }

    /// <summary>What went against tax owed paid a return, and not more than it tells.</summary>
    private async Task PaymentsAsync(Findings findings, CancellationToken stop)
    {
        var paid = await (
            from moved in db.OtherMoney
            where
                moved.Booking!.UndoneOn == null
                && db.LedgerAccounts.Any(a => a.Id == moved.LedgerAccountId && a.Role == AccountRole.TaxOwed)
            join payment in db.Set<TaxPayment>() on moved.Id equals payment.OtherMoneyId into payments
            from payment in payments.DefaultIfEmpty()
            select new
            {
                moved.Text,
                moved.Amount,
                moved.LedgerAccountId,
                ReturnId = (int?)payment.ReturnId,
                Over = (long?)payment.Over,
            }
        ).ToListAsync(stop);
        foreach (var none in paid.Where(p => p.ReturnId is null))
            findings.Add($"{none.Text}: went against tax owed and pays no return");
        var returns = await db.TaxReturns.AsNoTracking().ToDictionaryAsync(r => r.Id, stop);
        var owed = await db.TaxAuthorities.ToDictionaryAsync(a => a.Id, a => a.OwedAccountId, stop);
        // A charge that was let go may have been paid before.
        var charged = (await db.TaxCharges.AsNoTracking().ToListAsync(stop)).ToLookup(c => c.ReturnId);
        await CarriesAsync(findings, returns, charged, stop);
        // What went on to another return has to be paid here once the payment that left it over is undone.
        var carriedOn = await db
            .TaxCarries.GroupBy(c => c.FromReturnId)
            .Select(g => new { g.Key, Amount = g.Sum(c => c.Amount) })
            .ToDictionaryAsync(g => g.Key, g => g.Amount, stop);
        foreach (var of in paid.Where(p => p.ReturnId is not null).GroupBy(p => p.ReturnId!.Value))
        {
            var filed = returns[of.Key];
            findings.Unless(
                of.All(p => owed[filed.AuthorityId] == p.LedgerAccountId),
                $"Tax return to {filed.Authority} for {filed.From:yyyy-MM-dd}: was paid on another authority's account"
            );
            // What was paid beyond what was left says so; what comes back is of what is owed to the business.
            var most =
                filed.Owed
                + charged[filed.Id].Sum(c => c.Amount)
                + of.Sum(p => p.Over ?? 0)
                + carriedOn.GetValueOrDefault(filed.Id);
            findings.Unless(
                // Something was left when more was paid, so it was never all of it that was over. How much was left then is
                // known no more: what was carried on to it may have been taken apart since.
                of.All(p => p.Over >= 0 && (p.Over == 0 || p.Over < Math.Abs(p.Amount)))
                    && -of.Sum(p => p.Amount) <= Math.Max(0, most)
                    && -of.Sum(p => p.Amount) >= Math.Min(0, filed.Owed),
                $"Tax return to {filed.Authority} for {filed.From:yyyy-MM-dd}: more was paid of it than it tells"
            );
        }
    }

    /// <summary>What is carried on stays with its authority, and is not more than what it goes against asks for.</summary>
    private async Task CarriesAsync(
        Findings findings,
        Dictionary<int, TaxReturn> returns,
        ILookup<int, TaxCharge> charged,
        CancellationToken stop
    )
    {
        var carries = await db.TaxCarries.AsNoTracking().ToListAsync(stop);
        foreach (var of in carries.GroupBy(c => c.ToReturnId))
        {
            var filed = returns[of.Key];
            findings.Unless(
                of.All(c =>
                    c.Amount > 0
                    && c.FromReturnId != c.ToReturnId
                    && returns[c.FromReturnId].AuthorityId == filed.AuthorityId
                )
                    && of.Sum(c => c.Amount) <= filed.Owed + charged[filed.Id].Sum(c => c.Amount),
                $"Tax return to {filed.Authority} for {filed.From:yyyy-MM-dd}: more was set against it than it asks for"
            );
        }
    }

    private static void Compare(
        Findings findings,
        string what,
        IReadOnlyCollection<TaxFigure> kept,
        IReadOnlyCollection<TaxFigure> expected,
        bool withSupply
    )
    {
        List<Whole> Sums(IEnumerable<TaxFigure> figures) =>
            [
                .. figures
                    .GroupBy(f => new Whole(
                        f.Position,
                        f.Category,
                        f.Component,
                        f.Percent,
                        withSupply ? f.Place : null,
                        withSupply ? f.Supply : null,
                        f.Date,
                        0,
                        0
                    ))
                    .Select(g => g.Key with { Taxable = g.Sum(f => f.Taxable), Tax = g.Sum(f => f.Tax) })
                    .OrderBy(w => w.Position)
                    .ThenBy(w => w.Supply),
            ];
        findings.Unless(
            Sums(kept).SequenceEqual(Sums(expected))
                && kept.All(f => f.Number == what)
                && kept.GroupBy(f => f.Position).All(g => g.Select(f => f.Supply).Distinct().Count() == g.Count()),
            $"{what}: is told to an authority otherwise than it was posted"
        );
    }

    private async Task ReturnsAsync(Findings findings, CancellationToken stop)
    {
        var returns = await db
            .TaxReturns.AsNoTracking()
            .OrderBy(r => r.AuthorityId)
            .ThenBy(r => r.From)
            .ThenBy(r => r.Amendment)
            .ToListAsync(stop);
        await PaymentsAsync(findings, stop);
        if (returns.Count == 0)
            return;
        findings.Count("filed tax returns", returns.Count);
        var sums = await db.Set<FiledRow>()
            .GroupBy(r => r.ReturnId)
            .Select(g => new
            {
                g.Key,
                Taxable = g.Sum(r => r.Taxable),
                Tax = g.Sum(r => r.Tax),
                After = g.Max(r => r.Day),
                Before = g.Min(r => r.Day),
            })
            .ToDictionaryAsync(g => g.Key, stop);
        foreach (var boxed in returns.Where(r => r.BoxSet.Count > 0 || r.Boxes.Count > 0))
        {
            var rows = await db.Set<FiledRow>().AsNoTracking().Where(r => r.ReturnId == boxed.Id).ToListAsync(stop);
            findings.Unless(
                boxed.Boxes.SequenceEqual(
                    BoxFigure.Of(boxed.BoxSet, rows.ConvertAll(r => r.Row()), _home, boxed.Typed)
                ),
                $"Tax return to {boxed.Authority} for {boxed.From:yyyy-MM-dd} to {boxed.To:yyyy-MM-dd}: its boxes do not follow from its rows"
            );
        }

        TaxReturn? before = null;
        var authorities = await db.TaxAuthorities.AsNoTracking().ToDictionaryAsync(a => a.Id, stop);
        foreach (var filed in returns)
        {
            var what = $"{filed.Title} to {filed.Authority} for {filed.From:yyyy-MM-dd} to {filed.To:yyyy-MM-dd}";
            // After the registration has ended, what is credited later has returns of its own.
            findings.Unless(
                authorities.TryGetValue(filed.AuthorityId, out var authority)
                    && authority.RegisteredFrom <= filed.From
                    && !(filed.From <= authority.RegisteredTo && authority.RegisteredTo < filed.To),
                $"{what}: the business was not registered with it on all of these days"
            );
            var sum = sums.GetValueOrDefault(filed.Id);
            findings.Unless(
                (sum?.Taxable ?? 0, sum?.Tax ?? 0) == (filed.Taxable, filed.Tax),
                $"{what}: its rows do not add up to what it tells"
            );
            findings.Unless(
                filed.To >= filed.From && filed.FiledOn > filed.To && (sum?.After ?? filed.To) <= filed.To,
                $"{what}: tells what counted after it"
            );
            findings.Unless(
                filed.Owed == ReturnOwed.Of(filed.BoxSet, filed.Boxes, filed.Typed, filed.Tax).Owed,
                $"{what}: asks for something else than its box to be paid"
            );
            findings.Unless(
                filed.TakenOn is null || (filed.TakenOn >= filed.FiledOn && filed.Reference.Length > 0),
                $"{what}: was taken before it was filed, or without an answer"
            );
            findings.Unless(
                filed.Amendment == 0
                    ? before?.AuthorityId != filed.AuthorityId || before.To.AddDays(1) == filed.From
                    : (before?.AuthorityId, before?.From, before?.To) == (filed.AuthorityId, filed.From, filed.To)
                        && before!.Amendment + 1 == filed.Amendment
                        && filed.Reason.Length > 0
                        && sum is not null
                        && sum.Before >= filed.From,
                $"{what}: does not follow the one before"
            );
            before = filed;
        }

        foreach (
            var wrong in await (
                from row in db.Set<FiledRow>()
                join filed in db.TaxReturns on row.ReturnId equals filed.Id
                where row.IsLate != (row.Day < filed.From)
                select filed.Authority + ", " + row.Number
            )
                .Distinct()
                .ToListAsync(stop)
        )
            findings.Add($"{wrong}: is called late in its return and is not, or the other way round");
        // What counts once and as a whole was told as a whole, or not at all.
        var told = db.Set<FiledRow>()
            .GroupBy(r => r.FigureId)
            .Select(g => new
            {
                FigureId = g.Key,
                Taxable = g.Sum(r => r.Taxable),
                Tax = g.Sum(r => r.Tax),
            });
        foreach (
            var number in await (
                from row in told
                join figure in db.TaxFigures on row.FigureId equals figure.Id
                join authority in db.TaxAuthorities on figure.AuthorityId equals authority.Id
                where
                    authority.Basis == TaxBasis.ByInvoice
                    && !db.Set<BasisChange>().Any(c => EF.Property<int>(c, "AuthorityId") == authority.Id)
                    && !db.TaxReturns.Any(r => r.AuthorityId == authority.Id && r.Basis == TaxBasis.ByPayment)
                    && (row.Taxable != figure.Taxable || row.Tax != figure.Tax)
                select figure.Number
            ).ToListAsync(stop)
        )
            findings.Add($"{number}: was told otherwise in filed returns than it counts");
    }
}
