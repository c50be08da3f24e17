using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>One word of papers in a language.</summary>
/// <param name="Key">That of <see cref="PaperWord"/>.</param>
/// <param name="Shipped">As it ships; empty where the list lacks it, and English is printed.</param>
/// <param name="Own">In words of our own; empty for none.</param>
public sealed record WordRow(string Key, string English, string Shipped, string Own);

/// <summary>What papers say in each language: the program's words, and our own notes and footers.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class LanguagesModel(BooksContext db, Wordings wordings, WordingsDesk desk) : DeskPage
{
    public string Language { get; private set; } = "";

    public string Name => LanguageChoices.First(l => l.Code == Language).Name;

    public IReadOnlyList<(string Code, string Name)> LanguageChoices { get; private set; } = [];

    public IReadOnlyList<WordRow> Words { get; private set; } = [];

    /// <summary>What the language has no words for at all; it is printed in English.</summary>
    public IReadOnlyList<WordRow> Missing => [.. Words.Where(w => w.Shipped.Length + w.Own.Length == 0)];

    /// <summary>Whether amounts can be said in words of this language.</summary>
    public bool SpellsAmounts { get; private set; }

    private Dictionary<(WordingOf Of, string Key), string> _texts = [];

    /// <summary>The usual words of each kind, which stand where the language has none.</summary>
    private Dictionary<DocumentKind, KindText> _usual = [];

    public static IEnumerable<(string, string)> MarkChoices => [(",", "a comma: 1 234,50"), (".", "a point: 1 234.50")];

    public static IEnumerable<(string, string)> DateChoices => Choices.DatePatterns;

    public string NoteOf(DocumentKind kind) => _texts.GetValueOrDefault((WordingOf.Note, $"{kind}")) ?? "";

    public string FooterOf(string key) => _texts.GetValueOrDefault((WordingOf.Footer, key)) ?? "";

    public string UsualNote(DocumentKind kind) => _usual.GetValueOrDefault(kind)?.Note ?? "";

    public string UsualFooter(DocumentKind kind) => _usual.GetValueOrDefault(kind)?.Footer ?? "";

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    protected override async Task<bool> ShowAsync()
    {
        LanguageChoices = await wordings.LanguagesAsync();
        Language = Request.Query["language"].ToString();
        if (LanguageChoices.All(l => l.Code != Language))
            Language = await UsualAsync();
        var shipped = PaperWords.Of(Language);
        SpellsAmounts = shipped.Language == Language;
        var missing = SpellsAmounts ? shipped.Missing.ToHashSet() : [.. Enum.GetValues<PaperWord>()];
        var own = await wordings.OwnWordsAsync(Language);
        Words =
        [
            .. Enum.GetValues<PaperWord>()
                .Select(w => new WordRow(
                    $"{w}",
                    PaperWords.English[w],
                    missing.Contains(w) ? "" : shipped[w],
                    own.GetValueOrDefault(w) ?? ""
                )),
        ];
        _texts = await db
            .Wordings.AsNoTracking()
            .Where(w => w.Language == Language && (w.Of == WordingOf.Note || w.Of == WordingOf.Footer))
            .ToDictionaryAsync(w => (w.Of, w.Key), w => w.Text);
        _usual = await db.KindTexts.AsNoTracking().ToDictionaryAsync(t => t.Kind);
        return true;
    }

    /// <summary>The language that most foreign customers are written to in, since it is what one comes for.</summary>
    private async Task<string> UsualAsync() =>
        await db
            .Customers.Where(c => c.Language != "en")
            .GroupBy(c => c.Language)
            .OrderByDescending(g => g.Count())
            .ThenBy(g => g.Key)
            .Select(g => g.Key)
            .FirstOrDefaultAsync()
        ?? "en";

    public async Task<IActionResult> OnPostWordsAsync()
    {
        await ShowAsync();
        return await WriteAsync(Words.Select(w => new WordingToSet(WordingOf.Word, w.Key, Form.Text($"Word-{w.Key}"))));
    }

    public async Task<IActionResult> OnPostTextsAsync()
    {
        await ShowAsync();
        return await WriteAsync([
            .. KindPolicy.All.Select(p => Typed(WordingOf.Note, $"{p.Kind}")),
            .. KindPolicy.All.Select(p => Typed(WordingOf.Footer, $"{p.Kind}")),
            Typed(WordingOf.Footer, Wording.Usual),
        ]);
    }

    private WordingToSet Typed(WordingOf of, string key) => new(of, key, Form.Text($"{of}-{key}"));

    private async Task<IActionResult> WriteAsync(IEnumerable<WordingToSet> typed)
    {
        var changed = await desk.WriteAsync(Language, [.. typed], Form.Key);
        Say(
            changed == 0
                ? "Nothing was changed."
                : $"Saved for papers in {Name}. What is issued already stays as it is."
        );
        return Redirect($"/setup/languages?language={Language}");
    }

    public async Task<IActionResult> OnPostAddAsync()
    {
        var code = Form.Text("code").Trim().ToLowerInvariant();
        await desk.AddLanguageAsync(
            code,
            Form.Text("languageName"),
            Form.Text("decimalMark"),
            Form.Text("dates"),
            Form.Key
        );
        Say("The language is added. What has no words yet is printed in English.");
        return Redirect($"/setup/languages?language={code}");
    }
}
