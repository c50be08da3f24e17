using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Post;

namespace Jugaad.Desk.Collecting;

/// <summary>Reminders that somebody writes by hand: of what is late and can be asked for.</summary>
public sealed class Reminders(BooksHead head, OwedBook owed, MailComposing compose, PostTray tray)
{
    /// <exception cref="RefusalException">When nothing is late, or all of it is promised, planned or in
    /// dispute.</exception>
    public async Task<MailToSend> ComposeAsync(int customerId, CancellationToken stop = default)
    {
        var today = await head.TodayAsync(stop);
        var owes = (await owed.OnAsync(today, customerId, stop))[0];
        var late = owes.Items.Where(i => i.Due < today).ToDictionary(i => i.ItemId, i => owes.Askable(i.ItemId));
        if (late.Count > 0 && late.Values.All(askable => askable == 0))
            throw new RefusalException(
                "",
                "All that is late is promised, planned or in dispute, so nothing is asked for. See under collecting what was agreed."
            );
        return await compose.ReminderAsync(
            customerId,
            late.Where(l => l.Value > 0).ToDictionary(l => l.Key, l => l.Value),
            stop
        );
    }

    /// <summary>Reminds a customer of all that is late and can be asked for, in the words that are usual.</summary>
    /// <inheritdoc cref="ComposeAsync"/>
    public async Task<int> SendAsync(int customerId, Once once = default) =>
        await tray.AddAsync(await ComposeAsync(customerId, once.Stop), once);
}
