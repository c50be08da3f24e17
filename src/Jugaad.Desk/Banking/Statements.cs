using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
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
    /// <summary>
    /// Each statement is compared with those before it, so that a file of very many would hold the books too long.
    /// </summary>
    private const int MostStatements = 1_000;

    /// <inheritdoc cref="ReadInAsync(Stream, string, int?, CsvColumns?, string?, CancellationToken)"/>
    public async Task<TakenIn> ReadInAsync(
        byte[] file,
        string name,
        int? accountId,
        CsvColumns? columns = null,
        Once once = default
    )
    {
        using var stream = new MemoryStream(file, writable: false);
        return await ReadInAsync(stream, name, accountId, columns, once);
    }

    /// <param name="file">It is read before anything is written, so that a large or hostile one keeps nobody from
    /// writing.</param>
    /// <param name="accountId">The bank account that it is of; found by the account's number in the file where it is
    /// null.</param>
    /// <param name="columns">How a CSV is read; remembered for the account.</param>
    /// <exception cref="RefusalException">When it cannot be read, or no account fits.</exception>
    public async Task<TakenIn> ReadInAsync(
        Stream file,
        string name,
        int? accountId,
        CsvColumns? columns = null,
        Once once = default
    )
    {
        writer.Must(Right.Money);
        var business = await head.BusinessAsync(once.Stop);
        var said =
            columns
            ?? await db
                .CsvMaps.AsNoTracking()
                .Where(m => m.AccountId == accountId)
                .Select(m => m.Columns)
                .SingleOrDefaultAsync(once.Stop);
        var files = reader.Read(
            file,
            name,
            said,
            await db
                .LedgerAccounts.Where(a => a.Id == accountId)
                .Select(a => a.Currency)
                .SingleOrDefaultAsync(once.Stop)
                ?? business.HomeCurrency
        );
        if (files.Count > MostStatements)
            throw new RefusalException(
                "file",
                $"The file has {files.Count} statements; at most {MostStatements} are taken in at once. Split it."
            );
        var stand = await KnownBook.StandAsync(db, once.Stop);
        var found = await FindAsync(files, accountId, business, once.Stop);
        await writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                if (await KnownBook.StandAsync(db, stop) != stand)
                    throw new RefusalException(
                        "file",
                        "Other bank lines came or went while this file was read, so nothing of it was taken in. Take it in again."
                    );
                if (columns is not null && accountId is { } mapped)
                    await RememberAsync(mapped, columns, stop);
                foreach (var one in found)
                    await PutInAsync(one, name, business, stop);
                var known = found.Sum(f => f.Known);
                await writer.TrailAsync(
                    $"Bank statement {Path.GetFileName(name)} taken in: {found.Sum(f => f.Fresh.Count)} new lines{(known > 0 ? $", {known} were there already" : "")}"
                );
                return found.Sum(f => f.Fresh.Count);
            }
        );
        return new TakenIn(
            found.Count(f => !f.AllKnown),
            found.Sum(f => f.Fresh.Count),
            found.Sum(f => f.Known),
            [.. found.SelectMany(f => f.Remarks)]
        );
    }

    /// <summary>A statement of a file, and what of it is new.</summary>
    private sealed record Found(
        StatementFile Read,
        int Account,
        IReadOnlyList<(int Position, StatementLine Line)> Fresh
    )
    {
        internal int Known => Read.Lines.Count - Fresh.Count;

        /// <summary>It has lines, and each was there already.</summary>
        internal bool AllKnown => Read.Lines.Count > 0 && Fresh.Count == 0;

        /// <summary>What was remarkable when it was put in.</summary>
        internal List<string> Remarks { get; } = [];
    }

    /// <summary>Finds what is new before anything is written, however much there is to compare.</summary>
    private async Task<List<Found>> FindAsync(
        IReadOnlyList<StatementFile> files,
        int? accountId,
        Business business,
        CancellationToken stop
    )
    {
        var found = new List<Found>();
        var books = new Dictionary<int, KnownBook>();
        foreach (var read in files)
        {
            var account = await AccountAsync(read, accountId, business.HomeCurrency, stop);
            var of = await db.LedgerAccounts.Where(a => a.Id == account).SingleAsync(stop);
            if (!read.Currency.Equals(of.Currency ?? business.HomeCurrency))
                throw new RefusalException(
                    "file",
                    $"This statement is in {read.Currency}, and {of.Name} is in {of.Currency ?? business.HomeCurrency}. Make an account in {read.Currency} under Setup, with the same number where the bank has one for all its currencies."
                );
            if (!books.TryGetValue(account, out var book))
                books[account] = book = await KnownBook.ReadAsync(db, account, files, stop);
            var there = book.Find(read);
            var one = new Found(
                read,
                account,
                [.. read.Lines.Select((line, i) => (i, line)).Where(l => there[l.i] is null)]
            );
            if (!one.AllKnown)
                book.Note(
                    new BankStatement(account, read, "", default, ""),
                    read.Format,
                    [.. one.Fresh.Select(f => f.Line)]
                );
            found.Add(one);
        }

        return found;
    }

    private async Task PutInAsync(Found one, string name, Business business, CancellationToken stop)
    {
        one.Remarks.AddRange(await RemarksAsync(one.Account, one.Read, one.AllKnown, business.Format, stop));
        if (one.AllKnown)
            return;
        var statement = new BankStatement(
            one.Account,
            one.Read,
            Path.GetFileName(name),
            await head.TodayAsync(stop),
            string.Join('\n', one.Remarks)
        );
        db.BankStatements.Add(statement);
        await writer.SaveAsync(stop);
        var lines = one.Fresh.Select(f => new BankLine(one.Account, f.Position, f.Line, one.Read.Currency));
        await db.QuicklyInsertAsync(
            lines,
            new Dictionary<string, object> { [nameof(BankLine.StatementId)] = statement.Id },
            stop
        );
    }

    /// <summary>Takes a statement back out with its lines, as if it had not come.</summary>
    /// <exception cref="RefusalException">When a line of it is placed.</exception>
    public Task<int> TakeOutAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var statement =
                    await db.BankStatements.SingleOrDefaultAsync(s => s.Id == id, stop)
                    ?? throw new RefusalException("", "This statement is not there any more.");
                var placed = await db.BankLines.CountAsync(l => l.StatementId == id && l.Placements.Any(), stop);
                if (placed > 0)
                    throw new RefusalException(
                        "",
                        $"{placed} of its lines {(placed == 1 ? "is" : "are")} placed. Put {(placed == 1 ? "it" : "them")} back first; what was booked for {(placed == 1 ? "it" : "them")} is undone then."
                    );
                var lines = await db.BankLines.Where(l => l.StatementId == id).ExecuteDeleteAsync(stop);
                db.BankStatements.Remove(statement);
                await writer.TrailAsync(
                    $"Bank statement {statement.FileName} of {statement.From:yyyy-MM-dd} to {statement.Until:yyyy-MM-dd} taken out again, with {lines} lines"
                );
                return id;
            }
        );

    /// <summary>Takes one line back out; its statement then says that something is missing.</summary>
    /// <exception cref="RefusalException">When it is placed.</exception>
    public Task<int> TakeLineOutAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var line =
                    await db.BankLines.Include(l => l.Placements).SingleOrDefaultAsync(l => l.Id == id, stop)
                    ?? throw new RefusalException("", "This bank line is not there any more.");
                if (line.Placements.Count > 0)
                    throw new RefusalException(
                        "",
                        "It is placed. Put it back first; what was booked for it is undone then."
                    );
                db.BankLines.Remove(line);
                await writer.TrailAsync(
                    $"Bank line of {line.Date:yyyy-MM-dd}, {new Money(line.Amount, line.Currency)} {line.Currency}, {(line.Name.Length > 0 ? line.Name : "no name")}, taken out"
                );
                return line.StatementId;
            }
        );

    /// <summary>Forgets how the CSV statements of an account are read, so that it is asked anew.</summary>
    public Task<int> ForgetColumnsAsync(int accountId, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var map =
                    await db.CsvMaps.FindAsync([accountId], stop)
                    ?? throw new RefusalException("", "Nothing is remembered for this account.");
                db.CsvMaps.Remove(map);
                await writer.TrailAsync(
                    $"Columns of CSV statements forgotten for {await db.LedgerAccounts.Where(a => a.Id == accountId).Select(a => a.Name).SingleAsync(stop)}"
                );
                return accountId;
            }
        );

    private async Task RememberAsync(int accountId, CsvColumns columns, CancellationToken stop)
    {
        var map = await db.CsvMaps.FindAsync([accountId], stop);
        if (map is null)
            db.CsvMaps.Add(map = new CsvMap { AccountId = accountId });
        map.Columns = columns;
    }

    private async Task<int> AccountAsync(StatementFile read, int? chosen, Currency home, CancellationToken stop)
    {
        var accounts = await db
            .LedgerAccounts.Where(a => a.Role == AccountRole.Money && a.Kind == MoneyKind.Bank && !a.Retired)
            .ToListAsync(stop);
        var number = Iban.Compact(read.Account);
        var byNumber =
            number.Length == 0
                ? null
                : accounts
                    .Where(a =>
                        a.Iban.Length > 0 && (a.Iban == number || a.Iban.EndsWith(number, StringComparison.Ordinal))
                    )
                    // One number may have a side in each currency.
                    .OrderByDescending(a => read.Currency.Equals(a.Currency ?? home))
                    .FirstOrDefault();
        if (byNumber is not null && chosen is { } other && other != byNumber.Id)
            throw new RefusalException(
                "accountId",
                $"This statement is of {byNumber.Iban}, which is {byNumber.Name}. Choose that account."
            );
        if (byNumber is not null)
            return byNumber.Id;
        if (chosen is { } id && accounts.Find(a => a.Id == id) is { } account)
            return number.Length == 0 || account.Iban.Length == 0
                ? id
                : throw new RefusalException(
                    "accountId",
                    $"This statement is of {read.Account}, and {account.Name} is {account.Iban}. Choose the right account, or correct its number under Setup."
                );
        throw new RefusalException(
            "accountId",
            read.Account.Length > 0
                ? $"No bank account here has the number {read.Account}. Choose the account, or give it its IBAN under Setup."
                : "The file does not say which account it is of. Choose the account."
        );
    }

    /// <summary>Figures that do not add up, and gaps to the statement before.</summary>
    private async Task<List<string>> RemarksAsync(
        int account,
        StatementFile read,
        bool allKnown,
        DisplayFormat format,
        CancellationToken stop
    )
    {
        var remarks = read.Remarks.ToList();
        if (read.Difference(format) is { } difference)
            remarks.Add(difference);
        if (allKnown)
        {
            remarks.Add($"All {read.Lines.Count} lines were taken in before.");
            return remarks;
        }

        var from = read.From ?? (read.Lines.Count > 0 ? read.Lines.Min(l => l.Date) : default);
        var before = await db
            .BankStatements.Where(s => s.AccountId == account && s.Until <= from)
            .OrderByDescending(s => s.Until)
            .ThenByDescending(s => s.Id)
            .FirstOrDefaultAsync(stop);
        if (before is null)
            return remarks;
        if (before.Closing is { } closing && read.Opening is { } opening && closing != opening)
            remarks.Add(
                $"The statement before ended on {format.Date(before.Until)} with {format.WithCode(closing, read.Currency)}, and this one begins with {format.WithCode(opening, read.Currency)}: {format.WithCode(opening - closing, read.Currency)} lies between them. A statement is missing."
            );
        // Days without a line are no gap by themselves; only a statement that says from when it is leaves one open.
        else if (
            (before.Closing is null || read.Opening is null)
            && read.From is not null
            && from.DayNumber - before.Until.DayNumber > 7
        )
            remarks.Add(
                $"Nothing is known of {format.Date(before.Until.AddDays(1))} to {format.Date(from.AddDays(-1))}. Was a statement forgotten?"
            );
        return remarks;
    }
}
