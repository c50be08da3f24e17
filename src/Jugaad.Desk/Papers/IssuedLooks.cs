using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>With what a document is drawn.</summary>
/// <param name="Logo">Null where it has none.</param>
/// <param name="Words">Those that it was issued with; null for a draft, which has those of now.</param>
public sealed record PaperLook(
    Layout Layout,
    byte[]? Logo,
    byte[]? Signature,
    PaperWords? Words,
    string Why,
    bool Frozen
);

/// <summary>
/// Keeps with what each document was issued: the state of its layout and the pictures of that day, so that it is
/// printed alike whatever is drawn anew afterwards.
/// </summary>
public sealed class IssuedLooks(BooksContext db, BooksHead head, LayoutChoice choice, Wordings wordings)
{
    /// <summary>Keeps it in the transaction that issues the document.</summary>
    internal async Task KeepAsync(Document document, Customer customer, CancellationToken stop)
    {
        var language = document.WrittenIn(customer);
        var chosen = await choice.ForAsync(LayoutChoice.AskOf(document, customer, language), stop);
        var business = await head.BusinessAsync(stop);
        var words = await wordings.InAsync(language, chosen.Layout.SecondLanguage, stop);
        var kept = new LookParts(
            chosen.StateId ?? await KeptLooks.StateAsync(db, chosen.Key, (await head.NowAsync(stop)).DateTime, stop),
            await KeptLooks.PictureAsync(db, business.Logo, stop),
            await KeptLooks.PictureAsync(db, business.Signature, stop),
            await KeptLooks.WordsAsync(db, words.Write(business), stop),
            chosen.Why
        );
        // What is put right under its number is issued anew, and looks as papers do now.
        if (await db.IssuedLooks.SingleOrDefaultAsync(l => l.DocumentId == document.Id, stop) is { } before)
            before.Renew(kept);
        else
            db.IssuedLooks.Add(new IssuedLook(document.Id, kept));
    }

    /// <summary>As it was issued; a draft, as it would be now.</summary>
    internal async Task<PaperLook> OfAsync(
        Document document,
        Customer customer,
        string language,
        CancellationToken stop
    )
    {
        if (
            !document.IsDraft
            && await db
                .IssuedLooks.AsNoTracking()
                .Where(l => l.DocumentId == document.Id)
                .Join(db.LayoutStates.AsNoTracking(), l => l.StateId, s => s.Id, (l, s) => new { Look = l, State = s })
                .FirstOrDefaultAsync(stop)
                is { } kept
        )
            return new PaperLook(
                LayoutChoice.LayoutOf(kept.State),
                await DataAsync(kept.Look.LogoId, stop),
                await DataAsync(kept.Look.SignatureId, stop),
                PaperWords.Parse(
                    await db.KeptWords.Where(w => w.Id == kept.Look.WordsId).Select(w => w.Text).SingleAsync(stop)
                ),
                kept.Look.Why,
                true
            );
        var business = await head.BusinessAsync(stop);
        var chosen = await choice.ForAsync(LayoutChoice.AskOf(document, customer, language), stop);
        return new PaperLook(chosen.Layout, business.Logo, business.Signature, null, chosen.Why, false);
    }

    private async Task<byte[]?> DataAsync(int? id, CancellationToken stop) =>
        id is null ? null : await db.KeptPictures.Where(p => p.Id == id).Select(p => p.Data).FirstOrDefaultAsync(stop);
}
