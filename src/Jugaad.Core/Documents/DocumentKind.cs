namespace Jugaad.Core.Documents;

public enum DocumentKind
{
    Quote,
    Order,
    DeliveryNote,
    Invoice,
    CreditNote,
    DebitNote,
}

/// <summary>
/// What a document's state is. A quote is draft, sent, accepted, declined or lapsed; all else draft, issued, settled or
/// cancelled.
/// </summary>
public enum DocumentState
{
    Draft,
    Sent,
    Accepted,
    Declined,
    Lapsed,
    Issued,
    Settled,
    Cancelled,
}

/// <summary>What differs by kind of document, in one table instead of branches across the code.</summary>
/// <param name="Word">In the middle of a sentence: <c>credit note</c>.</param>
/// <param name="Title">As the paper is headed.</param>
/// <param name="Raises">1 where it raises the customer's balance, −1 where it lowers it, 0 where it does
/// neither.</param>
/// <param name="IssuedState">The state that it has once it is issued.</param>
/// <param name="HasDueDay">Whether it says when to pay.</param>
/// <param name="HasValidity">Whether it says until when it holds.</param>
/// <param name="ShowsPrices">Whether its paper shows prices.</param>
/// <param name="Pattern">The pattern of its first series.</param>
/// <param name="NeedsReason">Whether it says why it is given.</param>
/// <param name="MovesStock">1 where goods come, −1 where they go, 0 where nothing moves.</param>
public sealed record KindPolicy(
    DocumentKind Kind,
    string Word,
    string Title,
    int Raises,
    DocumentState IssuedState,
    bool HasDueDay,
    bool HasValidity,
    bool ShowsPrices,
    string Pattern,
    int MovesStock = 0,
    bool NeedsReason = false
)
{
    private static readonly KindPolicy[] Table =
    [
        new(DocumentKind.Quote, "quote", "Quote", 0, DocumentState.Sent, false, true, true, "QUO-{yyyy}-{0000}"),
        new(DocumentKind.Order, "order", "Order", 0, DocumentState.Issued, false, false, true, "ORD-{yyyy}-{0000}"),
        new(
            DocumentKind.DeliveryNote,
            "delivery note",
            "Delivery note",
            0,
            DocumentState.Issued,
            false,
            false,
            false,
            "DEL-{yyyy}-{0000}",
            -1
        ),
        new(
            DocumentKind.Invoice,
            "invoice",
            "Invoice",
            1,
            DocumentState.Issued,
            true,
            false,
            true,
            "INV-{yyyy}-{0000}",
            -1
        ),
        new(
            DocumentKind.CreditNote,
            "credit note",
            "Credit note",
            -1,
            DocumentState.Issued,
            false,
            false,
            true,
            "CRN-{yyyy}-{0000}",
            1,
            true
        ),
        new(
            DocumentKind.DebitNote,
            "debit note",
            "Debit note",
            1,
            DocumentState.Issued,
            true,
            false,
            true,
            "DBN-{yyyy}-{0000}",
            0,
            true
        ),
    ];

    public static KindPolicy Of(DocumentKind kind) => Table[(int)kind];

    public static IReadOnlyList<KindPolicy> All => Table;

    /// <summary>The word with its article: <c>an invoice</c>.</summary>
    public string AWord => $"{(Word[0] is 'a' or 'e' or 'i' or 'o' or 'u' ? "an" : "a")} {Word}";

    /// <summary>The same at the beginning of a sentence.</summary>
    public string ACapitalWord => char.ToUpperInvariant(AWord[0]) + AWord[1..];

    /// <summary>Whether it takes part in the customer's balance.</summary>
    public bool Posts => Raises != 0;
}
