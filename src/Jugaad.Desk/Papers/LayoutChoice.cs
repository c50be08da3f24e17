using System.Collections.Concurrent;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>What a layout is chosen by.</summary>
/// <param name="Kind">Of <see cref="PaperKinds"/>.</param>
/// <param name="Language">That the paper is written in.</param>
public sealed record PaperAsk(string Kind, int? SeriesId, string Language, int CustomerId, string Currency);

/// <summary>The layout that a paper gets.</summary>
/// <param name="StateId">The state of it; null for one that ships.</param>
/// <param name="Key">Of one that ships; empty for one of our own.</param>
/// <param name="Why">In words, beside the paper.</param>
public sealed record ChosenLayout(Layout Layout, int? StateId, string Key, string Why);

/// <summary>Chooses the layout of a paper: the first rule that fits, else the plain one that ships.</summary>
public sealed class LayoutChoice(BooksContext db, Wordings wordings)
{
    private const int MostRead = 200;

    /// <summary>States never change, so each is read once.</summary>
    private static readonly ConcurrentDictionary<string, Layout> Read = new();

    /// <summary>The layout of a state.</summary>
    internal static Layout LayoutOf(LayoutState state)
    {
        if (Read.Count > MostRead)
            Read.Clear();
        return Read.GetOrAdd(state.Hash, _ => LayoutFile.Parse(state.Json));
    }

    public async Task<ChosenLayout> ForAsync(PaperAsk ask, CancellationToken stop = default)
    {
        var rules = await db.LayoutRules.AsNoTracking().OrderBy(r => r.Position).ThenBy(r => r.Id).ToListAsync(stop);
        foreach (var rule in rules.Where(r => Fits(r, ask)))
        {
            var why = await WhyAsync(rule, stop);
            if (rule.Key.Length > 0)
                return new ChosenLayout(ShippedLayouts.Of(rule.Key), null, rule.Key, why);
            var state = await db
                .Layouts.Where(l => l.Id == rule.LayoutId && l.StateId != null)
                .Join(db.LayoutStates, l => l.StateId, s => s.Id, (_, s) => s)
                .AsNoTracking()
                .FirstOrDefaultAsync(stop);
            if (state is not null)
                return new ChosenLayout(LayoutOf(state), state.Id, "", why);
        }

        return ask.Kind == PaperKinds.Slip
            ? new ChosenLayout(
                ShippedLayouts.Strip,
                null,
                ShippedLayouts.StripKey,
                "no rule fits, so it is the strip of 80 mm"
            )
            : new ChosenLayout(ShippedLayouts.Plain, null, "plain", "no rule fits, so it is the plain one");
    }

    /// <summary>What a document's layout is chosen by.</summary>
    internal static PaperAsk AskOf(Document document, Customer customer, string language) =>
        new($"{document.Kind}", document.SeriesId, language, document.CustomerId, document.Currency.Code);

    private static bool Fits(LayoutRule rule, PaperAsk ask) =>
        // What is for all papers is not for a strip, on which none of them has room.
        (rule.Kind == ask.Kind || (rule.Kind.Length == 0 && ask.Kind != PaperKinds.Slip))
        && (rule.SeriesId is null || rule.SeriesId == ask.SeriesId)
        && (rule.Language.Length == 0 || rule.Language == ask.Language)
        && (rule.CustomerId is null || rule.CustomerId == ask.CustomerId)
        && (rule.Currency.Length == 0 || rule.Currency == ask.Currency);

    /// <summary>A rule in words: <c>invoices; in Swedish; in SEK</c>.</summary>
    public async Task<string> WordsAsync(LayoutRule rule, CancellationToken stop = default)
    {
        var words = new List<string>();
        if (rule.Kind.Length > 0)
            words.Add(PaperKinds.Name(rule.Kind));
        if (rule.SeriesId is { } series)
            words.Add(
                $"numbers of {await db.Series.Where(s => s.Id == series).Select(s => s.Name).FirstOrDefaultAsync(stop)}"
            );
        if (rule.Language.Length > 0)
            words.Add($"in {(await wordings.LanguagesAsync(stop)).First(l => l.Code == rule.Language).Name}");
        if (rule.CustomerId is { } customer)
            words.Add(
                $"to {await db.Customers.Where(c => c.Id == customer).Select(c => c.Name).FirstOrDefaultAsync(stop)}"
            );
        if (rule.Currency.Length > 0)
            words.Add($"in {rule.Currency}");
        return words.Count == 0 ? "all papers" : string.Join(", ", words);
    }

    private async Task<string> WhyAsync(LayoutRule rule, CancellationToken stop) =>
        $"by the rule for {await WordsAsync(rule, stop)}";
}
