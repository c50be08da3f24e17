namespace Jugaad.Desk.Reports;

/// <summary>What was asked of the books for a day or a period.</summary>
internal static class ReportsRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(AgedReports),
        typeof(CreditReport),
        typeof(JournalReports),
        typeof(ExpectedReports),
        typeof(CollectingReports),
        typeof(IncomeReports),
        typeof(SellingReports),
        typeof(MoneyReports),
        typeof(ValuationReports),
        typeof(ValuationDesk),
        typeof(ExchangeReports),
        typeof(ListReports),
        typeof(ReportDesks),
        typeof(Originals),
        typeof(ReportCatalog),
        typeof(ReportPapers),
        typeof(KeptViews),
        typeof(Handover),
        typeof(ClosingDesk),
    ];
}
