using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Receiving;

/// <summary>A refund that waits to go to the bank.</summary>
public sealed record RefundWaiting(
    int Id,
    string Number,
    int CustomerId,
    string Customer,
    string Payee,
    string Iban,
    DateOnly Date,
    Currency Currency,
    long Amount,
    int MoneyAccountId,
    string From
);

/// <summary>A payment file that was made, without what is in it.</summary>
/// <param name="Total">In minor units of the currency.</param>
/// <param name="TakenBackOn">Null while it stands.</param>
public sealed record PaymentFileRow(
    int Id,
    string Reference,
    DateOnly MadeOn,
    DateOnly PayOn,
    int Count,
    long Total,
    Currency Currency,
    DateOnly? TakenBackOn
);

/// <summary>Gathers refunds by bank into files that the bank takes.</summary>
public sealed class PaymentFiles(BooksContext db, BookWriter writer, BooksHead head, IPaymentFileWriter files)
{
    /// <summary>Refunds that were not given to a bank yet, the oldest first.</summary>
    public async Task<IReadOnlyList<RefundWaiting>> WaitingAsync(CancellationToken stop = default) =>
        await (
            from refund in db.Refunds.AsNoTracking()
            where refund.Iban != "" && refund.PaymentFileId == null && refund.Booking!.UndoneOn == null
            join customer in db.Customers on refund.CustomerId equals customer.Id
            join account in db.LedgerAccounts on refund.MoneyAccountId equals account.Id
            orderby refund.Date, refund.Id
            select new RefundWaiting(
                refund.Id,
                refund.Number,
                customer.Id,
                customer.Name,
                refund.PayeeName,
                refund.Iban,
                refund.Date,
                refund.Currency,
                refund.Amount,
                account.Id,
                account.Name
            )
        ).ToListAsync(stop);

    /// <summary>The newest files, without what is in them.</summary>
    public async Task<IReadOnlyList<PaymentFileRow>> MadeAsync(CancellationToken stop = default) =>
        await db
            .PaymentFiles.AsNoTracking()
            .OrderByDescending(f => f.Id)
            .Take(20)
            .Select(f => new PaymentFileRow(
                f.Id,
                f.Reference,
                f.MadeOn,
                f.PayOn,
                f.Count,
                f.Total,
                f.Currency,
                f.TakenBackOn
            ))
            .ToListAsync(stop);

    public Task<PaymentFile?> FindAsync(int id, CancellationToken stop = default) =>
        db.PaymentFiles.AsNoTracking().SingleOrDefaultAsync(f => f.Id == id, stop);

    /// <summary>Makes one file of refunds of one account and one currency.</summary>
    /// <returns>The file's id.</returns>
    /// <exception cref="RefusalException">When there are none, or they cannot go together.</exception>
    public Task<int> MakeAsync(IReadOnlyCollection<int> refundIds, DateOnly payOn, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var today = await head.TodayAsync(stop);
                var refunds = await db
                    .Refunds.Where(r =>
                        refundIds.Contains(r.Id)
                        && r.Iban != ""
                        && r.PaymentFileId == null
                        && r.Booking!.UndoneOn == null
                    )
                    .OrderBy(r => r.Id)
                    .ToListAsync(stop);
                var refusals = new Refusals();
                if (refundIds.Count == 0)
                    refusals.Add("", "Tick the refunds that are to go to the bank.");
                else if (refunds.Count != refundIds.Distinct().Count())
                    refusals.Add("", "Some of these are in a file already, or were undone. Load the page again.");
                else if (refunds.Select(r => (r.MoneyAccountId, r.Currency)).Distinct().Count() > 1)
                    refusals.Add(
                        "",
                        "One file pays from one account and in one currency. Tick those of one account and currency."
                    );
                if (payOn < today)
                    refusals.Add("payOn", "The bank cannot pay on a day that has gone. Choose today or a later one.");
                refusals.ThrowIfAny();
                var account = await db.LedgerAccounts.SingleAsync(a => a.Id == refunds[0].MoneyAccountId, stop);
                if (account.Role != AccountRole.Money || account.Iban.Length == 0)
                    throw new RefusalException(
                        "",
                        $"{account.Name} has no IBAN, so no bank can be told to pay from it. Give it under Setup, accounts."
                    );
                var business = await head.BusinessAsync(stop);
                var reference = $"PAY-{today:yyyyMMdd}-{await db.PaymentFiles.CountAsync(stop) + 1}";
                var content = files.Write(
                    reference,
                    today,
                    payOn,
                    new PayingAccount(business.Name, account.Iban, account.Bic),
                    refunds[0].Currency,
                    refunds
                );
                var file = new PaymentFile(
                    reference,
                    today,
                    payOn,
                    account.Id,
                    refunds[0].Currency,
                    refunds,
                    content,
                    writer.Who
                );
                db.PaymentFiles.Add(file);
                await writer.SaveAsync(stop);
                foreach (var refund in refunds)
                    refund.PaymentFileId = file.Id;
                await writer.TrailAsync(
                    $"Payment file {reference} made of {refunds.Count} {(refunds.Count == 1 ? "refund" : "refunds")}, {new Money(file.Total, file.Currency)} {file.Currency}"
                );
                return file.Id;
            }
        );

    /// <summary>Takes a file back that did not go to the bank: its refunds wait again.</summary>
    public Task<int> TakeBackAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var file =
                    await db.PaymentFiles.FindAsync([id], stop)
                    ?? throw new RefusalException("", "This payment file is not there.");
                if (
                    await db
                        .Refunds.Where(r =>
                            r.PaymentFileId == id
                            && db.Set<Core.Banking.LinePlacement>().Any(p => p.JoinedBookingId == r.BookingId)
                        )
                        .Select(r => r.Number)
                        .FirstOrDefaultAsync(stop) is
                    { } seen
                )
                    throw new RefusalException(
                        "",
                        $"{seen} of this file was seen at the bank, so the file went there. It cannot be taken back."
                    );
                file.TakeBack(await head.TodayAsync(stop));
                foreach (var refund in await db.Refunds.Where(r => r.PaymentFileId == id).ToListAsync(stop))
                    refund.PaymentFileId = null;
                await writer.TrailAsync($"Payment file {file.Reference} taken back; it did not go to the bank");
                return id;
            }
        );
}
