using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>The chart of accounts, money's accounts among them, and payment terms.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class AccountsModel(BooksContext db, AccountsDesk desk) : DeskPage
{
    public IReadOnlyList<(LedgerAccount Account, int Posted)> Accounts { get; private set; } = [];

    public IReadOnlyList<PaymentTerms> Terms { get; private set; } = [];

    /// <summary>The account in the form; null for a new one.</summary>
    public LedgerAccount? Editing { get; private set; }

    private int? EditId => int.TryParse(Request.Query["edit"], out var id) ? id : null;

    public IEnumerable<(string, string)> CurrencyChoices =>
        [
            ("", $"{Business!.HomeCurrency}, as the books"),
            .. Core.Amounts.Currency.All.Where(c => !c.Equals(Business.HomeCurrency)).Select(c => (c.Code, c.Code)),
        ];

    public IEnumerable<(string, string)> ForChoices =>
        [
            ("Sales", "sales"),
            .. Enum.GetValues<MoneyKind>().Select(k => (k.ToString(), $"money comes in: {LedgerAccount.Words(k)}")),
            ("Other", "other, for opening balances"),
        ];

    public IEnumerable<(string, string)> RuleChoices =>
        [
            ("DaysAfter", "so many days after the date"),
            ("EndOfMonth", "so many days after the month's end"),
            ("NextMonth", "on a day of the next month"),
            ("MonthAfterNext", "on a day of the month after next"),
            ("OnReceipt", "at once"),
        ];

    protected override async Task<bool> ShowAsync()
    {
        var posted = await db.Set<JournalLine>()
            .GroupBy(l => l.AccountId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count);
        Accounts = (await db.LedgerAccounts.AsNoTracking().OrderBy(a => a.Code).ToListAsync()).ConvertAll(a =>
            (a, posted.GetValueOrDefault(a.Id))
        );
        Terms = await db.Terms.AsNoTracking().OrderBy(t => t.Name).ToListAsync();
        Editing = EditId is { } id ? Accounts.Select(a => a.Account).FirstOrDefault(a => a.Id == id) : null;
        return EditId is null || Editing is not null;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAccountAsync()
    {
        var form = Form;
        var money = Enum.TryParse<MoneyKind>(form.Text("for"), out var kind);
        await desk.SaveAccountAsync(
            EditId,
            new AccountDetails
            {
                Code = form.Text("code"),
                Name = form.Text("name"),
                Role = money ? AccountRole.Money : form.Choice<AccountRole>("for"),
                Kind = kind,
                Currency = money ? form.Text("currency") : "",
                BankName = form.Text("bankName"),
                Iban = form.Text("iban"),
                Bic = form.Text("bic"),
                OnPapers = form.Ticked("onPapers"),
            },
            form.Key
        );
        return Done("The account is saved.");
    }

    public async Task<IActionResult> OnPostRetireAsync()
    {
        await desk.RetireAccountAsync(Form.Whole("id"), Form.Text("retired").Length > 0, Form.Key);
        return Done("Done. What was posted to it stays.");
    }

    public async Task<IActionResult> OnPostUsualAsync()
    {
        await desk.SetUsualAccountAsync(Form.Whole("id"), Form.Key);
        return Done("Sales without an item are booked to it from now on.");
    }

    public async Task<IActionResult> OnPostTermsAsync()
    {
        var form = Form;
        var early = form.Figure("earlyPercent", Limits.PercentDecimals);
        form.ThrowIfAny();
        var rule = form.Text("rule");
        try
        {
            await desk.AddTermsAsync(
                new PaymentTerms(
                    form.Text("termsName"),
                    rule switch
                    {
                        "EndOfMonth" => DueRule.EndOfMonth,
                        "NextMonth" or "MonthAfterNext" => DueRule.DayOfMonth,
                        "OnReceipt" => DueRule.OnReceipt,
                        _ => DueRule.DaysAfter,
                    },
                    form.Whole("days"),
                    form.Whole("dayOfMonth"),
                    rule == "MonthAfterNext" ? 2 : 1,
                    early,
                    form.Whole("earlyDays")
                ),
                form.Key
            );
        }
        catch (Core.RefusalException refused) when (refused.Refusals.Any(r => r.Field == "name"))
        {
            // The page has an account's name as well.
            throw new Core.RefusalException(
                refused.Refusals.Select(r => r.Field == "name" ? r with { Field = "termsName" } : r).ToList()
            );
        }

        return Done("The terms are added.");
    }

    public async Task<IActionResult> OnPostRetireTermsAsync()
    {
        await desk.RetireTermsAsync(Form.Whole("id"), Form.Text("retired").Length > 0, Form.Key);
        return Done("Done. Customers who have these terms keep them.");
    }

    public async Task<IActionResult> OnPostUsualTermsAsync()
    {
        await desk.SetUsualTermsAsync(Form.Whole("id"), Form.Key);
        return Done("Customers without terms of their own have these from now on.");
    }
}
