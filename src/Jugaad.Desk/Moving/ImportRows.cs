using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;

namespace Jugaad.Desk.Moving;

/// <summary>The rows of a file that is moved in, with what is known of the books to take them by.</summary>
internal sealed class ImportRows
{
    private const int BetweenLooks = 500;

    private readonly Table _table;
    private readonly ImportSettings _settings;
    private readonly DisplayFormat _format;

    private ImportRows(ImportRun run, Table table, RowTaker taker, DisplayFormat format) =>
        (_table, _settings, Taker, _format) = (table, run.Settings, taker, format);

    internal RowTaker Taker { get; }

    /// <summary>Reads what the rows point to, which takes a while in large books.</summary>
    internal static async Task<ImportRows> PrepareAsync(
        BooksContext db,
        Business business,
        ImportRun run,
        Table table,
        bool onlyTries,
        DateOnly today,
        CancellationToken stop
    )
    {
        RowTaker taker = run.Kind switch
        {
            MovingKind.Customers => new CustomerRows(db, business) { OnlyTries = onlyTries },
            MovingKind.Items => new ItemRows(db, business) { OnlyTries = onlyTries },
            MovingKind.Prices => new PriceRows(db) { OnlyTries = onlyTries },
            MovingKind.ItemNumbers => new ItemNumberRows(db) { OnlyTries = onlyTries },
            MovingKind.OpenItems => new OpenItemRows(db, business, today) { OnlyTries = onlyTries },
            _ => new BalanceRows(db, business) { OnlyTries = onlyTries },
        };
        await taker.PrepareAsync(stop);
        return new ImportRows(run, table, taker, business.Format);
    }

    /// <summary>Stages some of the rows and says what becomes of them; nothing is saved.</summary>
    /// <param name="from">The first row, from 0.</param>
    /// <param name="upTo">The row after the last one.</param>
    internal ImportReport Take(int from, int upTo, CancellationToken stop)
    {
        var (refused, counts) = (new List<RefusedRow>(), new Dictionary<RowFate, int>());
        for (var i = from; i < upTo; i++)
        {
            if (i % BetweenLooks == 0)
                stop.ThrowIfCancellationRequested();
            var fate = Take(i, refused);
            counts[fate] = counts.GetValueOrDefault(fate) + 1;
        }

        return new ImportReport(
            counts.GetValueOrDefault(RowFate.New),
            counts.GetValueOrDefault(RowFate.Changed),
            counts.GetValueOrDefault(RowFate.Same),
            refused
        );
    }

    private RowFate Take(int index, List<RefusedRow> refused)
    {
        var cells = _table.Rows[index];
        var figures = _settings
            .Columns.Where(c => _table.Figures.Contains((index, c.Value)))
            .Select(c => c.Key)
            .ToHashSet();
        try
        {
            return Taker.Take(
                new RowCells(
                    _settings.Columns.ToDictionary(c => c.Key, c => cells[c.Value]),
                    new CellFormat(_settings.DecimalMark, _settings.Dates),
                    figures
                )
            );
        }
        catch (RefusalException wrong)
        {
            refused.Add(
                new RefusedRow(
                    index + 1,
                    string.Join(
                        " ",
                        wrong.Refusals.Select(r =>
                            r.Field.Length > 0
                                ? $"{MovingFields.HeadOf(r.Field)}: {r.Phrase.In(_format)}"
                                : r.Phrase.In(_format)
                        )
                    )
                )
            );
            return RowFate.Refused;
        }
    }
}
