using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>The words of papers in each language: those that ship, with those of our own in their place.</summary>
public sealed class Wordings(BooksContext db)
{
    /// <summary>The words of a language; what it lacks stands in English.</summary>
    /// <param name="language">ISO 639-1.</param>
    /// <param name="second">The language whose words stand beside; empty for none.</param>
    public async Task<PaperWords> InAsync(string language, string second = "", CancellationToken stop = default)
    {
        var words = await OneAsync(language, stop);
        return second.Length == 0 ? words : words.With(await OneAsync(second, stop));
    }

    private async Task<PaperWords> OneAsync(string language, CancellationToken stop)
    {
        var words = PaperWords.Of(language);
        if (words.Language != language && await OwnAsync(language, stop) is { } added)
            words = PaperWords.OfOwn(language, added.Format);
        return words.With(await OwnWordsAsync(language, stop));
    }

    private Task<OwnLanguage?> OwnAsync(string language, CancellationToken stop) =>
        db.OwnLanguages.AsNoTracking().SingleOrDefaultAsync(l => l.Code == language, stop);

    /// <summary>The words of papers that we say otherwise than they ship, in one language.</summary>
    public async Task<IReadOnlyDictionary<PaperWord, string>> OwnWordsAsync(
        string language,
        CancellationToken stop = default
    ) =>
        (
            await db
                .Wordings.AsNoTracking()
                .Where(w => w.Of == WordingOf.Word && w.Language == language)
                .ToListAsync(stop)
        )
            .Where(w => Enum.IsDefined(typeof(PaperWord), w.Key))
            .ToDictionary(w => Enum.Parse<PaperWord>(w.Key), w => w.Text);

    /// <summary>The languages that customers can be written to in, those of our own last.</summary>
    public async Task<IReadOnlyList<(string Code, string Name)>> LanguagesAsync(CancellationToken stop = default) =>
        [
            .. Customer.Languages,
            .. (await db.OwnLanguages.AsNoTracking().OrderBy(l => l.Name).ToListAsync(stop)).Select(l =>
                (l.Code, l.Name)
            ),
        ];

    public async Task<bool> KnowsAsync(string language, CancellationToken stop = default) =>
        Customer.Languages.Any(l => l.Code == language)
        || await db.OwnLanguages.AnyAsync(l => l.Code == language, stop);

    /// <exception cref="RefusalException">When there is no such language.</exception>
    /// <param name="language">Empty for none, which is right.</param>
    internal async Task MustKnowAsync(string language, CancellationToken stop)
    {
        if (language.Length > 0 && !await KnowsAsync(language, stop))
            throw new RefusalException("language", "Choose a language from the list.");
    }

    /// <summary>What a new document of a kind begins with, in the language that it is written in.</summary>
    /// <param name="language">That is asked for; the customer's where it is empty, and the usual words where there is
    /// no customer yet.</param>
    public async Task<string> NoteAsync(
        DocumentKind kind,
        int? customerId,
        string language = "",
        CancellationToken stop = default
    )
    {
        if (language.Length == 0 && customerId is { } id)
            language =
                await db.Customers.Where(c => c.Id == id).Select(c => c.Language).SingleOrDefaultAsync(stop) ?? "";
        return await OfAsync(WordingOf.Note, $"{kind}", language, stop)
            ?? await db.KindTexts.Where(t => t.Kind == kind).Select(t => t.Note).SingleOrDefaultAsync(stop)
            ?? "";
    }

    /// <summary>
    /// The texts of a draft that is to be written in another language: those that are as items and kinds have them
    /// become those of the other; what was typed stays.
    /// </summary>
    /// <param name="lines">The item of each line, if any, and its text.</param>
    /// <param name="from">The language before; empty for what items and kinds say themselves.</param>
    public async Task<(IReadOnlyList<string> Texts, string Note)> RewordAsync(
        DocumentKind kind,
        IReadOnlyList<(int? ItemId, string Text)> lines,
        string note,
        string from,
        string to,
        CancellationToken stop = default
    )
    {
        var ids = lines.Select(l => l.ItemId).OfType<int>().Distinct().ToList();
        var own = (await db.Items.AsNoTracking().Where(i => ids.Contains(i.Id)).ToListAsync(stop)).ToDictionary(
            i => i.Id,
            i => i.PaperText
        );
        var (before, after) = (await ItemsAsync(ids, from, stop), await ItemsAsync(ids, to, stop));
        string Reworded((int? ItemId, string Text) line) =>
            line.ItemId is { } id
            && own.TryGetValue(id, out var text)
            && line.Text == (before.GetValueOrDefault(id) ?? text)
                ? after.GetValueOrDefault(id) ?? text
                : line.Text;
        return (
            [.. lines.Select(Reworded)],
            note == await NoteAsync(kind, null, from, stop) ? await NoteAsync(kind, null, to, stop) : note
        );
    }

    /// <summary>What stands at the foot of a kind's paper; null for the business's own.</summary>
    internal async Task<string?> FooterAsync(DocumentKind? kind, string language, CancellationToken stop) =>
        (kind is null ? null : await OfAsync(WordingOf.Footer, $"{kind}", language, stop))
        ?? await db
            .KindTexts.Where(t => t.Kind == kind && t.Footer != "")
            .Select(t => t.Footer)
            .SingleOrDefaultAsync(stop)
        ?? await OfAsync(WordingOf.Footer, Wording.Usual, language, stop);

    /// <summary>What papers in a language call items, by their ids; those that have none there are left away.</summary>
    public Task<IReadOnlyDictionary<int, string>> ItemsAsync(
        IReadOnlyCollection<int> items,
        string language,
        CancellationToken stop = default
    ) => ByIdAsync(WordingOf.Item, items, language, stop);

    /// <summary>What tax codes say on papers in a language, by their ids; those that say nothing there are left
    /// away.</summary>
    public Task<IReadOnlyDictionary<int, string>> TaxReasonsAsync(
        IReadOnlyCollection<int> codes,
        string language,
        CancellationToken stop = default
    ) => ByIdAsync(WordingOf.TaxReason, codes, language, stop);

    private async Task<IReadOnlyDictionary<int, string>> ByIdAsync(
        WordingOf of,
        IReadOnlyCollection<int> ids,
        string language,
        CancellationToken stop
    )
    {
        var keys = ids.Select(i => $"{i}").ToList();
        return await db
            .Wordings.AsNoTracking()
            .Where(w => w.Of == of && w.Language == language && keys.Contains(w.Key))
            .ToDictionaryAsync(
                w => int.Parse(w.Key, System.Globalization.CultureInfo.InvariantCulture),
                w => w.Text,
                stop
            );
    }

    private Task<string?> OfAsync(WordingOf of, string key, string language, CancellationToken stop) =>
        db
            .Wordings.Where(w => w.Of == of && w.Key == key && w.Language == language)
            .Select(w => w.Text)
            .SingleOrDefaultAsync(stop);
}
