using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Numbering;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Number series: several for each kind of paper, one of them the usual one.</summary>
public sealed class SeriesDesk(BooksContext db, BookWriter writer, BooksHead head, Numbers numbers, Retiring retiring)
{
    /// <summary>What series can be for, with the words for it.</summary>
    public static IReadOnlyList<(string UsedFor, string Words)> Uses { get; } =
    [
        .. KindPolicy.All.Select(p => (p.Kind.ToString(), p.Word + "s")),
        ("Receipt", "receipts"),
        ("Refund", "refunds"),
        (Numbers.Summary, "summaries of sales"),
    ];

    /// <exception cref="RefusalException">When the pattern cannot be, or would give numbers that another series
    /// gives.</exception>
    public Task<int> AddAsync(
        string name,
        string usedFor,
        string pattern,
        SeriesRestart restarts,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                Texts.Required(refusals, "name", name, 60, "Give the series a name to choose it by.");
                Texts.Required(refusals, "pattern", pattern, 40, "Give the pattern, such as INV-{yyyy}-{0000}.");
                if (!Uses.Any(u => u.UsedFor == usedFor))
                    refusals.Add("usedFor", "Choose what the series is for.");
                refusals.ThrowIfAny();
                var made = new Series(name, usedFor, pattern, restarts);
                if (await db.Series.AnyAsync(s => s.UsedFor == usedFor && s.Pattern == made.Pattern, stop))
                    refusals.Add(
                        "pattern",
                        "Another series of this kind has this pattern, so numbers would come twice. Choose other letters."
                    );
                if (await db.Series.AnyAsync(s => s.UsedFor == usedFor && s.Name == made.Name, stop))
                    refusals.Add("name", "Another series of this kind has this name. Choose another.");
                refusals.ThrowIfAny();
                db.Series.Add(made);
                await writer.TrailAsync($"Number series {made.Name} added, {made.Pattern}");
                await writer.SaveAsync(stop);
                return made.Id;
            }
        );

    public Task<int> MakeUsualAsync(int id, Once once = default) =>
        ChangeAsync(
            id,
            once,
            async series =>
            {
                if (series.Retired)
                    throw new RefusalException("", $"{series.Name} is not offered any more. Offer it again first.");
                foreach (var other in await db.Series.Where(s => s.UsedFor == series.UsedFor).ToListAsync(once.Stop))
                    other.MakeUsual(other.Id == id);
                return $"{series.Name} is the usual series now";
            }
        );

    public Task<int> RetireAsync(int id, bool retired, Once once = default) =>
        retiring.RetireAsync<Series>(
            Right.Setup,
            id,
            retired,
            once,
            series => $"Number series {series.Name}",
            async (series, stop) =>
            {
                if (!await db.Series.AnyAsync(s => s.UsedFor == series.UsedFor && !s.Retired && s.Id != id, stop))
                    throw new RefusalException("", $"{series.Name} is the only series of its kind. Add another first.");
            }
        );

    /// <summary>Goes on from a count, such as where another program left off.</summary>
    public Task<int> GoOnFromAsync(int id, DateOnly date, int next, Once once = default) =>
        ChangeAsync(
            id,
            once,
            async series =>
            {
                series.GoOnFrom(date, next, (await head.BusinessAsync(once.Stop)).YearBegins);
                return $"Number series {series.Name} goes on with {(await numbers.NextAsync(series, date, once.Stop)).Number}";
            }
        );

    private Task<int> ChangeAsync(int id, Once once, Func<Series, Task<string>> change) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var series =
                    await db.Series.SingleOrDefaultAsync(s => s.Id == id, stop)
                    ?? throw new RefusalException("", $"There is no number series {id}.");
                await writer.TrailAsync(await change(series));
                return id;
            }
        );
}
