using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>Price lists hold on days that there can be, and follow each other in one currency and in no circle.</summary>
internal sealed class PriceListsProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var lists = await db.PriceLists.AsNoTracking().ToDictionaryAsync(l => l.Id, stop);
        foreach (var list in lists.Values.OrderBy(l => l.Id))
        {
            findings.Unless(!(list.Until < list.From), $"Price list {list.Name}: its last day is before its first");
            if (list.FollowedById is not { } next)
                continue;
            findings.Unless(list.Until is not null, $"Price list {list.Name}: is followed by another, and never ends");
            findings.Unless(
                lists.TryGetValue(next, out var after) && after.Currency.Equals(list.Currency),
                $"Price list {list.Name}: what follows it is not there, or in another currency"
            );
            var seen = new HashSet<int> { list.Id };
            for (int? at = next; at is { } one && lists.ContainsKey(one); at = lists[one].FollowedById)
                if (!seen.Add(one))
                {
                    findings.Add($"Price list {list.Name}: leads into lists that follow each other in a circle");
                    break;
                }
        }
    }
}
