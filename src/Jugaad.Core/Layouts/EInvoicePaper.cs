using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>
/// Lays an e-invoice of anybody out as a paper. It says what the file says and computes nothing, so that what does not add
/// up is seen.
/// </summary>
public static class EInvoicePaper
{
    /// <summary>A paper holds so many lines; the rest of a longer file is read in the file.</summary>
    public const int MostLines = 500;

    public static PaperContent Of(EInvoice invoice, DisplayFormat format, PaperWords words)
    {
        var kind = KindOf(invoice);
        string Amount(decimal? units) => Written(units, invoice.Currency, format);
        return new PaperContent
        {
            Words = words,
            Kind = $"{kind}",
            Heading = words.Title(kind),
            Number = invoice.Number,
            Sender = SenderOf(invoice),
            Addressee = AddresseeOf(invoice.Buyer),
            CurrencyCode = invoice.Currency,
            Amount = minor => $"{minor}",
            Facts = [.. FactsOf(invoice, format, words).Where(f => f.Value.Length > 0)],
            Lines = [.. invoice.Lines.Take(MostLines).Select(l => LineOf(l, invoice.Currency, format, words))],
            Totals = TotalsOf(invoice, Amount, words),
            Taxes = [.. invoice.Taxes.Select(t => new PaperTax(TaxOf(t, format), Amount(t.Taxable), Amount(t.Tax)))],
            Closing = [.. ClosingOf(invoice, Amount, words)],
            Note = string.Join('\n', invoice.Notes),
        };
    }

    private static DocumentKind KindOf(EInvoice invoice) =>
        invoice.IsCredit ? DocumentKind.CreditNote
        : invoice.TypeCode is "383" or "80" or "84" ? DocumentKind.DebitNote
        : DocumentKind.Invoice;

    /// <summary>With as many decimals as its currency has; with all that were written where those are more.</summary>
    private static string Written(decimal? units, string currency, DisplayFormat format)
    {
        if (units is not { } amount)
            return "";
        if (
            Currency.TryOf(currency, out var known)
            && Math.Abs(amount) < 1_000_000_000_000
            && amount * known.MinorPerUnit == decimal.Truncate(amount * known.MinorPerUnit)
        )
            return format.Amount((long)(amount * known.MinorPerUnit), known);
        return format.Exact(amount);
    }

    private static string Address(PostalAddress? address) =>
        address is null
            ? ""
            : string.Join(
                '\n',
                new[]
                {
                    address.Street,
                    address.Second,
                    address.Third,
                    $"{address.PostalCode} {address.City}".Trim(),
                    address.Region,
                    Countries.NameOf(address.Country) is { Length: > 0 } name ? name : address.Country,
                }.Where(l => l.Length > 0)
            );

    private static Sender SenderOf(EInvoice invoice)
    {
        var (seller, pay) = (invoice.Seller, invoice.Payment);
        var banks = pay?.Transfers.Select(t => new SenderBank(t.Name, t.Account, t.Bank)).ToList() ?? [];
        var first = banks.Count > 0 ? banks[0] : new SenderBank("", "", "");
        return new Sender(
            seller.TradingName.Length > 0 ? seller.TradingName : seller.Name,
            string.Join(
                '\n',
                new[] { seller.TradingName.Length > 0 ? seller.Name : "", Address(seller.Address) }.Where(l =>
                    l.Length > 0
                )
            ),
            seller.Registration?.Value ?? "",
            seller.TaxId.Length > 0 ? seller.TaxId : seller.TaxRegistration,
            string.Join(
                " · ",
                new[] { seller.Contact, seller.Phone, seller.Email }.Where(t => t.Length > 0 && t != seller.Name)
            ),
            first.Name,
            first.Iban,
            first.Bic,
            seller.LegalForm
        )
        {
            MoreBanks = [.. banks.Skip(1)],
        };
    }

    private static Addressee AddresseeOf(Party buyer) =>
        new(
            buyer.Name,
            Address(buyer.Address),
            buyer.Address?.Country ?? "",
            buyer.TaxId,
            buyer.Registration?.Value ?? "",
            buyer.Email
        );

    private static IEnumerable<(string Label, string Value)> FactsOf(
        EInvoice invoice,
        DisplayFormat format,
        PaperWords words
    )
    {
        string Day(DateOnly? day) => day is { } known ? format.Date(known) : "";
        yield return (words[PaperWord.Date], Day(invoice.Issued));
        yield return (words[PaperWord.TaxDate], Day(invoice.TaxPoint));
        yield return (words[PaperWord.Due], Day(invoice.Due));
        yield return (words[PaperWord.YourOrder], invoice.PurchaseOrder);
        yield return (words[PaperWord.Corrects], string.Join(", ", invoice.Preceding.Select(p => p.Number)));
        yield return ("Our order", invoice.SalesOrder);
        yield return ("Contract", invoice.Contract);
        yield return ("Tender", invoice.Tender);
        yield return ("Sent with", invoice.DespatchAdvice);
        yield return ("Received by", invoice.ReceivingAdvice);
        yield return ("Of", invoice.Object?.Value ?? "");
        yield return ("Accounted on", invoice.BuyerAccounting);
        yield return (words[PaperWord.Project], invoice.Project);
        yield return (words[PaperWord.Reference], invoice.BuyerReference);
        yield return (words[PaperWord.Delivered], DeliveredOf(invoice, words, Day));
    }

    private static string DeliveredOf(EInvoice invoice, PaperWords words, Func<DateOnly?, string> day) =>
        invoice.Period is { From: not null, Until: not null } period
            ? words.Fill(PaperWord.FromTo, day(period.From), day(period.Until))
            : day(invoice.Delivery.On);

    private static PaperLine LineOf(InvoiceLine line, string currency, DisplayFormat format, PaperWords words)
    {
        string Amount(decimal? units) => Written(units, currency, format);
        var per = line.PriceBase is { } some and not 1 ? $" / {format.Figure(some)}" : "";
        return new PaperLine(
            string.Join(
                '\n',
                new[] { line.Name, line.Description, line.Note, line.Object?.Value ?? "" }
                    .Concat(line.Traits.Select(t => $"{t.Name}: {t.Value}"))
                    .Where(t => t.Length > 0)
            ),
            line.Quantity is { } quantity ? format.Figure(quantity) : "",
            words.Unit(line.Unit),
            line.Price is { } price
                ? $"{(Currency.TryOf(currency, out var known) ? format.Price(price, known) : format.Figure(price))}{per}"
                : "",
            string.Join(
                " + ",
                line.Allowances.Select(a => Amount(a.Amount)).Concat(line.Charges.Select(c => Amount(-c.Amount)))
            ),
            line.Tax is { } tax ? Rate(tax.Category, tax.Rate, format) : "",
            Amount(line.Net),
            0,
            TheirNumber: line.BuyersId
        );
    }

    private static string Rate(string category, decimal? rate, DisplayFormat format) =>
        rate is { } percent && (percent != 0 || category is "S" or "Z") ? format.Percent(percent) : category;

    private static string TaxOf(TaxBreakdown tax, DisplayFormat format)
    {
        var rate = tax.Rate is { } percent ? $"{tax.Category} {format.Percent(percent)}" : tax.Category;
        return $"{rate} {tax.ReasonCode}".Trim();
    }

    private static List<PaperTotal> TotalsOf(EInvoice invoice, Func<decimal?, string> amount, PaperWords words)
    {
        var sums = invoice.Totals;
        var rows = new List<PaperTotal>();
        void Add(string label, decimal? units, bool strong = false)
        {
            if (units is not null)
                rows.Add(new PaperTotal(label, amount(units), strong));
        }

        if (invoice.Allowances.Count + invoice.Charges.Count > 0)
            Add(words[PaperWord.Subtotal], sums.Lines);
        foreach (var off in invoice.Allowances)
            Add(off.Reason.Length > 0 ? off.Reason : words[PaperWord.Discount], -off.Amount);
        foreach (var more in invoice.Charges)
            Add(more.Reason, more.Amount);
        Add(words[PaperWord.WithoutTax], sums.WithoutTax);
        Add(words[PaperWord.Tax], sums.Tax);
        if (sums.TaxInTaxCurrency is { } told)
            rows.Add(new PaperTotal($"{words[PaperWord.Tax]} {invoice.TaxCurrency}", PlainDecimal.Text(told)));
        Add(words[PaperWord.Total], sums.WithTax);
        if (sums.Paid is not null)
            rows.Add(new PaperTotal(words[PaperWord.PaidMark], amount(-sums.Paid)));
        Add(words[PaperWord.Rounding], sums.Rounding);
        Add($"{words[PaperWord.ToPay]} {invoice.Currency}", sums.Payable, true);
        return rows;
    }

    private static IEnumerable<string> ClosingOf(EInvoice invoice, Func<decimal?, string> amount, PaperWords words)
    {
        foreach (var tax in invoice.Taxes.Where(t => t.Reason.Length > 0))
            yield return tax.Reason;
        if (invoice.Terms.Length > 0)
            yield return invoice.Terms;
        var place = string.Join(
            ", ",
            $"{invoice.Delivery.Name}\n{Address(invoice.Delivery.Address)}".Split(
                '\n',
                StringSplitOptions.RemoveEmptyEntries
            )
        );
        if (place.Length > 0)
            yield return words.Fill(PaperWord.DeliveredTo, place);
        if (invoice.Representative is { } agent)
            yield return $"Represented for tax by {agent.Name}, {agent.TaxId}";
        if (invoice.Payee is { } payee)
            yield return $"Paid to {payee.Name}";
        if (invoice.Payment?.Card is { } card)
            yield return $"Paid by the card that ends in {card.Number}";
        if (invoice.Payment is { Mandate.Length: > 0 } debit)
            yield return $"Taken from {debit.Debited} by the mandate {debit.Mandate} of {debit.Creditor}";
        foreach (var file in invoice.Documents)
            yield return $"With it: {string.Join(", ", new[] { file.FileName.Length > 0 ? file.FileName : file.Reference, file.Description, file.Location }.Where(t => t.Length > 0))}";
        if (invoice.Payment is { Remittance.Length: > 0 } pay)
            yield return $"{pay.Remittance} · {amount(invoice.Totals.Payable)} {invoice.Currency}";
        if (invoice.Lines.Count > MostLines)
            yield return $"… {invoice.Lines.Count - MostLines}";
    }
}
