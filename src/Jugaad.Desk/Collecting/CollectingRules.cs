using Jugaad.Core.Collecting;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Collecting;

/// <summary>How the business collects: what is set, or what is usual where nothing is.</summary>
public sealed class CollectingRules(BooksContext db, BookWriter writer)
{
    public async Task<CollectingSettings> ReadAsync(CancellationToken stop = default) =>
        await db.CollectingSettings.AsNoTracking().SingleOrDefaultAsync(stop) ?? new CollectingSettings();

    /// <exception cref="Core.RefusalException">With all that is wrong.</exception>
    public Task<int> SetAsync(int grace, int planDaysLate, ContactWeights weights, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var settings = await db.CollectingSettings.SingleOrDefaultAsync(stop);
                if (settings is null)
                    db.CollectingSettings.Add(settings = new CollectingSettings());
                settings.Set(grace, planDaysLate, weights);
                await writer.TrailAsync($"Collecting set: promises wait {grace} days, plans {planDaysLate}");
                await writer.SaveAsync(stop);
                return settings.Id;
            }
        );

    /// <exception cref="Core.RefusalException">With all that is wrong.</exception>
    public Task<int> GiveCreditAsync(
        LimitCheck check,
        int noMoreAfterDays,
        int noMoreAfterBroken,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var settings = await db.CollectingSettings.SingleOrDefaultAsync(stop);
                if (settings is null)
                    db.CollectingSettings.Add(settings = new CollectingSettings());
                settings.GiveCredit(check, noMoreAfterDays, noMoreAfterBroken);
                await writer.TrailAsync($"Credit set: a limit that is passed is answered by {check}");
                await writer.SaveAsync(stop);
                return settings.Id;
            }
        );

    private const decimal MostPercent = 100;

    /// <summary>Says what is charged for late payment, how it is taxed, and where it goes.</summary>
    /// <param name="compensation">Minor units of the home currency.</param>
    /// <param name="rates">Yearly rates from their days on.</param>
    /// <exception cref="Core.RefusalException">With all that is wrong.</exception>
    public Task<int> ChargeLateAsync(
        long compensation,
        int? taxCodeId,
        int? accountId,
        IReadOnlyList<InterestRate> rates,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var refusals = new Core.Refusals();
                if (rates.Select(r => r.From).Distinct().Count() != rates.Count)
                    refusals.Add("rates", "A day is named twice. Name each once.");
                if (rates.Any(r => r.Percent is < 0 or > MostPercent || decimal.Round(r.Percent, 4) != r.Percent))
                    refusals.Add("rates", $"A rate is from 0 to {MostPercent:0} percent, with at most 4 decimals.");
                if (taxCodeId is { } code && !await db.TaxCodes.AnyAsync(c => c.Id == code && !c.Retired, stop))
                    refusals.Add("chargeTaxCode", "Choose a tax code from the list.");
                if (
                    accountId is { } account
                    && !await db.LedgerAccounts.AnyAsync(
                        a =>
                            a.Id == account
                            && !a.Retired
                            && (a.Role == AccountRole.Sales || a.Role == AccountRole.Other),
                        stop
                    )
                )
                    refusals.Add("chargeAccount", "Choose an account from the list.");
                if (taxCodeId is null != accountId is null)
                    refusals.Add("chargeTaxCode", "Choose both a tax code and an account, or neither.");
                if (
                    taxCodeId is null
                    && await db.Ladders.AnyAsync(l => l.Steps.Any(s => s.Fee > 0 || s.WithInterest), stop)
                )
                    refusals.Add("chargeTaxCode", "A step charges something. Take that away from the step first.");
                var settings = await db.CollectingSettings.SingleOrDefaultAsync(stop);
                if (settings is null)
                    db.CollectingSettings.Add(settings = new CollectingSettings());
                refusals.Try(() => settings.ChargeLate(compensation, taxCodeId, accountId));
                refusals.ThrowIfAny();
                db.LateRates.RemoveRange(await db.LateRates.ToListAsync(stop));
                await writer.SaveAsync(stop);
                db.LateRates.AddRange(rates.Select(r => new LateRate(r.From, r.Percent)));
                await writer.TrailAsync($"Interest and costs of late payment set, with {rates.Count} rates");
                await writer.SaveAsync(stop);
                return settings.Id;
            }
        );
}
