using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Keeps the business's own words for mails and messages, by kind and language.</summary>
public sealed class MailWordsDesk(BooksContext db, BookWriter writer, Wordings wordings)
{
    /// <param name="language">Two letters; empty for all that have no words of their own.</param>
    /// <exception cref="RefusalException">When a field is not one that there is, or a text is missing or too
    /// long.</exception>
    public Task<int> WriteAsync(MailText text, string language, string subject, string body, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                if (language.Length > 0 && !await wordings.KnowsAsync(language, stop))
                    refusals.Add("language", "Choose a language from the list.");
                Texts.Required(refusals, "subject", subject, 200, "Give the mail a subject.");
                Texts.Required(refusals, "body", body, Limits.Note, "The mail has no text. Write a line or two.");
                if (MailTexts.DressedAmountInAddress($"{subject} {body}") is { } dressed)
                    refusals.Add(
                        "body",
                        $"{dressed} stands in an address, and it is written with its currency and marks of thousands, which no address can carry. Use {{{{ TotalNumber }}}} there, or {{{{ Pay }}}} for the whole address."
                    );
                refusals.ThrowIfAny();
                // Tried out with empty fields, so that a field that is not there is refused now and not when a mail is
                // due.
                MailTexts.Write((subject, body), new MailFields());
                var words = await db.MailWords.SingleOrDefaultAsync(
                    w => w.Text == text && w.Language == language,
                    stop
                );
                if (words is null)
                    db.MailWords.Add(words = new MailWords(text, language));
                words.Write(subject, body);
                await writer.TrailAsync($"Mail text changed: {text}{(language.Length > 0 ? $", {language}" : "")}");
                await writer.SaveAsync(stop);
                return words.Id;
            }
        );

    /// <summary>Goes back to the words that ship.</summary>
    public Task<int> ForgetAsync(MailText text, string language, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                if (
                    await db.MailWords.SingleOrDefaultAsync(w => w.Text == text && w.Language == language, stop) is
                    { } words
                )
                    db.MailWords.Remove(words);
                await writer.TrailAsync($"Mail text as it ships: {text}{(language.Length > 0 ? $", {language}" : "")}");
                return 0;
            }
        );
}
