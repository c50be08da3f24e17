using System.Text.Json;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Moving;

/// <summary>What becomes of a row.</summary>
public enum RowFate
{
    /// <summary>Something is added.</summary>
    New,

    /// <summary>Something that is there is changed.</summary>
    Changed,

    /// <summary>It is there already, just so.</summary>
    Same,
    Refused,
}

/// <summary>Takes the rows of one kind. What it needs to know of the books is read once beforehand.</summary>
internal abstract class RowTaker(BooksContext db)
{
    private readonly Dictionary<object, (EffectOn On, string Before, Func<(int Id, int Version)> Now)> _effects = new(
        ReferenceEqualityComparer.Instance
    );
    private HashSet<string> _named = new(StringComparer.OrdinalIgnoreCase);

    protected BooksContext Db => db;

    /// <summary>Whether the rows are only tried, and nothing may be saved.</summary>
    internal bool OnlyTries { get; init; }

    /// <summary>
    /// What rows have named so far, so that a second row about the same thing is known when the rows are taken in
    /// pieces.
    /// </summary>
    internal IReadOnlySet<string> Named => _named;

    /// <summary>Goes on where another one of the same file was.</summary>
    internal void GoOn(IReadOnlySet<string> named) => _named = new(named, StringComparer.OrdinalIgnoreCase);

    /// <summary>
    /// Notes that a row is about something, by what is one in the books; false where an earlier row was.
    /// </summary>
    protected bool Name(string thing) => _named.Add(thing);

    /// <summary>
    /// Has the context see what rows changed since effects were last asked for; to look through all that is known takes
    /// long in large books.
    /// </summary>
    internal void DetectChanges()
    {
        foreach (var touched in _effects.Keys.Select(thing => Db.Entry(thing)))
        {
            touched.DetectChanges();
            foreach (var owned in touched.References)
                owned.TargetEntry?.DetectChanges();
            foreach (var part in touched.Collections.SelectMany(c => c.CurrentValue?.Cast<object>() ?? []).ToList())
                Db.Entry(part).DetectChanges();
        }
    }

    /// <summary>What the rows did since this was last asked, once everything is saved.</summary>
    internal IReadOnlyList<ImportEffect> Effects(int runId)
    {
        var effects = _effects
            .Values.Select(e => (e.On, e.Before, Now: e.Now()))
            .Select(e => new ImportEffect
            {
                RunId = runId,
                On = e.On,
                TargetId = e.Now.Id,
                Before = e.Before,
                VersionAfter = e.Now.Version,
            })
            .ToList();
        _effects.Clear();
        return effects;
    }

    /// <summary>
    /// Notes what a row touches. What was made or changed by an earlier row keeps what is known of it.
    /// </summary>
    /// <param name="before">The details before it was changed; null for what is new.</param>
    /// <param name="now">Its id and version, asked for when all is saved.</param>
    protected void Note(EffectOn on, object thing, object? before, Func<(int Id, int Version)> now) =>
        _effects.TryAdd(thing, (on, before is null ? "" : JsonSerializer.Serialize(before), now));

    /// <summary>Reads what rows point to.</summary>
    internal abstract Task PrepareAsync(CancellationToken stop);

    /// <summary>
    /// Stages what the row says; nothing is saved here. What is wrong goes to the row's refusals or is thrown.
    /// </summary>
    internal abstract RowFate Take(RowCells row);

    /// <summary>Finds by a name or code, ignoring case.</summary>
    protected static Dictionary<string, T> ByName<T>(IEnumerable<T> things, Func<T, string> name) =>
        things
            .GroupBy(name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First(), StringComparer.OrdinalIgnoreCase);

    /// <summary>
    /// Those that share their name with another, by that name, ignoring case: a name alone does not say which is meant.
    /// </summary>
    protected static Dictionary<string, IReadOnlyList<Core.Trade.Customer>> Namesakes(
        IEnumerable<Core.Trade.Customer> customers
    ) =>
        customers
            .GroupBy(c => c.Name, StringComparer.OrdinalIgnoreCase)
            .Where(g => g.Count() > 1)
            .ToDictionary(
                g => g.Key,
                g => (IReadOnlyList<Core.Trade.Customer>)[.. g],
                StringComparer.OrdinalIgnoreCase
            );

    /// <summary>What is said where a name is that of several.</summary>
    protected static string WhichOf(IReadOnlyList<Core.Trade.Customer> namesakes) =>
        $"{namesakes[0].Name} is the name of {namesakes.Count} customers: {string.Join(", ", namesakes.Take(5).Select(c => c.Address.City.Length > 0 ? $"{c.Code} ({c.Address.City})" : c.Code))}. Give the code of the one that is meant.";

    /// <summary>Refuses a day on which the books are closed: what was told of that time is told.</summary>
    protected static void Closed(RowCells row, DateOnly? date, Core.Trade.Business business)
    {
        if (business.ClosedUpTo is { } closed && date <= closed)
            row.Refused.Add(
                "date",
                $"The books are closed up to {closed:yyyy-MM-dd}. Give a later date, or open them again under Setup first."
            );
    }

    /// <summary>What a cell points to; null where it is empty, and refused where it points to nothing.</summary>
    protected static T? Pointed<T>(RowCells row, string field, Dictionary<string, T> known, string what)
        where T : class
    {
        var text = row.Text(field);
        if (text.Length == 0)
            return null;
        if (known.TryGetValue(text, out var found))
            return found;
        row.Refused.Add(
            field,
            $"There {what} “{(text.Length > 40 ? text[..40] + "…" : text)}” in the books. Add it first, or correct the cell."
        );
        return null;
    }
}
