using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Post;

/// <summary>E-invoices that went, or may still go.</summary>
internal static class LiveOnNetwork
{
    /// <summary>While one of these carries a paper, no other may.</summary>
    internal static IQueryable<PostItem> OnNetwork(this IQueryable<PostItem> post) =>
        post.Where(p => p.Way == PostWay.Network && p.State != PostState.Failed && p.State != PostState.Withdrawn);
}
