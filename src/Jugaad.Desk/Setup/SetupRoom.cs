namespace Jugaad.Desk.Setup;

/// <summary>What is set once: the business, customers, items, taxes, accounts, series, periods, words.</summary>
internal static class SetupRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(BooksSetup),
        typeof(CustomersDesk),
        typeof(RegisterDesk),
        typeof(ReadyDesk),
        typeof(ItemsDesk),
        typeof(ItemNumbersDesk),
        typeof(ItemBatches),
        typeof(PriceSheets),
        typeof(BusinessDesk),
        typeof(TaxDesk),
        typeof(TaxRulesDesk),
        typeof(TaxKitsDesk),
        typeof(AccountsDesk),
        typeof(SeriesDesk),
        typeof(MailWordsDesk),
        typeof(Periods),
        typeof(Retiring),
        typeof(KeptListsDesk),
        typeof(WordingsDesk),
        typeof(RatesDesk),
        typeof(AuthorityRatesDesk),
    ];
}
