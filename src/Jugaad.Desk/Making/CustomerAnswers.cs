using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;

namespace Jugaad.Desk.Making;

/// <summary>
/// What customers do at the address of an offer: choose among what is offered, accept it, decline it.
/// </summary>
public sealed class CustomerAnswers(BookWriter writer, BooksHead head, Drafts drafts)
{
    /// <summary>The customer's choice among what is offered.</summary>
    public Task<int> ChooseAsync(int documentId, IReadOnlySet<int> chosen, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Customer,
            stop,
            async () =>
            {
                var quote = await drafts.LoadAsync(documentId, stop);
                if (
                    quote.State != DocumentState.Sent
                    || quote.IsReplaced
                    || quote.ValidUntil < await head.TodayAsync(stop)
                )
                    throw new RefusalException("", PaperWords.English[PaperWord.SiteEnded]);
                quote.Choose(chosen);
                await writer.TrailAsync(
                    $"The customer chose; it comes to {(await head.BusinessAsync(stop)).Format.WithCode(quote.Payable, quote.Currency)}",
                    quote.CustomerId,
                    documentId
                );
                return documentId;
            }
        );

    /// <summary>The customer's answer, with their name and the time.</summary>
    /// <param name="version">What they saw, so that nothing is accepted unseen.</param>
    public Task<int> AnswerAsync(
        int documentId,
        int version,
        bool accepted,
        string name,
        string words,
        IReadOnlySet<int>? chosen,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Customer,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                Texts.Required(
                    refusals,
                    "name",
                    name,
                    100,
                    accepted ? PaperWords.English[PaperWord.SiteNoName] : PaperWords.English[PaperWord.SiteNoDecliner]
                );
                Texts.Short(refusals, "words", words, 500);
                refusals.ThrowIfAny();
                var quote = await drafts.LoadAsync(documentId, stop);
                var today = await head.TodayAsync(stop);
                if (quote.ValidUntil < today)
                    throw new RefusalException("", PaperWords.English[PaperWord.SiteEnded]);
                if (quote.State != DocumentState.Sent || quote.IsReplaced)
                    throw new RefusalException(
                        "",
                        quote.IsReplaced
                            ? PaperWords.English[PaperWord.SiteNoReplaced]
                            : PaperWords.English[PaperWord.SiteNoAnswered]
                    );
                if (quote.Version != version)
                    throw new RefusalException("", PaperWords.English[PaperWord.SiteNoChanged]);
                if (accepted && chosen is not null && quote.Lines.Any(l => l.Choice != LineChoice.Firm))
                    quote.Choose(chosen);
                var time = await head.NowAsync(stop);
                var by = $"{name.Trim()}, {time:HH:mm}, by the link";
                quote.Answer(
                    accepted,
                    today,
                    words.Trim().Length > 0 ? $"{words.Trim()} ({by})" : by,
                    accepted ? null : LossReason.Other
                );
                await writer.TrailAsync(
                    $"{(accepted ? "Accepted" : "Declined")} by the customer through the link: {name.Trim()}, {today:yyyy-MM-dd} {time:HH:mm}{(words.Trim().Length > 0 ? $". “{words.Trim()}”" : "")}",
                    quote.CustomerId,
                    documentId
                );
                return documentId;
            }
        );
}
