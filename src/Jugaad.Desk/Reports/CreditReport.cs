using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Lists;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>A customer's credit as a paper and as files: what it shows on its page, and whether more is proposed.</summary>
public sealed class CreditReport(BooksContext db, BooksHead head, CustomerCredits credits)
{
    /// <param name="code">The customer's.</param>
    /// <exception cref="RefusalException">When there is no such customer.</exception>
    public async Task<Report> OfAsync(string code, CancellationToken stop = default)
    {
        var id = await db.Customers.Where(c => c.Code == code).Select(c => (int?)c.Id).SingleOrDefaultAsync(stop);
        if (id is null || await credits.OfAsync(id.Value, stop) is not { } credit)
            throw new RefusalException("customer", $"There is no customer with the code {code}.");
        var (customer, business) = (credit.Customer, await head.BusinessAsync(stop));
        var day = business.Format.Date;
        ReportRow Row(CreditLine line) =>
            new([line.What, line.Amount, line.Amount?.Currency.Code, line.Told], Key: line.Key);
        var rows = CreditLines.Used(credit).Concat(CreditLines.Record(credit, day)).Select(Row).ToList();
        if (customer.NoMoreOnAccount)
            rows.Add(new ReportRow(["Nothing more on account", null, null, customer.NoMoreReason], Key: "noMore"));
        if (credit.Proposed > 0)
            rows.Add(
                new ReportRow(
                    [
                        "A limit that follows from what they paid",
                        new Money(credit.Proposed, customer.Currency),
                        customer.Currency.Code,
                        "",
                    ],
                    Key: "proposed"
                )
            );
        rows.AddRange(
            credit.Passes.Select(p => new ReportRow(
                [
                    $"Let pass: {p.Title}",
                    new Money(p.Pass.UpTo, customer.Currency),
                    customer.Currency.Code,
                    $"{day(p.Pass.Day)}, {p.Pass.By}: {p.Pass.Reason}",
                ],
                $"/papers/{p.Pass.DocumentId}",
                Key: $"pass-{p.Pass.Id}"
            ))
        );
        return new Report(
            $"credit-{code.ToLowerInvariant()}",
            $"Credit of {customer.Name}",
            $"{customer.Code}, on {await head.TodayAsync(stop):yyyy-MM-dd}",
            [
                new("what", "What"),
                new("amount", "Amount", true),
                new("currency", "Currency", InFilesOnly: true),
                new("told", "Said"),
            ],
            rows
        );
    }
}
