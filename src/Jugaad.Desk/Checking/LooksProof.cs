using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// Every issued document has the look that it was issued with; states of layouts and pictures are what they were when
/// they were kept; and every rule leads to a layout that is in use.
/// </summary>
internal sealed class LooksProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        await StatesAsync(findings, stop);
        await PicturesAsync(findings, stop);
        await WordsAsync(findings, stop);
        await LooksAsync(findings, stop);
        await SealsAsync(findings, stop);
        await LayoutsAsync(findings, stop);
    }

    private async Task StatesAsync(Findings findings, CancellationToken stop)
    {
        var states = await db.LayoutStates.AsNoTracking().OrderBy(s => s.Id).ToListAsync(stop);
        foreach (var state in states)
        {
            var name = state.Key.Length > 0 ? state.Key : $"{state.LayoutId}";
            if (state.Hash != LayoutState.HashOf(state.Json))
                findings.Add($"Layout {name}, state {state.No}: it was changed after it was kept");
            try
            {
                _ = LayoutFile.Parse(state.Json);
            }
            catch (RefusalException)
            {
                findings.Add($"Layout {name}, state {state.No}: it cannot be read");
            }

            if (state.Key.Length > 0 == state.LayoutId is not null)
                findings.Add($"Layout state {state.Id}: it is of one that ships, or of one of our own, not of both");
        }

        foreach (
            var layout in states
                .GroupBy(s => (s.Key, s.LayoutId))
                .Where(g => !g.Select(s => s.No).Order().SequenceEqual(Enumerable.Range(1, g.Count())))
        )
            findings.Add(
                $"Layout {(layout.Key.Key.Length > 0 ? layout.Key.Key : $"{layout.Key.LayoutId}")}: its states are not counted one by one"
            );
    }

    private async Task PicturesAsync(Findings findings, CancellationToken stop)
    {
        foreach (var id in await db.KeptPictures.Select(p => p.Id).ToListAsync(stop))
        {
            var picture = await db.KeptPictures.AsNoTracking().SingleAsync(p => p.Id == id, stop);
            if (picture.Hash != LayoutState.HashOf(picture.Data))
                findings.Add($"Picture {id} of papers: it was changed after it was kept");
        }
    }

    private async Task WordsAsync(Findings findings, CancellationToken stop)
    {
        foreach (var words in await db.KeptWords.AsNoTracking().OrderBy(w => w.Id).ToListAsync(stop))
        {
            if (words.Hash != LayoutState.HashOf(words.Text))
                findings.Add($"Words {words.Id} of papers: they were changed after they were kept");
            try
            {
                _ = PaperWords.Parse(words.Text);
            }
            catch (RefusalException)
            {
                findings.Add($"Words {words.Id} of papers: they cannot be read");
            }
        }

        foreach (var own in await db.OwnLanguages.AsNoTracking().OrderBy(l => l.Id).ToListAsync(stop))
            findings.Unless(
                Customer.IsLanguage(own.Code)
                    && (own.DecimalMark is "." or ",")
                    && DisplayFormat.DatePatterns.Contains(own.Dates),
                $"Language {own.Name}: how it writes figures and dates cannot be"
            );
        var known = await LanguagesAsync(stop);
        var items = (await db.Items.Select(i => i.Id).ToListAsync(stop)).ToHashSet();
        var codes = (await db.TaxCodes.Select(c => c.Id).ToListAsync(stop)).ToHashSet();
        foreach (var wording in await db.Wordings.AsNoTracking().OrderBy(w => w.Id).ToListAsync(stop))
        {
            var (of, key) = (wording.Of, wording.Key);
            if (!known.Contains(wording.Language))
                findings.Add($"Words of our own for {of} {key}: there is no language {wording.Language}");
            findings.Unless(
                wording.Text.Length > 0
                    && of switch
                    {
                        WordingOf.Word => Enum.TryParse<PaperWord>(key, out var word)
                            && PaperWords.ProblemOf(word, wording.Text) is null,
                        WordingOf.Item => int.TryParse(key, out var item) && items.Contains(item),
                        WordingOf.TaxReason => int.TryParse(key, out var code) && codes.Contains(code),
                        WordingOf.Footer when key == Wording.Usual => true,
                        _ => Enum.IsDefined(typeof(DocumentKind), key),
                    },
                $"Words of our own for {of} {key} in {wording.Language}: they are for nothing that is printed, or lack what is put in"
            );
        }
    }

    private async Task<HashSet<string>> LanguagesAsync(CancellationToken stop) =>
        [.. Customer.Languages.Select(l => l.Code), .. await db.OwnLanguages.Select(l => l.Code).ToListAsync(stop)];

    private async Task SealsAsync(Findings findings, CancellationToken stop)
    {
        await foreach (var look in db.IssuedLooks.AsNoTracking().AsAsyncEnumerable().WithCancellation(stop))
        {
            var parts = new LookParts(look.StateId, look.LogoId, look.SignatureId, look.WordsId, look.Why);
            findings.Unless(
                look.Seal == IssuedLook.SealOf(look.DocumentId, parts),
                $"Document {look.DocumentId}: it was not issued with the layout, pictures or words that are kept for it"
            );
        }
    }

    private async Task LooksAsync(Findings findings, CancellationToken stop)
    {
        foreach (
            var number in await db
                .Documents.Where(d => d.Number != null && !db.IssuedLooks.Any(l => l.DocumentId == d.Id))
                .OrderBy(d => d.Id)
                .Select(d => d.Number)
                .Take(20)
                .ToListAsync(stop)
        )
            findings.Add($"Document {number}: how it looked when it was issued is not kept");
        foreach (
            var id in await db
                .IssuedLooks.Where(l => !db.Documents.Any(d => d.Id == l.DocumentId && d.Number != null))
                .Select(l => l.DocumentId)
                .Take(20)
                .ToListAsync(stop)
        )
            findings.Add($"Document {id}: a look is kept for it although it was never issued");
        foreach (
            var look in await db
                .IssuedLooks.Where(l =>
                    !db.LayoutStates.Any(s => s.Id == l.StateId)
                    || !db.KeptWords.Any(w => w.Id == l.WordsId)
                    || (l.LogoId != null && !db.KeptPictures.Any(p => p.Id == l.LogoId))
                    || (l.SignatureId != null && !db.KeptPictures.Any(p => p.Id == l.SignatureId))
                )
                .Select(l => l.DocumentId)
                .Take(20)
                .ToListAsync(stop)
        )
            findings.Add($"Document {look}: the layout, a picture or the words that it was issued with are gone");
    }

    private async Task LayoutsAsync(Findings findings, CancellationToken stop)
    {
        var layouts = await db.Layouts.AsNoTracking().ToListAsync(stop);
        foreach (var layout in layouts)
        {
            if (
                layout.StateId is { } used
                && !await db.LayoutStates.AnyAsync(s => s.Id == used && s.LayoutId == layout.Id, stop)
            )
                findings.Add($"Layout {layout.Name}: the state that is in use is none of its own");
            try
            {
                _ = LayoutFile.Parse(layout.Work);
            }
            catch (RefusalException)
            {
                findings.Add($"Layout {layout.Name}: what is worked on cannot be read");
            }
        }

        var languages = await LanguagesAsync(stop);
        foreach (var rule in await db.LayoutRules.AsNoTracking().ToListAsync(stop))
        {
            var shipped = ShippedLayouts.Keys.Contains(rule.Key);
            var own = layouts.Any(l => l.Id == rule.LayoutId && l.StateId is not null);
            if (shipped == own || (rule.LayoutId is not null) == (rule.Key.Length > 0))
                findings.Add($"Rule {rule.Id} for layouts: it leads to no layout that is in use");
            if (rule.Language.Length > 0 && !languages.Contains(rule.Language))
                findings.Add($"Rule {rule.Id} for layouts: there is no language {rule.Language}");
            if (rule.Kind.Length > 0 && !PaperKinds.All.Contains(rule.Kind))
                findings.Add($"Rule {rule.Id} for layouts: there is no kind of paper {rule.Kind}");
        }
    }
}
