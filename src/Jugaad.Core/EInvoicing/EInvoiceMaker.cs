using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Core.EInvoicing;

/// <summary>What an e-invoice needs besides the document itself.</summary>
/// <param name="Home">The currency of the books.</param>
/// <param name="ItemOf">An item by its id; null where it is not known.</param>
/// <param name="CorrectedOn">The day of the document that a note corrects; null where that is not known.</param>
public sealed record EInvoiceSources(Currency Home, Func<int, Item?> ItemOf, DateOnly? CorrectedOn = null)
{
    /// <summary>The files that go along, of kinds that may be embedded (BG-24).</summary>
    public IReadOnlyList<Supporting> Files { get; init; } = [];
}

/// <summary>
/// Tells an issued invoice, credit note or debit note by the semantic model of EN 16931-1. What the document has frozen
/// is told as it is; amounts are never changed so that they fit.
/// </summary>
public sealed class EInvoiceMaker
{
    private readonly Document _document;
    private readonly EInvoiceSources _sources;
    private readonly Currency _currency;

    private EInvoiceMaker(Document document, EInvoiceSources sources) =>
        (_document, _sources, _currency) = (document, sources, document.Currency);

    /// <param name="document">Issued, with its lines, charges and taxes.</param>
    /// <exception cref="RefusalException">With all that the standard has no words for.</exception>
    public static EInvoice Of(Document document, EInvoiceSources sources)
    {
        if (document.Number is null || document.Sender is null || document.Addressee is null)
            throw new RefusalException("", "Only what is issued can be told as an e-invoice. Issue it first.");
        if (!document.Policy.Posts)
            throw new RefusalException(
                "",
                $"An e-invoice is made of an invoice, a credit note or a debit note, and this is {document.Policy.AWord}."
            );
        var refusals = new Refusals();
        EInvoiceLimits.Check(refusals, document);
        refusals.ThrowIfAny();
        return new EInvoiceMaker(document, sources).Make();
    }

    private decimal Units(long minor) => new Money(minor, _currency).Units;

    private EInvoice Make()
    {
        var more = _document.Particulars;
        var (lines, notes) = Lines();
        var (allowances, charges) = Adjustments();
        var isNote = _document.Kind is DocumentKind.CreditNote or DocumentKind.DebitNote;
        var told = !_currency.Equals(_sources.Home) && _document.Taxes.Any(t => t.Tax != 0);
        var paid = _document.PaidWords.Length > 0 && !isNote ? _document.Payable : 0;
        var period = more is { DeliveredFrom: { } from, DeliveredUntil: { } until } ? new Period(from, until) : null;
        return new EInvoice
        {
            Number = _document.Number!,
            Issued = _document.Date,
            TypeCode = TypeCode(),
            Currency = _currency.Code,
            TaxCurrency = told ? _sources.Home.Code : "",
            TaxPoint = _document.TaxDate is { } day && day != _document.Date ? day : null,
            Due = _document.DueDate,
            BuyerReference =
                more.Reference.Length > 0 ? more.Reference : _document.Addressee!.Parts?.BuyerReference ?? "",
            Contract = _document.Addressee!.Parts?.ContractReference ?? "",
            Project = more.Project,
            PurchaseOrder = _document.PurchaseOrder,
            // What is to be paid says until when (BR-CO-25), and a credit that there is nothing to do.
            Terms = _document.Kind == DocumentKind.CreditNote ? "Credited" : _document.TermsText,
            Notes = [.. new[] { more.Opening, more.Reason, _document.Note }.Where(n => n.Length > 0), .. notes],
            Specification = EInvoice.CoreSpecification,
            Preceding =
                isNote && more.Corrects.Length > 0 ? [new PrecedingInvoice(more.Corrects, _sources.CorrectedOn)] : [],
            Seller = EInvoiceParties.Seller(_document.Sender!, IsOutOfScope),
            Buyer = EInvoiceParties.Buyer(_document.Addressee!, IsOutOfScope),
            Documents = _sources.Files,
            Delivery = DeliveryOf(period),
            Period = period,
            Payment = Payment(),
            Allowances = allowances,
            Charges = charges,
            Taxes = Taxes(),
            Lines = lines,
            Totals = new DocumentTotals
            {
                Lines = lines.Sum(l => l.Net),
                Allowances = allowances.Count == 0 ? null : allowances.Sum(a => a.Amount),
                Charges = charges.Count == 0 ? null : charges.Sum(a => a.Amount),
                WithoutTax = Units(_document.Net),
                Tax = Units(_document.Tax),
                TaxInTaxCurrency = told
                    ? new Money(_document.Taxes.Sum(t => t.HomeTax(_document, _sources.Home)), _sources.Home).Units
                    : null,
                WithTax = Units(_document.Total),
                Paid = paid == 0 ? null : Units(paid),
                Rounding = _document.Payable == _document.Total ? null : Units(_document.Payable - _document.Total),
                Payable = Units(_document.Payable - paid),
            },
        };
    }

    private string TypeCode() =>
        _document.Kind switch
        {
            DocumentKind.CreditNote => "381",
            DocumentKind.DebitNote => "383",
            _ => _document.Lines.Any(l => l.Role == LineRole.Deposit) ? "386" : "380",
        };

    private bool IsOutOfScope => _document.Taxes.All(t => t.Category == TaxCategory.OutOfScope);

    private Delivery DeliveryOf(Period? period)
    {
        var within = _document.Taxes.Any(t => t.Category == TaxCategory.IntraUnion);
        var to = _document.Place ?? (within ? _document.Addressee!.Parts?.Address : null);
        return new Delivery
        {
            On = period is not null
                ? null
                : _document.Particulars.DeliveredFrom ?? (within ? _document.TaxDate ?? _document.Date : null),
            Address = to is null or { Country: "" } ? null : EInvoiceParties.AddressOf(to, "", ""),
        };
    }

    private PaymentInstructions? Payment()
    {
        var sender = _document.Sender!;
        if (_document.Kind == DocumentKind.CreditNote || sender.Iban.Length == 0 || _document.PaidWords.Length > 0)
            return null;
        var reference = StructuredReference.Of(_document.Number!);
        return new PaymentInstructions
        {
            Means = _currency.Code == "EUR" ? "58" : "30",
            Remittance = reference.Length > 0 ? reference : _document.Number!,
            Transfers =
            [
                .. sender
                    .MoreBanks.Prepend(new SenderBank(sender.BankName, sender.Iban, sender.Bic))
                    .Where(b => b.Iban.Length > 0)
                    .Select(b => new CreditTransfer(b.Iban, sender.Parts?.Name ?? sender.Name, b.Bic)),
            ],
        };
    }

    private List<TaxBreakdown> Taxes()
    {
        var words = _document.TaxWords.Replace("\n", " ", StringComparison.Ordinal).Trim();
        return
        [
            .. _document
                .Taxes.OrderBy(t => t.Position)
                .GroupBy(t => EInvoiceTaxes.Of(t.Treatment))
                .Select(g => new TaxBreakdown
                {
                    Taxable = Units(g.Sum(t => t.Taxable)),
                    Tax = Units(g.Sum(t => t.Tax)),
                    Category = g.Key.Category,
                    Rate = g.Key.Rate,
                    Reason =
                        g.Key.Category is "S" or "Z" ? ""
                        : words.Length > 0 ? words
                        : g.First().Category.Word(),
                    ReasonCode = ExemptionOf(g.Key),
                }),
        ];
    }

    /// <summary>The code of its tax codes where they agree on one, else that of the category.</summary>
    private string ExemptionOf(LineTax tax)
    {
        var codes = _document
            .Lines.Where(l => l.Counts && EInvoiceTaxes.Of(l.Treatment) == tax)
            .Select(l => _document.Facts?.Exemptions.FirstOrDefault(e => e.TaxCodeId == l.TaxCodeId)?.Code ?? "")
            .Distinct()
            .ToList();
        return codes is [{ Length: > 0 } one] && tax.Category is not ("S" or "Z")
            ? one
            : EInvoiceTaxes.UsualExemption(tax.Category);
    }

    /// <summary>
    /// The discount on the whole, by how it is taxed, and charges. Where prices include tax, the lines are told without
    /// tax and with their share of the discount.
    /// </summary>
    private (List<Adjustment> Allowances, List<Adjustment> Charges) Adjustments()
    {
        var charges = _document
            .Charges.OrderBy(c => c.Position)
            .Where(c => c.Net != 0)
            .Select(c => new Adjustment
            {
                Amount = Units(c.Net),
                Tax = EInvoiceTaxes.Of(c.Treatment),
                Reason = c.Text.Length > 0 ? c.Text : "Charge",
            })
            .ToList();
        if (_document.PricesIncludeTax)
            return ([], charges);
        var allowances = new List<Adjustment>();
        foreach (var same in Counting().GroupBy(l => EInvoiceTaxes.Of(l.Treatment)))
        {
            var off = same.Sum(l => l.Amount - l.Net);
            if (off == 0)
                continue;
            var sum = same.Sum(l => l.Amount);
            var percent = off > 0 && sum > 0 ? _document.DiscountPercent : null;
            (off > 0 ? allowances : charges).Add(
                new Adjustment
                {
                    Amount = Units(Math.Abs(off)),
                    Base = percent is null ? null : Units(sum),
                    Percent = percent,
                    Tax = same.Key,
                    Reason = "Discount",
                    ReasonCode = off > 0 ? "95" : "",
                }
            );
        }

        return (allowances, charges);
    }

    private IEnumerable<DocumentLine> Counting() => _document.Lines.OrderBy(l => l.Position).Where(l => l.Counts);

    /// <summary>Lines with figures; words go as a note with the line below them, and with the whole where none is.</summary>
    private (List<InvoiceLine> Lines, List<string> Notes) Lines()
    {
        var (lines, waiting) = (new List<InvoiceLine>(), new List<string>());
        foreach (var line in _document.Lines.OrderBy(l => l.Position))
        {
            if (line.Counts)
            {
                lines.Add(LineOf(line, lines.Count + 1, string.Join("\n", waiting)));
                waiting.Clear();
            }
            else if (line.Role is LineRole.Text or LineRole.Section && line.Text.Length > 0)
                waiting.Add(line.Text);
        }

        return (lines, waiting);
    }

    private InvoiceLine LineOf(DocumentLine line, int position, string note)
    {
        // Frozen with the document; read from the item for what was issued before that.
        var item =
            _document.Facts?.Of(line.ItemId)
            ?? (line.ItemId is { } id && _sources.ItemOf(id) is { } known ? ItemFacts.Of(known) : null);
        var words = line.Text.Split('\n', 2, StringSplitOptions.TrimEntries);
        var told = new InvoiceLine
        {
            Id = $"{position}",
            Note = note,
            Unit = line.Unit.Length > 0 ? line.Unit : "C62",
            Tax = EInvoiceTaxes.Of(line.Treatment),
            Name = words[0].Length > 0 ? words[0] : item?.Name ?? "",
            Description = words.Length > 1 ? words[1] : "",
            SellersId = item?.Number ?? "",
            BuyersId = item?.BuyersNumber ?? "",
            StandardId = item is { Gtin.Length: > 0 } ? new Identifier(item.Gtin, "0160") : null,
            Classes = item is { Classification.Length: > 0, ClassificationList.Length: > 0 }
                ? [new Identifier(item.Classification, item.ClassificationList)]
                : [],
            Origin = item?.Origin ?? "",
        };
        var priced =
            !_document.PricesIncludeTax
            && line.Extension == Calculator.Extension(line.Quantity, line.UnitPrice, _currency)
            && line.Extension - line.Discount == line.Amount;
        return priced ? AtItsPrice(told, line) : AtWhatItComesTo(told, line);
    }

    /// <summary>With the price and the discount that were agreed. A price is never below zero (BR-27); a quantity may be.</summary>
    private InvoiceLine AtItsPrice(InvoiceLine told, DocumentLine line)
    {
        var off = new Adjustment
        {
            Amount = Units(Math.Abs(line.Discount)),
            Base = line.DiscountPercent is null || line.Extension <= 0 ? null : Units(line.Extension),
            Percent = line.Extension <= 0 ? null : line.DiscountPercent,
            Reason = "Discount",
        };
        return told with
        {
            Quantity = line.UnitPrice < 0 ? -line.Quantity : line.Quantity,
            Price = Math.Abs(line.UnitPrice),
            Net = Units(line.Amount),
            Allowances = line.Discount > 0 ? [off with { ReasonCode = "95" }] : [],
            Charges = line.Discount < 0 ? [off with { Base = null, Percent = null }] : [],
        };
    }

    /// <summary>
    /// Where prices include tax, or a part is billed: the net, and the price that gives it with the quantity.
    /// </summary>
    private InvoiceLine AtWhatItComesTo(InvoiceLine told, DocumentLine line)
    {
        var net = Units(_document.PricesIncludeTax ? line.Net : line.Amount);
        var quantity = line.Quantity == 0 ? 1 : Math.Abs(line.Quantity);
        var (price, per) = (Math.Abs(net), (decimal?)quantity);
        for (var decimals = 2; decimals <= 10; decimals++)
        {
            var one = Math.Round(Math.Abs(net) / quantity, decimals, MidpointRounding.AwayFromZero);
            if (Math.Round(one * quantity, 2, MidpointRounding.AwayFromZero) != Math.Abs(net))
                continue;
            (price, per) = (one, null);
            break;
        }

        return told with
        {
            Quantity = net < 0 ? -quantity : quantity,
            Price = price,
            PriceBase = per == 1 ? null : per,
            Net = net,
        };
    }
}
