using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Banking;

/// <summary>
/// The statements and lines of an account that a file may repeat, read once before the books are written to. Statements
/// of one file are noted in it as they come, so that the second of two equal ones is known.
/// </summary>
internal sealed class KnownBook
{
    private sealed record Statement(int Id, string Format, DateOnly From, DateOnly Until, long? Opening, long? Closing);

    private static readonly DisplayFormat Any = new('.', DisplayFormat.DatePatterns[0]);

    private readonly Dictionary<int, Statement> _statements = [];
    private readonly Dictionary<(DateOnly, long), List<(int StatementId, KnownLine Line)>> _lines = [];
    private int _noted;

    /// <summary>
    /// Grows with every statement that is taken in or out, so that one can tell whether the book still holds.
    /// </summary>
    internal static async Task<(int Last, int Count)> StandAsync(BooksContext db, CancellationToken stop) =>
        (await db.BankLines.MaxAsync(l => (int?)l.Id, stop) ?? 0, await db.BankLines.CountAsync(stop));

    internal static async Task<KnownBook> ReadAsync(
        BooksContext db,
        int account,
        IReadOnlyList<StatementFile> files,
        CancellationToken stop
    )
    {
        var book = new KnownBook();
        var days = files.SelectMany(f => f.Lines).Select(l => l.Date).ToList();
        if (days.Count == 0)
            return book;
        var (first, last) = (days.Min(), days.Max());
        foreach (
            var s in await db
                .BankStatements.AsNoTracking()
                .Where(s => s.AccountId == account)
                .Select(s => new Statement(s.Id, s.Format, s.From, s.Until, s.Opening, s.Closing))
                .ToListAsync(stop)
        )
            book._statements[s.Id] = s;
        var lines = db
            .BankLines.AsNoTracking()
            .Where(l => l.AccountId == account && l.Date >= first && l.Date <= last)
            .OrderBy(l => l.Id)
            .AsAsyncEnumerable();
        await foreach (var l in lines.WithCancellation(stop))
            book.Note(
                l.StatementId,
                new KnownLine(
                    l.Id,
                    book._statements[l.StatementId].Format,
                    new StatementLine(l.Date, l.Amount, l.Name, l.Account, l.Text, l.Reference, l.BankReference)
                )
            );
        return book;
    }

    /// <summary>Which line that is there each line of a statement is; null for new ones.</summary>
    internal IReadOnlyList<int?> Find(StatementFile read)
    {
        if (read.Lines.Count == 0)
            return [];
        var (first, last) = (read.Lines.Min(l => l.Date), read.Lines.Max(l => l.Date));
        var alike = read
            .Lines.Select(l => (l.Date, l.Amount))
            .Distinct()
            .SelectMany(key => _lines.GetValueOrDefault(key, []))
            .ToList();
        // The balances prove it: what ends where this one begins has none of its lines, and neither has what begins
        // where it ends.
        var from = read.From ?? first;
        var addsUp = read.Difference(Any) is null;
        bool Before(Statement s) => s.Closing is not null && s.Closing == read.Opening && s.Until <= first && addsUp;
        bool After(Statement s) =>
            s.Opening is not null && s.Opening == read.Closing && s.From >= last && s.From > from;
        bool Same(Statement s) =>
            s.Opening is not null && s.Opening == read.Opening && s.Closing is not null && s.Closing == read.Closing;
        var apart = alike
            .Select(a => a.StatementId)
            .Distinct()
            .Where(id => _statements[id] is var s && !Same(s) && (Before(s) || After(s)))
            .ToHashSet();
        return KnownLines.Find(
            read.Format,
            read.Lines,
            [
                .. alike
                    .Where(a => !apart.Contains(a.StatementId))
                    .Select(a => a.Line)
                    .OrderBy(l => l.Id < 0 ? int.MaxValue : l.Id),
            ]
        );
    }

    /// <summary>
    /// Notes a statement of the file that is being taken in; its lines have no ids yet, and get others below zero.
    /// </summary>
    internal void Note(BankStatement statement, string format, IReadOnlyList<StatementLine> lines)
    {
        var id = --_noted;
        _statements[id] = new Statement(
            id,
            format,
            statement.From,
            statement.Until,
            statement.Opening,
            statement.Closing
        );
        foreach (var line in lines)
            Note(id, new KnownLine(--_noted, format, line));
    }

    private void Note(int statementId, KnownLine line)
    {
        if (!_lines.TryGetValue((line.Line.Date, line.Line.Amount), out var list))
            _lines[(line.Line.Date, line.Line.Amount)] = list = [];
        list.Add((statementId, line));
    }
}
