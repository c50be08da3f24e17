using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Post;

/// <summary>E-invoices that went, or may still go.</summary>
internal static class LiveOnNetwork
{
    /// <summary>While one of these carries a paper, no other may.</summary>
    internal static IQueryable<PostItem> OnNetwork(this IQueryable<PostItem> post) =>
        post.Where(p => p.Way == PostWay.Network && p.State != PostState.Failed && p.State != PostState.Withdrawn);

    /// <summary>
    /// Those that their receiver did not refuse. A refused invoice is credited and written anew; a refused credit note is
    /// sent again once its receiver can take it, since there is nothing that credits a credit.
    /// </summary>
    internal static IQueryable<PostItem> NotRefused(this IQueryable<PostItem> post, BooksContext db) =>
        post.Where(p =>
            db.NetworkAnswers.Where(a => a.PostItemId == p.Id && a.Counts)
                .OrderByDescending(a => a.Id)
                .Select(a => (AnswerKind?)a.Kind)
                .FirstOrDefault() != AnswerKind.Refused
        );
}
