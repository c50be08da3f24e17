using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>Labels with the addresses of customers.</summary>
public sealed class Labels(BooksContext db, BooksHead head, PaperRoom papers, IPaperPrinter printer)
{
    /// <param name="shape">The key of a sheet of <see cref="LabelShape"/>.</param>
    /// <param name="skip">How many labels of the first sheet are used up already.</param>
    /// <exception cref="RefusalException">When there is no such sheet, or nobody to print for.</exception>
    public async Task<byte[]> PdfAsync(
        IReadOnlyList<int> customers,
        string shape,
        int skip,
        CancellationToken stop = default
    )
    {
        var sheet =
            LabelShape.All.FirstOrDefault(s => s.Key == shape)
            ?? throw new RefusalException("sheet", "Choose a sheet of labels.");
        var business = await head.BusinessAsync(stop);
        var chosen = await db.Customers.AsNoTracking().Where(c => customers.Contains(c.Id)).ToListAsync(stop);
        var addressees = chosen
            .Where(c => c.Address.Lines("").Any())
            .OrderBy(c => c.Name, StringComparer.Ordinal)
            .Select(c => Parties.AddresseeOf(c, business))
            .ToList();
        if (addressees.Count == 0)
            throw new RefusalException("", "None of them has an address to print.");
        return await papers.PrintAsync(
            [LabelSheet.Compose(addressees, sheet, skip, printer.Measure)],
            await head.TodayAsync(stop),
            stop
        );
    }
}
