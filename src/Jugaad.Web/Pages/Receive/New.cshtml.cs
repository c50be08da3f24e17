using System.Globalization;
using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Receive;

/// <summary>Enters money from a customer and sets it against what they owe.</summary>
[Needs(Right.Money)]
[Posts(Right.Money)]
public sealed class NewModel(
    BooksContext db,
    Receipts receipts,
    Settlements settlements,
    ReceiveScreens screens,
    AccountScreens accounts,
    MailComposing compose,
    PostTray tray,
    Connections connections,
    MoneySides sides
) : DeskPage
{
    private int? _invoice;

    public Customer? Customer { get; private set; }

    public string Search { get; private set; } = "";

    public IReadOnlyList<CustomerRow> Candidates { get; private set; } = [];

    public IReadOnlyList<AccountItem> Open { get; private set; } = [];

    public IEnumerable<(string, string)> WayChoices { get; private set; } = [];

    /// <summary>The first way whose account is in the currency of what is paid; empty where there is none.</summary>
    public string UsualWay { get; private set; } = "";

    /// <summary>What the customer has as credit.</summary>
    public IReadOnlyList<AccountItem> Credits { get; private set; } = [];

    /// <summary>Early-payment discounts by the invoices that have them.</summary>
    public IReadOnlyDictionary<int, EarlyOffer> Offers { get; private set; } = new Dictionary<int, EarlyOffer>();

    /// <summary>Whether a box was ticked in the form that came back.</summary>
    public bool Ticked(string name, int id) =>
        Request.HasFormContentType && Request.Form[name].Contains(id.ToString(CultureInfo.InvariantCulture));

    public string AmountText { get; private set; } = "";

    public string Reference { get; private set; } = "";

    public string StateJson { get; private set; } = "{}";

    /// <summary>The currency of what is paid: one of those that they are billed in.</summary>
    public Currency Currency { get; private set; } = null!;

    /// <summary>Whether it was sent once, and refused.</summary>
    public bool IsAgain => Request.HasFormContentType;

    /// <summary>What they owe in other currencies, which the same payment may pay too.</summary>
    public IReadOnlyList<AccountItem> Elsewhere { get; private set; } = [];

    /// <summary>Whether money may come in another currency than it is owed in.</summary>
    public bool AsksWhatArrived { get; private set; }

    /// <summary>What is proposed for an item: all of it, where one invoice was chosen.</summary>
    public string AgainstText(AccountItem item) => item.Id == _invoice ? Format.Typed(item.Open, item.Currency) : "";

    protected override async Task<bool> ShowAsync()
    {
        var id =
            Request.HasFormContentType ? Form.Whole("customerId")
            : int.TryParse(Request.Query["customer"], out var asked) ? asked
            : 0;
        if (id == 0)
        {
            Search = Request.Query["q"].ToString();
            Candidates = (
                await accounts.CustomersAsync(Search, Search.Length == 0 ? "-balance" : "", ListPlace.Start)
            ).Rows;
            return true;
        }

        Customer = await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id);
        if (Customer is null)
            return false;
        var all = await screens.OpenAsync(id);
        var named = int.TryParse(Request.Query["invoice"], out var wanted)
            ? all.FirstOrDefault(i => i.Id == wanted)
            : null;
        Currency = named?.Currency ?? CurrencyOf(Customer, Request.HasFormContentType ? Form : null, all);
        Open = [.. all.Where(i => i.Currency.Equals(Currency))];
        Elsewhere = [.. all.Where(i => !i.Currency.Equals(Currency))];
        Credits = [.. (await screens.CreditsAsync(id)).Where(c => c.Currency.Equals(Currency))];
        Offers = await OffersAsync(Open, Today);
        var ways = await screens.WaysAsync();
        foreach (var way in ways.Where(_ => UsualWay.Length == 0))
            if ((await sides.CurrencyOfAsync(way.MoneyAccountId)).Equals(Currency))
                UsualWay = way.Id.ToString(CultureInfo.InvariantCulture);
        WayChoices = ways.Select(w => (w.Id.ToString(CultureInfo.InvariantCulture), w.Name)).ToList();
        if (named is not null)
            (_invoice, AmountText, Reference) = (named.Id, Format.Typed(named.Open, named.Currency), named.Number);
        AsksWhatArrived = !Currency.Equals(Business!.HomeCurrency) || await screens.HasForeignAccountsAsync();
        StateJson = JsonSerializer.Serialize(new { customer = id, currency = Currency.Code });
        return true;
    }

    /// <summary>
    /// The currency that is said to be paid in, where they are billed in it; else the first in which they owe, or their
    /// usual one.
    /// </summary>
    private Currency CurrencyOf(Customer customer, TypedForm? form, IReadOnlyList<AccountItem> open)
    {
        var said = form?.Text("currency") ?? Request.Query["in"].ToString();
        return customer.Currencies.FirstOrDefault(c => c.Code == said)
            ?? customer.Currencies.FirstOrDefault(c => form is null && open.Any(i => i.Currency.Equals(c)))
            ?? customer.Currency;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        Customer =
            await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == form.Whole("customerId"))
            ?? throw new RefusalException("customerId", "Choose the customer whose money this is.");
        Currency = CurrencyOf(Customer, form, []);
        var date = form.Date("date", "Give the day on which the money came in.");
        var amount = form.Amount("amount", Currency);
        var against = AgainstFields(form)
            .Select(f => (f.ItemId, Amount: form.Amount(f.Field, Currency)))
            .Where(a => a.Amount != 0)
            .ToList();
        var way = (await screens.WaysAsync()).FirstOrDefault(w => w.Id == form.Whole("way"));
        var account = await sides.CurrencyOfAsync(way.MoneyAccountId);
        var (arrived, charge) = (form.OptionalAmount("arrived", account), form.Amount("charge", account));
        form.ThrowIfAny();
        var typed = new ReceiptToPost(
            Customer.Id,
            date,
            way.MoneyAccountId,
            amount,
            form.Text("reference"),
            against,
            form.Key
        )
        {
            Way = way.Name ?? "",
            Currency = Currency,
            Arrived = arrived,
            Charge = charge,
            Credits = Chosen("credit"),
            Early = [.. Chosen("early").Select(i => (i, form.Text($"early[{i}]")))],
            GiveUp = Chosen("giveUp"),
        };
        var also = await AlsoAsync(form, typed, account);
        form.ThrowIfAny();
        var id = await PostAsync([typed, .. also]);
        var closed =
            Business!.OpenDay(date) == date
                ? ""
                : $" The books are closed up to {Day(Business.ClosedUpTo!.Value)}, so it counts on {Day(Business.OpenDay(date))}.";
        if (form.Ticked("confirm"))
        {
            await tray.AddAsync(await compose.ForReceiptAsync(id), form.Key + "-confirmed");
            closed += $" Its confirmation is {await connections.WhereAsync(PostWay.Mail, Customer.Email)}.";
        }

        Say("The receipt is posted." + closed);
        return Redirect($"/receive/{id}");
    }

    /// <summary>What the same payment pays in other currencies: a receipt for each.</summary>
    private async Task<List<ReceiptToPost>> AlsoAsync(TypedForm form, ReceiptToPost main, Currency account)
    {
        var parts = new List<ReceiptToPost>();
        foreach (var side in (await screens.OpenAsync(main.CustomerId)).GroupBy(i => i.Currency))
        {
            var against = side.Select(i => (i.Id, Amount: form.Amount($"also[{i.Id}]", side.Key)))
                .Where(a => a.Amount != 0)
                .ToList();
            if (!side.Key.Equals(Currency) && against.Count > 0)
                parts.Add(
                    new ReceiptToPost(
                        main.CustomerId,
                        main.Date,
                        main.MoneyAccountId,
                        against.Sum(a => a.Amount),
                        main.Reference,
                        against
                    )
                    {
                        Way = main.Way,
                        Currency = side.Key,
                        Arrived = form.OptionalAmount($"arrived[{side.Key}]", account),
                    }
                );
        }

        return parts;
    }

    private async Task<int> PostAsync(IReadOnlyList<ReceiptToPost> parts)
    {
        try
        {
            return parts.Count == 1
                ? await receipts.PostAsync(parts[0])
                : await receipts.PostTogetherAsync(parts, Form.Key);
        }
        catch (RefusalException refused)
        {
            // On this page the account follows from the way of payment.
            throw new RefusalException([
                .. refused.Refusals.Select(r =>
                    r.Field == "moneyAccountId"
                        ? new Refusal("way", "Choose how the money came in. Ways of payment are kept under Setup.")
                        : r
                ),
            ]);
        }
    }

    private List<int> Chosen(string name) =>
        Request
            .Form[name]
            .Select(v => int.TryParse(v, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : 0)
            .Where(i => i > 0)
            .Distinct()
            .ToList();

    private async Task<Dictionary<int, EarlyOffer>> OffersAsync(IReadOnlyList<AccountItem> open, DateOnly day)
    {
        var offers = new Dictionary<int, EarlyOffer>();
        foreach (var item in open)
            if (await settlements.OfferAsync(item, day) is { Amount: > 0 } offer && offer.Amount < item.Open)
                offers[item.Id] = offer;
        return offers;
    }

    /// <summary>
    /// What a sum would be set against, and what is left of it: the page asks here instead of reckoning itself.
    /// </summary>
    public async Task<IActionResult> OnPostProposeAsync()
    {
        var form = Form;
        var customer = await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == form.Whole("customerId"));
        if (customer is null)
            return NotFound();
        var currency = CurrencyOf(customer, form, []);
        try
        {
            var amount = form.Amount("amount", currency);
            var open = (await screens.OpenAsync(customer.Id)).Where(i => i.Currency.Equals(currency)).ToList();
            var early = Chosen("early");
            var offers = await OffersAsync([.. open.Where(i => early.Contains(i.Id))], Today);
            long Room(AccountItem item) => item.Open - (offers.GetValueOrDefault(item.Id)?.Amount ?? 0);
            var chosen = Chosen("credit");
            var credit = (await screens.CreditsAsync(customer.Id)).Where(c => chosen.Contains(c.Id)).Sum(c => c.Open);
            var how = form.Text("how");
            var parts = how switch
            {
                "oldest" => OldestFirst
                    .Propose(amount + credit, open, Room)
                    .ToDictionary(p => p.Item.Id, p => p.Amount),
                "none" => [],
                _ => AgainstFields(form).ToDictionary(f => f.ItemId, f => form.Amount(f.Field, currency)),
            };
            form.ThrowIfAny();
            if (
                how.StartsWith("full:", StringComparison.Ordinal)
                && int.TryParse(how.AsSpan(5), out var itemId)
                && open.FirstOrDefault(i => i.Id == itemId) is { } item
            )
            {
                // In full for one: as much of what is left as the item takes; with no amount yet, the amount follows.
                parts.Remove(itemId);
                if (amount == 0)
                    amount = Math.Max(0, parts.Values.Sum() + Room(item) - credit);
                parts[itemId] = Math.Max(0, Math.Min(Room(item), amount + credit - parts.Values.Sum()));
            }

            var left = amount + credit - parts.Values.Sum();
            return new JsonResult(
                new
                {
                    amount = amount == 0 ? "" : Format.Typed(amount, currency),
                    parts = open.Select(i => new
                    {
                        id = i.Id,
                        amount = parts.GetValueOrDefault(i.Id) == 0 ? "" : Format.Typed(parts[i.Id], currency),
                    }),
                    left = Format.Amount(left, currency),
                    worth = await WorthAsync(form, currency, amount, open, parts),
                    // A small rest of what is paid in part may be given up.
                    rests = open.Where(i =>
                            parts.GetValueOrDefault(i.Id) > 0
                            && Room(i) - parts[i.Id] is var rest
                            && rest > 0
                            && rest <= Business!.SmallDifference
                        )
                        .Select(i => new { id = i.Id, amount = Format.Amount(Room(i) - parts[i.Id], i.Currency) }),
                    problem = left < 0
                        ? $"You set {Format.WithCode(-left, currency)} more against invoices than there is. Lower one of the parts, or raise the amount."
                        : TooMuch(open, parts),
                }
            );
        }
        catch (RefusalException refused)
        {
            return new JsonResult(new { left = "", problem = refused.Refusals[0].Phrase.In(Format) });
        }
    }

    /// <summary>
    /// What the money is worth at home, and what exchange rates gain or lose with it, before it is posted; empty where
    /// no other currency is in it, or not all of it is typed yet.
    /// </summary>
    private async Task<string> WorthAsync(
        TypedForm form,
        Currency currency,
        long amount,
        IReadOnlyList<AccountItem> open,
        Dictionary<int, long> parts
    )
    {
        if (amount <= 0)
            return "";
        try
        {
            var way = (await screens.WaysAsync()).FirstOrDefault(w => w.Id == form.Whole("way"));
            var (home, account) = (Business!.HomeCurrency, await sides.CurrencyOfAsync(way.MoneyAccountId));
            if (currency.Equals(home) && account.Equals(home))
                return "";
            var money = await sides.CameAsync(
                way.MoneyAccountId,
                currency,
                amount,
                form.OptionalAmount("arrived", account),
                form.Amount("charge", account),
                form.Date("date", "")
            );
            var worth = money.HomeWithCharge(home);
            var (gain, rest, worthLeft) = (0L, amount, worth);
            foreach (var item in open.Where(i => parts.GetValueOrDefault(i.Id) > 0))
            {
                var part = Math.Min(Math.Min(parts[item.Id], item.Open), rest);
                if (part <= 0)
                    continue;
                var brings = part == rest ? worthLeft : Rounding.Share(worthLeft, part, rest);
                gain += brings - item.HomeFor(part);
                (rest, worthLeft) = (rest - part, worthLeft - brings);
            }

            var difference =
                gain == 0
                    ? ""
                    : $"; exchange {(gain > 0 ? "gain" : "loss")} of {Format.WithCode(Math.Abs(gain), home)}";
            return $"{Format.WithCode(money.Amount, account)} come in, worth {Format.WithCode(worth, home)}{difference}";
        }
        catch (RefusalException not)
        {
            return not.Refusals[0].Phrase.In(Format);
        }
    }

    private string TooMuch(IReadOnlyList<AccountItem> open, Dictionary<int, long> parts) =>
        open.FirstOrDefault(i => parts.GetValueOrDefault(i.Id) > i.Open) is { } over
            ? $"That is {Format.WithCode(parts[over.Id] - over.Open, over.Currency)} more than is open on {over.Number}. Put the rest on account, or set it against another invoice."
            : "";

    private static IEnumerable<(string Field, int ItemId)> AgainstFields(TypedForm form)
    {
        foreach (var field in form.Fields)
            if (
                field.StartsWith("against[", StringComparison.Ordinal)
                && field.EndsWith(']')
                && int.TryParse(field.AsSpan(8, field.Length - 9), out var id)
            )
                yield return (field, id);
    }
}
