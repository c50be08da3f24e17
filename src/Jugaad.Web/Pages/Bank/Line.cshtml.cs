using System.Globalization;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Banking;
using Jugaad.Core.Matching;
using Jugaad.Core.Trade;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Bank;

/// <summary>
/// One bank line, placed by hand: over invoices, customers, credit and ledger accounts, a part at a time.
/// </summary>
[Needs(Right.Money)]
[Posts(Right.Money)]
public sealed class LineModel(
    BankScreens screens,
    ReceiveScreens money,
    AccountScreens accounts,
    CustomerFinder customers,
    MatchingBench bench,
    BankConversion conversion,
    Settlements settlements,
    OwnTransfers transfers,
    OutgoingLines outgoing,
    Statements statements
) : DeskPage
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public BankLine Line { get; private set; } = null!;

    public Customer? Customer { get; private set; }

    /// <summary>The currency of what the money pays: one of those that the customer is billed in.</summary>
    public Currency Currency { get; private set; } = null!;

    /// <summary>
    /// What is left of the line in that currency, at the rate of its day; null where that is the line's own.
    /// </summary>
    public long? TheirLeft { get; private set; }

    public string Who { get; private set; } = "";

    /// <summary>
    /// What the customer owes, with what of the line is proposed for it: as the best proposal says, else oldest first.
    /// </summary>
    public IReadOnlyList<(AccountItem Item, long Proposed, bool Early)> Open { get; private set; } = [];

    /// <summary>The best proposal for the line; null where there is none of a customer.</summary>
    public Proposal? Best { get; private set; }

    /// <summary>
    /// Early-payment discounts that were offered on the day of the line, by the invoices that have them.
    /// </summary>
    public IReadOnlyDictionary<int, long> Offers { get; private set; } = new Dictionary<int, long>();

    /// <summary>What the customer has as credit.</summary>
    public IReadOnlyList<AccountItem> Credits { get; private set; } = [];

    public IEnumerable<(string, string)> OwnAccounts { get; private set; } = [];

    /// <summary>
    /// For money that went out: receipts that it may have taken back, and credit that it may have paid back.
    /// </summary>
    public IEnumerable<(string, string)> Returnable { get; private set; } = [];

    public IEnumerable<(string, string)> Refundable { get; private set; } = [];

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    public IEnumerable<(string, string)> TaxChoices { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        if (await screens.LineAsync(Id) is not { } line)
            return false;
        Line = line;
        if (line.Left > 0)
            Best = (await bench.ProposeAsync(Id)).FirstOrDefault(p =>
                p.CustomerId > 0 && p.JoinsReceiptId is null && p.Fee == 0
            );
        var asked = int.TryParse(
            Request.Query["customer"],
            NumberStyles.None,
            CultureInfo.InvariantCulture,
            out var id
        );
        // It begins with whom the line looks like; 0 asks for somebody else.
        if (asked || Best is not null)
            Customer = await accounts.FindAsync(asked ? id : Best!.CustomerId);
        if (Customer is not null)
        {
            var all = await money.OpenAsync(Customer.Id);
            Currency = CurrencyOf(Customer, line, all);
            var open = all.Where(i => i.Currency.Equals(Currency)).ToList();
            if (line.Left > 0 && !Currency.Equals(line.Currency))
                TheirLeft = await conversion.OfAsync(
                    line,
                    Currency,
                    line.Left,
                    line.Placed == 0 && Currency.Equals(line.GivenIn) ? line.Given : null
                );
            // What is computed at the rate of the day is meant for what is open, if it comes as near as that.
            if (TheirLeft is { } computed && !Currency.Equals(line.GivenIn))
                TheirLeft = await conversion.MeantAsync(
                    line,
                    Currency,
                    computed,
                    open.Select(i => i.Open).Append(open.Sum(i => i.Open))
                );
            var isBest = Best?.CustomerId == Customer.Id;
            if (TheirLeft is not null && isBest && Currency.Equals(Best!.TheirCurrency))
                TheirLeft = Best.TheirAmount;
            var meant = isBest && (TheirLeft is null || TheirLeft == Best!.TheirAmount) ? Best!.Parts : null;
            var proposed =
                meant?.ToDictionary(p => p.ItemId, p => p.Amount)
                ?? OldestFirst.Propose(TheirLeft ?? line.Left, open).ToDictionary(p => p.Item.Id, p => p.Amount);
            Open = open.Select(i =>
                    (i, proposed.GetValueOrDefault(i.Id), meant?.Any(p => p.ItemId == i.Id && p.Early) == true)
                )
                .ToList();
            Credits = [.. (await money.CreditsAsync(Customer.Id)).Where(c => c.Currency.Equals(Currency))];
            var offers = new Dictionary<int, long>();
            foreach (var item in open)
                if (
                    await settlements.OfferAsync(item, line.Date) is { IsOffered: true } offer
                    && offer.Amount < item.Open
                )
                    offers[item.Id] = offer.Amount;
            Offers = offers;
        }

        OwnAccounts = (await money.MoneyAccountsAsync())
            .Where(a => a.Id != line.AccountId)
            .Select(a => (a.Id.ToString(CultureInfo.InvariantCulture), a.Name))
            .ToList();
        if (line.Left < 0)
        {
            Returnable = (await outgoing.ReceiptsAsync(line))
                .Select(r =>
                    (r.ReceiptId.ToString(CultureInfo.InvariantCulture), $"{r.Number} of {Day(r.Date)}, {r.Customer}")
                )
                .ToList();
            Refundable = (await outgoing.CreditsAsync(line))
                .Select(c =>
                    (
                        c.ItemId.ToString(CultureInfo.InvariantCulture),
                        $"{c.Customer}, {c.Number}, {Amount(c.Open, line.Currency)} left"
                    )
                )
                .ToList();
        }

        AccountChoices = (await money.OtherAccountsAsync())
            .Select(a => (a.Id.ToString(CultureInfo.InvariantCulture), a.Name))
            .ToList();
        TaxChoices =
        [
            ("", "none"),
            .. (await money.TaxCodesAsync()).Select(c => (c.Id.ToString(CultureInfo.InvariantCulture), c.Name)),
        ];
        return true;
    }

    public async Task<IActionResult> OnGetAsync()
    {
        Who = Request.Query["who"].ToString();
        if (Who.Length == 0)
            return await ShownAsync();
        return Redirect($"/bank/{Id}?customer={(await customers.MeantAsync(Who, "who")).Id}");
    }

    /// <summary>
    /// As asked for; else the line's own, where they owe in it; else the first in which they owe anything.
    /// </summary>
    private Currency CurrencyOf(Customer customer, BankLine line, IReadOnlyList<AccountItem> open)
    {
        var asked = Request.Query["in"].ToString();
        bool Owes(Currency currency) => open.Any(i => i.Currency.Equals(currency));
        return customer.Currencies.FirstOrDefault(c => c.Code == asked)
            ?? (Best?.CustomerId == customer.Id ? Best.TheirCurrency : null)
            ?? customer.Currencies.FirstOrDefault(c => c.Equals(line.Currency) && Owes(c))
            ?? customer.Currencies.FirstOrDefault(Owes)
            ?? customer.Currencies.FirstOrDefault(c => c.Equals(line.Currency))
            ?? customer.Currency;
    }

    public async Task<IActionResult> OnPostPlaceAsync()
    {
        if (!await ShowAsync() || Customer is null)
            return NotFound();
        var form = Form;
        var amount = form.Amount("amount", Line.Currency);
        var against = Open.Select(o => (o.Item.Id, Amount: form.Amount($"against[{o.Item.Id}]", Currency)))
            .Where(a => a.Amount != 0)
            .ToList();
        var theirs = TheirLeft is null ? null : form.OptionalAmount("theirAmount", Currency);
        form.ThrowIfAny();
        var part = new LinePart(amount, Customer.Id, against, Chosen("early"), TheirAmount: theirs)
        {
            Currency = Currency,
            GiveUp = Chosen("giveUp"),
            Credits = Chosen("credit"),
        };
        await bench.PlaceAsync(Id, [part], true, form.Key);
        return await OnAsync("Placed.");
    }

    private List<int> Chosen(string name) =>
        Request
            .Form[name]
            .Select(v => int.TryParse(v, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : 0)
            .Where(i => i > 0)
            .Distinct()
            .ToList();

    /// <summary>Whether a box is ticked: as it was sent, else as it is proposed.</summary>
    public bool Ticked(string name, int id, bool proposed = false) =>
        Request.HasFormContentType ? Request.Form[name].Contains(id.ToString(CultureInfo.InvariantCulture)) : proposed;

    public async Task<IActionResult> OnPostTransferAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        var amount = form.Amount("transfer", Line.Currency);
        form.ThrowIfAny();
        await InFieldAsync(
            "amount",
            "transfer",
            () => transfers.PlaceAsync(Id, form.Whole("otherAccount"), amount, form.Key)
        );
        return await OnAsync("Booked between our own accounts.");
    }

    public async Task<IActionResult> OnPostReturnedAsync()
    {
        await outgoing.ReturnAsync(Id, Form.Whole("receipt"), Form.Text("returnReason"), Form.Key);
        return await OnAsync("The payment is gone again, and what it had paid is open.");
    }

    public async Task<IActionResult> OnPostRefundedAsync()
    {
        await outgoing.RefundAsync(Id, Form.Whole("credit"), Form.Key);
        return await OnAsync("Paid back from their credit.");
    }

    public async Task<IActionResult> OnPostTakeOutAsync()
    {
        var statement = await statements.TakeLineOutAsync(Id, Form.Key);
        Say("The line is out of its statement.");
        return Redirect($"/bank/statements/{statement}");
    }

    public async Task<IActionResult> OnPostOtherAsync()
    {
        if (!await ShowAsync())
            return NotFound();
        var form = Form;
        var amount = form.Amount("part", Line.Currency);
        form.ThrowIfAny();
        await bench.PlaceAsync(
            Id,
            [new LinePart(amount, null, [], [], form.Whole("ledgerAccountId"), form.Id("taxCodeId"))],
            true,
            form.Key
        );
        return await OnAsync("Booked.");
    }

    public async Task<IActionResult> OnPostPutBackAsync()
    {
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
