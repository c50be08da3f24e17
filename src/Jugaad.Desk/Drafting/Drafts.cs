using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Drafting;

/// <summary>A draft as it is to be saved.</summary>
/// <param name="Id">Null for a new one.</param>
/// <param name="BaseVersion">The version that the person had before them; 0 for a new one.</param>
public sealed record DraftToSave(
    int? Id,
    DocumentKind Kind,
    int BaseVersion,
    DraftContent Content,
    int? FromDocumentId = null,
    string? FormKey = null
);

/// <summary>Thrown when somebody else saved the draft first; says what they changed.</summary>
public sealed class DraftConflictException(int version, IReadOnlyList<string> changes)
    : Exception("The draft was changed by somebody else.")
{
    /// <summary>The version that is kept now.</summary>
    public int Version { get; } = version;

    /// <summary>What the others changed, newest last.</summary>
    public IReadOnlyList<string> Changes { get; } = changes;
}

/// <summary>Makes, changes and puts away drafts of every kind.</summary>
public sealed class Drafts(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    MastersLoader masters,
    LineLinks links,
    Completion completion,
    StageWords stageWords,
    OrderChanges changed,
    AuthorityRates told
)
{
    /// <summary>What the content would come to, without keeping it.</summary>
    /// <param name="id">The draft whose content it is; null for a new one.</param>
    /// <exception cref="RefusalException">With all that is wrong, each by its field.</exception>
    public async Task<Document> TryOutAsync(
        DocumentKind kind,
        DraftContent content,
        int? id = null,
        CancellationToken stop = default
    )
    {
        var document = await MustBePossibleAsync(kind, content, id, stop);
        db.ChangeTracker.Clear();
        return document;
    }

    /// <summary>The same within a use case, whose tracked things stay.</summary>
    internal async Task<Document> MustBePossibleAsync(
        DocumentKind kind,
        DraftContent content,
        int? id,
        CancellationToken stop
    )
    {
        var document = new Document(kind, writer.Who);
        var found = await masters.ForAsync(content, id, stop);
        var from = id is null
            ? null
            : await db.Documents.Where(d => d.Id == id).Select(d => d.FromDocumentId).SingleOrDefaultAsync(stop);
        document.Rewrite(await WithRateAsync(content, found, kind, from, stop), found);
        await told.PutAsync(document, from, stop);
        await links.MustFitAsync(document, id, stop);
        await stageWords.PutRightAsync(document, id, stop);
        return document;
    }

    /// <returns>The draft's id.</returns>
    /// <exception cref="RefusalException">With all that is wrong, each by its field.</exception>
    /// <exception cref="DraftConflictException">When the draft has been changed since
    /// <see cref="DraftToSave.BaseVersion"/>.</exception>
    public Task<int> SaveAsync(DraftToSave save, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Draft,
            new Once(save.FormKey, stop),
            async () =>
            {
                var found = await masters.ForAsync(save.Content, save.Id, stop);
                var document = save.Id is { } id
                    ? await LoadAsync(id, stop)
                    : new Document(save.Kind, writer.Who, save.FromDocumentId);
                if (document.Kind != save.Kind)
                    throw new RefusalException(
                        "",
                        $"This is not {KindPolicy.Of(save.Kind).AWord}; it is {document.Policy.AWord}. Open it from the list."
                    );
                if (document.Version != save.BaseVersion)
                    throw await ConflictAsync(document, save.BaseVersion, stop);
                var before = save.Id is null ? null : document.Content();
                var content = await WithRateAsync(save.Content, found, document.Kind, document.FromDocumentId, stop);
                if (document.CanBeChanged)
                {
                    writer.Must(Right.Issue);
                    document.Change(content, found);
                    await changed.MustStandAsync(document, stop);
                }
                else
                    document.Rewrite(content, found);
                await told.PutAsync(document, document.FromDocumentId, stop);
                await links.MustFitAsync(document, save.Id, stop);
                await stageWords.PutRightAsync(document, save.Id, stop);
                if (save.Id is null)
                    db.Documents.Add(document);
                await writer.SaveAsync(stop);
                var changes = before is null
                    ? []
                    : DraftDifferences.Between(
                        before,
                        document.Content(),
                        document.Currency,
                        await NamesAsync(before, document.Content(), stop),
                        (await head.BusinessAsync(stop)).Format
                    );
                if (before is null)
                    await writer.TrailAsync(
                        $"Draft {document.Policy.Word} begun",
                        document.CustomerId,
                        document.Id,
                        draftVersion: document.Version
                    );
                else if (changes.Count > 0)
                    await writer.TrailAsync(
                        (document.IsDraft ? "Draft changed. " : "Order changed. ") + string.Join("; ", changes),
                        document.CustomerId,
                        document.Id,
                        draftVersion: document.Version
                    );
                if (!document.IsDraft)
                    await completion.FollowChangedAsync(document, stop);
                return document.Id;
            }
        );

    /// <summary>Makes a draft from another document, within a use case of its own.</summary>
    /// <param name="trail">What is said of it in its thread.</param>
    /// <param name="sources">The lines that it is made from, to tell where it is taxed otherwise.</param>
    internal async Task<Document> MakeAsync(
        DocumentKind kind,
        DraftContent content,
        int? from,
        Phrase trail,
        CancellationToken stop,
        IEnumerable<DocumentLine>? sources = null
    )
    {
        var document = new Document(kind, writer.Who, from);
        var found = await masters.ForAsync(content, null, stop);
        document.Rewrite(await WithRateAsync(content, found, kind, from, stop), found);
        await told.PutAsync(document, from, stop);
        await links.MustFitAsync(document, null, stop);
        await stageWords.PutRightAsync(document, null, stop);
        db.Documents.Add(document);
        await writer.SaveAsync(stop);
        await writer.TrailAsync(
            $"{trail}{RateChanges.Between(sources ?? [], document)}",
            document.CustomerId,
            document.Id,
            draftVersion: document.Version
        );
        return document;
    }

    /// <summary>Puts a draft away. It takes no number and can be brought back.</summary>
    public Task<int> DiscardAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var document = await LoadAsync(id, stop);
                document.Discard();
                await completion.FollowAsync(document, stop);
                await writer.TrailAsync($"Draft {document.Policy.Word} put away", document.CustomerId, id);
                return id;
            }
        );

    public Task<int> BringBackAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Draft,
            once,
            async stop =>
            {
                var document = await LoadAsync(id, stop);
                document.BringBack();
                await links.MustFitAsync(document, id, stop);
                await completion.FollowAsync(document, stop);
                await writer.TrailAsync($"Draft {document.Policy.Word} brought back", document.CustomerId, id);
                return id;
            }
        );

    /// <summary>The names of what two contents point to, so that a change is told in words.</summary>
    private async Task<DraftNames> NamesAsync(DraftContent before, DraftContent after, CancellationToken stop)
    {
        DraftContent[] both = [before, after];
        var customers = both.Select(c => c.CustomerId).ToList();
        var terms = both.Select(c => c.TermsId).OfType<int>().ToList();
        var series = both.Select(c => c.SeriesId).OfType<int>().ToList();
        var sellers = both.Select(c => c.Particulars.SellerId).OfType<int>().ToList();
        var codes = both.SelectMany(c => c.Lines).Select(l => l.TaxCodeId).ToList();
        return new DraftNames(
            await db.Customers.Where(c => customers.Contains(c.Id)).ToDictionaryAsync(c => c.Id, c => c.Name, stop),
            await db.Terms.Where(t => terms.Contains(t.Id)).ToDictionaryAsync(t => t.Id, t => t.Name, stop),
            await db
                .Customers.Where(c => customers.Contains(c.Id))
                .SelectMany(c => c.Places)
                .ToDictionaryAsync(p => p.Id, p => p.Label, stop),
            await db.Series.Where(s => series.Contains(s.Id)).ToDictionaryAsync(s => s.Id, s => s.Name, stop),
            await db.Users.Where(u => sellers.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.FullName, stop),
            await db.TaxCodes.Where(c => codes.Contains(c.Id)).ToDictionaryAsync(c => c.Id, c => c.Code, stop)
        );
    }

    internal async Task<Document> LoadAsync(int id, CancellationToken stop) =>
        await db
            .Documents.Include(d => d.Lines)
            .Include(d => d.Charges)
            .Include(d => d.Taxes)
            .SingleOrDefaultAsync(d => d.Id == id, stop)
        ?? throw new RefusalException("", $"There is no document {id}. Look for it under Sell.");

    /// <summary>A foreign currency without a rate typed by hand takes the rate of the day.</summary>
    private async Task<DraftContent> WithRateAsync(
        DraftContent content,
        DraftMasters found,
        DocumentKind kind,
        int? from,
        CancellationToken stop
    )
    {
        var currency = found.Customer.BilledIn(content.Currency);
        return content with { ExchangeRate = await masters.RateForAsync(kind, from, currency, content, stop) };
    }

    private async Task<DraftConflictException> ConflictAsync(Document document, int baseVersion, CancellationToken stop)
    {
        var changes = await db
            .Trail.Where(t => t.DocumentId == document.Id && t.DraftVersion > baseVersion)
            .OrderBy(t => t.Id)
            .Select(t => t.Who + ": " + t.Text)
            .ToListAsync(stop);
        if (!document.IsDraft)
            changes.Add($"It is no longer a draft: it is {document.Title}.");
        return new DraftConflictException(document.Version, changes);
    }
}
