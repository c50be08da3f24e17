using Jugaad.Core.Layouts;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>The states of layouts that ship, and the pictures of the business, as documents were issued with them.</summary>
public static class KeptLooks
{
    /// <summary>
    /// Gives documents that were issued before looks were kept that of the layout of those days. Only while books are
    /// brought up to date, or made.
    /// </summary>
    public static async Task FillAsync(BooksContext db, CancellationToken stop = default)
    {
        if (!await db.Documents.AnyAsync(d => d.Number != null && !db.IssuedLooks.Any(l => l.DocumentId == d.Id), stop))
            return;
        var business = await db.Businesses.AsNoTracking().FirstAsync(stop);
        var state = await StateAsync(db, "plain", DateTime.UnixEpoch, stop);
        var logo = await PictureAsync(db, business.Logo, stop);
        var signature = await PictureAsync(db, business.Signature, stop);
        var issued = await db
            .Documents.Where(d => d.Number != null && !db.IssuedLooks.Any(l => l.DocumentId == d.Id))
            .OrderBy(d => d.Id)
            .Select(d => new { d.Id, Language = d.Language ?? "en" })
            .ToListAsync(stop);
        var words = new Dictionary<string, int>();
        foreach (var language in issued.Select(d => d.Language).Distinct())
            words[language] = await WordsAsync(db, PaperWords.Of(language).Write(business), stop);
        foreach (var some in issued.Chunk(2_000))
        {
            db.IssuedLooks.AddRange(
                some.Select(d => new IssuedLook(
                    d.Id,
                    new LookParts(state, logo, signature, words[d.Language], "it was issued before layouts were chosen")
                ))
            );
            await db.SaveChangesAsync(stop);
            db.ChangeTracker.Clear();
        }
    }

    public static async Task<int> StateAsync(BooksContext db, string key, DateTime made, CancellationToken stop)
    {
        var json = LayoutFile.Write(ShippedLayouts.Of(key));
        var hash = LayoutState.HashOf(json);
        var states = await db.LayoutStates.Where(s => s.Key == key).Select(s => new { s.Id, s.Hash }).ToListAsync(stop);
        if (states.FirstOrDefault(s => s.Hash == hash) is { } known)
            return known.Id;
        var state = new LayoutState(null, key, states.Count + 1, json, made, "");
        db.LayoutStates.Add(state);
        await db.SaveChangesAsync(stop);
        return state.Id;
    }

    /// <param name="text">As <see cref="PaperWords.Write"/> writes them.</param>
    public static async Task<int> WordsAsync(BooksContext db, string text, CancellationToken stop)
    {
        var hash = LayoutState.HashOf(text);
        if (await db.KeptWords.Where(w => w.Hash == hash).Select(w => (int?)w.Id).FirstOrDefaultAsync(stop) is { } id)
            return id;
        var words = new KeptWords(text);
        db.KeptWords.Add(words);
        await db.SaveChangesAsync(stop);
        return words.Id;
    }

    public static async Task<int?> PictureAsync(BooksContext db, byte[]? data, CancellationToken stop)
    {
        if (data is null)
            return null;
        var hash = LayoutState.HashOf(data);
        if (
            await db.KeptPictures.Where(p => p.Hash == hash).Select(p => (int?)p.Id).FirstOrDefaultAsync(stop) is { } id
        )
            return id;
        var picture = new KeptPicture(data);
        db.KeptPictures.Add(picture);
        await db.SaveChangesAsync(stop);
        return picture.Id;
    }
}
