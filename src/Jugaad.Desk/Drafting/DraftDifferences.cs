using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;

namespace Jugaad.Desk.Drafting;

/// <summary>The names of what a draft points to, by their ids.</summary>
public sealed record DraftNames(
    IReadOnlyDictionary<int, string> Customers,
    IReadOnlyDictionary<int, string> Terms,
    IReadOnlyDictionary<int, string> Places,
    IReadOnlyDictionary<int, string> Series,
    IReadOnlyDictionary<int, string> Sellers,
    IReadOnlyDictionary<int, string> TaxCodes
)
{
    public static DraftNames None { get; } =
        new(
            new Dictionary<int, string>(),
            new Dictionary<int, string>(),
            new Dictionary<int, string>(),
            new Dictionary<int, string>(),
            new Dictionary<int, string>(),
            new Dictionary<int, string>()
        );
}

/// <summary>Says in words what a change of a draft changed, for the trail and for whoever saves after it.</summary>
public static class DraftDifferences
{
    public static IReadOnlyList<string> Between(
        DraftContent before,
        DraftContent after,
        Currency currency,
        DraftNames names,
        DisplayFormat format
    )
    {
        var said = new List<string>();
        void Field<T>(string name, T was, T now)
        {
            if (!Equals(was, now))
                said.Add($"{name}: {Text(was, format)} → {Text(now, format)}");
        }

        void Named(string name, int? was, int? now, IReadOnlyDictionary<int, string> of)
        {
            if (was != now)
                Field(
                    name,
                    was is { } w ? of.GetValueOrDefault(w, $"{w}") : "",
                    now is { } n ? of.GetValueOrDefault(n, $"{n}") : ""
                );
        }

        Named("customer", before.CustomerId, after.CustomerId, names.Customers);
        Field("currency", before.Currency, after.Currency);
        Field("date", before.Date, after.Date);
        Field("tax date", before.TaxDate, after.TaxDate);
        Field("due day", before.DueDate, after.DueDate);
        Field("holds until", before.ValidUntil, after.ValidUntil);
        Named("terms", before.TermsId, after.TermsId, names.Terms);
        Field("prices with tax", before.PricesIncludeTax, after.PricesIncludeTax);
        Field("discount percent", before.DiscountPercent, after.DiscountPercent);
        Field(
            "discount",
            Amount(before.DiscountAmount, currency, format),
            Amount(after.DiscountAmount, currency, format)
        );
        Named(
            "place of supply",
            before.PlaceId is 0 ? null : before.PlaceId,
            after.PlaceId is 0 ? null : after.PlaceId,
            names.Places
        );
        Field("handed over here", before.PlaceId == 0, after.PlaceId == 0);
        Named("series", before.SeriesId, after.SeriesId, names.Series);
        Field("number", before.NumberByHand, after.NumberByHand);
        Field("purchase order", before.PurchaseOrder, after.PurchaseOrder);
        Field("exchange rate", before.ExchangeRate, after.ExchangeRate);
        Field("reason of the exchange rate", before.Particulars.RateReason, after.Particulars.RateReason);
        Field("exchange rate held until", before.Particulars.RateHeldUntil, after.Particulars.RateHeldUntil);
        Field("note", before.Note, after.Note);
        Field("private note", before.PrivateNote, after.PrivateNote);
        var (was, now) = (before.Particulars, after.Particulars);
        Field("text above", was.Opening, now.Opening);
        Field("project", was.Project, now.Project);
        Field("reference", was.Reference, now.Reference);
        Field("delivered from", was.DeliveredFrom, now.DeliveredFrom);
        Field("delivered until", was.DeliveredUntil, now.DeliveredUntil);
        Field("carrier", was.Carrier, now.Carrier);
        Field("delivery terms", was.DeliveryTerms, now.DeliveryTerms);
        Field("reason", was.Reason, now.Reason);
        Field("follow-up", was.FollowUp, now.FollowUp);
        Field("deposit, percent", was.DepositPercent, now.DepositPercent);
        Field("deposit", was.DepositAmount, now.DepositAmount);
        Named("sold by", was.SellerId, now.SellerId, names.Sellers);
        for (var i = 0; i < Math.Max(before.Lines.Count, after.Lines.Count); i++)
            Field(
                $"line {i + 1}",
                Line(before.Lines.ElementAtOrDefault(i), currency, names, format),
                Line(after.Lines.ElementAtOrDefault(i), currency, names, format)
            );
        for (var i = 0; i < Math.Max(before.Charges.Count, after.Charges.Count); i++)
            Field(
                $"charge {i + 1}",
                Charge(before.Charges.ElementAtOrDefault(i), currency, format),
                Charge(after.Charges.ElementAtOrDefault(i), currency, format)
            );
        return said;
    }

    private static string Line(DraftLine? line, Currency currency, DraftNames names, DisplayFormat format)
    {
        if (line is null)
            return "";
        if (!line.Role.HasFigures())
            return line.Role == LineRole.Subtotal ? "subtotal" : line.Text;
        var discount =
            line.DiscountPercent is { } percent ? $" −{format.Percent(percent)}"
            : line.DiscountAmount is { } amount ? $" −{format.Amount(amount, currency)}"
            : "";
        return $"{line.Text}, {format.Figure(line.Quantity)} × {format.Price(line.UnitPrice, currency)}{discount}, tax {names.TaxCodes.GetValueOrDefault(line.TaxCodeId, "none")}{(line.Choice == LineChoice.Firm ? "" : $", {line.Choice.ToString().ToLowerInvariant()}{(line.Chosen ? ", chosen" : "")}")}";
    }

    private static string Charge(DraftCharge? charge, Currency currency, DisplayFormat format) =>
        charge is null ? "" : $"{charge.Text} {format.Amount(charge.Amount, currency)}";

    private static string Amount(long? minor, Currency currency, DisplayFormat format) =>
        minor is { } m ? format.Amount(m, currency) : "";

    private static string Text<T>(T value, DisplayFormat format)
    {
        var text = value switch
        {
            null => "",
            DateOnly date => format.Date(date),
            decimal figure => format.Exact(figure),
            true => "yes",
            false => "no",
            _ => value.ToString() ?? "",
        };
        return text.Length == 0 ? "nothing"
            : text.Length > 80 ? $"“{text[..80]}…”"
            : $"“{text}”";
    }
}
