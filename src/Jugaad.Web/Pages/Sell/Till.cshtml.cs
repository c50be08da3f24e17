using Jugaad.Core.Accounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Counter;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>Counts the cash boxes at closing, and shows how they were counted before.</summary>
[Needs(Right.Money)]
[Posts(Right.Money)]
public sealed class TillModel(BooksContext db, Tills tills, ReceiveScreens screens) : DeskPage
{
    private const int Most = 50;

    public sealed record Box(int Id, string Name, long Expected, DateOnly? Last);

    public IReadOnlyList<Box> Boxes { get; private set; } = [];

    public IReadOnlyList<TillCount> Counts { get; private set; } = [];

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    public string UsualAccount { get; private set; } = "";

    protected override async Task<bool> ShowAsync()
    {
        var boxes = new List<Box>();
        foreach (
            var account in await db
                .LedgerAccounts.AsNoTracking()
                .Where(a => a.Role == AccountRole.Money && a.Kind == MoneyKind.Cash && !a.Retired)
                .OrderBy(a => a.Code)
                .ToListAsync()
        )
            boxes.Add(
                new Box(
                    account.Id,
                    account.Name,
                    await tills.ExpectedAsync(account.Id),
                    await db.TillCounts.Where(c => c.AccountId == account.Id).MaxAsync(c => (DateOnly?)c.Date)
                )
            );
        Boxes = boxes;
        Counts = await db
            .TillCounts.AsNoTracking()
            .Include(c => c.Booking)
            .OrderByDescending(c => c.Id)
            .Take(Most)
            .ToListAsync();
        AccountChoices = (await screens.OtherAccountsAsync()).Select(a => (a.Id.ToString(), a.Name)).ToList();
        UsualAccount = (
            await db.LedgerAccounts.Where(a => a.Role == AccountRole.RoundingDifferences).Select(a => a.Id).FirstAsync()
        ).ToString();
        return true;
    }

    public string NameOf(int accountId) => Boxes.FirstOrDefault(b => b.Id == accountId)?.Name ?? "";

    /// <summary>Each box has a form of its own.</summary>
    public static string NameOf(string field, int box) => $"{field}[{box}]";

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var box = form.Whole("account");
        var counted = form.OptionalAmount(NameOf("counted", box), Business!.HomeCurrency);
        form.ThrowIfAny();
        if (counted is null)
            throw new Core.RefusalException(NameOf("counted", box), "Give what is in the box; 0 if it is empty.");
        _ = long.TryParse(
            form.Text("expected"),
            System.Globalization.NumberStyles.AllowLeadingSign,
            System.Globalization.CultureInfo.InvariantCulture,
            out var expected
        );
        await InFieldAsync(
            "counted",
            NameOf("counted", box),
            () =>
                InFieldAsync(
                    "reason",
                    NameOf("reason", box),
                    () =>
                        InFieldAsync(
                            "ledgerAccountId",
                            NameOf("to", box),
                            () =>
                                tills.CountAsync(
                                    new TillToCount(
                                        box,
                                        counted.Value,
                                        expected,
                                        form.Text(NameOf("reason", box)),
                                        form.Id(NameOf("to", box)),
                                        form.Key
                                    )
                                )
                        )
                )
        );
        return Done("Counted, and kept.");
    }
}
