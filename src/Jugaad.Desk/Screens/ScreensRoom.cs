namespace Jugaad.Desk.Screens;

/// <summary>The queries behind the pages: projections straight to what is shown.</summary>
internal static class ScreensRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(SellScreens),
        typeof(ProgressScreens),
        typeof(AccountScreens),
        typeof(LateScreens),
        typeof(ChaseScreens),
        typeof(SaidScreens),
        typeof(LetterScreens),
        typeof(PayerScreens),
        typeof(CalendarScreens),
        typeof(GivingUpScreens),
        typeof(StandingScreens),
        typeof(BankLineScreens),
        typeof(DayScreens),
        typeof(ItemScreens),
        typeof(PostScreens),
        typeof(EInvoiceScreens),
        typeof(SummaryScreens),
        typeof(ReceiveScreens),
        typeof(BankScreens),
        typeof(MoneyScreens),
        typeof(StillToSetUp),
        typeof(TrailScreens),
        typeof(SettlementScreens),
        typeof(RateImpact),
        typeof(IssuedOtherwise),
    ];
}
