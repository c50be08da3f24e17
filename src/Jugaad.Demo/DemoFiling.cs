using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Demo;

/// <summary>
/// The tax returns of the year: each month up to July told on the 15th of the next and paid on the 20th, one in two
/// parts; August's is due in three days.
/// </summary>
internal sealed class DemoFiling(DemoHistory history, DemoBank bank, int bankAccount)
{
    /// <summary>What was sold on this day was delivered before July was told, and counts there: it is late in
    /// August.</summary>
    internal static DateOnly LateDay { get; } = new(2025, 8, 19);

    internal static DateOnly LateTaxDate { get; } = new(2025, 7, 30);

    internal void Plan()
    {
        for (var month = DemoWorld.FirstDay.Month + 1; month < DemoWorld.Today.Month; month++)
            history.At(new DateOnly(DemoWorld.Today.Year, month, 15), FileAsync);
        foreach (var month in new[] { 4, 7 })
            history.At(new DateOnly(DemoWorld.Today.Year, month, 20), FileLevyAsync);
    }

    /// <summary>The quarter's levy, paid at once.</summary>
    private async Task FileLevyAsync()
    {
        var last = new DateOnly(history.Day.Year, history.Day.Month, 1).AddDays(-1);
        var first = last.AddDays(1).AddMonths(-3);
        var harbour = await history.WithAsync<TaxReturns, TaxAuthority>(r => r.AuthorityAsync(DemoWorld.Harbour));
        var then = await history.WithAsync<TaxReturns, ReturnThen>(r => r.ComputeAsync(harbour, first, last));
        var id = await history.WithAsync<ReturnFiling, int>(f =>
            f.FileAsync(new ReturnToFile(harbour.Id, first, last, then.Tax, ""))
        );
        if (then.Tax > 0)
            PayOn(history.Day.AddDays(2), id, then.Tax, DemoWorld.Harbour);
    }

    private async Task FileAsync()
    {
        var last = new DateOnly(history.Day.Year, history.Day.Month, 1).AddDays(-1);
        var first = new DateOnly(last.Year, last.Month, 1);
        var board = await history.WithAsync<BooksContext, TaxAuthority>(db =>
            db.TaxAuthorities.OrderBy(a => a.Id).FirstAsync()
        );
        var then = await history.WithAsync<TaxReturns, ReturnThen>(r => r.ComputeAsync(board, first, last));
        var id = await history.WithAsync<ReturnFiling, int>(f =>
            f.FileAsync(new ReturnToFile(board.Id, first, last, then.Tax, $"NTB-{first:yyyy-MM}"))
        );
        // June's was much: in two parts.
        var half = last.Month == 6 ? then.Tax / 2 : 0;
        PayOn(history.Day.AddDays(5), id, then.Tax - half);
        if (half > 0)
            PayOn(history.Day.AddDays(21), id, half);
    }

    private void PayOn(DateOnly day, int id, long amount, string to = "National Tax Board") =>
        history.At(
            day,
            async () =>
            {
                var booking = await history.WithAsync<ReturnPaying, int>(p =>
                    p.PayAsync(new ReturnToPay(id, day, bankAccount, amount))
                );
                bank.WentTo(day, to, "Tax", amount, booking);
            }
        );
}
