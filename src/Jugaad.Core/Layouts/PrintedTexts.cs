using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>A text that a paper prints and somebody typed.</summary>
/// <param name="Field">The editor's field that it comes from; empty where it is kept elsewhere.</param>
/// <param name="Place">Where it stands, in words, such as <c>line 3</c>.</param>
public sealed record PrintedText(string Field, string Place, string Text);

/// <summary>
/// All that was typed and goes on a document's paper, so that what cannot be printed is found before it is issued.
/// </summary>
public static class PrintedTexts
{
    public static IEnumerable<PrintedText> Of(Document document, Addressee addressee, Sender sender)
    {
        yield return new PrintedText("customer", "the customer's name", addressee.Name);
        yield return new PrintedText("customer", "the customer's address", addressee.AddressLines);
        foreach (var line in document.Lines.OrderBy(l => l.Position))
            yield return new PrintedText($"lines[{line.Position}].text", $"line {line.Position + 1}", line.Text);
        foreach (var charge in document.Charges.OrderBy(c => c.Position))
            yield return new PrintedText(
                $"charges[{charge.Position}].text",
                $"charge {charge.Position + 1}",
                charge.Text
            );
        yield return new PrintedText("note", "the note", document.Note);
        yield return new PrintedText("purchaseOrder", "their order number", document.PurchaseOrder);
        var more = document.Particulars;
        yield return new PrintedText("opening", "the text above the lines", more.Opening);
        yield return new PrintedText("reason", "the reason", more.Reason);
        yield return new PrintedText("project", "the project", more.Project);
        yield return new PrintedText("reference", "the reference", more.Reference);
        yield return new PrintedText("deliveryTerms", "the delivery terms", more.DeliveryTerms);
        yield return new PrintedText("carrier", "the carrier", more.Carrier);
        if (document.Place is { } place)
            yield return new PrintedText("placeId", "the place of delivery", string.Join('\n', place.Lines("")));
        yield return new PrintedText("", "the name of the business", sender.Name);
        yield return new PrintedText("", "the address of the business", $"{sender.AddressLines}\n{sender.Contact}");
        yield return new PrintedText("", "the foot of the paper", sender.Footer);
        yield return new PrintedText("", "what the tax codes say", document.TaxWords);
        yield return new PrintedText("", "the bank's name", sender.BankName);
    }
}
