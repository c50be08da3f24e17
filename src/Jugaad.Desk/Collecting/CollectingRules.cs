using Jugaad.Core.Collecting;
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
}
