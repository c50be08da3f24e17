using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Banking;

/// <summary>What came of a file.</summary>
/// <param name="Taken">Lines that are new.</param>
/// <param name="Known">Lines that were there already and were left out.</param>
/// <param name="Remarks">What is remarkable, in words: gaps, differences, what the reader left out.</param>
public sealed record TakenIn(int Statements, int Taken, int Known, IReadOnlyList<string> Remarks);

/// <summary>Takes in bank statements: each line once, with what does not add up pointed out.</summary>
public sealed class Statements(BooksContext db, BookWriter writer, BooksHead head, IStatementReader reader)
{
    /// <param name="accountId">The bank account that it is of; found by the account's number in the file where it is null.</param>
    /// <param name="columns">How a CSV is read; remembered for the account.</param>
    /// <exception cref="RefusalException">When it cannot be read, or no account fits.</exception>
    public async Task<TakenIn> TakeAsync(byte[] file, string name, int? accountId, CsvColumns? columns = null, string? formKey = null, CancellationToken stop = default)
    {
        var (statements, taken, known, remarks) = (0, 0, 0, new List<string>());
        await writer.WriteAsync(Right.Money, formKey, async () =>
        {
            var business = await head.BusinessAsync(stop);
            if (columns is not null && accountId is { } mapped) await RememberAsync(mapped, columns, stop);
            columns ??= await db.CsvMaps.Where(m => m.AccountId == accountId).Select(m => m.Columns).SingleOrDefaultAsync(stop);
            foreach (var read in reader.Read(file, name, columns, business.HomeCurrency))
            {
                var account = await AccountAsync(read, accountId, stop);
                if (!read.Currency.Equals(business.HomeCurrency)) throw new RefusalException("file", $"This statement is in {read.Currency}, and the books' bank accounts are in {business.HomeCurrency}.");
                var fingerprints = Fingerprints.Of(read.Lines);
                var there = (await db.BankLines.Where(l => l.AccountId == account && fingerprints.Contains(l.Fingerprint)).Select(l => l.Fingerprint).ToListAsync(stop)).ToHashSet();
                var found = await RemarksAsync(account, read, there.Count == read.Lines.Count && read.Lines.Count > 0, business.Format, stop);
                remarks.AddRange(found);
                known += there.Count;
                if (there.Count == read.Lines.Count && read.Lines.Count > 0) continue;
                var statement = new BankStatement(account, read, name, await head.TodayAsync(stop), string.Join('\n', found));
                for (var i = 0; i < read.Lines.Count; i++)
                    if (!there.Contains(fingerprints[i])) statement.Add(new BankLine(account, i, read.Lines[i], read.Currency, fingerprints[i]));
                db.BankStatements.Add(statement);
                taken += statement.Lines.Count;
                statements++;
            }

            await writer.SaveAsync(stop);
            await writer.TrailAsync($"Bank statement {Path.GetFileName(name)} taken in: {taken} new lines{(known > 0 ? $", {known} were there already" : "")}");
            return taken;
        }, stop);
        return new TakenIn(statements, taken, known, remarks);
    }

    private async Task RememberAsync(int accountId, CsvColumns columns, CancellationToken stop)
    {
        var map = await db.CsvMaps.FindAsync([accountId], stop);
        if (map is null) db.CsvMaps.Add(map = new CsvMap { AccountId = accountId });
        map.Columns = columns;
    }

    private async Task<int> AccountAsync(StatementFile read, int? chosen, CancellationToken stop)
    {
        var accounts = await db.LedgerAccounts.Where(a => a.Role == AccountRole.Money && a.Kind == MoneyKind.Bank && !a.Retired).ToListAsync(stop);
        var number = Iban.Compact(read.Account);
        var byNumber = number.Length == 0 ? null : accounts.Find(a => a.Iban.Length > 0 && (a.Iban == number || a.Iban.EndsWith(number, StringComparison.Ordinal)));
        if (byNumber is not null && chosen is { } other && other != byNumber.Id) throw new RefusalException("accountId", $"This statement is of {byNumber.Iban}, which is {byNumber.Name}. Choose that account.");
        if (byNumber is not null) return byNumber.Id;
        if (chosen is { } id && accounts.Find(a => a.Id == id) is { } account)
            return number.Length == 0 || account.Iban.Length == 0 ? id : throw new RefusalException("accountId", $"This statement is of {read.Account}, and {account.Name} is {account.Iban}. Choose the right account, or correct its number under Setup.");
        throw new RefusalException("accountId", read.Account.Length > 0 ? $"No bank account here has the number {read.Account}. Choose the account, or give it its IBAN under Setup." : "The file does not say which account it is of. Choose the account.");
    }

    /// <summary>Figures that do not add up, and gaps to the statement before.</summary>
    private async Task<List<string>> RemarksAsync(int account, StatementFile read, bool allKnown, DisplayFormat format, CancellationToken stop)
    {
        var remarks = read.Remarks.ToList();
        if (read.Difference(format) is { } difference) remarks.Add(difference);
        if (allKnown)
        {
            remarks.Add($"All {read.Lines.Count} lines were taken in before.");
            return remarks;
        }

        var from = read.From ?? (read.Lines.Count > 0 ? read.Lines.Min(l => l.Date) : default);
        var before = await db.BankStatements.Where(s => s.AccountId == account && s.Until <= from).OrderByDescending(s => s.Until).ThenByDescending(s => s.Id).FirstOrDefaultAsync(stop);
        if (before is null) return remarks;
        if (before.Closing is { } closing && read.Opening is { } opening && closing != opening)
            remarks.Add($"The statement before ended on {format.Date(before.Until)} with {format.WithCode(closing, read.Currency)}, and this one begins with {format.WithCode(opening, read.Currency)}: {format.WithCode(opening - closing, read.Currency)} lies between them. A statement is missing.");
        // Days without a line are no gap by themselves; only a statement that says from when it is leaves one open.
        else if ((before.Closing is null || read.Opening is null) && read.From is not null && from.DayNumber - before.Until.DayNumber > 7)
            remarks.Add($"Nothing is known of {format.Date(before.Until.AddDays(1))} to {format.Date(from.AddDays(-1))}. Was a statement forgotten?");
        return remarks;
    }
}
