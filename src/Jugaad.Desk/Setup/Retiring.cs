using Jugaad.Core;
using Jugaad.Desk.Books;

namespace Jugaad.Desk.Setup;

/// <summary>Retires what is kept in a list, or has it offered again.</summary>
public sealed class Retiring(BooksContext db, BookWriter writer)
{
    /// <param name="called">What it is called in the trail.</param>
    /// <param name="must">Refuses where it must stay on offer; null where it never must. Asked only for
    /// retiring.</param>
    /// <exception cref="RefusalException">When it is not there, or must stay on offer.</exception>
    internal Task<int> RetireAsync<T>(
        Right right,
        int id,
        bool retired,
        Once once,
        Func<T, string> called,
        Func<T, CancellationToken, Task>? must = null
    )
        where T : class, IRetirable =>
        writer.WriteAsync(
            right,
            once,
            async stop =>
            {
                var kept =
                    await db.Set<T>().FindAsync([id], stop)
                    ?? throw new RefusalException("", "This is not in the list any more. Load the page again.");
                if (retired && must is not null)
                    await must(kept, stop);
                kept.Retire(retired);
                await writer.TrailAsync($"{called(kept)} {(retired ? "retired" : "offered again")}");
                return id;
            }
        );
}
