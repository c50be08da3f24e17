using Jugaad.Core.Amounts;

namespace Jugaad.Core.Trade;

/// <summary>What the business is described by on the setup page.</summary>
public sealed record BusinessDetails
{
    /// <summary>As it is registered.</summary>
    public string Name { get; init; } = "";

    /// <summary>What it is known by, if by another name; papers are headed with it.</summary>
    public string TradingName { get; init; } = "";

    public Address Address { get; init; } = new();

    /// <summary>Where else it is, such as the workshop or a post box; lines as they are to be printed.</summary>
    public string OtherAddress { get; init; } = "";

    public string RegistrationNumber { get; init; } = "";

    public string TaxNumber { get; init; } = "";

    public string Email { get; init; } = "";

    public string Phone { get; init; } = "";

    public string Website { get; init; } = "";

    public ElectronicAddress Electronic { get; init; } = ElectronicAddress.None;

    /// <summary>The month with which the financial year begins, 1 to 12.</summary>
    public int YearBegins { get; init; } = 1;

    public string Footer { get; init; } = "";

    /// <summary>Whether taxes are rounded for the document as a whole, or line by line where a business must.</summary>
    public TaxRounding TaxRounding { get; init; }

    /// <summary>
    /// The step to which cash is rounded, in units of the home currency, such as 0.05; 0 where there are coins for all
    /// of them.
    /// </summary>
    public decimal CashStep { get; init; }

    public string HomeCurrency { get; init; } = "EUR";

    public string DecimalMark { get; init; } = ".";

    public string DatePattern { get; init; } = "d MMM yyyy";
}

/// <summary>Whose books these are. There is one in each books file.</summary>
public sealed class Business
{
    private Business() { }

    /// <exception cref="RefusalException">When the details cannot be.</exception>
    public Business(BusinessDetails details)
    {
        HomeCurrency = Currency.Of(details.HomeCurrency, "homeCurrency");
        Describe(details);
    }

    public int Id { get; private set; }

    public string Name { get; private set; } = "";

    public string TradingName { get; private set; } = "";

    /// <summary>As papers are headed.</summary>
    public string PaperName => TradingName.Length > 0 ? TradingName : Name;

    public Address Address { get; private set; } = new();

    public string OtherAddress { get; private set; } = "";

    public string RegistrationNumber { get; private set; } = "";

    public string TaxNumber { get; private set; } = "";

    public string Email { get; private set; } = "";

    public string Phone { get; private set; } = "";

    public string Website { get; private set; } = "";

    /// <summary>Where our e-invoices come from (BT-34).</summary>
    public ElectronicAddress Electronic { get; private set; } = ElectronicAddress.None;

    /// <summary>The month with which the financial year begins, 1 to 12.</summary>
    public int YearBegins { get; private set; } = 1;

    /// <summary>Printed at the foot of every paper.</summary>
    public string Footer { get; private set; } = "";

    /// <summary>The currency of the journal. It never changes.</summary>
    public Currency HomeCurrency { get; private set; } = null!;

    /// <summary>
    /// The step to which cash is rounded, in minor units of the home currency; null where there are coins for all of
    /// them.
    /// </summary>
    public long? CashStep { get; private set; }

    /// <summary>Who stands for customers without a name at the counter; null until there was one.</summary>
    public int? CounterCustomerId { get; private set; }

    public void SetCounterCustomer(int customerId) => CounterCustomerId = customerId;

    public TaxRounding TaxRounding { get; private set; }

    /// <summary>Whether an early-payment discount leaves the tax as it was, instead of lowering it.</summary>
    public bool EarlyPaymentLeavesTax { get; private set; }

    /// <summary>Whether the first bill takes all of a deposit off, instead of each bill its share.</summary>
    public bool DepositsAtOnce { get; private set; }

    public void TakeDepositsOff(bool atOnce) => DepositsAtOnce = atOnce;

    /// <summary>Up to how much, in minor units of a document's currency, a rest counts as a small difference.</summary>
    public long SmallDifference { get; private set; } = 100;

    /// <summary>The ledger account of what banks and card companies keep; null where none was said.</summary>
    public int? FeeAccountId { get; private set; }

    public void SetFeeAccount(int? accountId) => FeeAccountId = accountId;

    /// <summary>How rests and early payment are dealt with.</summary>
    /// <param name="smallDifference">Minor units.</param>
    /// <exception cref="RefusalException">When the small difference is below zero or no small one.</exception>
    public void Settle(bool earlyPaymentLeavesTax, long smallDifference)
    {
        if (smallDifference < 0 || smallDifference > 100 * HomeCurrency.MinorPerUnit)
            throw new RefusalException("smallDifference", $"Give an amount from 0 to 100 {HomeCurrency}.");
        (EarlyPaymentLeavesTax, SmallDifference) = (earlyPaymentLeavesTax, smallDifference);
    }

    /// <summary>The last day of each span of aged balances, ascending and apart by commas.</summary>
    public string AgeingEdges { get; private set; } = "30,60,90";

    /// <summary>Whether balances are aged by the document's date instead of its due day.</summary>
    public bool AgesByDate { get; private set; }

    public IReadOnlyList<int> Edges =>
        [.. AgeingEdges.Split(',').Select(e => int.Parse(e, System.Globalization.CultureInfo.InvariantCulture))];

    /// <summary>How balances are aged.</summary>
    /// <param name="edges">As typed: days, ascending, apart by commas or blanks.</param>
    /// <exception cref="RefusalException">When they are none, too many, or not ascending.</exception>
    public void Age(string edges, bool byDate)
    {
        var days = edges
            .Split([',', ' ', ';'], StringSplitOptions.RemoveEmptyEntries)
            .Select(e =>
                int.TryParse(
                    e,
                    System.Globalization.NumberStyles.None,
                    System.Globalization.CultureInfo.InvariantCulture,
                    out var day
                )
                    ? day
                    : 0
            )
            .ToList();
        if (
            days.Count is 0 or > 6
            || days[0] < 1
            || days[^1] > 3_650
            || days.Zip(days.Skip(1)).Any(p => p.Second <= p.First)
        )
            throw new RefusalException(
                "edges",
                "Give one to six numbers of days, each larger than the one before, such as 30, 60, 90."
            );
        (AgeingEdges, AgesByDate) = (string.Join(',', days), byDate);
    }

    /// <summary>
    /// The last day of what is closed: nothing is posted on it or before it any more. Null where nothing is closed.
    /// </summary>
    public DateOnly? ClosedUpTo { get; private set; }

    /// <summary>
    /// The day on which something of that day counts: the day itself, or the first one after what is closed.
    /// </summary>
    public DateOnly OpenDay(DateOnly day) => ClosedUpTo is { } closed && day <= closed ? closed.AddDays(1) : day;

    /// <summary>Closes the books up to and with a day, or opens them again back to one.</summary>
    /// <param name="day">Null for opening everything.</param>
    /// <exception cref="RefusalException">When the day is today or yet to come.</exception>
    public void CloseUpTo(DateOnly? day, DateOnly today)
    {
        if (day >= today)
            throw new RefusalException(
                "closedUpTo",
                "Today and what is to come cannot be closed. Choose a day before today."
            );
        ClosedUpTo = day;
    }

    public string DecimalMark { get; private set; } = ".";

    public string DatePattern { get; private set; } = "d MMM yyyy";

    /// <summary>The logo as a PNG or SVG, written anew by us; null for none.</summary>
    public byte[]? Logo { get; private set; }

    /// <summary>A signature as a PNG or SVG, written anew by us; null for none.</summary>
    public byte[]? Signature { get; private set; }

    public int? DefaultTermsId { get; private set; }

    public int? DefaultTaxCodeId { get; private set; }

    public int? DefaultLedgerAccountId { get; private set; }

    /// <summary>Set in the demo's books only: the day that is taken as today.</summary>
    public DateOnly? PinnedDay { get; private set; }

    public DisplayFormat Format => new(DecimalMark[0], DatePattern);

    /// <exception cref="RefusalException">With every field that is wrong; nothing is changed then.</exception>
    public void Describe(BusinessDetails details)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "name", details.Name, 200, "Give the business a name.");
        Texts.Email(refusals, "email", details.Email);
        Texts.Short(refusals, "footer", details.Footer, 1_000);
        Texts.Short(refusals, "tradingName", details.TradingName, 200);
        details.Address.Check(refusals);
        details.Electronic.Check(refusals);
        Texts.Short(refusals, "otherAddress", details.OtherAddress, 400);
        if (details.OtherAddress.Trim().Split('\n').Length > 4)
            refusals.Add("otherAddress", "Papers have room for four lines. Put it into fewer.");
        if (details.YearBegins is < 1 or > 12)
            refusals.Add("yearBegins", "Choose the month with which the financial year begins.");
        foreach (
            var (field, text) in new[]
            {
                ("registrationNumber", details.RegistrationNumber),
                ("taxNumber", details.TaxNumber),
                ("phone", details.Phone),
                ("website", details.Website),
            }
        )
            Texts.Short(refusals, field, text, 100);
        if (details.Address.Country.Length == 0)
            refusals.Add("country", "Choose the country of the business.");
        else if (TaxNumbers.Problem(details.TaxNumber, details.Address.Country) is { } problem)
            refusals.Add("taxNumber", problem);
        if (details.DecimalMark is not ("." or ","))
            refusals.Add("decimalMark", "The decimal mark is a point or a comma.");
        if (!DisplayFormat.DatePatterns.Contains(details.DatePattern))
            refusals.Add("datePattern", "Choose how dates are written.");
        if (
            details.CashStep is < 0 or > 10
            || Amounts.PlainDecimal.DecimalsOf(details.CashStep) > HomeCurrency.Decimals
        )
            refusals.Add("cashStep", "Give a step such as 0.05, up to 10; or leave it empty.");
        refusals.ThrowIfAny();

        (Name, TradingName, Address, RegistrationNumber, TaxNumber) = (
            details.Name.Trim(),
            details.TradingName.Trim(),
            details.Address.Tidied(),
            details.RegistrationNumber.Trim(),
            details.TaxNumber.Trim()
        );
        (Email, Phone, Website) = (details.Email.Trim(), details.Phone.Trim(), details.Website.Trim());
        Electronic = details.Electronic.Tidied();
        OtherAddress = details.OtherAddress.Trim().ReplaceLineEndings("\n");
        CashStep = details.CashStep == 0 ? null : (long)(details.CashStep * HomeCurrency.MinorPerUnit);
        (YearBegins, TaxRounding, Footer) = (details.YearBegins, details.TaxRounding, details.Footer.Trim());
        (DecimalMark, DatePattern) = (details.DecimalMark, details.DatePattern);
    }

    public void SetLogo(byte[]? png) => Logo = png;

    public void SetSignature(byte[]? png) => Signature = png;

    /// <summary>The first day of the financial year that a day belongs to.</summary>
    public DateOnly YearOf(DateOnly day) => new(day.Month >= YearBegins ? day.Year : day.Year - 1, YearBegins, 1);

    /// <summary>The terms, tax code and sales account that are taken where nothing else says which.</summary>
    public void SetDefaults(int termsId, int taxCodeId, int ledgerAccountId) =>
        (DefaultTermsId, DefaultTaxCodeId, DefaultLedgerAccountId) = (termsId, taxCodeId, ledgerAccountId);

    /// <summary>Pins the business day of demo books, or moves it forward.</summary>
    /// <exception cref="RefusalException">When the day would go back.</exception>
    public void PinDay(DateOnly day)
    {
        if (PinnedDay is { } pinned && day < pinned)
            throw new RefusalException(
                "day",
                "The demo's calendar only moves forward. Start the demo afresh to go back."
            );
        PinnedDay = day;
    }

    /// <summary>
    /// UTC; since when these books rest. They were brought back or taken in: they send nothing and take nothing in
    /// until somebody says that they are the ones now. Null for books in use.
    /// </summary>
    public DateTime? RestsSince { get; private set; }

    /// <summary>Where resting books came from, such as <c>the backup of 2025-09-17 02:00</c>.</summary>
    public string RestsBecause { get; private set; } = "";

    public bool IsResting => RestsSince is not null;

    public void Rest(DateTime since, string because) => (RestsSince, RestsBecause) = (since, because);

    public void EndRest() => (RestsSince, RestsBecause) = (null, "");
}
