using Jugaad.Core;

namespace Jugaad.Desk.Books;

/// <summary>What became of one of many.</summary>
/// <param name="Refused">Why it was left as it is; empty where it was done.</param>
public sealed record OneOfMany(int Id, string Refused)
{
    public bool IsDone => Refused.Length == 0;
}

/// <summary>
/// Does the same to each of many. Each is one transaction of its own, so that one that is refused holds no other up.
/// </summary>
public sealed class OneByOne(BooksContext db, BooksHead head)
{
    /// <summary>The most that are dealt with in one go.</summary>
    public const int Most = 1000;

    /// <param name="once">Each is done only once with it, so a second arrival of the form tells what the first one
    /// did.</param>
    /// <param name="act">What is done to one, with the key of its own.</param>
    public async Task<IReadOnlyList<OneOfMany>> DoAsync(IEnumerable<int> ids, Once once, Func<int, Once, Task> act)
    {
        var done = new List<OneOfMany>();
        foreach (var id in ids.Distinct())
        {
            once.Stop.ThrowIfCancellationRequested();
            db.ChangeTracker.Clear();
            var refused = "";
            try
            {
                await act(id, once.Of(id));
            }
            catch (RefusalException refusal)
            {
                refused = refusal.In((await head.BusinessAsync(once.Stop)).Format);
            }

            done.Add(new OneOfMany(id, refused));
        }

        db.ChangeTracker.Clear();
        return done;
    }
}
