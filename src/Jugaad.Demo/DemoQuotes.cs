using Jugaad.Core.Documents;
using Jugaad.Desk.Making;

namespace Jugaad.Demo;

/// <summary>
/// The quotes of the demo in every state, the drafts that lie on the desk, and a few special payments.
/// </summary>
internal sealed class DemoQuotes(DemoHistory history)
{
    internal void Plan()
    {
        // Customer, day, days until the answer, accepted or not (null: no answer), billed.
        (string, int, int, int, bool?, bool, (string, decimal)[])[] quotes =
        [
            ("PIIRI", 2, 11, 5, true, true, [("H-SAIL", 9), ("M-WEB25", 40)]),
            ("KALLAS", 2, 14, 8, false, false, [("F-RIGCHK", 1), ("H-RIG", 6)]),
            ("KORALL", 2, 26, 4, true, true, [("Q-CLOTH", 31), ("H-SAIL", 12)]),
            ("MERIV", 3, 5, 6, true, true, [("F-WASH", 2), ("H-SAIL", 3)]),
            ("SKERRY", 3, 11, 40, null, false, [("Q-SPRAY", 44), ("H-SAIL", 26)]),
            ("TAMBRG", 3, 18, 5, true, true, [("F-WASH", 3)]),
            ("KAIJO", 4, 2, 6, true, true, [("M-TAPE", 600)]),
            ("KALLAS", 4, 15, 7, true, true, [("H-SAIL", 5), ("P-BATT", 4)]),
            ("LAINE", 5, 6, 9, false, false, [("H-CALL", 3), ("P-BLOCK", 6)]),
            ("PIIRI", 5, 20, 4, true, true, [("Q-CLOTH", 22), ("P-HANK", 40)]),
            ("OARLCK", 5, 27, 40, null, false, [("Q-COVER", 61), ("M-PIPE", 80)]),
            ("SVART", 6, 10, 8, true, true, [("Q-CLOTH", 18), ("P-HANK", 60)]),
            ("KORALL", 6, 17, 5, false, false, [("H-RIG", 44), ("P-BLOCK", 12)]),
            ("NORTHP", 7, 1, 6, true, true, [("B-HAND1", 10), ("P-BATT", 12)]),
            ("THISTL", 7, 15, 6, true, true, [("H-RIG", 4)]),
            ("BRANNO", 8, 6, 6, true, true, [("H-SAIL", 9)]),
            ("TAMBRG", 8, 13, 7, false, false, [("Q-SPRAY", 12)]),
            ("KALLAS", 8, 20, 6, true, true, [("F-WASH", 1), ("H-SAIL", 2)]),
            ("PIIRI", 9, 9, 4, true, false, [("Q-CLOTH", 27), ("M-BOLT", 40)]),
            ("LAINE", 9, 10, 5, false, false, [("Q-COVER", 9)]),
            ("MUSEUM", 2, 20, 6, true, true, [("H-SAIL", 46), ("Q-CLOTH", 118.5m), ("M-BOLT", 64)]),
            ("OARLCK", 3, 12, 9, true, true, [("Q-COVER", 38.4m), ("M-PIPE", 52), ("P-EYE", 48)]),
            ("SKERRY", 3, 25, 4, true, true, [("F-WASH", 14), ("P-UV", 36)]),
            ("LAINE", 4, 8, 12, false, false, [("Q-SPRAY", 9.5m), ("H-SAIL", 14)]),
            ("NORTHP", 4, 22, 5, true, true, [("P-BATT", 24), ("P-HANK", 60)]),
            ("THISTL", 5, 14, 8, true, true, [("F-RIGCHK", 1), ("H-RIG", 11.5m)]),
            ("BRANNO", 6, 3, 30, null, false, [("H-SAIL", 22), ("F-MEAS", 1)]),
            ("TAMBRG", 6, 19, 3, false, false, [("Q-COVER", 11.2m), ("F-MEAS", 1)]),
            ("KORALL", 7, 7, 6, true, true, [("Q-CLOTH", 84), ("H-SAIL", 31)]),
            ("SVART", 7, 28, 30, null, false, [("Q-CLOTH", 46.5m)]),
            ("PIIRI", 8, 18, 5, true, true, [("Q-CLOTH", 40), ("M-WEB25", 120), ("H-SAIL", 12)]),
            ("MUSEUM", 8, 27, 12, true, false, [("H-RIG", 38), ("P-BLOCK", 16), ("P-SHACK", 40)]),
            ("SKERRY", 9, 4, 8, true, false, [("Q-SPRAY", 26), ("H-SAIL", 18)]),
            ("NORTHP", 9, 8, 60, null, false, [("T-COURSE", 6), ("B-HAND1", 6)]),
            ("MERIV", 9, 11, 60, null, false, [("Q-COVER", 14.6m), ("F-MEAS", 1)]),
            ("KAIJO", 9, 15, 60, null, false, [("M-TAPE", 900), ("P-EYE", 400)]),
        ];
        foreach (var (customer, month, day, days, accepted, billed, lines) in quotes)
            history.At(new DateOnly(2025, month, day), () => QuoteAsync(customer, days, accepted, billed, lines));

        history.At(new DateOnly(2025, 7, 22), () => history.RemindAsync("LAINE"));
        history.At(new DateOnly(2025, 7, 2), OverpaidAsync);
        history.At(
            new DateOnly(2025, 9, 16),
            () => DraftAsync(DocumentKind.Invoice, "KORALL", ("H-SAIL", 7.5m), ("P-SHACK", 12))
        );
        history.At(new DateOnly(2025, 9, 17), () => DraftAsync(DocumentKind.Invoice, "MERIV", ("S-STORE", 6)));
        history.At(
            new DateOnly(2025, 9, 17),
            () => DraftAsync(DocumentKind.Quote, "OARLCK", ("Q-COVER", 22), ("M-PIPE", 30))
        );
    }

    private static readonly (LossReason Why, string Words)[] Losses =
    [
        (LossReason.TooDear, "Too dear this year"),
        (LossReason.TooLate, "We need it before the regatta"),
        (LossReason.WentElsewhere, "A cousin sews it"),
        (LossReason.NotNeeded, "The boat is sold"),
    ];

    private async Task QuoteAsync(string customer, int days, bool? accepted, bool billed, (string, decimal)[] lines)
    {
        var tax = DemoWorld.Habits.Single(h => h.Code == customer).TaxCode;
        var content = await history.ContentAsync(customer, tax, lines) with { ValidUntil = history.Day.AddMonths(1) };
        var id = await history.DraftAsync(DocumentKind.Quote, content);
        await history.IssueAsync(id, true);
        if (accepted is not { } answer)
            return;
        history.At(
            history.Day.AddDays(days),
            async () =>
            {
                await history.WithAsync<Quotes>(q =>
                    q.AnswerAsync(
                        id,
                        answer,
                        answer ? "" : Losses[history.Day.DayNumber % Losses.Length].Words,
                        Losses[history.Day.DayNumber % Losses.Length].Why
                    )
                );
                if (billed)
                    history.At(history.Day.AddDays(10), () => BillAsync(customer, id));
            }
        );
    }

    private async Task BillAsync(string customer, int quoteId)
    {
        var id = await history.WithAsync<MakingDesk, int>(q => q.InvoiceAsync(quoteId));
        await history.IssueAsync(id, true);
        await history.PlanPaymentAsync(DemoWorld.Habits.Single(h => h.Code == customer), id);
    }

    /// <summary>Elo Tamberg pays 20 more than the invoice says, and the rest stays as credit.</summary>
    private async Task OverpaidAsync()
    {
        var id = await history.DraftAsync(
            DocumentKind.Invoice,
            await history.ContentAsync("TAMBRG", "STD", ("F-WASH", 1), ("H-SAIL", 1.5m))
        );
        await history.IssueAsync(id, false);
        history.At(history.Day.AddDays(9), () => history.PayAsync("TAMBRG", id, 1m, 20m));
    }

    private async Task DraftAsync(DocumentKind kind, string customer, params (string, decimal)[] lines) =>
        await history.DraftAsync(
            kind,
            await history.ContentAsync(customer, "STD", lines) with
            {
                ValidUntil = kind == DocumentKind.Quote ? history.Day.AddMonths(1) : null,
            }
        );
}
