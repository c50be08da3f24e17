using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;

namespace Jugaad.Web.Endpoints;

/// <summary>A line as it stands in the editor's cells.</summary>
/// <param name="Discount">Empty, a percentage such as <c>10%</c>, or an amount.</param>
public sealed record LineForm(int? ItemId, string? Text, string? Quantity, string? Unit, string? UnitPrice, string? Discount, int TaxCodeId, int AccountId, int? FromLineId);

/// <summary>A charge as it stands in the editor's cells.</summary>
public sealed record ChargeForm(string? Text, string? Amount, int TaxCodeId, int AccountId);

/// <summary>The whole editor, as typed. The server reads every figure, so that scripts never compute any.</summary>
public sealed record DraftForm
{
    public int? Id { get; init; }

    public string Kind { get; init; } = "";

    public int Version { get; init; }

    public string? FormKey { get; init; }

    public int CustomerId { get; init; }

    public string? Date { get; init; }

    public string? TaxDate { get; init; }

    public string? DueDate { get; init; }

    public string? ValidUntil { get; init; }

    public int? TermsId { get; init; }

    /// <summary>Where it is supplied, as in <see cref="DraftContent.PlaceId"/>; −1 for the customer's address.</summary>
    public int? PlaceId { get; init; }

    public int? SeriesId { get; init; }

    /// <summary>The treatments that the person saw, by tax code, so that a change of rate can be told.</summary>
    public IReadOnlyDictionary<int, string>? Seen { get; init; }

    public bool PricesIncludeTax { get; init; }

    public string? Discount { get; init; }

    public string? NumberByHand { get; init; }

    public string? PurchaseOrder { get; init; }

    public string? Note { get; init; }

    public string? PrivateNote { get; init; }

    public IReadOnlyList<LineForm> Lines { get; init; } = [];

    public IReadOnlyList<ChargeForm> Charges { get; init; } = [];

    /// <exception cref="RefusalException">When the kind is not one that has an editor.</exception>
    public DocumentKind ReadKind() => Kind switch
    {
        "quote" => DocumentKind.Quote,
        "invoice" => DocumentKind.Invoice,
        _ => throw new RefusalException("", $"“{Kind}” has no editor. Choose a quote or an invoice."),
    };

    /// <exception cref="RefusalException">With every cell that cannot be read, by its place.</exception>
    public DraftContent Read(DisplayFormat format, Currency currency)
    {
        var refusals = new Refusals();
        var (percent, amount) = ReadDiscount(Discount, format, currency, "discount", refusals);
        var content = new DraftContent
        {
            CustomerId = CustomerId,
            Date = ReadDate(Date, "date", refusals) ?? Missing("date", refusals),
            TaxDate = ReadDate(TaxDate, "taxDate", refusals),
            DueDate = ReadDate(DueDate, "dueDate", refusals),
            ValidUntil = ReadDate(ValidUntil, "validUntil", refusals),
            TermsId = TermsId is > 0 ? TermsId : null,
            PlaceId = PlaceId is >= 0 ? PlaceId : null,
            SeriesId = SeriesId is > 0 ? SeriesId : null,
            PricesIncludeTax = PricesIncludeTax,
            DiscountPercent = percent,
            DiscountAmount = amount,
            NumberByHand = NumberByHand ?? "",
            PurchaseOrder = PurchaseOrder ?? "",
            Note = Note ?? "",
            PrivateNote = PrivateNote ?? "",
            Lines = Lines.Select((line, i) => ReadLine(line, $"lines[{i}]", format, currency, refusals)).ToList(),
            Charges = Charges.Select((charge, i) => ReadCharge(charge, $"charges[{i}]", format, currency, refusals)).ToList(),
        };
        refusals.ThrowIfAny();
        return content;
    }

    private static DraftLine ReadLine(LineForm line, string at, DisplayFormat format, Currency currency, Refusals refusals)
    {
        decimal quantity = 0, price = 0;
        refusals.Try(() => quantity = format.Read(line.Quantity ?? "", Limits.FigureDecimals, $"{at}.quantity"));
        refusals.Try(() => price = format.Read(line.UnitPrice ?? "", Limits.FigureDecimals, $"{at}.unitPrice"));
        var (percent, amount) = ReadDiscount(line.Discount, format, currency, $"{at}.discount", refusals);
        return new DraftLine(line.ItemId, line.Text ?? "", quantity, string.IsNullOrEmpty(line.Unit) ? "C62" : line.Unit, price, percent, amount, line.TaxCodeId, line.AccountId, line.FromLineId);
    }

    private static DraftCharge ReadCharge(ChargeForm charge, string at, DisplayFormat format, Currency currency, Refusals refusals)
    {
        var amount = 0L;
        refusals.Try(() => amount = format.ReadAmount(charge.Amount ?? "", currency, $"{at}.amount"));
        return new DraftCharge(charge.Text ?? "", amount, charge.TaxCodeId, charge.AccountId);
    }

    /// <summary>One cell holds either kind of discount: with a percent sign or without.</summary>
    private static (decimal? Percent, long? Amount) ReadDiscount(string? text, DisplayFormat format, Currency currency, string field, Refusals refusals)
    {
        var typed = (text ?? "").Trim();
        if (typed.Length == 0) return (null, null);
        decimal? percent = null;
        long? amount = null;
        if (typed.EndsWith('%')) refusals.Try(() => percent = format.Read(typed[..^1], Limits.PercentDecimals, field));
        else refusals.Try(() => amount = format.ReadAmount(typed, currency, field));
        return (percent, amount);
    }

    private static DateOnly? ReadDate(string? text, string field, Refusals refusals)
    {
        if (string.IsNullOrWhiteSpace(text)) return null;
        if (DateOnly.TryParseExact(text.Trim(), "yyyy-MM-dd", out var date)) return date;
        refusals.Add(field, "This is not a date. Choose one from the calendar.");
        return null;
    }

    private static DateOnly Missing(string field, Refusals refusals)
    {
        refusals.Add(field, "Give the date.");
        return new DateOnly(2000, 1, 1);
    }

    /// <summary>The editor's cells for a kept document.</summary>
    public static DraftForm Of(Document document, DisplayFormat format)
    {
        string Discount(decimal? percent, long? amount) => percent is { } p ? format.Typed(p) + "%" : amount is { } a ? format.Typed(a, document.Currency) : "";
        var content = document.Content();
        return new DraftForm
        {
            Id = document.Id,
            Kind = document.Policy.Word,
            Version = document.Version,
            CustomerId = document.CustomerId,
            Date = Iso(content.Date),
            TaxDate = Iso(content.TaxDate),
            DueDate = Iso(content.DueDate),
            ValidUntil = Iso(content.ValidUntil),
            TermsId = content.TermsId,
            PlaceId = content.PlaceId ?? -1,
            SeriesId = content.SeriesId,
            PricesIncludeTax = content.PricesIncludeTax,
            Discount = Discount(content.DiscountPercent, content.DiscountAmount),
            NumberByHand = content.NumberByHand,
            PurchaseOrder = content.PurchaseOrder,
            Note = content.Note,
            PrivateNote = content.PrivateNote,
            Lines = content.Lines.Select(l => new LineForm(l.ItemId, l.Text, format.Typed(l.Quantity), l.Unit, format.TypedPrice(l.UnitPrice, document.Currency), Discount(l.DiscountPercent, l.DiscountAmount), l.TaxCodeId, l.LedgerAccountId, l.FromLineId)).ToList(),
            Charges = content.Charges.Select(c => new ChargeForm(c.Text, format.Typed(c.Amount, document.Currency), c.TaxCodeId, c.LedgerAccountId)).ToList(),
        };
    }

    private static string Iso(DateOnly? date) => date?.ToString("yyyy-MM-dd") ?? "";
}
