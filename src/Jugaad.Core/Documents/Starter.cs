using Jugaad.Core.Amounts;

namespace Jugaad.Core.Documents;

/// <summary>
/// A saved beginning for a quote, an order or an invoice, without a customer. It keeps quantities and special prices.
/// </summary>
public sealed class Starter
{
    private Starter() { }

    /// <param name="currency">That its prices are in.</param>
    public Starter(DocumentKind kind, Currency currency) => (Kind, Currency) = (kind, currency);

    public int Id { get; private set; }

    public DocumentKind Kind { get; private set; }

    public string Name { get; private set; } = "";

    /// <summary>That its prices are in; null for the home currency.</summary>
    public Currency? Currency { get; private set; }

    /// <summary>What it is for, for whoever chooses it.</summary>
    public string About { get; private set; } = "";

    /// <summary>The lines and texts, with no customer and no date.</summary>
    public DraftContent Content { get; private set; } = new();

    public bool Retired { get; private set; }

    /// <exception cref="RefusalException">When the name is missing, or there is nothing to begin with.</exception>
    public void Write(string name, string about, DraftContent content)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "name", name, 80, "Give the starter a name.");
        Texts.Short(refusals, "about", about, 400);
        if (content.Lines.Count == 0)
            refusals.Add("lines", "A starter needs at least one line.");
        refusals.ThrowIfAny();
        (Name, About, Content) = (
            name.Trim(),
            about.Trim(),
            content with
            {
                CustomerId = 0,
                Date = default,
                TaxDate = null,
                DueDate = null,
                ValidUntil = null,
                NumberByHand = "",
                PurchaseOrder = "",
                PlaceId = null,
            }
        );
    }

    public void Retire(bool retired) => Retired = retired;
}
