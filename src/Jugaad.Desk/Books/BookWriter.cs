using Jugaad.Core;
using Jugaad.Desk.Kept;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;

namespace Jugaad.Desk.Books;

/// <summary>Who acts: the name for the trail, and what they may do.</summary>
public interface IActor
{
    string Name { get; }

    bool May(Right right);

    /// <summary>The name that stands under letters; empty where it is no person's.</summary>
    string SignsAs => Name;

    /// <summary>The network address from which they come; empty for this machine's own work.</summary>
    string Address => "";

    /// <summary>
    /// For how long work in this name waits for somebody else's to be written: a person is told soon, a night's run has
    /// time.
    /// </summary>
    TimeSpan Patience => TimeSpan.FromSeconds(60);
}

/// <summary>Somebody by name, such as in tools and tests, who may do everything unless a role is given.</summary>
public sealed class NamedActor(string name, PersonRole? role = null) : IActor
{
    public string Name { get; } = name;

    public bool May(Right right) => role?.Has(right) ?? true;
}

/// <summary>
/// Lets a piece of work be done in somebody's name where nobody is signed in, as when the demo's books are made.
/// </summary>
public static class Acting
{
    private static readonly AsyncLocal<string?> Name = new();

    /// <summary>Null where the work is nobody's in particular.</summary>
    public static string? Now => Name.Value;

    public static void As(string? name) => Name.Value = name;
}

/// <summary>
/// Writes to the books: one use case in one transaction that begins at once, with its trail, and with the answer kept
/// so that the same form sent twice gets it again.
/// </summary>
public sealed class BookWriter(
    BooksContext db,
    BooksHead head,
    TaxPlaces places,
    EmptiedAccounts emptied,
    IActor actor,
    TimeProvider clock
)
{
    private readonly List<Action> _afterCommit = [];
    private readonly List<Core.Accounts.Allocation> _allocations = [];
    private readonly List<Core.Returns.TaxFigure> _figures = [];
    private readonly HashSet<int> _foreign = [];

    public string Who => actor.Name;

    /// <summary>The name under a letter; empty where no person sends it.</summary>
    public string SignsAs => actor.SignsAs;

    public bool May(Right right) => actor.May(right);

    /// <exception cref="NotAllowedException">When whoever acts has not the right.</exception>
    public void Must(Right right)
    {
        if (!actor.May(right))
            throw new NotAllowedException(right);
    }

    /// <param name="right">What whoever acts must have; a use case within a use case is covered by the outer
    /// one.</param>
    /// <param name="once">Has a form that arrives twice get the first answer.</param>
    /// <param name="work">Does one thing and returns the id of what it made or changed.</param>
    /// <exception cref="RefusalException">From <paramref name="work"/>; nothing has been written then.</exception>
    public Task<int> WriteAsync(Right right, Once once, Func<CancellationToken, Task<int>> work) =>
        WriteAsync(right, once, () => work(once.Stop), false);

    /// <inheritdoc cref="WriteAsync(Right, Once, Func{CancellationToken, Task{int}})"/>
    public Task<int> WriteAsync(Right right, Once once, Func<Task<int>> work) => WriteAsync(right, once, work, false);

    /// <summary>
    /// Writes one piece of work that is too long for one transaction, so that others get their turn between the pieces.
    /// What was read for it stays known for the next piece; whoever calls sees to it that it still holds.
    /// </summary>
    internal Task<int> WritePieceAsync(Right right, Once once, Func<Task<int>> work) =>
        WriteAsync(right, once, work, true);

    private async Task<int> WriteAsync(Right right, Once once, Func<Task<int>> work, bool keepsWhatIsRead)
    {
        var (key, stop) = once;
        // A use case within a use case is part of its transaction.
        if (db.Database.CurrentTransaction is not null)
            return await work();
        Must(right);
        if (
            right is not (Right.Self or Right.Keep or Right.Begin or Right.Door)
            && await head.FindBusinessAsync(stop) is { IsResting: true } resting
        )
            throw new RefusalException("", RestingWords(resting));
        await using var transaction = await BeginAsync(stop);
        var written = false;
        try
        {
            if (!string.IsNullOrEmpty(key) && await db.AnsweredForms.FindAsync([key], stop) is { } answered)
                return answered.Answer;
            var answer = await work();
            Answer(key, answer);
            await SaveAsync(stop);
            await FollowAsync(stop);
            await CommitAsync(transaction, stop);
            written = true;
            foreach (var action in _afterCommit)
                action();
            return answer;
        }
        catch (DbUpdateConcurrencyException)
        {
            throw new RefusalException(
                "",
                "Somebody else changed this a moment ago. Load the page again and repeat your change."
            );
        }
        finally
        {
            _afterCommit.Clear();
            Forget();
            if (db.Database.CurrentTransaction is not null)
                await transaction.RollbackAsync(CancellationToken.None);
            if (!written || !keepsWhatIsRead)
                db.ChangeTracker.Clear();
            head.Forget();
            places.Forget();
        }
    }

    /// <summary>
    /// Commits. Where a full-text table finds no room only as its words are put down, SQLite takes the transaction back
    /// by itself and the driver knows no more than that it is gone: it is told as what it is.
    /// </summary>
    private static async Task CommitAsync(IDbContextTransaction transaction, CancellationToken stop)
    {
        try
        {
            await transaction.CommitAsync(stop);
        }
        catch (InvalidOperationException gone)
        {
            throw new DbUpdateException(
                "The transaction was taken back by the database.",
                new SqliteException($"database or disk is full ({gone.Message})", BooksTrouble.Full)
            );
        }
    }

    /// <summary>
    /// Keeps the answer to a form, where it has a key; by hand only where the form's work is written in several pieces.
    /// </summary>
    internal void Answer(string? formKey, int answer)
    {
        if (!string.IsNullOrEmpty(formKey))
            db.AnsweredForms.Add(
                new AnsweredForm
                {
                    Key = formKey,
                    At = clock.GetUtcNow().UtcDateTime,
                    Answer = answer,
                }
            );
    }

    /// <summary>Why nothing is written into books that rest.</summary>
    public static string RestingWords(Core.Trade.Business resting) =>
        $"These books come from {resting.RestsBecause} and rest: nothing is written, sent or numbered until the owner says under Setup, backups, that they are the books now.";

    /// <exception cref="RefusalException">When somebody else's work is being written for longer than whoever acts
    /// waits.</exception>
    private async Task<IDbContextTransaction> BeginAsync(CancellationToken stop)
    {
        await db.Database.OpenConnectionAsync(stop);
        var connection = (SqliteConnection)db.Database.GetDbConnection();
        var usual = connection.DefaultTimeout;
        connection.DefaultTimeout = (int)actor.Patience.TotalSeconds;
        try
        {
            return await db.Database.BeginTransactionAsync(stop);
        }
        catch (SqliteException busy) when (BooksTrouble.Of(busy) is { IsBusy: true } trouble)
        {
            throw new BusyException(trouble.Words);
        }
        finally
        {
            connection.DefaultTimeout = usual;
            await db.Database.CloseConnectionAsync();
        }
    }

    /// <summary>Saves what has been done so far, still inside the transaction, so that new things have ids.</summary>
    /// <exception cref="RefusalException">When something would be posted on a day that is closed.</exception>
    public async Task SaveAsync(CancellationToken stop = default)
    {
        if ((await head.FindBusinessAsync(stop))?.ClosedUpTo is { } closed)
        {
            var posted = db
                .ChangeTracker.Entries<Core.Journal.JournalEntry>()
                .Where(e => e.State == EntityState.Added)
                .Select(e => e.Entity.Date)
                .Concat(
                    db.ChangeTracker.Entries<Core.Accounts.AccountItem>()
                        .Where(e => e.State == EntityState.Added)
                        .Select(e => e.Entity.Date)
                )
                .ToList();
            if (posted.Exists(d => d <= closed))
                throw new RefusalException(
                    "date",
                    $"The books are closed up to {closed:yyyy-MM-dd}, and this would count on {posted.Min():yyyy-MM-dd}. Date it {closed.AddDays(1):yyyy-MM-dd} or later, or open the books again under Setup."
                );
        }

        _allocations.AddRange(
            db.ChangeTracker.Entries<Core.Accounts.Allocation>()
                .Where(e => e.State is EntityState.Added or EntityState.Modified or EntityState.Deleted)
                .Select(e => e.Entity)
        );
        _foreign.UnionWith(
            db.ChangeTracker.Entries<Core.Journal.JournalLine>()
                .Where(e => e.State != EntityState.Unchanged && e.Entity.Currency is not null)
                .Select(e => e.Entity.AccountId)
        );
        _figures.AddRange(
            db.ChangeTracker.Entries<Core.Returns.TaxFigure>()
                .Where(e => e.State == EntityState.Added)
                .Select(e => e.Entity)
        );
        await db.SaveChangesAsync(stop);
    }

    /// <summary>
    /// What is told to an authority as it is paid becomes due, or is due no more, with what pays it, or with time.
    /// </summary>
    private async Task FollowAsync(CancellationToken stop)
    {
        var items = _allocations
            .SelectMany(a => new[] { a.RaisingId, a.LoweringId })
            .Concat(_figures.Select(f => f.ItemId).OfType<int>())
            .ToList();
        if (items.Count > 0)
            await places.FollowAsync(items, stop);
        if (_foreign.Count > 0)
        {
            await emptied.FollowAsync(_foreign, stop);
            await SaveAsync(stop);
        }

        Forget();
    }

    private void Forget()
    {
        _allocations.Clear();
        _figures.Clear();
        _foreign.Clear();
    }

    /// <summary>
    /// Notes in the trail what changes nothing in the books, such as that they were written out; not in books that
    /// rest, which stay as they are. A disk that takes nothing more keeps nobody from taking the books out of it.
    /// </summary>
    public async Task NoteAsync(Right right, Phrase text)
    {
        if (await head.FindBusinessAsync() is null or { IsResting: true })
            return;
        try
        {
            await WriteAsync(
                right,
                null,
                async () =>
                {
                    await TrailAsync(text);
                    return 0;
                }
            );
        }
        catch (Exception cannot) when (BooksTrouble.Of(cannot) is { IsBusy: false })
        {
            // What was asked for has been done; only the line about it is missing.
        }
    }

    /// <summary>Runs once the transaction has been committed, and not at all if it is not.</summary>
    public void AfterCommit(Action action) => _afterCommit.Add(action);

    /// <summary>Notes who did what, with figures and days as the business writes them.</summary>
    public async Task TrailAsync(
        Phrase text,
        int? customerId = null,
        int? documentId = null,
        int? receiptId = null,
        int? draftVersion = null
    ) =>
        db.Trail.Add(
            new TrailEntry
            {
                At = clock.GetUtcNow().UtcDateTime,
                Day = await head.TodayAsync(),
                Who = actor.Name,
                Text = (await head.FindBusinessAsync())?.Format is { } format ? text.In(format) : text.ToString(),
                CustomerId = customerId,
                DocumentId = documentId,
                ReceiptId = receiptId,
                DraftVersion = draftVersion,
            }
        );
}
