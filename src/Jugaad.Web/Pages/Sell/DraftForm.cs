using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Sell;

/// <summary>A line as it stands in the editor's cells.</summary>
/// <param name="Discount">Empty, a percentage such as <c>10%</c>, an amount, or <c>to</c> and the price that is
/// wanted.</param>
public sealed record LineForm(
    int? ItemId,
    string? Text,
    string? Quantity,
    string? Unit,
    string? UnitPrice,
    string? Discount,
    int TaxCodeId,
    int AccountId,
    int? FromLineId
)
{
    /// <summary>As <see cref="LineRole"/> in small letters; an item where it is empty.</summary>
    public string? Role { get; init; }

    /// <summary>As <see cref="LineChoice"/> in small letters; firm where it is empty.</summary>
    public string? Choice { get; init; }

    public bool Chosen { get; init; }

    public int? FromChargeId { get; init; }

    /// <inheritdoc cref="DraftLine.KeptId"/>
    public int? KeptId { get; init; }

    /// <inheritdoc cref="DraftLine.Shares"/>
    public bool Shares { get; init; }
}

/// <summary>A charge as it stands in the editor's cells.</summary>
public sealed record ChargeForm(
    string? Text,
    string? Amount,
    int TaxCodeId,
    int AccountId,
    int? FromChargeId = null,
    int? KeptId = null
);

/// <summary>The whole editor, as typed. The server reads every figure, so that scripts never compute any.</summary>
public sealed record DraftForm : ICheckedForm
{
    string? ICheckedForm.Missing() =>
        Kind is null ? "kind"
        : Lines is null || Lines.Any(l => l is null) ? "lines"
        : Charges is null || Charges.Any(c => c is null) ? "charges"
        : null;

    public int? Id { get; init; }

    public string Kind { get; init; } = "";

    public int Version { get; init; }

    public string? FormKey { get; init; }

    public int CustomerId { get; init; }

    public string? Date { get; init; }

    public string? TaxDate { get; init; }

    public string? DueDate { get; init; }

    public string? ValidUntil { get; init; }

    /// <summary>A percentage with its sign, or an amount.</summary>
    public string? Deposit { get; init; }

    public int? TermsId { get; init; }

    /// <summary>
    /// Where it is supplied, as in <see cref="DraftContent.PlaceId"/>; −1 for the customer's address.
    /// </summary>
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

    public string? Opening { get; init; }

    public string? Project { get; init; }

    public string? Reference { get; init; }

    public string? DeliveredFrom { get; init; }

    public string? DeliveredUntil { get; init; }

    public string? Carrier { get; init; }

    public string? DeliveryTerms { get; init; }

    public string? Reason { get; init; }

    /// <summary>In which its paper is written; empty for the language of the customer.</summary>
    public string? Language { get; init; }

    /// <summary>The exchange rate that is typed for it; empty for the one of the list.</summary>
    public string? TypedRate { get; init; }

    /// <summary>The code of the currency that it is in; empty for the customer's usual one.</summary>
    public string? Currency { get; init; }

    /// <summary>Whether that is the currency for one unit of home; home for one of it otherwise.</summary>
    public bool RatePerHome { get; init; }

    public string? RateReason { get; init; }

    public string? RateHeldUntil { get; init; }

    public string? Corrects { get; init; }

    /// <summary>Whether the goods of a credit note come back on hand.</summary>
    public bool? GoodsBack { get; init; }

    public string? FollowUp { get; init; }

    public int? SellerId { get; init; }

    public IReadOnlyList<LineForm> Lines { get; init; } = [];

    public IReadOnlyList<ChargeForm> Charges { get; init; } = [];

    /// <exception cref="RefusalException">When there is no such kind.</exception>
    public DocumentKind ReadKind() =>
        KindWords.Of(Kind)
        ?? throw new RefusalException("", $"“{Kind}” has no editor. Choose another kind of document.");

    /// <exception cref="RefusalException">With every cell that cannot be read, by its place.</exception>
    public DraftContent Read(DisplayFormat format, Currency currency, DateOnly today)
    {
        var refusals = new Refusals();
        var wanted = ReadWanted(Discount, format, currency, "discount", refusals);
        var (percent, amount) = wanted is null
            ? ReadDiscount(Discount, format, currency, "discount", refusals)
            : (null, null);
        var (depositPercent, depositAmount) = ReadDiscount(Deposit, format, currency, "deposit", refusals);
        // "+14" of the last day is meant from the document's.
        DateOnly? Day(string? typed, DateOnly from, string field)
        {
            DateOnly? day = null;
            if (!string.IsNullOrWhiteSpace(typed))
                refusals.Try(() => day = format.ReadDay(typed, from, field));
            return day;
        }
        var date = Day(Date, today, "date");
        var content = new DraftContent
        {
            CustomerId = CustomerId,
            Currency = Currency ?? "",
            Date = date ?? Missing("date", refusals),
            TaxDate = Day(TaxDate, today, "taxDate"),
            DueDate = Day(DueDate, date ?? today, "dueDate"),
            ValidUntil = Day(ValidUntil, date ?? today, "validUntil"),
            TermsId = TermsId is > 0 ? TermsId : null,
            PlaceId = PlaceId is >= 0 ? PlaceId : null,
            SeriesId = SeriesId is > 0 ? SeriesId : null,
            PricesIncludeTax = PricesIncludeTax,
            DiscountPercent = percent,
            DiscountAmount = amount,
            WantedTotal = wanted,
            Particulars = new Particulars
            {
                Opening = Opening ?? "",
                Project = Project ?? "",
                Reference = Reference ?? "",
                DeliveredFrom = Day(DeliveredFrom, today, "deliveredFrom"),
                DeliveredUntil = Day(DeliveredUntil, today, "deliveredUntil"),
                Carrier = Carrier ?? "",
                DeliveryTerms = DeliveryTerms ?? "",
                Reason = Reason ?? "",
                Language = Language ?? "",
                TypedRate = ReadRate(format, refusals),
                RateReason = RateReason ?? "",
                RateHeldUntil = Day(RateHeldUntil, date ?? today, "rateHeldUntil"),
                Corrects = Corrects ?? "",
                GoodsStay = GoodsBack == false,
                FollowUp = Day(FollowUp, today, "followUp"),
                SellerId = SellerId is > 0 ? SellerId : null,
                DepositPercent = depositPercent,
                DepositAmount = depositAmount,
            },
            NumberByHand = NumberByHand ?? "",
            PurchaseOrder = PurchaseOrder ?? "",
            Note = Note ?? "",
            PrivateNote = PrivateNote ?? "",
            Lines = Lines.Select((line, i) => ReadLine(line, $"lines[{i}]", format, currency, refusals)).ToList(),
            Charges = Charges
                .Select((charge, i) => ReadCharge(charge, $"charges[{i}]", format, currency, refusals))
                .ToList(),
        };
        refusals.ThrowIfAny();
        return content;
    }

    private Jugaad.Core.Exchange.QuotedRate? ReadRate(DisplayFormat format, Refusals refusals)
    {
        if (string.IsNullOrWhiteSpace(TypedRate))
            return null;
        var figure = 0m;
        refusals.Try(() => figure = format.Read(TypedRate, 20, "typedRate"));
        return new(figure, RatePerHome);
    }

    private static DraftLine ReadLine(
        LineForm line,
        string at,
        DisplayFormat format,
        Currency currency,
        Refusals refusals
    )
    {
        var role = Enum.TryParse<LineRole>(line.Role, true, out var read) ? read : LineRole.Item;
        if (!role.HasFigures())
            return DraftLine.Words(line.Text ?? "", role) with { KeptId = line.KeptId };
        decimal quantity = 0,
            price = 0;
        refusals.Try(() => quantity = format.Read(line.Quantity ?? "", Limits.FigureDecimals, $"{at}.quantity"));
        refusals.Try(() => price = format.Read(line.UnitPrice ?? "", Limits.FigureDecimals, $"{at}.unitPrice"));
        var wanted = ReadWanted(line.Discount, format, currency, $"{at}.discount", refusals);
        var (percent, amount) = wanted is null
            ? ReadDiscount(line.Discount, format, currency, $"{at}.discount", refusals)
            : (null, null);
        // A wanted price is kept as the discount that leads to it, so that it is seen on the paper.
        if (wanted is { } final && Math.Abs(quantity) <= Limits.Figure && Math.Abs(price) <= Limits.Figure)
            amount = Calculator.Extension(quantity, price, currency) - final;
        return new DraftLine(
            line.ItemId,
            line.Text ?? "",
            quantity,
            string.IsNullOrEmpty(line.Unit) ? "C62" : line.Unit,
            price,
            percent,
            amount == 0 && wanted is not null ? null : amount,
            line.TaxCodeId,
            line.AccountId,
            line.FromLineId
        )
        {
            Role = role,
            Choice = Enum.TryParse<LineChoice>(line.Choice, true, out var choice) ? choice : LineChoice.Firm,
            Chosen = line.Chosen,
            FromChargeId = line.FromChargeId,
            KeptId = line.KeptId,
            Shares = line.Shares,
        };
    }

    private static DraftCharge ReadCharge(
        ChargeForm charge,
        string at,
        DisplayFormat format,
        Currency currency,
        Refusals refusals
    )
    {
        var amount = 0L;
        refusals.Try(() => amount = format.ReadAmount(charge.Amount ?? "", currency, $"{at}.amount"));
        return new DraftCharge(charge.Text ?? "", amount, charge.TaxCodeId, charge.AccountId, charge.FromChargeId)
        {
            KeptId = charge.KeptId,
        };
    }

    /// <summary>
    /// Minor units of what something should come to, typed as <c>to 150</c>; null where that is not what was typed.
    /// </summary>
    private static long? ReadWanted(
        string? text,
        DisplayFormat format,
        Currency currency,
        string field,
        Refusals refusals
    )
    {
        var typed = (text ?? "").Trim();
        if (!typed.StartsWith("to ", StringComparison.OrdinalIgnoreCase))
            return null;
        long? wanted = null;
        refusals.Try(() => wanted = format.ReadAmount(typed[3..], currency, field));
        return wanted ?? 0;
    }

    /// <summary>One cell holds either kind of discount: with a percent sign or without.</summary>
    private static (decimal? Percent, long? Amount) ReadDiscount(
        string? text,
        DisplayFormat format,
        Currency currency,
        string field,
        Refusals refusals
    )
    {
        var typed = (text ?? "").Trim();
        if (typed.Length == 0)
            return (null, null);
        decimal? percent = null;
        long? amount = null;
        if (typed.EndsWith('%'))
            refusals.Try(() => percent = format.Read(typed[..^1], Limits.PercentDecimals, field));
        else
            refusals.Try(() => amount = format.ReadAmount(typed, currency, field));
        return (percent, amount);
    }

    private static DateOnly Missing(string field, Refusals refusals)
    {
        refusals.Add(field, "Give the date.");
        return new DateOnly(2000, 1, 1);
    }

    /// <summary>The editor's cells for a kept document.</summary>
    public static DraftForm Of(Document document, DisplayFormat format)
    {
        var content = document.Content();
        string Written(DateOnly? day) => day is { } d ? format.Date(d) : "";
        return new DraftForm
        {
            Id = document.Id,
            Kind = document.Policy.Word,
            Version = document.Version,
            CustomerId = document.CustomerId,
            Currency = content.Currency,
            Date = Written(content.Date),
            TaxDate = Written(content.TaxDate),
            DueDate = Written(content.DueDate),
            ValidUntil = Written(content.ValidUntil),
            TermsId = content.TermsId,
            PlaceId = content.PlaceId ?? -1,
            SeriesId = content.SeriesId,
            PricesIncludeTax = content.PricesIncludeTax,
            Discount = DiscountCell(content.DiscountPercent, content.DiscountAmount, document.Currency, format),
            NumberByHand = content.NumberByHand,
            PurchaseOrder = content.PurchaseOrder,
            Opening = content.Particulars.Opening,
            Project = content.Particulars.Project,
            Reference = content.Particulars.Reference,
            DeliveredFrom = Written(content.Particulars.DeliveredFrom),
            DeliveredUntil = Written(content.Particulars.DeliveredUntil),
            Carrier = content.Particulars.Carrier,
            DeliveryTerms = content.Particulars.DeliveryTerms,
            Reason = content.Particulars.Reason,
            Language = content.Particulars.Language,
            TypedRate = content.Particulars.TypedRate is { } rate ? format.Typed(rate.Figure) : "",
            RatePerHome = content.Particulars.TypedRate?.PerHome == true,
            RateReason = content.Particulars.RateReason,
            RateHeldUntil = Written(content.Particulars.RateHeldUntil),
            Corrects = content.Particulars.Corrects,
            GoodsBack = !content.Particulars.GoodsStay,
            FollowUp = Written(content.Particulars.FollowUp),
            SellerId = content.Particulars.SellerId ?? 0,
            Deposit = DiscountCell(
                content.Particulars.DepositPercent,
                content.Particulars.DepositAmount,
                document.Currency,
                format
            ),
            Note = content.Note,
            PrivateNote = content.PrivateNote,
            Lines = CellsOf(content, document.Currency, format),
            Charges = content
                .Charges.Select(c => new ChargeForm(
                    c.Text,
                    format.Typed(c.Amount, document.Currency),
                    c.TaxCodeId,
                    c.LedgerAccountId,
                    c.FromChargeId,
                    c.KeptId
                ))
                .ToList(),
        };
    }

    /// <summary>Lines as the editor's cells.</summary>
    public static IReadOnlyList<LineForm> CellsOf(DraftContent content, Currency currency, DisplayFormat format) =>
        content
            .Lines.Select(l =>
                !l.Role.HasFigures()
                    ? new LineForm(null, l.Text, "", "C62", "", "", 0, 0, null)
                    {
                        Role = Small(l.Role),
                        KeptId = l.KeptId,
                    }
                    : new LineForm(
                        l.ItemId,
                        l.Text,
                        format.Typed(l.Quantity),
                        l.Unit,
                        format.TypedPrice(l.UnitPrice, currency),
                        DiscountCell(l.DiscountPercent, l.DiscountAmount, currency, format),
                        l.TaxCodeId,
                        l.LedgerAccountId,
                        l.FromLineId
                    )
                    {
                        Role = Small(l.Role),
                        Choice = Small(l.Choice),
                        Chosen = l.Chosen,
                        FromChargeId = l.FromChargeId,
                        KeptId = l.KeptId,
                        Shares = l.Shares,
                    }
            )
            .ToList();

    internal static string DiscountCell(decimal? percent, long? amount, Currency currency, DisplayFormat format) =>
        percent is { } p ? format.Typed(p) + "%"
        : amount is { } a ? format.Typed(a, currency)
        : "";

    private static string Small<T>(T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();
}
