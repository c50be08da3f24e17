using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Collecting;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Demo;

/// <summary>
/// A month of asking for money: who was reached and who was not, a promise that is kept, one that is not, one that
/// waits, a plan, and something that is not agreed to.
/// </summary>
internal sealed class DemoCollecting(DemoHistory history)
{
    internal void Plan()
    {
        At(8, 4, LadderAsync);
        At(8, 20, () => CallAsync("OARLCK", ContactWay.NoAnswer, "", ""));
        At(8, 21, () => CallAsync("OARLCK", ContactWay.Call, "Treasurer", "The season was poor; asks for more time."));
        At(8, 22, () => PromiseAsync("SKERRY", "Helen Saar", "Pays the older ones next week.", 8, 29));
        At(8, 26, () => PromiseAsync("LAINE", "Peeter", "Is on the sea; will pay when back.", 9, 5));
        At(9, 8, () => PromiseAsync("LAINE", "Peeter", "Forgot. Pays on Friday, for sure.", 9, 12));
        At(9, 9, () => DisputeAsync("SKERRY", 45_00, "Says that two shackles were missing"));
        At(9, 10, () => PlanAsync("OARLCK", 3));
        At(9, 11, () => PromiseAsync("MUSEUM", "Dr. Eha Rand", "The board signs on Thursday.", 9, 19));
        At(9, 15, () => CallAsync("NORTHP", ContactWay.NoAnswer, "", ""));
        At(
            9,
            16,
            () => CallAsync("KALLAS", ContactWay.TheyCame, "", "Asks whether the bill may go to the new address.")
        );
    }

    private void At(int month, int day, Func<Task> work) =>
        history.At(new DateOnly(DemoWorld.Today.Year, month, day), work);

    /// <summary>From here on letters go by themselves each working day.</summary>
    private async Task LadderAsync()
    {
        var ladder = await history.WithAsync<BooksContext, int>(db => db.Ladders.Select(l => l.Id).SingleAsync());
        await history.WithAsync<Ladders>(l => l.SetAsync(ladder, true, 20_00, 7, [1, 2, 3, 4, 5]));
        await history.WithAsync<Ladders>(l =>
            l.SetHolidaysAsync([
                (new DateOnly(2025, 8, 20), "Restoration Day"),
                (new DateOnly(2025, 12, 24), "Christmas Eve"),
                (new DateOnly(2025, 12, 25), "Christmas"),
                (new DateOnly(2025, 12, 26), "Second day of Christmas"),
                (new DateOnly(2026, 1, 1), "New Year"),
            ])
        );
    }

    private async Task CallAsync(string customer, ContactWay way, string spokeTo, string said) =>
        await history.WithAsync<Contacts>(c =>
            c.NoteAsync(history.CustomerId(customer), new ContactSaid(way, spokeTo, said, null), null, null)
        );

    private async Task PromiseAsync(string customer, string spokeTo, string said, int month, int day)
    {
        var owes = await OwesAsync(customer);
        if (owes.Items.All(i => owes.Askable(i.ItemId) == 0))
            return;
        await history.WithAsync<Contacts>(c =>
            c.NoteAsync(
                history.CustomerId(customer),
                new ContactSaid(ContactWay.Call, spokeTo, said, null),
                new PromiseHeard(null, new DateOnly(DemoWorld.Today.Year, month, day), []),
                null
            )
        );
    }

    private async Task DisputeAsync(string customer, long amount, string reason)
    {
        if ((await OwesAsync(customer)).Items.LastOrDefault(i => i.Open >= amount) is not { } item)
            return;
        var person = await history.WithAsync<BooksContext, int>(db =>
            db.Users.Where(u => u.FullName == DemoWorld.ClerkName).Select(u => u.Id).SingleAsync()
        );
        await history.WithAsync<Contacts>(c =>
            c.NoteAsync(
                history.CustomerId(customer),
                new ContactSaid(ContactWay.TheyCame, "Helen Saar", reason + ".", null),
                null,
                new DisputeHeard(item.ItemId, amount, reason, person)
            )
        );
    }

    private async Task PlanAsync(string customer, int parts)
    {
        var items = (await OwesAsync(customer)).Items;
        if (items.Count == 0)
            return;
        var divided = PaymentPlan.Equally(
            history.Day,
            items.Sum(i => i.Open),
            parts,
            i => new DateOnly(DemoWorld.Today.Year, 9 + i, 15)
        );
        await history.WithAsync<Plans>(p =>
            p.AgreeAsync(history.CustomerId(customer), [.. items.Select(i => i.ItemId)], divided.Parts)
        );
    }

    private async Task<CustomerOwes> OwesAsync(string customer) =>
        (
            await history.WithAsync<OwedBook, IReadOnlyList<CustomerOwes>>(o =>
                o.OnAsync(history.Day, history.CustomerId(customer))
            )
        )[0];
}
