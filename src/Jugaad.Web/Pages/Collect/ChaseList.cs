using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Collect;

/// <summary>Whom to ask for money, as the address narrows it.</summary>
public sealed class ChaseList(ChaseScreens screens, BooksHead head) : IListed
{
    public const int UsualSilence = 14;

    public async Task<ChaseFilter> FilterAsync(Asked asked)
    {
        var business = await head.BusinessAsync();
        return new ChaseFilter(
            asked.Text("show"),
            int.TryParse(asked.Text("days"), out var days) && days is > 0 and < 1000 ? days : UsualSilence,
            int.TryParse(asked.Text("who"), out var who) ? who : 0,
            Least(business.Format, asked.Text("least"), business.HomeCurrency),
            asked.Search
        );
    }

    public async Task<IReadOnlyList<ChaseRow>> AllAsync(Asked asked, CancellationToken stop = default) =>
        await screens.ListAsync(await FilterAsync(asked), stop);

    public async Task<ListTotals> TotalsAsync(Asked asked, CancellationToken stop)
    {
        var all = await AllAsync(asked, stop);
        var (open, late) = (Sums.Of(all.SelectMany(r => r.Open)), Sums.Of(all.SelectMany(r => r.Late)));
        return new ListTotals(
            all.Count,
            [
                .. open.Select(o => new ListSum(
                    o.Currency,
                    new Dictionary<string, long> { ["late"] = late.In(o.Currency), ["open"] = o.Minor }
                )),
            ]
        );
    }

    public async Task<Report> ReportAsync(Asked asked, CancellationToken stop)
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        return new Report(
            "whom-to-ask",
            "Whom to ask for money",
            "",
            [
                new("customer", "Customer"),
                new("askFor", "Ask for"),
                new("phone", "Telephone"),
                new("looksAfter", "Looked after by"),
                new("currency", "Currency"),
                new("late", "Late, to be asked for", true),
                new("open", "Open", true),
                new("worth", $"Worth of a contact {home.Code}", true),
                new("lastContact", "Last contact"),
                new("askAgain", "Ask again"),
                new("why", "Why"),
            ],
            [
                // A row for each currency; what is said of the customer stands in the first.
                .. (await AllAsync(asked, stop)).SelectMany(r =>
                    r.Open.Select(
                        (open, i) =>
                            new ReportRow([
                                r.Name,
                                r.AskFor,
                                r.Phone,
                                r.LooksAfter,
                                open.Currency.Code,
                                new Money(r.Late.In(open.Currency), open.Currency),
                                open,
                                i == 0 ? new Money(r.Worth, home) : null,
                                r.LastContact,
                                r.AskAgainOn,
                                i == 0 ? r.Why.ToString() : "",
                            ])
                    )
                ),
            ]
        );
    }

    /// <summary>An amount that cannot be read narrows nothing.</summary>
    private static long Least(DisplayFormat format, string typed, Currency home)
    {
        if (typed.Trim().Length == 0)
            return 0;
        try
        {
            return format.ReadAmount(typed, home, "least");
        }
        catch (RefusalException)
        {
            return 0;
        }
    }
}
