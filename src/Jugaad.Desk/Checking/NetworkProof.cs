using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Each e-invoice went once, to its customer and with its file; each answer is of one that went, and counts where it can
/// follow what was said before. What issued documents keep for machines is of their own lines.
/// </summary>
internal sealed class NetworkProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var posts = await db
            .Post.AsNoTracking()
            .Where(p => p.Way == PostWay.Network)
            .Select(p => new
            {
                p.Id,
                p.To,
                p.CustomerId,
                p.SummaryId,
                p.State,
                p.FilesCarried,
                Papers = p.Attachments.Select(a => a.DocumentId).ToList(),
            })
            .ToListAsync(stop);
        var papers = posts.SelectMany(p => p.Papers).ToHashSet();
        var documents = await db
            .Documents.AsNoTracking()
            .Where(d => papers.Contains(d.Id))
            .Select(d => new
            {
                d.Id,
                d.Number,
                d.CustomerId,
                d.Kind,
            })
            .ToDictionaryAsync(d => d.Id, stop);
        var refused = (
            await db
                .NetworkAnswers.Where(a => a.Counts && a.Kind == AnswerKind.Refused)
                .Select(a => a.PostItemId)
                .ToListAsync(stop)
        ).ToHashSet();
        foreach (var post in posts)
        {
            if (post.SummaryId is not null)
            {
                if (post.Papers.Count > 0)
                    findings.Add($"Post item {post.Id}: carries a summary of sales and a paper too");
            }
            else if (
                post.Papers is not [var only]
                || !documents.TryGetValue(only, out var document)
                || document.Number is null
                || document.CustomerId != post.CustomerId
            )
                findings.Add(
                    $"Post item {post.Id}: an e-invoice is of one issued paper of its customer, and this is not"
                );
            if (
                !post.To.Contains(':', StringComparison.Ordinal)
                || !CodeLists.ElectronicSchemes.Contains(post.To.Split(':')[0])
            )
                findings.Add($"Post item {post.Id}: an e-invoice to “{post.To}”, which is no electronic address");
            if (post.State == PostState.Sent && post.FilesCarried != 1)
                findings.Add($"Post item {post.Id}: an e-invoice went without its one file");
        }

        foreach (
            var twice in posts
                .Where(p => p.State is not (PostState.Failed or PostState.Withdrawn))
                .SelectMany(p =>
                    p.Papers.Where(d =>
                        // A credit note that was refused is sent again.
                        !refused.Contains(p.Id) || documents.GetValueOrDefault(d)?.Kind != DocumentKind.CreditNote
                    )
                )
                .GroupBy(p => p)
                .Where(g => g.Count() > 1)
        )
            findings.Add(
                $"{documents.GetValueOrDefault(twice.Key)?.Number}: went {twice.Count()} times as an e-invoice"
            );
        foreach (
            var twice in posts
                .Where(p => p.SummaryId is not null && p.State is not (PostState.Failed or PostState.Withdrawn))
                .GroupBy(p => p.SummaryId)
                .Where(g => g.Count() > 1)
        )
            findings.Add($"Summary {twice.Key}: went {twice.Count()} times as an e-invoice");
        await AnswersAsync(findings, posts.Where(p => p.State == PostState.Sent).Select(p => p.Id).ToHashSet(), stop);
        await AddressesAsync(findings, stop);
        await FactsAsync(findings, stop);
        findings.Count("e-invoices sent", posts.Count);
    }

    private async Task AnswersAsync(Findings findings, HashSet<int> sent, CancellationToken stop)
    {
        foreach (
            var of in (await db.NetworkAnswers.AsNoTracking().OrderBy(a => a.Id).ToListAsync(stop)).GroupBy(a =>
                a.PostItemId
            )
        )
        {
            if (!sent.Contains(of.Key))
                findings.Add($"Post item {of.Key}: a receiver answered to what never went");
            AnswerKind? before = null;
            foreach (var answer in of)
            {
                if (answer.MessageId.Length == 0 || !Enum.IsDefined(answer.Kind))
                    findings.Add($"Answer {answer.Id}: it is none of the network's");
                if (answer.Counts != Answers.CanFollow(before, answer.Kind))
                    findings.Add(
                        $"Answer {answer.Id}: “{answer.Kind.Word()}” {(answer.Counts ? "counts, and cannot follow" : "does not count, and could follow")} what was said before"
                    );
                if (answer.Counts)
                    before = answer.Kind;
            }
        }
    }

    private async Task AddressesAsync(Findings findings, CancellationToken stop)
    {
        foreach (
            var c in await db
                .Customers.AsNoTracking()
                .Where(c => c.Electronic.Value != "" || c.Electronic.Scheme != "" || c.Takes != PaperForm.Pdf)
                .ToListAsync(stop)
        )
        {
            if (!Holds(c.Electronic) || !Enum.IsDefined(c.Takes))
                findings.Add($"{c.Name}: “{c.Electronic}” is no electronic address");
            if (c.Takes == PaperForm.EInvoice && !c.Electronic.IsGiven)
                findings.Add($"{c.Name}: gets e-invoices, and has no electronic address");
        }

        foreach (var b in await db.Businesses.AsNoTracking().ToListAsync(stop))
        {
            if (!Holds(b.Electronic))
                findings.Add($"{b.Name}: “{b.Electronic}” is no electronic address");
        }

        foreach (
            var i in await db
                .Items.AsNoTracking()
                .Where(i => i.ClassificationList != "" || i.OriginCountry != "")
                .ToListAsync(stop)
        )
        {
            if (i.ClassificationList.Length > 0 && !CodeLists.IsClassificationList(i.ClassificationList))
                findings.Add($"{i.Code}: “{i.ClassificationList}” is no list of classifications");
            if (i.OriginCountry.Length > 0 && !Countries.Knows(i.OriginCountry))
                findings.Add($"{i.Code}: “{i.OriginCountry}” is no country to come from");
        }

        foreach (var n in await db.ItemNumbers.AsNoTracking().ToListAsync(stop))
        {
            if (!CustomerItemNumber.Holds(n.Number))
                findings.Add(
                    $"Item {n.ItemId}: “{n.Number}” is no number by which customer {n.CustomerId} could know it"
                );
        }

        foreach (var t in await db.TaxCodes.AsNoTracking().Where(t => t.ExemptionCode != "").ToListAsync(stop))
        {
            if (!CodeLists.Exemptions.Contains(t.ExemptionCode))
                findings.Add($"Tax code {t.Code}: “{t.ExemptionCode}” is no code of an exemption");
        }
    }

    private static bool Holds(ElectronicAddress address)
    {
        var refusals = new Core.Refusals();
        address.Check(refusals);
        return !refusals.Any && address == address.Tidied();
    }

    private async Task FactsAsync(Findings findings, CancellationToken stop)
    {
        foreach (
            var d in await db
                .Documents.AsNoTracking()
                .Where(d => d.Facts != null)
                .Select(d => new
                {
                    d.Number,
                    d.Facts,
                    Items = d.Lines.Select(l => l.ItemId).ToList(),
                    Codes = d.Lines.Select(l => l.TaxCodeId).ToList(),
                })
                .ToListAsync(stop)
        )
        {
            if (
                d.Number is null
                || !d.Items.OfType<int>().ToHashSet().SetEquals(d.Facts!.Items.Select(i => i.ItemId))
                || d.Facts.Exemptions.Any(e => !d.Codes.Contains(e.TaxCodeId) || !CodeLists.Exemptions.Contains(e.Code))
                || d.Facts.Items.Any(i =>
                    i.Number.Length == 0 || !(i.BuyersNumber is "" || CustomerItemNumber.Holds(i.BuyersNumber))
                )
            )
                findings.Add($"{d.Number}: what it keeps of its items for e-invoices is not of its lines");
        }
    }
}
