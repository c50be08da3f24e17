using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Documents;

/// <summary>What is checked of a draft besides its figures.</summary>
internal static class DraftCheck
{
    internal static void Texts(Refusals refusals, DraftContent content, KindPolicy policy)
    {
        Core.Texts.Short(refusals, "purchaseOrder", content.PurchaseOrder, 100);
        Core.Texts.Short(refusals, "numberByHand", content.NumberByHand, 40);
        Core.Texts.Short(refusals, "note", content.Note, Limits.Note);
        Core.Texts.Short(refusals, "privateNote", content.PrivateNote, Limits.Note);
        content.Particulars.Check(refusals);
        for (var i = 0; i < content.Lines.Count; i++)
        {
            var line = content.Lines[i];
            if (line.Role == LineRole.Subtotal)
                continue;
            if (!line.Role.HasFigures())
            {
                Core.Texts.Required(
                    refusals,
                    $"lines[{i}].text",
                    line.Text,
                    2_000,
                    "Type the words of this line, or remove it."
                );
                continue;
            }

            if (line.Choice != LineChoice.Firm && !policy.HasValidity)
                refusals.Add(
                    $"lines[{i}].choice",
                    $"Only a quote has lines to choose from; make this a firm line of the {policy.Word}."
                );
            Core.Texts.Required(
                refusals,
                $"lines[{i}].text",
                line.Text,
                2_000,
                "Say what this line is for, or choose an item."
            );
            if (!Trade.Units.Knows(line.Unit))
                refusals.Add($"lines[{i}].unit", "Choose a unit from the list.");
            if (policy.Posts && line.LedgerAccountId == 0)
                refusals.Add($"lines[{i}].account", "Choose the account that this line is booked to.");
        }

        for (var i = 0; i < content.Charges.Count; i++)
            Core.Texts.Required(
                refusals,
                $"charges[{i}].text",
                content.Charges[i].Text,
                200,
                "Say what this charge is for."
            );
        if (content.ExchangeRate.Figure is <= 0 or > 1_000_000)
            refusals.Add("exchangeRate", "Give an exchange rate above zero, at most 1000000.");
    }

    internal static Treatment? Tax(Refusals refusals, DraftMasters masters, int codeId, DateOnly day, string field)
    {
        Treatment? treatment = null;
        if (!masters.TaxCodes.TryGetValue(codeId, out var code))
            refusals.Add(field, "Choose a tax code.");
        else
            refusals.Try(() => treatment = code.TreatmentOn(day, field, masters.Standing));
        return treatment;
    }

    /// <summary>Of neighbouring alternatives at most one is chosen.</summary>
    internal static void Choices(Refusals refusals, IReadOnlyList<DraftLine> lines)
    {
        var chosen = false;
        for (var i = 0; i < lines.Count; i++)
        {
            if (lines[i].Choice != LineChoice.Alternative)
                chosen = false;
            else if (lines[i].Chosen && chosen)
                refusals.Add(
                    $"lines[{i}].choice",
                    "Another of these alternatives is chosen already. Choose one, or put a line of words between them."
                );
            else
                chosen |= lines[i].Chosen;
        }
    }

    /// <summary>Of neighbouring alternatives one is chosen, before a quote is accepted.</summary>
    internal static void Chosen(Refusals refusals, IReadOnlyList<DocumentLine> lines)
    {
        for (var i = 0; i < lines.Count; i++)
        {
            if (lines[i].Choice != LineChoice.Alternative)
                continue;
            var group = lines.Skip(i).TakeWhile(l => l.Choice == LineChoice.Alternative).ToList();
            if (!group.Exists(l => l.Chosen))
                refusals.Add(
                    "chosen",
                    $"Choose one of these first: {string.Join(" or ", group.Select(l => $"“{l.Text.Split('\n')[0]}”"))}."
                );
            i += group.Count - 1;
        }
    }

    /// <param name="today">The business day; null where nobody asks.</param>
    internal static void Date(Refusals refusals, DateOnly date, DateOnly? today)
    {
        if (date.Year is < 1990 or > 2199)
            refusals.Add("date", "Give a date between 1990 and 2199.");
        else if (today is { } day && date > day.AddYears(1))
            refusals.Add("date", $"{date:yyyy-MM-dd} is more than a year ahead. Look at the year.");
    }

    /// <summary>Whoever gets nothing more on account pays on the day.</summary>
    internal static DateOnly? OnAccount(Refusals refusals, Trade.Customer customer, DraftContent content, DateOnly? due)
    {
        if (!customer.NoMoreOnAccount || due == content.Date)
            return due;
        if (content.DueDate is null)
            return content.Date;
        refusals.Add(
            "dueDate",
            $"{customer.Name} gets nothing more on account{(customer.NoMoreReason.Length > 0 ? $" ({customer.NoMoreReason})" : "")}. Leave the due day at the date, or lift this on the customer's page."
        );
        return due;
    }

    internal static void Dates(Refusals refusals, DraftContent content, DateOnly? due)
    {
        if (due < content.Date)
            refusals.Add(
                "dueDate",
                $"The due day {due:yyyy-MM-dd} is before the date {content.Date:yyyy-MM-dd}. Choose that day or a later one."
            );
        if (content.ValidUntil < content.Date)
            refusals.Add("validUntil", "The offer would end before it begins. Choose its date or a later day.");
    }
}
