using Jugaad.Core.Banking;
using Jugaad.Core.Matching;
using Jugaad.Desk.Banking;

namespace Jugaad.Desk.Collecting;

/// <summary>Money at the bank that is not placed yet, and is likely some customer's.</summary>
public sealed class MoneyWaiting(MatchingBench bench)
{
    /// <returns>The lines by the customer whose money they may be; a line may be several customers'.</returns>
    public async Task<ILookup<int, BankLine>> LinesAsync(CancellationToken stop = default) =>
        (
            from waiting in await bench.ToPlaceAsync(stop: stop)
            where waiting.Line.Left > 0
            from customer in waiting
                .Proposals.Where(p => p.Certainty != Certainty.Possible && p.JoinsReceiptId is null)
                .Select(p => p.CustomerId)
                .Distinct()
            where customer != 0
            select (customer, waiting.Line)
        ).ToLookup(w => w.customer, w => w.Line);
}
