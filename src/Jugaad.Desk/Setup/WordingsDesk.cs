using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>One thing that is to be said in words of our own; empty words for those that ship.</summary>
public sealed record WordingToSet(WordingOf Of, string Key, string Text);

/// <summary>Keeps our own words for papers by language, and adds languages.</summary>
public sealed class WordingsDesk(BooksContext db, BookWriter writer, Wordings wordings)
{
    /// <summary>Writes words, notes and footers in one language; what is not named stays as it is.</summary>
    /// <exception cref="RefusalException">By its key, for each that cannot be: a word with other gaps than the one that
    /// ships has, or one that is too long.</exception>
    public Task<int> WriteAsync(string language, IReadOnlyList<WordingToSet> typed, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                await MustBeAsync(language, stop);
                var refusals = new Refusals();
                foreach (var one in typed)
                    Check(refusals, one);
                refusals.ThrowIfAny();
                var changed = await SetAsync(language, typed, stop);
                if (changed > 0)
                    await writer.TrailAsync($"Words of papers changed in {await NameAsync(language, stop)}: {changed}");
                return changed;
            }
        );

    /// <summary>What papers call an item, by language; a language whose text is empty says the item's own.</summary>
    public Task<int> WriteItemAsync(int itemId, IReadOnlyDictionary<string, string> texts, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var item =
                    await db.Items.SingleOrDefaultAsync(i => i.Id == itemId, stop)
                    ?? throw new RefusalException("", $"There is no item {itemId}.");
                var changed = await SetInEachAsync(WordingOf.Item, itemId, texts, LongestItem, stop);
                if (changed > 0)
                {
                    // It is not as it was brought in any more, so that no import takes it back from under its texts.
                    item.Touch();
                    await writer.TrailAsync($"Item {item.Code}: its texts in other languages changed");
                }

                return itemId;
            }
        );

    /// <summary>
    /// What a tax code says on papers, by language; a language whose text is empty says the code's own words. Drafts
    /// follow, issued documents stay as they are.
    /// </summary>
    /// <exception cref="RefusalException">By field <c>text-fi</c>, for a text that is too long.</exception>
    public Task<int> WriteTaxReasonAsync(int codeId, IReadOnlyDictionary<string, string> texts, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var code =
                    await db.TaxCodes.AsNoTracking().SingleOrDefaultAsync(c => c.Id == codeId, stop)
                    ?? throw new RefusalException("", $"There is no tax code {codeId}.");
                var changed = await SetInEachAsync(WordingOf.TaxReason, codeId, texts, LongestReason, stop);
                if (changed > 0)
                    await writer.TrailAsync($"Tax code {code.Code}: its words in other languages changed");
                return codeId;
            }
        );

    /// <returns>In how many languages it is said otherwise now.</returns>
    private async Task<int> SetInEachAsync(
        WordingOf of,
        int id,
        IReadOnlyDictionary<string, string> texts,
        int longest,
        CancellationToken stop
    )
    {
        var refusals = new Refusals();
        foreach (var (language, text) in texts)
        {
            Texts.Short(refusals, $"text-{language}", text, longest);
            await MustBeAsync(language, stop);
        }

        refusals.ThrowIfAny();
        var changed = 0;
        foreach (var (language, text) in texts)
            changed += await SetAsync(language, [new WordingToSet(of, $"{id}", text)], stop);
        return changed;
    }

    /// <summary>Adds a language, so that customers can be written to in it.</summary>
    /// <exception cref="RefusalException">When it is there already, or a part of it cannot be.</exception>
    public Task<int> AddLanguageAsync(
        string code,
        string name,
        string decimalMark,
        string dates,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var language = new OwnLanguage(code, name, decimalMark, dates);
                if (await db.OwnLanguages.AnyAsync(l => l.Code == language.Code || l.Name == language.Name, stop))
                    throw new RefusalException("code", "There is a language of this code or name already.");
                db.OwnLanguages.Add(language);
                await writer.TrailAsync($"Language {language.Name} ({language.Code}) added");
                await writer.SaveAsync(stop);
                return language.Id;
            }
        );

    private async Task MustBeAsync(string language, CancellationToken stop)
    {
        if (language.Length == 0)
            throw new RefusalException("language", "Choose a language from the list.");
        await wordings.MustKnowAsync(language, stop);
    }

    private async Task<string> NameAsync(string language, CancellationToken stop) =>
        (await wordings.LanguagesAsync(stop)).First(l => l.Code == language).Name;

    private const int LongestItem = 2_000;

    private const int LongestReason = 500;

    private static void Check(Refusals refusals, WordingToSet one)
    {
        var field = $"{one.Of}-{one.Key}";
        var known = one.Of switch
        {
            WordingOf.Word => Enum.IsDefined(typeof(PaperWord), one.Key),
            WordingOf.Footer when one.Key == Wording.Usual => true,
            WordingOf.Note or WordingOf.Footer => Enum.IsDefined(typeof(DocumentKind), one.Key),
            _ => false,
        };
        if (!known)
            refusals.Add(field, $"There is nothing called {one.Key} on papers.");
        else if (one.Of != WordingOf.Word)
            Texts.Short(refusals, field, one.Text, one.Of == WordingOf.Note ? Limits.Note : 1_000);
        else if (
            one.Text.Trim().Length > 0
            && PaperWords.ProblemOf(Enum.Parse<PaperWord>(one.Key), one.Text.Trim()) is { } problem
        )
            refusals.Add(field, problem);
    }

    /// <returns>How many are said otherwise now.</returns>
    private async Task<int> SetAsync(string language, IReadOnlyList<WordingToSet> typed, CancellationToken stop)
    {
        var kept = await db.Wordings.Where(w => w.Language == language).ToListAsync(stop);
        var words = PaperWords.Of(language);
        var changed = 0;
        foreach (var one in typed)
        {
            var text = one.Text.Trim().ReplaceLineEndings("\n");
            // What is typed as it ships is not of our own, and follows a later program.
            if (one.Of == WordingOf.Word && words.Language == language && text == words[Enum.Parse<PaperWord>(one.Key)])
                text = "";
            var own = kept.Find(w => w.Of == one.Of && w.Key == one.Key);
            if ((own?.Text ?? "") == text)
                continue;
            changed++;
            if (own is null)
                db.Wordings.Add(new Wording(one.Of, one.Key, language, text));
            else if (text.Length == 0)
                db.Wordings.Remove(own);
            else
                own.Write(text);
        }

        return changed;
    }
}
