using Jugaad.Core.Documents;
using Jugaad.Desk.Books;

namespace Jugaad.Desk.Drafting;

/// <summary>Copies a document into a new draft: today's date, today's prices, today's tax.</summary>
public sealed class Copies(BookWriter writer, BooksHead head, Drafts drafts, Pricing pricing)
{
    /// <param name="kind">What the copy is to be; the same kind where it is null.</param>
    /// <returns>The draft's id.</returns>
    public Task<int> CopyAsync(int id, DocumentKind? kind = null, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var source = await drafts.LoadAsync(id, stop);
                var into =
                    kind
                    ?? (
                        source.Kind is DocumentKind.CreditNote or DocumentKind.DebitNote
                            ? DocumentKind.Invoice
                            : source.Kind
                    );
                var today = await head.TodayAsync(stop);
                var content = Free(source.Content()) with
                {
                    Date = today,
                    ValidUntil = KindPolicy.Of(into).HasValidity ? today.AddMonths(1) : null,
                    Particulars = source.Particulars with
                    {
                        FollowUp = null,
                        DeliveredFrom = null,
                        DeliveredUntil = null,
                        Reason = "",
                    },
                };
                var (priced, said) = await pricing.AsOfTodayAsync(content, stop);
                var made = await drafts.MakeAsync(
                    into,
                    priced,
                    null,
                    $"Copied from {source.Title}{(said.Count == 0 ? "" : ". " + string.Join("; ", said))}",
                    stop
                );
                return made.Id;
            }
        );

    /// <summary>The same content, tied to nothing: no number, no due day, no line made from another.</summary>
    internal static DraftContent Free(DraftContent content) =>
        content.On(content.Date) with
        {
            SeriesId = content.SeriesId,
            CashStep = null,
            PaidExactly = 0,
            Lines = content
                .Lines.Where(l => l.Role is not LineRole.Deduction)
                .Select(l =>
                    l with
                    {
                        KeptId = null,
                        FromLineId = null,
                        FromChargeId = null,
                        Role = l.Role.ByAmount() ? LineRole.Item : l.Role,
                    }
                )
                .ToList(),
            Charges = content.Charges.Select(c => c with { KeptId = null, FromChargeId = null }).ToList(),
        };
}
