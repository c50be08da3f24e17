namespace Jugaad.Desk.Post;

/// <summary>The post tray: mails composed, put in, carried, taken back.</summary>
internal static class PostRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(MailComposing),
        typeof(PostTray),
        typeof(PrintPile),
        typeof(PostCarrying),
        typeof(EInvoiceCarrying),
        typeof(EInvoiceSending),
        typeof(NetworkAnswers),
        typeof(SalesSummaries),
        typeof(SentPapers),
        typeof(Connections),
    ];
}
