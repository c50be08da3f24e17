namespace Jugaad.Desk.Papers;

/// <summary>
/// Papers as their reader gets them: drawn, with their files, the words of mails and the links to them.
/// </summary>
internal static class PapersRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(CustomerLinks),
        typeof(EInvoicePapers),
        typeof(EInvoices),
        typeof(Files),
        typeof(IssuedLooks),
        typeof(Labels),
        typeof(LayoutChoice),
        typeof(LayoutRoom),
        typeof(LayoutRules),
        typeof(LayoutStudio),
        typeof(LayoutTrials),
        typeof(MoneyPapers),
        typeof(PayLinks),
        typeof(PaperRoom),
        typeof(Statements),
        typeof(SummaryEInvoices),
        typeof(Wordings),
    ];
}
