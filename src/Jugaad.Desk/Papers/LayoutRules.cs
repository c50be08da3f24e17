using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>A rule as it is listed.</summary>
/// <param name="For">Which papers, in words.</param>
public sealed record ListedRule(int Id, string For, string Layout);

/// <summary>Says which papers get which layout.</summary>
public sealed class LayoutRules(
    BooksContext db,
    BookWriter writer,
    LayoutChoice choice,
    LayoutTrials trials,
    Wordings wordings
)
{
    private const int Most = 100;

    public async Task<IReadOnlyList<ListedRule>> AllAsync(CancellationToken stop = default)
    {
        var names = await db.Layouts.ToDictionaryAsync(l => l.Id, l => l.Name, stop);
        var listed = new List<ListedRule>();
        foreach (var rule in await db.LayoutRules.AsNoTracking().OrderBy(r => r.Position).ToListAsync(stop))
            listed.Add(
                new ListedRule(
                    rule.Id,
                    await choice.WordsAsync(rule, stop),
                    rule.Key.Length > 0 ? ShippedLayouts.Of(rule.Key).Name : names[rule.LayoutId!.Value]
                )
            );
        return listed;
    }

    /// <param name="layout">The key of one that ships, or the id of one of our own.</param>
    /// <exception cref="RefusalException">When something of it is not known, the layout is not in use, or papers of the
    /// kind would lack something in it that they must say.</exception>
    public async Task<int> AddAsync(string layout, PaperAsk of, Once once = default)
    {
        writer.Must(Right.Setup);
        // Tried before anybody is kept from writing. One that ships is fit for all that it is offered for.
        var state = int.TryParse(layout, out var tried)
            ? await db
                .Layouts.Where(l => l.Id == tried)
                .Join(db.LayoutStates, l => l.StateId, s => s.Id, (_, s) => s)
                .AsNoTracking()
                .SingleOrDefaultAsync(once.Stop)
            : null;
        if (state is not null)
            await trials.MustStandAsync(LayoutChoice.LayoutOf(state), [of.Kind], once.Stop);
        return await AddTriedAsync(layout, of, once);
    }

    private Task<int> AddTriedAsync(string layout, PaperAsk of, Once once) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                await MustBeKnownAsync(of, stop);
                var own = int.TryParse(layout, out var id) ? id : (int?)null;
                if (own is null && !ShippedLayouts.Keys.Contains(layout))
                    throw new RefusalException("layout", "There is no such layout.");
                if (own is not null && !await db.Layouts.AnyAsync(l => l.Id == own && l.StateId != null, stop))
                    throw new RefusalException(
                        "layout",
                        "That layout is not in use yet. Open it and say that it is used from now on."
                    );
                var rules = await db.LayoutRules.OrderBy(r => r.Position).ToListAsync(stop);
                if (rules.Count >= Most)
                    throw new RefusalException("", $"There are {Most} rules. Take one away first.");
                var rule = new LayoutRule(0, own, own is null ? layout : "")
                {
                    Kind = of.Kind,
                    SeriesId = of.SeriesId,
                    Language = of.Language,
                    CustomerId = of.CustomerId == 0 ? null : of.CustomerId,
                    Currency = of.Currency,
                };
                // What is narrower goes before what is wider, so that a new rule is not hidden by an old one.
                var at = rules.FindIndex(r => Narrowness(r) < Narrowness(rule));
                rules.Insert(at < 0 ? rules.Count : at, rule);
                db.LayoutRules.Add(rule);
                Number(rules);
                await writer.TrailAsync($"Papers get a layout: {await choice.WordsAsync(rule, stop)}");
                await writer.SaveAsync(stop);
                return rule.Id;
            }
        );

    /// <summary>Has a rule tried earlier.</summary>
    /// <exception cref="RefusalException">When there is none.</exception>
    public Task<int> EarlierAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var rules = await db.LayoutRules.OrderBy(r => r.Position).ToListAsync(stop);
                var at = rules.FindIndex(r => r.Id == id);
                if (at < 0)
                    throw new RefusalException("", "There is no such rule.");
                if (at > 0)
                    (rules[at - 1], rules[at]) = (rules[at], rules[at - 1]);
                Number(rules);
                await writer.TrailAsync("Order of the rules for layouts changed");
                return id;
            }
        );

    /// <exception cref="RefusalException">When there is none.</exception>
    public Task<int> RemoveAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var rule =
                    await db.LayoutRules.FindAsync([id], stop)
                    ?? throw new RefusalException("", "There is no such rule.");
                var words = await choice.WordsAsync(rule, stop);
                db.LayoutRules.Remove(rule);
                await writer.TrailAsync($"Rule for layouts taken away: {words}");
                return id;
            }
        );

    private static int Narrowness(LayoutRule rule) =>
        (rule.CustomerId is null ? 0 : 16)
        + (rule.SeriesId is null ? 0 : 8)
        + (rule.Kind.Length == 0 ? 0 : 4)
        + (rule.Currency.Length == 0 ? 0 : 2)
        + (rule.Language.Length == 0 ? 0 : 1);

    private static void Number(List<LayoutRule> rules)
    {
        for (var i = 0; i < rules.Count; i++)
            rules[i].Stand(i + 1);
    }

    private async Task MustBeKnownAsync(PaperAsk of, CancellationToken stop)
    {
        var refusals = new Refusals();
        if (of.Kind.Length > 0 && !PaperKinds.All.Contains(of.Kind))
            refusals.Add("kind", "There is no such kind of paper.");
        if (of.Language.Length > 0 && !await wordings.KnowsAsync(of.Language, stop))
            refusals.Add("language", "There are no words in that language.");
        if (of.Currency.Length > 0 && !Core.Amounts.Currency.TryOf(of.Currency, out _))
            refusals.Add("currency", $"“{of.Currency}” is no code of a currency.");
        if (of.CustomerId != 0 && !await db.Customers.AnyAsync(c => c.Id == of.CustomerId, stop))
            refusals.Add("customer", "There is no such customer.");
        if (of.SeriesId is { } series && !await db.Series.AnyAsync(s => s.Id == series, stop))
            refusals.Add("series", "There is no such number series.");
        refusals.ThrowIfAny();
    }
}
