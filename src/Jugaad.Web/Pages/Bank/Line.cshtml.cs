using System.Globalization;
using Jugaad.Core.Accounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Trade;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Bank;

/// <summary>One bank line, placed by hand: over invoices, customers, credit and ledger accounts, a part at a time.</summary>
[Needs(Right.Money)]
public sealed class LineModel(BankScreens screens, ReceiveScreens money, AccountScreens accounts, CustomerFinder customers, MatchingBench bench, BankConversion conversion) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public BankLine Line { get; private set; } = null!;

    public Customer? Customer { get; private set; }

    /// <summary>What is left of the line in the customer's currency, at the rate of its day; null where that is the line's own.</summary>
    public long? TheirLeft { get; private set; }

    public string Who { get; private set; } = "";

    /// <summary>What the customer owes, with what of the line is proposed for it: oldest first.</summary>
    public IReadOnlyList<(AccountItem Item, long Proposed)> Open { get; private set; } = [];

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    public IEnumerable<(string, string)> TaxChoices { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.LineAsync(Id) is not { } line) return false;
        Line = line;
        if (int.TryParse(Request.Query["customer"], NumberStyles.None, CultureInfo.InvariantCulture, out var id)) Customer = await accounts.FindAsync(id);
        if (Customer is not null)
        {
            var open = await money.OpenAsync(Customer.Id);
            if (line.Left > 0 && !Customer.Currency.Equals(line.Currency)) TheirLeft = (await conversion.OfAsync(line, Customer.Id, line.Left, null)).Amount;
            var proposed = OldestFirst.Propose(TheirLeft ?? line.Left, open).ToDictionary(p => p.Item.Id, p => p.Amount);
            Open = open.Select(i => (i, proposed.GetValueOrDefault(i.Id))).ToList();
        }

        AccountChoices = (await money.OtherAccountsAsync()).Select(a => (a.Id.ToString(CultureInfo.InvariantCulture), a.Name)).ToList();
        TaxChoices = [("", "none"), .. (await money.TaxCodesAsync()).Select(c => (c.Id.ToString(CultureInfo.InvariantCulture), c.Name))];
        return true;
    }

    public async Task<IActionResult> OnGetAsync()
    {
        Who = Request.Query["who"].ToString();
        if (Who.Length == 0) return await ShownAsync();
        return Redirect($"/bank/{Id}?customer={(await customers.MeantAsync(Who, "who")).Id}");
    }

    public async Task<IActionResult> OnPostPlaceAsync()
    {
        await ReadHeadAsync();
        if (!await ShowAsync() || Customer is null) return NotFound();
        var form = Form;
        var amount = form.Amount("amount", Line.Currency);
        var against = Open.Select(o => (o.Item.Id, Amount: form.Amount($"against[{o.Item.Id}]", Customer.Currency))).Where(a => a.Amount != 0).ToList();
        var theirs = TheirLeft is null ? null : form.OptionalAmount("theirAmount", Customer.Currency);
        form.ThrowIfAny();
        await bench.PlaceAsync(Id, [new LinePart(amount, Customer.Id, against, [], TheirAmount: theirs)], true, form.Key);
        return await OnAsync("Placed.");
    }

    public async Task<IActionResult> OnPostOtherAsync()
    {
        await ReadHeadAsync();
        if (!await ShowAsync()) return NotFound();
        var form = Form;
        var amount = form.Amount("part", Line.Currency);
        form.ThrowIfAny();
        await bench.PlaceAsync(Id, [new LinePart(amount, null, [], [], form.Whole("ledgerAccountId"), form.Id("taxCodeId"))], true, form.Key);
        return await OnAsync("Booked.");
    }

    public async Task<IActionResult> OnPostPutBackAsync()
    {
        await ReadHeadAsync();
        await bench.PutBackAsync(Id, Form.Key);
        return Done("Put back. What was booked for it is undone.");
    }

    /// <summary>On to what is left of the line; once nothing is, back to the bench.</summary>
    private async Task<IActionResult> OnAsync(string said)
    {
        Say(said);
        return Redirect((await screens.LineAsync(Id))?.Left == 0 ? "/bank" : $"/bank/{Id}");
    }
}
