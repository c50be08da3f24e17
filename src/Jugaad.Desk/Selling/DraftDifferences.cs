using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;

namespace Jugaad.Desk.Selling;

/// <summary>Says in words what a change of a draft changed, for the trail and for whoever saves after it.</summary>
public static class DraftDifferences
{
    public static IReadOnlyList<string> Between(DraftContent before, DraftContent after, Currency currency)
    {
        var said = new List<string>();
        void Field<T>(string name, T was, T now)
        {
            if (!Equals(was, now)) said.Add($"{name}: {Text(was)} → {Text(now)}");
        }

        Field("customer", before.CustomerId, after.CustomerId);
        Field("date", before.Date, after.Date);
        Field("tax date", before.TaxDate, after.TaxDate);
        Field("due day", before.DueDate, after.DueDate);
        Field("holds until", before.ValidUntil, after.ValidUntil);
        Field("terms", before.TermsId, after.TermsId);
        Field("prices with tax", before.PricesIncludeTax, after.PricesIncludeTax);
        Field("discount percent", before.DiscountPercent, after.DiscountPercent);
        Field("discount", Amount(before.DiscountAmount, currency), Amount(after.DiscountAmount, currency));
        Field("place of supply", before.PlaceId, after.PlaceId);
        Field("series", before.SeriesId, after.SeriesId);
        Field("number", before.NumberByHand, after.NumberByHand);
        Field("purchase order", before.PurchaseOrder, after.PurchaseOrder);
        Field("exchange rate", before.ExchangeRate, after.ExchangeRate);
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
        Field("sold by", was.SellerId, now.SellerId);
        for (var i = 0; i < Math.Max(before.Lines.Count, after.Lines.Count); i++)
            Field($"line {i + 1}", Line(before.Lines.ElementAtOrDefault(i), currency), Line(after.Lines.ElementAtOrDefault(i), currency));
        for (var i = 0; i < Math.Max(before.Charges.Count, after.Charges.Count); i++)
            Field($"charge {i + 1}", Charge(before.Charges.ElementAtOrDefault(i), currency), Charge(after.Charges.ElementAtOrDefault(i), currency));
        return said;
    }

    private static string Line(DraftLine? line, Currency currency)
    {
        if (line is null) return "";
        if (!line.Role.HasFigures()) return line.Role == LineRole.Subtotal ? "subtotal" : line.Text;
        var discount = line.DiscountPercent is { } percent ? $" −{PlainDecimal.Text(percent)} %"
            : line.DiscountAmount is { } amount ? $" −{new Money(amount, currency)}" : "";
        return $"{line.Text}, {PlainDecimal.Text(line.Quantity)} × {PlainDecimal.Text(line.UnitPrice)}{discount}, tax {line.TaxCodeId}{(line.Choice == LineChoice.Firm ? "" : $", {line.Choice.ToString().ToLowerInvariant()}{(line.Chosen ? ", chosen" : "")}")}";
    }

    private static string Charge(DraftCharge? charge, Currency currency) => charge is null ? "" : $"{charge.Text} {new Money(charge.Amount, currency)}";

    private static string Amount(long? minor, Currency currency) => minor is { } m ? new Money(m, currency).ToString() : "";

    private static string Text<T>(T value)
    {
        var text = value switch
        {
            null => "",
            DateOnly date => date.ToString("yyyy-MM-dd"),
            decimal figure => PlainDecimal.Text(figure),
            true => "yes",
            false => "no",
            _ => value.ToString() ?? "",
        };
        return text.Length == 0 ? "nothing" : text.Length > 80 ? $"“{text[..80]}…”" : $"“{text}”";
    }
}
