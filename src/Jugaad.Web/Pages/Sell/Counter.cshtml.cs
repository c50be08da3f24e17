using System.Text.Json;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>Sells at the counter. What is typed goes to the server as JSON; figures come back.</summary>
[Needs(Right.Issue)]
public sealed class CounterModel(BooksContext db) : DeskPage
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public IReadOnlyList<LedgerAccount> Ways { get; private set; } = [];

    /// <summary>The reasons for credit notes that the business keeps.</summary>
    public IReadOnlyList<string> Reasons { get; private set; } = [];

    /// <summary>Safe within a script element: the serializer escapes angle brackets and ampersands.</summary>
    public string BeginJson { get; private set; } = "";

    protected override async Task<bool> ShowAsync()
    {
        var ways = await db
            .LedgerAccounts.AsNoTracking()
            .Where(a => a.Role == AccountRole.Money && !a.Retired)
            .ToListAsync();
        Ways =
        [
            .. ways.OrderBy(a =>
                    a.Kind switch
                    {
                        MoneyKind.Cash => 0,
                        MoneyKind.CardClearing => 1,
                        _ => 2,
                    }
                )
                .ThenBy(a => a.Code),
        ];
        Reasons = await db.NoteReasons.Where(r => !r.Retired).OrderBy(r => r.Text).Select(r => r.Text).ToListAsync();
        BeginJson = JsonSerializer.Serialize(
            new
            {
                who = User.Identity?.Name ?? "",
                home = Business!.HomeCurrency.Code,
                date = Day(Today),
                way = Ways.Count > 0 ? Ways[0].Id : 0,
                cash = Ways.Where(w => w.Kind == MoneyKind.Cash).Select(w => w.Id),
                taxCodeId = Business!.DefaultTaxCodeId ?? 0,
                accountId = Business.DefaultLedgerAccountId ?? 0,
            },
            Json
        );
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public static string WayWord(LedgerAccount way) =>
        way.Kind switch
        {
            MoneyKind.Cash => $"cash, {way.Name}",
            MoneyKind.CardClearing => $"card, {way.Name}",
            _ => way.Name,
        };
}
